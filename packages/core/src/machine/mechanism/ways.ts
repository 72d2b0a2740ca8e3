import { isGravityAxis, type AxisConfig } from "../axis";
import { leadTangent } from "./holders";
import { jointsOf, screwTurns, type JointId, type JointState } from "./joints";
import { jointAt, type MechanismState, type Place, type Power, type Way } from "./state";

/** Whatever else is open, these do not stop a jog: nothing of the path hangs on them. */
const NO_MATTER_TO_A_JOG: readonly JointId[] = ["covers", "panel", "nut-lock", "home-switch"];
/** Snug they let the screw find its place, and still drive the member along. */
const MAY_BE_SNUG: readonly JointId[] = ["motor", "housing", "far-support", "nut-bracket", "bracket-member"];
/** Eased, its adjuster is set while the axis moves. */
const SET_WHILE_MOVING: readonly JointId[] = ["gib"];
/** A rack drive without brake rolls back through a gearbox up to this ratio (common practice, no source). */
const ROLLS_BACK = 10;
/** From this tangent of the lead angle a ball screw is driven back by a push (common practice, no source). */
const BACK_DRIVES = 0.06;
/** A plain thread rubs: it is driven back only above its friction, 0.1 to 0.2 (handbook range, from memory). */
const PLAIN_BACK_DRIVES = 0.2;

const atLeastSnug = (state: JointState): boolean => state === "tight" || state === "snug";
const undone = (state: JointState): boolean => state === "loose" || state === "off";

/**
 * No brake stands on the screw, nut or pinion: there is none, it is let go, or it went with motor or coupling.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns whether none stands
 * @example brakeIsClear({ ...defaultAxis("vertical-centre", "X"), brake: false }, WHOLE) // true
 */
export function brakeIsClear(config: AxisConfig, state: MechanismState): boolean {
  if (!config.brake || state.brakeLet) return true;
  if (config.mechanics.brakeAt === "screw") return false;
  return driveIsParted(config, state);
}

/**
 * Motor and what it drives have nothing to do with each other now.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns whether it is
 * @example driveIsParted(defaultAxis("vertical-centre", "X"), WHOLE) // false
 */
export function driveIsParted(config: AxisConfig, state: MechanismState): boolean {
  const has = jointsOf(config);
  const parts: readonly JointId[] = ["motor", "hub-motor", "hub-screw", "belt", "mesh"];
  return parts.some((j) => {
    if (!has.includes(j)) return false;
    const at = jointAt(state, j);
    // A motor must be off its flange; a hub, a belt, a pinion only loose.
    return j === "motor" ? at === "off" : undone(at);
  });
}

/** The screw is in, carried and held endwise, if only by hand, and hangs in no sling. */
function screwIsHeld(config: AxisConfig, state: MechanismState): boolean {
  if (state.sling) return false;
  const has = jointsOf(config);
  const ends: readonly JointId[] = ["bearing-nut", "housing"];
  const parts: readonly JointId[] = ["bearings", "screw", "balls"];
  return (
    ends.every((j) => atLeastSnug(jointAt(state, j))) &&
    parts.every((j) => jointAt(state, j) === "tight") &&
    (!has.includes("retainer") || atLeastSnug(jointAt(state, "retainer")))
  );
}

const nutIsJoined = (state: MechanismState): boolean =>
  atLeastSnug(jointAt(state, "nut-bracket")) && atLeastSnug(jointAt(state, "bracket-member"));

/** The member’s own guide is whole enough to move on. */
function wayIsWhole(config: AxisConfig, state: MechanismState): boolean {
  const has = jointsOf(config);
  const parts: readonly JointId[] = ["head", "column", "table"];
  return parts.every((j) => !has.includes(j) || jointAt(state, j) === "tight");
}

