import { provideHttpClient } from "@angular/common/http";
import { HttpTestingController, provideHttpClientTesting } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { DEFAULT_OPTIONS, defaultAxis, planJob } from "@iron/core";
import type { Job, JobAct } from "@iron/contract";
import { newSign } from "../../testing/signed";
import { JobQueues } from "./job-queues";
import { JobStore } from "./job-store";

const config = defaultAxis("vertical-centre", "X");
const plan = planJob({
  axes: [{ letter: "X", config }],
  items: [{ letter: "X", kind: "coupling" }],
  options: DEFAULT_OPTIONS,
});
const job = {
  id: 1,
  machineId: 2,
  axes: [],
  items: [],
  plan,
  events: [],
  photos: [],
  openedAt: "2026-03-03T08:00:00Z",
  finishedAt: null,
} as unknown as Job;
const act: JobAct = {
  kind: "sign",
  ...newSign(plan.steps[0]),
  key: "11111111-1111-4111-8111-111111111111",
  system: "metric",
};

describe("a job’s acts on their way to the server", () => {
  let store: JobStore;
  let http: HttpTestingController;

  beforeEach(() => {
    localStorage.clear();
    TestBed.configureTestingModule({ providers: [JobStore, provideHttpClient(), provideHttpClientTesting()] });
    store = TestBed.inject(JobStore);
    http = TestBed.inject(HttpTestingController);
    store.load(1);
    http.expectOne("/api/jobs/1").flush(job);
    http.match("/api/machines/2").forEach((r) => r.flush({ axes: [] }));
    http.match("/api/indicators").forEach((r) => r.flush([]));
  });
  afterEach(() => {
    http.verify();
    jest.useRealTimers();
  });

  it("an act is shown at once, kept in the browser, and gone from there when taken", () => {
    store.act(act);
    expect(store.progress()?.done.has(plan.steps[0].id)).toBe(true);
    expect(localStorage.getItem("iron-job-1-waiting")).toContain(act.key);
    const sent = http.expectOne("/api/jobs/1/acts");
    expect(sent.request.headers.get("x-working-as")).toBeTruthy();
    sent.flush({ ...job, events: [{ ...act, at: "2026-03-03T09:00:00Z", by: "Ama" }] });
    expect(localStorage.getItem("iron-job-1-waiting")).toBeNull();
    TestBed.tick();
    expect(store.progress()?.done.size).toBe(1);
  });

  it("without a server it waits, says so, and is sent again by itself", () => {
    jest.useFakeTimers();
    store.act(act);
    http.expectOne("/api/jobs/1/acts").error(new ProgressEvent("error"));
    expect(store.offline()).toBe(true);
    expect(store.queue()).toHaveLength(1);
    jest.advanceTimersByTime(3500);
    http.expectOne("/api/jobs/1/acts").flush({ ...job, events: [{ ...act, at: "2026-03-03T09:00:00Z", by: "Ama" }] });
    expect(store.offline()).toBe(false);
    expect(store.queue()).toEqual([]);
  });

  it("what the server refuses is shown with its words until it is read, and does not block the rest", () => {
    const note: JobAct = {
      kind: "note",
      step: plan.steps[0].id,
      words: "dry",
      key: "22222222-2222-4222-8222-222222222222",
    };
    store.act(act);
    store.act(note);
    http
      .expectOne("/api/jobs/1/acts")
      .flush(
        { type: "about:blank", title: "Conflict", status: 409, detail: "That step is signed already.", current: job },
        { status: 409, statusText: "Conflict" },
      );
    expect(store.refused().map((r) => r.message)).toEqual(["That step is signed already."]);
    http.expectOne("/api/jobs/1/acts").flush(job);
    store.read(act.key);
    expect(store.refused()).toEqual([]);
    expect(store.queue()).toEqual([]);
  });

  it("of a job that no page shows goes too, and what a tab keeps is not lost by another’s", () => {
    const kept = (key: string) => ({ act: { ...act, key }, at: "2026-03-03T09:00:00Z", by: "Ama" });
    localStorage.setItem("iron-job-7-waiting", JSON.stringify([kept("a")]));
    localStorage.setItem("iron-visits-waiting", "[]");
    TestBed.inject(JobQueues).recall();
    const sent = http.expectOne("/api/jobs/7/acts");
    // Another tab notes something of the same job meanwhile.
    localStorage.setItem("iron-job-7-waiting", JSON.stringify([kept("a"), kept("b")]));
    sent.flush({ ...job, id: 7 });
    expect(JSON.parse(localStorage.getItem("iron-job-7-waiting") ?? "[]")).toEqual([kept("b")]);
  });

  it("an answer to an act is newer than one that was asked for before it", () => {
    store.load(1);
    const asked = http.expectOne("/api/jobs/1");
    store.act(act);
    const signed = { ...job, events: [{ ...act, at: "2026-03-03T09:00:00Z", by: "Ama" }] };
    http.expectOne("/api/jobs/1/acts").flush(signed);
    asked.flush(job);
    http.match(() => true);
    TestBed.tick();
    expect(store.job()?.events).toHaveLength(1);
  });
});
