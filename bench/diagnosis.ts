import {
  availability,
  causeById,
  isLooseFastener,
  locateTest,
  LOCATE_TESTS,
  type AxisConfig,
  type FindingId,
} from "@iron/core";
import { observed, type Observation } from "./apart/observer";
import { apartWorld } from "./apart/scene";
import { POLICIES, run, type Outcome, type Tried, type World } from "./diagnosis-case";
import { CONFIGS, drawWorld } from "./diagnosis-world";
import { observedFirst } from "./first-observer";
import { luckFrom } from "./luck";
import { CLOSED_BEFORE, shopAfter } from "./shop-after";

/** Counts over cases; rates are over all of them. */
interface Score {
  n: number;
  /** The first-named cause is there; it sits on a link that is at fault; all faults are named. */
  link: number;
  cause: number;
  all: number;
  /** Of the axes with two faults, those with both named. */
  two: number;
  bothNamed: number;
  dearWrong: number;
  /** Of the sound axes, those cleared within an hour. */
  sound: number;
  cleared: number;
  minutes: number;
  cost: number;
  /** What its diagnosis took. */
  ms: number;
  /** Proposals that no mechanic would follow. */
  forbidden: string[];
  said: { p: number; right: boolean }[];
  /** By fault: axes with it, and those where it is named. */
  readonly named: Map<string, { there: number; named: number }>;
}

const DEAR = ["screw-worn-middle", "screw-bent", "nut-worn"];
/** Probability from which the observer would let a covered axis be, as ours does. */
const CLEAR = 0.65;
const CLEARED_MINUTES = 60;

const noScore = (): Score => ({
  n: 0,
  link: 0,
  cause: 0,
  all: 0,
  two: 0,
  bothNamed: 0,
  dearWrong: 0,
  sound: 0,
  cleared: 0,
  minutes: 0,
  cost: 0,
  ms: 0,
  forbidden: [],
  said: [],
  named: new Map(),
});

/** Counts what a verdict is worth, whoever gave it. */
function count(s: Score, world: World, verdict: readonly string[]): boolean {
  const [first] = verdict;
  const none = world.faults.length === 0;
  const links = world.faults.map((id) => causeById(id)?.link);
  const causeRight = first ? world.faults.includes(first) : none;
  const all = [...verdict].sort().join() === [...world.faults].sort().join();
  s.n += 1;
  s.cause += Number(causeRight);
  s.link += Number(first ? links.includes(causeById(first)?.link) : none);
  s.all += Number(all);
  if (world.faults.length === 2) s.two += 1;
  if (world.faults.length === 2 && world.faults.every((id) => verdict.includes(id))) s.bothNamed += 1;
  for (const id of world.faults) {
    const one = s.named.get(id) ?? { there: 0, named: 0 };
    s.named.set(id, { there: one.there + 1, named: one.named + Number(verdict.includes(id)) });
  }
  return causeRight;
}

/** A fault that is nothing but a share of a loss which may be left as it is has not to be mended; a loose screw has. */
function toMend({ config, faults, lostMm }: World): readonly string[] {
  return faults.filter((id) => {
    const cause = causeById(id);
    const loose = Object.keys(cause?.shows ?? {}).some((f) => isLooseFastener(f as FindingId));
    return !cause?.share || cause.share.slack === "entered" || loose || lostMm > config.limits.leaveMm;
  });
}

function scoreCase(s: Score, world: World, outcome: Outcome): void {
  const { verdict, confidence, minutes, cost } = outcome;
  const right = count(s, world, verdict);
  if (outcome.condemns && verdict.some((v) => DEAR.includes(v) && !world.faults.includes(v))) s.dearWrong += 1;
  if (world.faults.length === 0) {
    s.sound += 1;
    if (verdict.length === 0 && outcome.sure && minutes <= CLEARED_MINUTES) s.cleared += 1;
  }
  s.minutes += minutes;
  s.cost += cost;
  s.forbidden.push(...outcome.forbidden);
  // What is said where none is named is that nothing has to be mended.
  s.said.push({ p: confidence, right: verdict.length > 0 ? right : toMend(world).length === 0 });
  if (process.env["SHOW"] && !right)
    console.log(
      world.seed,
      world.config.letter,
      world.config.transmission,
      "truth",
      world.faults.join("+") || "none",
      "said",
      verdict.join("+") || "none",
      confidence.toFixed(2),
      outcome.tests.join(","),
    );
}

