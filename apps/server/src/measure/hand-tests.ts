import {
  checkHandTest,
  putShims,
  handTestGrades,
  handTestOpen,
  handTestRefusal,
  handTestSteps,
  simulateHandTestReading,
  type HandTestPlan,
  type Shimmed,
  type HandTestStep,
} from "@iron/core";
import type { HandTest, HandTestPointCreate, shimsSchema } from "@iron/contract";
import { randomUUID } from "node:crypto";
import type { Selectable } from "kysely";
import type * as z from "zod";
import type { DeviceHub } from "../devices/device-hub";
import { conflict, notFound, problem } from "../http/problem-error";
import { standardNormal } from "../diagnosis/chance";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";
import { fromJson, toJson } from "../store/columns";
import type { Tables } from "../store/tables";
import { instant, type Clock } from "../shop/clock";
import type { Machines } from "../machine/machines";

/** How long the simulated machine may take to reach a place before it is given up, ms. */
const PATIENCE_MS = 60_000;

/** Rows of readings: crest runs, gib settings, tram, home and hand tests. Kept as they are taken. */
export class HandTests {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly hub: DeviceHub;
      readonly clock: Clock;
    },
  ) {}

  async start(axisId: number, plan: HandTestPlan, who: string): Promise<HandTest> {
    const { config } = await this.needs.machines.axis(axisId);
    const refusal = handTestRefusal(config, plan.kind);
    if (refusal) throw problem(422, { title: "Not on this axis", detail: refusal });
    checkHandTest(plan, config);
    const { id } = await this.needs.db
      .insertInto("series")
      .values({
        axis_id: axisId,
        kind: plan.kind,
        plan: toJson(plan),
        started_at: instant(this.needs.clock),
        by: who,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    return this.get(id);
  }

  async get(id: number): Promise<HandTest> {
    const row = await this.needs.db.selectFrom("series").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("series of readings", id);
    const points = await this.points([id]);
    return handTestOf(row, points);
  }

  async ofAxis(axisId: number): Promise<HandTest[]> {
    const rows = await this.needs.db
      .selectFrom("series")
      .selectAll()
      .where("axis_id", "=", axisId)
      .orderBy("id", "desc")
      .execute();
    const points = await this.points(rows.map((r) => r.id));
    return rows.map((row) =>
      handTestOf(
        row,
        points.filter((p) => p.series_id === row.id),
      ),
    );
  }

  /** Keeps a reading; the same key again changes nothing. */
  async add(
    id: number,
    point: HandTestPointCreate,
    { who, source = "typed" }: { readonly who: string; readonly source?: "typed" | "device" },
  ): Promise<HandTest> {
    const handTest = await this.get(id);
    if (await isKnownKey(this.needs.db, { table: "series_point", key: point.key, owner: id })) return handTest;
    const step = stepOf(handTest.plan, point.step);
    const grades = handTestGrades(handTest.plan, step.group);
    if (point.value !== null && grades.length > 0 && !(point.value in grades))
      throw problem(422, {
        title: "Not valid",
        detail: `Answer ${point.value} is not there: this step is told in words, 0 to ${grades.length - 1}: ${grades.join("; ")}.`,
      });
    await this.needs.db
      .insertInto("series_point")
      .values({
        series_id: id,
        key: point.key,
        step: point.step,
        value: point.value,
        entered: point.entered,
        source,
        at: instant(this.needs.clock),
        by: who,
      })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    return this.get(id);
  }

  /** Moves the simulated machine to a step and reads it there. */
  async readDevice(id: number, index: number, who: string): Promise<HandTest> {
    const handTest = await this.get(id);
    const step = stepOf(handTest.plan, index);
    const { config } = await this.needs.machines.axis(handTest.axisId);
    const device = await this.needs.hub.device(handTest.axisId);
    if (device.snapshot().moving) throw conflict("The axis is still moving. Wait until it stands.");
    const feedMmMin = Math.min(config.rapidMmMin, 3000);
    if (handTest.plan.kind === "crest-run") {
      await device.command([{ kind: "move", toMm: step.at, feedMmMin }]);
      await device.still(PATIENCE_MS);
    }
    const value = simulateHandTestReading(config, {
      axis: device.model,
      plan: handTest.plan,
      step,
      normal: standardNormal,
    });
    const point = { key: randomUUID(), step: index, value, entered: "" };
    return this.add(id, point, { who, source: "device" });
  }

  /** Puts shims in on the simulated machine, so that the next sweep shows what they do. */
  async shim(axisId: number, put: z.output<typeof shimsSchema>): Promise<void> {
    const { model } = await this.needs.hub.device(axisId);
    const face = FACES[put.shimmed];
    const shims = put.shims.map(({ x, y, mm }) => ({
      at: face.at(x, y),
      push: face.push,
      mm,
    }));
    const shimmed = putShims(model.parts ?? {}, shims);
    const parts = {
      ...shimmed,
      shimmedX: (shimmed.shimmedX ?? 0) + put.turnRad,
    };
    const kept = toJson({ ...model, parts });
    await this.needs.db
      .insertInto("virtual_axis")
      .values({ axis_id: axisId, model: kept })
      .onConflict((c) => c.column("axis_id").doUpdateSet({ model: kept }))
      .execute();
    await this.needs.hub.forget(axisId);
  }

  private points(ids: readonly number[]): Promise<Selectable<Tables["series_point"]>[]> {
    if (ids.length === 0) return Promise.resolve([]);
    return this.needs.db.selectFrom("series_point").selectAll().where("series_id", "in", ids).orderBy("id").execute();
  }
}

type Point = readonly [x: number, y: number, z: number];

/** Where the bolts of a part stand in space, and which way a shim pushes it. */
const FACES: Record<Shimmed, { readonly push: Point; readonly at: (x: number, y: number) => Point }> = {
  "column-base": { push: [0, 0, 1], at: (x, y) => [x, y, -900] },
  "gantry-legs": { push: [0, 0, 1], at: (x, y) => [x, y, -600] },
  "hanging-head": { push: [0, 0, -1], at: (x, y) => [x, y, 200] },
  "vertical-flange": { push: [0, -1, 0], at: (x, y) => [x, 150, y] },
};

function stepOf(plan: HandTestPlan, index: number): HandTestStep {
  const steps = handTestSteps(plan);
  if (index >= steps.length)
    throw problem(422, {
      title: "Not valid",
      detail: `Step ${index} is not in this series: it has steps 0 to ${steps.length - 1}.`,
    });
  return steps[index];
}

function handTestOf(
  row: Selectable<Tables["series"]>,
  points: readonly Selectable<Tables["series_point"]>[],
): HandTest {
  const plan = fromJson(row.plan);
  const values: (number | null)[] = [];
  for (const p of points) values[p.step] = p.value;
  const done = handTestOpen(plan, values).length === 0;
  return {
    id: row.id,
    axisId: row.axis_id,
    plan,
    state: done ? "finished" : "running",
    startedAt: row.started_at,
    by: row.by,
    points: points.map(({ step, value, source, at, by }) => ({ step, value, source, at, by })),
  };
}
