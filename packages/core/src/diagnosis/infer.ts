import {
  besideChance,
  latentOf,
  latentTable,
  logReports,
  reportTerms,
  silenceAt,
  slackShowsAs,
  type Account,
  type LatentTable,
  type Normal,
  type ReportTerms,
  USUAL_CANDOUR,
} from "./reports";
import type { Evidence } from "./evidence";
import type { AxisConfig } from "../machine/axis";
import { AFFINITIES, CAUSES } from "./causes";
import { logSum, slackModel, type Magnitude, type SlackModel } from "./components";
import { modesOf, ShareMixture } from "./share-mixture";
import { NO_SHOP_PRIORS, NOTHING_WRONG, priorWeight, UNKNOWN_CONTEXT } from "./context";
import type { FindingId } from "../measure/findings";
import { causeFits, type Cause } from "./knowledge";
import { chanceOfLoss } from "./loss-chance";
import { soundFactor } from "./sound-evidence";

/** How many faults a case has before anything is known of it (common practice, no source). */
export const FAULT_COUNT_PRIOR = [0.12, 0.74, 0.14] as const;

/** No fault, one or two causes, with probability. Indices into {@link Posterior.causes}. */
export interface Hypothesis extends Account {
  readonly probability: number;
  /** Which set of shares it implies: hypotheses with the same one share their measurements' fit. */
  readonly shareSet: number;
}

export interface Posterior {
  readonly evidence: Evidence;
  readonly causes: readonly Cause[];
  readonly hypotheses: readonly Hypothesis[];
  /** Probability of each cause, alone or with another. */
  readonly marginals: readonly number[];
  readonly noFault: number;
  readonly model: SlackModel;
  readonly shareSets: readonly ShareMixture[];
  /** Log probability of all evidence under this account of the world. */
  readonly logEvidence: number;
  readonly latents: LatentTable;
  /** Relative weight of each cause before any evidence. */
  readonly priors: readonly number[];
  /** What may be so of a sound axis, whatever else is wrong with it. */
  readonly normals: readonly Normal[];
}

const NODES = 6;

/**
 * Exact posterior over no fault, every single cause and every pair, from reports and measured sizes
 * together. Causes join by noisy-or; several reports of one finding see the one hidden finding, so
 * three tests of the same slack are one slack measured three times.
 * @param evidence - axis, context, reports and measured sizes
 * @param nodes - Gaussians a share is made of
 * @returns probability of every hypothesis and every cause
 * @example
 * infer({ axis: defaultAxis("vertical-centre", "X"), reports: [{ finding: "lost-motion", present: true, source: "test" }], magnitudes: [] }).noFault < 0.05
 * // true
 */
export function infer(evidence: Evidence, nodes = NODES): Posterior {
  const { axis, context = UNKNOWN_CONTEXT, shop = NO_SHOP_PRIORS } = evidence;
  const weighed = (evidence.causes ?? CAUSES)
    .filter((c) => causeFits(axis, c) && !isFromNew(c))
    .map((cause) => ({ cause, weight: priorWeight(cause, { axis, context, shop }).weight }))
    .filter((w) => w.weight > 0);
  const causes = weighed.map((w) => w.cause);
  const priors = weighed.map((w) => w.weight);
  const model = slackModel(axis);
  const latents = latentTable(causes, evidence);
  const normals = normalsOf(causes, priors);
  const { slight: begins } = silenceAt(shop.candour ?? USUAL_CANDOUR);
  const accounts = accountsOf(causes, { weights: priors, begins, sound: shop.learned[NOTHING_WRONG] ?? 1 });
  const mixtures = new Mixtures(model, evidence.magnitudes, nodes);
  const shows = slackShowsAs(axis);
  const lossMatters = latents.said.has(shows);
  const terms = reportTerms(latents, normals);
  const heard = soundFactor(evidence, causes);
  const rows = accounts.map(({ members, slight, logPrior }) => {
    const shareSet = mixtures.of(members.map((m) => (slight ? begun(causes[m]) : causes[m])));
    const mixture = mixtures.all[shareSet];
    const lossChance = lossMatters ? mixtures.lossChance(axis, shareSet) : 0;
    const log = logPrior + mixture.log + logReports(terms, { members, lossChance, slackFinding: shows, slight });
    return { members, slight, shareSet, log: log + Math.log(heard({ members, slight })) };
  });
  const { hypotheses, logEvidence } = normalised(rows);
  const marginals = marginalsOf(hypotheses, { causes, terms, normals });
  const noFault = hypotheses.reduce(
    (sum, h) => sum + (h.members.every((m) => causes[m].normal) ? h.probability : 0),
    0,
  );
  return {
    evidence,
    causes,
    model,
    latents,
    priors,
    normals,
    hypotheses,
    marginals,
    noFault,
    logEvidence,
    shareSets: mixtures.all,
  };
}

/** The mixtures over shares, one for each set of them. */
class Mixtures {
  readonly all: ShareMixture[] = [];
  private readonly index = new Map<string, number>();
  private readonly loss: number[] = [];
  private readonly modes: ReturnType<typeof modesOf>;

