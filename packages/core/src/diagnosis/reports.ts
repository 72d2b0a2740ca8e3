import type { AxisConfig } from "../machine/axis";
import { finding, FINDINGS, type FindingId } from "../measure/findings";
import type { Evidence, Report } from "./evidence";
import { LEVELS, type Cause, type Level } from "./knowledge";
import { impliedBy } from "./pointless";

/**
 * How often a report is wrong. One symptom in eight told from memory is mistaken or left out; what is
 * left out is unknown and weighs nothing, so half of that remains as a wrong “no”. A test that was
 * done is rarely wrong (common practice, no source).
 */
export const REPORT_ERRORS = {
  symptom: { missed: 0.06, imagined: 0.025 },
  test: { missed: 0.04, imagined: 0.015 },
} as const;

/**
 * How often a report of this finding is wrong: what is plain to see is hardly ever imagined.
 * @param id - the finding
 * @param source - told as a symptom, or found by a test
 * @returns chance that a “no” is wrong, and that a “yes” is
 * @example reportErrors("lost-motion", "test") // { missed: 0.04, imagined: 0.015 }
 */
export function reportErrors(
  id: FindingId,
  source: Report["source"],
): { readonly missed: number; readonly imagined: number } {
  const errors = REPORT_ERRORS[source];
  if (!finding(id).plain) return errors;
  // Nobody says that it moves when it does not.
  return { missed: Math.min(errors.missed, 0.015), imagined: 0.004 };
}

/** Of what its causes show, how much is told in a shop of which nothing is known yet (common practice, no source). */
export const USUAL_CANDOUR = 0.52;

/**
 * What silence and a “no” are worth where so much is told of what shows. In a usual shop, who was asked what else they
 * noticed and said “nothing” would have told half of what is there, six in a hundred noes are wrong, and every eighth
 * part at fault has only begun to be. Where more is told all three are less: which of them it comes of cannot be told
 * apart from outside, so that they move together (common practice, no source).
 * @param candour - told of what its causes show, 0 to 1
 * @returns `unsaid`: likelihood of silence where a thing is there, against where it is not; `plain`: the same of what
 *   nobody forgets to tell; `missed`: chance that a “no” is wrong; `slight`: chance that a fault has only begun
 * @example silenceAt(0.52).unsaid.toFixed(2) // "0.50"
 */
export function silenceAt(candour: number): {
  readonly unsaid: number;
  readonly plain: number;
  readonly missed: number;
  readonly slight: number;
} {
  const kept = Math.min(1.8, Math.max(0.1, (1 - candour) / (1 - USUAL_CANDOUR)));
  return { unsaid: 0.5 * kept, plain: 0.1 * kept, missed: 0.06 * kept, slight: 0.06 + 0.06 * kept };
}

/** Something that is no fault and may be there beside any: its place among the causes, and how often. */
export interface Normal {
  readonly index: number;
  readonly chance: number;
  readonly findings: readonly FindingId[];
}

/** Chance of each finding under each cause, and what the reports say of it. */
export interface LatentTable {
  readonly ids: readonly FindingId[];
  /** 1 − leak, then 1 − chance by cause where it is plain, and where it is slight. */
  readonly quiet: ReadonlyMap<
    FindingId,
    { readonly leak: number; readonly byCause: Float64Array; readonly bySlight: Float64Array }
  >;
  /** Likelihood of the reports when the finding is so, and when it is not. */
  readonly said: ReadonlyMap<FindingId, readonly [present: number, not: number]>;
}

const LOSS_ON_A_PART: readonly FindingId[] = ["quadrant-step", "ripple-pair"];

/**
 * A step at each quadrant, or a ripple where two axes scan together, is the lost motion again, seen on a part: one thing,
 * not two.
 * @param id - the finding
 * @returns the finding that stands for it in the inference
 * @example latentOf("lost-motion") // "lost-motion"
 */
export function latentOf(id: FindingId): FindingId {
  return LOSS_ON_A_PART.includes(id) ? "lost-motion" : id;
}

/** What has only begun shows as so much of what is plain (common practice, no source). */
export const SLIGHT_SHOWS = 0.35;

/** What a test has found comes of something: so much less often than what is only told is it there of itself. */
const OF_ITSELF = 0.15;

/**
 * Chance of each finding under each cause, and what was said of it.
 * @param causes - that an axis can have
 * @param evidence - of the case
 * @returns the table
 * @example latentTable([], { axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] }).ids // []
 */
