import { studentQuantile } from "../quantity";
import { decibels, levelDb } from "./decibels";
import type { SoundBand } from "./sound-levels";

/** One side of a comparison. */
export interface ComparedSound {
  readonly feedMmMin: number;
  /** Telephone or tablet set its own gain: its levels mean nothing beside others’. */
  readonly ownGain: boolean;
  readonly bands: readonly SoundBand[];
  /** Ways that its levels are means of. */
  readonly ways: number;
}

export interface BandDifference {
  readonly midHz: number;
  /** How much louder the first is, moving, without what stands, dB. */
  readonly differenceDb: number;
  /** Expanded, k of 95 %, dB. */
  readonly uDb: number;
  /** What of it comes of the scatter of the ways, as a standard uncertainty, dB; the rest is the same in every band. */
  readonly waysDb: number;
  /** Beyond its U: one band in twenty is by chance. */
  readonly differs: boolean;
}

export type SoundComparison =
  | { readonly code: "feed-differs"; readonly feeds: readonly [number, number] }
  | { readonly code: "own-gain" }
  | {
      readonly code: "compared";
      /** Degrees of freedom of the scatter of the ways. */
      readonly freedom: number;
      readonly bands: readonly BandDifference[];
      /** Of all bands together. */
      readonly whole: Omit<BandDifference, "midHz">;
      /** The band that differs most beyond its U; null where none does. */
      readonly most: BandDifference | null;
    };

/** Feeds that differ by more than this are not compared. */
export const FEED_ALIKE = 0.02;
/**
 * How alike two recordings were made: without the telephone being touched, laid down again at its place, or on another
 * machine, at a place that is like it.
 */
export type Laid = "untouched" | "again" | "elsewhere";

/** By how it was laid, each recording is louder or quieter for no reason of the axis: standard uncertainty (no source), dB. */
const LAID_DB: Readonly<Record<Laid, number>> = { untouched: 0.3, again: 1, elsewhere: 2 };

/** Moving without standing, dB, and its standard uncertainty from the scatter of the ways. */
function axisAlone({ movingDb, stillDb, scatterDb }: SoundBand): readonly [level: number, u: number] {
  const ratio = 10 ** ((stillDb - movingDb) / 10);
  // A band that hardly rises over the room says how loud the axis is at most.
  const left = Math.max(1 - ratio, 0.05);
  return [movingDb + decibels(left), Math.min(6, scatterDb / left)];
}

function wholeOf({ bands }: ComparedSound): SoundBand {
  const sum = (of: (b: SoundBand) => number): number => bands.reduce((s, b) => s + 10 ** (of(b) / 10), 0);
  const moving = sum((b) => b.movingDb);
  const scatter = Math.sqrt(bands.reduce((s, b) => s + (b.scatterDb * (10 ** (b.movingDb / 10) / moving)) ** 2, 0));
  return { midHz: 0, movingDb: levelDb(moving), stillDb: levelDb(sum((b) => b.stillDb)), scatterDb: scatter };
}

/**
 * Two recordings beside each other, band by band: a sister axis, the same axis before, or its other direction.
 * @param first - a recording
 * @param second - what it is held against
 * @param laid - how the telephone lay: untouched for the two directions of one recording, elsewhere for a sister
 * @returns how much louder the first is, each with its U; or why they cannot be compared
 * @example
 * const band = { midHz: 1000, movingDb: -30, stillDb: -60, scatterDb: 0.3 };
 * const sound = { feedMmMin: 5000, ownGain: false, bands: [band], ways: 6 };
 * compareSounds(sound, { ...sound, feedMmMin: 6000 }).code // "feed-differs"
 */
export function compareSounds(first: ComparedSound, second: ComparedSound, laid: Laid = "again"): SoundComparison {
  const feeds = [first.feedMmMin, second.feedMmMin] as const;
  if (Math.abs(feeds[0] / feeds[1] - 1) > FEED_ALIKE) return { code: "feed-differs", feeds };
  if (first.ownGain || second.ownGain) return { code: "own-gain" };
  const freedom = Math.max(2, first.ways + second.ways - 2);
  const k = studentQuantile(0.05, freedom);
  const between = (a: SoundBand, b: SoundBand): BandDifference => {
    const [[la, ua], [lb, ub]] = [axisAlone(a), axisAlone(b)];
    const waysDb = Math.hypot(ua, ub);
    const uDb = k * Math.hypot(waysDb, Math.SQRT2 * LAID_DB[laid]);
    return { midHz: a.midHz, differenceDb: la - lb, uDb, waysDb, differs: Math.abs(la - lb) > uDb };
  };
  const bands = first.bands.map((band, i) => between(band, second.bands[i]));
  const { midHz: _, ...whole } = between(wholeOf(first), wholeOf(second));
  const beyond = bands.filter((b) => b.differs);
  const most = beyond.length
    ? beyond.reduce((a, b) => (Math.abs(b.differenceDb) / b.uDb > Math.abs(a.differenceDb) / a.uDb ? b : a))
    : null;
  return { code: "compared", freedom, bands, whole, most };
}
