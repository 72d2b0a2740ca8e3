import {
  availability,
  bestHypothesis,
  causeById,
  DECISION_TERMS,
  infer,
  LOCATE_TESTS,
  minuteCost,
  nextTest,
  remedyCost,
  isSure,
  SURE,
  unprovenPart,
  type LocateTest,
  type Magnitude,
  type Posterior,
  type Report,
} from "@iron/core";
import { doTest, drawWorld, luckFrom, type World } from "./diagnosis-world";

/** domain order: at the control, fasteners, the whole chain, split the chain, only then open it. */
const FIXED_ORDER = [
  "control-check",
  "fastener-check",
  "look-over",
  "whole-chain",
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
  /** Done twice: not done a third time. */
  done: Set<string>;
  once: Set<string>;
  posterior: Posterior;
}

type Choose = (state: State, world: World) => LocateTest | null;

export interface Outcome {
  readonly verdict: readonly string[];
  /** A screw or nut in the verdict may be ordered on it. */
  readonly condemns: boolean;
  readonly confidence: number;
  /** Every cause of the axis with its probability at the verdict. */
  readonly marginals: readonly { readonly id: string; readonly p: number }[];
  readonly minutes: number;
  readonly cost: number;
  readonly tests: readonly string[];
}

/** The account named: causes most likely first, and how sure of the first. */
function top(posterior: Posterior): { names: string[]; p: number } {
  const { causes, probability } = bestHypothesis(posterior);
  const chance = (id: string): number => posterior.marginals[posterior.causes.findIndex((c) => c.id === id)];
  const names = causes
    .map((c) => c.id)
    .filter((id) => id !== "nut-clearance")
    .sort((a, b) => chance(b) - chance(a));
  return { names, p: names.length ? chance(names[0]) : probability };
}

function inferNow(world: World, reports: Report[], magnitudes: Magnitude[]): Posterior {
  return infer({ axis: world.config, reports, magnitudes }, 6);
}

