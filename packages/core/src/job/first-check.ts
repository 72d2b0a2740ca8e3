import { dayOf } from "../quantity";

const DAY_MS = 86_400_000;
/** Fresh parts have settled, and what was left loose shows, after a week (common practice, no source). */
const CHECK_AFTER_DAYS = 7;
/** So long the floor asks for it; later the next measurement says more. */
const CHECK_ASKED_DAYS = 14;

/**
 * The day of the first check after a job.
 * @param finishedMs - when it was signed off, ms
 * @returns the day, “2026-11-26”, by the clock it runs on
 * @example firstCheckOn(Date.parse("2026-11-19T12:00")) // "2026-11-26"
 */
export function firstCheckOn(finishedMs: number): string {
  return dayOf(finishedMs + CHECK_AFTER_DAYS * DAY_MS);
}

/**
 * The days of first checks that are asked for now.
 * @param nowMs - ms
 * @returns after which day, and up to which, a check is due and not stale
 * @example firstChecksAsked(Date.parse("2026-11-26T12:00")) // { after: "2026-11-12", upTo: "2026-11-26" }
 */
export function firstChecksAsked(nowMs: number): { readonly after: string; readonly upTo: string } {
  return { after: dayOf(nowMs - CHECK_ASKED_DAYS * DAY_MS), upTo: dayOf(nowMs) };
}
