import type { HttpTestingController } from "@angular/common/http/testing";
import { HttpErrorResponse } from "@angular/common/http";
import { signal } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import type { Me, Person, SessionRecord } from "@iron/contract";
import { of, Subject } from "rxjs";
import { Door } from "../data/door";
import { Driving, type Driven } from "../data/driving";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../testing/place";
import { DoorPage } from "./door-page";
import { PeoplePage } from "./people-page";
import { deviceSaid, standsSaid } from "./people.view";
import { PinPad } from "./pin-pad";
import { Quiet } from "./quiet";
import { WhatMoves } from "./what-moves";

const AT = "2026-03-03T07:40:00.000Z";
const person = (over: Partial<Person> = {}): Person => ({
  ...{ id: 2, name: "Ilse", sign: "IB", role: "technician", secret: "own", lockedUntil: null, retiredAt: null },
  ...{ lastSeen: AT, version: 3 },
  ...over,
});
const me = (over: Partial<Me> = {}): Me => ({
  ...{ door: "people", person: { id: 1, name: "Rowan", sign: "RK", role: "keeper" }, chooses: false },
  names: [
    { id: 1, name: "Rowan", sign: "RK" },
    { id: 2, name: "Ilse", sign: "IB" },
  ],
  ...{ token: "t1", seals: [], quietMinutes: 10 },
  ...over,
});

let http: HttpTestingController;
let door: Door;
beforeEach(() => {
  http = setUpBed();
  door = TestBed.inject(Door);
});
afterEach(() => http.verify());

describe("the people of the shop", () => {
  const open = (people: Person[], now = me()) => {
    door.take(now);
    const page = show(PeoplePage);
    answer(http.expectOne("/api/people"), { people, quietMinutes: 10 });
    if (now.door === "people") {
      const own: SessionRecord = {
        ...{ id: 5, name: "Rowan", address: "10.0.0.7", device: "Mozilla/5.0 (X11; Linux) Chrome/140.0", own: true },
        ...{ since: AT, lastSeen: AT },
      };
      answer(http.expectOne("/api/sessions"), [own, { ...own, id: 6, name: "Ilse", own: false }]);
    }
    return page;
  };

  it("says what each may and how they stand, and signs a device out", () => {
    const page = open([person({ secret: "given", lastSeen: null })]);
    const cells = page.page.getAllByRole("cell").map((c) => c.textContent.replace(/\s+/g, " ").trim());
    expect(cells.slice(0, 3)).toEqual(["IB", "Ilse", "measure, diagnose, mend and sign"]);
    expect(cells[3]).toMatch(/^never ?has not chosen a PIN yet$/);
    expect(page.text()).toContain("Chrome on Linux, 10.0.0.7");
    expect(page.text()).toContain("this device");
    page.press("Sign Ilse out of Chrome on Linux");
    answer(http.expectOne("/api/sessions/6/end"), []);
    expect(page.page.queryByRole("button", { name: /^Sign Ilse out/ })).toBeNull();
  });

  it("the first adds themselves, as keeper, with a passphrase that is one", () => {
    const page = open([], me({ door: "open", person: null }));
    expect(page.text()).toContain("Nobody has to sign in");
    page.press("Add yourself, as keeper");
    page.type("Name", "Rowan");
    page.type("Sign", "RK");
    page.type("A passphrase", "714903");
    page.press("Add");
    expect(page.alerts()).toContain("at least 10 characters, not digits alone");
    page.type("A passphrase", "three dry ways");
    page.press("Add");
    const sent = http.expectOne({ url: "/api/people", method: "POST" });
    expect(sent.request.body).toEqual({ name: "Rowan", sign: "RK", role: "keeper", secret: "three dry ways" });
    answer(sent, { ...person({ id: 1, name: "Rowan", role: "keeper" }), given: null });
    answer(http.expectOne("/api/me"), me({ door: "open", person: null }));
    answer(http.expectOne("/api/people"), { people: [person()], quietMinutes: 10 });
  });

  it("a PIN to begin with is shown once, until it is noted; with the second person the door comes then, not before", () => {
    const page = open([person({ id: 1, name: "Rowan", role: "keeper" })], me({ door: "open", person: null }));
    page.press("Add somebody");
    page.type("Name", "Ilse");
    page.type("Sign", "IB");
    page.press("Add");
    answer(http.expectOne({ url: "/api/people", method: "POST" }), { ...person(), given: "63402065" });
    expect(page.text()).toContain("Ilse comes in with 63402065");
    expect(door.shut()).toBe(false);
    page.press("Noted");
    expect(page.text()).not.toContain("63402065");
    answer(http.expectOne("/api/me"), me({ person: null, token: null }));
    http.expectOne("/api/people");
    expect(door.shut()).toBe(true);
  });

  it("what the server has against a name is said, and what was typed stays", () => {
    const page = open([person()]);
    page.press("Add somebody");
    page.type("Name", "Ilse");
    page.type("Sign", "IL");
    page.press("Add");
    const detail = "There is or was somebody called Ilse: records could not tell the two apart.";
    refuse(http.expectOne({ url: "/api/people", method: "POST" }), 422, { detail });
    expect(page.alerts()).toContain(detail);
    expect(page.value("Name")).toBe("Ilse");
  });

  it("who is retired can be called back at once", () => {
    const said = hearNotices();
    const page = open([person()]);
    page.press("Retire Ilse");
    const sent = http.expectOne({ url: "/api/people/2", method: "PUT" });
    expect(sent.request.body).toMatchObject({ retired: true, version: 3 });
    answer(sent, person({ retiredAt: AT, version: 4 }));
    answer(http.expectOne("/api/me"), me());
    answer(http.expectOne("/api/people"), { people: [person({ retiredAt: AT, version: 4 })], quietMinutes: 10 });
    expect(said).toEqual(["Ilse is retired, and signed out everywhere."]);
    page.press("Call back Ilse");
    expect(http.expectOne({ url: "/api/people/2", method: "PUT" }).request.body).toMatchObject({ retired: false });
  });
});

