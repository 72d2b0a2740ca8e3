import { finding, type FindingId } from "../measure/findings";
import { bestHypothesis } from "./best-hypothesis";
import { outcomeLikelihoods, type OutcomeKind } from "./decide";
import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";
import type { LocateTest } from "./locate-test";
import { pointless } from "./pointless";
import { soundLike } from "./sound-evidence";
import { availability, LOCATE_TESTS, type TestId } from "./tests";

/** What one outcome of a test would mean: the account that would lead then. */
export interface Meaning {
  readonly kind: OutcomeKind;
  /** The outcome in words. */
  readonly when: string;
  /** How likely it is to come out so. */
  readonly chance: number;
  /** What would be named then; none where nothing wrong would be. */
  readonly causes: readonly Cause[];
  /** How likely the first of them would be; that nothing is wrong where none is named. */
  readonly probability: number;
}

/** An outcome rarer than this is not worth a sentence. */
const RARE = 0.002;

/** What an outcome is called where it is a size. */
const SIZES: Partial<Record<OutcomeKind, string>> = {
  nothing: "it stays still",
  some: "it gives way a little",
  most: "it gives way by most of what is lost",
};
const WHOLE: Partial<Record<OutcomeKind, string>> = {
  nothing: "next to nothing is lost",
  some: "some is lost",
  most: "much is lost",
};

function wordsOf(test: LocateTest, kind: OutcomeKind): string {
  if (kind === "none") return "nothing of it is found";
  if (kind.startsWith("sound:")) return `it sounds like ${soundLike(kind.slice("sound:".length))}`;
  const sizes = test.magnitude === "whole-chain" ? WHOLE : SIZES;
  return sizes[kind] ?? finding(kind as FindingId).text;
}

/**
 * What each outcome of a test would mean, in a sentence: “it stays still: then End bearings worn, 71 %”.
 * @param posterior - what is known so far
 * @param test - one that can be done on the axis
 * @returns outcomes that are not rare, the likeliest first
 * @example
 * const known = infer({ axis: defaultAxis("vertical-centre", "X"), reports: [{ finding: "rumble", present: true, source: "symptom" }], magnitudes: [] });
 * meaningsOf(known, locateTest("fastener-check")).some((m) => m.causes[0]?.id === "retainer-loose") // true
 */
export function meaningsOf(posterior: Posterior, test: LocateTest): readonly Meaning[] {
  const { hypotheses, causes } = posterior;
  const found: Meaning[] = [];
  for (const { kind, likelihood } of outcomeLikelihoods(posterior, test)) {
    let chance = 0;
    const marginals = new Float64Array(causes.length);
    let noFault = 0;
    let best = -1;
    hypotheses.forEach(({ members, probability }, i) => {
      const weight = probability * likelihood[i];
      chance += weight;
      for (const m of members) marginals[m] += weight;
      if (members.every((m) => causes[m].normal)) noFault += weight;
      if (best < 0 || weight > hypotheses[best].probability * likelihood[best]) best = i;
    });
    if (chance < RARE || best < 0) continue;
    const members = [...hypotheses[best].members].sort((a, b) => marginals[b] - marginals[a]);
    const leading = members.length ? marginals[members[0]] : noFault;
    found.push({
      kind,
      when: wordsOf(test, kind),
      chance,
      causes: members.map((m) => causes[m]),
      probability: leading / chance,
    });
  }
  return found.sort((a, b) => b.chance - a.chance);
}

/** The one result that would overturn a verdict. */
export interface MindChanger extends Meaning {
  readonly test: LocateTest & { readonly id: TestId };
}

/** How likely another account must become for a result to overturn the one that leads. */
const OVERTURNS = 0.3;

/**
 * The one result, of the tests that can still be done, that would overturn the account that leads: the likeliest to
 * come of those after which another is named, covers closed where there is the choice.
 * @param posterior - what is known so far
 * @param done - tests that were made
 * @returns it; null where no single result would
 * @example
 * mindChanger(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] }), new Set())?.test.id.length > 0
 * // true
 */
export function mindChanger(posterior: Posterior, done: ReadonlySet<string>): MindChanger | null {
  const leads = bestHypothesis(posterior).causes.filter((c) => !c.normal);
  const { axis } = posterior.evidence;
  let best: MindChanger | null = null;
  for (const test of LOCATE_TESTS) {
    if (done.has(test.id) || !availability(axis, test).possible || pointless(posterior.evidence, test.id)) continue;
    // A recording makes things likelier and overturns nothing by itself.
    if (test.hears) continue;
    for (const meaning of meaningsOf(posterior, test)) {
      // What only adds to what leads overturns nothing.
      const same = leads.length ? leads.every((c) => meaning.causes.includes(c)) : meaning.causes.length === 0;
      if (same || meaning.probability < OVERTURNS) continue;
      if (best === null || worth({ ...meaning, test }) > worth(best)) best = { ...meaning, test };
    }
  }
  return best;
}

/** Half as much for what has to be opened. */
function worth({ chance, probability, test }: MindChanger): number {
  return chance * probability * (test.opens ? 0.5 : 1);
}
