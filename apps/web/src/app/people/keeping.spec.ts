import { Clipboard } from "@angular/cdk/clipboard";
import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Me, RecordLine, Server } from "@iron/contract";
import { answer, refuse, setUpBed, show } from "../../testing/place";
import { Door } from "../data/door";
import { OwnCalendar } from "./own-calendar";
import { RecordPage } from "./record-page";
import { sentText } from "../shared/sent.text";
import { momentText } from "../shared/times.text";
import { queryOf, sizeText } from "./record.view";
import { ServerPage } from "./server-page";

const AT = "2026-03-03T07:40:00.000Z";
const line = (id: number, over: Partial<RecordLine> = {}): RecordLine => ({
  ...{ kind: "change", id, at: AT, by: "Teal", address: "10.0.0.7", what: "Note an event", subject: "Wren X" },
  ...{ detail: '{"text":"dry","overTravelMm":20,"key":"a-b","on":true,"none":null}' },
  ...over,
});
const ME: Me = {
  ...{ door: "people", person: { id: 1, name: "Rowan", sign: "RK", role: "keeper" }, chooses: false, names: [] },
  ...{ token: "t1", seals: [], quietMinutes: 10 },
};

let http: HttpTestingController;
beforeEach(() => {
  http = setUpBed();
});
afterEach(() => http.verify());
const asked = () => http.expectOne((r) => r.url.startsWith("/api/record"));

describe("the record", () => {
  it("says who, from where and what was sent, in words; older lines come when asked for", () => {
    const page = show(RecordPage);
    answer(asked(), {
      lines: [line(2), line(1, { kind: "door", what: "signed in", subject: "", detail: "" })],
      more: true,
    });
    const cells = page.page.getAllByRole("cell").map((c) => c.textContent.replace(/\s+/g, " ").trim());
    expect(cells.slice(1, 4)).toEqual([
      "Teal",
      "10.0.0.7",
      "Note an event: Wren X text: dry; over travel mm: 20; on: yes",
    ]);
    page.press("Older ones");
    const next = asked();
    expect(decodeURIComponent(next.request.urlWithParams)).toContain(`before=${AT}|door|1`);
    answer(next, { lines: [line(1)], more: false });
    expect(page.page.getAllByRole("row")).toHaveLength(4);
    expect(page.page.queryByRole("button", { name: "Older ones" })).toBeNull();
  });

  it("an answer that another question overtook is not shown; a failure can be tried again", () => {
    const page = show(RecordPage, { words: "dry" });
    const slow = asked();
    page.give({ words: "wet" });
    const fast = asked();
    answer(fast, { lines: [], more: false });
    answer(slow, { lines: [line(1)], more: false });
    expect(page.text()).toContain("No line has all of that.");
    page.give({ words: "damp" });
    refuse(asked(), 503, { detail: "The disk is full." });
    expect(page.alerts()).toContain("The disk is full.");
    page.press("Try again");
    answer(asked(), { lines: [line(3)], more: false });
    expect(page.text()).toContain("Wren X");
  });

  it("days begin where the device is, and the last one is whole", () => {
    const { from, till } = queryOf({ words: " dry ", by: "", from: "2026-03-02", to: "2026-03-02" });
    expect(Date.parse(till ?? "") - Date.parse(from ?? "")).toBe(86_400_000);
    expect(new Date(from ?? "").getHours()).toBe(0);
    expect(queryOf({ words: " ", by: "", from: "", to: "" })).toEqual({});
  });

  it("what was cut off is shown as it is", () => {
    expect(sentText('{"text":"abc…')).toBe('{"text":"abc…');
    expect(sentText('{"at":"2026-03-03T07:40:00.000Z"}')).toBe(`at: ${momentText("2026-03-03T07:40:00.000Z")}`);
    expect(sentText('{"items":[{"axisId":1},2]}')).toBe("items: axis id: 1, 2");
    // What holds nothing is not said.
    expect(sentText('{"context":{},"told":{"35":{"evidence":{}}},"axisIds":[],"runs":3}')).toBe("runs: 3");
  });
});

describe("the server", () => {
  const SERVER: Server = {
    ...{ version: "1.2.0", runsOn: [{ name: "Node", version: "22.1.0" }], store: "0025_record", since: AT },
    storage: { database: 12_300_000, backups: null, photos: 0, sounds: 1_500, free: null },
    lastBackup: null,
  };
  it("says what it runs on and how much it holds; what is not known is said so", () => {
    const page = show(ServerPage);
    answer(http.expectOne("/api/server"), SERVER);
    expect(page.page.getByText("Free on the disk").nextElementSibling?.textContent).toBe("not known here");
    expect(page.text()).toMatch(/12\sMB; photos 0 bytes, recordings 1\.5\skB of it/);
    expect(page.page.getByText("Backups").nextElementSibling?.textContent).toBe("none are kept here");
    expect(page.text()).not.toContain("Last good backup");
    expect(page.page.queryByRole("link", { name: /^The last backup/ })).toBeNull();
  });

  it("offers the last backup, and says where there is none yet", () => {
    const storage = { ...SERVER.storage, backups: 0 };
    const first = show(ServerPage);
    answer(http.expectOne("/api/server"), { ...SERVER, storage });
    expect(first.page.getByText("Last good backup").nextElementSibling?.textContent).toBe("none yet");
    const page = show(ServerPage);
    answer(http.expectOne("/api/server"), { ...SERVER, lastBackup: { at: AT, bytes: 9_990_000 } });
    expect(page.page.getByRole("link", { name: /^The last backup/ }).getAttribute("href")).toBe("/api/backups/last");
    expect(sizeText(999)).toBe("999 bytes");
  });
});

describe("one’s own calendar", () => {
  it("has an address that is shown once and can be renewed; where nobody signs in there is none", () => {
    const page = show(OwnCalendar);
    expect(page.page.queryByRole("button")).toBeNull();
    TestBed.inject(Door).take(ME);
    TestBed.tick();
    const copied: string[] = [];
    jest.spyOn(TestBed.inject(Clipboard), "copy").mockImplementation((text) => copied.push(text) > 0);
    page.press("A new address for my calendar");
    answer(http.expectOne("/api/me/calendar"), { path: "/api/calendars/abc" });
    expect(page.text()).toContain("http://localhost/api/calendars/abc");
    page.press("Copy it");
    expect(copied).toEqual(["http://localhost/api/calendars/abc"]);
    page.press("Noted");
    expect(page.text()).not.toContain("abc");
  });
});
