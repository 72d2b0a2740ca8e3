import { BreakpointObserver, type BreakpointState } from "@angular/cdk/layout";
import type { HttpTestingController } from "@angular/common/http/testing";
import { signal } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { provideRouter, Router } from "@angular/router";
import { BehaviorSubject } from "rxjs";
import { answer, cut, setUpBed, show } from "../../testing/place";
import { Door } from "../data/door";
import { Preferences } from "../data/preferences";
import { Waiting } from "../data/waiting";
import { HeadBand } from "./head-band";
import { Keys } from "./keys";

describe("the head of every page", () => {
  let http: HttpTestingController;
  const wide = new BehaviorSubject<BreakpointState>({ matches: false, breakpoints: {} });
  beforeEach(() => {
    wide.next({ matches: false, breakpoints: {} });
    http = setUpBed(provideRouter([{ path: "**", children: [] }]), {
      provide: BreakpointObserver,
      useValue: { observe: () => wide },
    });
  });
  afterEach(() => http.verify());
  const shop = { version: 1, name: "Harrow Fen", currency: "EUR", people: ["Ama", "Tomas"], demo: true };
  const open = () => {
    const band = show(HeadBand);
    answer(http.expectOne("/api/shop"), shop);
    return band;
  };

  it("names every place, and says that a demo is simulated", () => {
    const { page, text } = open();
    const links = page.getAllByRole("link").map((l) => l.textContent.trim());
    expect(links).toEqual(["Iron Patience", "Floor", "Cases", "Jobs", "Rounds", "Sums", "Causes", "Shop"]);
    expect(text()).toContain("demo, simulated");
  });

  it("who is working is somebody of the shop, or who they said they are", () => {
    TestBed.inject(Preferences).who.set("Rowan");
    const band = open();
    expect(band.value("Who is working")).toBe("Rowan");
    band.choose("Who is working", "Tomas");
    expect(TestBed.inject(Preferences).who()).toBe("Tomas");
    expect(() => band.choose("Who is working", "Bilge")).toThrow("not on offer");
  });

  it("units change here, by key, and wherever else they are changed", async () => {
    const band = open();
    const preferences = TestBed.inject(Preferences);
    const on = async (): Promise<string[]> => {
      // PrimeNG tells its buttons a moment later.
      await Promise.resolve();
      TestBed.tick();
      return band.page
        .getAllByText(/^(mm µm|in tenths)$/)
        .filter((b) => b.closest('[aria-pressed="true"]'))
        .map((b) => b.textContent.trim());
    };
    expect(await on()).toEqual(["mm µm"]);
    band.press("in tenths");
    expect(preferences.system()).toBe("inch");
    TestBed.inject(Keys)
      .all()
      .find((k) => k.key === "u")
      ?.press();
    TestBed.tick();
    expect(preferences.system()).toBe("metric");
    expect(await on()).toEqual(["mm µm"]);
  });

  it("night is pressed while it is night, and all keys are listed", () => {
    const band = open();
    const night = band.page.getByRole("button", { name: "Night" });
    expect(night.getAttribute("aria-pressed")).toBe("false");
    band.press("Night");
    expect(night.getAttribute("aria-pressed")).toBe("true");
    band.press("All keys");
    expect(document.body.textContent).toContain("Change units");
  });

  it("a server that does not answer leaves the places and the one who works", () => {
    const band = show(HeadBand);
    cut(http.expectOne("/api/shop"));
    expect(band.page.getAllByRole("link")).toHaveLength(8);
    expect(band.value("Who is working")).toBe(TestBed.inject(Preferences).who());
    expect(band.text()).not.toContain("demo");
  });

  it("on a phone places and tools stand behind a menu, which closes when one has gone somewhere", async () => {
    const band = open();
    wide.next({ matches: true, breakpoints: {} });
    TestBed.tick();
    expect(band.page.getAllByRole("link")).toHaveLength(1);
    const menu = band.page.getByRole("button", { name: "Menu" });
    band.press("Menu");
    expect(menu.getAttribute("aria-expanded")).toBe("true");
    await TestBed.inject(Router).navigateByUrl("/sums");
    TestBed.tick();
    expect(menu.getAttribute("aria-expanded")).toBe("false");
  });

  it("says what stands between what was noted here and the server, on a phone too", () => {
    const band = open();
    const [waiting, door] = [TestBed.inject(Waiting), TestBed.inject(Door)];
    const line = (): string => band.page.queryByRole("status")?.textContent.trim() ?? "";
    const box = {
      ...{ waiting: signal<readonly number[]>([]), offline: signal(false), waitsFor: signal<string[]>([]) },
      ...{ held: signal([]), letGo: () => undefined },
    };
    waiting.add(box);
    // What is on its way is nobody’s worry.
    box.waiting.set([1]);
    TestBed.tick();
    expect(line()).toBe("");
    box.offline.set(true);
    TestBed.tick();
    expect(line()).toBe("No connection, 1 waits");
    wide.next({ matches: true, breakpoints: {} });
    box.waiting.set([1, 2]);
    TestBed.tick();
    expect(line()).toBe("No connection, 2 wait");
    box.offline.set(false);
    box.waitsFor.set(["Ilse"]);
    TestBed.tick();
    // Who can sign in is not known yet.
    expect(line()).toBe("2 wait for Ilse to sign in");
    const at = { door: "people" as const, person: null, chooses: false, token: null, seals: [], quietMinutes: 10 };
    door.take({ ...at, names: [{ id: 1, name: "Rowan", sign: "RK" }] });
    TestBed.tick();
    expect(line()).toBe("2 wait, Ilse no longer signs in");
    door.take({ ...at, names: [{ id: 2, name: "Ilse", sign: "IB" }] });
    TestBed.tick();
    expect(line()).toBe("2 wait for Ilse to sign in");
    expect(band.page.getByRole("link", { name: line() }).getAttribute("href")).toBe("/waiting");
    waiting.cut.set(true);
    TestBed.tick();
    expect(line()).toBe("No connection, 2 wait");
    waiting.cut.set(false);
    [box.waiting, box.waitsFor].forEach((all) => all.set([]));
    door.stale.set(true);
    TestBed.tick();
    expect(line()).toBe("No connection");
  });

  it("leads to what was not taken, and offers a newer version once it is there", () => {
    const band = open();
    const waiting = TestBed.inject(Waiting);
    const one = {
      key: "k",
      what: "Job 7",
      message: "No.",
      path: "/jobs/7",
      file: () => new Blob(),
      read: () => undefined,
    };
    const refused = signal([one, one]);
    waiting.tell(refused);
    waiting.newer.set(true);
    TestBed.tick();
    expect(band.page.getByRole("link", { name: "2 not taken" }).getAttribute("href")).toBe("/waiting");
    expect(band.page.getByRole("button", { name: "Start the newer version" })).toBeTruthy();
    refused.set([]);
    TestBed.tick();
    expect(band.page.queryByRole("link", { name: /not taken/ })).toBeNull();
  });
});