/** One policy in all of these worlds; `also` sees each case as it ends. */
function score<T extends Tried>(
  worlds: readonly World<T>[],
  policy: string,
  also: (world: World<T>, outcome: Outcome<T>) => void = () => undefined,
): Score {
  const s = noScore();
  for (const world of worlds) {
    const started = performance.now();
    const outcome = run(world, policy);
    s.ms += performance.now() - started;
    scoreCase(s, world, outcome);
    also(world, outcome);
  }
  return s;
}

const percent = (x: number, n: number): string => (n ? `${((100 * x) / n).toFixed(1)} %` : "none there");

function tell(name: string, s: Score, ms: number | null = null): void {
  const all = `link right ${percent(s.link, s.n)}, cause right ${percent(s.cause, s.n)}, every fault named ${percent(s.all, s.n)}, both of two ${percent(s.bothNamed, s.two)}`;
  console.log(`${name.padEnd(13)} ${all}`);
  if (ms === null) return;
  console.log(
    `${"".padEnd(13)} dear part wrongly condemned ${percent(s.dearWrong, s.n)}, sound cleared within the hour ${percent(s.cleared, s.sound)}, ${(s.minutes / s.n).toFixed(1)} min and ${(s.cost / s.n).toFixed(0)} to the end a case (${(ms / s.n).toFixed(0)} ms each)`,
  );
}

const BANDS = [0, 0.5, 0.7, 0.8, 0.9, 0.97, 1.01];
/** Named in fewer of its cases than this is listed. */
const SELDOM = 0.85;

function tellOurs(ours: Score, { fixed, known }: { readonly fixed: Score; readonly known: Score }): void {
  console.log(
    `proposals that no mechanic would follow: ${ours.forbidden.length}${ours.forbidden.length ? ` (${[...new Set(ours.forbidden)].slice(0, 5).join("; ")})` : ""}`,
  );
  console.log(`minutes against the fixed order: ratio ${(ours.minutes / fixed.minutes).toFixed(2)}`);
  BANDS.slice(1).forEach((to, i) => {
    const from = BANDS[i];
    const band = ours.said.filter((v) => v.p >= from && v.p < to);
    if (band.length === 0) return;
    const mean = band.reduce((a, v) => a + v.p, 0);
    const held = band.filter((v) => v.right).length;
    console.log(
      `said at ${from * 100} to ${Math.min(100, to * 100)} %: ${band.length} verdicts, mean ${percent(mean, band.length)}, held ${percent(held, band.length)}`,
    );
  });
  const seldom = [...ours.named]
    .map(([id, { there, named }]) => ({
      id,
      there,
      named,
      rate: named / there,
      knows: known.named.get(id)?.named ?? 0,
    }))
    // What an observer who knows the odds names no oftener, of the same answers, is beyond what can be known.
    .filter(({ rate, named, knows }) => rate < SELDOM && named < 0.98 * knows)
    .sort((a, b) => a.rate - b.rate);
  console.log(
    `named in fewer than ${SELDOM * 100} % of their cases, and more seldom than who knows the odds: ${seldom.map(({ id, there, named, knows }) => `${id} ${named} to ${knows} of ${there}`).join(", ") || "none"}`,
  );
}

/** Tells how the policies did, ours against the fixed order last. */
function compare(policies: readonly string[], known: Score, scored: (policy: string) => Score): void {
  const scores = new Map<string, Score>();
  for (const policy of policies) {
    const s = scored(policy);
    scores.set(policy, s);
    tell(policy, s, s.ms);
  }
  const [ours, fixed] = [scores.get("ours"), scores.get("fixed order")];
  if (ours && fixed) tellOurs(ours, { fixed, known });
}

