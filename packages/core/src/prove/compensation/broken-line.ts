import { requireBound } from "../../quantity";

/** Weight of bending against the readings: so little that readings are followed, enough to bridge where none are. */
const BENDING = 1e-6;

export interface LinePoint {
  readonly atMm: number;
  readonly valueMm: number;
}

/**
 * The straightest broken line with corners at equal steps that goes through what was read: least squares of hat functions,
 * with the least bending where readings do not decide (de Boor, A Practical Guide to Splines, ch. 14: smoothing; from
 * memory).
 * @param read - values at places, mm
 * @param corners - first corner and step, mm, and how many
 * @returns value at each corner, mm
 * @throws BoundError with fewer than 2 readings or corners
 * @example
 * brokenLine([{ atMm: 0, valueMm: 0 }, { atMm: 100, valueMm: 0.01 }], { startMm: 0, stepMm: 50, points: 3 })[1].toFixed(4)
 * // "0.0050"
 */
export function brokenLine(
  read: readonly LinePoint[],
  corners: { readonly startMm: number; readonly stepMm: number; readonly points: number },
): readonly number[] {
  const { startMm, stepMm, points } = corners;
  requireBound({ "number of readings": read.length }, read.length >= 2, "at least 2");
  requireBound({ "number of points": points }, points >= 2, "at least 2");
  // Symmetric, two diagonals beside the main one.
  const band = [0, 1, 2].map(() => new Float64Array(points));
  const right = new Float64Array(points);
  for (const { atMm, valueMm } of read) {
    const place = (atMm - startMm) / stepMm;
    const i = Math.min(Math.max(Math.floor(place), 0), points - 2);
    // Readings beyond the corners bear on the line that leads to them.
    const [a, b] = [1 - (place - i), place - i];
    band[0][i] += a * a;
    band[0][i + 1] += b * b;
    band[1][i] += a * b;
    right[i] += a * valueMm;
    right[i + 1] += b * valueMm;
  }
  const bend = [1, -2, 1];
  for (let i = 0; i + 2 < points; i += 1)
    for (let r = 0; r < 3; r += 1) for (let c = r; c < 3; c += 1) band[c - r][i + r] += BENDING * bend[r] * bend[c];
  return solveBand(band, right);
}

/** Banded Cholesky (Golub and Van Loan, Matrix Computations, 4.3.5, from memory). */
function solveBand(band: readonly Float64Array[], right: Float64Array): readonly number[] {
  const n = right.length;
  const [d, e, f] = band;
  for (let i = 0; i < n; i += 1) {
    if (i >= 1) {
      if (i >= 2) {
        d[i] -= f[i - 2] * f[i - 2];
        e[i - 1] -= e[i - 2] * f[i - 2];
      }
      e[i - 1] /= d[i - 1];
      d[i] -= e[i - 1] * e[i - 1];
    }
    d[i] = Math.sqrt(Math.max(d[i], 1e-12));
    if (i + 2 < n) f[i] /= d[i];
  }
  const x = Array.from(right);
  for (let i = 0; i < n; i += 1) {
    if (i >= 1) x[i] -= e[i - 1] * x[i - 1];
    if (i >= 2) x[i] -= f[i - 2] * x[i - 2];
    x[i] /= d[i];
  }
  for (let i = n - 1; i >= 0; i -= 1) {
    if (i + 1 < n) x[i] -= e[i] * x[i + 1];
    if (i + 2 < n) x[i] -= f[i] * x[i + 2];
    x[i] /= d[i];
  }
  return x;
}

/**
 * A broken line between its corners; straight on beyond them.
 * @param values - at the corners, mm
 * @param corners - first corner and step, mm
 * @param atMm - place, mm
 * @returns mm
 * @example onBrokenLine([0, 0.01], { startMm: 0, stepMm: 50 }, 25) // 0.005
 */
export function onBrokenLine(
  values: readonly number[],
  { startMm, stepMm }: { readonly startMm: number; readonly stepMm: number },
  atMm: number,
): number {
  const place = (atMm - startMm) / stepMm;
  const i = Math.min(Math.max(Math.floor(place), 0), values.length - 2);
  return values[i] + (place - i) * (values[i + 1] - values[i]);
}
