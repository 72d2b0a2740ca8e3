import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";

/**
 * Most likely account of the case: no fault, one cause or two.
 * @param posterior - what is known so far
 * @returns its causes, none for no fault, and its probability
 * @example
 * bestHypothesis(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })).causes.length < 3
 * // true
 */
export function bestHypothesis(posterior: Posterior): {
  readonly causes: readonly Cause[];
  readonly probability: number;
} {
  const best = posterior.hypotheses.reduce((a, b) => (b.probability > a.probability ? b : a));
  return { causes: best.members.map((m) => posterior.causes[m]), probability: best.probability };
}
