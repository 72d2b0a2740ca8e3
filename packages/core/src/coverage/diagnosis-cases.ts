import { defaultAxis } from "../machine/axis";
import {
  analyseLoadTrace,
  lossLedger,
  windUpMm,
  type LoadTrace,
  type Magnitude,
} from "../diagnosis";
import type { LoadSample } from "../measure";
import { calibrateGun, forecastUsage, intervalDays, learnInterval, type FoundState } from "../lubrication";
import type { Chance, RateCase } from "./rate-case";

const TRIALS = 10_000;
const axis = defaultAxis("vertical-centre", "X");
const WIND_UP = windUpMm(axis);

/** Tests of an axis whose links lose so much, mm; each reads the truth with a scatter of 1 µm. */
const TRUE = { bearings: 0.009, nut: 0.003, coupling: 0.001, housing: 0.002 };
function tests(c: Chance, whole = true): readonly Magnitude[] {
  const u = 0.001;
  const read = (kind: Magnitude["kind"], mm: number): Magnitude => ({
    kind,
    reversalValueMm: mm + u * c.normal(),
    uMm: u,
  });
  const sum = TRUE.bearings + TRUE.nut + TRUE.coupling + TRUE.housing + WIND_UP;
  return [
    ...(whole ? [read("whole-chain", sum)] : []),
    read("end-float", TRUE.bearings + TRUE.housing),
    read("housing-shift", TRUE.housing),
    read("nut-flank", TRUE.nut),
    read("coupling-slip", TRUE.coupling),
  ];
}
const shareHolds = (slack: keyof typeof TRUE) => (c: Chance): boolean => {
  const line = lossLedger(axis, tests(c)).lines.find((l) => l.slacks[0] === slack);
  return Math.abs((line?.shareMm ?? NaN) - TRUE[slack]) <= (line?.expandedMm ?? 0);
};
const LEDGER: readonly RateCase[] = [
  { id: "ledger-bearings", kind: "coverage", what: "ledger: share of a link ± U", with: "end bearings told from the housing, 1 µm each test", trials: TRIALS, draw: shareHolds("bearings") },
  { id: "ledger-nut", kind: "coverage", what: "ledger: share of a link ± U", with: "nut, 1 µm each test", trials: TRIALS, draw: shareHolds("nut") },
  { id: "ledger-coupling", kind: "coverage", what: "ledger: share of a link ± U", with: "coupling of 1 µm, near zero", dominated: "no share below zero", trials: TRIALS, draw: shareHolds("coupling") },
  { id: "ledger-rest", kind: "coverage", what: "ledger: rest ± U", with: "every test made, nothing left over", dominated: "wind-up is known by half itself only", trials: TRIALS, draw: (c) => {
    const { rest } = lossLedger(axis, tests(c));
    return rest !== null && Math.abs(rest.mm) <= rest.expandedMm;
  } },
  { id: "ledger-alarm", kind: "false alarm", what: "“contradiction” of the ledger", with: "tests that agree, five kinds", trials: TRIALS, draw: (c) => lossLedger(axis, tests(c)).contradictions.length > 0 },
  { id: "ledger-sign", kind: "power", what: "“a part cannot gain”", with: "flank at −10 ± 2 µm, twice what can be left over its U", trials: TRIALS, draw: (c) => lossLedger(axis, [...tests(c).slice(0, 2), { kind: "nut-flank", reversalValueMm: -0.01 + 0.001 * c.normal(), uMm: 0.001 }]).contradictions.length > 0 },
];

/** Readings each way: ten seconds of a meter at some twelve a second. */
const SAMPLES = 120;

interface Trace {
  readonly friction?: number;
  readonly gravity?: number;
  readonly high?: number;
  readonly turn?: number;
  readonly middle?: number;
  /** How much neighbouring samples err alike, 0 to 1. */
  readonly alike?: number;
  readonly unsigned?: boolean;
}

