import { requireBound } from "../../quantity";

/** A part of the duty: axial force, screw speed and its share of the time. */
export interface DutyRow {
  readonly forceN: number;
  readonly speedPerMin: number;
  readonly share: number;
}

export interface ScrewLife {
  /** Cubic mean force, N. */
  readonly meanForceN: number;
  readonly meanSpeedPerMin: number;
  readonly revolutions: number;
  readonly hours: number;
}

/**
 * Cubic mean load and life of a ball screw: F_m³ = Σ F³·n·t / Σ n·t, L₁₀ = (C/F_m)³·10⁶ rev
 * (ISO 3408-5).
 * @param ratingN - dynamic load rating, N
 * @param duty - force, N, speed, min⁻¹, and share of the time of each part
 * @returns mean load, N, mean speed, revolutions and hours
 * @throws BoundError when there is no duty or no dynamic load rating
 * @example screwLife(30_000, [{ forceN: 3000, speedPerMin: 500, share: 1 }]).revolutions // 1000000000
 */
export function screwLife(ratingN: number, duty: readonly DutyRow[]): ScrewLife {
  requireBound({ "dynamic load rating": ratingN }, ratingN > 0, "above 0 N");
  const time = duty.reduce((sum, d) => sum + d.share, 0);
  requireBound({ "share of the time": time }, time > 0, "above 0");
  const turns = duty.reduce((sum, d) => sum + d.speedPerMin * d.share, 0);
  requireBound({ speed: turns }, turns > 0, "above 0 min⁻¹ somewhere");
  const cubes = duty.reduce((sum, d) => sum + Math.abs(d.forceN) ** 3 * d.speedPerMin * d.share, 0);
  const meanForceN = Math.cbrt(cubes / turns);
  const meanSpeedPerMin = turns / time;
  const revolutions = (ratingN / meanForceN) ** 3 * 1e6;
  return {
    meanForceN,
    meanSpeedPerMin,
    revolutions,
    hours: revolutions / (60 * meanSpeedPerMin),
  };
}
