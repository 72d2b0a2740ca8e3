import { DEFAULT_OPTIONS, jobProgress } from "@iron/core";
import type { Case, Job, LubricationPointRecord, LubricantRecord } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { plainSign } from "../job/job-sign";
import { newAxis, startRun, testApp, type TestApp, USUAL } from "./test-app";

/** Two people change one thing from the version that both have seen: the second is told, and sees the first’s. */
describe("two editors of one thing", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  async function clash(path: string, mine: object, theirs: object): Promise<Record<string, unknown>> {
    await t.api.put(path).send(theirs).expect(200);
    const refused = await t.api
      .put(path)
      .send(mine)
      .expect(409)
      .expect("Content-Type", /problem\+json/);
    expect(refused.body).toMatchObject({
      status: 409,
      detail: expect.stringContaining("Both versions are here") as string,
    });
    return (refused.body as { current: Record<string, unknown> }).current;
  }

  it("a point", async () => {
    const { machineId } = await newAxis(t);
    const points = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
    const [point] = points;
    const path = `/api/lube-points/${point.id}`;
    const current = await clash(path, { ...point, dose: 7 }, { ...point, dose: 5 });
    expect(current).toMatchObject({ dose: 5, version: point.version + 1 });
    const kept = await t.api
      .put(path)
      .send({ ...point, dose: 7, version: current["version"] })
      .expect(200);
    expect(kept.body).toMatchObject({ dose: 7, version: point.version + 2 });
    const without = await t.api
      .put(path)
      .send({ ...point, version: undefined })
      .expect(422);
    expect(without.body).toMatchObject({ errors: [{ path: "version" }] });
  });

  it("a point whose lubricant was named anew meanwhile", async () => {
    const { machineId } = await newAxis(t);
    const [point] = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
    const spec = {
      name: point.lubricant,
      kind: "grease",
      thickener: "lithium",
      base: null,
      nlgi: 2,
      viscosity: null,
      containerG: 400,
      leadDays: 7,
      reserveG: 0,
    };
    const [lubricant] = (await t.api.post("/api/lubricants").send(spec).expect(201)).body as LubricantRecord[];
    await t.api
      .put(`/api/lubricants/${lubricant.id}`)
      .send({ ...spec, name: "house grease", version: lubricant.version })
      .expect(200);
    const refused = await t.api.put(`/api/lube-points/${point.id}`).send(point).expect(409);
    expect((refused.body as { current: LubricationPointRecord }).current.lubricant).toBe("house grease");
  });

  it("an indicator, a lubricant, the shop, a cause’s weight", async () => {
    const indicator = {
      name: "Lever",
      kind: "lever",
      resolutionMm: 0.002,
      unit: "mm",
      tipAngleDeg: 12,
      rangeMm: 0.8,
    };
    const made = (await t.api.post("/api/indicators").send(indicator).expect(201)).body as {
      id: number;
      version: number;
    };
    const { version } = made;
    expect(
      await clash(
        `/api/indicators/${made.id}`,
        { ...indicator, version, name: "A" },
        { ...indicator, version, name: "B" },
      ),
    ).toMatchObject({ name: "B" });

    const spec = {
      name: "oil",
      kind: "oil",
      thickener: null,
      base: "mineral",
      nlgi: null,
      viscosity: 68,
      containerG: 400,
      leadDays: 7,
      reserveG: 0,
    };
    const [lubricant] = (await t.api.post("/api/lubricants").send(spec).expect(201)).body as LubricantRecord[];
    const from = { ...spec, version: lubricant.version };
    expect(
      await clash(`/api/lubricants/${lubricant.id}`, { ...from, leadDays: 1 }, { ...from, leadDays: 2 }),
    ).toMatchObject({ leadDays: 2 });

    const shop = (await t.api.get("/api/shop").expect(200)).body as {
      name: string;
      currency: string;
      people: string[];
      version: number;
    };
    expect(
      await clash("/api/shop", { ...shop, people: ["Ama"] }, { ...shop, people: ["Ilse", "Rowan"] }),
    ).toMatchObject({ people: ["Ilse", "Rowan"] });

    const weight = { prior: 3, why: "seen often here", version: 0 };
    expect(await clash("/api/knowledge/coupling-screw", { ...weight, prior: 4 }, weight)).toMatchObject({
      override: 3,
      overrideBy: "Rowan",
      version: 1,
    });
    // Taken back and set again by others: what was seen before that is still old.
    await t.api.put("/api/knowledge/coupling-screw").send({ prior: null, why: "", version: 1 }).expect(200);
    await t.api
      .put("/api/knowledge/coupling-screw")
      .send({ ...weight, version: 1 })
      .expect(409);
  });

  it("of fifty at once one is kept, and the other forty-nine are told", async () => {
    const { machineId } = await newAxis(t);
    const [point] = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
    const path = `/api/lube-points/${point.id}`;
    const answers = await Promise.all(
      Array.from({ length: 50 }, (_, i) => t.api.put(path).send({ ...point, minutes: 1 + i })),
    );
    const kept = answers.filter((a) => a.status === 200);
    expect(kept).toHaveLength(1);
    expect(answers.filter((a) => a.status === 409)).toHaveLength(49);
    expect((await t.api.get(path).expect(200)).body).toMatchObject({
      minutes: (kept[0].body as LubricationPointRecord).minutes,
      version: point.version + 1,
    });
  });
});

