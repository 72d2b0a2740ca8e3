import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Job, JobAct } from "@iron/contract";
import { DEFAULT_OPTIONS, planJob, type JobEvent, type PlannedStep } from "@iron/core";
import { CONFIG } from "../../testing/axis";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import { newSign } from "../../testing/signed";
import { Subject } from "rxjs";
import { Changes } from "../data/changes";
import { JobPage } from "./job-page";
import { PHOTO_STORE } from "./photo-queue";

const plan = planJob({
  axes: [{ letter: "X", config: CONFIG }],
  items: [{ letter: "X", kind: "fixed-bearings" }],
  options: DEFAULT_OPTIONS,
});
const before = { reversalValueMm: 0.027, expandedMm: 0.002, placeMm: 300, runId: 4 };
const job = (events: readonly JobEvent[] = [], over: Partial<Job> = {}): Job =>
  ({
    id: 1,
    machineId: 2,
    nickname: "Heron",
    bay: "3",
    title: "Replace fixed-end bearings, X",
    axes: [{ axisId: 2, letter: "X", before, leaveMm: 0.01, repairMm: 0.02 }],
    items: [],
    plan,
    photos: [],
    events: events.map((e, i) => ({ key: `k${i}`, at: "2026-03-02T09:00:00Z", by: "Ama", ...e })),
    openedAt: "2026-03-02T08:00:00Z",
    finishedAt: null,
    checkOn: null,
    ...over,
  }) as unknown as Job;
const signed = (steps: readonly PlannedStep[], found: Record<string, string> = {}): JobEvent[] =>
  steps.map((s) => ({ kind: "sign" as const, ...newSign(s), ...(found[s.id] ? { found: found[s.id] } : {}) }));

