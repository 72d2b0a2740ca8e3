import {
  availability,
  bestHypothesis,
  causeById,
  DECISION_TERMS,
  infer,
  LOCATE_TESTS,
  madeOften,
  minuteCost,
  minutesStanding,
  nextTest,
  remedyCost,
  isSure,
  letBe,
  SURE,
  unprovenPart,
  type AxisConfig,
  type CaseContext,
  type LocateTest,
  type Magnitude,
  type PartsCondition,
  type Posterior,
  type RankingOptions,
  type Report,
  type ShopPriors,
  type SoundHeard,
} from "@iron/core";
import { forbidden } from "./forbidden";
import { luckFrom, type Luck } from "./luck";

/** What a test answered. */
export interface Tried {
  readonly test: string;
  readonly reports: readonly Report[];
  readonly magnitude: Magnitude | null;
}

/** One broken (or sound) axis that the policies meet, whichever world it is of. */
export interface World<T extends Tried = Tried> {
  readonly config: AxisConfig;
  readonly context: CaseContext;
  readonly faults: readonly string[];
  /** What the technician tells. */
  readonly reports: readonly Report[];
  readonly seed: number;
  /** What the axis truly loses between motor and member in the middle of its travel, mm. */
  readonly lostMm: number;
  /** How its parts are, where they are those of the virtual axis. */
  readonly parts?: PartsCondition;
  /** What a recording of it was like, where one was made first. */
  readonly sound?: SoundHeard;
  /** What a recording of it would be like; without it none can be made. */
  readonly record?: () => SoundHeard | null;
  /** What the shop has learned before. */
  readonly shop?: ShopPriors;
  readonly doTest: (test: LocateTest, luck: Luck) => T;
}

/** domain order: at the control, fasteners, the whole chain, split the chain, only then open it. */
const FIXED_ORDER = [
  "control-check",
  "fastener-check",
  "look-over",
  "whole-chain",
  "motor-against-scale",
  "load-trace",
  "rock",
  "sound-comparison",
  "listen-still",
  "end-float",
  "nut-flank",
  "coupling-slip",
  "housing-shift",
  "bracket-shift",
  "wheel-turn",
  "home-again",
  "tram-look",
  "scale-look",
  "whole-twice",
  "travel-profile",
  "crest-run",
  "far-end",
  "hand-push",
  "motor-alone",
  "coast",
  "finger-feel",
];

interface State {
  reports: Report[];
  magnitudes: Magnitude[];
  once: Set<string>;
  /** How often each was made. */
  times: Map<string, number>;
  /** What was recorded. */
  sound: SoundHeard | undefined;
  /** The set-up of the last test. */
  standing: LocateTest["setup"];
  posterior: Posterior;
}

type Choose = (state: State, world: World) => LocateTest | null;

export interface Outcome<T extends Tried = Tried> {
  readonly verdict: readonly string[];
  /** A screw or nut in the verdict may be ordered on it. */
  readonly condemns: boolean;
  readonly confidence: number;
  /** It stopped because more testing cannot change what is done. */
  readonly sure: boolean;
  /** Every cause of the axis with its probability at the verdict. */
  readonly marginals: readonly { readonly id: string; readonly p: number }[];
  readonly minutes: number;
  readonly cost: number;
  readonly tests: readonly string[];
  /** Proposals that no mechanic would follow, with why. */
  readonly forbidden: readonly string[];
  readonly answers: readonly T[];
}

/** The account named: causes most likely first, and how sure of the first. */
function top(posterior: Posterior): { names: string[]; p: number } {
  const { causes } = bestHypothesis(posterior);
  const chance = (id: string): number => posterior.marginals[posterior.causes.findIndex((c) => c.id === id)];
  const names = causes.map((c) => c.id).sort((a, b) => chance(b) - chance(a));
  // Where none is named it is said how likely nothing has to be mended.
  return { names, p: names.length ? chance(names[0]) : letBe(posterior).probability };
}

type Known = Pick<State, "reports" | "magnitudes" | "sound">;

function inferNow(world: World, { reports, magnitudes, sound }: Known): Posterior {
  return infer(
    {
      axis: world.config,
      context: world.context,
      shop: world.shop,
      reports,
      magnitudes,
      allTold: true,
      sound,
    },
    6,
  );
}

