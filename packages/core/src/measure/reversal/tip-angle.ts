import { requireBound } from "../../quantity";

/** Above this the correction is large enough that a wrong guess of the angle matters. */
export const TIP_ANGLE_WARNING_DEG = 15;

/**
 * What a reading is multiplied by for a tip at `angleDeg` to the surface (lever) or a plunger at
 * that angle to the movement: cos φ.
 * Published correction tables: 10° 0.985, 20° 0.940, 30° 0.866, 45° 0.707.
 * @param angleDeg - angle, degrees
 * @returns 0 to 1
 * @throws BoundError for angles below 0° or of 80° and more
 * @example tipAngleFactor(20) // 0.9397
 */
export function tipAngleFactor(angleDeg: number): number {
  requireBound({ "tip angle": angleDeg }, angleDeg >= 0 && angleDeg < 80, "from 0° to below 80°");
  return Math.cos((angleDeg * Math.PI) / 180);
}
