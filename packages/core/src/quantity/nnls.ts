import { BoundError } from "./bound-error";

/**
 * A small dense system’s solution by Gaussian elimination with pivoting; null when singular.
 * @param matrix - rows of a square matrix
 * @param right - right-hand side, one a row
 * @returns the unknowns, or null
 * @example solveLinear([[2, 0], [0, 4]], [2, 2]) // [1, 0.5]
 */
export function solveLinear(matrix: readonly (readonly number[])[], right: readonly number[]): number[] | null {
  const n = right.length;
  const a = matrix.map((row, i) => [...row, right[i]]);
  for (let c = 0; c < n; c += 1) {
    let pivot = c;
    for (let r = c + 1; r < n; r += 1) if (Math.abs(a[r][c]) > Math.abs(a[pivot][c])) pivot = r;
    if (Math.abs(a[pivot][c]) < 1e-12) return null;
    [a[c], a[pivot]] = [a[pivot], a[c]];
    for (let r = 0; r < n; r += 1) {
      if (r === c) continue;
      const factor = a[r][c] / a[c][c];
      for (let k = c; k <= n; k += 1) a[r][k] -= factor * a[c][k];
    }
  }
  return a.map((row, i) => row[n] / row[i]);
}

export interface LeastSquares {
  readonly solution: readonly number[];
  /** Covariance of the solution where weights are 1/u². */
  readonly covariance: readonly (readonly number[])[];
  /** Weighted sum of squared residuals. */
  readonly chiSquared: number;
}

/**
 * Normal equations AᵀWA and AᵀWy.
 * @param rows - the design matrix, a row an observation
 * @param values - what was observed
 * @param weights - weight of each, above 0
 * @returns matrix and right-hand side
 * @example normalEquations([[1], [1]], [1, 3], [1, 1]).right // [4]
 */
export function normalEquations(
  rows: readonly (readonly number[])[],
  values: readonly number[],
  weights: readonly number[],
): { matrix: number[][]; right: number[] } {
  const n = rows[0]?.length ?? 0;
  const matrix = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  const right = new Array<number>(n).fill(0);
  rows.forEach((row, r) => {
    for (let i = 0; i < n; i += 1) {
      if (row[i] === 0) continue;
      right[i] += weights[r] * row[i] * values[r];
      for (let k = 0; k < n; k += 1) matrix[i][k] += weights[r] * row[i] * row[k];
    }
  });
  return { matrix, right };
}

/**
 * Weighted least squares with non-negative unknowns (Lawson & Hanson 1974, chapter 23, on the normal
 * equations: the systems here have a handful of unknowns).
 * @param rows - the design matrix, a row an observation
 * @param values - what was observed
 * @param weights - weight of each, above 0
 * @returns the unknowns, their covariance, and the weighted sum of squares
 * @throws BoundError when a weight is not positive
 * @example nonNegativeLeastSquares([[1], [1]], [1, 3], [1, 1]).solution // [2]
 */
export function nonNegativeLeastSquares(
  rows: readonly (readonly number[])[],
  values: readonly number[],
  weights: readonly number[],
): LeastSquares {
  for (const w of weights) if (!(w > 0)) throw new BoundError("weight", w, "above 0");
  const { matrix, right } = normalEquations(rows, values, weights);
  const n = right.length;
  const passive = new Set<number>();
  let x = new Array<number>(n).fill(0);
  for (let round = 0; round < 10 * (n + 1); round += 1) {
    const gradient = right.map((b, i) => b - matrix[i].reduce((s, m, k) => s + m * x[k], 0));
    let enter = -1;
    for (let i = 0; i < n; i += 1)
      if (
        !passive.has(i) &&
        gradient[i] > 1e-9 * Math.abs(right[i]) + 1e-15 &&
        (enter < 0 || gradient[i] > gradient[enter])
      )
        enter = i;
    if (enter < 0) break;
    passive.add(enter);
    for (;;) {
      const z = solvePassive(matrix, right, passive);
      const below = [...passive].filter((i) => z[i] <= 0);
      if (below.length === 0) {
        x = z;
        break;
      }
      const step = Math.min(...below.map((i) => x[i] / (x[i] - z[i])));
      x = x.map((v, i) => v + step * (z[i] - v));
      for (const i of below) if (x[i] <= 1e-15) passive.delete(i);
      for (const i of [...passive]) if (x[i] <= 1e-15) passive.delete(i);
      x = x.map((v, i) => (passive.has(i) ? v : 0));
      if (passive.size === 0) break;
    }
  }
  return {
    solution: x,
    covariance: covarianceOf(matrix),
    chiSquared: rows.reduce((sum, row, r) => {
      const miss = values[r] - row.reduce((s, a, i) => s + a * x[i], 0);
      return sum + weights[r] * miss * miss;
    }, 0),
  };
}

function solvePassive(
  matrix: readonly (readonly number[])[],
  right: readonly number[],
  passive: ReadonlySet<number>,
): number[] {
  const free = [...passive].sort((a, b) => a - b);
  const part = solveLinear(
    free.map((i) => free.map((k) => matrix[i][k])),
    free.map((i) => right[i]),
  );
  const z = right.map(() => 0);
  if (part) free.forEach((i, k) => (z[i] = part[k]));
  return z;
}

function covarianceOf(matrix: readonly (readonly number[])[]): number[][] {
  const n = matrix.length;
  const columns = matrix.map((_, c) =>
    solveLinear(
      matrix,
      matrix.map((__, i) => (i === c ? 1 : 0)),
    ),
  );
  return matrix.map((_, i) => Array.from({ length: n }, (__, k) => columns[k]?.[i] ?? Infinity));
}
