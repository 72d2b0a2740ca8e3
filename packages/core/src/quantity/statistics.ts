import { requireBound } from "./bound-error";
import { studentQuantile } from "./student-t";

/**
 * Arithmetic mean. Throws when there is nothing to average.
 * @param values - at least one number
 * @returns their mean, in their unit
 * @example mean([1, 2, 6]) // 3
 */
export function mean(values: readonly number[]): number {
  requireBound({ "number of values": values.length }, values.length > 0, "at least 1");
  let sum = 0;
  for (const v of values) sum += v;
  return sum / values.length;
}

/**
 * Sample standard deviation (n − 1). Zero degrees of freedom give NaN, not zero.
 * @param values - any numbers
 * @returns s in their unit, NaN below two
 * @example sampleDeviation([1, 2, 3]) // 1
 */
export function sampleDeviation(values: readonly number[]): number {
  const n = values.length;
  if (n < 2) return NaN;
  const centre = mean(values);
  let squares = 0;
  for (const v of values) squares += (v - centre) ** 2;
  return Math.sqrt(squares / (n - 1));
}

/**
 * The two-sided Grubbs critical value for `n` readings.
 * Source: Grubbs & Beck 1972, as tabled in ISO 5725-2 (from memory): G = (n − 1)/√n·√(t²/(n − 2 + t²))
 * with Student’s t at α/(2n). The table’s values are the test’s outside check.
 * @param n - number of readings, 3 or more
 * @param alpha - chance of pointing at something in clean readings; 5 % unless several groups share it
 * @returns the largest |v − mean|/s that clean readings show, or undefined below three readings
 * @example grubbsCritical(5) // 1.715
 */
export function grubbsCritical(n: number, alpha = 0.05): number | undefined {
  if (n < 3) return undefined;
  const t = studentQuantile(alpha / n, n - 2);
  return ((n - 1) / Math.sqrt(n)) * Math.sqrt((t * t) / (n - 2 + t * t));
}

/**
 * Index of the reading that Grubbs' test points at, or undefined.
 * Readings that all lie within two steps of `resolution` are never called outliers: their spread is the display's.
 * @param values - the readings
 * @param resolution - step of the display, in their unit
 * @param alpha - chance of pointing at something in clean readings of this group
 * @returns its index, or undefined
 * @example grubbsOutlier([1, 1.1, 0.9, 1, 5]) // 4
 */
export function grubbsOutlier(values: readonly number[], resolution = 0, alpha = 0.05): number | undefined {
  const critical = grubbsCritical(values.length, alpha);
  if (critical === undefined) return undefined;
  const centre = mean(values);
  const s = sampleDeviation(values);
  let worst = 0;
  values.forEach((v, i) => {
    if (Math.abs(v - centre) > Math.abs(values[worst] - centre)) worst = i;
  });
  const distance = Math.abs(values[worst] - centre);
  return s > 0 && distance > 2 * resolution && distance / s > critical ? worst : undefined;
}
