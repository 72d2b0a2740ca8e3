import { DEFAULT_LIMITS } from "../machine/axis";
import {
  compareMeasurements,
  evaluateRun,
  lossTrend,
  profileShape,
  stepsOf,
  type IndicatorSetup,
  type LossResult,
  type Reading,
  type TestPlan,
} from "../measure/reversal";
import { conformity } from "../quantity";
import type { Chance, RateCase } from "./rate-case";

const TRIALS = 10_000;

interface Made {
  readonly plan: TestPlan;
  readonly setup: IndicatorSetup;
  /** Standard deviation of where the axis comes to rest, mm. */
  readonly scatterMm: number;
  readonly lossAt: (place: number) => number;
}

const plan = (over: Partial<TestPlan>): TestPlan => ({
  kind: "two-sided",
  targetsMm: [180],
  runs: 5,
  overTravelMm: 30,
  tickMm: 0.001,
  ticksOut: 50,
  keepsZero: false,
  ...over,
});

/** A whole test as a rounded, scattering, hysteretic indicator shows it. */
function readings(made: Made, chance: Chance): Reading[] {
  const { setup, lossAt, scatterMm } = made;
  const { resolutionMm, hysteresisMm = 0, calibrationMm = 0 } = setup;
  const round = (mm: number): number =>
    Math.round(mm / resolutionMm) * resolutionMm;
  const phase = chance.between(-0.5, 0.5) * resolutionMm;
  const own = chance.between(0, hysteresisMm);
  const wrong = chance.between(-calibrationMm, calibrationMm);
  const base = made.plan.targetsMm.map(() => chance.between(-0.5, 0.5) * resolutionMm);
  return stepsOf(made.plan).map((s): Reading => {
    const kept = { step: s.index, widthMm: resolutionMm, state: "kept" as const };
    if (s.action === "zero") return { ...kept, value: 0 };
    const loss = lossAt(s.target);
    if (s.action === "count") return { ...kept, value: count(made, loss + own, chance) };
    const back = s.direction === "-" ? loss + own + wrong : 0;
    const from = made.plan.kind === "out-and-back" ? phase : base[s.target];
    return { ...kept, value: round(from + back + scatterMm * chance.normal()) };
  });
}

/** Steps that leave the needle where it is: jogged one by one until the display changes. */
function count(made: Made, loss: number, chance: Chance): number {
  const { resolutionMm } = made.setup;
  const start = chance.between(-0.5, 0.5) * resolutionMm;
  const rest = made.scatterMm * chance.normal();
  for (let n = 0; n < 10_000; n += 1) {
    const moved = Math.max(0, (n + 1) * made.plan.tickMm - loss - rest);
    if (Math.abs(Math.round((start + moved) / resolutionMm)) >= 1) return n;
  }
  return 10_000;
}

const evaluate = (made: Made, chance: Chance): LossResult =>
  evaluateRun(made.plan, readings(made, chance), made.setup) as LossResult;

function holds(made: Made): (chance: Chance) => boolean {
  return (chance) => {
    const r = evaluate(made, chance);
    return Math.abs(r.reversalValueMm - made.lossAt(r.governing)) <= r.uncertainty.expanded;
  };
}

const fine: IndicatorSetup = { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 };
const dial: IndicatorSetup = { ...fine, resolutionMm: 0.01 };
const at = (mm: number) => (): number => mm;
const WORN = [0.006, 0.009, 0.02, 0.009, 0.006];
const FIVE = [50, 150, 250, 350, 450];
const profile = (runs: number): TestPlan =>
  plan({ kind: "travel-profile", targetsMm: FIVE, runs });

const loss = (id: string, { what, text, made, dominated }: { readonly what: string; readonly text: string; readonly made: Made; readonly dominated?: string }): RateCase => ({
  id, kind: "coverage", what, with: text, trials: TRIALS, draw: holds(made), ...(dominated ? { dominated } : {}),
});

