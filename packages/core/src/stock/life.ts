import { gamma } from "simple-statistics";

/** How long a part lasts: Weibull, with the hours that half of them outlive. */
export interface PartLife {
  readonly medianHours: number;
  /** 1: by chance at any age; above 1: by age. */
  readonly shape: number;
}

/** Hours after which 63 % are gone, from the median. */
const scaleOf = ({ medianHours, shape }: PartLife): number => medianHours / Math.LN2 ** (1 / shape);

/**
 * Chance that a part is wanted within so many hours of running. Of known age: that one which has lasted so long does
 * not last the window. Of unknown age: the long run of parts renewed one after the other, the window over the mean
 * life, at most 1.
 * Source: Weibull, “A statistical distribution function of wide applicability”, 1951; the elementary renewal theorem
 * (both from memory).
 * @param life - of the part
 * @param options - `ageHours`: hours it has run, null where nobody knows; `windowHours`: hours looked ahead
 * @returns chance, 0 to 1
 * @example wantedChance({ medianHours: 8000, shape: 1 }, { ageHours: 0, windowHours: 8000 }) // 0.5
 */
export function wantedChance(
  life: PartLife,
  { ageHours, windowHours }: { readonly ageHours: number | null; readonly windowHours: number },
): number {
  const scale = scaleOf(life);
  if (ageHours === null) return Math.min(1, windowHours / (scale * gamma(1 + 1 / life.shape)));
  const gone = (hours: number): number => (hours / scale) ** life.shape;
  return -Math.expm1(gone(ageHours) - gone(ageHours + windowHours));
}
