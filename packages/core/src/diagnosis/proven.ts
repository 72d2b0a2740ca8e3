import type { AxisConfig } from "../machine/axis";
import { bestHypothesis } from "./best-hypothesis";
import type { Magnitude } from "./components";
import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";
import { seenBy } from "./slack";

/** Probability at which a screw or nut may be condemned, once something has proven the link. */
const CONDEMN = 0.9;

/**
 * A screw or nut that is named but not yet proven: it must not be bought.
 * @param posterior - what is known so far
 * @returns the cause; null where none is named
 * @example unprovenPart(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })) // null
 */
export function unprovenPart(posterior: Posterior): Cause | null {
  const { causes } = bestHypothesis(posterior);
  for (const cause of causes) {
    if (cause.remedy.costClass !== 3 || !cause.provenBy) continue;
    if (!mayCondemn(posterior, cause)) return cause;
  }
  return null;
}

function isProven(posterior: Posterior, cause: Cause): boolean {
  const { reports, magnitudes, axis } = posterior.evidence;
  return (cause.provenBy ?? []).some((proof) =>
    proof === "nut-flank"
      ? flankIsTheNuts(axis, magnitudes)
      : reports.some((r) => r.finding === proof && r.present && (r.source === "test" || proof === "howl")),
  );
}

/**
 * What a flank reading leaves for nut and thread once what moves with them is taken off: the bracket, measured by
 * itself. Where the nut turns, nothing tells its own bearings from it.
 */
function flankIsTheNuts(axis: AxisConfig, magnitudes: readonly Magnitude[]): boolean {
  const latest = (kind: Magnitude["kind"]): Magnitude | undefined => magnitudes.findLast((m) => m.kind === kind);
  const flank = latest("nut-flank");
  const besides = seenBy(axis, "nut-flank").filter((s) => s !== "nut" && s !== "wear");
  const bracket = besides.includes("bracket") ? latest("bracket-shift") : undefined;
  if (!flank || besides.some((s) => s !== "bracket" || !bracket)) return false;
  const left = flank.reversalValueMm - Math.max(0, bracket?.reversalValueMm ?? 0);
  return left - 2 * Math.hypot(flank.uMm, bracket?.uMm ?? 0) > axis.limits.leaveMm / 3;
}

/**
 * Whether a screw or nut may be bought on this: probable enough, and seen by what proves it.
 * @param posterior - what is known so far
 * @param cause - one of its causes
 * @returns false while it is only likely
 * @example
 * const posterior = infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] });
 * mayCondemn(posterior, causeById("nut-worn")) // false
 */
export function mayCondemn(posterior: Posterior, cause: Cause): boolean {
  return posterior.marginals[posterior.causes.indexOf(cause)] >= CONDEMN && isProven(posterior, cause);
}
