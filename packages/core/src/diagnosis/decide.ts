import type { Posterior } from "./infer";
import { latentOf, reportErrors } from "./reports";
import { finding, type FindingId } from "../measure/findings";
import { normalCdf } from "./normal";
import { letBe } from "./let-be";
import type { LocateTest } from "./locate-test";
import { pointless } from "./pointless";
import { soundOutcomes } from "./sound-evidence";
import { availability, findingsOf, LOCATE_TESTS, type TestId } from "./tests";
import { DECISION_TERMS, minuteCost, remedyCost, type DecisionTerms } from "./decision-terms";
import { Mending } from "./mending";

/** The hypotheses that matter for a ranking: all but the last thousandth, most likely first. */
function likelyPart(posterior: Posterior): Posterior {
  const sorted = [...posterior.hypotheses].sort((a, b) => b.probability - a.probability);
  let sum = 0;
  let count = 0;
  while (count < sorted.length && sum < 0.999) {
    sum += sorted[count].probability;
    count += 1;
  }
  return { ...posterior, hypotheses: sorted.slice(0, count) };
}

export interface RankedTest {
  readonly test: LocateTest & { readonly id: TestId };
  readonly minutes: number;
  readonly cost: number;
  /** How much less mending is expected to cost once its result is known. */
  readonly value: number;
  /** Value less cost: what it is worth doing. */
  readonly net: number;
  readonly say: string;
  /** A look that costs nothing and can find something: comes first. */
  readonly freeLook: boolean;
  /** The causes whose probability it moves most. */
  readonly splits: readonly string[];
  /** Its set-up stands from the test before. */
  readonly stands: boolean;
  /** How likely nothing is to be mended after it, on average, if nothing is. */
  readonly clears: number;
}

export interface RankingOptions {
  readonly terms?: DecisionTerms;
  /** Tests done often enough: not offered again unless asked for. */
  readonly done?: ReadonlySet<string>;
  /** Tests done once: they may be worth repeating, but are no longer free looks. */
  readonly once?: ReadonlySet<string>;
  /** The set-up that stands from the test before: another of it costs less. */
  readonly standing?: LocateTest["setup"];
}

/** What a test costs while the set-up of another stands, of what it costs by itself (common practice, no source). */
const SET_UP_ALREADY = 0.4;

/**
 * Minutes of a test while a set-up stands.
 * @param test - the test
 * @param options - `minutes`: what it takes by itself; `standing`: the set-up of the test before
 * @returns whole minutes
 * @example minutesStanding(locateTest("nut-flank"), { minutes: 20, standing: "on-member" }) // 8
 */
export function minutesStanding(
  test: LocateTest,
  { minutes, standing }: { readonly minutes: number; readonly standing?: LocateTest["setup"] },
): number {
  return standing && test.setup === standing ? Math.ceil(SET_UP_ALREADY * minutes) : minutes;
}

/** Standard uncertainty a guided test is expected to have, mm (common practice, no source). */
const EXPECTED_U_MM = 0.0012;

/**
 * All tests that can be done on the axis, best first, by what they save for what they cost.
 * @param whole - what is known so far
 * @param options - `terms`: what things cost; `done`: tests already done; `once`: those not worth repeating
 * @returns every test that fits, with what it saves and costs
 * @example
 * rankTests(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })).length > 10
 * // true
 */
export function rankTests(whole: Posterior, options: RankingOptions = {}): readonly RankedTest[] {
  const none: ReadonlySet<string> = new Set();
  const { terms = DECISION_TERMS, done = none, once = none } = options;
  const posterior = likelyPart(whole);
  const { axis } = posterior.evidence;
  const costs = posterior.causes.map((c) => Math.max(1, remedyCost(axis, c, terms)));
  costs.push(Math.max(1, minuteCost(axis, 2 * terms.retestMinutes)));
  const now = Float64Array.from(posterior.hypotheses, (h) => h.probability);
  const mending = new Mending(posterior, { axis, costs, terms });
  const before = mending.cost(now);
  const sound = letBe(posterior).accounts;
  const noFault = sumAt(now, sound);
  const ranked: RankedTest[] = [];
  const sizes: SizeClasses = new Map();
  for (const test of LOCATE_TESTS) {
    const there = availability(axis, test);
    if (!there.possible || done.has(test.id) || pointless(whole.evidence, test.id)) continue;
    let after = 0;
    let told = 0;
    let clears = 0;
    const shift = new Float64Array(posterior.causes.length);
    eachOutcome(factorsOf(posterior, test, sizes), now, (weights, chance) => {
      told += chance;
      after += chance * mending.cost(weights);
      clears += sumAt(weights, sound) ** 2 / chance;
      mending.chances.forEach((there, i) => (shift[i] += chance * Math.abs(there - posterior.marginals[i])));
    });
    // What is too rare to be weighed teaches nothing.
    after += (1 - told) * before;
    const minutes = minutesStanding(test, { minutes: there.minutes, standing: options.standing });
    const cost = minuteCost(axis, minutes);
    const value = Math.max(0, before - after);
    const splits = [...shift.keys()]
      .filter((i) => shift[i] > 0.01)
      .sort((a, b) => shift[b] - shift[a])
      .slice(0, 2)
      .map((i) => posterior.causes[i].name);
    const freeLook = test.free === true && !once.has(test.id) && value > 0 && findable(posterior, test) > FREE_FIRST;
    clears = noFault > 0 ? clears / noFault + (1 - told) * noFault : 0;
    ranked.push({
      freeLook,
      test,
      minutes,
      stands: minutes < there.minutes,
      cost,
      value,
      net: value - cost,
      say: there.say,
      splits,
      clears,
    });
  }
  return ranked.sort((a, b) => order(b) - order(a) || b.net - a.net);
}