export function latentTable(causes: readonly Cause[], evidence: Evidence): LatentTable {
  const measured = evidence.magnitudes.some((m) => m.kind === "whole-chain");
  const silence = silenceAt(evidence.shop?.candour ?? USUAL_CANDOUR);
  const said = new Map<FindingId, readonly [number, number]>();
  for (const report of [...evidence.reports, ...impliedBy(evidence)]) {
    const id = latentOf(report.finding);
    // Once the whole chain is measured, that it loses motion is known better than anybody can say.
    if (id === "lost-motion" && measured) continue;
    const errors = reportErrors(report.finding, report.source);
    const { imagined } = errors;
    const denied = finding(report.finding).plain ? Math.min(errors.missed, silence.missed) : silence.missed;
    const missed = report.source === "test" ? errors.missed : denied;
    const [present, not] = said.get(id) ?? [1, 1];
    said.set(id, [present * (report.present ? 1 - missed : missed), not * (report.present ? imagined : 1 - imagined)]);
  }
  if (evidence.allTold) sayNothingElse(said, evidence, { measured, silence });
  const quiet = new Map<FindingId, { leak: number; byCause: Float64Array; bySlight: Float64Array }>();
  const ids = new Set<FindingId>(said.keys());
  if (evidence.axis.feedback === "scale") ids.add("scale-gap");
  for (const cause of causes) for (const id of Object.keys(cause.shows)) ids.add(latentOf(id as FindingId));
  const found = new Set(
    evidence.reports.filter((r) => r.source === "test" && r.present).map((r) => latentOf(r.finding)),
  );
  for (const id of ids) {
    const byCause = Float64Array.from(causes, (cause) => {
      if (id === "scale-gap") return 1 - chanceOfGap(evidence.axis, cause);
      const level = levelOn(evidence.axis, cause, id);
      return level ? 1 - LEVELS[level].probability : 1;
    });
    const bySlight = byCause.map((q) => 1 - SLIGHT_SHOWS * (1 - q));
    quiet.set(id, { leak: 1 - finding(id).leak * (found.has(id) ? OF_ITSELF : 1), byCause, bySlight });
  }
  return { ids: [...ids], quiet, said };
}

/** What makes an axis heavy makes an open loop lose steps, before it stalls (common practice, no source). */
const HEAVY: readonly FindingId[] = ["tight-all", "tight-end", "tight-turn", "tight-spot"];

/** Where motor and scale are compared the control shows all that is lost between them: how often that is too much. */
function chanceOfGap(axis: AxisConfig, { share }: Cause): number {
  if (axis.feedback !== "scale" || !share || share.slack === "entered") return 0;
  const [least, most] = share.um.map((um) => um / 1000);
  const over = Math.log(most / axis.limits.leaveMm) / Math.log(most / least);
  return 0.97 * Math.min(1, Math.max(0, over));
}

/** How strongly a cause shows as a finding on this axis. */
function levelOn(axis: AxisConfig, cause: Cause, id: FindingId): Level | undefined {
  const level = cause.shows[id];
  // It is balls that howl: a plain thread squeals at most.
  if (id === "howl" && level && axis.transmission === "plain-screw") return "±";
  if (level || id !== "lost-steps" || axis.feedback !== "open-loop") return level;
  return HEAVY.some((heavy) => cause.shows[heavy] === "++") ? "±" : undefined;
}

/** What was not told when nothing else was noticed: a weak no. */
function sayNothingElse(
  said: Map<FindingId, readonly [number, number]>,
  { reports }: Evidence,
  { measured, silence }: { readonly measured: boolean; readonly silence: ReturnType<typeof silenceAt> },
): void {
  const told = new Set(reports.filter((r) => r.source === "symptom").map((r) => latentOf(r.finding)));
  for (const { id, asked, plain } of FINDINGS) {
    if (!asked || id !== latentOf(id) || told.has(id) || (id === "lost-motion" && measured)) continue;
    const [present, not] = said.get(id) ?? [1, 1];
    said.set(id, [present * (plain ? silence.plain : silence.unsaid), not]);
  }
}

/**
 * Chance that a finding is so under a set of causes.
 * @param latents - chances of the findings under each cause
 * @param options - `id`: the finding; `members`: the causes, by index; `lossChance`: chance that they lose more than
 *   can be left; `axis`: configuration; `slight`: they have only begun
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
    slight = false,
  }: {
    readonly id: FindingId;
    readonly members: readonly number[];
    readonly lossChance: number;
    readonly axis: AxisConfig;
    readonly slight?: boolean;
  },
): number {
  const entry = latents.quiet.get(id);
  let quiet = entry?.leak ?? 1 - finding(id).leak;
  const by = slight ? entry?.bySlight : entry?.byCause;
  if (by) for (const m of members) quiet *= by[m];
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
  readonly bySlight: Float64Array | null;
  readonly present: number;
  readonly not: number;
}

/** The findings of one normal thing, which come and go with it together. */
export interface NormalGroup {
  readonly normal: Normal;
  readonly terms: readonly ReportTerm[];
  /** One of them was said to be so. */
  readonly noticed: boolean;
}

