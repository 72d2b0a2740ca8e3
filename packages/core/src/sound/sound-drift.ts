import { conformity, stateOfConformity, studentQuantile, type AxisState } from "../quantity";
import type { Laid, SoundComparison } from "./compare-sounds";

/**
 * How much louder than when it was well an axis may be in any band, dB. In watching machines, twice the amplitude (6 dB)
 * is commonly a change that wants a look (common practice, no source); 10 dB are heard as about twice as loud (the sone
 * scale, from memory).
 */
export const SOUND_GROWTH = { leaveDb: 6, actDb: 10 } as const;

/** How far a sound has grown since the axis was well, where it grew most. */
export interface SoundDrift {
  /** Middle of the third octave; null for all of it together. */
  readonly midHz: number | null;
  /** Louder than when it was well, dB; below 0 it is quieter. */
  readonly louderDb: number;
  /** Expanded, about 95 % for all bands together, dB. */
  readonly uDb: number;
  /** By the one decision rule, between {@link SOUND_GROWTH}. */
  readonly state: AxisState;
  /** Louder for sure by more than can be left: what the floor tells. */
  readonly grown: boolean;
}

/** Where a telephone lies is the same place if it is called the same. */
const placed = (place: string): string => place.trim().toLowerCase().replace(/\s+/g, " ");

/**
 * How alike two recordings of one axis were made, by what was said of where the telephone lay.
 * @param one - where it lay
 * @param other - where it lay for the other
 * @returns laid down again at its place, or elsewhere
 * @example laidBy("On the column", "on the column ") // "again"
 */
export function laidBy(one: string, other: string): Laid {
  return placed(one) === placed(other) ? "again" : "elsewhere";
}

/**
 * Judges how a recording has grown louder than the one of the axis when it was well. Of all bands and the whole, the one
 * that is surely grown most is judged; since the most of many is picked, the scatter of the ways is taken for all of them
 * together (Bonferroni), while what the place of the telephone does is the same in every band.
 * @param said - the recording beside that of when it was well
 * @returns where it has grown and how far; null where the two cannot be compared
 * @example soundDrift({ code: "own-gain" }) // null
 */
export function soundDrift(said: SoundComparison): SoundDrift | null {
  if (said.code !== "compared") return null;
  const k = studentQuantile(0.05, said.freedom);
  const kOfAll = studentQuantile(0.05 / (said.bands.length + 1), said.freedom);
  const [most] = [{ ...said.whole, midHz: null }, ...said.bands]
    .map(({ midHz, differenceDb, uDb, waysDb }) => ({
      midHz,
      louderDb: differenceDb,
      uDb: Math.sqrt(uDb ** 2 + (kOfAll ** 2 - k ** 2) * waysDb ** 2),
    }))
    .sort((a, b) => b.louderDb - b.uDb - (a.louderDb - a.uDb));
  const judged = conformity(
    // What has become quieter has not grown.
    { reversalValueMm: Math.max(0, most.louderDb), expandedMm: most.uDb },
    { leaveMm: SOUND_GROWTH.leaveDb, repairMm: SOUND_GROWTH.actDb },
  );
  const grown = most.louderDb - most.uDb > SOUND_GROWTH.leaveDb;
  return { ...most, state: stateOfConformity(judged), grown };
}
