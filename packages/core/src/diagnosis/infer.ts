import type { AxisConfig } from "../machine/axis";
import { AFFINITIES, CAUSES } from "./causes";
import { fitOf, logSum, ShareMixture, slackModel, type Magnitude, type SlackModel } from "./components";
import { NO_SHOP_PRIORS, priorWeight, UNKNOWN_CONTEXT, type CaseContext, type ShopPriors } from "./context";
import { finding, type FindingId } from "../measure/findings";
import { causeFits, LEVELS, type Cause } from "./knowledge";
import { chanceOfLoss } from "./loss-chance";

/** Somebody says that a finding is so or not. Unknown answers are not reports. */
export interface Report {
  readonly finding: FindingId;
  readonly present: boolean;
  readonly source: "symptom" | "test";
  /** An id of the caller’s, to find the evidence again. */
  readonly ref?: string;
}

/**
 * How often a report is wrong. One symptom in eight told from memory is mistaken or left out; what is
 * left out is unknown and weighs nothing, so half of that remains as a wrong “no”. A test that was
 * done is rarely wrong (common practice, no source).
 */
export const REPORT_ERRORS = {
  symptom: { missed: 0.06, imagined: 0.025 },
  test: { missed: 0.03, imagined: 0.015 },
} as const;

/**
 * How often a report of this finding is wrong: what is plain to see is hardly ever imagined.
 * @param id - the finding
 * @param source - told as a symptom, or found by a test
 * @returns chance that a “no” is wrong, and that a “yes” is
 * @example reportErrors("lost-motion", "test") // { missed: 0.03, imagined: 0.015 }
 */
export function reportErrors(
  id: FindingId,
  source: Report["source"],
): { readonly missed: number; readonly imagined: number } {
  const errors = REPORT_ERRORS[source];
  return finding(id).plain ? { ...errors, imagined: 0.004 } : errors;
}

/** How many faults a case has before anything is known of it (common practice, no source). */
export const FAULT_COUNT_PRIOR = [0.12, 0.74, 0.14] as const;

export interface Evidence {
  readonly axis: AxisConfig;
  readonly context?: CaseContext;
  readonly reports: readonly Report[];
  readonly magnitudes: readonly Magnitude[];
  readonly shop?: ShopPriors;
  readonly causes?: readonly Cause[];
}

/** No fault, one or two causes, with probability. Indices into {@link Posterior.causes}. */
export interface Hypothesis {
  readonly members: readonly number[];
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
}

/** Chance of each finding under each cause, and what the reports say of it. */
export interface LatentTable {
  readonly ids: readonly FindingId[];
  /** 1 − leak, then 1 − chance by cause. */
  readonly quiet: ReadonlyMap<FindingId, { readonly leak: number; readonly byCause: Float64Array }>;
  /** Likelihood of the reports when the finding is so, and when it is not. */
  readonly said: ReadonlyMap<FindingId, readonly [present: number, not: number]>;
}

/**
 * A step at each quadrant is the lost motion again, seen on a part: one thing, not two.
 * @param id - the finding
 * @returns the finding that stands for it in the inference
 * @example latentOf("lost-motion") // "lost-motion"
 */
export function latentOf(id: FindingId): FindingId {
  return id === "quadrant-step" ? "lost-motion" : id;
}

const NODES = 8;

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
    .filter((c) => causeFits(axis, c))
    .map((cause) => ({ cause, weight: priorWeight(cause, { axis, context, shop }).weight }))
    .filter((w) => w.weight > 0);
  const causes = weighed.map((w) => w.cause);
  const model = slackModel(axis);
  const latents = latentTable(causes, evidence);
  const shareKeys = causes.map((c) => `${c.share?.slack}${c.share?.um.join()}`);
  const sets: { members: number[]; logPrior: number }[] = hypothesisSets(
    weighed.map((w) => w.weight),
    causes,
  );
  const shareIndex = new Map<string, number>();
  const shareSets: ShareMixture[] = [];
  const lossOf: number[] = [];
  const fit = fitOf(model, evidence.magnitudes);
  const lossMatters = latents.said.has(slackShowsAs(axis));
  const reports = reportTerms(latents);
  const rows = sets.map(({ members, logPrior }) => {
    const sharing = members.filter((m) => causes[m].share);
    const key = sharing
      .map((m) => shareKeys[m])
      .sort()
      .join("|");
    let index = shareIndex.get(key);
    if (index === undefined) {
      index = shareSets.length;
      shareIndex.set(key, index);
      const mixture = new ShareMixture(
        fit,
        sharing.map((m) => causes[m]),
        nodes,
      );
      shareSets.push(mixture);
      lossOf.push(lossMatters ? chanceOfLoss(axis, model, mixture.components) : 0);
    }
    const log =
      logPrior +
      shareSets[index].log +
      logReports(reports, { members, lossChance: lossOf[index], slackFinding: slackShowsAs(axis) });
    return { members, shareSet: index, log };
  });
  const priors = weighed.map((w) => w.weight);
  return { evidence, causes, model, shareSets, latents, priors, ...normalised(rows, causes.length) };
}

/** Probabilities from logarithms, and what each cause comes to over all hypotheses. */
function normalised(
  rows: readonly { readonly members: readonly number[]; readonly shareSet: number; readonly log: number }[],
  causes: number,
): Pick<Posterior, "hypotheses" | "marginals" | "noFault" | "logEvidence"> {
  const total = logSum(rows.map((r) => r.log));
  const marginals = Array.from({ length: causes }, () => 0);
  const hypotheses = rows.map(({ members, shareSet, log }): Hypothesis => {
    const probability = Math.exp(log - total);
    for (const m of members) marginals[m] += probability;
    return { members, shareSet, probability };
  });
  return { hypotheses, marginals, noFault: hypotheses[0].probability, logEvidence: total };
}

