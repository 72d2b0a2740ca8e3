import { isGravityAxis, type AxisConfig } from "../axis";

/**
 * How a joint stands. *Snug*: its screws are in, just loose enough that the part finds its own place,
 * and cannot fall or tip. Of a bearing nut: at preload, hand-tight, backed off, off.
 */
export const JOINT_STATES = ["tight", "snug", "loose", "off"] as const;
export type JointState = (typeof JOINT_STATES)[number];

/** Everything on an axis that can be undone, and everything that stands before it. */
export const JOINT_IDS = [
  "motor",
  "hub-motor",
  "hub-screw",
  "belt",
  "mesh",
  "pinion",
  "rack",
  "retainer",
  "nut-lock",
  "bearing-nut",
  "spacer",
  "housing",
  "pins",
  "shims",
  "bearings",
  "far-nut",
  "far-support",
  "far-bearing",
  "screw",
  "screw-clamps",
  "balls",
  "nut-bracket",
  "bracket-member",
  "nut-flange",
  "antibacklash",
  "balance-link",
  "lube-line",
  "gib",
  "carriages",
  "v-wheels",
  "cage",
  "home-switch",
  "head",
  "column",
  "panel",
  "covers",
  "bumper",
  "table",
] as const;
export type JointId = (typeof JOINT_IDS)[number];

/**
 * How far undone: 0 tight, 3 off.
 * @param state - state of a joint
 * @returns 0 to 3
 * @example openness("off") // 3
 */
export function openness(state: JointState): number {
  return OPENNESS[state];
}

const OPENNESS: Readonly<Record<JointState, number>> = {
  tight: 0,
  snug: 1,
  loose: 2,
  off: 3,
};

/**
 * The screw turns, between end bearings of its own.
 * @param axis - the axis’ configuration
 * @returns whether it does
 * @example screwTurns(defaultAxis("vertical-centre", "X")) // true
 */
export function screwTurns(axis: AxisConfig): boolean {
  return axis.transmission !== "rack" && axis.transmission !== "rotating-nut";
}

/**
 * The axis is driven through a screw.
 * @param axis - the axis’ configuration
 * @returns whether it has one
 * @example hasScrew(defaultAxis("vertical-centre", "X")) // true
 */
export function hasScrew(axis: AxisConfig): boolean {
  return axis.transmission !== "rack";
}

/**
 * Motor and screw are tied by a coupling with two hubs.
 * @param axis - the axis’ configuration
 * @returns whether they are
 * @example isCoupled(defaultAxis("vertical-centre", "X")) // true
 */
export function isCoupled(axis: AxisConfig): boolean {
  return axis.transmission === "direct" || axis.transmission === "plain-screw";
}

/**
 * Motor and what it drives are tied by a belt.
 * @param axis - the axis’ configuration
 * @returns whether they are
 * @example isBelted(defaultAxis("vertical-centre", "X")) // false
 */
export function isBelted(axis: AxisConfig): boolean {
  return axis.transmission === "belt" || axis.transmission === "rotating-nut";
}

/**
 * The screw has a bearing of its own at the other end.
 * @param axis - the axis’ configuration
 * @returns whether the other end has a bearing of its own
 * @example hasFarEnd({ ...defaultAxis("vertical-centre", "X"), screw: { ...defaultAxis("vertical-centre", "X").screw, fixings: "fixed-free" } }) // false
 */
export function hasFarEnd(axis: AxisConfig): boolean {
  return screwTurns(axis) && axis.screw.fixings !== "fixed-free";
}

/**
 * Fixed at both ends: stretched, its elongation is noted before and set again last.
 * @param axis - the axis’ configuration
 * @returns whether it is
 * @example isStretched({ ...defaultAxis("vertical-centre", "X"), screw: { ...defaultAxis("vertical-centre", "X").screw, fixings: "fixed-fixed" } }) // true
 */
export function isStretched(axis: AxisConfig): boolean {
  return screwTurns(axis) && axis.screw.fixings === "fixed-fixed";
}

/**
 * The axis goes straight up and down.
 * @param axis - the axis’ configuration
 * @returns whether the member goes straight up and down
 * @example isVertical(defaultAxis("vertical-centre", "Z")) // true
 */
