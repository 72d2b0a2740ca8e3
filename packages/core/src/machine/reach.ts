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
import { jointAt, type AxisState, type Effect } from "./state";

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

/** A block with grub screws sits beside the motor: its nut and lock are reached with the motor on. */
function openAir(config: AxisConfig, joint: JointId): boolean {
  return (
    config.mechanics.fixedEnd === "pillow-block" &&
    (joint === "motor" || joint === "hub-screw" || joint === "bumper")
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
  const has = jointsOf(config);
  const needs: JointNeed[] = [];
  for (const row of REACH_ROWS) {
    if (row.joint !== joint || !row.to.includes(to)) continue;
    if (row.only && !FITS[row.only](config)) continue;
    for (const side of ["open", "shut"] as const)
      for (const [other, at] of Object.entries(row[side] ?? {}) as [
        JointId,
        JointState,
      ][]) {
        if (!has.includes(other)) continue;
        if (
          side === "open" &&
          openAir(config, other) &&
          (joint === "bearing-nut" || joint === "nut-lock")
        )
          continue;
        needs.push({ joint: other, at, side });
      }
  }
  return needs;
}

export function meets(state: AxisState, need: JointNeed): boolean {
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
