import {
  DEFAULT_OPTIONS,
  defaultAxis,
  jobProgress,
  usualCircles,
  type CircleFigure,
  type PlannedStep,
} from "@iron/core";
import { circleAsked, circleFigures, type Axis, type Circles, type CircleSession, type Job } from "@iron/contract";
import { plainSign } from "./job-sign";
import { newAxis, testApp, type TestApp } from "../testing/test-app";

const BAR = { name: "Bar, 100 mm", resolutionMm: 0.0001, uMm: 0.0005, calibrated: false };

describe("a circle as the retest of a job", () => {
  let t: TestApp;
  let x: Axis;
  beforeEach(async () => {
    t = await testApp();
    x = await newAxis(t, "X");
    await t.api
      .post(`/api/machines/${x.machineId}/axes`)
      .send({ config: defaultAxis("vertical-centre", "Y") })
      .expect(201);
  });
  afterEach(() => t.close());

  /** Typed both ways round; X loses so much when it turns round, mm. */
  async function circle(lostMm: number, state: "finish" | null = "finish"): Promise<CircleSession> {
    const configs = ["X", "Y"].map((letter) => defaultAxis("vertical-centre", letter));
    const plan = { ...usualCircles(configs)[0], spanDeg: 360 };
    const made = await t.api
      .post(`/api/machines/${x.machineId}/circles`)
      .send({ plans: [plan], bar: BAR, temperatureC: 20, note: "" })
      .expect(201);
    const session = made.body as CircleSession;
    for (const direction of [1, -1] as const) {
      const readings = Array.from({ length: 720 }, (_, i) => {
        const angle = (direction * i * Math.PI) / 360;
        const inwards = -direction * Math.sin(angle) * Math.cos(angle) < 0 ? 1 : 0;
        return { deg: (direction * i) / 2, mm: lostMm * (inwards - 0.5) * Math.abs(Math.cos(angle)) };
      });
      await t.api.post(`/api/circle-planes/${session.planes[0].id}/typed`).send({ direction, readings }).expect(201);
    }
    if (state) await t.api.post(`/api/circles/${session.id}/${state}`).expect(200);
    return session;
  }
  const act = (job: Job, body: object) =>
    t.api.post(`/api/jobs/${job.id}/acts`).set("x-working-as", "Tomas").send(body);

  /** A job that asks for a circle, signed up to it. */
  async function upToCircle(
    atBefore: () => Promise<unknown> = async () => undefined,
  ): Promise<{ job: Job; step: PlannedStep }> {
    const made = await t.api
      .post(`/api/machines/${x.machineId}/jobs`)
      .send({
        items: [{ axisId: x.id, kind: "tighten" }],
        options: { ...DEFAULT_OPTIONS, circle: true },
        caseId: null,
      })
      .expect(201);
    let job = made.body as Job;
    for (;;) {
      const { next } = jobProgress(job.plan, job.events);
      if (!next) throw new Error("no circle was asked for");
      if (next.retest === "circle") return { job, step: next };
      if (next.kind === "measure-before") await atBefore();
      job = (await act(job, plainSign(next)).expect(200)).body as Job;
    }
  }
  const figures = async (job: Job): Promise<readonly CircleFigure[]> => {
    const all = (await t.api.get(`/api/machines/${x.machineId}/circles`).expect(200)).body as Circles;
    const asked = circleAsked(job, job.plan, "X");
    return asked ? circleFigures(all, asked) : [];
  };

  it("is taken from a circle read since, beside the one before; the shop’s own numbers stand, whatever was sent", async () => {
    // Taken on the job’s own sheet, before anything was touched.
    const { job, step } = await upToCircle(() => circle(0.04));
    expect((await act(job, plainSign(step)).expect(409)).body.detail).toContain("The retest has no circle yet");
    expect(await figures(job)).toEqual([]);
    await circle(0.003);
    const [own] = await figures(job);
    expect(own.before?.found.find((f) => f.kind === "lost" && f.letter === "X")?.value).toBeCloseTo(0.04, 2);
    const flattered = { ...own, found: own.found.map((f) => ({ ...f, value: 0 })) };
    const signed = (await act(job, plainSign(step, { circle: flattered })).expect(200)).body as Job;
    const last = signed.events.at(-1);
    const kept = last?.kind === "sign" ? last.circle?.found.find((f) => f.kind === "lost" && f.letter === "X") : null;
    expect(kept?.value).toBeCloseTo(0.003, 3);
    // The axis’ own limits, not the machine’s.
    expect([kept?.leave, kept?.repair]).toEqual([signed.axes[0].leaveMm, signed.axes[0].repairMm]);
  });

  it("one from before the job, one not finished or one of another machine is refused in words", async () => {
    const old = await circle(0.003);
    const { job, step } = await upToCircle();
    const open = await circle(0.003, null);
    const figure = (sessionId: number): CircleFigure => ({
      sessionId,
      at: "2026-03-04T08:00:00Z",
      plane: ["X", "Y"],
      feedMmMin: 1000,
      found: [],
      before: null,
      fresh: false,
      square: false,
    });
    for (const id of [old.id, open.id, 999]) {
      const refused = await act(job, plainSign(step, { circle: figure(id) })).expect(422);
      expect(refused.body.detail).toContain(`Circle ${id} cannot be this retest`);
    }
  });

  it("one that loses too much holds the job until somebody accepts it; the paper says so", async () => {
    const { job, step } = await upToCircle();
    await circle(0.06);
    const [own] = await figures(job);
    const refused = await act(job, plainSign(step, { circle: own })).expect(409);
    expect(refused.body.detail).toContain("X loses when it turns round");
    const accepted = plainSign(step, { circle: own, reason: "roughing only", holdBy: "Ilse" });
    const after = (await act(job, accepted).expect(200)).body as Job;
    expect(jobProgress(after.plan, after.events).done.has(step.id)).toBe(true);
    await t.api.get(`/api/jobs/${job.id}/sheet.pdf`).expect(200);
  });
});
