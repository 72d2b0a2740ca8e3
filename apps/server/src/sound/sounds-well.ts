import {
  compareSounds,
  laidBy,
  soundDrift,
  wellBefore,
  type KeptSound,
  type SoundBand,
  type SoundDrift,
  type SoundTrouble,
} from "@iron/core";
import type { FloorAxis } from "@iron/contract";
import { sql } from "kysely";
import { fromJson, type Json } from "../store/columns";
import type { Db } from "../store/database";

/** What makes a recording say nothing of the axis. */
const MUTE: readonly SoundTrouble["code"][] = ["motion-not-heard", "too-quiet", "clipped"];

/** Can something be said of the axis by a recording with these troubles? */
export const isHeard = (troubles: readonly SoundTrouble[]): boolean => !troubles.some((t) => MUTE.includes(t.code));

/** Is a recording kept as how its axis sounds when it is well? The last word says; null where nobody said. */
export const lastWell = sql<number | null>`(
  select well from sound_well where sound_well.sound_id = sound.id order by sound_well.id desc limit 1)`;

/** A motor that ran alone says nothing of how its axis sounds. */
export const isCoupled = sql<boolean>`cast(json_extract(sound.plan, '$.motorAlone') as text) is distinct from '1'`;

/** A recording of which something can be said. */
interface Usable extends KeptSound {
  readonly axisId: number;
  readonly place: string;
  readonly ownGain: boolean;
}

/** Recordings of axes as far as they can be held beside each other, the newest first. */
async function usableOf(db: Db, axisIds: readonly number[]): Promise<Usable[]> {
  const rows = await db
    .selectFrom("sound")
    .innerJoin("sound_result", "sound_result.sound_id", "sound.id")
    .leftJoin("sound_aside", "sound_aside.sound_id", "sound.id")
    .select(["sound.id", "sound.axis_id", "sound.at", "sound.plan", "sound.place", "sound.own_gain"])
    .select(sql<Json<SoundTrouble[]>>`json_extract(sound_result.result, '$.troubles')`.as("troubles"))
    .select(lastWell.as("well"))
    .where("sound.axis_id", "in", axisIds)
    .where("sound_aside.sound_id", "is", null)
    .where("sound_result.result", "is not", null)
    .where(isCoupled)
    .orderBy("sound.at", "desc")
    .orderBy("sound.id", "desc")
    .execute();
  return rows
    .filter((r) => isHeard(fromJson(r.troubles)))
    .map(({ id, axis_id: axisId, at, plan, place, own_gain, well }) => ({
      ...{ id, axisId, at, place, well: well === 1, feedMmMin: fromJson(plan).feedMmMin },
      // Where nobody knows whether the microphone turned itself up, it may have.
      ownGain: own_gain !== 0,
    }));
}

/** When somebody worked on an axis. */
interface Work {
  readonly axis_id: number;
  readonly at: string;
}

export type WellDrift = SoundDrift & { readonly wellId: number };

/** Recordings, each with the one of when its axis was well, and how it has grown since. */
async function driftsOf(
  db: Db,
  pairs: readonly (readonly [one: Usable, well: Usable])[],
): Promise<ReadonlyMap<number, WellDrift>> {
  const drifts = new Map<number, WellDrift>();
  if (pairs.length === 0) return drifts;
  const rows = await db
    .selectFrom("sound_result")
    .select("sound_id")
    .select(sql<Json<SoundBand[]>>`json_extract(result, '$.bands')`.as("bands"))
    .select(sql<number>`json_extract(result, '$.ways')`.as("ways"))
    .where("sound_id", "in", [...new Set(pairs.flat().map((s) => s.id))])
    .orderBy("sound_id")
    .execute();
  const worked = new Map(rows.map((r) => [r.sound_id, { bands: fromJson(r.bands), ways: Number(r.ways) }]));
  for (const [one, well] of pairs) {
    const [now, then] = [worked.get(one.id), worked.get(well.id)];
    if (!now || !then) continue;
    const drift = soundDrift(compareSounds({ ...one, ...now }, { ...well, ...then }, laidBy(one.place, well.place)));
    if (drift) drifts.set(one.id, { ...drift, wellId: well.id });
  }
  return drifts;
}

/** How every recording of an axis has grown since the axis was well. */
export async function wellDrifts(db: Db, axisId: number): Promise<ReadonlyMap<number, WellDrift>> {
  const usable = await usableOf(db, [axisId]);
  if (!usable.some((s) => s.well)) return new Map();
  const works = await db
    .selectFrom("axis_event")
    .select("at")
    .where("kind", "in", ["repair", "adjustment"])
    .where("axis_id", "=", axisId)
    .orderBy("id")
    .execute();
  const at = works.map((w) => w.at);
  return driftsOf(
    db,
    usable.flatMap((one) => {
      const well = wellBefore(one, usable, at);
      return well ? [[one, well] as const] : [];
    }),
  );
}

/**
 * What the floor knows of how axes sound.
 * @param lastWorks - the last work on each axis
 */
export async function floorSounds(
  db: Db,
  axisIds: readonly number[],
  lastWorks: readonly Work[],
): Promise<(axisId: number) => FloorAxis["sound"]> {
  const usable = new Map<number, Usable[]>();
  for (const one of await usableOf(db, axisIds)) usable.set(one.axisId, [...(usable.get(one.axisId) ?? []), one]);
  const works = new Map(lastWorks.map((w) => [w.axis_id, w.at]));
  const since = (axisId: number): readonly Usable[] =>
    (usable.get(axisId) ?? []).filter((s) => s.at > (works.get(axisId) ?? ""));
  const pairs = [...usable.keys()].flatMap((axisId) => {
    const [last, ...before] = since(axisId);
    const well = before.length > 0 ? wellBefore(last, before, []) : null;
    // Kept as well itself, it is what later ones are held beside.
    return well && !last.well ? [[last, well] as const] : [];
  });
  const drifts = await driftsOf(db, pairs);
  return (axisId) => {
    const workedAt = works.get(axisId) ?? null;
    const ever = usable.has(axisId);
    if (!ever && workedAt === null) return null;
    const last = since(axisId).at(0);
    const drift = last && drifts.get(last.id);
    const grown = drift?.grown
      ? {
          ...{ soundId: last?.id ?? 0, midHz: drift.midHz, louderDb: drift.louderDb, uDb: drift.uDb },
          over: drift.state === "act",
        }
      : null;
    return { lastAt: last?.at ?? null, workedAt, ever, grown };
  };
}
