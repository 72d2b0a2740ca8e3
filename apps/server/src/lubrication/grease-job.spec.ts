import type { Axis, Job, LubricationPointRecord, Rounds } from "@iron/contract";
import { estimateJob, jobProgress, type PlannedStep } from "@iron/core";
import { plainSign } from "../job/job-sign";
import { newAxis, testApp, type TestApp, USUAL } from "../testing/test-app";

describe("a nut that has to be parted to be greased", () => {
  let t: TestApp;
  let axis: Axis;
  beforeEach(async () => {
    t = await testApp();
    axis = await newAxis(t, "X");
  });
  afterEach(() => t.close());

  async function partedPoint(letter: string): Promise<LubricationPointRecord> {
    const usual = (await t.api.post(`/api/machines/${axis.machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
    const [first] = usual;
    const body = {
      ...first,
      place: `${letter} nut, behind its bracket`,
      letter,
      partsNut: true,
    };
    return (await t.api.post(`/api/machines/${axis.machineId}/lube-points`).send(body).expect(201))
      .body as LubricationPointRecord;
  }

  it("is planned like any point, walked as a job, and the job counts as its visit", async () => {
    const point = await partedPoint("X");
    const rounds = (await t.api.get("/api/rounds").expect(200)).body as Rounds;
    expect(rounds.unplanned.map((u) => u.id)).not.toContain(point.id);
    // Its hours and people are those of its sheet, and the round of that day stays as it is.
    const day = rounds.days.find((d) => d.stops.some((s) => s.points.some((p) => p.id === point.id)));
    const { minutes, people } = point.job ?? { minutes: 0, people: 0 };
    expect(minutes).toBeGreaterThan(60);
    expect(day?.jobMinutes).toBe(minutes * people);
    const visits = (day?.stops ?? []).flatMap((s) => s.points).filter((p) => !p.job);
    expect(day?.minutes).toBe(visits.reduce((sum, p) => sum + p.minutes, 0));
    const opened = async (): Promise<number> =>
      (
        (await t.api.post(`/api/lube-points/${point.id}/job`).set("x-working-as", "Ama").expect(201)).body as {
          jobId: number;
        }
      ).jobId;
    const jobId = await opened();
    // Asked for again, the open one goes on.
    expect(await opened()).toBe(jobId);
    let job = (await t.api.get(`/api/jobs/${jobId}`).expect(200)).body as Job;
    const estimate = estimateJob(job.plan);
    expect([minutes, people]).toEqual([Math.round(estimate.minutes), estimate.people]);
    const next = (): PlannedStep | null => jobProgress(job.plan, job.events).next;
    const kinds = job.plan.steps.map((s) => s.kind);
    for (const kind of ["nut-parted", "grease-nut", "nut-joined", "nut-tight"]) expect(kinds).toContain(kind);
    for (let step = next(); step; step = next())
      job = (
        await t.api
          .post(`/api/jobs/${jobId}/acts`)
          .set("x-working-as", "Ama")
          .send(plainSign(step, step.kind === "grease-nut" ? { found: "dry" } : {}))
          .expect(200)
      ).body as Job;
    const after = (await t.api.get(`/api/lube-points/${point.id}`).expect(200)).body as LubricationPointRecord;
    expect(after).toMatchObject({ lastFound: "dry", visits: 1 });
    // A new one is opened for the next time.
    expect(await opened()).not.toBe(jobId);
  });

  it("says in words where no job can part it", async () => {
    const point = await partedPoint("W");
    expect(point.job).toBeNull();
    const none = await t.api.post(`/api/lube-points/${point.id}/job`).expect(422);
    expect(JSON.stringify(none.body)).toContain("belongs to no axis");
  });
});
