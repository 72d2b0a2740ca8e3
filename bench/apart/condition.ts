import type { AxisConfig } from "@iron/core";

/**
 * How the parts of one axis are, in quantities that a mechanic could measure. Nothing here is taken from the
 * catalogue or from the virtual axis: this world is what they are tried on. All of it: common practice, no source.
 */
export interface Condition {
  /** Play seen at the member, µm. */
  couplingUm: number;
  bearingUm: number;
  housingUm: number;
  nutUm: number;
  bracketUm: number;
  meshUm: number;
  /** More play where the screw works most, µm. */
  wearUm: number;
  /** What the control adds at a reversal and should not, µm; negative: too little. */
  enteredUm: number;
  /** What coupling or belt gives under the reversing force and takes back, µm. */
  giveUm: number;
  /** Friction of the member in multiples of what is usual. */
  wayDrag: number;
  /** More friction from motor, brake, bearings and nut, in multiples of the usual friction of the member. */
  motorDrag: number;
  bearingDrag: number;
  nutDrag: number;
  /** More friction towards one end, once a turn, at one spot, one way. */
  endDrag: number;
  turnDrag: number;
  spotDrag: number;
  oneWayDrag: number;
  /** Set load of the end bearings: 0 right, −1 gone, 1 twice too hard. */
  preload: number;
  /** How rough or damaged, 0 sound to 1 failed. */
  bearingRough: number;
  motorRough: number;
  farRough: number;
  grit: number;
  ballReturns: number;
  carriage: number;
  dry: number;
  scaleDirt: number;
  stall: number;
  balance: number;
  fresh: number;
  /** Screws found turning below their torque, 0 none to 1 all. */
  couplingScrews: number;
  retainerScrews: number;
  housingScrews: number;
  bracketScrews: number;
  pinionScrews: number;
  /** Play across, mm; wheels: −1 off the rail, 1 jammed on it. */
  rockMm: number;
  wheel: number;
  cageMm: number;
  /** Radial play of the far bearing, bend and slope of the screw, µm. */
  farUm: number;
  bendUm: number;
  slopeUm: number;
  homeUm: number;
  homeTurn: number;
  tram: number;
  spindleWheel: number;
  regen: number;
  override: number;
  /** An override at zero: met at a jog, or in the middle of a program. */
  inProgram: number;
  interlock: number;
  waiting: number;
}

const NOTHING: Condition = {
  couplingUm: 0,
  bearingUm: 0,
  housingUm: 0,
  nutUm: 0,
  bracketUm: 0,
  meshUm: 0,
  wearUm: 0,
  enteredUm: 0,
  giveUm: 0,
  wayDrag: 1,
  motorDrag: 0,
  bearingDrag: 0,
  nutDrag: 0,
  endDrag: 0,
  turnDrag: 0,
  spotDrag: 0,
  oneWayDrag: 0,
  preload: 0,
  bearingRough: 0,
  motorRough: 0,
  farRough: 0,
  grit: 0,
  ballReturns: 0,
  carriage: 0,
  dry: 0,
  scaleDirt: 0,
  stall: 0,
  balance: 0,
  fresh: 0,
  couplingScrews: 0,
  retainerScrews: 0,
  housingScrews: 0,
  bracketScrews: 0,
  pinionScrews: 0,
  rockMm: 0,
  wheel: 0,
  cageMm: 0,
  farUm: 0,
  bendUm: 0,
  slopeUm: 0,
  homeUm: 0,
  homeTurn: 0,
  tram: 0,
  spindleWheel: 0,
  regen: 0,
  override: 0,
  inProgram: 0,
  interlock: 0,
  waiting: 0,
};

type Uniform = () => number;
const between = (u: Uniform, least: number, most: number): number => least + (most - least) * u();

/** A sound axis as it left the maker's hands and has run since. */
export function soundCondition(axis: AxisConfig, u: Uniform): Condition {
  const rack = axis.transmission === "rack";
  const bearing = { "deep-groove-pair": 3.5, "plain-thrust": 7 }[axis.bearings as string] ?? 0.8;
  const nut = { "single-clearance": between(u, 2, 11), "anti-backlash": between(u, 8, 45) }[axis.nut as string];
  return {
    ...NOTHING,
    couplingUm: between(u, 0, axis.transmission === "belt" ? 3 : 0.8),
    giveUm: between(u, 0, axis.transmission === "belt" ? 4 : 1.2),
    bearingUm: rack ? 0 : bearing * between(u, 0.3, 1.5),
    housingUm: rack ? 0 : between(u, 0, 0.4),
    nutUm: rack ? 0 : (nut ?? between(u, 0.1, 1.6)),
    bracketUm: rack ? 0 : between(u, 0, 0.4),
    meshUm: rack ? between(u, 25, 70) : 0,
    wayDrag: between(u, 0.8, 1.25),
    rockMm: between(u, 0, 0.012),
    dry: between(u, 0, 0.2),
    bearingRough: between(u, 0, 0.12),
    homeUm: between(u, 0, 1.5),
  };
}

/** What the member does not do of what it is told at a reversal, µm: all play in the chain, and wind-up of what is elastic. */
export function lostUm(axis: AxisConfig, c: Condition): number {
  const drag = c.wayDrag + c.bearingDrag + c.nutDrag;
  const windUp = (axis.transmission === "rack" ? 9 : 1.6) * drag;
  return c.couplingUm + c.giveUm + c.bearingUm + c.housingUm + c.nutUm + c.bracketUm + c.meshUm + windUp - c.enteredUm;
}
