import { erf } from "simple-statistics";

/**
 * Standard normal distribution function.
 * @param z - standard deviations from the mean
 * @returns 0 to 1
 * @example normalCdf(1.96) // 0.975
 */
export function normalCdf(z: number): number {
  return 0.5 * (1 + erf(z / Math.SQRT2));
}
