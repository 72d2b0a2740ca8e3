import { gammaln } from "simple-statistics";
import { requireBound } from "./bound-error";

/** Continued fraction of the incomplete beta function (Lentz’s method; Abramowitz & Stegun 26.5.8). */
function betaFraction(a: number, b: number, x: number): number {
  const tiny = 1e-300;
  const safe = (v: number): number => (Math.abs(v) < tiny ? tiny : v);
  let c = 1;
  let d = 1 / safe(1 - ((a + b) * x) / (a + 1));
  let h = d;
  for (let m = 1; m <= 300; m += 1) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / safe(1 + even * d);
    c = safe(1 + even / c);
    h *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / safe(1 + odd * d);
    c = safe(1 + odd / c);
    h *= d * c;
    if (Math.abs(d * c - 1) < 1e-15) break;
  }
  return h;
}

/** Regularised incomplete beta function I_x(a, b). */
function incompleteBeta(a: number, b: number, x: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(gammaln(a + b) - gammaln(a) - gammaln(b) + a * Math.log(x) + b * Math.log1p(-x));
  return x < (a + 1) / (a + b + 2) ? (front * betaFraction(a, b, x)) / a : 1 - (front * betaFraction(b, a, 1 - x)) / b;
}

/**
 * Probability that |T| exceeds `t` for Student’s distribution, both tails together.
 * Source: I_x(ν/2, ½) at x = ν/(ν + t²), Abramowitz & Stegun 26.7.1. Checked against jStat.
 * @param t - zero or more
 * @param dof - degrees of freedom, above 0, whole or not
 * @returns probability, 0 to 1
 * @throws BoundError when t or dof lies outside
 * @example studentExceeded(12.706, 1) // 0.05
 */
export function studentExceeded(t: number, dof: number): number {
  requireBound({ t }, t >= 0, "zero or more");
  requireBound({ "degrees of freedom": dof }, dof > 0, "above 0");
  return incompleteBeta(dof / 2, 0.5, dof / (dof + t * t));
}

/** The same few quantiles are asked for at every place of a profile. */
const found = new Map<string, number>();
const MOST_KEPT = 1000;

/**
 * The t that |T| exceeds with probability `alpha`, both tails together.
 * Source: inverse of {@link studentExceeded} by halving. Checked against jStat and GUM table G.2.
 * @param alpha - above 0 and below 1
 * @param dof - degrees of freedom, 1 or more; above a million the normal distribution’s
 * @returns t
 * @throws BoundError when alpha or dof lies outside
 * @example studentQuantile(0.05, 4) // 2.776
 */
export function studentQuantile(alpha: number, dof: number): number {
  requireBound({ alpha }, alpha > 0 && alpha < 1, "above 0 and below 1");
  const nu = Math.min(dof, 1e6);
  requireBound({ "degrees of freedom": nu }, nu >= 1, "1 or more");
  const key = `${alpha} ${nu}`;
  const there = found.get(key);
  if (there !== undefined) return there;
  let low = 0;
  let high = 1;
  while (studentExceeded(high, nu) > alpha && high < 1e12) {
    low = high;
    high *= 2;
  }
  for (let i = 0; i < 100 && high - low > 1e-12 * high; i += 1) {
    const middle = (low + high) / 2;
    if (studentExceeded(middle, nu) > alpha) low = middle;
    else high = middle;
  }
  const t = (low + high) / 2;
  if (found.size >= MOST_KEPT) found.clear();
  found.set(key, t);
  return t;
}