function canJog(config: AxisConfig, state: MechanismState, power: Power): boolean {
  if (power !== "on" || state.block !== "none" || state.gear !== "none") return false;
  if (state.balance === "secured" || state.prop || state.sling || state.brakeLet) return false;
  const gravity = isGravityAxis(config);
  return jointsOf(config).every((j) => {
    if (NO_MATTER_TO_A_JOG.includes(j)) return true;
    const at = jointAt(state, j);
    if (at !== "snug") return at === "tight";
    return SET_WHILE_MOVING.includes(j) || (!gravity && MAY_BE_SNUG.includes(j));
  });
}

function canTurnScrew(config: AxisConfig, state: MechanismState, power: Power): boolean {
  if (power !== "isolated" || !screwTurns(config)) return false;
  if (!screwIsHeld(config, state) || !nutIsJoined(state)) return false;
  if (!brakeIsClear(config, state) || !wayIsWhole(config, state)) return false;
  // A member on its block cannot go down, and nothing holds it on its way up but the gear.
  return !isGravityAxis(config) || (state.gear === "taut" && state.block === "none");
}

function canPush(config: AxisConfig, state: MechanismState, power: Power): boolean {
  if (power !== "isolated" || isGravityAxis(config)) return false;
  if (!wayIsWhole(config, state)) return false;
  const rolls = config.transmission === "rack" && !config.brake && config.ratio <= ROLLS_BACK;
  if (!screwTurns(config)) return rolls || driveIsParted(config, state);
  if (undone(jointAt(state, "nut-bracket"))) return true;
  if (undone(jointAt(state, "bracket-member"))) return true;
  return (
    driveIsParted(config, state) &&
    screwIsHeld(config, state) &&
    leadTangent(config) >= (config.transmission === "plain-screw" ? PLAIN_BACK_DRIVES : BACK_DRIVES)
  );
}

/**
 * A plain thread of low lead stands still, however the member is lifted.
 * @param config - the axis’ configuration
 * @returns whether the screw turns as the member is lifted
 * @example turnsAsItRises(defaultAxis("vertical-centre", "X")) // true
 */
export function turnsAsItRises(config: AxisConfig): boolean {
  return config.transmission !== "plain-screw" || leadTangent(config) >= PLAIN_BACK_DRIVES;
}

function canLift(config: AxisConfig, state: MechanismState, power: Power): boolean {
  if (!isGravityAxis(config) || power !== "isolated") return false;
  if (state.gear !== "taut" || state.block !== "none") return false;
  if (!wayIsWhole(config, state)) return false;
  if (!screwTurns(config)) return driveIsParted(config, state);
  const parted = undone(jointAt(state, "nut-bracket")) || undone(jointAt(state, "bracket-member"));
  // Else the screw turns as the member rises.
  return (
    parted ||
    (turnsAsItRises(config) &&
      screwIsHeld(config, state) &&
      driveIsParted(config, state) &&
      brakeIsClear(config, state))
  );
}

/** A pinned balance lets the member rise by a lead and no further: it is unhooked first. */
function balanceLets(state: MechanismState, to: Place): boolean {
  return state.balance === "acts" || to === "opening" || jointAt(state, "balance-link") === "off";
}

/**
 * Every way in which the member can be moved to a place in this state; none is an answer too.
 * @param config - the axis’ configuration
 * @param options - `state`: how the axis stands now; `power`: whether there is power, and whether it is locked
 *   out; `to`: the place
 * @returns the ways, possibly none
 * @example waysToMove(defaultAxis("vertical-centre", "X"), { state: WHOLE, power: "on", to: "middle" }).includes("jog") // true
 */
export function waysToMove(
  config: AxisConfig,
  { state, power, to }: { readonly state: MechanismState; readonly power: Power; readonly to: Place },
): readonly Way[] {
  if (!balanceLets(state, to)) return [];
  const ways: readonly [Way, boolean][] = [
    ["screw-by-hand", canTurnScrew(config, state, power)],
    ["push", canPush(config, state, power)],
    ["gear", canLift(config, state, power)],
    ["jog", canJog(config, state, power)],
  ];
  return ways.flatMap(([way, can]) => (can ? [way] : []));
}

/**
 * The screw turns with nothing on it: nut parted, on the bench, or level with the motor off.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns whether it does
 * @example screwTurnsFree(defaultAxis("vertical-centre", "X"), WHOLE) // false
 */
