import type { LubricationPoint } from "./types";

/**
 * A point that nobody is known to have seen to is due now; what does most harm first, the rest spread over the first
 * weeks, so that the first round is no mountain. Common practice, no source; the days are ours.
 */
const FIRST_DUE_DAYS: Readonly<Record<LubricationPoint["weight"], number>> = { 3: 0, 2: 7, 1: 14 };

/**
 * Days from when a point is begun to be kept until its first visit is due, where it is not known when it was last done.
 * Never later than its own interval.
 * @param weight - how bad it is when it is forgotten
 * @param intervalDays - its interval
 * @returns days
 * @example firstDueDays(3, 182) // 0
 */
export function firstDueDays(weight: LubricationPoint["weight"], intervalDays: number): number {
  return Math.min(FIRST_DUE_DAYS[weight], intervalDays);
}
