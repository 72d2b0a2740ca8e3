import { formatDeviation, type UnitSystem } from "../quantity";
import { isSure, SURE, THREE_LEAD } from "./next-test";
import { DECISION_TERMS, type DecisionTerms } from "./decision-terms";
import { finding, isLooseFastener } from "../measure/findings";
import { type Posterior } from "./infer";
import { chanceOf, latentOf, reportErrors } from "./reports";
import type { Report } from "./evidence";
import type { Cause } from "./knowledge";
import type { Magnitude } from "./components";
import { availability, LOCATE_TESTS } from "./tests";
import { pointless } from "./pointless";
import { thirdFault, type ThirdFault } from "./third-fault";
import { contradictoryFindings, unexplained } from "./unexplained";
import { bestHypothesis } from "./best-hypothesis";
import { isProven, provenOnlyBy, unprovenPart } from "./proven";
import { soundFactor, soundSaid } from "./sound-evidence";
import { isSeen, openSymptoms, untriedFasteners } from "./seen";
import { certainty, headlineOf, percent } from "./headline";
import { misfit } from "./account-fit";
import { TEST_NAMES } from "./ledger";
import { remedyOptions, type RemedyOption } from "./remedy-options";

/** A piece of evidence and how it speaks for or against a cause. */
export interface EvidenceItem {
  readonly message: string;
  /** Where it comes from: an id of the caller’s, to show the evidence itself. */
  readonly ref: string | null;
  /** Log likelihood ratio against no fault: positive speaks for the cause. */
  readonly weight: number;
}

export interface LeadingCause {
  readonly cause: Cause;
  readonly probability: number;
  readonly speaksFor: readonly EvidenceItem[];
  readonly speaksAgainst: readonly EvidenceItem[];
}

export interface CaseVerdict {
  readonly best: {
    readonly causes: readonly Cause[];
    readonly probability: number;
  };
  readonly sure: boolean;
  /** What was measured fits the account; where it does not, nothing that follows from it is to be acted on. */
  readonly fits: boolean;
  readonly headline: string;
  /** What is normal here, and not to be mended. */
  readonly normal: readonly string[];
  readonly leading: readonly LeadingCause[];
  readonly proven: readonly string[];
  readonly onlyLikely: readonly string[];
  readonly ruledOut: readonly { readonly cause: string; readonly by: string }[];
  readonly notLookedAt: readonly string[];
  readonly options: readonly RemedyOption[];
  readonly warnings: readonly string[];
}

const MAGNITUDE_TEXT: Record<Magnitude["kind"], string> = {
  "whole-chain": "the whole chain loses",
  "end-float": "the screw end floats",
  "nut-flank": "nut and bracket together give way on the thread by",
  "coupling-slip": "the coupling gives way by",
  "housing-shift": "the bearing housing moves by",
  "bracket-shift": "the nut bracket moves by",
};

/**
 * What a report says, in words.
 * @param report - the report
 * @returns a clause
 * @example
 * reportText({ finding: "lost-motion", present: false, source: "test" })
 * // "not so: loses motion when it turns round"
 */
export function reportText(report: Report): string {
  const { text } = finding(report.finding);
  return report.present ? text : `not so: ${text}`;
}

function evidenceFor(posterior: Posterior, index: number, system: UnitSystem): EvidenceItem[] {
  const { evidence, latents, shareSets, hypotheses } = posterior;
  const { axis } = evidence;
  const items: EvidenceItem[] = evidence.reports.map((report) => {
    const id = latentOf(report.finding);
    const { missed, imagined } = reportErrors(report.finding, report.source);
    const said = (p: number): number =>
      report.present ? p * (1 - missed) + (1 - p) * imagined : p * missed + (1 - p) * (1 - imagined);
    const loses = posterior.causes[index].share ? 0.9 : 0;
    const weight = Math.log(
      said(chanceOf(latents, { id, members: [index], lossChance: loses, axis })) /
        said(chanceOf(latents, { id, members: [], lossChance: 0, axis })),
    );
    return { message: reportText(report), ref: report.ref ?? null, weight };
  });
  if (evidence.magnitudes.length) {
    const alone = hypotheses.find((h) => h.members.length === 1 && h.members[0] === index);
    const fit = alone ? shareSets[alone.shareSet].log - shareSets[hypotheses[0].shareSet].log : 0;
    const shown = evidence.magnitudes.map(
      (m) => `${MAGNITUDE_TEXT[m.kind]} ${formatDeviation(m.reversalValueMm, { system, expandedMm: 2 * m.uMm })}`,
    );
    items.push({ message: shown.join(", "), ref: evidence.magnitudes.at(-1)?.ref ?? null, weight: fit });
  }
  if (evidence.sound) {
    const heard = soundFactor(evidence, posterior.causes);
    const weight = Math.log(heard({ members: [index], slight: false }) / heard({ members: [], slight: false }));
    items.push({ message: soundSaid(evidence.sound), ref: evidence.sound.ref ?? null, weight });
  }
  return items;
}

