import { requireBound } from "../../quantity";

/** Efficiency by kind of thread: ball screws 0.9, plain threads 0.4 to 0.5 (common practice, no source). */
export const EFFICIENCY = { ball: 0.9, plain: 0.45 } as const;

/**
 * Torque that lifts or pushes an axial force, N·m: T = F·l/(2πη).
 * @param options - force, N, lead, mm, and efficiency, above 0 and up to 1
 * @returns torque, N·m
 * @example driveTorque({ forceN: 5000, leadMm: 10, efficiency: 0.9 }) // 8.84
 */
export function driveTorque(options: {
  readonly forceN: number;
  readonly leadMm: number;
  readonly efficiency: number;
}): number {
  const { forceN, leadMm, efficiency } = options;
  requireBound({ efficiency }, efficiency > 0 && efficiency <= 1, "above 0 and up to 1");
  return (forceN * leadMm) / (2 * Math.PI * efficiency) / 1000;
}

/**
 * Torque with which the load turns the screw back, N·m: T = F·l·η′/2π, η′ = 2 − 1/η
 * (the same friction, power flowing the other way). Zero or below: the thread holds by itself.
 * @param options - force, N, lead, mm, and efficiency, above 0 and up to 1
 * @returns torque, N·m
 * @example backDriveTorque({ forceN: 5000, leadMm: 10, efficiency: 0.9 }) // 7.0736
 */
export function backDriveTorque(options: {
  readonly forceN: number;
  readonly leadMm: number;
  readonly efficiency: number;
}): number {
  const { forceN, leadMm, efficiency } = options;
  requireBound({ efficiency }, efficiency > 0 && efficiency <= 1, "above 0 and up to 1");
  return (forceN * leadMm * (2 - 1 / efficiency)) / (2 * Math.PI) / 1000;
}