export function isVertical(axis: AxisConfig): boolean {
  return axis.orientation === "vertical";
}

/**
 * Held by something that stores energy.
 * @param axis - the axis’ configuration
 * @returns whether it is
 * @example hasBalance(defaultAxis("vertical-centre", "X")) // false
 */
export function hasBalance(axis: AxisConfig): boolean {
  return isGravityAxis(axis) && (axis.counterweight || axis.gasSpring);
}

/** Rack drives and long rotating-nut axes carry no bumper before a bearing housing. */
function hasBumper(axis: AxisConfig): boolean {
  return screwTurns(axis) && axis.mechanics.bumper;
}

/** Stands between a hand and the drive: a bench machine’s table is lifted off before its nut is seen. */
function hasTableInTheWay(axis: AxisConfig): boolean {
  return axis.mechanics.tableOverNut;
}

/**
 * The joints that this axis has. What it does not have cannot be undone, ordered or retested.
 * @param axis - the axis’ configuration
 * @returns the joints, in the order of the chain
 * @example jointsOf(defaultAxis("router", "X")).includes("housing") // false
 */
export function jointsOf(axis: AxisConfig): readonly JointId[] {
  const known = JOINTS.get(axis);
  if (known) return known;
  const joints = jointsFor(axis);
  JOINTS.set(axis, joints);
  return joints;
}

/** Asked for in every state of every sheet. */
const JOINTS = new WeakMap<AxisConfig, readonly JointId[]>();

function jointsFor(axis: AxisConfig): readonly JointId[] {
  const { mechanics } = axis;
  const has: readonly [JointId, boolean][] = [
    ["motor", true],
    ["hub-motor", isCoupled(axis)],
    ["hub-screw", isCoupled(axis)],
    ["belt", isBelted(axis)],
    ["mesh", axis.transmission === "rack"],
    ["pinion", axis.transmission === "rack"],
    ["rack", axis.transmission === "rack"],
    ["retainer", hasScrew(axis) && mechanics.fixedEnd !== "pillow-block"],
    ["nut-lock", hasScrew(axis)],
    ["bearing-nut", hasScrew(axis)],
    ["spacer", screwTurns(axis) && mechanics.fixedEnd !== "pillow-block"],
    ["housing", screwTurns(axis)],
    ["pins", screwTurns(axis) && mechanics.fixedEnd === "pinned"],
    ["shims", screwTurns(axis) && mechanics.fixedEnd !== "pillow-block"],
    ["bearings", hasScrew(axis)],
    [
      "far-nut",
      isStretched(axis) || (axis.screw.fixings === "fixed-supported" && screwTurns(axis) && mechanics.farNut),
    ],
    ["far-support", hasFarEnd(axis)],
    ["far-bearing", hasFarEnd(axis)],
    ["screw", hasScrew(axis)],
    ["screw-clamps", axis.transmission === "rotating-nut"],
    ["balls", hasScrew(axis)],
    ["nut-bracket", screwTurns(axis)],
    ["bracket-member", screwTurns(axis)],
    ["nut-flange", axis.transmission === "rotating-nut"],
    ["antibacklash", hasScrew(axis) && axis.nut === "anti-backlash"],
    ["balance-link", hasBalance(axis)],
    ["lube-line", hasScrew(axis) && mechanics.lubeLine],
    ["gib", axis.guideway === "box" || axis.guideway === "dovetail"],
    ["carriages", axis.guideway === "rail"],
    ["v-wheels", axis.guideway === "v-wheel"],
    ["cage", axis.guideway === "ball-cage" || axis.guideway === "crossed-roller"],
    ["home-switch", true],
    ["head", axis.member === "head" || axis.member === "quill" || axis.member === "ram"],
    ["column", mechanics.column],
    ["panel", isCoupled(axis) && mechanics.couplingHidden],
    ["covers", true],
    ["bumper", hasBumper(axis)],
    ["table", hasTableInTheWay(axis)],
  ];
  return has.flatMap(([id, present]) => (present ? [id] : []));
}