  constructor(
    private readonly model: SlackModel,
    magnitudes: readonly Magnitude[],
    private readonly nodes: number,
  ) {
    this.modes = modesOf(model, magnitudes);
  }

  of(causes: readonly Cause[]): number {
    const sharing = causes.filter((c) => c.share);
    const key = sharing
      .map((c) => `${c.share?.slack}${c.share?.um.join()}`)
      .sort()
      .join("|");
    const there = this.index.get(key);
    if (there !== undefined) return there;
    this.index.set(key, this.all.length);
    this.all.push(new ShareMixture(this.modes, sharing, this.nodes));
    return this.all.length - 1;
  }

  lossChance(axis: AxisConfig, index: number): number {
    this.loss[index] ??= chanceOfLoss(axis, this.model, this.all[index].components);
    return this.loss[index];
  }
}

/** A loss that the axis has from new is part of what sound links lose: no rival of a fault. */
function isFromNew(cause: Cause): boolean {
  return cause.normal === true && cause.share !== null;
}

/** How often a normal thing is there at most, however much speaks for it beforehand. */
const NORMAL_AT_MOST = 0.6;

/** What is normal and may be there beside any fault; its chance moves with the same rules as its prior. */
function normalsOf(causes: readonly Cause[], priors: readonly number[]): readonly Normal[] {
  return causes.flatMap((cause, index): Normal[] => {
    if (!cause.normal) return [];
    const chance = Math.min(NORMAL_AT_MOST, (cause.beside ?? 0) * (priors[index] / cause.prior));
    return [{ index, chance, findings: Object.keys(cause.shows).map((id) => latentOf(id as FindingId)) }];
  });
}

/** Probabilities from logarithms. */
function normalised(
  rows: readonly (Omit<Hypothesis, "probability"> & { readonly log: number })[],
): Pick<Posterior, "hypotheses" | "logEvidence"> {
  const total = logSum(rows.map((r) => r.log));
  const hypotheses = rows.map(({ members, slight, shareSet, log }): Hypothesis => ({
    members,
    slight,
    shareSet,
    probability: Math.exp(log - total),
  }));
  return { hypotheses, logEvidence: total };
}

/** What each cause comes to over all accounts; a normal thing counts beside a fault once it was noticed. */
function marginalsOf(
  hypotheses: readonly Hypothesis[],
  {
    causes,
    terms,
    normals,
  }: { readonly causes: readonly Cause[]; readonly terms: ReportTerms; readonly normals: readonly Normal[] },
): number[] {
  const marginals = Array.from({ length: causes.length }, () => 0);
  for (const { members, probability } of hypotheses) for (const m of members) marginals[m] += probability;
  normals.forEach((normal, i) => {
    const group = terms.groups[i];
    if (!group.noticed) return;
    for (const h of hypotheses)
      if (!h.members.includes(normal.index)) marginals[normal.index] += h.probability * besideChance(group, h);
  });
  return marginals;
}

interface WeighedAccount extends Account {
  readonly logPrior: number;
}

/** What has only begun loses little yet: the lower half of its sizes, by ratio. */
function begun(cause: Cause): Cause {
  if (!cause.share) return cause;
  const [least, most] = cause.share.um;
  return { ...cause, share: { ...cause.share, um: [least, Math.sqrt(least * most)] } };
}

/** The accounts there can be: nothing, one cause, or two faults. What is normal stands beside them and is no second. */
function accountsOf(
  causes: readonly Cause[],
  { weights, begins, sound }: { readonly weights: readonly number[]; readonly begins: number; readonly sound: number },
): WeighedAccount[] {
  const [usual, one, two] = FAULT_COUNT_PRIOR;
  const none = usual * sound;
  const sum = weights.reduce((a, b) => a + b, 0);
  const sets: WeighedAccount[] = [{ members: [], slight: false, logPrior: Math.log(none) }];
  weights.forEach((w, i) => {
    const slight = causes[i].normal || causes[i].link === "none" ? 0 : begins;
    sets.push({ members: [i], slight: false, logPrior: Math.log(((1 - slight) * one * w) / sum) });
    if (slight > 0) sets.push({ members: [i], slight: true, logPrior: Math.log((slight * one * w) / sum) });
  });
  const pairs: { members: number[]; weight: number }[] = [];
  let pairSum = 0;
  for (let i = 0; i < weights.length; i += 1)
    for (let j = i + 1; j < weights.length; j += 1) {
      if (causes[i].normal || causes[j].normal) continue;
      const weight = weights[i] * weights[j] * affinity(causes[i].id, causes[j].id);
      pairSum += weight;
      pairs.push({ members: [i, j], weight });
    }
  for (const { members, weight } of pairs)
    sets.push({ members, slight: false, logPrior: Math.log((two * weight) / pairSum) });
  return sets;
}

const AFFINITY = new Map(AFFINITIES.map(([a, b, f]) => [[a, b].sort().join(" "), f]));
function affinity(a: string, b: string): number {
  return AFFINITY.get([a, b].sort().join(" ")) ?? 1;
}
