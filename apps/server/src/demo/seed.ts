import {
  axisFromParts,
  chainLostMotion,
  evaluateRun,
  profileTargets,
  travelPerTurnMm,
  soundFrictionN,
  virtualAxisOf,
  type AxisConfig,
  type HiddenCondition,
  type Indicator,
  type PartsCondition,
  type TestPlan,
  type VirtualAxis,
} from "@iron/core";
import type { RunSetup } from "@iron/contract";
import type { Db } from "../store/database";
import { demoMachine } from "./circle-demo";
import { seedLubrication, seedPoints } from "./lubrication-demo";
import { toJson } from "../store/columns";
import type { DemoAxis, PastTest } from "./demo-axis";
import { INDICATORS, MACHINES, SHOP } from "./shop";
import { simulateTest } from "./simulated-run";

const WEEK_MS = 7 * 86_400_000;
const MINUTE_MS = 60_000;

/** The virtual axis whose loss, in the middle or where it is worn, is `lostUm`. */
export function conditionOf(demo: DemoAxis, lostUm: number, seed: number): VirtualAxis {
  const { config, culprit, hidden } = demo;
  if (config.feedback === "scale") return virtualAxisOf(config, { ...hidden, nut: 0.006 }, seed);
  const windUpMm = chainLostMotion(virtualAxisOf(config, hidden, seed).links);
  const missing = Math.max(0, lostUm / 1000 - windUpMm);
  const add = (more: HiddenCondition): VirtualAxis => virtualAxisOf(config, { ...hidden, ...more }, seed);
  if (culprit !== "wear") return add({ [culprit]: missing });
  const middle = config.travelMm / 2;
  return add({
    wear: {
      linkId: "nut",
      centreMm: middle,
      widthMm: config.travelMm / 5,
      extraMm: missing,
    },
  });
}

/** What a link's loss is to an ear and a hand: the parts behind the dead bands of {@link conditionOf}. */
function partsOf(demo: DemoAxis, model: VirtualAxis): PartsCondition {
  const band = (id: string): number => model.links.find((l) => l.id === id)?.deadBandMm ?? 0;
  const common = { frictionN: soundFrictionN(demo.config), nutNewMm: band("nut") };
  switch (demo.culprit) {
    case "endBearings":
      return { ...common, retainerGapMm: band("end-bearings") };
    case "coupling":
      return { ...common, couplingSlipMm: band("coupling") };
    case "bracket":
      return { ...common, bracketSlipMm: band("bracket") };
    case "wear":
      return { ...common, screwWearMm: model.wear?.extraMm ?? 0 };
    case "nut":
      return common;
  }
}

/** The axis as it is today. */
export function presentAxis(demo: DemoAxis, seed: number): VirtualAxis {
  if (demo.parts) return { ...axisFromParts(demo.config, demo.parts, seed), ...demo.lead };
  const model = conditionOf(demo, demo.past.at(-1)?.lostUm ?? 40, seed);
  return { ...model, ...demo.lead, parts: partsOf(demo, model) };
}

function planOf(config: AxisConfig, { kind = "two-sided", places = 5 }: PastTest): TestPlan {
  const overTravelMm = Math.min(30, Math.floor(config.travelMm / 10));
  const profile = kind === "travel-profile";
  const targetsMm = profile
    ? profileTargets(config.travelMm, { count: places, overTravelMm, perTurnMm: travelPerTurnMm(config) })
    : [Math.round(config.travelMm / 20) * 10];
  return {
    kind,
    targetsMm,
    runs: 5,
    overTravelMm,
    tickMm: config.tickMm,
    ticksOut: 50,
    keepsZero: profile,
  };
}

async function seedRun(
  db: Db,
  {
    axisId,
    demo,
    past,
    seed,
    atMs,
    by,
  }: {
    readonly axisId: number;
    readonly demo: DemoAxis;
    readonly past: PastTest;
    readonly seed: number;
    readonly atMs: number;
    readonly by: string;
  },
): Promise<void> {
  const plan = planOf(demo.config, past);
  const { kind } = plan;
  const edit = INDICATORS[plan.keepsZero ? 4 : 0];
  const indicator: Indicator = edit;
  const setup: RunSetup = {
    indicator: edit,
    tipAngleDeg: 0,
    sense: 1,
    surface: plan.keepsZero ? "reference scale" : "gauge block",
    temperatureC: 19 + (seed % 4),
    note: "",
  };
  const readings = simulateTest({ ...conditionOf(demo, past.lostUm, seed), ...demo.lead }, plan, indicator).map(
    (r) => ({
      ...r,
      widthMm: edit.resolutionMm,
      state: "kept" as const,
    }),
  );
  const result = evaluateRun(plan, readings, {
    resolutionMm: edit.resolutionMm,
    tipAngleDeg: 0,
    sense: 1,
  });
  if (!result) throw new Error("a demo test gave no result");
  const minutes = kind === "travel-profile" ? 38 : 11;
  const at = (i: number): string =>
    new Date(atMs - (minutes * MINUTE_MS * (readings.length - i)) / readings.length).toISOString();
  await insertPastRun(db, { axisId, kind, plan, setup, atMs, by, result, readings, at });
}