function work<T extends Tried>(world: World<T>, choose: Choose, seed: number): Outcome<T> {
  const luck = luckFrom(seed);
  const state: State = {
    reports: [...world.reports],
    magnitudes: [],
    once: new Set(),
    times: new Map(),
    standing: undefined,
    sound: world.sound,
    posterior: inferNow(world, { reports: [...world.reports], magnitudes: [], sound: world.sound }),
  };
  let minutes = 0;
  const tests: string[] = [];
  const refused: string[] = [];
  const times = state.times;
  const answers: T[] = [];
  while (tests.length < 2 * LOCATE_TESTS.length) {
    const test = choose(state, world);
    if (!test) break;
    const { reports, magnitudes } = state;
    const why = forbidden(test, { config: world.config, reports, magnitudes, times });
    if (why) refused.push(`${test.id}: ${why}`);
    times.set(test.id, (times.get(test.id) ?? 0) + 1);
    minutes += minutesStanding(test, {
      minutes: availability(world.config, test).minutes,
      standing: state.standing,
    });
    if (test.hears) state.sound = world.record?.() ?? undefined;
    const result = world.doTest(test, luck);
    answers.push(result);
    state.reports.push(...result.reports);
    if (result.magnitude) state.magnitudes.push(result.magnitude);
    state.once.add(test.id);
    state.standing = test.setup;
    tests.push(test.id);
    state.posterior = inferNow(world, state);
  }
  const { names, p } = top(state.posterior);
  return {
    verdict: names,
    condemns: unprovenPart(state.posterior) === null,
    confidence: p,
    sure: isSure(state.posterior),
    marginals: state.posterior.causes.map((c, i) => ({
      id: c.id,
      p: state.posterior.marginals[i],
    })),
    minutes,
    cost: minuteCost(world.config, minutes) + mendingAfter(world, names),
    tests,
    forbidden: refused,
    answers,
  };
}

/** What mending costs after the verdict: the named remedies, and a call-in for what they missed. */
function mendingAfter(world: World, verdict: readonly string[]): number {
  const cost = (id: string): number => {
    const cause = causeById(id);
    return cause ? remedyCost(world.config, cause) : 0;
  };
  let sum = verdict.reduce((s, id) => s + cost(id), 0);
  const missed = world.faults.filter((f) => !verdict.includes(f));
  if (missed.length)
    sum += minuteCost(world.config, DECISION_TERMS.callInMinutes) + missed.reduce((s, id) => s + cost(id), 0);
  return sum;
}

/** Where there is nothing to hear none is offered. */
const optionsOf = ({ times, reports, once, standing }: State, world: World): RankingOptions => ({
  done: new Set([...madeOften(times, reports), ...(world.record ? [] : ["recording"])]),
  once,
  standing,
});

const left = (state: State, world: World): LocateTest[] =>
  LOCATE_TESTS.filter((t) => !t.hears && !state.once.has(t.id) && availability(world.config, t).possible);

export const POLICIES: Record<string, (seed: number) => Choose> = {
  ours: () => (state, world) => nextTest(state.posterior, optionsOf(state, world)).next?.test ?? null,
  "fixed order": () => (state, world) =>
    isSure(state.posterior)
      ? null
      : (left(state, world).sort((a, b) => FIXED_ORDER.indexOf(a.id) - FIXED_ORDER.indexOf(b.id))[0] ?? null),
  "random order": (seed) => {
    const luck = luckFrom(seed + 77);
    return (state, world) => {
      if (isSure(state.posterior)) return null;
      const there = left(state, world);
      return there[Math.floor(luck.uniform() * there.length)] ?? null;
    };
  },
  oracle: (seed) => (state, world) => {
    // It knows what is wrong and only has to make the rest of us see it.
    const isTrue = (p: Posterior): number =>
      world.faults.length === 0
        ? p.noFault
        : Math.max(...world.faults.map((id) => p.marginals[p.causes.findIndex((c) => c.id === id)] ?? 0));
    const now = isTrue(state.posterior);
    // It may stop where ours may: when more testing cannot change what is done.
    if (now >= SURE || !nextTest(state.posterior, optionsOf(state, world)).next) return null;
    let best: LocateTest | null = null;
    let most = 0;
    for (const test of left(state, world)) {
      const r = world.doTest(test, luckFrom(seed * 31 + state.once.size));
      const p = isTrue(
        inferNow(world, {
          reports: [...state.reports, ...r.reports],
          magnitudes: r.magnitude ? [...state.magnitudes, r.magnitude] : state.magnitudes,
          sound: state.sound,
        }),
      );
      const gain = (p - now) / availability(world.config, test).minutes;
      if (gain > most) [best, most] = [test, gain];
    }
    return best;
  },
};

export function run<T extends Tried>(world: World<T>, policy: string): Outcome<T> {
  return work(world, POLICIES[policy](world.seed), world.seed + 5000);
}
