import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import { defaultAxis, typedValues } from "@iron/core";
import { AXIS_PROVIDERS, openAxis } from "../../testing/axis";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import { tableGiven, tableList, tableRecord, tableTrial, tableVersion } from "../../testing/table";
import { MakeTable } from "./make-table";
import { TablePage } from "./table-page";
import { tableCreate, trialView, typingSheet, usualTable } from "./table.view";
import { TablesPage } from "./tables-page";

const AXIS = defaultAxis("vertical-centre", "X");
let http: HttpTestingController;
beforeEach(() => {
  jest.useFakeTimers();
  http = setUpBed(...AXIS_PROVIDERS);
});
afterEach(() => {
  http.verify();
  jest.useRealTimers();
});

describe("tables of an axis", () => {
  const open = (all = tableList()) => {
    openAxis(http);
    const page = show(TablesPage);
    answer(http.expectOne("/api/axes/2/corrections"), all);
    return page;
  };

  it("with none says when one is made; without a profile it leads to reading one", () => {
    expect(open().text()).toContain("It is the last thing that is done to an axis");
    const none = show(TablesPage);
    answer(http.expectOne("/api/axes/2/corrections"), tableList({ profiles: [] }));
    expect(none.page.queryByRole("link", { name: "Make a table" })).toBeNull();
    expect(none.page.getByRole("link", { name: "Read the travel" }).getAttribute("href")).toContain("travel-profile");
  });

  it("a version in the control says since when, and that somebody worked on the axis since; it can be taken out", () => {
    const entered = { at: "2026-03-03T09:00:00Z", by: "Ama", how: "read back" as const };
    const version = tableVersion({ active: true, entered, workedOnAt: "2026-03-05T08:00:00Z" });
    const page = open(tableList({ versions: [version] }));
    expect(page.text()).toContain("this table is for what was there before");
    page.press("It has been taken out of the control");
    refuse(http.expectOne("/api/axes/2/corrections/take-out"), 500, { detail: "The disk is full." });
    expect(page.alerts()).toContain("The disk is full.");
    page.press("It has been taken out of the control");
    answer(http.expectOne("/api/axes/2/corrections/take-out"), tableList({ versions: [tableVersion({ entered })] }));
    expect(page.text()).toContain("was in the control");
  });

  it("a lost connection is said, and asked again", () => {
    openAxis(http);
    const page = show(TablesPage);
    cut(http.expectOne("/api/axes/2/corrections"));
    expect(page.text()).toContain("The server does not answer.");
  });
});

describe("making a table", () => {
  const open = (trial = tableTrial()) => {
    openAxis(http);
    const page = show(MakeTable);
    answer(http.expectOne("/api/axes/2/corrections"), tableList());
    const first = http.expectOne("/api/axes/2/corrections/try");
    answer(first, trial);
    return { page, first };
  };

  it("is worked out at once as is usual, and kept when somebody says so; a save that fails loses nothing", () => {
    const { page, first } = open();
    expect(first.request.body).toMatchObject({
      runId: 8,
      rules: { stepMm: 50, referenceMm: 0, sense: "added" },
      warmth: { carrierC: 21, referenceC: 21 },
      old: null,
      laser: null,
    });
    expect(page.text()).toMatch(/from end to end become about/);
    page.type("Note", "after the new screw");
    page.press("Keep this version");
    const sent = http.expectOne("/api/axes/2/corrections");
    expect(sent.request.body).toMatchObject({ note: "after the new screw" });
    refuse(sent, 409, { detail: "The mechanics come first." });
    expect(page.alerts()).toContain("The mechanics come first.");
    expect(page.value("Note")).toBe("after the new screw");
    const router = jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockResolvedValue(true);
    page.press("Keep this version");
    answer(http.expectOne("/api/axes/2/corrections"), tableRecord());
    expect(router).toHaveBeenCalledWith("/machines/1/axes/2/table/3");
  });

  it("another profile brings its own temperature, and the table of its time", () => {
    openAxis(http);
    const page = show(MakeTable);
    const [profile] = tableList().profiles;
    const profiles = [profile, { ...profile, runId: 9, temperatureC: 17, activeId: 3 }];
    answer(http.expectOne("/api/axes/2/corrections"), tableList({ profiles, versions: [tableVersion()] }));
    answer(http.expectOne("/api/axes/2/corrections/try"), tableTrial());
    page.choose("Made from", "9");
    jest.advanceTimersByTime(400);
    const again = http.expectOne("/api/axes/2/corrections/try");
    expect(again.request.body).toMatchObject({ runId: 9, warmth: { carrierC: 17 }, old: { rules: {} } });
    answer(again, tableTrial());
  });

  it("a table that is refused cannot be kept, and leads to where it is lost", () => {
    const { page } = open(tableTrial({}, { losses: [{ atMm: 100, valueMm: 0.05, uMm: 0.002 }] }));
    expect(page.alerts()).toContain("A table would be laid on play that wears on.");
    expect(page.page.getByRole<HTMLButtonElement>("button", { name: "Keep this version" }).disabled).toBe(true);
    expect(page.page.getByRole("link", { name: "Find where it is lost" }).getAttribute("href")).toBe(
      "/machines/1/axes/2/locate",
    );
  });

  it("rules that do not fit are said by value and bound, and nothing is asked", () => {
    const { page } = open();
    page.type("Number of points", "90");
    jest.advanceTimersByTime(400);
    TestBed.tick();
    expect(page.alerts()).toMatch(/last point is 4450: it must be at most \d+ mm/);
    page.type("Number of points", "9");
    jest.advanceTimersByTime(400);
    answer(http.expectOne("/api/axes/2/corrections/try"), tableTrial());
    expect(page.alerts()).toBe("");
  });
});

