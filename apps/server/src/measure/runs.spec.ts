import type { Run } from "@iron/contract";
import { sql } from "kysely";
import { newAxis, SETUP, startRun, testApp, type TestApp } from "../testing/test-app";

describe("tests and readings over the API", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  const typed = (step: number, value: number, spoilt = false) => ({
    source: "typed",
    step,
    value,
    widthMm: 0.001,
    entered: String(value),
    spoilt,
  });
  const take = async (run: Run, body: object, status = 201) =>
    (await t.api.post(`/api/runs/${run.id}/readings`).set("x-working-as", "Ama").send(body).expect(status)).body;
  const typeAll = async (run: Run, values: number[]): Promise<Run> => {
    let now = run;
    for (const [i, v] of values.entries()) now = await take(run, typed(i, v));
    return now;
  };

  it("finishes by itself with the last reading and enters the history and the floor", async () => {
    const axis = await newAxis(t);
    const done = await typeAll(await startRun(t, axis.id), [0, 0, 0.027, 0.001, 0.027, 0, 0.028]);
    expect(done.state).toBe("finished");
    const history = (await t.api.get(`/api/axes/${axis.id}/history`)).body;
    expect(history.runs).toHaveLength(1);
    expect(history.runs[0]).toMatchObject({
      kind: "two-sided",
      by: "Ilse",
      readings: 7,
      placeMm: 180,
    });
    expect(history.runs[0].reversalValueMm).toBeCloseTo(0.027, 9);
    expect((await t.api.get("/api/floor")).body.machines[0].axes[0].last.reversalValueMm).toBeCloseTo(0.027, 9);
  });

  it("keeps a spoilt reading as spoilt and asks for the step again", async () => {
    const run = await startRun(t, (await newAxis(t)).id);
    await take(run, typed(0, 0));
    const after = await take(run, typed(1, 0.9, true));
    expect(after.readings[1]).toMatchObject({
      state: "spoilt",
      reason: expect.stringContaining("passed before stopping"),
    });
    const again = await take(run, typed(1, 0.001));
    expect(again.readings).toHaveLength(3);
  });

  it("takes each step once, whoever asks", async () => {
    const run = await startRun(t, (await newAxis(t)).id);
    await take(run, typed(0, 0));
    const late = await take(run, typed(0, 0.5), 409);
    expect(late.detail).toContain("already has its reading");
    expect(late.current.readings).toHaveLength(1);
  });

  it("sets a reading aside with the reason, takes it back, and reopens a finished test", async () => {
    const axis = await newAxis(t);
    const run = await startRun(t, axis.id, { plan: { runs: 1 } });
    const done = await typeAll(run, [0, 0, 0.02]);
    const last = done.readings[2];
    const aside = (
      await t.api.post(`/api/readings/${last.id}/discard`).send({ reason: "bumped the stand" }).expect(200)
    ).body;
    expect(aside).toMatchObject({
      state: "running",
      readings: [{}, {}, { state: "discarded", reason: "bumped the stand" }],
    });
    expect((await t.api.get(`/api/axes/${axis.id}/history`)).body.runs[0].reversalValueMm).toBeNull();
    const back = (await t.api.post(`/api/readings/${last.id}/restore`).expect(200)).body;
    expect(back).toMatchObject({
      state: "finished",
      readings: [{}, {}, { state: "kept" }],
    });
    await t.api.post(`/api/readings/${last.id}/restore`).expect(409);
    const zero = await t.api.post(`/api/readings/${done.readings[0].id}/discard`).send({ reason: "" }).expect(409);
    expect(zero.body.detail).toContain("hang on this zero");
  });

  it("ends early with a result, or not without one; gives up", async () => {
    const axis = await newAxis(t);
    const run = await startRun(t, axis.id);
    await typeAll(run, [0, 0]);
    expect((await t.api.post(`/api/runs/${run.id}/finish`).expect(422)).body.detail).toContain("read from both sides");
    await take(run, typed(2, 0.02));
    expect((await t.api.post(`/api/runs/${run.id}/finish`).expect(200)).body.state).toBe("finished");
    const other = await startRun(t, axis.id);
    expect((await t.api.post(`/api/runs/${other.id}/abandon`).send({ reason: "" }).expect(200)).body.state).toBe(
      "abandoned",
    );
    await take(other, typed(0, 0), 409);
  });

  it("refuses plans and readings that cannot be, naming value and bound", async () => {
    const axis = await newAxis(t);
    const plan = {
      kind: "two-sided",
      targetsMm: [5],
      runs: 3,
      overTravelMm: 20,
      tickMm: 0.001,
      ticksOut: 50,
      keepsZero: false,
    };
    const answer = await t.api.post(`/api/axes/${axis.id}/runs`).send({ plan, setup: SETUP }).expect(422);
    expect(answer.body.detail).toBe(
      "place is 5: it must be from 20 to 480 mm, so that the 20 mm over-travel stays inside the travel of 0 to 500 mm.",
    );
    const run = await startRun(t, axis.id);
    await take(run, { ...typed(0, 0), widthMm: 0 }, 422);
    await take(run, { source: "typed", step: 0 }, 422);
    await take(run, { ...typed(0, 0), value: null }, 422);
  });

  it("never changes or deletes a reading", async () => {
    const run = await startRun(t, (await newAxis(t)).id);
    await take(run, typed(0, 0));
    await expect(sql`update reading set value = 1`.execute(t.db)).rejects.toMatchObject({
      message: expect.stringContaining("append-only"),
    });
    await expect(sql`delete from reading`.execute(t.db)).rejects.toMatchObject({
      message: expect.stringContaining("append-only"),
    });
    await expect(
      sql`insert into reading (run_id, step, value, width_mm, entered, source, spoilt, reason, at, by) values (999, 0, 0, 0, '', '', 0, '', '', '')`.execute(
        t.db,
      ),
    ).rejects.toMatchObject({
      message: expect.stringMatching(/foreign key/i) as string,
    });
  });

  const csv = "place_mm,approach,run,reading_um\n100,+,1,0\n100,-,1,21\n300,+,1,1\n300,-,1,24\n";
  const importing = (text: string) => ({
    fileName: "a.csv",
    text,
    setup: SETUP,
    keepsZero: true,
    overTravelMm: 20,
  });

  it("imports a file once, with its profile", async () => {
    const axis = await newAxis(t);
    const first = (await t.api.post(`/api/axes/${axis.id}/import`).send(importing(csv)).expect(201)).body;
    expect(first).toMatchObject({ duplicate: false, readings: 4 });
    const again = (
      await t.api
        .post(`/api/axes/${axis.id}/import`)
        .send(importing(csv.replaceAll(",", ";")))
        .expect(201)
    ).body;
    expect(again).toEqual({ ...first, duplicate: true });
    const history = (await t.api.get(`/api/axes/${axis.id}/history`)).body;
    expect(history.runs).toHaveLength(1);
    expect(history.runs[0]).toMatchObject({ imported: true, placeMm: 300 });
    expect(history.runs[0].reversalValueMm).toBeCloseTo(0.023, 9);
  });

  it("keeps nothing of a file with a wrong row, and says line and column", async () => {
    const axis = await newAxis(t);
    const answer = await t.api
      .post(`/api/axes/${axis.id}/import`)
      .send(importing(csv.replace("24", "x")))
      .expect(422);
    expect(answer.body.errors).toEqual([{ path: "line 5, reading_um", message: "“x” is not a number." }]);
    expect((await t.api.get(`/api/axes/${axis.id}/history`)).body.runs).toEqual([]);
  });

  it("gives readings, history and program out as files", async () => {
    const axis = await newAxis(t);
    const run = await startRun(t, axis.id, { plan: { runs: 1 } });
    await typeAll(run, [0, 0, 0.02]);
    await t.api
      .post(`/api/axes/${axis.id}/events`)
      .send({
        kind: "repair",
        text: "New bearings",
        at: "2026-03-03T07:40:00Z",
      })
      .expect(201);
    const file = await t.api.get(`/api/runs/${run.id}/export?format=csv&system=inch`).expect(200);
    expect(file.headers["content-disposition"]).toContain(".csv");
    expect(file.text).toContain("place_in,approach,run,reading_in");
    expect(file.text).toContain("7.08661417,-,1,0.00078740");
    const history = await t.api.get(`/api/axes/${axis.id}/history/export?format=csv`).expect(200);
    expect(history.text).toContain("New bearings");
    expect(history.text).toContain("lost_mm");
    const json = JSON.parse((await t.api.get(`/api/axes/${axis.id}/history/export?format=json`).expect(200)).text);
    expect(json.tests[0].readings).toHaveLength(3);
    const gcode = await t.api
      .get(`/api/runs/${run.id}/gcode?letter=X&feedMmMin=1000&dwellS=3&system=metric&dwellWord=P-seconds`)
      .expect(200);
    expect(gcode.text).toContain("G1 X180.000 F1000");
    const bad = await t.api
      .get(`/api/runs/${run.id}/gcode?letter=X&feedMmMin=99000&dwellS=3&system=metric&dwellWord=P-seconds`)
      .expect(422);
    expect(bad.body.detail).toContain("feed is 99000");
  });
});
