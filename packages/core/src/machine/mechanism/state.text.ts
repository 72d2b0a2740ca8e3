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
 * @example stateText(defaultAxis("vertical-centre", "X"), WHOLE, "on") // "power on · nothing open"
 */
export function stateText(config: AxisConfig, state: MechanismState, power: Power): string {
  const line = stateLine(config, state, power);
  return [...holdText(config, line), line.open.join(", ") || "nothing open"].join(" · ");
}

/** Power, and who carries member and screw. */
function holdText(config: AxisConfig, { power, carried, screw }: StateLine): readonly string[] {
  const member = `${memberName(config).toLowerCase()}: ${carried.join(", ") || "held by nothing"}`;
  return [
    power === "on" ? "power on" : "power off",
    ...(isGravityAxis(config) ? [member] : []),
    ...(screw.length > 0 ? [`screw: ${screw.join(", ")}`] : []),
  ];
}

/**
 * What is otherwise than before, and no more: for a sheet that would say the same line a hundred times.
 * @param config - the axis’ configuration
 * @param before - how it stood
 * @param after - how it stands
 * @returns the words; empty where nothing changed
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * stateChange(axis, stateLine(axis, WHOLE, "on"), stateLine(axis, WHOLE, "isolated")) // "power off"
 */
export function stateChange(config: AxisConfig, before: StateLine, after: StateLine): string {
  const was = holdText(config, before);
  return [
    ...holdText(config, after).filter((part) => !was.includes(part)),
    ...after.open.filter((o) => !before.open.includes(o)).map((o) => `+ ${o}`),
    ...before.open.filter((o) => !after.open.includes(o)).map((o) => `no more: ${o}`),
  ].join(" · ");
}
