import { erf } from "simple-statistics";

/** Standard normal distribution function. */
export function normalCdf(z: number): number {
  return 0.5 * (1 + erf(z / Math.SQRT2));
}
