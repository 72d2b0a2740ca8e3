import type { AxisConfig } from "../axis";
import { isBelted, isCoupled, jointsOf, openness, screwTurns, type JointId, type JointState } from "./joints";
import { REACH_ROWS, type ReachRow } from "./reach.table";
import { jointAt, type MechanismState, type Effect } from "./state";

/** A joint that must stand at least (`open`) or at most (`shut`) so far undone. */
export interface JointNeed {
  readonly joint: JointId;
  readonly at: JointState;
  readonly side: "open" | "shut";
}

const FITS: Record<NonNullable<ReachRow["only"]>, (config: AxisConfig) => boolean> = {
  coupled: isCoupled,
  belted: isBelted,
  turning: screwTurns,
  rotating: (config) => config.transmission === "rotating-nut",
  rack: (config) => config.transmission === "rack",
  housing: (config) => config.mechanics.fixedEnd !== "pillow-block",
};

/** A block with grub screws sits beside the motor: its collars are reached with the motor on. */
function besideIt(config: AxisConfig, row: ReachRow, before: JointId): boolean {
  return (
    config.mechanics.fixedEnd === "pillow-block" &&
    (row.joint === "bearing-nut" || row.joint === "nut-lock") &&
    (before === "motor" || before === "hub-screw")
  );
}

/**
 * What must stand open and shut before a joint is brought to a state on this axis: what hides it,
 * what holds it, what must be in before.
 * @param config - the axis’ configuration
 * @param joint - the joint
 * @param to - the state it is brought to
 * @returns what must be so before
 * @example reachNeeds(defaultAxis("vertical-centre", "X"), "housing", "off").length > 0 // true
 */
export function reachNeeds(config: AxisConfig, joint: JointId, to: JointState): readonly JointNeed[] {
  let table = TABLES.get(config);
  if (!table) {
    table = new Map();
    TABLES.set(config, table);
  }
  const key = `${joint}:${to}`;
  const known = table.get(key);
  if (known) return known;
  const needs = needsOn(config, ROWS.get(key) ?? []);
  table.set(key, needs);
  return needs;
}

/** Asked for in every state of every sheet: worked out once for an axis. */
const TABLES = new WeakMap<AxisConfig, Map<string, readonly JointNeed[]>>();

interface RowNeeds {
  readonly row: ReachRow;
  readonly needs: readonly JointNeed[];
}

/** Rows by what is brought where. */
const ROWS: ReadonlyMap<string, readonly RowNeeds[]> = rowsByKey();

function rowsByKey(): Map<string, RowNeeds[]> {
  const rows = new Map<string, RowNeeds[]>();
  for (const row of REACH_ROWS) {
    const needs = (["open", "shut"] as const).flatMap((side) =>
      (Object.entries(row[side] ?? {}) as [JointId, JointState][]).map(([joint, at]): JointNeed => ({
        joint,
        at,
        side,
      })),
    );
    for (const to of row.to) {
      const key = `${row.joint}:${to}`;
      rows.set(key, [...(rows.get(key) ?? []), { row, needs }]);
    }
  }
  return rows;
}

function needsOn(config: AxisConfig, rows: readonly RowNeeds[]): readonly JointNeed[] {
  const has = jointsOf(config);
  return rows
    .filter(({ row }) => has.includes(row.joint) && (!row.only || FITS[row.only](config)))
    .flatMap(({ row, needs }) =>
      needs.filter((n) => has.includes(n.joint) && !(n.side === "open" && besideIt(config, row, n.joint))),
    );
}

/**
 * Is a joint as it must be?
 * @param state - how the axis stands now
 * @param need - what a joint must be
 * @returns whether it is
 * @example meets(WHOLE, { joint: "cover", is: "tight" } ) // false
 */
export function meets(state: MechanismState, need: JointNeed): boolean {
  const now = openness(jointAt(state, need.joint));
  return need.side === "open" ? now >= openness(need.at) : now <= openness(need.at);
}

/**
 * Needs of a step’s effects on joints; what the step itself has done before counts.
 * @param config - the axis’ configuration
 * @param effects - effects of a step, in their order
 * @returns what must be so before
 * @example effectNeeds(defaultAxis("vertical-centre", "X"), []).length // 0
 */
export function effectNeeds(config: AxisConfig, effects: readonly Effect[]): readonly JointNeed[] {
  const needs: JointNeed[] = [];
  const done: JointId[] = [];
  for (const e of effects) {
    if (e.kind !== "joint") continue;
    for (const need of reachNeeds(config, e.joint, e.to)) if (!done.includes(need.joint)) needs.push(need);
    done.push(e.joint);
  }
  return needs;
}
