import { finding, isLooseFastener, type FindingId } from "../measure/findings";
import { misfit } from "./account-fit";
import { bestHypothesis } from "./best-hypothesis";
import { minutesStanding, rankTests, type RankedTest, type RankingOptions } from "./decide";
import type { Posterior } from "./infer";
import type { Report } from "./evidence";
import type { Cause } from "./knowledge";
import { letBe, mayBeLet } from "./let-be";
import type { LocateTest } from "./locate-test";
import { standsStill } from "./pointless";
import { testsOfProof } from "./proven";
import { isSeen, neededTests, untriedFasteners } from "./seen";
import { locateTest, type TestId } from "./tests";
import { thirdFault } from "./third-fault";
import { contradictoryFindings, unexplained } from "./unexplained";

/** Probability at which a cause is named without a doubt worth a test. */
export const SURE = 0.95;
/** Nothing else may be likelier than this for a verdict to be sure. */
const NOTHING_ELSE = 0.1;

/**
 * Every named cause is sure, a test has looked at it and its fasteners were tried, what was measured fits it, what was
 * noticed is explained, and no other is likely: more testing cannot change what is done.
 * @param posterior - what is known so far
 * @returns whether it is
 * @example isSure(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })) // false
 */
export function isSure(posterior: Posterior): boolean {
  return (
    isLikelyEnough(posterior) &&
    unexplained(posterior).every((r) => r.source === "symptom") &&
    neededTests(posterior).length === 0 &&
    bestHypothesis(posterior).causes.every((c) => isSeen(posterior, c)) &&
    misfit(posterior) === null &&
    (thirdFault(posterior)?.probability ?? 0) <= THREE_LEAD
  );
}

/** From this chance on three faults lead, and two of them are no verdict. */
export const THREE_LEAD = 0.5;

function isLikelyEnough(posterior: Posterior): boolean {
  const { causes, marginals, evidence } = posterior;
  const named = bestHypothesis(posterior).causes;
  if (named.every((c) => c.normal)) {
    // What brought somebody to the axis is explained by what is normal: no fault has to be looked for besides.
    const enough = named.length > 0 && posterior.evidence.allTold ? EXPLAINED : COVERED;
    const most = named.length ? NOTHING_ELSE : NO_ONE_THING;
    const quiet = (i: number): boolean => causes[i].normal === true || mayBeLet(evidence, causes[i]);
    return letBe(posterior).probability >= enough && marginals.every((p, i) => p <= most || quiet(i));
  }
  return causes.every((c, i) => {
    if (named.includes(c)) return marginals[i] >= (c.normal ? NAMED_NORMAL : SURE);
    return c.normal === true || marginals[i] <= NOTHING_ELSE;
  });
}
/**
 * Probability that nothing is wrong from which a covered chain is let be: loss, friction and noise of the whole found as
 * they should be, and no one thing likely. What is left is spread over what would have been noticed.
 */
const COVERED = 0.65;
/** Where nothing is named, no one thing may be likelier than this. */
export const NO_ONE_THING = 0.08;
/** The same where all that was noticed is normal. */
const EXPLAINED = 0.5;
/** What is normal costs nothing if it is not so. */
const NAMED_NORMAL = 0.75;

/** A look of so many minutes is in passing (common practice, no source). */
const QUICK = 5;

/**
 * Where nothing is named, what is looked at in passing and is worth more for its minutes comes before what covers the
 * chain; not the knobs of a control, of which nobody says that it holds the axis.
 */
function isInPassing(quick: RankedTest, { minutes }: RankedTest): boolean {
  return quick.minutes <= QUICK && quick.minutes < minutes && quick.test.id !== "control-check";
}

export interface NextStep {
  readonly next: RankedTest | null;
  readonly ranked: readonly RankedTest[];
  /** Why there is no next test. */
  readonly stop: "sure" | "cannot-change" | null;
  /** Another that is worth doing while the set-up stands, and what it costs then. */
  readonly together: { readonly test: LocateTest & { readonly id: TestId }; readonly minutes: number } | null;
}

/**
 * The next test, or why there is none: more testing cannot change the decision.
 * @param posterior - what is known so far
 * @param options - as for {@link rankTests}
 * @returns the test with the greatest net worth, all of them ranked, and why to stop where there is none
 * @example
 * nextTest(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })).stop // null
 */