/** Every test that can be done on the axis, done once. */
function everyTest<T extends Tried>(world: World<T>): T[] {
  const luck = luckFrom(world.seed + 9000);
  return LOCATE_TESTS.filter((test) => !test.hears && availability(world.config, test).possible).map((test) =>
    world.doTest(test, luck),
  );
}

/** The answers that were there when the hour was over. */
function withinTheHour<T>(config: AxisConfig, outcome: { tests: readonly string[]; answers: readonly T[] }): T[] {
  let minutes = 0;
  return outcome.answers.filter((_, i) => {
    const done = locateTest(outcome.tests[i]);
    minutes += done ? availability(config, done).minutes : 0;
    return minutes <= CLEARED_MINUTES;
  });
}

/** Our policy and others in one world, and what an observer who knows its odds says of the same answers. */
function benchWorld<T extends Tried>(
  worlds: readonly World<T>[],
  policies: readonly { readonly policy: string; readonly cases: number }[],
  observe: (world: World<T>, answers: readonly T[]) => Observation,
): void {
  const known = noScore();
  const all = noScore();
  const compared = policies.filter((p) => p.cases > 0).map((p) => p.policy);
  const casesOf = (policy: string): number => policies.find((p) => p.policy === policy)?.cases ?? 0;
  compare(compared, known, (policy) =>
    score(worlds.slice(0, casesOf(policy)), policy, (world, outcome) => {
      if (policy !== "ours") return;
      count(known, world, observe(world, outcome.answers).named);
      count(all, world, observe(world, everyTest(world)).named);
      if (world.faults.length > 0) return;
      const { named, none } = observe(world, withinTheHour(world.config, outcome));
      known.sound += 1;
      known.cleared += Number(named.length === 0 && none >= CLEAR);
    }),
  );
  console.log("who knows this world’s own odds, of the answers that ours had, and of every test once:");
  tell("same answers", known);
  console.log(`${"".padEnd(13)} sound cleared within the hour ${percent(known.cleared, known.sound)}`);
  tell("every test", all);
}

/** Axes of a world, met in a shop that has closed cases of it before; and how candid it has learned people there to be. */
function worldsOf<T extends Tried>(cases: number, draw: (seed: number) => World<T>): readonly World<T>[] {
  const shop = shopAfter(draw);
  console.log(`after ${CLOSED_BEFORE} closed cases: ${percent(shop.candour ?? 0, 1)} of what shows is told there`);
  return Array.from({ length: cases }, (_, i) => ({ ...draw(i), shop }));
}

/** A shop that has closed none yet knows the usual alone: only ours, to be held beside. */
function tellNewShop(cases: number, draw: (seed: number) => World): void {
  const s = score(
    Array.from({ length: cases }, (_, i) => draw(i)),
    "ours",
  );
  tell("a new shop", s, s.ms);
}

/** Prints the comparison: every policy in the same worlds, the first on the virtual axis, the second apart from it. */
export function benchDiagnosis(cases: number, oracleCases: number): void {
  console.log(
    `diagnosis: ${cases} axes of the demo kinds, faults drawn into the virtual axis; oracle on ${oracleCases}`,
  );
  benchWorld(
    worldsOf(cases, drawWorld),
    Object.keys(POLICIES).map((policy) => ({ policy, cases: policy === "oracle" ? oracleCases : cases })),
    observedFirst,
  );
  tellNewShop(cases, drawWorld);
  console.log(`\ndiagnosis, a world apart: ${cases} axes of the demo kinds; parts, people and tests of its own`);
  const apart = (seed: number): ReturnType<typeof apartWorld> => apartWorld(seed, CONFIGS);
  benchWorld(
    worldsOf(cases, apart),
    ["ours", "fixed order"].map((policy) => ({ policy, cases })),
    observed,
  );
  tellNewShop(cases, apart);
}
