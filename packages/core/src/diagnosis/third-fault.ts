import type { Cause } from "./knowledge";
import { logSum } from "./components";
import { modesOf, ShareMixture } from "./share-mixture";
import { type Posterior } from "./infer";
import { logReports, reportTerms, slackShowsAs } from "./reports";
import { soundFactor } from "./sound-evidence";
import { chanceOfLoss } from "./loss-chance";

/** How often three faults come together, against all cases (common practice, no source). */
const THREE_PRIOR = 0.02;
/** Pairs that a third cause is joined to; a triple with no likely pair in it is not likely. */
const PAIRS = 30;
/** Share sizes tried of each cause: three of them multiply. */
const NODES = 4;

export interface ThirdFault {
  /** The likeliest three together. */
  readonly causes: readonly Cause[];
  /** Probability that three are needed, against none, one or two. */
  readonly probability: number;
  readonly examined: number;
}

/**
 * Do three faults together account for the evidence better than none, one or two? Every cause is
 * joined to each of the likeliest pairs, scored as {@link infer} scores a pair. The probability is a
 * lower bound, since triples of unlikely pairs are left out.
 * @param posterior - what is known so far
 * @returns the likeliest three and their probability; null where an axis has fewer than three causes
 * @example
 * thirdFault(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] }))?.causes.length
 * // 3
 */
export function thirdFault(posterior: Posterior): ThirdFault | null {
  const { causes, priors, evidence, model, latents } = posterior;
  if (causes.length < 3) return null;
  const modes = modesOf(model, evidence.magnitudes);
  const reports = reportTerms(latents, posterior.normals);
  const shows = slackShowsAs(evidence.axis);
  const heard = soundFactor(evidence, causes);
  const lossMatters = latents.said.has(shows);
  const logAllTriples = Math.log(THREE_PRIOR) - Math.log(tripleSum(priors));
  const mixtures = new Map<string, ShareMixture>();
  const sharesOf = (members: readonly number[]): ShareMixture => {
    const sharing = members.filter((m) => causes[m].share);
    const key = sharing
      .map((m) => `${causes[m].share?.slack}${causes[m].share?.um.join()}`)
      .sort()
      .join("|");
    const there = mixtures.get(key);
    if (there) return there;
    const made = new ShareMixture(
      modes,
      sharing.map((m) => causes[m]),
      NODES,
    );
    mixtures.set(key, made);
    return made;
  };
  const seen = new Set<string>();
  const scored: { members: readonly number[]; log: number }[] = [];
  const pairs = [...posterior.hypotheses]
    .filter((h) => h.members.length === 2)
    .sort((a, b) => b.probability - a.probability)
    .slice(0, PAIRS);
  for (const pair of pairs)
    for (let third = 0; third < causes.length; third += 1) {
      if (pair.members.includes(third) || causes[third].normal) continue;
      const members = [...pair.members, third].sort((a, b) => a - b);
      const key = members.join();
      if (seen.has(key)) continue;
      seen.add(key);
      const mixture = sharesOf(members);
      const loss = lossMatters ? chanceOfLoss(evidence.axis, model, mixture.components) : 0;
      const logPrior = logAllTriples + members.reduce((sum, m) => sum + Math.log(priors[m]), 0);
      scored.push({
        members,
        log:
          logPrior +
          mixture.log +
          logReports(reports, { members, lossChance: loss, slackFinding: shows }) +
          Math.log(heard({ members, slight: false })),
      });
    }
  if (scored.length === 0) return null;
  const best = scored.reduce((a, b) => (b.log > a.log ? b : a));
  const three = logSum(scored.map((s) => s.log));
  return {
    causes: best.members.map((m) => causes[m]),
    probability: 1 / (1 + Math.exp(posterior.logEvidence - three)),
    examined: scored.length,
  };
}

/** Sum over all triples of the product of their weights (Newton’s identities). */
function tripleSum(weights: readonly number[]): number {
  const power = (k: number): number => weights.reduce((sum, w) => sum + w ** k, 0);
  return (power(1) ** 3 - 3 * power(1) * power(2) + 2 * power(3)) / 6;
}
