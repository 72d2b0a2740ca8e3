import {
  crestAlignment,
  crestLimit,
  SWING_LIMIT_MM,
  tram,
  TRAM_LIMIT,
  type CrestReadings,
} from "../sums/alignment";
import { defaultAxis } from "../machine/axis";
import { homeRepeat } from "../sums/home";
import { gibKnee } from "../sums/preload";
import {
  defaultHandTest,
  firmKnee,
  feelResult,
  ROCK_LIMIT_MM,
  handTestSteps,
  type FeelKind,
  type FeelResult,
} from "../measure/hand";
import type { Chance, RateCase } from "./rate-case";

const TRIALS = 10_000;
const LEAD = 10;
const supports = { fixedMm: -50, farMm: 550, bracketMm: 250, leadMm: LEAD };
const LENGTH = 600;
const NINE = [12, 74, 136, 191, 253, 318, 372, 433, 496];
const FIVE = [12, 136, 253, 372, 497];

interface Screw {
  readonly places: readonly number[];
  readonly slope?: number;
  readonly swing?: number;
  readonly scatter: number;
  readonly step?: number;
}

/** A screw that tilts and whose journal runs out, read at 0° and at 90°. */
function screw(s: Screw, chance: Chance): readonly CrestReadings[] {
  const { slope = 0, swing = 0, step = 0 } = s;
  const phase = chance.between(0, 2 * Math.PI);
  const round = (y: number): number =>
    step ? Math.round(y / step) * step : y;
  return [0, 1].map((plane) => ({
    name: plane === 0 ? "0°" : "90°",
    points: s.places.map((x) => {
      const turned = (2 * Math.PI * x) / LEAD + phase;
      const off = swing * (plane === 0 ? Math.cos(turned) : Math.sin(turned));
      return { x, y: round(slope * x + off + s.scatter * chance.normal()) };
    }),
  }));
}
const aligned = (s: Screw, chance: Chance) =>
  crestAlignment(screw(s, chance), { supports, datum: "fixed", resolutionMm: s.step ?? 0 });

const limit = crestLimit(LENGTH);
const CREST: readonly RateCase[] = [
  ...[{ n: 5, places: FIVE }, { n: 9, places: NINE }].flatMap(({ n, places }): RateCase[] => [
    { id: `crest-move-${n}`, kind: "coverage", what: "crest run: move of a support ± U", with: `${n} places, 3 µm scatter`, trials: TRIALS, draw: (c) => {
      const move = aligned({ places, slope: 1e-4, scatter: 0.003 }, c).moves.find((m) => m.support === "far" && m.plane === "0°");
      return Math.abs((move?.moveMm ?? 0) + 1e-4 * LENGTH) <= (move?.expandedMm ?? 0);
    } },
    { id: `crest-alarm-${n}`, kind: "false alarm", what: "“out of line”", with: `${n} places, exactly at the limit in one plane`, trials: TRIALS, draw: (c) => aligned({ places, slope: limit / LENGTH, scatter: 0.003 }, c).planes[0].code === "over" },
  ]),
  { id: "crest-move-dial", kind: "coverage", what: "crest run: move of a support ± U", with: "9 places, 0.01 mm dial", dominated: "display step", trials: TRIALS, draw: (c) => {
    const move = aligned({ places: NINE, slope: 1.03e-4, scatter: 0.001, step: 0.01 }, c).moves.find((m) => m.support === "far" && m.plane === "0°");
    return Math.abs((move?.moveMm ?? 0) + 1.03e-4 * LENGTH) <= (move?.expandedMm ?? 0);
  } },
  { id: "crest-swing", kind: "coverage", what: "crest run: what turns with the screw ± U", with: "9 places, swing of 20 µm", trials: TRIALS, draw: (c) => {
    const t = aligned({ places: NINE, swing: 0.02, scatter: 0.003 }, c).turning;
    return t !== null && Math.abs(t.value - 0.02) <= t.expanded;
  } },
  { id: "crest-swing-alarm", kind: "false alarm", what: "“swings with the screw”", with: "9 places, exactly at the limit", trials: TRIALS, draw: (c) => aligned({ places: NINE, swing: SWING_LIMIT_MM, scatter: 0.003 }, c).turning?.code === "over" },
  { id: "crest-swing-power", kind: "power", what: "“swings with the screw”", with: "9 places, twice the limit", trials: TRIALS, draw: (c) => aligned({ places: NINE, swing: 2 * SWING_LIMIT_MM, scatter: 0.003 }, c).turning?.code === "over" },
  { id: "crest-power", kind: "power", what: "“out of line”", with: "9 places, twice the limit", trials: TRIALS, draw: (c) => aligned({ places: NINE, slope: (2 * limit) / LENGTH, scatter: 0.003 }, c).planes[0].code === "over" },
];

