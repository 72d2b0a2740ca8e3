import { DEFAULT_OPTIONS, jobProgress, type PlannedStep } from "@iron/core";
import type { Axis, Floor, History, Job, JobAct } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { plainSign } from "../job/job-sign";
import { newAxis, testApp, type TestApp } from "../testing/test-app";

describe("a retest that was typed", () => {
  let t: TestApp;
  let x: Axis;
  beforeEach(async () => {
    t = await testApp();
    x = await newAxis(t, "X");
  });
  afterEach(() => t.close());

  const open = async (): Promise<Job> => {
    const answer = await t.api
      .post(`/api/machines/${x.machineId}/jobs`)
      .set("x-working-as", "Tomas")
      .send({
        items: [{ axisId: x.id, kind: "tighten" }],
        options: DEFAULT_OPTIONS,
        caseId: null,
      })
      .expect(201);
    return answer.body as Job;
  };
  const act = async (job: Job, body: JobAct): Promise<Job> => {
    const answer = await t.api.post(`/api/jobs/${job.id}/acts`).set("x-working-as", "Tomas").send(body).expect(200);
    return answer.body as Job;
  };
  const next = (job: Job): PlannedStep | null => jobProgress(job.plan, job.events).next;
  async function signUntil(job: Job, kind: string | null): Promise<Job> {
    let now = job;
    for (let step = next(now); step && step.kind !== kind; step = next(now)) now = await act(now, plainSign(step));
    return now;
  }
  const onFloor = async () => {
    const { machines } = (await t.api.get("/api/floor").expect(200)).body as Floor;
    return machines.flatMap((m) => m.axes).find((a) => a.id === x.id)?.last;
  };
  const history = async (): Promise<History> =>
    (await t.api.get(`/api/axes/${x.id}/history`).expect(200)).body as History;

  it("is the axis’ value on floor, history and ledger, and the “before” of the next job; taken back it is gone", async () => {
    const job = await signUntil(await open(), "retest-chain");
    expect(await onFloor()).toBeNull();
    const retest = next(job) as PlannedStep;
    const figure = { reversalValueMm: 0.0064, expandedMm: 0.0012, runId: null };
    const signed = await act(job, plainSign(retest, { figure }));
    expect(await onFloor()).toMatchObject({
      reversalValueMm: 0.0064,
      expandedMm: 0.0012,
      runId: null,
      jobId: job.id,
    });
    await act(signed, { kind: "undo", step: retest.id, key: randomUUID() });
    expect(await onFloor()).toBeNull();
    expect((await history()).typed).toEqual([]);

    const again = await act(signed, plainSign(retest, { figure }));
    await signUntil(again, null);
    expect((await history()).typed).toMatchObject([
      { jobId: job.id, kind: "two-sided", reversalValueMm: 0.0064, by: "Tomas" },
    ]);
    const csv = await t.api.get(`/api/axes/${x.id}/history/export?format=csv&system=metric`).expect(200);
    expect(csv.text).toContain("0.00640");
    // The job’s own entry in the log is dated before its retest: the figure counts as after it.
    const ledger = (await t.api.get(`/api/axes/${x.id}/ledger`).expect(200)).body as {
      ledger: { total: { reversalValueMm: number } };
    };
    expect(ledger.ledger.total.reversalValueMm).toBeCloseTo(0.0064, 9);
    const later = await open();
    expect(later.axes[0].before).toMatchObject({ reversalValueMm: 0.0064, runId: null });
  });

  it("with nobody knowing how well it is known it is no value of the axis", async () => {
    const job = await signUntil(await open(), "retest-chain");
    const retest = next(job) as PlannedStep;
    const figure = { reversalValueMm: 0.004, expandedMm: null, runId: null };
    await act(
      job,
      plainSign(retest, {
        figure,
        holdBy: "Ilse",
        reason: "Indicator went back with its owner.",
      }),
    );
    expect(await onFloor()).toBeNull();
    expect((await history()).typed).toEqual([]);
  });
});
