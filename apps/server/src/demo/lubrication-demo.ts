import { dayOf, intervalDays, templatePoints, type AxisConfig, type FoundState, type MachineKind } from "@iron/core";
import type { LubricationSettingsEdit, LubricantEdit } from "@iron/contract";
import { randomUUID } from "node:crypto";
import type { Db } from "../store/database";
import { toJson } from "../store/columns";
import { SHOP } from "./shop";

const DAY_MS = 86_400_000;
/** Found at the last visits, oldest first, where a point has a tale of its own. */
const TALES: Readonly<Record<string, { readonly found: readonly FoundState[]; readonly lastDaysAgo?: number }>> = {
  // Over-greased for two years, and nobody noticed.
  "Godwit X ball nut": { found: ["right", "flooded", "flooded", "flooded"] },
  // Forgotten since its ladder was moved.
  "Heron Y counterweight chain": { found: ["right"], lastDaysAgo: 290 },
  "Knot X slide and cage": { found: ["right", "dry"] },
};

/** Lubrication points of a demo machine with two years of visits. */
export async function seedPoints(
  db: Db,
  {
    machine,
    axes,
    now,
  }: {
    readonly machine: {
      readonly id: number;
      readonly kind: MachineKind;
      readonly nickname: string;
      readonly hoursPerWeek: number;
    };
    readonly axes: readonly AxisConfig[];
    readonly now: Date;
  },
): Promise<void> {
  const points = templatePoints(axes, { kind: machine.kind });
  for (const [i, point] of points.entries()) {
    const tale = (TALES as Readonly<Partial<typeof TALES>>)[`${machine.nickname} ${point.place}`];
    const { id } = await db
      .insertInto("lube_point")
      .values({
        machine_id: machine.id,
        point: toJson(point),
        since: new Date(now.getTime() - 730 * DAY_MS).toISOString(),
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    const usage = { hoursPerDay: machine.hoursPerWeek / 7, kmPerDay: 0 };
    const every = intervalDays(point.rule, usage).days;
    // Spread over the interval, a few days before their time, and never today: what is done today is done by whoever looks.
    const age = tale?.lastDaysAgo ?? Math.max(1, every * (0.12 + 0.84 * (((machine.id * 7 + i * 5) % 17) / 17)));
    const found = tale?.found ?? (["right", "right"] as const);
    const rows = found.map((state, k) => ({
      key: randomUUID(),
      point_id: id,
      found: state,
      dose: point.dose,
      glitter: 0,
      words: "",
      at: new Date(now.getTime() - (age + (found.length - 1 - k) * every) * DAY_MS).toISOString(),
      by: SHOP.people[(i + k) % SHOP.people.length],
    }));
    await db.insertInto("lube_visit").values(rows).execute();
  }
}

const CLOSED = {
  containerG: 0,
  leadDays: 7,
  reserveG: 0,
  thickener: null,
  base: "mineral",
  nlgi: null,
  viscosity: null,
} as const;
const LUBRICANTS: readonly (LubricantEdit & { readonly stockG: number })[] = [
  {
    ...CLOSED,
    name: "grease, lithium, NLGI 2",
    kind: "grease",
    thickener: "lithium",
    nlgi: 2,
    containerG: 400,
    reserveG: 150,
    stockG: 1000,
  },
  {
    ...CLOSED,
    name: "grease, polyurea, NLGI 2",
    kind: "grease",
    thickener: "polyurea",
    nlgi: 2,
    containerG: 400,
    reserveG: 0,
    stockG: 400,
  },
  {
    ...CLOSED,
    name: "way oil, ISO VG 68",
    kind: "oil",
    viscosity: 68,
    containerG: 18_000,
    reserveG: 4000,
    stockG: 21_000,
  },
  { ...CLOSED, name: "light oil, ISO VG 32", kind: "oil", viscosity: 32, containerG: 900, reserveG: 300, stockG: 320 },
  {
    ...CLOSED,
    name: "chain oil, ISO VG 100",
    kind: "oil",
    viscosity: 100,
    containerG: 900,
    reserveG: 100,
    stockG: 700,
  },
];

/** Lubricants on the shelf, a weighed gun, a holiday, and what the hour meters said each month. */
export async function seedLubrication(db: Db, now: Date): Promise<void> {
  for (const { stockG, ...spec } of LUBRICANTS) {
    const { id } = await db
      .insertInto("lubricant")
      .values({ name: spec.name, spec: toJson(spec) })
      .returning("id")
      .executeTakeFirstOrThrow();
    await db
      .insertInto("lube_stock")
      .values({
        key: randomUUID(),
        lubricant_id: id,
        kind: "count",
        grams: stockG,
        at: now.toISOString(),
        by: SHOP.people[0],
      })
      .execute();
  }
  const machines = await db.selectFrom("machine").select(["id", "hours_per_week"]).execute();
  for (const m of machines)
    for (let month = 5; month >= 0; month -= 1) {
      const at = new Date(now.getTime() - (month * 28 + 1) * DAY_MS);
      await db
        .insertInto("meter_reading")
        .values({
          key: randomUUID(),
          machine_id: m.id,
          date: dayOf(at),
          reset: 0,
          hours: Math.round(2500 * m.id + m.hours_per_week * (4 * (5 - month) + (((month * 3 + m.id) % 5) - 2) / 5)),
          at: at.toISOString(),
          by: SHOP.people[m.id % SHOP.people.length],
        })
        .execute();
    }
  const settings: LubricationSettingsEdit = {
    version: 1,
    minutesByWeekday: [90, 90, 90, 90, 60, 0, 0],
    holidays: [],
    method: "all",
    windows: [],
    travel: [],
    bays: [],
    guns: [
      {
        name: "gun at bay 1",
        weighings: [
          { strokes: 10, grams: 8.1 },
          { strokes: 10, grams: 7.9 },
          { strokes: 10, grams: 8.0 },
        ],
      },
    ],
  };
  await db
    .insertInto("setting")
    .values({ key: "keep", value: JSON.stringify(settings) })
    .execute();
}
