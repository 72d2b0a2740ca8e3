import type { AxisConfig } from "../axis";
import {
  isBelted,
  isCoupled,
  jointsOf,
  openness,
  screwTurns,
  type JointId,
  type JointState,
} from "./joints";
import { REACH_ROWS, type ReachRow } from "./reach.table";
import { jointAt, type MechanismState, type Effect } from "./state";

/** A joint that must stand at least (`open`) or at most (`shut`) so far undone. */
export interface JointNeed {
  readonly joint: JointId;
  readonly at: JointState;
  readonly side: "open" | "shut";
}

const FITS: Record<
  NonNullable<ReachRow["only"]>,
  (config: AxisConfig) => boolean
> = {
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
 */
export function reachNeeds(
  config: AxisConfig,
  joint: JointId,
  to: JointState,
): readonly JointNeed[] {
  let table = TABLES.get(config);
  if (!table) {
    table = tableOf(config);
    TABLES.set(config, table);
  }
  return table.get(`${joint}:${to}`) ?? NOTHING;
}

const NOTHING: readonly JointNeed[] = [];
type NeedTable = ReadonlyMap<string, readonly JointNeed[]>;
/** Asked for in every state of every sheet. */
const TABLES = new WeakMap<AxisConfig, NeedTable>();

function tableOf(config: AxisConfig): NeedTable {
  const has = new Set(jointsOf(config));
  const table = new Map<string, JointNeed[]>();
  for (const row of REACH_ROWS) {
    if (!has.has(row.joint) || (row.only && !FITS[row.only](config))) continue;
    const needs = (["open", "shut"] as const).flatMap((side) =>
      (Object.entries(row[side] ?? {}) as [JointId, JointState][]).flatMap(
        ([joint, at]) =>
          has.has(joint) && !(side === "open" && besideIt(config, row, joint))
            ? [{ joint, at, side }]
            : [],
      ),
    );
    for (const to of row.to) {
      const key = `${row.joint}:${to}`;
      table.set(key, [...(table.get(key) ?? []), ...needs]);
    }
  }
  return table;
}

export function meets(state: MechanismState, need: JointNeed): boolean {
  const now = openness(jointAt(state, need.joint));
  return need.side === "open"
    ? now >= openness(need.at)
    : now <= openness(need.at);
}

/** Needs of a step’s effects on joints; what the step itself has done before counts. */
export function effectNeeds(
  config: AxisConfig,
  effects: readonly Effect[],
): readonly JointNeed[] {
  const done = new Set<JointId>();
  return effects.flatMap((e) => {
    if (e.kind !== "joint") return [];
    const needs = reachNeeds(config, e.joint, e.to).filter(
      (n) => !done.has(n.joint),
    );
    done.add(e.joint);
    return needs;
  });
}