const swept = (slope: number, step: number, chance: Chance) => {
  const at = (x: number): number => {
    const y = slope * x + 0.002 * chance.normal() + chance.between(-0.5, 0.5) * 1e-9;
    return Math.round(y / step) * step;
  };
  return tram({ leftMm: at(-150 + chance.between(0, 1)), rightMm: at(150), farMm: null, nearMm: null, spanMm: 300, depthMm: null, resolutionMm: step });
};
const TRAM: readonly RateCase[] = [
  { id: "tram-slope", kind: "coverage", what: "tram: slope ± U", with: "1 µm display, 2 µm scatter, 300 mm", trials: TRIALS, draw: (c) => {
    const [s] = swept(1.3e-4, 0.001, c).slopes;
    return Math.abs(s.slope - 1.3e-4) <= s.expandedSlope;
  } },
  { id: "tram-slope-dial", kind: "coverage", what: "tram: slope ± U", with: "0.01 mm dial, 300 mm", dominated: "display step", trials: TRIALS, draw: (c) => {
    const [s] = swept(1.3e-4, 0.01, c).slopes;
    return Math.abs(s.slope - 1.3e-4) <= s.expandedSlope;
  } },
  { id: "tram-alarm", kind: "false alarm", what: "“out of square”", with: "exactly at the limit, 1 µm display", trials: TRIALS, draw: (c) => swept(TRAM_LIMIT, 0.001, c).code === "out" },
  { id: "tram-square-alarm", kind: "false alarm", what: "“square”", with: "exactly at the limit, 1 µm display", trials: TRIALS, draw: (c) => swept(TRAM_LIMIT, 0.001, c).code === "square" },
  { id: "tram-power", kind: "power", what: "“out of square”", with: "twice the limit, 0.01 mm dial", trials: TRIALS, draw: (c) => swept(2 * TRAM_LIMIT, 0.01, c).code === "out" },
];

const TURNS = Array.from({ length: 13 }, (_, i) => i * 0.25);
const friction = (of: (t: number) => number, chance: Chance, scatter = 0.4) =>
  TURNS.map((turns) => ({ turns, friction: of(turns) + scatter * chance.normal() }));
const climb = (knee: number) => (t: number): number => 8 + 14 * Math.max(0, t - knee);
const GIB: readonly RateCase[] = [
  { id: "gib-knee", kind: "coverage", what: "gib: knee of friction between … and …", with: "13 settings, climb of 14 % a turn, 0.4 % scatter", trials: TRIALS, draw: (c) => {
    const knee = c.between(0.8, 2);
    const [low, high] = gibKnee(friction(climb(knee), c)).betweenTurns;
    return low <= knee + 0.0075 && knee <= high + 0.0075;
  } },
  { id: "gib-steady", kind: "false alarm", what: "“friction begins to climb at”", with: "steady drift, 13 settings", trials: TRIALS, draw: (c) => gibKnee(friction((t) => 8 + 1.5 * t, c)).shape === "knee" },
  { id: "gib-slight", kind: "false alarm", what: "“friction begins to climb at”", with: "slight drift, 13 settings", trials: TRIALS, draw: (c) => gibKnee(friction((t) => 8 + 0.3 * t, c)).shape === "knee" },
  { id: "gib-flat", kind: "false alarm", what: "“friction begins to climb at”", with: "flat, 13 settings", trials: TRIALS, draw: (c) => gibKnee(friction(() => 8, c)).shape === "knee" },
  { id: "gib-short", kind: "false alarm", what: "“friction begins to climb at”", with: "steady drift, 6 settings", trials: TRIALS, draw: (c) => gibKnee(friction((t) => 8 + 1.5 * t, c).slice(0, 6)).shape === "knee" },
  { id: "gib-flat-steady", kind: "false alarm", what: "“friction climbs from the first setting”", with: "flat, 13 settings", trials: TRIALS, draw: (c) => gibKnee(friction(() => 8, c)).shape === "steady" },
  { id: "gib-there", kind: "power", what: "“friction begins to climb at”", with: "climb of 14 % a turn at 1.6 turns, 0.4 % scatter", trials: TRIALS, draw: (c) => gibKnee(friction(climb(1.6), c)).shape === "knee" },
  { id: "gib-falling", kind: "false alarm", what: "“rock falls no further from”", with: "still falling at the last setting", trials: TRIALS, draw: (c) => firmKnee(friction((t) => 0.08 - 0.02 * t, c, 0.0008)).shape === "knee" },
];

