import type { AxisConfig, LinkId } from "../machine/axis";
import { STEEL_E } from "../sums/screw";
import { SLACKS, type SlackId } from "./knowledge";

/** Tests that give a size: which slacks each of them sees at once. */
export const MAGNITUDES = [
  "whole-chain",
  "end-float",
  "nut-flank",
  "coupling-slip",
  "housing-shift",
  "bracket-shift",
] as const;
export type MagnitudeKind = (typeof MAGNITUDES)[number];

const SEES: Record<MagnitudeKind, readonly SlackId[]> = {
  "whole-chain": SLACKS,
  "end-float": ["bearings", "housing"],
  // The lever rides on the member: all between thread and member moves past it, the nut’s own bearings where it turns.
  "nut-flank": ["nut", "wear", "bracket"],
  "coupling-slip": ["coupling"],
  "housing-shift": ["housing"],
  "bracket-shift": ["bracket"],
};

/**
 * The slacks an axis can have, in the order of its chain.
 * @param axis - configuration
 * @returns ids from the coupling to the member
 * @example
 * slacksOf(defaultAxis("vertical-centre", "X"))
 * // [
 *   "coupling", "bearings",
 *   "housing",  "windup",
 *   "nut",      "wear",
 *   "bracket",  "entered"
 * ]
 */
export function slacksOf(axis: AxisConfig): readonly SlackId[] {
  if (axis.transmission === "rack") return ["coupling", "mesh", "windup", "entered"];
  if (axis.transmission === "rotating-nut") return ["coupling", "bearings", "windup", "nut", "wear", "entered"];
  return ["coupling", "bearings", "housing", "windup", "nut", "wear", "bracket", "entered"];
}

/**
 * The slacks that a test's reading adds up. A scale takes all of it up before the table is read, so
 * there the whole chain shows none (common practice, no source).
 * @param axis - configuration
 * @param kind - of the test
 * @returns the slacks
 * @example seenBy(defaultAxis("vertical-centre", "X"), "end-float") // [ "bearings", "housing" ]
 */
export function seenBy(axis: AxisConfig, kind: MagnitudeKind): readonly SlackId[] {
  if (kind === "whole-chain" && axis.feedback === "scale") return [];
  const turning = kind === "nut-flank" && axis.transmission === "rotating-nut";
  const sees = turning ? [...SEES[kind], "bearings"] : SEES[kind];
  return slacksOf(axis).filter((s) => sees.includes(s));
}

export interface Baseline {
  readonly meanMm: number;
  readonly sdMm: number;
}

/** Reversing friction taken for wind-up when no drive load is known, N (common practice, no source). */
const USUAL_FRICTION_N = 120;

/**
 * Wind-up at a reversal: twice the friction over the screw's stiffness E·A/(L/2) at mid-travel, in
 * series with bearings, nut and bracket taken as stiff as the screw. Rack: pinion and shaft.
 * @param axis - configuration
 * @param frictionN - friction of the member, N
 * @returns mm
 * @example windUpMm(defaultAxis("vertical-centre", "X")) // 0.001419
 */
export function windUpMm(axis: AxisConfig, frictionN = USUAL_FRICTION_N): number {
  const area = (Math.PI / 4) * axis.screw.rootMm ** 2;
  const stiffness = axis.transmission === "rack" ? 40_000 : (STEEL_E * area) / (axis.screw.freeLengthMm / 2);
  return (4 * frictionN) / stiffness;
}

/**
 * What a sound link loses, mm (common practice, no source): a preloaded link next to nothing, a
 * single nut a few ten-thousandths to half a thousandth of an inch, a rack its mesh.
 * @param axis - configuration
 * @param slack - the slack
 * @returns mean and standard deviation, mm
 * @example baselineOf(defaultAxis("vertical-centre", "X"), "nut") // { meanMm: 0.0008, sdMm: 0.0009 }
 */
export function baselineOf(axis: AxisConfig, slack: SlackId): Baseline {
  const um = (mean: number, sd: number): Baseline => ({
    meanMm: mean / 1000,
    sdMm: sd / 1000,
  });
  switch (slack) {
    case "coupling":
      return axis.transmission === "belt" || axis.transmission === "rotating-nut" ? um(1.5, 1.5) : um(0.4, 0.5);
    case "bearings":
      if (axis.bearings === "deep-groove-pair") return um(3, 2.5);
      return axis.bearings === "plain-thrust" ? um(6, 3) : um(0.7, 0.7);
    case "windup": {
      const mm = windUpMm(axis);
      return { meanMm: mm, sdMm: 0.5 * mm + 0.0004 };
    }
    case "nut":
      if (axis.nut === "anti-backlash") return um(28, 18);
      return axis.nut === "single-clearance" ? um(7, 3.5) : um(0.8, 0.9);
    case "mesh":
      return um(48, 14);
    case "wear":
      return um(0.4, 0.6);
    case "housing":
    case "bracket":
      return um(0.2, 0.3);
    case "entered":
      return um(0, 0.2);
  }
}

export const SLACK_TEXT: Record<SlackId, string> = {
  coupling: "Coupling",
  bearings: "End bearings",
  housing: "Bearing housing",
  windup: "Wind-up",
  nut: "Nut",
  wear: "Wear of the screw there",
  bracket: "Nut bracket",
  mesh: "Pinion and rack",
  entered: "Compensation entered",
};

/**
 * The drawn link that a slack belongs to.
 * @param axis - configuration
 * @param slack - the slack
 * @returns id of the link; null where none is drawn for it
 * @example linkOfSlack(defaultAxis("vertical-centre", "X"), "nut") // "nut"
 */
export function linkOfSlack(axis: AxisConfig, slack: SlackId): LinkId | null {
  switch (slack) {
    case "coupling":
      if (axis.transmission === "rack") return "pinion";
      return axis.transmission === "belt" || axis.transmission === "rotating-nut" ? "belt" : "coupling";
    case "bearings":
    case "housing":
      return axis.transmission === "rotating-nut" ? "nut-bearings" : "end-bearings";
    case "windup":
      return axis.transmission === "rack" ? null : "screw";
    case "wear":
      return "screw";
    case "nut":
      return "nut";
    case "bracket":
      return "bracket";
    case "mesh":
      return "rack";
    case "entered":
      return null;
  }
}