export interface ReportTerms {
  readonly plain: readonly ReportTerm[];
  readonly groups: readonly NormalGroup[];
}

/**
 * What was reported, as factors that each hypothesis is multiplied by.
 * @param latents - chances of the findings under each cause
 * @param normals - what may be there beside any fault
 * @returns a term for each finding that somebody reported, those of a normal thing together
 * @example
 * const known = infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] });
 * reportTerms(known.latents, known.normals).plain // []
 */
export function reportTerms(latents: LatentTable, normals: readonly Normal[]): ReportTerms {
  const terms = [...latents.said].map(([id, [present, not]]): ReportTerm => {
    const entry = latents.quiet.get(id);
    const { byCause = null, bySlight = null } = entry ?? {};
    return { id, leak: entry?.leak ?? 1 - finding(id).leak, byCause, bySlight, present, not };
  });
  const grouped = new Set(normals.flatMap((n) => n.findings));
  return {
    plain: terms.filter((t) => !grouped.has(t.id)),
    groups: normals.map((normal) => {
      const own = terms.filter((t) => normal.findings.includes(t.id));
      return { normal, terms: own, noticed: own.some((t) => t.present > t.not) };
    }),
  };
}

/** Causes that are there together, by index, and whether they have only begun. */
export interface Account {
  readonly members: readonly number[];
  readonly slight: boolean;
}

/** Likelihood of what was said of one finding, when these causes are there. */
function saidOf(term: ReportTerm, { members, slight }: Account, besides = -1): number {
  let quiet = term.leak;
  const by = slight ? term.bySlight : term.byCause;
  if (by) for (const m of members) quiet *= by[m];
  if (term.byCause && besides >= 0) quiet *= term.byCause[besides];
  return (1 - quiet) * term.present + quiet * term.not;
}

/** Likelihoods of what was said of a normal thing’s findings with it beside these causes, and without it, by its chance. */
function withAndWithout({ normal, terms }: NormalGroup, account: Account): readonly [number, number] {
  let [there, not] = [normal.chance, 1 - normal.chance];
  for (const term of terms) {
    there *= saidOf(term, account, normal.index);
    not *= saidOf(term, account);
  }
  return [there, not];
}

/**
 * Chance that a normal thing is there beside these causes, given what was said.
 * @param group - the normal thing and its findings
 * @param account - the causes
 * @returns 0 to 1
 * @example
 * const group = { normal: { index: 1, chance: 0.1, findings: [] }, terms: [], noticed: false };
 * besideChance(group, { members: [0], slight: false }) // 0.1
 */
export function besideChance(group: NormalGroup, account: Account): number {
  const [there, not] = withAndWithout(group, account);
  return there / (there + not);
}

/**
 * Log likelihood of what was said, when these causes are there.
 * @param terms - of {@link reportTerms}
 * @param options - `members`: the causes, by index; `lossChance`: chance that they lose more than can be left;
 *   `slackFinding`: what slack shows as
 * @returns natural logarithm
 * @example logReports({ plain: [], groups: [] }, { members: [], lossChance: 0, slackFinding: "lost-motion" }) // 0
 */
export function logReports(
  terms: ReportTerms,
  {
    members,
    lossChance,
    slackFinding,
    slight = false,
  }: {
    readonly members: readonly number[];
    readonly lossChance: number;
    readonly slackFinding: FindingId;
    readonly slight?: boolean;
  },
): number {
  let product = 1;
  const account = { members, slight };
  for (const term of terms.plain) {
    let quiet = term.leak;
    const by = slight ? term.bySlight : term.byCause;
    if (by) for (const m of members) quiet *= by[m];
    if (term.id === slackFinding) quiet *= 1 - 0.9 * lossChance;
    product *= (1 - quiet) * term.present + quiet * term.not;
  }
  for (const group of terms.groups) {
    if (group.terms.length === 0) continue;
    if (members.includes(group.normal.index)) for (const term of group.terms) product *= saidOf(term, account);
    else {
      const [there, not] = withAndWithout(group, account);
      product *= there + not;
    }
  }
  return Math.log(product);
}