const lathe = defaultAxis("lathe", "X");
const kindN = [15, 120] as const;
function byHand(kind: FeelKind, usualN: number | null, read: (group: string, at: number) => number): FeelResult | null {
  const plan = defaultHandTest(lathe, kind);
  const reads = handTestSteps(plan)
    .filter((s) => kind !== "hand-push" || s.group === "out" || s.group === "back")
    .map((s) => ({ ...s, value: read(s.group, s.at) }));
  return feelResult(kind, { plan, reads, pull: { usualN, kindN } });
}
const rocked = (play: number, c: Chance) => byHand("rock", null, (group) => (group === "pulled" ? -play : 0) + 0.001 * c.normal());
const pulled = (n: number, { usualN, c, spot = 0 }: { readonly usualN: number | null; readonly c: Chance; readonly spot?: number }) => byHand("hand-push", usualN, (_, at) => n * (1 + 0.04 * c.normal()) + (at === 200 ? spot : 0));
const HAND: readonly RateCase[] = [
  { id: "rock-play", kind: "coverage", what: "rock: play ± U", with: "3 places, pushed twice, 1 µm scatter", trials: TRIALS, draw: (c) => {
    const f = rocked(0.05, c)?.figures[1];
    return Math.abs((f?.value ?? 0) - 0.05) <= (f?.expanded ?? 0);
  } },
  { id: "rock-alarm", kind: "false alarm", what: "“it rocks”", with: "exactly at the limit everywhere", trials: TRIALS, draw: (c) => rocked(ROCK_LIMIT_MM, c)?.answers.rocks === true },
  { id: "rock-power", kind: "power", what: "“it rocks”", with: "twice the limit", trials: TRIALS, draw: (c) => rocked(2 * ROCK_LIMIT_MM, c)?.answers.rocks === true },
  { id: "push-middle", kind: "coverage", what: "pull by hand ± U", with: "7 places both ways, 4 % scatter", trials: TRIALS, draw: (c) => {
    const f = pulled(120, { usualN: null, c })?.figures[0];
    return Math.abs((f?.value ?? 0) - 120) <= (f?.expanded ?? 0);
  } },
  { id: "push-spot-alarm", kind: "false alarm", what: "“tight near a place”", with: "even member, 7 places both ways", trials: TRIALS, draw: (c) => pulled(120, { usualN: null, c })?.answers["tight-spot"] === true },
  { id: "push-tight-alarm", kind: "false alarm", what: "“tight over the whole travel”", with: "exactly at 1.6 times its usual pull", trials: TRIALS, draw: (c) => pulled(1.6 * 75, { usualN: 75, c })?.answers["tight-all"] === true },
  { id: "push-tight-power", kind: "power", what: "“tight over the whole travel”", with: "3.2 times its usual pull", trials: TRIALS, draw: (c) => pulled(3.2 * 75, { usualN: 75, c })?.answers["tight-all"] === true },
  { id: "push-spot-power", kind: "power", what: "“tight near a place”", with: "twice as heavy at one place", trials: TRIALS, draw: (c) => pulled(120, { usualN: null, c, spot: 120 })?.answers["tight-spot"] === true },
];

const HOME: readonly RateCase[] = [
  { id: "home-jump-alarm", kind: "false alarm", what: "“home jumps by a turn”", with: "7 homings that scatter 10 µm", trials: TRIALS, draw: (c) => homeRepeat(Array.from({ length: 7 }, () => 0.01 * c.normal()), 10).jumps > 0 },
  { id: "home-jump-power", kind: "power", what: "“home jumps by a turn”", with: "every third homing a turn off", trials: TRIALS, draw: (c) => homeRepeat(Array.from({ length: 7 }, (_, i) => (i % 3 === 2 ? 10 : 0) + 0.01 * c.normal()), 10).jumps > 0 },
];

export const SETTING_CASES: readonly RateCase[] = [
  ...CREST,
  ...TRAM,
  ...GIB,
  ...HAND,
  ...HOME,
];