describe("one version", () => {
  const open = (one = tableRecord()) => {
    openAxis(http);
    const page = show(TablePage, { tableId: "3" });
    answer(http.expectOne("/api/corrections/3"), one);
    return page;
  };

  it("numbers are read back in one column or as a file; what the server finds is said, and what was typed stays", () => {
    const page = open();
    const typed = typedValues(tableRecord().made.table, "+").join("\n");
    page.type("Read back", "1\nx");
    page.press("Hold it against the sheet");
    expect(page.alerts()).toContain("Line 2: “x” is not a number.");
    page.type("Read back", typed);
    page.press("Hold it against the sheet");
    const sent = http.expectOne("/api/corrections/3/enter");
    expect(sent.request.body).toEqual({
      how: "read back",
      up: [...typedValues(tableRecord().made.table, "+")],
      down: null,
    });
    refuse(sent, 422, {
      detail: "Not as on the sheet.",
      more: { errors: [{ path: "up", message: "Point 2 is 4: it must be 3." }] },
    });
    expect(page.alerts()).toBe("Point 2 is 4: it must be 3.");
    expect(page.value("Read back")).toBe(typed);
    page.press("Hold it against the sheet");
    const entered = { at: "2026-03-03T09:00:00Z", by: "Ama", how: "read back" as const };
    answer(http.expectOne("/api/corrections/3/enter"), tableRecord({ active: true, entered }));
    expect(page.text()).toContain("read back number by number");
    expect(page.text()).toContain("A table is proven by reading the travel again.");
  });

  it("what was read with it says which slip it looks like", () => {
    const compared = { as: "wrong-sign" as const, sure: true, off: [], restMm: 0.04 };
    const after = [{ runId: 9, at: "2026-03-04T08:00:00Z", compared, meanRangeMm: 0.08 }];
    expect(open(tableRecord({ active: true, after })).text()).toContain(
      "as if its sign were turned round: the error has doubled",
    );
  });

  it("only a simulated control can be told", () => {
    expect(open().page.queryByRole("button", { name: "Tell the simulated control" })).toBeNull();
  });
});

describe("what a table says", () => {
  it("the sheet is in the order, sense and form of the control, with sums", () => {
    const { table } = tableTrial({ counted: "-", form: "step", sense: "taken-away" }).made;
    const [block, rest] = typingSheet(table, "+", "metric");
    expect(block.rows[0]).toMatchObject({ point: 1, place: "500.000 mm" });
    expect(block.rows.reduce((sum, r) => sum + r.value, 0)).toBe(block.sum);
    expect(rest.rows.map((r) => r.point)).toEqual([11]);
  });

  it("names of the standard are used only when nothing of it is missing, and inches are inches", () => {
    const view = trialView(tableTrial(), tableGiven(), "inch");
    expect(view.figures.map((f) => f.name)).toContain("Range of the mean of both directions");
    expect(view.beyond.join(" ")).toContain("These are not yet the figures of ISO 230-2");
    expect(view.headline).toContain("tenths");
  });

  it("the table that stood in the control while it was read is taken out, not the one that stands there now", () => {
    const entered = { at: "2026-03-03T09:00:00Z", by: "Ama", how: "read back" as const };
    const [profile] = tableList().profiles;
    const now = tableList({ versions: [tableVersion({ active: true, entered })] });
    expect(usualTable(AXIS, now).old).toBe("none");
    const under = { ...now, profiles: [{ ...profile, activeId: 3 }] };
    expect(usualTable(AXIS, under).old).toBe("3");
  });

  it("a shop that reads inches begins with steps and units of inches", () => {
    expect(usualTable(AXIS, tableList(), "inch")).toMatchObject({ stepMm: 50.8, incrementMm: 0.00254 });
    expect(usualTable(AXIS, tableList())).toMatchObject({ stepMm: 50, incrementMm: 0.001 });
  });

  it("a temperature that nobody noted is hardly known", () => {
    const [profile] = tableList().profiles;
    expect(usualTable(AXIS, tableList()).uK).toBe(1);
    const none = tableList({ profiles: [{ ...profile, temperatureC: null }] });
    expect(usualTable(AXIS, none)).toMatchObject({ carrierC: 20, uK: 4 });
  });

  it("an old table typed in is read in the same rules; a word in it is named by its line", () => {
    const all = tableList();
    const draft = { ...usualTable({ ...AXIS, travelMm: 500 }, all), old: "typed", oldTyped: "0\n1\nzwei" };
    expect(tableCreate(draft, all, 500).wrong).toBe("Old table, line 3: “zwei” is not a number.");
    const numbers = Array.from({ length: draft.points }, (_, i) => i);
    const read = tableCreate({ ...draft, oldTyped: numbers.join("\n") }, all, 500);
    expect(read).toMatchObject({ wrong: "", body: { old: { up: numbers, down: null } } });
    const kept = tableCreate({ ...draft, old: "3" }, tableList({ versions: [tableVersion()] }), 500);
    expect(kept.body.old?.up).toEqual([...typedValues(tableVersion().table, "+")]);
  });
});