function hypothesisSets(
  weights: readonly number[],
  causes: readonly Cause[],
): { members: number[]; logPrior: number }[] {
  const [none, one, two] = FAULT_COUNT_PRIOR;
  const sum = weights.reduce((a, b) => a + b, 0);
  const sets: { members: number[]; logPrior: number }[] = [{ members: [], logPrior: Math.log(none) }];
  weights.forEach((w, i) => sets.push({ members: [i], logPrior: Math.log((one * w) / sum) }));
  const pairs: { members: number[]; weight: number }[] = [];
  let pairSum = 0;
  for (let i = 0; i < weights.length; i += 1)
    for (let j = i + 1; j < weights.length; j += 1) {
      const weight = weights[i] * weights[j] * affinity(causes[i].id, causes[j].id);
      pairSum += weight;
      pairs.push({ members: [i, j], weight });
    }
  for (const { members, weight } of pairs) sets.push({ members, logPrior: Math.log((two * weight) / pairSum) });
  return sets;
}

const AFFINITY = new Map(AFFINITIES.map(([a, b, f]) => [[a, b].sort().join(" "), f]));
function affinity(a: string, b: string): number {
  return AFFINITY.get([a, b].sort().join(" ")) ?? 1;
}

function latentTable(causes: readonly Cause[], evidence: Evidence): LatentTable {
  const measured = evidence.magnitudes.some((m) => m.kind === "whole-chain");
  const said = new Map<FindingId, readonly [number, number]>();
  for (const report of evidence.reports) {
    const id = latentOf(report.finding);
    // Once the whole chain is measured, that it loses motion is known better than anybody can say.
    if (id === "lost-motion" && measured) continue;
    const { missed, imagined } = reportErrors(report.finding, report.source);
    const [present, not] = said.get(id) ?? [1, 1];
    said.set(id, [present * (report.present ? 1 - missed : missed), not * (report.present ? imagined : 1 - imagined)]);
  }
  const quiet = new Map<FindingId, { leak: number; byCause: Float64Array }>();
  const ids = new Set<FindingId>(said.keys());
  for (const cause of causes) for (const id of Object.keys(cause.shows)) ids.add(latentOf(id as FindingId));
  for (const id of ids) {
    const byCause = Float64Array.from(causes, (cause) => {
      const level = cause.shows[id];
      return level ? 1 - LEVELS[level].probability : 1;
    });
    quiet.set(id, { leak: 1 - finding(id).leak, byCause });
  }
  return { ids: [...ids], quiet, said };
}

/**
 * Chance that a finding is so under a set of causes.
 * @param latents - chances of the findings under each cause
 * @param options - `id`: the finding; `members`: the causes, by index; `lossChance`: chance that they lose more than
 *   can be left; `axis`: configuration
 * @returns 0 to 1
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * const known = infer({ axis: axis, reports: [], magnitudes: [] });
 * chanceOf(known.latents, { id: known.latents.ids[0], members: [], lossChance: 0, axis: axis }) < 0.1 // true
 */
export function chanceOf(
  latents: LatentTable,
  {
    id,
    members,
    lossChance,
    axis,
  }: {
    readonly id: FindingId;
    readonly members: readonly number[];
    readonly lossChance: number;
    readonly axis: AxisConfig;
  },
): number {
  const entry = latents.quiet.get(id);
  let quiet = entry?.leak ?? 1 - finding(id).leak;
  if (entry) for (const m of members) quiet *= entry.byCause[m];
  if (id === slackShowsAs(axis)) quiet *= 1 - 0.9 * lossChance;
  return 1 - quiet;
}

/**
 * What slack shows as: lost position, or hunting where a scale closes the loop.
 * @param axis - configuration
 * @returns the finding
 * @example slackShowsAs(defaultAxis("vertical-centre", "X")) // "lost-motion"
 */
export function slackShowsAs(axis: AxisConfig): FindingId {
  return axis.feedback === "scale" ? "hunting" : "lost-motion";
}

export interface ReportTerm {
  readonly id: FindingId;
  readonly leak: number;
  readonly byCause: Float64Array | null;
  readonly present: number;
  readonly not: number;
}

/**
 * What was reported, as factors that each hypothesis is multiplied by.
 * @param latents - chances of the findings under each cause
 * @returns a term for each finding that somebody reported
 * @example
 * reportTerms(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] }).latents) // []
 */
export function reportTerms(latents: LatentTable): readonly ReportTerm[] {
  return [...latents.said].map(([id, [present, not]]) => {
    const entry = latents.quiet.get(id);
    return {
      id,
      leak: entry?.leak ?? 1 - finding(id).leak,
      byCause: entry?.byCause ?? null,
      present,
      not,
    };
  });
}

/**
 * Log likelihood of what was said, when these causes are there.
 * @param terms - of {@link reportTerms}
 * @param options - `members`: the causes, by index; `lossChance`: chance that they lose more than can be left;
 *   `slackFinding`: what slack shows as
 * @returns natural logarithm
 * @example logReports([], { members: [], lossChance: 0, slackFinding: "lost-motion" }) // 0
 */
export function logReports(
  terms: readonly ReportTerm[],
  {
    members,
    lossChance,
    slackFinding,
  }: { readonly members: readonly number[]; readonly lossChance: number; readonly slackFinding: FindingId },
): number {
  let product = 1;
  for (const term of terms) {
    let quiet = term.leak;
    if (term.byCause) for (const m of members) quiet *= term.byCause[m];
    if (term.id === slackFinding) quiet *= 1 - 0.9 * lossChance;
    product *= (1 - quiet) * term.present + quiet * term.not;
  }
  return Math.log(product);
}