describe("who is it?", () => {
  it("a name, then the PIN by big keys; a wrong one is said, and not typed on", () => {
    door.take(me({ person: null, token: null }));
    const page = show(DoorPage);
    page.press("Ilse");
    for (const key of ["7", "3", "9"]) page.press(key);
    page.press("Take the last back");
    page.press("0");
    page.press("Sign in");
    const sent = http.expectOne("/api/sign-in");
    expect(sent.request.body).toEqual({ personId: 2, secret: "730" });
    refuse(sent, 401, { detail: "That is not Ilse’s PIN. 4 tries are left, then it waits." });
    expect(page.alerts()).toBe("That is not Ilse’s PIN. 4 tries are left, then it waits.");
    expect(page.value("PIN or passphrase")).toBe("");
    page.press("Somebody else");
    expect(page.alerts()).toBe("");
  });

  it("while no server answers somebody can go on by name; where one does, only by their PIN", () => {
    door.take(me({ person: null, token: null }));
    const page = show(DoorPage);
    page.press("Ilse");
    const enter = (): void => {
      page.type("PIN or passphrase", "730164");
      page.press("Sign in");
    };
    enter();
    cut(http.expectOne("/api/sign-in"));
    // Offered only once it is known that the page stands alone.
    expect(page.text()).not.toContain("Go on as Ilse");
    cut(http.expectOne("/api/me"));
    TestBed.tick();
    expect(page.alerts()).toContain("The server does not answer.");
    page.press("Go on as Ilse");
    expect([door.shut(), door.me()?.person?.name, door.me()?.seals]).toEqual([false, "Ilse", []]);
  });

  it("one’s own PIN is asked for twice; two that differ, and one that all try first, are not taken", () => {
    door.take(me({ person: { id: 2, name: "Ilse", sign: "IB", role: "technician" }, chooses: true }));
    const page = show(DoorPage);
    const give = (label: string, pin: string): void => {
      page.type(label, pin);
      page.press("Go on");
    };
    give("The one you were given", "63402065");
    give("Your own", "123456");
    expect(page.alerts()).toContain("tried first");
    give("Your own", "730164");
    give("The same once more", "730165");
    expect(page.alerts()).toContain("That was another one");
    give("Your own", "730164");
    give("The same once more", "730164");
    const sent = http.expectOne("/api/me/secret");
    expect(sent.request.body).toEqual({ secret: "63402065", wanted: "730164" });
    answer(sent, me({ person: { id: 2, name: "Ilse", sign: "IB", role: "technician" } }));
    expect(door.shut()).toBe(false);
  });

  it("what is typed can be sent at once, before the page has drawn it", () => {
    const page = show(PinPad, { label: "PIN" });
    const field = page.page.getByLabelText<HTMLInputElement>("PIN");
    field.value = "730164";
    field.dispatchEvent(new Event("input"));
    // A browser sends nothing by the Enter key while the button that sends is barred.
    const sends = page.page.getByRole<HTMLButtonElement>("button", { name: "Go on" });
    expect(sends.disabled).toBe(false);
    const given: string[] = [];
    page.component.given.subscribe((secret) => given.push(secret));
    sends.click();
    sends.click();
    expect(given).toEqual(["730164"]);
  });

  it("a PIN that is being looked at is not sent twice", () => {
    const page = show(PinPad, { label: "PIN", busy: true });
    const given: string[] = [];
    page.component.given.subscribe((secret) => given.push(secret));
    page.type("PIN", "730164");
    page.page.getByLabelText("PIN").closest("form")?.dispatchEvent(new Event("submit"));
    expect(given).toEqual([]);
  });
});

