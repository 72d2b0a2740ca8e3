import { isGravityAxis, type AxisConfig } from "../axis";
import { hasBalance, jointsOf, screwTurns, type JointId } from "./joints";
import { jointAt, type MechanismState, type Power } from "./state";

export const HOLDERS = ["drive", "brake", "block", "gear", "self-locking screw"] as const;
export type HolderId = (typeof HOLDERS)[number];

/** What keeps a gravity member from moving, which way, and whether it has been tried. */
export interface Holder {
  readonly id: HolderId;
  readonly down: boolean;
  readonly up: boolean;
  readonly tried: boolean;
}

const TORQUE_JOINTS: readonly JointId[] = ["motor", "hub-motor", "hub-screw", "belt", "mesh", "pinion", "rack"];
const AXIAL_JOINTS: readonly JointId[] = [
  "bearing-nut",
  "bearings",
  "retainer",
  "housing",
  "screw",
  "screw-clamps",
  "nut-flange",
  "balls",
  "nut-bracket",
  "bracket-member",
];

/**
 * Joints through which motor torque reaches the member, or is held back.
 * @param config - the axis’ configuration
 * @returns the joints, from the motor on
 * @example pathOf(defaultAxis("vertical-centre", "X")).length > 2 // true
 */
export function pathOf(config: AxisConfig): readonly JointId[] {
  return pathsOf(config).whole;
}

/**
 * Joints that hold the screw, and the member on it, endwise.
 * @param config - the axis’ configuration
 * @returns the joints, from the housing on
 * @example axialPathOf(defaultAxis("vertical-centre", "X")).length > 1 // true
 */
export function axialPathOf(config: AxisConfig): readonly JointId[] {
  return pathsOf(config).axial;
}

interface Paths {
  readonly whole: readonly JointId[];
  readonly axial: readonly JointId[];
}
/** Asked for in every state of every sheet. */
const PATHS = new WeakMap<AxisConfig, Paths>();

function pathsOf(config: AxisConfig): Paths {
  const known = PATHS.get(config);
  if (known) return known;
  const has = jointsOf(config);
  const [torque, axial] = [TORQUE_JOINTS, AXIAL_JOINTS].map((path) => path.filter((j) => has.includes(j)));
  const paths = { whole: [...torque, ...axial], axial };
  PATHS.set(config, paths);
  return paths;
}

const allTight = (state: MechanismState, joints: readonly JointId[]): boolean =>
  joints.every((j) => jointAt(state, j) === "tight");

/** Below this tangent of the lead angle a plain thread holds by itself (common practice, no source). */
const SELF_LOCKING = 0.05;

/**
 * Tangent of the lead angle of the screw.
 * @param config - the axis’ configuration
 * @returns tangent of the lead angle
 * @example leadTangent({ ...defaultAxis("vertical-centre", "X"), screw: { ...defaultAxis("vertical-centre", "X").screw, leadMm: 10, nominalMm: 32 } }) // 0.099472
 */
export function leadTangent(config: AxisConfig): number {
  return config.screw.leadMm / (Math.PI * config.screw.nominalMm);
}

/**
 * Never a ball screw, however low its lead.
 * @param config - the axis’ configuration
 * @returns whether the thread holds by itself
 * @example isSelfLocking(defaultAxis("vertical-centre", "X")) // false
 */
export function isSelfLocking(config: AxisConfig): boolean {
  return config.transmission === "plain-screw" && leadTangent(config) < SELF_LOCKING;
}

/**
 * Which way the member wants to move. A balance that acts may be heavier than the member: then it
 * wants up; only secured it counts for nothing.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns whether it wants down, and whether up
 * @example pullOf(defaultAxis("vertical-centre", "X"), WHOLE).down // false
 */
export function pullOf(config: AxisConfig, state: MechanismState): { readonly down: boolean; readonly up: boolean } {
  if (!isGravityAxis(config)) return { down: false, up: false };
  return { down: true, up: hasBalance(config) && state.balance === "acts" };
}

/** The brake closes without power, and holds through the whole path from it to the member. */
function brakeHolds(config: AxisConfig, state: MechanismState): boolean {
  if (!config.brake || state.brakeLet) return false;
  const path = config.mechanics.brakeAt === "motor" ? pathOf(config) : axialPathOf(config);
  return allTight(state, path);
}

/**
 * Everything that holds the member now. A balance or drag brake is never among them.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @param power - whether there is power, and whether it is locked out
 * @returns what holds it, each with which way
 * @example holdersOf(defaultAxis("vertical-centre", "Z"), WHOLE, "on").length > 0 // true
 */
export function holdersOf(config: AxisConfig, state: MechanismState, power: Power): readonly Holder[] {
  if (!isGravityAxis(config)) return [];
  const holders: Holder[] = [];
  if (power === "on" && allTight(state, pathOf(config)))
    holders.push({ id: "drive", down: true, up: true, tried: true });
  if (power === "isolated" && brakeHolds(config, state))
    holders.push({ id: "brake", down: true, up: true, tried: true });
  if (state.block !== "none")
    holders.push({
      id: "block",
      down: true,
      up: state.tied,
      tried: state.block === "tried",
    });
  if (state.gear === "taut") holders.push({ id: "gear", down: true, up: false, tried: true });
  if (isSelfLocking(config) && allTight(state, axialPathOf(config)))
    holders.push({
      id: "self-locking screw",
      down: true,
      up: true,
      tried: state.notes["self-lock-tried"] === true,
    });
  return holders;
}

/**
 * Is the member held against every way it wants, by what has been tried?
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @param holders - what holds the member, of {@link holdersOf}
 * @returns whether it is held
 * @example isHeld(defaultAxis("vertical-centre", "X"), WHOLE, []) // true
 */
export function isHeld(config: AxisConfig, state: MechanismState, holders: readonly Holder[]): boolean {
  const pull = pullOf(config, state);
  const by = (way: "down" | "up"): boolean => !pull[way] || holders.some((h) => h.tried && h[way]);
  return by("down") && by("up");
}

const FIXED_END: readonly JointId[] = ["bearing-nut", "bearings", "retainer", "housing"];

/** The upright screw is in, and its fixed end has let go. */
function screwIsFree(config: AxisConfig, state: MechanismState): boolean {
  if (!screwTurns(config) || !isGravityAxis(config)) return false;
  if (jointAt(state, "screw") === "off") return false;
  return FIXED_END.some((j) => {
    const at = jointAt(state, j);
    return at === "off" || at === "loose";
  });
}

/**
 * Once its fixed end lets go, only the nut holds an upright screw: a prop stands under it.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns whether it does
 * @example screwNeedsProp(defaultAxis("vertical-centre", "X"), WHOLE) // false
 */
export function screwNeedsProp(config: AxisConfig, state: MechanismState): boolean {
  return screwIsFree(config, state);
}

/**
 * With its nut parted as well nothing holds it at all: it hangs in a sling before that.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns whether it does
 * @example screwNeedsSling(defaultAxis("vertical-centre", "X"), WHOLE) // false
 */
export function screwNeedsSling(config: AxisConfig, state: MechanismState): boolean {
  const parted = jointAt(state, "nut-bracket") === "off" || jointAt(state, "bracket-member") === "off";
  return parted && screwIsFree(config, state);
}
