import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";

interface BestAccount {
  readonly causes: readonly Cause[];
  readonly probability: number;
}

/** Asked for by everything that is said of a case. */
const ACCOUNTS = new WeakMap<Posterior, BestAccount>();

/** From this chance on a normal thing is named beside what else is there. */
const NAMED_BESIDE = 0.5;

/**
 * Most likely account of the case: no fault, one cause or two; with what is normal and was noticed besides.
 * @param posterior - what is known so far
 * @returns its causes, none for no fault, and its probability
 * @example
 * bestHypothesis(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })).causes.length < 3
 * // true
 */
export function bestHypothesis(posterior: Posterior): BestAccount {
  const known = ACCOUNTS.get(posterior);
  if (known) return known;
  const best = bestOf(posterior);
  ACCOUNTS.set(posterior, best);
  return best;
}

function bestOf(posterior: Posterior): BestAccount {
  // One cause is one account, whether it is plain or has only begun.
  const chances = new Map<string, number>();
  const keyOf = ({ members }: { readonly members: readonly number[] }): string => members.join();
  for (const h of posterior.hypotheses) chances.set(keyOf(h), (chances.get(keyOf(h)) ?? 0) + h.probability);
  const chance = (h: { readonly members: readonly number[] }): number => chances.get(keyOf(h)) ?? 0;
  const best = posterior.hypotheses.reduce((a, b) => (chance(b) > chance(a) ? b : a));
  const beside = posterior.normals
    .map((n) => n.index)
    .filter((i) => !best.members.includes(i) && posterior.marginals[i] > NAMED_BESIDE);
  return { causes: [...best.members, ...beside].map((m) => posterior.causes[m]), probability: chance(best) };
}
