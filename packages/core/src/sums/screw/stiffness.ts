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
 */
export function screwStiffness(screw: StiffScrew, atMm: number): number {
  const { rootMm, lengthMm, bothEndsFixed } = screw;
  requireBound("place of the nut", atMm, atMm > 0 && atMm <= lengthMm, `above 0 and up to ${lengthMm} mm`);
  const ea = STEEL_E * rootArea(rootMm);
  if (!bothEndsFixed) return ea / atMm;
  return atMm === lengthMm ? Infinity : (ea * lengthMm) / (atMm * (lengthMm - atMm));
}

/** Springs in a row: 1/k = Σ 1/kᵢ. */
export function inSeries(stiffnesses: readonly number[]): number {
  return 1 / stiffnesses.reduce((sum, k) => sum + 1 / k, 0);
}

/**
 * Growth of a screw, mm: α·L·ΔT.
 * @example thermalGrowth(1000, 5) // 0.0585
 */
export function thermalGrowth(lengthMm: number, stepK: number): number {
  return STEEL_ALPHA * lengthMm * stepK;
}

/** Pull that stretches a screw by what `stepK` would grow it, N: α·ΔT·E·A. */
export function pretension(rootMm: number, stepK: number): number {
  return STEEL_ALPHA * stepK * STEEL_E * rootArea(rootMm);
}