interface PastRun {
  readonly axisId: number;
  readonly kind: TestPlan["kind"];
  readonly plan: TestPlan;
  readonly setup: RunSetup;
  readonly atMs: number;
  readonly by: string;
  readonly result: NonNullable<ReturnType<typeof evaluateRun>>;
  readonly readings: readonly { readonly step: number; readonly value: number; readonly widthMm: number }[];
  /** When the i-th reading was taken. */
  readonly at: (i: number) => string;
}

async function insertPastRun(db: Db, past: PastRun): Promise<void> {
  const { axisId, kind, plan, setup, atMs, by, result, readings, at } = past;
  const { id } = await db
    .insertInto("run")
    .values({
      axis_id: axisId,
      kind,
      plan: toJson(plan),
      setup: toJson(setup),
      state: "finished",
      started_at: at(0),
      finished_at: new Date(atMs).toISOString(),
      by,
      import_hash: null,
      lost_mm: result.reversalValueMm,
      expanded_mm: result.uncertainty.expanded,
      place_mm: result.places[result.governing].positionMm,
    })
    .returning("id")
    .executeTakeFirstOrThrow();
  const rows = readings.map((r, i) => ({
    run_id: id,
    step: r.step,
    value: r.value,
    width_mm: r.widthMm,
    entered: "",
    source: "program" as const,
    spoilt: 0,
    reason: "",
    at: at(i + 1),
    by,
  }));
  await db.insertInto("reading").values(rows).execute();
}

async function seedAxis(
  db: Db,
  {
    machineId,
    demo,
    index,
    now,
  }: { readonly machineId: number; readonly demo: DemoAxis; readonly index: number; readonly now: Date },
): Promise<void> {
  const people = SHOP.people;
  const born = new Date(now.getTime() - 104 * WEEK_MS).toISOString();
  const row = {
    machine_id: machineId,
    config: toJson(demo.config),
    version: 1,
    updated_at: born,
    updated_by: people[0],
    retired_at: null,
  };
  const { id } = await db.insertInto("axis").values(row).returning("id").executeTakeFirstOrThrow();
  const present = presentAxis(demo, 1000 + index);
  await db
    .insertInto("virtual_axis")
    .values({
      axis_id: id,
      model: toJson(present),
      state: null,
      mounted_run_id: null,
    })
    .execute();
  for (const [i, past] of demo.past.entries()) {
    await seedRun(db, {
      axisId: id,
      demo,
      past,
      seed: 100 * index + i,
      atMs: now.getTime() - past.weeksAgo * WEEK_MS,
      by: people[(index + i) % people.length],
    });
  }
  for (const event of demo.events) {
    const at = new Date(now.getTime() - event.weeksAgo * WEEK_MS).toISOString();
    await db
      .insertInto("axis_event")
      .values({
        axis_id: id,
        kind: event.kind,
        text: event.text,
        at,
        by: event.by,
      })
      .execute();
  }
}

/** Fills an empty database with the demo shop; one that already holds machines is left alone. */
export async function seedDemo(db: Db, now: Date): Promise<void> {
  const there = await db.selectFrom("machine").select("id").limit(1).executeTakeFirst();
  if (there) return;
  await db.transaction().execute(async (trx) => {
    for (const [key, value] of Object.entries(SHOP)) {
      await trx
        .insertInto("setting")
        .values({
          key,
          value: typeof value === "string" ? value : JSON.stringify(value),
        })
        .execute();
    }
    for (const edit of INDICATORS) {
      const { name, kind, unit } = edit;
      await trx
        .insertInto("indicator")
        .values({
          name,
          kind,
          unit,
          resolution_mm: edit.resolutionMm,
          tip_angle_deg: edit.tipAngleDeg,
          range_mm: edit.rangeMm,
          retired_at: null,
        })
        .execute();
    }
    let index = 0;
    for (const machine of MACHINES) {
      const { nickname, bay, kind, note } = machine;
      const row = {
        nickname,
        bay,
        kind,
        note,
        hours_per_week: machine.hoursPerWeek,
        version: 1,
        retired_at: null,
      };
      const { id } = await trx.insertInto("machine").values(row).returning("id").executeTakeFirstOrThrow();
      for (const demo of machine.axes) {
        index += 1;
        await seedAxis(trx, { machineId: id, demo, index, now });
      }
      const letters = machine.axes.map((a) => a.config.letter);
      await trx
        .insertInto("virtual_machine")
        .values({ machine_id: id, model: toJson(demoMachine(nickname, letters, id)) })
        .execute();
      await seedPoints(trx, {
        machine: { id, kind: machine.kind, nickname, hoursPerWeek: machine.hoursPerWeek },
        axes: machine.axes.map((a) => a.config),
        now,
      });
    }
    await seedLubrication(trx, now);
  });
}
