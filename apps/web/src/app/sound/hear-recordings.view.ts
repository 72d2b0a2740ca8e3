import type { BandDifference, SoundComparison } from "@iron/core";
import type { Sound, SoundResult } from "@iron/contract";

/** How one recording is played. */
export interface Played {
  readonly gainDb: number;
  /** Middle of the third octave that is let through alone, Hz; null for all. */
  readonly bandHz: number | null;
}

/** No louder than this is a narrow band made, dB. */
const MOST_DB = 24;

const sumDb = (levels: readonly number[]): number => 10 * Math.log10(levels.reduce((s, db) => s + 10 ** (db / 10), 0));

/** Level of what is heard while it moves, of all or of one band, dB of full scale. */
function levelOf({ bands }: SoundResult, midHz: number | null): number {
  const heard = midHz === null ? bands : bands.filter((b) => Math.abs(b.midHz / midHz - 1) < 0.01);
  return sumDb(heard.map((b) => b.movingDb));
}

/**
 * How two recordings are played one after the other: the louder turned down to the other, or both as they are; a band
 * alone is brought up to what all of it was, as far as that goes.
 */
export function playedAs(
  both: readonly (SoundResult | null)[],
  { equally, bandHz }: { readonly equally: boolean; readonly bandHz: number | null },
): readonly Played[] {
  const levels = both.map((r) => (r ? levelOf(r, bandHz) : null));
  const known = levels.filter((l) => l !== null);
  const [least, most] = [Math.min(...known), Math.max(...known)];
  const whole = Math.max(...both.flatMap((r) => (r ? [levelOf(r, null)] : [])));
  const up = bandHz === null || !known.length ? 0 : Math.min(MOST_DB, whole - (equally ? least : most));
  return levels.map((level) => ({ gainDb: up + (equally && level !== null ? least - level : 0), bandHz }));
}

/** The band that differs most, where two were compared. */
export function mostOf(compared: SoundComparison | null): BandDifference | null {
  return compared?.code === "compared" ? compared.most : null;
}

/** Stretches of a recording in which the axis ran, s, for the picture of it. */
export function motionIn({ plan, result }: Sound): readonly { fromS: number; toS: number; label: string }[] {
  if (!result) return [];
  const { startS, eachS } = result.timing;
  return Array.from({ length: plan.passes }, (_, k) => {
    const fromS = startS + k * eachS;
    return { fromS, toS: fromS + eachS - plan.dwellS, label: k % 2 ? "down" : "up" };
  });
}