const COVERAGE: readonly RateCase[] = [
  loss("two-sided-1", { what: "two-sided approach ± U", text: "1 run, 3 µm scatter", made: { plan: plan({ runs: 1 }), setup: fine, scatterMm: 0.003, lossAt: at(0.021) } }),
  loss("two-sided-2", { what: "two-sided approach ± U", text: "2 runs, 2 µm scatter", made: { plan: plan({ runs: 2 }), setup: fine, scatterMm: 0.002, lossAt: at(0.021) } }),
  loss("two-sided-5", { what: "two-sided approach ± U", text: "5 runs, 2 µm scatter", made: { plan: plan({}), setup: fine, scatterMm: 0.002, lossAt: at(0.021) } }),
  loss("two-sided-quiet", { what: "two-sided approach ± U", text: "5 runs, 0.3 µm scatter, 1 µm display", made: { plan: plan({}), setup: fine, scatterMm: 0.0003, lossAt: at(0.0213) }, dominated: "display step" }),
  loss("two-sided-dial", { what: "two-sided approach ± U", text: "5 runs, 0.01 mm dial", made: { plan: plan({}), setup: dial, scatterMm: 0.002, lossAt: at(0.0213) }, dominated: "display step" }),
  loss("two-sided-own", { what: "two-sided approach ± U", text: "5 runs, indicator errs by up to 3 µm", made: { plan: plan({}), setup: { ...fine, calibrationMm: 0.003 }, scatterMm: 0.001, lossAt: at(0.021) }, dominated: "bound of the indicator’s error" }),
  loss("out-and-back-3", { what: "out-and-back ± U", text: "3 runs, 2 µm scatter", made: { plan: plan({ kind: "out-and-back", runs: 3 }), setup: fine, scatterMm: 0.002, lossAt: at(0.021) } }),
  loss("out-and-back-hysteresis", { what: "out-and-back ± U", text: "5 runs, hysteresis up to 3 µm", made: { plan: plan({ kind: "out-and-back" }), setup: { ...fine, hysteresisMm: 0.003 }, scatterMm: 0.001, lossAt: at(0.021) }, dominated: "bound of the hysteresis" }),
  loss("tick-count-3", { what: "tick count ± U", text: "3 runs, steps of 1 µm, 1.5 µm scatter", made: { plan: plan({ kind: "tick-count", runs: 3, countsStill: true }), setup: fine, scatterMm: 0.0015, lossAt: at(0.0213) }, dominated: "jog and display steps" }),
  loss("tick-count-coarse", { what: "tick count ± U", text: "3 runs, steps of 10 µm", made: { plan: plan({ kind: "tick-count", runs: 3, tickMm: 0.01, countsStill: true }), setup: fine, scatterMm: 0.001, lossAt: at(0.0237) }, dominated: "jog step" }),
  loss("profile-2", { what: "travel profile, worst place ± U", text: "5 places, 2 runs", made: { plan: profile(2), setup: fine, scatterMm: 0.002, lossAt: (p) => WORN[p] } }),
  loss("profile-5", { what: "travel profile, worst place ± U", text: "5 places, 5 runs", made: { plan: profile(5), setup: fine, scatterMm: 0.002, lossAt: (p) => WORN[p] } }),
  loss("profile-near", { what: "travel profile, worst place ± U", text: "5 places nearly alike, 5 runs", made: { plan: profile(5), setup: fine, scatterMm: 0.002, lossAt: (p) => 0.012 + 0.0005 * p } }),
  loss("profile-even", { what: "travel profile, worst place ± U", text: "5 places alike, 5 runs", made: { plan: profile(5), setup: fine, scatterMm: 0.002, lossAt: at(0.012) } }),
];

const shapeSpeaks = (made: Made) => (chance: Chance): boolean =>
  profileShape(evaluate(made, chance).places)?.code !== "even";
const bump = (mm: number) => (p: number): number => 0.008 + (p === 2 ? mm : 0);