function sumAt(weights: Float64Array, indices: readonly number[]): number {
  let sum = 0;
  for (const i of indices) sum += weights[i];
  return sum;
}

/** Outcomes rarer than this are not worth weighing: they count as if nothing were learnt. */
const RARE = 0.001;

/** Free looks first while they can find something; then what saves most for each unit it costs. */
function order(ranked: RankedTest): number {
  const each = ranked.value / Math.max(ranked.cost, 0.01);
  if (ranked.freeLook) return 1e6 + each;
  return ranked.net > 0 ? each : ranked.net / 1e6;
}
const FREE_FIRST = 0.04;

/** Probability that what a test looks for is what is wrong. */
function findable(posterior: Posterior, test: LocateTest): number {
  let sum = 0;
  posterior.causes.forEach((cause, i) => {
    if (test.findings.some((f) => cause.shows[f] === "++")) sum += posterior.marginals[i];
  });
  return sum;
}

/** A finding as likely under every hypothesis need not be told apart. */
const TELLS_NOTHING = 0.02;

/** What a test can come out with, one question after the other: for each its answers, with likelihoods by hypothesis. */
type Factor = readonly Float64Array[];

/** Classes of a size by account, worked out once for all tests that read it. */
type SizeClasses = Map<string, Factor>;

function factorsOf(posterior: Posterior, test: LocateTest, sizes: SizeClasses): readonly Factor[] {
  const factors: Factor[] = [];
  for (const id of findingsOf(posterior.evidence.axis, test)) {
    const yes = chanceReported(posterior, id);
    if (tellsNothing(yes)) continue;
    factors.push([yes, yes.map((p) => 1 - p)]);
  }
  if (test.hears) {
    const { evidence, causes, hypotheses } = posterior;
    factors.push(soundOutcomes(evidence.axis, causes, hypotheses).map((o) => o.likelihood));
  }
  if (!test.magnitude) return factors;
  const kept = sizes.get(test.magnitude);
  const classes = kept ?? sizeBins(posterior, test).map((bin) => byAccount(posterior, bin));
  if (!kept) sizes.set(test.magnitude, classes);
  return [...factors, classes];
}

function tellsNothing(chances: Float64Array): boolean {
  let [least, most] = [Infinity, -Infinity];
  for (const chance of chances) {
    if (chance < least) least = chance;
    if (chance > most) most = chance;
  }
  return most - least < TELLS_NOTHING;
}

/** What is known by sets of shares, for each account. */
function byAccount({ hypotheses }: Posterior, bySet: Float64Array): Float64Array {
  const each = new Float64Array(hypotheses.length);
  for (let i = 0; i < each.length; i += 1) each[i] = bySet[hypotheses[i].shareSet];
  return each;
}

/** Every outcome that is not too rare, with the weights it leaves and its chance; a rare beginning is not gone into. */
function eachOutcome(
  factors: readonly Factor[],
  start: Float64Array,
  visit: (weights: Float64Array, chance: number) => void,
): void {
  // One answer after the other is gone into to its end: they share the room.
  const rooms = factors.map(() => new Float64Array(start.length));
  const go = (at: number, weights: Float64Array): void => {
    let chance = 0;
    for (const w of weights) chance += w;
    if (chance < RARE) return;
    if (at === factors.length) {
      visit(weights, chance);
      return;
    }
    const left = rooms[at];
    for (const likelihood of factors[at]) {
      for (let i = 0; i < left.length; i += 1) left[i] = weights[i] * likelihood[i];
      go(at + 1, left);
    }
  };
  go(0, start);
}

/** An outcome by itself: a finding that is so, none of them, or how large a size is. */
export type OutcomeKind = FindingId | "none" | "nothing" | "some" | "most" | `sound:${string}`;

