import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Diagnosis, Case } from "@iron/contract";
import { AXIS_PROVIDERS, openAxis, openCase, takeUpCase } from "../../testing/axis";
import { answer, refuse, setUpBed, show } from "../../testing/place";
import { CaseStore } from "./case-store";
import { LocateStation } from "./locate";

const test = (over: object) => ({
  id: "end-float",
  name: "Screw end float",
  isolates: "end bearings",
  minutes: 15,
  value: 40,
  cost: 10,
  stands: false,
  next: false,
  guided: true,
  splits: [],
  say: "",
  done: 0,
  ...over,
});
const cause = (id: string, name: string) => ({ id, name, remedy: "tighten", normal: false, link: "end-bearings" });
const leading = (id: string, name: string, probability: number) => ({
  cause: { ...cause(id, name), method: "" },
  probability,
  speaksFor: [],
  speaksAgainst: [],
});
const diagnosis = (over: Partial<Diagnosis> = {}): Diagnosis =>
  ({
    axisId: 2,
    headline: "Bearing retainer or nut loose: likely, 87 %.",
    sure: false,
    fits: true,
    stop: null,
    leading: [leading("retainer-loose", "Bearing retainer or nut loose", 0.87)],
    noFault: 0.01,
    links: [],
    ledger: {
      lines: [],
      total: { reversalValueMm: 0.027, expandedMm: 0.001 },
      rest: null,
      consistency: null,
      contradictions: [],
    },
    measured: [],
    since: null,
    tests: [
      test({ next: true, splits: ["Bearing retainer or nut loose", "End bearings worn"] }),
      test({ id: "rock", name: "Rock", guided: false }),
      test({ id: "coast", name: "Coast test", guided: false, value: 1 }),
    ],
    meanings: [{ when: "it stays still", chance: 0.4, names: ["Nut worn"], probability: 0.6 }],
    together: { id: "housing-shift", name: "Housing shift", minutes: 4, guided: true },
    mind: { test: "nut-flank", name: "Nut flank", when: "it gives way", chance: 0.1, names: [], probability: 0.5 },
    questions: [],
    normal: ["Drag brake does its job: nothing: this is normal."],
    impossible: [{ id: "hand-push", name: "Hand push", why: "Never on an axis that can fall." }],
    warnings: [],
    proven: [],
    onlyLikely: [],
    ruledOut: [],
    notLookedAt: [],
    options: [],
    sisters: [],
    ...over,
  }) as unknown as Diagnosis;