/** A slow traverse both ways with ramps at the ends, made from its parts. */
function traverse(t: Trace, c: Chance): LoadSample[] {
  const { friction = 5, gravity = 0, high = 0, turn = 0, middle = 0, alike = 0 } = t;
  let error = 0;
  return (["+", "-"] as const).flatMap((direction) =>
    Array.from({ length: SAMPLES }, (_, i) => {
      const at = direction === "+" ? i / (SAMPLES - 1) : 1 - i / (SAMPLES - 1);
      const d = direction === "+" ? 1 : -1;
      error = alike * error + 0.2 * Math.sqrt(1 - alike ** 2) * c.normal();
      const ramp = i < 4 ? 20 : i > SAMPLES - 5 ? -20 : 0;
      const extra =
        high * Math.max(0, (at - 0.7) / 0.3) +
        turn * Math.sin((2 * Math.PI * at * 400) / 10) +
        (at > 0.375 && at < 0.625 ? middle : 0) +
        ramp;
      const load = d * (friction + extra) + gravity + error;
      return { positionMm: 400 * at, direction, load: t.unsigned ? Math.abs(load) : load };
    }),
  );
}
const taken = (t: Trace, c: Chance): LoadTrace => analyseLoadTrace(traverse(t, c), { perTurnMm: 10 });
const within = (p: { value: number; u: number }, truth: number): boolean => Math.abs(p.value - truth) <= 2 * p.u;
const quiet = (t: LoadTrace): boolean => !t.lowEnd.real && !t.highEnd.real && !t.perTurn.real && t.spots.length === 0 && t.stretches.length === 0;

const LOAD: readonly RateCase[] = [
  { id: "load-friction", kind: "coverage", what: "load trace: friction ± U", with: `${SAMPLES} samples each way, neighbours independent`, trials: TRIALS, quick: 40, draw: (c) => within(taken({}, c).friction, 5) },
  { id: "load-friction-alike", kind: "coverage", what: "load trace: friction ± U", with: `${SAMPLES} samples each way, neighbours err alike by 0.8`, trials: TRIALS, quick: 40, draw: (c) => within(taken({ alike: 0.8 }, c).friction, 5) },
  { id: "load-gravity", kind: "coverage", what: "load trace: gravity ± U", with: `${SAMPLES} samples each way`, trials: TRIALS, quick: 40, draw: (c) => within(taken({ gravity: 2 }, c).gravity, 2) },
  { id: "load-high", kind: "coverage", what: "load trace: rise at an end ± U", with: "rises over the last three tenths by 3.5", trials: TRIALS, quick: 40, draw: (c) => within(taken({ high: 3.5 }, c).highEnd, 3.5) },
  { id: "load-turn", kind: "coverage", what: "load trace: ripple once per turn ± U", with: "amplitude 1", trials: TRIALS, quick: 40, draw: (c) => within(taken({ turn: 1 }, c).perTurn, 1) },
  { id: "load-stretch", kind: "coverage", what: "load trace: tight stretch ± U", with: "a quarter of the travel tighter by 2.5", trials: TRIALS, quick: 40, draw: (c) => {
    const [s] = taken({ middle: 2.5 }, c).stretches;
    return within(s.extra, 2.5);
  } },
  { id: "load-quiet", kind: "false alarm", what: "“rise”, “tight”, “spot” or “once per turn”", with: `nothing there, ${SAMPLES} samples each way`, trials: TRIALS, quick: 40, draw: (c) => !quiet(taken({}, c)) },
  { id: "load-quiet-alike", kind: "false alarm", what: "“rise”, “tight”, “spot” or “once per turn”", with: "nothing there, neighbours err alike by 0.6", trials: TRIALS, quick: 40, draw: (c) => !quiet(taken({ alike: 0.6 }, c)) },
  { id: "load-middle-end", kind: "false alarm", what: "“rise at an end”", with: "a broad tight middle, 100 of 400 mm", trials: TRIALS, quick: 40, draw: (c) => { const t = taken({ middle: 2.5 }, c); return t.lowEnd.real || t.highEnd.real; } },
  { id: "load-middle", kind: "power", what: "“tight from … to …”", with: "a broad tight middle, half of friction more", trials: TRIALS, quick: 40, draw: (c) => taken({ middle: 2.5 }, c).stretches.length === 1 },
  { id: "load-end", kind: "power", what: "“rise at an end”", with: "0.7 of friction more at the upper end (twice what counts)", trials: TRIALS, quick: 40, draw: (c) => taken({ high: 3.5 }, c).highEnd.real },
  { id: "load-unsigned", kind: "power", what: "“the meter shows no sign”", with: "sizes only, horizontal axis, friction then right within a tenth", trials: TRIALS, quick: 40, draw: (c) => { const t = taken({ unsigned: true }, c); return t.meter === "unsigned" && Math.abs(t.friction.value - 5) < 0.5; } },
];

