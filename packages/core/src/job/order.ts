import type { AxisConfig } from "../machine/axis";
import { STEP_ORDER, UNDER_TABLE } from "./order.table";
import { PHASES, type StepKind } from "./step-kind";

const RANK = new Map(STEP_ORDER.map((id, i) => [id, i]));
const ALIGNED_FROM = (RANK.get("light-tight") ?? 0) - 1;
const RANK_UNDER_TABLE = new Map([...RANK, ...UNDER_TABLE.map((id, i) => [id, ALIGNED_FROM + 0.1 * (i + 1)] as const)]);
const PHASE = new Map(PHASES.map((phase, i) => [phase, 1000 * i]));

/**
 * Where a step stands in the order of one axis: its phase, then its place in the trade.
 * @param config - the axis’ configuration
 * @param kind - the step
 * @returns a number that rises along the order
 * @throws Error for a step that has no place
 * @example placeOf(defaultAxis("vertical-centre", "X"), stepKind("measure-before")) >= 0 // true
 */
export function placeOf(config: AxisConfig, kind: StepKind): number {
  const ranks = config.mechanics.tableOverNut ? RANK_UNDER_TABLE : RANK;
  const rank = ranks.get(kind.id);
  if (rank === undefined) throw new Error(`${kind.id} has no place in the order`);
  return (PHASE.get(kind.phase) ?? 0) + rank;
}
