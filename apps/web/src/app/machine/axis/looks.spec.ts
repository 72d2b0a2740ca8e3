import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Subject } from "rxjs";
import { AXIS_PROVIDERS, CONFIG, openAxis, openCase, takeUpCase } from "../../../testing/axis";
import { answer, cut, setUpBed, show } from "../../../testing/place";
import { Changes } from "../../data/changes";
import { CaseStore } from "../../diagnosis/case-store";
import { RunStore } from "../../measure/run/run-store";
import { AxisContext } from "./axis-context";
import { AxisSetup } from "./axis-setup";

const axis = (over: object = {}) => ({
  ...{ id: 2, machineId: 1, version: 1, config: CONFIG, retiredAt: null },
  ...over,
});
const machine = (over: object = {}) => ({ id: 1, nickname: "Heron", bay: "3", axes: [axis()], ...over });
const history = (runs: readonly object[] = []) => ({ runs, typed: [], events: [] });
const finished = { id: 8, kind: "two-sided", state: "finished", at: "2026-03-02T09:00:00Z", reversalValueMm: 0.02 };

describe("the stations of an axis look when others change something", () => {
  let http: HttpTestingController;
  let others: Subject<void>;
  beforeEach(() => {
    others = new Subject();
    http = setUpBed(...AXIS_PROVIDERS, RunStore, { provide: Changes, useValue: { of: () => others } });
    openAxis(http);
  });
  afterEach(() => http.verify());
  const looked = (now: { readonly machine?: object; readonly history?: object }): void => {
    answer(http.expectOne("/api/machines/1"), now.machine ?? machine());
    answer(http.expectOne("/api/axes/2/history"), now.history ?? history());
  };

  it("a value measured elsewhere is there, and the shares are asked for anew", () => {
    const context = TestBed.inject(AxisContext);
    others.next();
    looked({ history: history([finished]) });
    expect(context.last()?.runId).toBe(8);
    http.expectOne("/api/axes/2/ledger");
  });

  it("what is as it was stays the very same: what hangs on it is not begun anew", () => {
    const context = TestBed.inject(AxisContext);
    const before = context.axis();
    others.next();
    looked({});
    expect(context.axis()).toBe(before);
  });

  it("axis data that are being edited are not taken from under the hand, though they cannot be kept so", () => {
    const context = TestBed.inject(AxisContext);
    const page = show(AxisSetup);
    answer(http.expectOne("/api/shop"), { currency: "EUR" });
    const [lead, before] = [/^Lead/, page.value(/^Lead/)];
    const theirs = { machine: machine({ axes: [axis({ version: 2 })] }) };
    for (const typed of ["8", "0"]) {
      page.type(lead, typed);
      others.next();
      looked(theirs);
      TestBed.tick();
      expect(page.value(lead)).toBe(typed);
      expect(context.axis()?.version).toBe(1);
    }
    // Let go, theirs is what is shown.
    page.press("Undo my changes");
    looked(theirs);
    TestBed.tick();
    expect(page.value(lead)).toBe(before);
    expect(context.axis()?.version).toBe(2);
  });

  it("what cannot be had stays as it is, without a word", () => {
    const context = TestBed.inject(AxisContext);
    others.next();
    cut(http.expectOne("/api/machines/1"));
    http.match("/api/axes/2/history");
    expect(context.error()).toBe("");
    expect(context.axis()?.id).toBe(2);
  });

  it("a case answered elsewhere is weighed anew; one that is being answered here is let be", () => {
    const store = TestBed.inject(CaseStore);
    takeUpCase(http, openCase());
    const look = (): void => {
      others.next();
      looked({});
    };
    look();
    answer(http.expectOne("/api/axes/2/cases"), [{ id: 5, state: "open" }]);
    answer(http.expectOne("/api/cases/5"), openCase({ version: 2, notes: "theirs" }));
    expect(store.current()?.notes).toBe("theirs");
    http.expectOne((r) => r.url.includes("/assessment"));
    store.setNotes("mine");
    expect(store.current()?.notes).toBe("mine");
    look();
    http.expectNone("/api/cases/5");
    expect(store.current()?.notes).toBe("mine");
    // Sent before the page goes: there is no more to be sent then.
    store.answer("rumble", true);
    http.expectOne({ url: "/api/cases/5", method: "PUT" });
  });

  it("a case opened elsewhere is the one that is gone on with", () => {
    const store = TestBed.inject(CaseStore);
    store.load(2);
    answer(http.expectOne("/api/axes/2/cases"), []);
    others.next();
    looked({});
    answer(http.expectOne("/api/axes/2/cases"), [{ id: 5, state: "open" }]);
    answer(http.expectOne("/api/cases/5"), openCase());
    expect(store.open()?.id).toBe(5);
    http.expectOne((r) => r.url.includes("/assessment"));
  });

  it("a reading taken elsewhere is there", () => {
    const store = TestBed.inject(RunStore);
    const run = { id: 7, axisId: 2, state: "finished", readings: [], plan: {} };
    store.load(7);
    answer(http.expectOne("/api/runs/7"), run);
    others.next();
    looked({});
    answer(http.expectOne("/api/runs/7"), { ...run, readings: [{ id: 1 }] });
    expect(store.run()?.readings).toHaveLength(1);
  });
});