/** A meter that is read each week; running hours scatter from week to week. */
function usage(weeks: number, c: Chance) {
  let hours = 1000;
  const readings = Array.from({ length: weeks + 1 }, (_, i) => {
    if (i > 0) hours += Math.max(0, 7 * (8 + 1.5 * c.normal()));
    return { at: new Date(Date.UTC(2026, 0, 5 + 7 * i)).toISOString(), hours, reset: false };
  });
  return forecastUsage(readings, { hoursPerWeek: 40, today: readings[weeks].at });
}
const USAGE: readonly RateCase[] = [5, 20].map((weeks): RateCase => ({
  id: `usage-${weeks}`, kind: "coverage", what: "hours a day ± U", with: `${weeks} weekly readings`, trials: TRIALS,
  draw: (c) => { const f = usage(weeks, c); return Math.abs(f.hoursPerDay - 8) <= f.expanded; },
}));

/** A point greased each 250 running hours: how well its day is known from the meter. */
const DUE: readonly RateCase[] = [5, 20].map(
  (weeks): RateCase => ({
    id: `due-${weeks}`,
    kind: "coverage",
    what: "due day ± days",
    with: `every 250 hours, ${weeks} weekly readings`,
    trials: TRIALS,
    draw: (c) => {
      const f = usage(weeks, c);
      const { days } = intervalDays(
        { days: null, hours: 250, km: null, leastDays: 1, mostDays: 365 },
        { hoursPerDay: f.hoursPerDay, kmPerDay: 0 },
      );
      return Math.abs(days - 250 / 8) <= (days * f.expanded) / f.hoursPerDay;
    },
  }),
);

/** A gun whose stroke varies by three in a hundred, ten strokes on a scale of 0.1 g. */
const GUN: readonly RateCase[] = [2, 3, 6].map(
  (n): RateCase => ({
    id: `gun-${n}`,
    kind: "coverage",
    what: "grams a stroke ± U",
    with: `${n} weighings of ten strokes, 3 % scatter`,
    ...(n === 2 ? { dominated: "the usual scatter of guns" } : {}),
    trials: TRIALS,
    draw: (c) => {
      const weighings = Array.from({ length: n }, () => ({
        strokes: 10,
        grams: Math.round(80 * (1 + 0.03 * c.normal())) / 10,
      }));
      const gun = calibrateGun(weighings);
      return Math.abs(gun.gramsPerStroke - 0.8) <= gun.expandedGrams;
    },
  }),
);

/** Points that need what the rule gives: is the interval led away from it? */
const LEARNING: readonly RateCase[] = [
  { id: "learn-right", kind: "false alarm", what: "interval learnt away from what is right", with: "ten visits found right, one in thirty misjudged", trials: TRIALS, draw: (c) => {
    const found = Array.from({ length: 10 }, (): FoundState => (c.uniform() < 1 / 60 ? "dry" : c.uniform() < 1 / 60 ? "flooded" : "right"));
    const { factor } = learnInterval(found);
    return factor < 0.75 || factor > 1.25;
  } },
  { id: "learn-dry", kind: "power", what: "interval shortened", with: "needs half of it: found dry until it is near", trials: TRIALS, draw: (c) => {
    const found: FoundState[] = [];
    for (let i = 0; i < 8; i += 1) {
      const { factor } = learnInterval(found);
      const over = (factor / 0.5) * Math.exp(0.15 * c.normal());
      found.push(over > 1.25 ? "dry" : over < 0.6 ? "flooded" : "right");
    }
    return learnInterval(found).factor < 0.7;
  } },
];

export const DIAGNOSIS_CASES: readonly RateCase[] = [
  ...LEDGER,
  ...LOAD,
  ...USAGE,
  ...DUE,
  ...GUN,
  ...LEARNING,
];