describe("a quiet time", () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  it("does not come down on what moves: only when it has ended", () => {
    const moving = signal<Driven | null>({ what: "The simulated X axis", stop: () => of(null) });
    TestBed.runInInjectionContext(() => {
      TestBed.inject(Driving).follow(moving);
      TestBed.inject(Quiet).watch();
    });
    door.take(me());
    TestBed.tick();
    jest.advanceTimersByTime(60 * 60_000);
    expect(door.shut()).toBe(false);
    // Touched a minute before it ends: the time begins anew then.
    document.dispatchEvent(new Event("pointerdown"));
    jest.advanceTimersByTime(60_000);
    moving.set(null);
    TestBed.tick();
    jest.advanceTimersByTime(8 * 60_000);
    expect(door.shut()).toBe(false);
    jest.advanceTimersByTime(60_000);
    expect(door.shut()).toBe(true);
    http.expectOne("/api/sign-out");
  });

  it("what moves is stopped past the door; that it was not is said", () => {
    const stops = new Subject<null>();
    TestBed.runInInjectionContext(() => {
      TestBed.inject(Driving).follow(signal({ what: "The simulated X axis", stop: () => stops }));
    });
    const page = show(WhatMoves);
    expect(page.alerts()).toContain("The simulated X axis moves.");
    page.press("Stop it");
    stops.error(new HttpErrorResponse({ status: 0 }));
    TestBed.tick();
    expect(page.alerts()).toContain("Not stopped: ");
  });
});

describe("in words", () => {
  it.each([
    ["Mozilla/5.0 (iPad; CPU OS 18_0 like Mac OS X) Version/18.0 Safari/605.1", "Safari on iPad"],
    ["Mozilla/5.0 (Windows NT 10.0) Chrome/140.0 Safari/537.36 Edg/140.0", "Edge on Windows"],
    ["Mozilla/5.0 (Android 15; Mobile; rv:140.0) Firefox/140.0", "Firefox on Android"],
    ["curl/8.5", "unknown device"],
  ])("%s", (agent, said) => expect(deviceSaid(agent)).toBe(said));

  it("how somebody stands", () => {
    const at = (instant: string): string => instant.slice(0, 10);
    expect(standsSaid(person(), at)).toBe("");
    expect(standsSaid(person({ secret: "none" }), at)).toBe("has no PIN");
    expect(standsSaid(person({ lockedUntil: AT }), at)).toBe("too many wrong tries: waits until 2026-03-03");
    expect(standsSaid(person({ retiredAt: AT, lockedUntil: AT }), at)).toBe("retired 2026-03-03");
  });
});