/** Evidence weaker than this is not worth a line. */
const SPEAKS = Math.log(1.35);

function leadingCauses(posterior: Posterior, system: UnitSystem): LeadingCause[] {
  return posterior.marginals
    .map((probability, index) => ({ probability, index }))
    .sort((a, b) => b.probability - a.probability)
    .slice(0, 6)
    .filter((c, i) => i < 3 || c.probability > 0.01)
    .map(({ probability, index }) => {
      const items = evidenceFor(posterior, index, system);
      return {
        cause: posterior.causes[index],
        probability,
        speaksFor: items.filter((i) => i.weight > SPEAKS).sort((a, b) => b.weight - a.weight),
        speaksAgainst: items.filter((i) => i.weight < -SPEAKS).sort((a, b) => a.weight - b.weight),
      };
    });
}

/** Of readings that do not fit together any may be wrong: they name nothing and clear nothing. */
const NOTHING_NAMED: Pick<CaseVerdict, "proven" | "onlyLikely"> = { proven: [], onlyLikely: [] };

/** What a test found that nearly always shows with a cause. */
function proofOf({ evidence }: Posterior, cause: Cause): string | null {
  const found = evidence.reports.filter((r) => r.source === "test" && r.present && cause.shows[r.finding] === "++");
  return found.length ? [...new Set(found.map(reportText))].join(", ") : null;
}

/** Causes and sizes that tests have shown, and causes that are only likely. */
function whatIsProven(
  posterior: Posterior,
  leading: readonly LeadingCause[],
  system: UnitSystem,
): Pick<CaseVerdict, "proven" | "onlyLikely"> {
  const proven: string[] = [];
  const onlyLikely: string[] = [];
  for (const { cause, probability, speaksFor } of leading) {
    if (probability >= SURE && isSeen(posterior, cause) && untriedFasteners(posterior, cause).length === 0)
      proven.push(
        `${cause.name} (${percent(probability)}): ${proofOf(posterior, cause) ?? speaksFor[0]?.message ?? "by what was ruled out"}.`,
      );
    else if (probability >= 0.15) onlyLikely.push(`${cause.name}, ${percent(probability)}.`);
  }
  for (const m of posterior.evidence.magnitudes) {
    if (m.kind === "whole-chain") continue;
    const u = 2 * m.uMm;
    const size = formatDeviation(m.reversalValueMm, { system, expandedMm: u });
    if (m.reversalValueMm > u)
      proven.push(`${capital(MAGNITUDE_TEXT[m.kind])} ${size} ± ${formatDeviation(u, { system, expandedMm: u })}.`);
  }
  return { proven, onlyLikely };
}

/**
 * The verdict on a case: what is proven, what is only likely, what was not looked at.
 * @param posterior - what is known so far
 * @param options - `done`: tests already done; `system`: units; `terms`: what things cost
 * @returns code, sentences and what comes next
 * @example
 * caseVerdict(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] }), { done: new Set() }).proven
 * // []
 */
export function caseVerdict(
  posterior: Posterior,
  {
    done,
    system = "metric",
    terms = DECISION_TERMS,
  }: { readonly done: ReadonlySet<string>; readonly system?: UnitSystem; readonly terms?: DecisionTerms },
): CaseVerdict {
  const { evidence, causes, marginals } = posterior;
  const best = bestHypothesis(posterior);
  const sure = isSure(posterior);
  const odd = misfit(posterior);
  // What does not fit may be a reading: more faults are not made of it.
  const three = odd ? null : thirdFault(posterior);
  const leading = leadingCauses(posterior, system);
  const { proven, onlyLikely } = odd ? NOTHING_NAMED : whatIsProven(posterior, leading, system);
  const before = priorShare(posterior);
  const ruledOut = causes
    .map((cause, i) => ({ cause, i }))
    .filter(({ i }) => !odd && marginals[i] < 0.01 && before[i] > 0.02)
    .map(({ cause, i }) => {
      const against = evidenceFor(posterior, i, system).sort((a, b) => a.weight - b.weight)[0];
      return {
        cause: cause.name,
        by: against && against.weight < -SPEAKS ? against.message : "something else explains what was found",
      };
    });
  const notLookedAt = LOCATE_TESTS.filter(
    (t) => !done.has(t.id) && availability(evidence.axis, t).possible && !pointless(evidence, t.id),
  ).map((t) => t.name);
  return {
    best,
    leading,
    proven,
    onlyLikely,
    ruledOut,
    notLookedAt,
    sure,
    fits: odd === null,
    headline: odd ? oddHeadline(odd.size) : (threeHeadline(three) ?? headlineOf(posterior, best.causes, sure)),
    normal: odd ? [] : normalThings(posterior, best.causes, system),
    options: remedyOptions(posterior, terms),
    warnings: warningsOn(posterior, { three, system }),
  };
}

/** Up to here a single nut’s play is what it has from new, mm (common practice, no source). */
const CLEARANCE_MM = 0.014;