export function screwTurnsFree(config: AxisConfig, state: MechanismState): boolean {
  if (!screwTurns(config)) return false;
  if (jointAt(state, "screw") === "off") return true;
  if (undone(jointAt(state, "nut-bracket"))) return true;
  return !isGravityAxis(config) && driveIsParted(config, state);
}

export const VERBS = [
  "jog",
  "creep",
  "raise",
  "lower",
  "home",
  "full-travel",
  "reverse",
  "turn-screw",
  "wind-screw",
  "push",
  "flick",
  "cord-pull",
  "read-load",
  "rock",
  "ease-brake",
] as const;
export type Verb = (typeof VERBS)[number];

/**
 * Can this be done in this state? A load figure wants a meter, a flick a screw that turns free, a
 * jog a whole path; full travel wants the axis referenced, for its soft limits are off by up to a lead.
 * @param config - the axis’ configuration
 * @param options - `state`: how the axis stands now; `power`: whether there is power, and whether it is locked
 *   out; `verb`: what would be done
 * @returns whether it can be
 * @example verbAllowed(defaultAxis("vertical-centre", "X"), { state: WHOLE, power: "on", verb: "jog" }) // true
 */
export function verbAllowed(
  config: AxisConfig,
  { state, power, verb }: { readonly state: MechanismState; readonly power: Power; readonly verb: Verb },
): boolean {
  const jog = canJog(config, state, power);
  const onBlock = canJog(config, { ...state, block: "none", tied: false }, power);
  switch (verb) {
    case "jog":
    case "creep":
    case "reverse":
      return jog;
    case "raise":
    case "lower":
      return isGravityAxis(config) && onBlock && !state.tied;
    case "home":
      return jog && jointAt(state, "home-switch") === "tight";
    case "full-travel":
      return jog && state.referenced;
    case "turn-screw":
      return canTurnScrew(config, state, power);
    case "wind-screw":
      // Wound up or down in its nut, the member standing still on its block.
      return (
        power === "isolated" &&
        screwTurns(config) &&
        nutIsJoined(state) &&
        jointAt(state, "screw") === "tight" &&
        undone(jointAt(state, "bearing-nut")) &&
        (brakeIsClear(config, state) || config.mechanics.brakeAt === "screw") &&
        (!isGravityAxis(config) || state.block === "tried")
      );
    case "push":
      return canPush(config, state, power);
    case "flick":
    case "cord-pull":
      return power === "isolated" && screwTurnsFree(config, state) && brakeIsClear(config, state);
    case "read-load":
      return config.motor === "servo" && jog;
    case "rock":
      return power === "isolated";
    case "ease-brake":
      return config.brake && config.mechanics.brakeLever && power === "isolated";
  }
}

/** On a machine that is switched on these may stand open: they are closed after the retest. */
const OPEN_UNDER_POWER: readonly JointId[] = ["nut-lock", "covers", "panel"];

/**
 * What stands against switching the machine on, on one axis: open joints, a prop, a sling, gear, a balance that
 * is secured. Empty when nothing does.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns what stands against it
 * @example againstPower(defaultAxis("vertical-centre", "X"), WHOLE).length // 0
 */
export function againstPower(
  config: AxisConfig,
  state: MechanismState,
): readonly (JointId | "prop" | "sling" | "gear" | "balance")[] {
  const gravity = isGravityAxis(config);
  const open = jointsOf(config).filter((j) => {
    const at = jointAt(state, j);
    if (at === "tight" || OPEN_UNDER_POWER.includes(j)) return false;
    return at !== "snug" || (gravity && !SET_WHILE_MOVING.includes(j));
  });
  return [
    ...open,
    ...(state.prop ? (["prop"] as const) : []),
    ...(state.sling ? (["sling"] as const) : []),
    ...(state.gear === "taut" ? (["gear"] as const) : []),
    ...(gravity && state.balance === "secured" ? (["balance"] as const) : []),
  ];
}