export function nextTest(posterior: Posterior, options: RankingOptions = {}): NextStep {
  const ranked = rankTests(posterior, options);
  const proof = testsOfProof(posterior)
    .map((id) => ranked.find((r) => r.test.id === id && !options.once?.has(id) && !opens(r)))
    .find((r) => r !== undefined);
  // Likely or sure: a screw or nut is not bought before what proves it was measured.
  const end = (stop: "sure" | "cannot-change"): NextStep =>
    proof
      ? { next: proof, ranked, stop: null, together: togetherWith(proof, ranked) }
      : { next: null, ranked, stop, together: null };
  if (isSure(posterior)) return end("sure");
  // Likely enough by what was told and measured beside it: now it is looked at itself, however little that may change.
  // Where nothing is named the whole is covered before single things are asked; where all that is named was looked at,
  // what it leaves unexplained comes next.
  const named = bestHypothesis(posterior).causes;
  const settled = named.every((c) => isSeen(posterior, c) && untriedFasteners(posterior, c).length === 0);
  // What costs nothing is looked at in any case before what does.
  const all = isLikelyEnough(posterior) || settled;
  const needed = neededTests(posterior).filter((id) => all || locateTest(id)?.free);
  const again = repeatable(posterior);
  const noisy = isNoisy(posterior);
  const may = (r: RankedTest): boolean => (!r.test.hears || noisy) && (!options.once?.has(r.test.id) || again(r.test));
  const look = needed
    .map((id) => ranked.find((r) => r.test.id === id && may(r)))
    .filter((r) => r !== undefined)
    // What costs a minute is looked at before what costs half an hour; a wrench comes before an indicator.
    .sort((a, b) => Number(b.test.free ?? false) - Number(a.test.free ?? false))
    .at(0);
  const repeat = readAgain(posterior, ranked, may) ?? (settled ? lookAgain(posterior, ranked) : undefined);
  const worth = ranked.filter((r) => (r.net > 0 || r.freeLook) && may(r));
  // Covers stay on while a test without opening is worth anything.
  const first = worth.find((r) => !opens(r)) ?? worth[0];
  const clearing =
    named.length === 0
      ? clearingBest(posterior, { ranked: ranked.filter(may), needed: neededTests(posterior) })
      : undefined;
  // What does not move is asked of its control, two minutes at the knobs, before a wrench is fetched.
  const control = standsStill(posterior.evidence)
    ? ranked.find((r) => r.test.id === "control-check" && !options.once?.has(r.test.id))
    : undefined;
  const best =
    control ??
    repeat ??
    clearing ??
    (named.length === 0 && look && first && isInPassing(first, look) ? first : (look ?? first));
  const next = best && opens(best) ? (freeLook(ranked, options) ?? best) : best;
  if (!next) return end("cannot-change");
  return { next, ranked, stop: null, together: togetherWith(next, ranked.filter(may)) };
}

/** Somebody hears something: where nobody does, nobody is sent to record it. */
function isNoisy({ evidence }: Posterior): boolean {
  return evidence.reports.some((r) => r.present && finding(r.finding).group === "noise");
}

/**
 * Where nothing is named: what covers the chain, then what brings "nothing is wrong" on most for its minutes; that comes
 * before its turn while its set-up stands.
 */
function clearingBest(
  posterior: Posterior,
  { ranked, needed }: { readonly ranked: readonly RankedTest[]; readonly needed: readonly TestId[] },
): RankedTest | undefined {
  const now = letBe(posterior).probability;
  const gain = (r: RankedTest): number => (r.clears - now) / r.minutes;
  const most = (of: readonly RankedTest[]): RankedTest | undefined =>
    of.reduce<RankedTest | undefined>((a, b) => (a && gain(a) >= gain(b) ? a : b), undefined);
  const cover = ranked.filter((r) => needed.includes(r.test.id));
  const beyond = most(ranked.filter((r) => !opens(r) && r.clears - now > CLEARS_NOTHING));
  if (cover.length === 0 || beyond?.stands) return beyond;
  return most(cover);
}
const CLEARS_NOTHING = 0.003;