/** What is normal and was noticed; and the play that a nut without preload has from new. */
function normalThings(posterior: Posterior, named: readonly Cause[], system: UnitSystem): string[] {
  const { axis, magnitudes } = posterior.evidence;
  const said = named
    .filter((c) => c.normal && isSeen(posterior, c))
    .map((c) => `${c.name}: ${c.remedy.text.replace(/^nothing: /, "")}.`);
  const flank = magnitudes.findLast((m) => m.kind === "nut-flank");
  const bracket = magnitudes.findLast((m) => m.kind === "bracket-shift")?.reversalValueMm ?? 0;
  const blamed = named.some((c) => c.link === "nut" || c.share?.slack === "wear");
  if (axis.nut !== "single-clearance" || !flank || blamed) return said;
  const play = flank.reversalValueMm - Math.max(0, bracket);
  if (play <= 2 * flank.uMm || play > CLEARANCE_MM) return said;
  const size = formatDeviation(play, { system, expandedMm: 2 * flank.uMm });
  return [...said, `Play of ${size} in the nut: a single nut has that from new, and only a second nut takes it out.`];
}

/** Where two faults do not account for it, three lead: none of them is proven by that, and none alone is the verdict. */
function threeHeadline(three: ThirdFault | null): string | null {
  if (!three || three.probability <= THREE_LEAD) return null;
  const names = three.causes.map((c) => c.name).join(", ");
  return `Three faults together: ${names}: ${certainty(three.probability, false)}, ${percent(three.probability)}.`;
}

/** From this chance on it is said that three faults may be there. */
const MAYBE_THREE = 0.3;

/** The verdict steps back: what would be named is built on a reading that may be wrong. */
function oddHeadline({ kind }: Magnitude): string {
  return `What was measured does not fit together: read the ${TEST_NAMES[kind]} again first.`;
}

function misfitText(odd: Magnitude, system: UnitSystem): string {
  const u = { system, expandedMm: 2 * odd.uMm };
  const size = formatDeviation(odd.reversalValueMm, u);
  return `The ${TEST_NAMES[odd.kind]} of ${size} ± ${formatDeviation(2 * odd.uMm, u)} does not fit the rest of what was measured. Measure it again, set up anew, before anything is ordered or taken apart; if it stays, it is none of what is named here.`;
}

/** Why a screw or nut is not ordered yet: nothing has shown it, or what has shown it may be another cause. */
function unprovenText(posterior: Posterior, part: Cause): string {
  const { causes, marginals, evidence } = posterior;
  if (!isProven(posterior, part))
    return `${part.name} is the dear part and not proven. Do not order it on this. What proves it here: ${provenOnlyBy(evidence.axis, part) || "nothing short of the part itself, out of the machine"}.`;
  const others = causes.filter((c) => c !== part && !c.normal);
  const chance = (c: Cause): number => marginals[causes.indexOf(c)];
  const other = others.reduce((a, b) => (chance(b) > chance(a) ? b : a));
  return `${part.name} is the dear part. A test speaks for it, but ${percent(chance(part))} is too little to order it on: ${other.name}, ${percent(chance(other))}, is not ruled out. Test on.`;
}

function warningsOn(
  posterior: Posterior,
  { three, system }: { readonly three: ThirdFault | null; readonly system: UnitSystem },
): string[] {
  const warnings: string[] = [];
  const unproven = unprovenPart(posterior);
  if (unproven) warnings.push(unprovenText(posterior, unproven));
  const odd = misfit(posterior);
  if (odd && !odd.inLedger) warnings.push(misfitText(odd.size, system));
  if (three && three.probability > MAYBE_THREE)
    warnings.push(
      `${three.probability > THREE_LEAD ? "Two faults do not account for all of this; three do" : "Perhaps three faults"}: ${three.causes.map((c) => c.name).join(", ")} (${percent(three.probability)} that three are there). Mend the surest first, retest, and look again.`,
    );
  // Three that account for it together leave nothing open.
  const open = three && three.probability > THREE_LEAD ? [] : unexplained(posterior);
  if (open.length) {
    const list = [...new Set(open.map((r) => finding(r.finding).text))].join("; ");
    // A screw that turned is loose whatever else is wrong: there is nothing to repeat.
    const loose = open.every((r) => isLooseFastener(r.finding));
    const told = open.every((r) => r.source === "symptom");
    const looked = told && openSymptoms(posterior).length === 0;
    const then = looked
      ? "No test found what it comes of: watch for it when the machine runs again."
      : told
        ? "There may be a second thing wrong: test for it before it is closed."
        : "Repeat that test.";
    warnings.push(`Not explained by this: ${list}. ${loose ? "Tighten what turned, then measure again." : then}`);
  }
  const contradicting = contradictoryFindings(posterior.evidence.reports).map((id) => finding(id).text);
  if (contradicting.length)
    warnings.push(`Found both so and not so by tests: ${contradicting.join("; ")}. Look again.`);
  return warnings;
}

/** Probability of each cause with no evidence at all. */
function priorShare(posterior: Posterior): number[] {
  const bare = posterior.priors;
  const sum = bare.reduce((a, b) => a + b, 0);
  return bare.map((w) => w / sum);
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