describe("a job at the machine", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed({
      provide: PHOTO_STORE,
      useValue: { all: () => Promise.resolve([]), put: () => Promise.resolve(), remove: () => Promise.resolve() },
    });
  });
  afterEach(() => {
    http.verify();
    jest.useRealTimers();
  });
  const around = (): void => {
    http
      .match("/api/machines/2")
      .forEach((r) => r.flush({ axes: [{ id: 2, machineId: 2, version: 1, config: CONFIG, retiredAt: null }] }));
    http.match("/api/indicators").forEach((r) => r.flush([]));
    http.match("/api/axes/2/ledger").forEach((r) => r.flush({ axisId: 2, links: [] }));
    http.match("/api/axes/2/history").forEach((r) => r.flush({ runs: [], typed: [], events: [] }));
    TestBed.tick();
  };
  const open = (of: Job) => {
    const page = show(JobPage, { jobId: "1" });
    answer(http.expectOne("/api/jobs/1"), of);
    around();
    return page;
  };
  const acts = () => http.expectOne("/api/jobs/1/acts");
  const act = (request: ReturnType<typeof acts>) => request.request.body as JobAct;
  const title = (page: ReturnType<typeof open>): string =>
    page.page.getByRole("heading", { level: 2, name: /^(?!Where)/ }).textContent;

  it("a signature is shown at once, and kept whatever the answer is slow to say", () => {
    const page = open(job(signed(plan.steps.slice(0, 1))));
    expect(title(page)).toBe(plan.steps[1].title);
    page.press("Take the last one back");
    expect(title(page)).toBe(plan.steps[0].title);
    const request = acts();
    expect(act(request)).toMatchObject({ kind: "undo", step: plan.steps[0].id });
    answer(request, job([...signed(plan.steps.slice(0, 1)), { kind: "undo", step: plan.steps[0].id } as JobEvent]));
    around();
    expect(title(page)).toBe(plan.steps[0].title);
  });

  it("without a server it counts what waits; refused in the end, it says what the server would not have", () => {
    jest.useFakeTimers();
    const page = open(job(signed(plan.steps.slice(0, 1))));
    page.press("Take the last one back");
    cut(acts());
    expect(page.text()).toContain("No connection. 1 entry is kept in this browser");
    jest.advanceTimersByTime(3500);
    refuse(acts(), 409, {
      detail: "Rowan has signed the next step since.",
      more: { current: job(signed(plan.steps.slice(0, 2))) },
    });
    around();
    expect(page.alerts()).toContain("The server did not take what was entered. Rowan has signed the next step since.");
    expect(title(page)).toBe(plan.steps[2].title);
    page.press("I have read it");
    expect(page.alerts()).toBe("");
  });

  it("an order that breaks something is told while it is made, and cannot be kept; a good one goes out whole", () => {
    const page = open(job());
    page.press("Change the order");
    const isolate = plan.steps.findIndex((s) => /^Isolate/.test(s.title));
    const covers = plan.steps.findIndex((s) => s.kind === "covers-off");
    const name = new RegExp(`^Earlier: .*${plan.steps[covers].title}`);
    for (let i = covers; i >= isolate; i -= 1) page.press(name);
    expect(page.alerts()).toContain("has hands in with the power on");
    const keep = page.page.getByRole<HTMLButtonElement>("button", { name: "Keep this order" });
    expect(keep.disabled).toBe(true);
    page.press("Leave it as it was");
    expect(page.alerts()).toBe("");
    page.press("Change the order");
    page.press("Keep this order");
    expect(act(acts())).toMatchObject({ kind: "reorder", order: plan.steps.map((s) => s.id) });
  });

  it("fasteners found loose: it offers to tighten, close and retest, or to go on", () => {
    const at = plan.steps.findIndex((s) => s.finds.some((f) => f.offersStop));
    const step = plan.steps[at];
    const find = step.finds.find((f) => f.offersStop);
    const page = open(job(signed(plan.steps.slice(0, at + 1), { [step.id]: find?.id ?? "" })));
    expect(page.text()).toContain("or go on with the step below");
    page.press("Tighten, close and retest");
    expect(act(acts())).toMatchObject({ kind: "stop-here", letter: "X" });
  });

  it("signed off, it says when to look again and shows before and after", () => {
    const retest = plan.steps.find((s) => s.retest === "chain");
    const events = signed(plan.steps).map((e) =>
      e.kind === "sign" && e.step === retest?.id
        ? { ...e, figure: { reversalValueMm: 0.004, expandedMm: 0.002, runId: null } }
        : e,
    );
    const page = open(job(events, { finishedAt: "2026-03-02T12:00:00Z", checkOn: "2026-03-09" }));
    expect(page.text()).toMatch(/Signed off on Mon 2 Mar/);
    expect(page.text()).toMatch(/First check on Mon 9 Mar/);
    expect(page.text()).toContain("X, passes:");
    expect(page.text()).toContain("held beside how it sounds when it is well. Record that now: X.");
    expect(page.page.queryByRole("button", { name: "Take the last one back" })).toBeNull();
  });

  it("what another signs meanwhile is said before the step under the thumb is taken away; what is beside it is shown", () => {
    const others = new Subject<void>();
    jest.spyOn(TestBed.inject(Changes), "of").mockReturnValue(others);
    const page = open(job(signed(plan.steps.slice(0, 1))));
    others.next();
    const note: JobEvent = { kind: "note", step: plan.steps[1].id, words: "The bolt is short" } as JobEvent;
    answer(http.expectOne("/api/jobs/1"), job([...signed(plan.steps.slice(0, 1)), note]));
    expect(title(page)).toBe(plan.steps[1].title);
    expect(page.text()).not.toContain("meanwhile");
    others.next();
    answer(http.expectOne("/api/jobs/1"), job(signed(plan.steps.slice(0, 2))));
    around();
    expect(title(page)).toBe(plan.steps[1].title);
    expect(page.text()).toContain("Ama went on with this job meanwhile.");
    page.press("Show it as it is now");
    around();
    expect(title(page)).toBe(plan.steps[2].title);
    expect(page.text()).not.toContain("meanwhile");
    // A line that is down takes nothing away.
    others.next();
    cut(http.expectOne("/api/jobs/1"));
    expect(title(page)).toBe(plan.steps[2].title);
  });

  it("a job that is not there, and one that cannot be had, are said", () => {
    const page = show(JobPage, { jobId: "1" });
    refuse(http.expectOne("/api/jobs/1"), 404, { detail: "There is no job 1." });
    expect(page.alerts()).toContain("There is no job 1.");
    page.press("Try again");
    answer(http.expectOne("/api/jobs/1"), job());
    around();
    expect(title(page)).toBe(plan.steps[0].title);
  });
});
