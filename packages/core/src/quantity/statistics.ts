import { requireBound } from "./bound-error";

/** Arithmetic mean. Throws when there is nothing to average. */
export function mean(values: readonly number[]): number {
  requireBound(
    "number of values",
    values.length,
    values.length > 0,
    "at least 1",
  );
  let sum = 0;
  for (const v of values) sum += v;
  return sum / values.length;
}

/** Sample standard deviation (n − 1). Zero degrees of freedom give NaN, not zero. */
export function sampleDeviation(values: readonly number[]): number {
  const n = values.length;
  if (n < 2) return NaN;
  const centre = mean(values);
  let squares = 0;
  for (const v of values) squares += (v - centre) ** 2;
  return Math.sqrt(squares / (n - 1));
}

/**
 * Two-sided Grubbs critical values at 5 % for n = 3 … 20.
 * Source: Grubbs & Beck 1972, as tabled in ISO 5725-2 (from memory); the test recomputes them from
 * Student's t.
 */
const GRUBBS_5_PERCENT: readonly number[] = [
  1.1543, 1.4812, 1.715, 1.8871, 2.02, 2.1266, 2.215, 2.29, 2.3547, 2.4116,
  2.462, 2.5073, 2.5483, 2.5857, 2.62, 2.6516, 2.6809, 2.7082,
];

/** The Grubbs critical value for `n` readings, or undefined where the table ends. */
export function grubbsCritical(n: number): number | undefined {
  return GRUBBS_5_PERCENT[n - 3];
}

/**
 * Index of the reading that Grubbs' test points at, or undefined.
 * Readings that all lie within `resolution` are never called outliers: their spread is the display's.
 */
export function grubbsOutlier(
  values: readonly number[],
  resolution = 0,
): number | undefined {
  const critical = grubbsCritical(values.length);
  if (critical === undefined) return undefined;
  const centre = mean(values);
  const s = sampleDeviation(values);
  let worst = 0;
  values.forEach((v, i) => {
    if (Math.abs(v - centre) > Math.abs(values[worst] - centre)) worst = i;
  });
  const distance = Math.abs(values[worst] - centre);
  return s > 0 && distance > 2 * resolution && distance / s > critical
    ? worst
    : undefined;
}
