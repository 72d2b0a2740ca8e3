import { requireBound } from "../../quantity";
import { rootArea, STEEL_ALPHA, STEEL_E } from "./steel";

export interface StiffScrew {
  readonly rootMm: number;
  /** Between the bearings that hold it along its axis, mm. */
  readonly lengthMm: number;
  readonly bothEndsFixed: boolean;
}

/**
 * Axial stiffness of a screw with the nut `atMm` from the fixed end, N/mm: E·A/x one end fixed,
 * E·A·L/(x(L − x)) both ends, whose least is 4EA/L in the middle.
 * @param screw - root and length, mm, and whether both ends are fixed
 * @param atMm - nut from the fixed end, mm
 * @returns stiffness, N/mm
 * @example screwStiffness({ rootMm: 28, lengthMm: 1000, bothEndsFixed: false }, 500) // 253690
 */
export function screwStiffness(screw: StiffScrew, atMm: number): number {
  const { rootMm, lengthMm, bothEndsFixed } = screw;
  requireBound({ "place of the nut": atMm }, atMm > 0 && atMm <= lengthMm, `above 0 and up to ${lengthMm} mm`);
  const ea = STEEL_E * rootArea(rootMm);
  if (!bothEndsFixed) return ea / atMm;
  return atMm === lengthMm ? Infinity : (ea * lengthMm) / (atMm * (lengthMm - atMm));
}

/**
 * Springs in a row: 1/k = Σ 1/kᵢ.
 * @param stiffnesses - stiffness of each spring, in one unit
 * @returns stiffness of the row, in the same unit
 * @example inSeries([2, 2]) // 1
 */
export function inSeries(stiffnesses: readonly number[]): number {
  return 1 / stiffnesses.reduce((sum, k) => sum + 1 / k, 0);
}

/**
 * Growth of a screw, mm: α·L·ΔT.
 * @param lengthMm - length, mm
 * @param stepK - temperature step, K
 * @returns growth, mm
 * @example thermalGrowth(1000, 5) // 0.0585
 */
export function thermalGrowth(lengthMm: number, stepK: number): number {
  return STEEL_ALPHA * lengthMm * stepK;
}

/**
 * Pull that stretches a screw by what `stepK` would grow it, N: α·ΔT·E·A.
 * @param rootMm - root diameter, mm
 * @param stepK - temperature step, K
 * @returns pull, N
 * @example pretension(28, 3) // 4452.3
 */
export function pretension(rootMm: number, stepK: number): number {
  return STEEL_ALPHA * stepK * STEEL_E * rootArea(rootMm);
}
