import { conformity, type Conformity, type ConformityLimits } from "../../quantity";
import type { Slope } from "./levels";

/** Slope and twist of a bed, mm for a metre (common practice, no source: the maker’s foundation sheet decides). */
export const USUAL_LEVEL_LIMITS: ConformityLimits = { leaveMm: 0.02, repairMm: 0.05 };

/**
 * Judges a slope or a twist of a bed by the one decision rule.
 * @param slope - value and U, mm for a metre
 * @param limits - mm for a metre
 * @returns a code with values
 * @example judgeLevel({ value: 0.1, u: 0.01 }, USUAL_LEVEL_LIMITS).code // 'act'
 */
export function judgeLevel(slope: Slope, limits: ConformityLimits): Conformity {
  return conformity({ reversalValueMm: slope.value, expandedMm: slope.u }, limits);
}

/**
 * Has it moved from one time to the next?
 * @param earlier - slope then
 * @param later - slope now
 * @returns the change with U, and whether it is more than chance
 * @example levelMoved({ value: 0.01, u: 0.004 }, { value: 0.03, u: 0.004 }).moved // true
 */
export function levelMoved(
  earlier: Slope,
  later: Slope,
): { readonly by: number; readonly u: number; readonly moved: boolean } {
  const by = later.value - earlier.value;
  const u = Math.hypot(earlier.u, later.u);
  return { by, u, moved: Math.abs(by) > u };
}