const SHAPES: readonly RateCase[] = [
  ...[2, 3, 5].map((runs): RateCase => ({ id: `shape-even-${runs}`, kind: "false alarm", what: "“loses more (or least) in one place”", with: `even profile, 5 places, ${runs} runs`, trials: TRIALS, draw: shapeSpeaks({ plan: profile(runs), setup: fine, scatterMm: 0.002, lossAt: at(0.012) }) })),
  { id: "shape-even-20", kind: "false alarm", what: "“loses more (or least) in one place”", with: "even profile, 20 places, 2 runs", trials: TRIALS, draw: shapeSpeaks({ plan: plan({ kind: "travel-profile", targetsMm: Array.from({ length: 20 }, (_, i) => 40 + 45 * i), runs: 2 }), setup: fine, scatterMm: 0.002, lossAt: at(0.012) }) },
  { id: "shape-even-dial", kind: "false alarm", what: "“loses more (or least) in one place”", with: "even profile, 5 places, 5 runs, 0.01 mm dial", trials: TRIALS, draw: shapeSpeaks({ plan: profile(5), setup: dial, scatterMm: 0.002, lossAt: at(0.0123) }) },
  { id: "shape-excess", kind: "coverage", what: "“loses … ± U more than the ends”", with: "20 µm more in the middle, 5 places, 5 runs", dominated: "U is shared by all places", trials: TRIALS, draw: (chance) => {
    const shape = profileShape(evaluate({ plan: profile(5), setup: fine, scatterMm: 0.002, lossAt: bump(0.02) }, chance).places);
    return shape !== null && "excessMm" in shape && Math.abs(shape.excessMm - 0.02) <= shape.expandedMm;
  } },
  { id: "shape-worn", kind: "power", what: "“loses more in the middle”", with: "20 µm more (twice what can be left), 5 runs", trials: TRIALS, draw: shapeSpeaks({ plan: profile(5), setup: fine, scatterMm: 0.002, lossAt: bump(2 * DEFAULT_LIMITS.leaveMm) }) },
  { id: "shape-worn-2", kind: "power", what: "“loses more in the middle”", with: "20 µm more, 2 runs", trials: TRIALS, draw: shapeSpeaks({ plan: profile(2), setup: fine, scatterMm: 0.002, lossAt: bump(2 * DEFAULT_LIMITS.leaveMm) }) },
];

const stands = (made: Made) => (chance: Chance): boolean => evaluate(made, chance).outliers.length > 0;
const OUTLIERS: readonly RateCase[] = [
  { id: "outlier-profile", kind: "false alarm", what: "“stands out” (Grubbs)", with: "clean profile, 5 places, 5 runs", trials: TRIALS, draw: stands({ plan: profile(5), setup: fine, scatterMm: 0.002, lossAt: (p) => WORN[p] }) },
  { id: "outlier-long", kind: "false alarm", what: "“stands out” (Grubbs)", with: "clean two-sided approach, 25 runs", trials: TRIALS, draw: stands({ plan: plan({ runs: 25 }), setup: fine, scatterMm: 0.003, lossAt: at(0.02) }) },
  { id: "outlier-there", kind: "power", what: "“stands out” (Grubbs)", with: "two-sided approach, 5 runs, one reading 25 µm off at 1 µm scatter", trials: TRIALS, draw: (chance) => {
    const made = { plan: plan({}), setup: fine, scatterMm: 0.001, lossAt: at(0.02) };
    const list = readings(made, chance).map((r) => (r.step === 4 ? { ...r, value: r.value + 0.025 } : r));
    return (evaluateRun(made.plan, list, fine) as LossResult).outliers.length > 0;
  } },
];

