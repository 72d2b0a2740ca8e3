import { needsMotion, type LocateTest, type Report } from "@iron/core";
import type { Tried } from "./diagnosis-case";

const STANDS: Report = { finding: "no-motion", present: true, source: "test" };
/** Log likelihood of what cannot be. */
const NEVER = -50;

/**
 * What a test answers on an axis that does not move at all, where it needs it to: that, and nothing else.
 * @param test - which test
 * @param stands - an override at zero or an interlock holds the axis
 * @returns the answer; null where the test can be made
 */
export function answerStanding(test: LocateTest, stands: boolean): Tried | null {
  return stands && needsMotion(test.id) ? { test: test.id, reports: [STANDS], magnitude: null } : null;
}

/**
 * Log likelihood of an answer by whether the axis moves.
 * @param answer - what a test said
 * @param stands - nothing moves the axis
 * @returns null where it says something of the axis beyond that
 */
export function logStanding({ test, reports }: Tried, stands: boolean): number | null {
  if (!needsMotion(test)) return null;
  if (reports.includes(STANDS)) return stands ? 0 : NEVER;
  return stands ? NEVER : null;
}
