import { causeById } from "./causes";
import { NOTHING_WRONG } from "./context";
import type { Posterior } from "./infer";
import { LEVELS } from "./knowledge";
import { USUAL_CANDOUR } from "./reports";
import { FINDINGS, type FindingId } from "../measure/findings";

/** What a closed case really was: the causes found. */
export interface ClosedCase {
  readonly found: readonly string[];
  /** Probability each cause, and that nothing is wrong, had before anything was tested: of {@link expectedOf}. */
  readonly expected: Readonly<Record<string, number>>;
  /** What was told to be so without a test, where somebody was asked for all that was noticed. */
  readonly told?: readonly FindingId[];
}

/**
 * What a case is expected to come to before anything is tested, to be held against what it came to.
 * @param posterior - of what was told, with the shop’s candour but without the factors it has learned
 * @returns probability of each cause, and of {@link NOTHING_WRONG}
 * @example
 * const known = infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] });
 * expectedOf(known)[NOTHING_WRONG] === known.noFault // true
 */
export function expectedOf({ causes, marginals, noFault }: Posterior): Readonly<Record<string, number>> {
  return { ...Object.fromEntries(causes.map((c, i) => [c.id, marginals[i]])), [NOTHING_WRONG]: noFault };
}

/** Cases that the shipped priors count for: so many are needed before the shop's own weigh as much. */
export const PRIOR_CASES = 12;

/**
 * Factors on the priors from a shop's closed cases: found against expected, each drawn towards 1 as
 * by a number of earlier cases (a gamma–Poisson rate ratio). One case moves no cause by more than a
 * twelfth.
 * @param cases - closed cases: what was found, and what was expected of each cause at the start
 * @returns a factor for each cause that occurs, and for {@link NOTHING_WRONG}
 * @example learnedFactors([]) // {}
 */
export function learnedFactors(cases: readonly ClosedCase[]): Readonly<Record<string, number>> {
  const found: Record<string, number> = {};
  const expected: Record<string, number> = {};
  for (const one of cases) {
    for (const id of one.found) found[id] = (found[id] ?? 0) + 1;
    // Of a case closed before this was counted nothing was expected: it says nothing of how often that is.
    const counted = one.expected[NOTHING_WRONG] !== undefined;
    if (counted && one.found.every((id) => causeById(id)?.normal))
      found[NOTHING_WRONG] = (found[NOTHING_WRONG] ?? 0) + 1;
    for (const [id, p] of Object.entries(one.expected)) expected[id] = (expected[id] ?? 0) + p;
  }
  const factors: Record<string, number> = {};
  for (const id of new Set([...Object.keys(found), ...Object.keys(expected)]))
    factors[id] = (PRIOR_CASES + (found[id] ?? 0)) / (PRIOR_CASES + (expected[id] ?? 0));
  return factors;
}

/** What the causes found show of what is asked for: how many things may be expected, and how many of those were told. */
function shownAndTold({ found, told = [] }: ClosedCase): readonly [shown: number, told: number] {
  const causes = found.flatMap((id) => causeById(id) ?? []);
  let [expected, said] = [0, 0];
  for (const { id, asked } of FINDINGS) {
    if (!asked) continue;
    let quiet = 1;
    for (const cause of causes) {
      const level = cause.shows[id];
      if (level) quiet *= 1 - LEVELS[level].probability;
    }
    if (quiet === 1) continue;
    expected += 1 - quiet;
    said += Number(told.includes(id));
  }
  return [expected, said];
}

/** What the causes of a case show on average, of what is asked for: so many things for each case the usual counts for. */
const SHOWN_EACH = 1.7;

/**
 * Of what its causes show, how much is told in a shop: told against what the causes found in its closed cases show,
 * drawn towards the usual as by {@link PRIOR_CASES} earlier ones (the gamma–Poisson rate ratio of the priors, over again).
 * Cases that found nothing, or in which nobody was asked for all, say nothing of it.
 * @param cases - closed cases, with what was told
 * @returns 0 to 1
 * @example learnedCandour([]) // 0.52
 */
export function learnedCandour(cases: readonly ClosedCase[]): number {
  let [shown, told] = [PRIOR_CASES * SHOWN_EACH, PRIOR_CASES * SHOWN_EACH * USUAL_CANDOUR];
  for (const one of cases) {
    if (!one.told) continue;
    const [expected, said] = shownAndTold(one);
    shown += expected;
    told += said;
  }
  return Math.min(1, told / shown);
}
