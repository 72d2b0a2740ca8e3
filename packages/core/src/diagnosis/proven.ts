import { bestHypothesis } from "./best-hypothesis";
import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";

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
      ? magnitudes.some((m) => m.kind === "nut-flank" && m.reversalValueMm - 2 * m.uMm > axis.limits.leaveMm / 3)
      : reports.some((r) => r.finding === proof && r.present && (r.source === "test" || proof === "howl")),
  );
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
