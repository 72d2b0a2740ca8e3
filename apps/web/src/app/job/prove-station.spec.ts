import type { HttpTestingController } from "@angular/common/http/testing";
import type { Job } from "@iron/contract";
import {
  DEFAULT_OPTIONS,
  defaultAxis,
  JOB_KINDS,
  planJob,
  type JobEvent,
  type JobKindId,
  type SignedStep,
} from "@iron/core";
import { AXIS_PROVIDERS, openAxis } from "../../testing/axis";
import { answer, cut, setUpBed, show } from "../../testing/place";
import { newSign } from "../../testing/signed";
import { circlePlane, circleSession, leaning } from "../../testing/circle";
import { circleBeside } from "./job.view";
import { ProveStation } from "./prove-station";

const BOX = {
  ...defaultAxis("vertical-centre", "X"),
  guideway: "box" as const,
};

/** A job of the axis with every step signed, the retests as said. */
function done(id: number, kind: JobKindId, retest: Partial<SignedStep>, config = BOX): Job {
  const plan = planJob({
    axes: [{ letter: config.letter, config }],
    items: [{ letter: config.letter, kind }],
    options: DEFAULT_OPTIONS,
  });
  const events = plan.steps.map(
    (s, i): JobEvent & object =>
      ({
        kind: "sign",
        ...newSign(s),
        ...(s.retest ? retest : {}),
        key: `k${i}`,
        at: "2026-03-02T09:00:00Z",
        by: "Ama",
      }) as JobEvent,
  );
  const axis = {
    axisId: 2,
    letter: config.letter,
    before: { reversalValueMm: 0.027, expandedMm: 0.001, placeMm: 300, runId: 1 },
    leaveMm: 0.01,
    repairMm: 0.025,
  };
  return {
    id,
    machineId: 1,
    title: kind,
    axes: [axis],
    plan,
    events,
    photos: [],
    openedAt: "2026-03-02T08:00:00Z",
    finishedAt: "2026-03-02T12:00:00Z",
  } as unknown as Job;
}

describe("station Prove", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => http.verify());
  const open = (jobs: readonly Job[], config = BOX, sessions: readonly object[] = []) => {
    openAxis(http, { config });
    const page = show(ProveStation);
    answer(http.expectOne("/api/machines/1/circles"), { sessions, limits: {} });
    answer(
      http.expectOne("/api/jobs"),
      jobs.map((j) => ({ id: j.id, axisIds: [2], title: j.title })),
    );
    for (const job of jobs) answer(http.expectOne(`/api/jobs/${job.id}`), job);
    return page;
  };

  it("a circle taken before is asked for again after it; both together are named", () => {
    const plane = circlePlane([leaning(1, 0.006), leaning(-1, 0.006)]);
    const job = done(1, "fixed-bearings", { figure: { reversalValueMm: 0.004, expandedMm: 0.001, runId: null } });
    const at = (startedAt: string) => circleSession([plane], { state: "finished", startedAt });
    const before = at("2026-02-20T08:00:00Z");
    expect(open([job], BOX, [before]).text()).toContain(
      "Take it again after the job, in the same plane at the same feed",
    );
    const both = circleBeside(job, [before, at("2026-03-05T08:00:00Z")]);
    expect(both).toContain("laid over each other they show what else has changed");
    expect(circleBeside(job, [at("2026-03-05T08:00:00Z")])).toBe("");
  });

  it("a chain retest stands beside what was measured before", () => {
    const page = open([
      done(1, "fixed-bearings", { figure: { reversalValueMm: 0.004, expandedMm: 0.001, runId: null } }),
    ]);
    expect(page.text()).toContain("Nothing waits for a retest");
    expect(page.text()).toContain("Passes. 27.0 ± 1.0 µm before, 4.0 ± 1.0 µm after.");
  });

  it.each(JOB_KINDS.filter((k) => k.fits(BOX)).map((k) => [k.name, k.id] as const))(
    "a signed-off job is never said to wait for a retest: %s",
    (_, kind) => {
      const page = open([
        done(1, kind, { figure: { reversalValueMm: 0.004, expandedMm: 0.001, runId: null }, reading: 0.004 }),
      ]);
      expect(page.text()).toContain("Nothing waits for a retest");
      expect(page.text()).toContain("Passes.");
    },
  );

  it("a load over the travel that is out of bounds does not pass, and says by what", () => {
    const page = open([
      done(1, "gib", { reading: 12, figure: { reversalValueMm: 0.004, expandedMm: 0.001, runId: null } }),
    ]);
    expect(page.text()).toContain("Does not pass.");
    expect(page.text()).toContain("Highest load less lowest 12.0 %, up to 8.0 % is fine.");
  });

  it("one that is still at work waits, and leads on", () => {
    const job = done(3, "gib", {});
    const page = open([{ ...job, events: [], finishedAt: null } as unknown as Job]);
    expect(page.text()).toContain("1 retest is wanted");
    expect(page.text()).toContain("Not retested yet.");
    expect(page.page.getByRole("link", { name: "Go on with the job" }).getAttribute("href")).toBe("/jobs/3");
  });

  it("no job, and no server, are each said", () => {
    expect(open([]).text()).toContain("No job has been opened on this axis.");
    const page = show(ProveStation);
    // Circles are beside the matter: without them nothing is said.
    cut(http.expectOne("/api/machines/1/circles"));
    cut(http.expectOne("/api/jobs"));
    page.press("Try again");
    cut(http.expectOne("/api/machines/1/circles"));
    answer(http.expectOne("/api/jobs"), []);
    expect(page.alerts()).toBe("");
  });
});
