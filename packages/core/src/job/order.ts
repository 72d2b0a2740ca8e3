import type { AxisConfig } from "../axis";
import { STEP_ORDER, UNDER_TABLE } from "./order.table";
import { PHASES, type StepKind } from "./step-kind";

const RANK = new Map(STEP_ORDER.map((id, i) => [id, i]));
const ALIGNED_FROM = (RANK.get("light-tight") ?? 0) - 1;

/**
 * Where a step stands in the order of one axis: its phase, then its place in the trade.
 * @throws Error for a step that has no place
 */
export function placeOf(config: AxisConfig, kind: StepKind): number {
  const phase = PHASES.indexOf(kind.phase) * 1000;
  const under = config.mechanics.tableOverNut
    ? UNDER_TABLE.indexOf(kind.id)
    : -1;
  if (under >= 0) return phase + ALIGNED_FROM + 0.1 * (under + 1);
  const rank = RANK.get(kind.id);
  if (rank === undefined)
    throw new Error(`${kind.id} has no place in the order`);
  return phase + rank;
}