describe("what is kept under the right name", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  async function openJob(axis: { id: number; machineId: number }): Promise<Job> {
    const answer = await t.api
      .post(`/api/machines/${axis.machineId}/jobs`)
      .send({
        items: [{ axisId: axis.id, kind: "tighten" }],
        options: DEFAULT_OPTIONS,
        caseId: null,
      })
      .expect(201);
    return answer.body as Job;
  }

  it("a key that was kept on one thing is refused on another, not answered as if it were kept there", async () => {
    const x = await newAxis(t);
    const [one, two] = [await openJob(x), await openJob(x)];
    const note = { kind: "note", step: "", words: "noisy", key: randomUUID() };
    await t.api.post(`/api/jobs/${one.id}/acts`).send(note).expect(200);
    await t.api.post(`/api/jobs/${one.id}/acts`).send(note).expect(200);
    const refused = await t.api.post(`/api/jobs/${two.id}/acts`).send(note).expect(409);
    expect((refused.body as { detail: string }).detail).toContain("Nothing was kept here");
    expect(((await t.api.get(`/api/jobs/${two.id}`)).body as Job).events).toEqual([]);

    const points = (await t.api.post(`/api/machines/${x.machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
    const visit = {
      key: randomUUID(),
      found: "dry",
      dose: 1,
      glitter: false,
      words: "",
    };
    await t.api.post(`/api/lube-points/${points[0].id}/visits`).send(visit).expect(201);
    await t.api.post(`/api/lube-points/${points[0].id}/visits`).send(visit).expect(201);
    await t.api.post(`/api/lube-points/${points[1].id}/visits`).send(visit).expect(409);
    expect(((await t.api.get(`/api/lube-points/${points[1].id}`)).body as LubricationPointRecord).visits).toBe(0);

    const other = await newAxis(t, "Y");
    const meter = {
      key: randomUUID(),
      date: "2026-03-02",
      hours: 4000,
      reset: false,
    };
    await t.api.post(`/api/machines/${x.machineId}/meter`).send(meter).expect(201);
    await t.api.post(`/api/machines/${x.machineId}/meter`).send(meter).expect(201);
    await t.api.post(`/api/machines/${other.machineId}/meter`).send(meter).expect(409);
  });

  it("a result on a closed case can be neither withdrawn nor taken back in", async () => {
    const x = await newAxis(t);
    const file = (
      await t.api
        .post(`/api/machines/${x.machineId}/cases`)
        .send({ axisIds: [x.id] })
        .expect(201)
    ).body as Case;
    const result = {
      axisId: x.id,
      test: "coupling-slip",
      answers: {},
      note: "",
      data: null,
    };
    const there = (await t.api.post(`/api/cases/${file.id}/results`).send(result).expect(201)).body as Case;
    const { id } = there.results[0];
    const closed = (
      await t.api.post(`/api/cases/${file.id}/close`).send({ version: there.version, found: [], words: "" }).expect(200)
    ).body as Case;
    await t.api.post(`/api/results/${id}/withdraw`).expect(409);
    expect(((await t.api.get(`/api/cases/${file.id}`)).body as Case).results).toEqual(closed.results);
    await t.api.post(`/api/cases/${file.id}/reopen`).expect(200);
    await t.api.post(`/api/results/${id}/withdraw`).expect(200);
  });

  it("why a test was given up stays with it, on its page, in the history and in the file", async () => {
    const x = await newAxis(t);
    const run = await startRun(t, x.id);
    const reason = "the indicator fell off";
    const given = await t.api.post(`/api/runs/${run.id}/abandon`).send({ reason }).expect(200);
    expect(given.body).toMatchObject({ state: "abandoned", reason });
    const history = await t.api.get(`/api/axes/${x.id}/history`).expect(200);
    expect(history.body).toMatchObject({ runs: [{ id: run.id, reason }] });
    const file = await t.api.get(`/api/axes/${x.id}/history/export`).expect(200);
    expect(file.text).toContain(reason);
  });

  it("a retest takes the value of a finished test of its own axis, and of no other", async () => {
    const x = await newAxis(t);
    const y = (
      (await t.api.post(`/api/axes/${x.id}/duplicate`).expect(201)).body as {
        id: number;
      }
    ).id;
    const finished = async (axisId: number): Promise<number> => {
      const run = await startRun(t, axisId, { plan: { runs: 1 } });
      for (const [step, value] of [0, 0.012, 0.004, 0.012, 0.004, 0.012].entries())
        await t.api.post(`/api/runs/${run.id}/readings`).send({
          step,
          value,
          widthMm: 0.001,
          entered: String(value),
          source: "typed",
          spoilt: false,
        });
      const state = ((await t.api.get(`/api/runs/${run.id}`)).body as { state: string }).state;
      if (state === "running") await t.api.post(`/api/runs/${run.id}/finish`).expect(200);
      return run.id;
    };
    const [own, others, open] = [await finished(x.id), await finished(y), (await startRun(t, x.id)).id];
    let job = await openJob(x);
    const next = () => jobProgress(job.plan, job.events).next;
    for (let step = next(); step && step.kind !== "retest-chain"; step = next())
      job = (await t.api.post(`/api/jobs/${job.id}/acts`).send(plainSign(step)).expect(200)).body as Job;
    const retest = next();
    if (!retest) throw new Error("no retest");
    const sign = (runId: number) =>
      t.api.post(`/api/jobs/${job.id}/acts`).send(
        plainSign(retest, {
          figure: { runId, reversalValueMm: 0, expandedMm: 0.001 },
          reason: "as it is",
        }),
      );
    for (const [runId, words] of [
      [others, "is of another axis"],
      [open, "no finished test"],
      [4711, "no finished test 4711"],
    ] as const) {
      const refused = await sign(runId).expect(422);
      expect(refused.body).toMatchObject({
        detail: expect.stringContaining(words) as string,
        errors: [{ path: "figure.runId" }],
      });
    }
    const { reversalValueMm } = (
      (await t.api.get(`/api/axes/${x.id}/history`)).body as {
        runs: { id: number; reversalValueMm: number }[];
      }
    ).runs.find((r) => r.id === own) ?? { reversalValueMm: NaN };
    expect(reversalValueMm).not.toBe(0);
    const signed = (await sign(own).expect(200)).body as Job;
    const event = signed.events.at(-1);
    // What the test says, not what the browser said it says.
    expect(event?.kind === "sign" ? event.figure : null).toMatchObject({
      runId: own,
      reversalValueMm,
    });
  });
});
