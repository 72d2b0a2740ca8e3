import { gammaln } from "simple-statistics";
import { requireBound } from "./bound-error";

/**
 * Probability that a χ² variable with `dof` degrees of freedom exceeds `value`: the regularised upper
 * incomplete gamma function Q(dof/2, value/2), by its series or continued fraction (as in numerical
 * handbooks, e.g. Abramowitz & Stegun 6.5).
 * @param value - zero or more
 * @param dof - degrees of freedom, above 0
 * @returns probability, 0 to 1
 * @example chiSquaredExceeded(3.841, 1) // 0.05
 */
export function chiSquaredExceeded(value: number, dof: number): number {
  requireBound({ "degrees of freedom": dof }, dof > 0, "above 0");
  requireBound({ "chi squared": value }, value >= 0, "zero or more");
  const a = dof / 2;
  const x = value / 2;
  if (x === 0) return 1;
  const front = Math.exp(a * Math.log(x) - x - gammaln(a));
  if (x < a + 1) {
    let term = 1 / a;
    let sum = term;
    for (let n = 1; n < 500 && term > sum * 1e-15; n += 1) {
      term *= x / (a + n);
      sum += term;
    }
    return Math.max(0, 1 - front * sum);
  }
  let b = x + 1 - a;
  let c = 1e300;
  let d = 1 / b;
  let h = d;
  for (let i = 1; i < 500; i += 1) {
    const an = -i * (i - a);
    b += 2;
    d = 1 / (an * d + b);
    c = b + an / c;
    h *= d * c;
    if (Math.abs(d * c - 1) < 1e-15) break;
  }
  return front * h;
}
