/** What a closed case really was: the causes found. */
export interface ClosedCase {
  readonly found: readonly string[];
  /** Probability each cause had before anything was tested. */
  readonly expected: Readonly<Record<string, number>>;
}

/** Cases that the shipped priors count for: so many are needed before the shop's own weigh as much. */
export const PRIOR_CASES = 12;

/**
 * Factors on the priors from a shop's closed cases: found against expected, each drawn towards 1 as
 * by a number of earlier cases (a gamma–Poisson rate ratio). One case moves no cause by more than a
 * twelfth.
 * @param cases - closed cases: what was found, and what was expected of each cause at the start
 * @returns a factor for each cause that occurs
 * @example learnedFactors([]) // {}
 */
export function learnedFactors(cases: readonly ClosedCase[]): Readonly<Record<string, number>> {
  const found: Record<string, number> = {};
  const expected: Record<string, number> = {};
  for (const one of cases) {
    for (const id of one.found) found[id] = (found[id] ?? 0) + 1;
    for (const [id, p] of Object.entries(one.expected)) expected[id] = (expected[id] ?? 0) + p;
  }
  const factors: Record<string, number> = {};
  for (const id of new Set([...Object.keys(found), ...Object.keys(expected)]))
    factors[id] = (PRIOR_CASES + (found[id] ?? 0)) / (PRIOR_CASES + (expected[id] ?? 0));
  return factors;
}
