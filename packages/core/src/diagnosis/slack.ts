import type { AxisConfig, LinkId } from "../machine/axis";
import { usualFrictionN } from "../machine/mechanism/friction";
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

/** Where the nut turns, its bearings ride on the member; what holds the standing screw endwise are its clamps. */
const TURNING_SEES: Partial<Record<MagnitudeKind, readonly SlackId[]>> = {
  "end-float": ["housing"],
  "nut-flank": ["nut", "wear", "bearings"],
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
  if (axis.transmission === "rotating-nut")
    return ["coupling", "bearings", "housing", "windup", "nut", "wear", "entered"];
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
  const sees = axis.transmission === "rotating-nut" ? (TURNING_SEES[kind] ?? SEES[kind]) : SEES[kind];
  return slacksOf(axis).filter((s) => sees.includes(s));
}

/**
 * How much of the whole wind-up stands in what a test at one station sees: bearings, nut, bracket and shaft give way
 * under the reversing force as the screw does, each by its own compliance (common practice, no source).
 */
const WINDUP_SEEN: Record<MagnitudeKind, number> = {
  "whole-chain": 1,
  "end-float": 0.2,
  "nut-flank": 0.3,
  "coupling-slip": 0.1,
  "housing-shift": 0.03,
  "bracket-shift": 0.08,
};

/** Where the nut turns, a lever on the member has its bearings in its reading too. */
function windUpSeen(axis: AxisConfig, kind: MagnitudeKind): number {
  if (axis.transmission !== "rotating-nut") return WINDUP_SEEN[kind];
  return { ...WINDUP_SEEN, "end-float": 0.05, "nut-flank": 0.5 }[kind];
}

/**
 * How much of each slack is in a test’s reading.
 * @param axis - configuration
 * @param kind - of the test
 * @returns a factor for each of {@link slacksOf}: 1 for what it sees, a part of the wind-up, 0 for what it does not see
 * @example seenParts(defaultAxis("vertical-centre", "X"), "end-float") // [ 0, 1, 1, 0.2, 0, 0, 0, 0 ]
 */
export function seenParts(axis: AxisConfig, kind: MagnitudeKind): readonly number[] {
  const seen = seenBy(axis, kind);
  return slacksOf(axis).map((slack) => {
    if (seen.includes(slack)) return 1;
    return slack === "windup" && seen.length > 0 ? windUpSeen(axis, kind) : 0;
  });
}

/**
 * The part of the wind-up that these tests have in their readings already: what is reckoned besides is the rest of it.
 * @param kinds - tests that were made
 * @returns 0 to 1
 * @example windUpIn(["end-float", "housing-shift"]) // 0.2
 */
export function windUpIn(kinds: readonly MagnitudeKind[]): number {
  const most = (...of: readonly MagnitudeKind[]): number =>
    Math.max(0, ...of.filter((k) => kinds.includes(k)).map((k) => WINDUP_SEEN[k]));
  return most("end-float", "housing-shift") + most("nut-flank", "bracket-shift") + most("coupling-slip");
}

export interface Baseline {
  readonly meanMm: number;
  readonly sdMm: number;
}

/**
 * Wind-up at a reversal: twice the friction over the screw's stiffness E·A/(L/2) at mid-travel, in
 * series with bearings, nut and bracket taken as stiff as the screw. Rack: pinion and shaft.
 * @param axis - configuration
 * @param frictionN - friction of the member, N; usual for its weight and ways where nothing is given
 * @returns mm
 * @example windUpMm(defaultAxis("vertical-centre", "X"), 120) // 0.001419
 */
export function windUpMm(axis: AxisConfig, frictionN = usualFrictionN(axis)): number {
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
 * What a slack is called on an axis.
 * @param axis - configuration
 * @param slack - the slack
 * @returns a name
 * @example slackName(defaultAxis("vertical-centre", "X"), "housing") // "Bearing housing"
 */
export function slackName(axis: AxisConfig, slack: SlackId): string {
  return slack === "housing" && axis.transmission === "rotating-nut" ? "Clamps of the screw" : SLACK_TEXT[slack];
}

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
      return axis.transmission === "rotating-nut" ? "nut-bearings" : "end-bearings";
    case "housing":
      return axis.transmission === "rotating-nut" ? "screw" : "end-bearings";
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