function work(world: World, choose: Choose, seed: number): Outcome {
  const luck = luckFrom(seed);
  const state: State = {
    reports: [...world.reports],
    magnitudes: [],
    done: new Set(),
    once: new Set(),
    posterior: inferNow(world, [...world.reports], []),
  };
  let minutes = 0;
  const tests: string[] = [];
  while (tests.length < 2 * LOCATE_TESTS.length) {
    const test = choose(state, world);
    if (!test) break;
    minutes += availability(world.config, test).minutes;
    const result = doTest(world, test, luck);
    state.reports.push(...result.reports);
    if (result.magnitude) state.magnitudes.push(result.magnitude);
    if (state.once.has(test.id)) state.done.add(test.id);
    state.once.add(test.id);
    tests.push(test.id);
    state.posterior = inferNow(world, state.reports, state.magnitudes);
  }
  const { names, p } = top(state.posterior);
  return {
    verdict: names,
    condemns: unprovenPart(state.posterior) === null,
    confidence: p,
    marginals: state.posterior.causes.map((c, i) => ({
      id: c.id,
      p: state.posterior.marginals[i],
    })),
    minutes,
    cost: minuteCost(world.config, minutes) + mendingAfter(world, names),
    tests,
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

const left = (state: State, world: World): LocateTest[] =>
  LOCATE_TESTS.filter((t) => !state.once.has(t.id) && availability(world.config, t).possible);

export const POLICIES: Record<string, (seed: number) => Choose> = {
  ours: () => (state) => nextTest(state.posterior, { done: state.done, once: state.once }).next?.test ?? null,
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
    if (now >= SURE || !nextTest(state.posterior, { done: state.done, once: state.once }).next) return null;
    let best: LocateTest | null = null;
    let most = 0;
    for (const test of left(state, world)) {
      const r = doTest(world, test, luckFrom(seed * 31 + state.once.size));
      const p = isTrue(
        inferNow(
          world,
          [...state.reports, ...r.reports],
          r.magnitude ? [...state.magnitudes, r.magnitude] : state.magnitudes,
        ),
      );
      const gain = (p - now) / availability(world.config, test).minutes;
      if (gain > most) [best, most] = [test, gain];
    }
    return best;
  },
};

export function run(world: World, policy: string): Outcome {
  return work(world, POLICIES[policy](world.seed), world.seed + 5000);
}

export interface Score {
  n: number;
  /** The first-named cause is there; it sits on a link that is at fault; all faults are named. */
  link: number;
  cause: number;
  all: number;
  screwWrong: number;
  minutes: number;
  cost: number;
  said: { p: number; right: boolean }[];
}

const DEAR = ["screw-worn-middle", "screw-bent", "nut-worn"];

export function score(worlds: readonly World[], policy: string): Score {
  const s: Score = { n: 0, link: 0, cause: 0, all: 0, screwWrong: 0, minutes: 0, cost: 0, said: [] };
  for (const world of worlds) {
    const outcome = run(world, policy);
    const links = new Set(world.faults.map((id) => causeById(id)?.link));
    const first = outcome.verdict[0];
    const none = world.faults.length === 0;
    const causeRight = first ? world.faults.includes(first) : none;
    const linkRight = first ? links.has(causeById(first)?.link) : none;
    const all = [...outcome.verdict].sort().join() === [...world.faults].sort().join();
    const wrongScrew = outcome.condemns && outcome.verdict.some((v) => DEAR.includes(v) && !world.faults.includes(v));
    s.n += 1;
    s.cause += causeRight ? 1 : 0;
    s.link += linkRight ? 1 : 0;
    s.all += all ? 1 : 0;
    s.screwWrong += wrongScrew ? 1 : 0;
    s.minutes += outcome.minutes;
    s.cost += outcome.cost;
    s.said.push({ p: outcome.confidence, right: causeRight });
    if (process.env["SHOW"] && !causeRight && policy === "ours")
      console.log(
        world.seed,
        world.config.letter,
        world.config.transmission,
        "truth",
        world.faults.join("+") || "none",
        "said",
        outcome.verdict.join("+") || "none",
        outcome.confidence.toFixed(2),
        outcome.tests.join(","),
      );
  }
  return s;
}

/** Prints the comparison: every policy in the same worlds. */
export function benchDiagnosis(count: number, oracleCount: number): void {
  const worlds = Array.from({ length: count }, (_, i) => drawWorld(i));
  console.log(
    `diagnosis: ${count} axes of the demo kinds, faults drawn into the virtual axis; oracle on ${oracleCount}`,
  );
  const percent = (x: number, n: number): string => `${((100 * x) / n).toFixed(1)} %`;
  const scores = new Map<string, Score>();
  for (const policy of Object.keys(POLICIES)) {
    const started = performance.now();
    const s = score(policy === "oracle" ? worlds.slice(0, oracleCount) : worlds, policy);
    scores.set(policy, s);
    console.log(
      `${policy.padEnd(13)} link right ${percent(s.link, s.n)}, cause right ${percent(s.cause, s.n)}, every fault named ${percent(s.all, s.n)}, screw wrongly condemned ${percent(s.screwWrong, s.n)}, ${(s.minutes / s.n).toFixed(1)} min and ${(s.cost / s.n).toFixed(0)} to the end a case (${((performance.now() - started) / s.n).toFixed(0)} ms each)`,
    );
  }
  const ours = scores.get("ours") as Score;
  const fixed = scores.get("fixed order") as Score;
  console.log(`minutes against the fixed order: ratio ${(ours.minutes / fixed.minutes).toFixed(2)}`);
  for (const [from, to] of [
    [0, 0.5],
    [0.5, 0.7],
    [0.7, 0.8],
    [0.8, 0.9],
    [0.9, 0.97],
    [0.97, 1.01],
  ]) {
    const band = ours.said.filter((v) => v.p >= from && v.p < to);
    if (band.length)
      console.log(
        `said at ${from * 100} to ${Math.min(100, to * 100)} %: ${band.length} verdicts, mean ${percent(
          band.reduce((a, v) => a + v.p, 0),
          band.length,
        )}, held ${percent(band.filter((v) => v.right).length, band.length)}`,
      );
  }
}
