import { lossTrend } from "../../measure/reversal";

/** One part of one circle, when it was taken: value and U in the kind’s own unit. */
export interface PartThen {
  readonly atMs: number;
  readonly value: number;
  readonly u: number;
}

/** Growth of a part for 30 days, in its own unit. */
export interface PartTrend {
  readonly perMonth: number;
  readonly u: number;
}

/** Ratios and times are small numbers: they are weighed as they would be on a kilometre, or in milliseconds. */
const LARGE = 1e6;

/**
 * Does a part grow from circle to circle? A line weighed by what each circle knows; it is told only where its slope is more
 * than chance.
 * @param then - the same part of at least three circles, in the order they were taken
 * @returns growth a month with U; null where it cannot be told or is no more than chance
 * @example partTrend([]) // null
 */
export function partTrend(then: readonly PartThen[]): PartTrend | null {
  const trend = lossTrend(
    then.map(({ atMs, value, u }) => ({ atMs, reversalValueMm: LARGE * Math.abs(value), expandedMm: LARGE * u })),
    Infinity,
  );
  return trend?.significant ? { perMonth: trend.perMonthMm / LARGE, u: trend.expandedPerMonthMm / LARGE } : null;
}
