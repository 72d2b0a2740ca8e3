import { mean } from "../quantity";
import type { PlaceResult } from "./result";

/** Where along the travel the loss is worse, and by how much more than elsewhere. */
export interface WorseRegion {
  readonly where: "middle" | "lower end" | "upper end";
  readonly fromMm: number;
  readonly toMm: number;
  readonly peakMm: number;
  readonly excessMm: number;
  readonly expandedMm: number;
}

function standardUncertainty(places: readonly PlaceResult[]): number {
  return Math.hypot(...places.map((p) => p.uncertainty.u)) / places.length;
}

/**
 * The region where the profile is worse, if the difference is larger than its uncertainty
 * (k = 2, widened by √2 for having picked the peak). A peak inside the travel is held against both
 * ends, a peak at an end against the rest. Needs five places.
 */
export function worseRegion(
  places: readonly PlaceResult[],
): WorseRegion | null {
  if (places.length < 5) return null;
  const loss = places.map((p) => Math.abs(p.lostMm));
  const peak = loss.indexOf(Math.max(...loss));
  const last = places.length - 1;
  const atEnd = peak === 0 || peak === last;
  const quarter = Math.max(1, Math.floor(places.length / 5));
  const baseline = places.filter((_, i) =>
    atEnd ? Math.abs(i - peak) > last / 2 : i < quarter || i > last - quarter,
  );
  const others = baseline.filter((p) => p !== places[peak]);
  if (others.length === 0) return null;
  const base = mean(others.map((p) => Math.abs(p.lostMm)));
  const excessMm = loss[peak] - base;
  const u = Math.hypot(places[peak].uncertainty.u, standardUncertainty(others));
  const expandedMm = 2 * Math.SQRT2 * u;
  if (excessMm <= expandedMm) return null;
  let from = peak;
  let to = peak;
  while (from > 0 && loss[from - 1] > base + excessMm / 2) from -= 1;
  while (to < last && loss[to + 1] > base + excessMm / 2) to += 1;
  const where = from === 0 ? "lower end" : to === last ? "upper end" : "middle";
  return {
    where,
    fromMm: places[from].positionMm,
    toMm: places[to].positionMm,
    peakMm: places[peak].positionMm,
    excessMm,
    expandedMm,
  };
}
