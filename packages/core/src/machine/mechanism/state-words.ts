import { isGravityAxis, memberName, type AxisConfig } from "../axis";
import { holdersOf, screwNeedsProp } from "./holders";
import { JOINT_NAMES } from "./joint-names.table";
import { screwTurns } from "./joints";
import { jointAt, openJoints, type MechanismState, type Power } from "./state";

/** What a state line is made of. */
export interface StateLine {
  readonly power: Power;
  /** Who carries a gravity member; empty on a level axis. */
  readonly carried: readonly string[];
  /** Who carries an upright screw, once that is a question; empty else. */
  readonly screw: readonly string[];
  readonly open: readonly string[];
}

/**
 * How one axis stands: power, who carries the member, who carries the screw, what is open.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @param power - whether there is power, and whether it is locked out
 * @returns the parts of the line
 * @example stateLine(defaultAxis("vertical-centre", "X"), WHOLE, "on").open.length // 0
 */
export function stateLine(config: AxisConfig, state: MechanismState, power: Power): StateLine {
  const carried: string[] = holdersOf(config, state, power).map((h) =>
    h.id === "block" ? `block${state.tied ? " and strap" : ""}${h.tried ? "" : ", not tried"}` : h.id,
  );
  if (isGravityAxis(config) && state.balance === "secured") carried.push("balance secured");
  return {
    power,
    carried,
    screw: screwCarriers(config, state),
    open: openJoints(config, state).map((j) => {
      const at = jointAt(state, j);
      return at === "tight" ? "" : JOINT_NAMES[j][at];
    }),
  };
}

function screwCarriers(config: AxisConfig, state: MechanismState): readonly string[] {
  if (!screwTurns(config) || !screwNeedsProp(config, state)) return [];
  const joined = jointAt(state, "nut-bracket") !== "off";
  return [joined ? "its nut" : "", state.sling ? "its sling" : "", state.prop ? "the prop" : ""].filter(Boolean);
}

/**
 * The state in one line.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @param power - whether there is power, and whether it is locked out
 * @returns the line
 * @example stateWords(defaultAxis("vertical-centre", "X"), WHOLE, "on") // "power on · nothing open"
 */
export function stateWords(config: AxisConfig, state: MechanismState, power: Power): string {
  const { carried, screw, open } = stateLine(config, state, power);
  let words = power === "on" ? "power on" : "power off";
  if (isGravityAxis(config))
    words += ` · ${memberName(config).toLowerCase()}: ${carried.join(", ") || "held by nothing"}`;
  if (screw.length > 0) words += ` · screw: ${screw.join(", ")}`;
  return `${words} · ${open.join(", ") || "nothing open"}`;
}
