import { DEFAULT_OPTIONS, estimateJob, JOB_OF_CAUSE, jobKind, LOOSE_OF_CAUSE, planJob, type Mending } from "@iron/core";
import type { Axis } from "@iron/contract";

/** What was worked out before, by the axis’ data; other data are worked out anew. */
const KNOWN = new Map<string, Record<string, Mending[string]>>();
const MOST = 500;

/**
 * What mending each cause takes on this axis, by the very sheet that Fix would open: the same minutes
 * and the same cost in all three places. Causes that no job mends are not in it.
 */
export function mendingOf(axis: Pick<Axis, "config">, causes: readonly string[]): Mending {
  const key = JSON.stringify(axis.config);
  let known = KNOWN.get(key);
  if (!known) {
    if (KNOWN.size >= MOST) KNOWN.clear();
    known = {};
    KNOWN.set(key, known);
  }
  for (const cause of causes) {
    const kind = JOB_OF_CAUSE[cause];
    if (!kind || cause in known || !jobKind(kind).fits(axis.config)) continue;
    const loose = LOOSE_OF_CAUSE[cause];
    const { letter } = axis.config;
    const estimate = estimateJob(
      planJob({
        axes: [{ letter, config: axis.config }],
        items: [{ letter, kind, loose: loose ? [loose] : [] }],
        options: DEFAULT_OPTIONS,
      }),
    );
    known[cause] = { minutes: estimate.minutes, parts: estimate.partsCost };
  }
  return known;
}
