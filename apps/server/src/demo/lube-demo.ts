import { intervalDays, templatePoints, type AxisConfig, type FoundState } from "@iron/core"; // prettier-ignore
import { randomUUID } from "node:crypto";
import type { Db } from "../store/database";
import { toJson } from "../store/tables";
import { SHOP } from "./shop";

const DAY_MS = 86_400_000;
/** Found at the last visits, oldest first, where a point has a tale of its own. */
const TALES: Readonly<Record<string, { readonly found: readonly FoundState[]; readonly lastDaysAgo?: number }>> = {
  // Over-greased for two years, and nobody noticed.
  "Godwit X ball nut": { found: ["right", "flooded", "flooded", "flooded"] },
  // Forgotten since its ladder was moved.
  "Heron Y counterweight chain": { found: ["right"], lastDaysAgo: 290 },
  "Knot X slide and cage": { found: ["right", "dry"] },
}; // prettier-ignore

/** Lubrication points of a demo machine with two years of visits. */
export async function seedPoints(
  db: Db,
  machine: { readonly id: number; readonly nickname: string; readonly hoursPerWeek: number }, // prettier-ignore
  axes: readonly AxisConfig[],
  now: Date,
): Promise<void> {
  const points = templatePoints(axes);
  for (const [i, point] of points.entries()) {
    const tale = (TALES as Readonly<Partial<typeof TALES>>)[`${machine.nickname} ${point.place}`]; // prettier-ignore
    const { id } = await db
      .insertInto("lube_point")
      .values({
        machine_id: machine.id,
        point: toJson(point),
        since: new Date(now.getTime() - 730 * DAY_MS).toISOString(),
      }) // prettier-ignore
      .returning("id")
      .executeTakeFirstOrThrow();
    const usage = { hoursPerDay: machine.hoursPerWeek / 7, kmPerDay: 0 };
    const every = intervalDays(point.rule, usage).days;
    // Spread over the interval, a few days before or after their time.
    const age = tale?.lastDaysAgo ?? every * (0.12 + 0.84 * (((machine.id * 7 + i * 5) % 17) / 17)); // prettier-ignore
    const found = tale?.found ?? (["right", "right"] as const);
    const rows = found.map((state, k) => ({
      key: randomUUID(),
      point_id: id,
      found: state,
      dose: point.dose,
      glitter: 0,
      words: "",
      at: new Date(now.getTime() - (age + (found.length - 1 - k) * every) * DAY_MS).toISOString(), // prettier-ignore
      by: SHOP.people[(i + k) % SHOP.people.length],
    }));
    await db.insertInto("lube_visit").values(rows).execute();
  }
}