describe("station Locate", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => {
    for (const at of ["/api/axes/2/ledger", "/api/shop"]) http.match(at);
    http.match((r) => r.url.includes("/assessment"));
    http.verify();
  });
  const open = (over: Partial<Diagnosis> = {}, file = openCase()) => {
    openAxis(http);
    takeUpCase(http, file, diagnosis(over));
    return show(LocateStation);
  };

  it("a test whose set-up stands says what its few minutes are", () => {
    const next = open({ tests: [test({ next: true, minutes: 6, stands: true })] } as unknown as Partial<Diagnosis>);
    expect(next.page.getByRole("region", { name: "Next test" }).textContent.replace(/\s+/g, " ")).toContain(
      "Screw end float, 6 min while the set-up stands.",
    );
  });

  it("the test that tells most per minute stands beside the verdict, with what it splits and what it costs", () => {
    const page = open();
    const next = page.page.getByRole("region", { name: "Next test" });
    expect(next.textContent.replace(/\s+/g, " ")).toContain(
      "Screw end float, 15 min. Tells Bearing retainer or nut loose from End bearings worn.",
    );
    const text = next.textContent.replace(/[\s\u00a0]+/g, " ");
    expect(text).toContain("It stays still: then Nut worn, 60 %.");
    expect(text).toContain("While that is set up: Housing shift, 4 min more.");
    expect(page.text().replaceAll("\u00a0", " ")).toContain(
      "What would change this: Nut flank: It gives way: then nothing wrong, 50 %.",
    );
    expect(page.text()).toContain("Normal: Drag brake does its job");
    expect(page.page.getByRole("link", { name: "Do it: Screw end float" }).getAttribute("href")).toBe(
      "/machines/1/axes/2/measure/new/end-float",
    );
    expect(page.page.getByRole("link", { name: "Do it: Rock" }).getAttribute("href")).toBe(
      "/machines/1/axes/2/locate/rock",
    );
    expect(page.text()).toContain("1 more that would tell less");
    expect(page.text()).toContain("Hand push: Never on an axis that can fall.");
  });

  it("what was measured and recorded leads to where it is: a test, a job, a circle, a recording", () => {
    const size = { kind: "two-sided", reversalValueMm: 0.02, expandedMm: 0.001, at: "2026-03-02T09:00:00.000Z" };
    const none = { runId: null, jobId: null, circleId: null };
    const page = open({
      measured: [
        { ...size, ...none, runId: 7 },
        { ...size, ...none, jobId: 8 },
        { ...size, ...none, circleId: 9 },
      ] as unknown as Diagnosis["measured"],
      heard: { soundId: 12, said: "recorded, it sounds like dry ways", at: "2026-03-02T10:00:00.000Z" },
    });
    const to = page.page.getAllByRole("link").map((a) => a.getAttribute("href"));
    for (const path of ["/machines/1/axes/2/runs/7", "/jobs/8", "/circles/9", "/machines/1/axes/2/listen?sound=12"])
      expect(to).toContain(path);
    expect(page.text()).toContain("Recorded, it sounds like dry ways");
  });

  it("a likely cause leads to its job; one that no job mends does not", () => {
    expect(open().page.getByRole("link", { name: "Open the job" }).getAttribute("href")).toBe(
      "/machines/1/axes/2/fix?cause=retainer-loose",
    );
  });

  it("a guess does not lead to a job yet", () => {
    expect(
      open({
        leading: [leading("retainer-loose", "Retainer", 0.4)] as unknown as Diagnosis["leading"],
      }).page.queryByRole("link", { name: "Open the job" }),
    ).toBeNull();
  });

  it.each([
    ["sure", "Sure enough"],
    ["cannot-change", "No test here is worth its minutes"],
  ] as const)("when testing ends (%s) it says why, and names no next one", (stop, words) => {
    const page = open({ stop, tests: [test({})] as unknown as Diagnosis["tests"] });
    expect(page.text()).toContain(words);
    expect(page.page.queryByRole("region", { name: "Next test" })).toBeNull();
  });

  it("where no test is worth its minutes it says what is done now: the verdict, or nothing where nothing leads", () => {
    const named = open({ stop: "cannot-change" });
    expect(named.text()).toContain("the cheapest thing now is to act on the verdict and retest");
    const none = open({ stop: "cannot-change", noFault: 0.9 });
    expect(none.text()).toContain("Nothing found so far wants mending: let the machine run");
    expect(none.text()).not.toContain("act on the verdict");
  });

  it("where what was measured does not fit together no cause, remedy or job is offered, before and after reading again", () => {
    const apart = {
      fits: false,
      headline: "What was measured does not fit together: read the end float again first.",
    };
    const first = open(apart);
    expect(first.text()).toContain("No verdict yet");
    expect(first.text()).toContain("Read this again first");
    expect(first.text()).toContain("Nothing yet but to read again");
    expect(first.text()).not.toContain("87 %");
    expect(first.page.queryByRole("link", { name: "Open the job" })).toBeNull();
  });

  it("read again and still apart, it sends to somebody who knows instead of to act", () => {
    const page = open({ fits: false, stop: "cannot-change", tests: [test({})] as unknown as Diagnosis["tests"] });
    expect(page.text()).toContain("nothing is to be acted on");
    expect(page.text()).not.toContain("act on the verdict and retest");
  });

  it("results can be set aside and taken back in; a row of readings is one link away", () => {
    const result = {
      id: 3,
      axisId: 2,
      test: "coast",
      answers: { "free-wheels": true },
      note: "",
      data: { kind: "series", seriesId: 9 },
      at: "2026-03-02T09:00:00Z",
      by: "Ama",
      withdrawn: false,
    };
    const page = open({}, openCase({ results: [result] as unknown as Case["results"] }));
    expect(page.page.getByRole("link", { name: "its readings" }).getAttribute("href")).toBe(
      "/machines/1/axes/2/series/9",
    );
    page.press(/^Set aside: /);
    answer(
      http.expectOne("/api/results/3/withdraw"),
      openCase({ results: [{ ...result, withdrawn: true }] as unknown as Case["results"] }),
    );
    expect(page.page.getByRole("button", { name: /^Take back in: / })).toBeTruthy();
  });

  it("closing asks what it really was, with the likely ones ticked; what cannot be closed stays open", () => {
    const page = open({
      leading: [leading("retainer-loose", "Bearing retainer or nut loose", 0.96)] as unknown as Diagnosis["leading"],
    });
    page.press("Close the case…");
    expect(page.page.getByLabelText<HTMLInputElement>("Bearing retainer or nut loose").checked).toBe(true);
    page.tick("End bearings worn");
    page.type("In words", "two screws loose");
    page.press("Close the case");
    const request = http.expectOne("/api/cases/5/close");
    expect(request.request.body).toEqual({
      version: 1,
      found: ["retainer-loose", "end-bearing-worn"],
      words: "two screws loose",
    });
    refuse(request, 409, { detail: "Changed meanwhile." });
    expect(page.page.getByRole("form", { name: "Close the case" })).toBeTruthy();
    page.press("Not yet");
    expect(page.page.queryByRole("form", { name: "Close the case" })).toBeNull();
  });

  it("without a case it leads to Ask; an assessment that cannot be had is said and asked for again", () => {
    openAxis(http);
    TestBed.inject(CaseStore).load(2);
    const page = show(LocateStation);
    answer(http.expectOne("/api/axes/2/cases"), [{ id: 5, state: "open" }]);
    answer(http.expectOne("/api/cases/5"), openCase());
    refuse(
      http.expectOne((r) => r.url.includes("/assessment")),
      500,
      { detail: "The server answered 500." },
    );
    expect(page.alerts()).toContain("The server answered 500.");
    page.press("Try again");
    answer(
      http.expectOne((r) => r.url.includes("/assessment")),
      diagnosis(),
    );
    expect(page.text()).toContain("likely, 87 %");
  });
});
