import type { JobKindId } from "./step-kind";

/** Jobs after which an axis runs in: it turns round with more friction for some weeks (common practice, no source). */
const RUNS_IN: readonly JobKindId[] = [
  "fixed-bearings",
  "support-bearing",
  "screw",
  "ball-nut",
  "nut-bearing",
  "carriages",
];

/**
 * Does an axis run in after this job?
 * @param kind - the job
 * @returns whether bearings, nut, screw or carriages are fresh after it
 * @example jobRenews("fixed-bearings") // true
 */
export function jobRenews(kind: JobKindId): boolean {
  return RUNS_IN.includes(kind);
}