const { leaveMm, repairMm } = DEFAULT_LIMITS;
const code = (lossMm: number, runs = 5) => (chance: Chance): string => {
  const r = evaluate({ plan: plan({ runs }), setup: fine, scatterMm: 0.002, lossAt: at(lossMm) }, chance);
  return conformity({ reversalValueMm: r.reversalValueMm, expandedMm: r.uncertainty.expanded }, DEFAULT_LIMITS).code;
};
const DECISIONS: readonly RateCase[] = [
  ...[2, 5].map((runs): RateCase => ({ id: `act-at-limit-${runs}`, kind: "false alarm", what: "“act”", with: `loss exactly at the limit for repair, ${runs} runs`, trials: TRIALS, draw: (c) => code(repairMm, runs)(c) === "act" })),
  ...[2, 5].map((runs): RateCase => ({ id: `sound-at-leave-${runs}`, kind: "false alarm", what: "“sound”", with: `loss exactly at what can be left, ${runs} runs`, trials: TRIALS, draw: (c) => code(leaveMm, runs)(c) === "sound" })),
  { id: "sound-at-limit", kind: "false alarm", what: "“sound” or “watch”", with: "loss exactly at the limit for repair, 5 runs", trials: TRIALS, draw: (c) => ["sound", "watch"].includes(code(repairMm)(c)) },
  { id: "act-at-twice", kind: "power", what: "“act”", with: "loss of twice the limit, 5 runs", trials: TRIALS, draw: (c) => code(2 * repairMm)(c) === "act" },
  { id: "act-at-twice-3", kind: "power", what: "“act”", with: "loss of twice the limit, 3 runs", trials: TRIALS, draw: (c) => code(2 * repairMm, 3)(c) === "act" },
  { id: "sound-at-small", kind: "power", what: "“sound”", with: "loss of 3 µm, 5 runs", trials: TRIALS, draw: (c) => code(0.003)(c) === "sound" },
];

const DAY = 86_400_000;
/** Sessions a month apart: each as well known as it claims, or `times` worse. */
function sessions(n: number, { perMonthMm, times, chance }: { readonly perMonthMm: number; readonly times: number; readonly chance: Chance }) {
  return Array.from({ length: n }, (_, i) => ({ atMs: 30 * i * DAY, reversalValueMm: 0.008 + perMonthMm * i + 0.001 * times * chance.normal(), expandedMm: 0.002 }));
}
const trendHolds = (n: number, times: number) => (chance: Chance): boolean => {
  const t = lossTrend(sessions(n, { perMonthMm: 0.0007, times, chance }), 0.025);
  return t !== null && Math.abs(t.perMonthMm - 0.0007) <= t.expandedPerMonthMm;
};
const HISTORY: readonly RateCase[] = [
  ...[3, 5, 8].flatMap((n): RateCase[] => [
    { id: `trend-honest-${n}`, kind: "coverage", what: "trend a month ± U", with: `${n} sessions that scatter as they claim`, dominated: "the larger of two scatters", trials: TRIALS, draw: trendHolds(n, 1) },
    { id: `trend-rough-${n}`, kind: "coverage", what: "trend a month ± U", with: `${n} sessions that scatter three times that`, trials: TRIALS, draw: trendHolds(n, 3), ...(n === 3 ? { dominated: "the larger of two scatters" } : {}) },
    { id: `trend-alarm-${n}`, kind: "false alarm", what: "“grows” or “shrinks”", with: `steady, ${n} sessions that scatter three times what they claim`, trials: TRIALS, draw: (c) => lossTrend(sessions(n, { perMonthMm: 0, times: 3, chance: c }), 0.025)?.significant ?? false },
  ]),
  { id: "trend-power", kind: "power", what: "“grows”", with: "8 sessions, 2 µm a month", trials: TRIALS, draw: (c) => lossTrend(sessions(8, { perMonthMm: 0.002, times: 1, chance: c }), 0.025)?.significant ?? false },
  ...[3, 5].flatMap((runs): RateCase[] => {
    const made = { plan: plan({ runs }), setup: fine, scatterMm: 0.002, lossAt: at(0.012) };
    const point = (chance: Chance, atMs: number) => {
      const r = evaluate(made, chance);
      return { atMs, reversalValueMm: r.reversalValueMm, expandedMm: r.uncertainty.expanded };
    };
    return [
      { id: `compare-${runs}`, kind: "coverage", what: "change between two tests ± U", with: `${runs} runs each`, ...(runs === 3 ? { dominated: "two expanded parts in quadrature bound their sum" } : {}), trials: TRIALS, draw: (c) => !compareMeasurements(point(c, 0), point(c, 1)).significant },
    ];
  }),
];

export const LOSS_CASES: readonly RateCase[] = [
  ...COVERAGE,
  ...SHAPES,
  ...OUTLIERS,
  ...DECISIONS,
  ...HISTORY,
];