/**
 * The outcomes of a test one by one, as a person thinks of them: each finding by itself, none of them, each class of
 * size; with its likelihood under every hypothesis. They overlap where a test can find several things at once.
 * @param posterior - what is known so far
 * @param test - the test
 * @returns likelihoods for each hypothesis
 * @example
 * const known = infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] });
 * outcomeLikelihoods(known, locateTest("end-float")).map((o) => o.kind) // [ "nothing", "some", "most" ]
 */
export function outcomeLikelihoods(
  posterior: Posterior,
  test: LocateTest,
): readonly { readonly kind: OutcomeKind; readonly likelihood: Float64Array }[] {
  const { hypotheses, evidence, causes } = posterior;
  if (test.hears)
    return soundOutcomes(evidence.axis, causes, hypotheses).map(({ kind, likelihood }) => ({
      kind: `sound:${kind}`,
      likelihood,
    }));
  const outcomes: { kind: OutcomeKind; likelihood: Float64Array }[] = [];
  const none = new Float64Array(hypotheses.length).fill(1);
  for (const kind of findingsOf(evidence.axis, test)) {
    const likelihood = chanceReported(posterior, kind);
    if (tellsNothing(likelihood)) continue;
    outcomes.push({ kind, likelihood });
    likelihood.forEach((yes, i) => (none[i] *= 1 - yes));
  }
  if (outcomes.length) outcomes.push({ kind: "none", likelihood: none });
  if (!test.magnitude) return outcomes;
  const [nothing, some, much, most] = sizeBins(posterior, test).map((bin) => byAccount(posterior, bin));
  return [
    ...outcomes,
    { kind: "nothing", likelihood: nothing },
    { kind: "some", likelihood: some },
    { kind: "most", likelihood: much.map((p, i) => p + most[i]) },
  ];
}

/** Chance that a test reports a finding, by hypothesis, given what has been reported of it before. */
function chanceReported({ latents, hypotheses }: Posterior, found: FindingId): Float64Array {
  const id = latentOf(found);
  const [present, not] = latents.said.get(id) ?? [1, 1];
  const { missed, imagined } = reportErrors(found, "test");
  const entry = latents.quiet.get(id);
  const leak = entry?.leak ?? 1 - finding(id).leak;
  const chances = new Float64Array(hypotheses.length);
  for (let i = 0; i < chances.length; i += 1) {
    let quiet = leak;
    const by = hypotheses[i].slight ? entry?.bySlight : entry?.byCause;
    if (by) for (const m of hypotheses[i].members) quiet *= by[m];
    const there = ((1 - quiet) * present) / ((1 - quiet) * present + quiet * not);
    chances[i] = there * (1 - missed) + (1 - there) * imagined;
  }
  return chances;
}

/** Beyond this many standard deviations nothing is left that a ranking would notice. */
const FAR = 5;
const below = (z: number): number => (z > FAR ? 1 : z < -FAR ? 0 : normalCdf(z));

/** Chance of each size class (nothing, some, much, most) by set of shares. */
function sizeBins(posterior: Posterior, test: LocateTest): readonly Float64Array[] {
  const { model, evidence, shareSets } = posterior;
  const row = test.magnitude ? model.rowOf(test.magnitude) : model.slacks.map(() => 0);
  const whole = evidence.magnitudes.filter((m) => m.kind === "whole-chain").at(-1)?.reversalValueMm;
  const scale = whole === undefined ? evidence.axis.limits.repairMm : Math.abs(whole);
  const edges = [Math.max(3 * EXPECTED_U_MM, 0.15 * scale), 0.45 * scale, 0.8 * scale].sort((a, b) => a - b);
  const bins = edges.map(() => new Float64Array(shareSets.length));
  bins.push(new Float64Array(shareSets.length));
  const live = new Set(posterior.hypotheses.map((h) => h.shareSet));
  shareSets.forEach((set, index) => {
    // Written out: this is asked for thousands of combinations of shares in one ranking.
    let [total, a, b, d] = [0, 0, 0, 0];
    if (live.has(index))
      set.predict(row, (w, mean, variance) => {
        const sd = Math.sqrt(variance + EXPECTED_U_MM ** 2);
        total += w;
        a += w * below((edges[0] - mean) / sd);
        b += w * below((edges[1] - mean) / sd);
        d += w * below((edges[2] - mean) / sd);
      });
    const [low, middle, high] = total > 0 ? [a / total, b / total, d / total] : [0.25, 0.5, 0.75];
    bins[0][index] = Math.max(low, 0);
    bins[1][index] = Math.max(middle - low, 0);
    bins[2][index] = Math.max(high - middle, 0);
    bins[3][index] = Math.max(1 - high, 0);
  });
  return bins;
}
