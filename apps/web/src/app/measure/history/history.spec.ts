import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { RunSummary } from "@iron/contract";
import { AXIS_PROVIDERS, CONFIG, openAxis } from "../../../testing/axis";
import { answer, refuse, setUpBed, show } from "../../../testing/place";
import { Preferences } from "../../data/preferences";
import { HistoryPlace } from "./history";

const run = (id: number, day: number, reversalValueMm: number, over: Partial<RunSummary> = {}): RunSummary =>
  ({
    id,
    axisId: 2,
    kind: "two-sided",
    state: "finished",
    at: `2026-02-${String(day).padStart(2, "0")}T08:00:00Z`,
    by: "Ama",
    reversalValueMm,
    expandedMm: 0.001,
    placeMm: 300,
    imported: false,
    ...over,
  }) as unknown as RunSummary;
const history = {
  axisId: 2,
  typed: [],
  runs: [run(1, 1, 0.01), run(2, 10, 0.012), run(3, 20, 0.02), run(4, 24, 0.021)],
  events: [],
};

describe("the history of an axis", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => {
    TestBed.inject(Preferences).system.set("metric");
    http.match("/api/axes/2/ledger");
    http.verify();
  });
  const open = (of: object = history) => {
    openAxis(http, { config: CONFIG, demo: true, history: of });
    return show(HistoryPlace);
  };
  const again = (of: object = history): void => {
    answer(http.expectOne("/api/machines/1"), {
      id: 1,
      nickname: "Heron",
      bay: "3",
      axes: [{ id: 2, machineId: 1, version: 1, config: CONFIG, retiredAt: null }],
    });
    answer(http.expectOne("/api/axes/2/history"), of);
  };

  it("compares the last two, until others are chosen; a change of units or a new event leaves the choice", () => {
    const page = open();
    expect([page.value("From"), page.value("To")]).toEqual(["run 3", "run 4"]);
    page.choose("From", "run 1");
    TestBed.inject(Preferences).system.set("inch");
    TestBed.tick();
    expect([page.value("From"), page.value("To")]).toEqual(["run 1", "run 4"]);
    page.type("What was done or happened", "new way covers");
    page.press("Note it");
    answer(http.expectOne("/api/axes/2/events"), {});
    again({ ...history, runs: [...history.runs, run(5, 25, 0.022)] });
    expect([page.value("From"), page.value("To")]).toEqual(["run 1", "run 4"]);
  });

  it("the kind that was chosen stays when the history is read anew", () => {
    const page = open();
    expect(page.value("Kind of test")).toBe("two-sided");
    page.choose("Kind of test", "all");
    page.type("What was done or happened", "moved to bay 3");
    page.press("Note it");
    answer(http.expectOne("/api/axes/2/events"), {});
    again();
    expect(page.value("Kind of test")).toBe("all");
  });

  it("an event wants words; what the server refuses stays typed", () => {
    const page = open();
    page.press("Note it");
    expect(page.alerts()).toBe("What happened is empty: say at least a word.");
    page.type("What was done or happened", "repair");
    page.press("Note it");
    refuse(http.expectOne("/api/axes/2/events"), 422, { detail: "That day is still to come." });
    expect(page.alerts()).toBe("That day is still to come.");
    expect(page.value("What was done or happened")).toBe("repair");
  });

  it("an axis that was never measured says what to do", () => {
    expect(open({ runs: [], typed: [], events: [] }).text()).toMatch(/[Nn]othing|never|[Nn]o test/);
  });
});
