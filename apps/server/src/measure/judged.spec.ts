import { defaultAxis, defaultHandTest, handTestResult, tramBolts, tramShims, type TramResult } from "@iron/core";
import type { Axis, Run, HandTest } from "@iron/contract";
import Database from "better-sqlite3";
import { Kysely, Migrator, SqliteDialect } from "kysely";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { systemClock } from "../shop/clock";
import { Machines } from "../machine/machines";
import { Runs } from "./runs";
import { openDatabase } from "../store/database";
import { MIGRATIONS } from "../store/migrations";
import { newAxis, startRun, testApp, type TestApp } from "../testing/test-app";

describe("what a result hangs on", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  async function finished(values: readonly number[]): Promise<Run> {
    let run = await startRun(t, (await newAxis(t)).id, { plan: { runs: 1 } });
    for (const [step, value] of values.entries()) {
      const body = {
        source: "typed",
        step,
        value,
        widthMm: 0.001,
        entered: String(value),
        spoilt: false,
      };
      run = (await t.api.post(`/api/runs/${run.id}/readings`).send(body).expect(201)).body as Run;
    }
    return run;
  }
  const last = async (): Promise<number> =>
    (await t.api.get("/api/floor")).body.machines[0].axes[0].last.reversalValueMm;

  it("the sense of the needle can be turned afterwards: readings stay, the result and the floor follow", async () => {
    const run = await finished([0, 0, -0.02]);
    expect(await last()).toBeCloseTo(-0.02, 9);
    const turned = (
      await t.api.put(`/api/runs/${run.id}/sense`).set("x-working-as", "Ama").send({ sense: -1 }).expect(200)
    ).body as Run;
    expect(turned.readings.map((r) => r.value)).toEqual([0, 0, -0.02]);
    expect(turned.setup.note).toContain("Sense of the needle turned by Ama");
    expect(await last()).toBeCloseTo(0.02, 9);
    const bad = await t.api.put(`/api/runs/${run.id}/sense`).send({ sense: 0 }).expect(422);
    expect(bad.body.detail).toContain("Sense must be 1 or -1.");
  });

  it("places commanded by an inch program are noted before readings, and not after", async () => {
    const run = await startRun(t, (await newAxis(t)).id, { plan: { runs: 1 } });
    const inch = { system: "inch", decimals: 4 };
    const noted = (await t.api.put(`/api/runs/${run.id}/commanded`).send(inch).expect(200)).body as Run;
    expect(noted.setup.commanded).toEqual(inch);
    for (const [step, value] of [0, 0.001].entries())
      await t.api
        .post(`/api/runs/${run.id}/readings`)
        .send({
          source: "typed",
          step,
          value,
          widthMm: 0.001,
          entered: String(value),
          spoilt: false,
        })
        .expect(201);
    await t.api.put(`/api/runs/${run.id}/commanded`).send(inch).expect(200);
    const late = await t.api
      .put(`/api/runs/${run.id}/commanded`)
      .send({ ...inch, decimals: 5 })
      .expect(409);
    expect(late.body.detail).toContain("Readings have been taken already");
  });

  it("finished tests are worked out anew once after the evaluation has changed", async () => {
    const run = await finished([0, 0, 0.02]);
    await t.db.updateTable("run").set({ lost_mm: 9, expanded_mm: 9 }).where("id", "=", run.id).execute();
    const runs = new Runs(t.db, new Machines(t.db, systemClock), systemClock);
    expect(await runs.reevaluate()).toBe(1);
    expect(await last()).toBeCloseTo(0.02, 9);
    expect(await runs.reevaluate()).toBe(0);
  });

  it("a program lifts the tip over its block and stops for zero; what it is lifted by cannot be the tested axis", async () => {
    const axis = await newAxis(t);
    await t.api
      .post(`/api/machines/${axis.machineId}/axes`)
      .send({ config: defaultAxis("vertical-centre", "Z") })
      .expect(201);
    const run = await startRun(t, axis.id);
    const ask = (over: string) =>
      t.api.get(`/api/runs/${run.id}/gcode?letter=X&feedMmMin=1000&dwellS=3&system=metric&dwellWord=P-seconds${over}`);
    const { text } = await ask("").expect(200);
    expect(text).toContain("M0 (lift the tip off)");
    expect(text).toContain("M0 (set the indicator to zero, then start)");
    const same = await ask("&lift=axis&clearanceLetter=X").expect(422);
    expect(same.body.detail).toContain("X");
    expect((await ask("&lift=axis&clearanceLetter=Z&zeroBy=dwell").expect(200)).text).not.toMatch(/^M0\b/m);
    for (const [over, words] of [
      ["&lift=axis&clearanceLetter=W", "This machine has no axis W: it has Z, X."],
      ["&lift=axis&clearanceLetter=Z&clearMm=-9999", "the travel of Z"],
      ["&letter=Z", "letter"],
      ["&feedMmMin=0.4", "feed"],
      ["&word=Y", "A program writes axis X as X"],
    ]) {
      const refused = await ask(over).expect(422);
      expect(JSON.stringify(refused.body)).toContain(words);
    }
  });

  it("the program of an axis with a digit moves that axis, as its control writes it, or is refused in words", async () => {
    const first = await newAxis(t, "Z");
    const second = await t.api
      .post(`/api/machines/${first.machineId}/axes`)
      .send({ config: defaultAxis("vertical-centre", "Z2") })
      .expect(201);
    const run = await startRun(t, (second.body as { id: number }).id);
    const ask = (over: string) =>
      t.api.get(`/api/runs/${run.id}/gcode?feedMmMin=1000&dwellS=3&system=metric&dwellWord=P-seconds&${over}`);
    expect((await ask("letter=Z2").expect(422)).body.detail).toContain("say how the control writes axis Z2: Z2=, X, Y");
    expect((await ask("letter=Z").expect(422)).body.detail).toContain("This test is of axis Z2");
    const { text } = await ask("letter=Z2&word=Z2%3D").expect(200);
    expect(text).toMatch(/^G1 Z2=180\.000 F1000/m);
    expect(text).not.toMatch(/^G[01] Z(?!2=)/m);
    expect((await ask("letter=Z2&word=W").expect(200)).text).toMatch(/^G1 W180\.000 F1000/m);
    await ask("letter=Z2&word=Z").expect(422);
  });

  it("a machine made in inches has limits in round inches", async () => {
    const machine = {
      nickname: "Rook",
      bay: "2",
      kind: "vertical-centre",
      hoursPerWeek: 40,
      note: "",
      letters: ["X"],
      units: "inch",
    };
    const made = await t.api.post("/api/machines").send(machine).expect(201);
    const [axis] = (await t.api.get(`/api/machines/${made.body.id}`).expect(200)).body.axes as Axis[];
    expect((axis.config.limits.repairMm / 25.4) * 1000).toBeCloseTo(1, 9);
  });

  it("a column shimmed by what a sweep says sweeps flat on the simulated machine", async () => {
    const made = await t.api
      .post("/api/machines")
      .send({
        nickname: "Rook",
        bay: "2",
        kind: "bench-mill",
        hoursPerWeek: 10,
        note: "",
        letters: ["Z"],
      })
      .expect(201);
    const [axis] = (await t.api.get(`/api/machines/${made.body.id}`)).body.axes as Axis[];
    const plan = {
      ...defaultHandTest(axis.config, "tram"),
      spanMm: 240,
      depthMm: 150,
      resolutionMm: 0.001,
    };
    const bolts = tramBolts("column-base", 180, 140);
    const sweep = async (): Promise<TramResult> => {
      const begun = await t.api.post(`/api/axes/${axis.id}/series`).send({ plan }).expect(201);
      let now = begun.body as HandTest;
      for (let step = 0; step < 4; step += 1)
        now = (await t.api.post(`/api/series/${now.id}/device`).send({ step }).expect(200)).body as HandTest;
      const result = handTestResult(axis.config, plan, { values: now.points.map((p) => p.value) });
      if (result?.kind !== "tram") throw new Error("no sweep");
      return result.tram;
    };
    const worst = (swept: TramResult): number => Math.max(...swept.slopes.map((s) => Math.abs(s.slope)));
    const putIn = (mm: readonly number[], turnRad = 0) =>
      t.api.post(`/api/axes/${axis.id}/device/shims`).send({
        shimmed: "column-base",
        shims: bolts.map((b, i) => ({ x: b.x, y: b.y, mm: mm[i] })),
        turnRad,
      });
    // Somebody left chips under two of its bolts.
    await putIn([0.3, 0.12, 0, 0]).expect(200);
    const before = await sweep();
    expect(before.code).toBe("out");
    const first = tramShims(before.slopes, {
      shimmed: "column-base",
      supports: bolts,
    });
    await putIn(
      first.bolts.map((b) => b.shims.sumMm),
      first.turnRad,
    ).expect(200);
    const after = await sweep();
    expect(after.code).toBe("square");
    expect(worst(after)).toBeLessThan(worst(before) / 10);
    const bad = await t.api
      .post(`/api/axes/${axis.id}/device/shims`)
      .send({
        shimmed: "column-base",
        shims: bolts.slice(0, 2).map(({ x, y }) => ({ x, y, mm: 0.1 })),
      })
      .expect(422);
    expect(bad.body.detail).toContain("at least three bolts");
  });

  it("an older database gets limits by each axis’ drive where nobody chose them, and keeps those somebody chose", async () => {
    const folder = mkdtempSync(join(tmpdir(), "iron-old-"));
    const file = new Database(join(folder, "iron-patience.sqlite"));
    const old = new Kysely<unknown>({
      dialect: new SqliteDialect({ database: file }),
    });
    const migrator = new Migrator({
      db: old,
      provider: { getMigrations: async () => MIGRATIONS },
    });
    expect((await migrator.migrateTo("0008_keep")).error).toBeUndefined();
    file.exec(
      `insert into machine (id, nickname, bay, kind, hours_per_week, note) values (1, 'Knot', '8', 'router', 40, '')`,
    );
    const { enteredMm: _, ...config } = defaultAxis("router", "Z");
    const rack = { leaveMm: 0.05, compensateMm: 0.08, repairMm: 0.1 };
    for (const [id, setBy] of [
      [1, "default"],
      [2, "Ama"],
    ] as const)
      file
        .prepare(
          `insert into axis (id, machine_id, config, updated_at, updated_by) values (?, 1, ?, '2026-01-01T00:00:00.000Z', 'Ama')`,
        )
        .run(
          id,
          JSON.stringify({
            ...config,
            letter: id === 1 ? "Z" : "Y",
            limits: { ...config.limits, ...rack, setBy },
          }),
        );
    await old.destroy();
    const db = await openDatabase(folder);
    const rows = await db.selectFrom("axis").select(["id", "config"]).orderBy("id").execute();
    const [followed, chosen] = rows.map((r) => JSON.parse(r.config) as Axis["config"]);
    expect(followed.limits.repairMm).toBe(defaultAxis("router", "Z").limits.repairMm);
    expect(followed.limits.repairMm).toBeLessThan(rack.repairMm);
    expect(chosen.limits.repairMm).toBe(rack.repairMm);
    expect(followed.enteredMm).toBe(0);
    await db.destroy();
    rmSync(folder, { recursive: true });
  });
});
