import type { AxisConfig, FindingId } from "@iron/core";
import { lostUm, type Condition } from "./condition";

/** Drag of the whole axis above what is usual, in multiples of the member's usual friction. */
const extraDrag = (c: Condition): number => c.wayDrag - 1 + c.motorDrag + c.bearingDrag + c.nutDrag;
const play = (c: Condition): number => c.couplingUm + c.bearingUm + c.bracketUm + c.housingUm + c.meshUm * 0.3;
/** What a part shows of a loss: nothing where a scale closes the loop on the member. */
const shown = (a: AxisConfig, c: Condition): number =>
  a.feedback === "scale" ? 0 : Math.abs(lostUm(a, c) + 0.6 * c.wearUm) / (1000 * a.limits.leaveMm);

/**
 * How plainly a thing shows, 1 being what half of all people notice with their senses, or with the instrument that the
 * test for it names. Common practice, no source.
 */
const SIGNALS: Record<FindingId, (c: Condition, a: AxisConfig) => number> = {
  rumble: (c) => 4 * c.bearingRough + 2.5 * c.motorRough + 2.5 * c.farRough + Math.max(0, c.preload),
  howl: (c) => (c.wearUm + Math.max(0, c.nutUm - 12)) / 22,
  rattle: (c) => 3 * c.ballReturns,
  grit: (c) => 3 * c.grit,
  // With the member's weight on it a broken carriage is quiet until it is past helping.
  "carriage-click": (c) => 1.3 * c.carriage ** 2,
  groan: (c) => 2.2 * c.dry + 0.25 * (c.wayDrag - 1),
  knock: (c) => play(c) / 45,
  "grind-still": (c) => 3 * c.spindleWheel,
  "click-descent": (c) => 4 * c.regen,
  "tight-all": (c) => extraDrag(c) / 0.55,
  "tight-end": (c) => c.endDrag / 0.4,
  "tight-turn": (c) => c.turnDrag / 0.35,
  "tight-spot": (c) => c.spotDrag / 0.4,
  "tight-one-way": (c) => c.oneWayDrag / 0.4,
  "lost-motion": (c, a) => shown(a, c) / 1.4,
  wanders: (c, a) =>
    Math.max(0, c.couplingScrews * c.couplingUm - 20) / 60 +
    (c.pinionScrews * c.couplingUm) / 90 +
    (a.feedback === "open-loop" ? c.stall : 0) +
    (c.bracketScrews * c.bracketUm) / 120,
  "lost-steps": (c, a) => (a.feedback === "open-loop" ? 2.4 * c.stall + 0.25 * extraDrag(c) : 0) + 0.4 * c.stall,
  "short-travel": (c) => c.cageMm / 3,
  hunting: (c, a) =>
    2.5 * c.scaleDirt + (a.feedback === "scale" ? (lostUm(a, c) + c.wearUm) / (2200 * a.limits.leaveMm) : 0),
  spikes: (c) => 2 * c.fresh + 0.25 * extraDrag(c),
  "quadrant-step": (c, a) => shown(a, c) / 1.8,
  recut: (c) => 2 * c.tram,
  chatter: (c) => c.rockMm / 0.03 + c.bendUm / 200 + c.bearingUm / 70 + c.motorRough * 0.4 + c.meshUm / 300,
  "home-varies": (c, a) => c.homeUm / 12 + (a.feedback === "open-loop" ? 0.3 * c.stall : 0),
  "home-turn": (c) => 4 * c.homeTurn,
  "no-motion": (c) => 5 * (c.override * (1 - c.inProgram) + c.interlock),
  "stops-in-program": (c) => 5 * (c.waiting + c.override * c.inProgram),
  "hot-end": (c) => 1.8 * Math.max(0, c.preload) + 0.3 * c.endDrag + 0.3 * c.bearingRough,
  stalls: (c) => (extraDrag(c) + c.endDrag + c.spotDrag * 0.6 + Math.max(0, c.balance - 0.3)) / 1.5,
  "end-walks": (c) => c.slopeUm / 180 + c.bendUm / 150,
  "travel-wrong": () => 0,
  "display-dead": () => 0,
  "racks-out": () => 0,
  "ripple-pair": (c, a) => shown(a, c) / 2.4,
  "flange-turns": () => 0,
  "clamp-turns": () => 0,
  "marks-off": (c) => Math.max(c.couplingScrews, c.pinionScrews) * (c.couplingUm / 60),
  // Off the member’s weight it shows what it is.
  "carriage-broken": (c) => 4 * c.carriage,
  "dragbrake-fitted": (c) => 4 * Math.max(0, c.oneWayDrag - 0.8 * c.balance),
  // The control’s own page shows it to the micron, wherever it is lost between motor and table.
  "scale-gap": (c, a) => (a.feedback === "scale" ? (lostUm(a, c) + 0.8 * c.wearUm) / (1000 * a.limits.leaveMm) : 0),
  "nut-gritty": (c) => 4 * c.grit,
  "balls-out": (c) => c.ballReturns - 0.5,
  "insert-broken": () => 0,
  "belt-frayed": () => 0,
  "wiper-torn": (c) => 0.8 * c.grit,
  "flank-middle": (c) => c.wearUm / 3.5,
  "override-zero": (c) => 5 * c.override,
  "listed-interlock": (c) => 4 * c.interlock,
  "listed-waiting": (c) => 4 * c.waiting,
  "comp-differs": (c) => Math.abs(c.enteredUm) / 2.5,
  "retainer-turns": (c) => 5 * c.retainerScrews,
  "housing-turns": (c) => 5 * c.housingScrews,
  "bracket-turns": (c) => 5 * c.bracketScrews,
  "coupling-turns": (c) => 5 * c.couplingScrews,
  "pinion-turns": (c) => 5 * c.pinionScrews,
  dry: (c) => 2.6 * c.dry,
  "rough-finger": (c) => 4.5 * c.bearingRough,
  "coasts-free": (c) => 2.4 * Math.max(0, -c.preload),
  "coast-stuck": (c) => 2.6 * Math.max(0, c.preload) + 0.6 * c.turnDrag,
  "back-drives": (c) => c.nutUm / 18,
  rocks: (c) => c.rockMm / 0.02 + 0.5 * c.carriage,
  "wheel-stuck": (c) => 3 * Math.max(0, c.wheel),
  "wheel-free": (c) => 3 * Math.max(0, -c.wheel),
  "profile-middle": (c) => c.wearUm / 3.5,
  "crest-slope": (c) => c.slopeUm / 35,
  "crest-turn": (c) => c.bendUm / 25,
  "motor-noise": (c) => 4 * c.motorRough,
  "motor-heavy": (c) => c.motorDrag / 0.3,
  "gravity-off": (c) => 3 * c.balance,
  "far-play": (c) => c.farUm / 22,
  springy: (c) => c.giveUm / 6,
  "tram-off": (c) => 3 * c.tram,
  "scale-dirty": (c) => 3 * c.scaleDirt,
};

/**
 * How plainly one thing shows on an axis.
 * @param id - what is looked for
 * @param c - how its parts are
 * @param a - its configuration
 */
export function signal(id: FindingId, c: Condition, a: AxisConfig): number {
  return SIGNALS[id](c, a);
}

/** Logistic curve of the logarithm of a signal: who notices what, 0 to 1. */
export function noticed(strength: number, slope = 4): number {
  return strength <= 0 ? 0 : 1 / (1 + strength ** -slope);
}