/**
 * Tests that are not offered again: made twice, or a third time where the first two found it both so and not so.
 * @param times - how often each was made, by its id
 * @param reports - of the case
 * @returns ids
 * @example [...madeOften(new Map([["rock", 2], ["look-over", 1]]), [])] // [ "rock" ]
 */
export function madeOften(times: ReadonlyMap<string, number>, reports: readonly Report[]): ReadonlySet<string> {
  const both = contradictoryFindings(reports);
  const enough = (id: string): number => (locateTest(id)?.findings.some((f) => both.includes(f)) ? 3 : 2);
  return new Set([...times].filter(([id, n]) => n >= enough(id)).map(([id]) => id));
}

/** Looks at the machine itself that cost nothing; an ear at the spindle and the knobs of the control are none. */
const LOOKS: readonly TestId[] = ["look-over", "fastener-check", "comp-look"];

/** No cover comes off before any of them was made. */
function freeLook(ranked: readonly RankedTest[], { once }: RankingOptions): RankedTest | null {
  if (LOOKS.some((id) => once?.has(id))) return null;
  const free = ranked.filter((r) => LOOKS.some((id) => id === r.test.id));
  return free.reduce<RankedTest | null>((a, b) => (a === null || b.minutes < a.minutes ? b : a), null);
}

/** What fits nothing is read again before anything is built on it. */
function readAgain(
  posterior: Posterior,
  ranked: readonly RankedTest[],
  may: (r: RankedTest) => boolean,
): RankedTest | undefined {
  const odd = misfit(posterior)?.size;
  if (!odd) return undefined;
  const whole = posterior.evidence.magnitudes.findLast((m) => m.kind === "whole-chain");
  // A compensation in the control makes the whole less than its parts: looked up before anything is set up again.
  const more = whole && odd.reversalValueMm > whole.reversalValueMm;
  const atControl = more ? ranked.find((r) => r.test.id === "comp-look" && may(r)) : undefined;
  return atControl ?? ranked.find((r) => r.test.id === odd.kind);
}

/** What a test found and nothing named explains is looked at once more, before other things are asked for its sake. */
function lookAgain(posterior: Posterior, ranked: readonly RankedTest[]): RankedTest | undefined {
  const odd = unexplained(posterior).filter((r) => r.source === "test" && !isLooseFastener(r.finding));
  return ranked.find((r) => !opens(r) && r.test.findings.some((id) => odd.some((o) => o.finding === id)));
}

const opens = (r: RankedTest): boolean => r.test.opens === true;

/**
 * A test is repeated when it may come out otherwise: its list was not worked through, tests found it both so and not
 * so, or all that is named hangs on its one yes.
 */
function repeatable(posterior: Posterior): (test: LocateTest) => boolean {
  const both = contradictoryFindings(posterior.evidence.reports);
  const { causes } = bestHypothesis(posterior);
  const untried = causes.some((c) => untriedFasteners(posterior, c).length > 0);
  const alone = isLikelyEnough(posterior) ? [] : onOneYes(posterior, causes);
  return ({ id: test, findings }) =>
    (test === "fastener-check" && untried) || findings.some((id) => both.includes(id) || alone.includes(id));
}

/** Findings that one test said are so, and that alone speak for what is named; a screw that turned was tightened. */
function onOneYes({ evidence }: Posterior, named: readonly Cause[]): readonly FindingId[] {
  const yes = evidence.reports.filter((r) => r.present && named.some((c) => c.shows[r.finding]));
  const [only, ...more] = yes;
  return only?.source === "test" && more.length === 0 && !isLooseFastener(only.finding) ? [only.finding] : [];
}

/** The test worth most among those of the same set-up, at what it costs while that stands. */
function togetherWith(next: RankedTest, ranked: readonly RankedTest[]): NextStep["together"] {
  const { setup: standing } = next.test;
  const there = ranked.filter((r) => standing && r !== next && r.test.setup === standing);
  for (const { test, value, cost, minutes: alone } of there) {
    const minutes = minutesStanding(test, { minutes: alone, standing });
    if (value > (cost * minutes) / alone) return { test, minutes };
  }
  return null;
}
