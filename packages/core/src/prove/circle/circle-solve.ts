import { CholeskyDecomposition, EigenvalueDecomposition, inverse, Matrix } from "ml-matrix";
import { BoundError } from "../../quantity";
import { CircleModel, readingsOf, type CirclePart, type TurnShape } from "./circle-model";
import { isFullCircle, type CircleSetup, type CircleTrace } from "./circle-trace";

/** Fewer readings than this of one way round show no more than what goes slowly. */
const SPARSE = 100;
const FINE: readonly CirclePart[] = [
  "spike-1",
  "spike-2",
  "ripple-sin-1",
  "ripple-cos-1",
  "ripple-sin-2",
  "ripple-cos-2",
  "lost-slope-1",
  "lost-slope-2",
];
/** Smallest eigenvalue of the scaled normal matrix that still is one. */
const SINGULAR = 1e-7;

interface Normal {
  readonly matrix: Matrix;
  readonly right: Float64Array;
  /** Sum of the squares of the readings. */
  readonly all: number;
}

export interface Solved {
  readonly model: CircleModel;
  readonly normal: Normal;
  readonly values: Float64Array;
  /** Makes columns of one size: mm, rad and s stand beside each other. */
  readonly scale: readonly number[];
  /** Inverse of the scaled normal matrix. */
  readonly bread: Matrix;
  readonly squares: number;
}

/** Readings whose rows are worked out together: their columns lie one behind the other, and stay in the cache. */
const BLOCK = 512;

/** Sums of the model’s columns and of the readings with them. */
function normalOf(traces: readonly CircleTrace[], model: CircleModel): Normal {
  const n = model.parts.length;
  const row = new Float64Array(n);
  // The readings stand as one column more behind those of the parts.
  const width = n + 1;
  const columns = Array.from({ length: width }, () => new Float64Array(BLOCK));
  const sums = new Float64Array(width * width);
  for (const { direction, angles, deviations } of traces)
    for (let from = 0; from < angles.length; from += BLOCK) {
      const length = Math.min(BLOCK, angles.length - from);
      for (let i = 0; i < length; i += 1) {
        model.fill(row, angles[from + i], direction);
        for (let k = 0; k < n; k += 1) columns[k][i] = row[k];
        columns[n][i] = deviations[from + i];
      }
      addProducts(sums, columns, length);
    }
  const matrix = Matrix.zeros(n, n);
  for (let a = 0; a < n; a += 1)
    for (let b = a; b < n; b += 1) matrix.set(a, b, sums[a * width + b]).set(b, a, sums[a * width + b]);
  const right = Float64Array.from({ length: n }, (_, a) => sums[a * width + n]);
  return { matrix, right, all: sums[n * width + n] };
}

/** Products of every column with itself and those behind it, added to the upper half of a square of sums. */
function addProducts(sums: Float64Array, columns: readonly Float64Array[], length: number): void {
  const width = columns.length;
  for (let a = 0; a < width; a += 1) {
    const first = columns[a];
    for (let b = a; b < width; b += 1) {
      const second = columns[b];
      let sum = 0;
      for (let i = 0; i < length; i += 1) sum += first[i] * second[i];
      sums[a * width + b] += sum;
    }
  }
}

const scaleOf = (matrix: Matrix): number[] => matrix.diagonal().map((d) => 1 / Math.sqrt(d || 1));

/** A matrix with its rows and columns made larger. */
const scaledBy = (matrix: Matrix, scale: readonly number[]): Matrix => {
  const n = scale.length;
  return Matrix.from1DArray(
    n,
    n,
    matrix.to1DArray().map((v, k) => v * (scale[Math.floor(k / n)] * scale[k % n])),
  );
};

/**
 * Linear least squares of a model by its normal equations, their columns brought to one size first.
 * @param traces - both directions, or one
 * @param model - what it is made of
 * @returns values of the parts, and what is needed for their covariance
 * @throws BoundError where the readings do not tell the parts apart
 * @example
 * const angles = Float64Array.from({ length: 720 }, (_, i) => (i * Math.PI) / 360);
 * const traces = [1, -1].map((direction) => ({ direction, angles, deviations: angles.map((a) => 0.003 * Math.sin(2 * a)) }));
 * const setup = { radiusMm: 100, feedMmMin: 1000, centreMm: [0, 0], axes: [{ letter: "X", perTurnMm: null }, { letter: "Y", perTurnMm: null }] };
 * const from = { lossMm: [0, 0], spikeMm: [0, 0], decayMm: [2, 2], lagMm: 0 };
 * solveFor(traces, new CircleModel(setup, from)).squares < 1e-9 // true
 */
export function solveFor(traces: readonly CircleTrace[], model: CircleModel): Solved {
  const normal = normalOf(traces, model);
  const { matrix, right, all } = normal;
  const scale = scaleOf(matrix);
  const scaled = scaledBy(matrix, scale);
  const least = Math.min(...new EigenvalueDecomposition(scaled).realEigenvalues);
  if (least < SINGULAR)
    throw new BoundError(
      "what tells the parts of the circle apart",
      least,
      `at least ${SINGULAR}: read more of it, both ways round`,
    );
  const bread = inverse(scaled);
  const column = Matrix.columnVector(Array.from(right, (v, i) => v * scale[i]));
  const values = Float64Array.from(bread.mmul(column).to1DArray(), (v, i) => v * scale[i]);
  const squares = values.reduce((s, v, i) => s - v * right[i], all);
  return { model, normal, values, scale, bread, squares };
}

/**
 * Every so many readings, for what is only to be compared.
 * @param traces - as they were read
 * @param most - about how many are left
 * @returns the same, with so many readings
 * @example thinned([{ direction: 1, angles: new Float64Array(9000), deviations: new Float64Array(9000) }], 3000)[0].angles.length // 3000
 */
export function thinned(traces: readonly CircleTrace[], most: number): readonly CircleTrace[] {
  const every = Math.max(1, Math.floor(readingsOf(traces) / most));
  if (every === 1) return traces;
  const few = (values: Float64Array): Float64Array => values.filter((_, i) => i % every === 0);
  return traces.map((t) => ({ ...t, angles: few(t.angles), deviations: few(t.deviations) }));
}

/**
 * Parts that these traces cannot tell, whatever they read.
 * @param traces - both directions, or one
 * @returns the parts
 * @example untold([{ direction: 1, angles: new Float64Array(9), deviations: new Float64Array(9) }]).includes("servo") // true
 */
export function untold(traces: readonly CircleTrace[]): readonly CirclePart[] {
  // One way round shows no difference between the two; an arc no slope of the loss from one end to the other; readings
  // every few degrees nothing that comes and goes between them.
  const single = new Set(traces.map((t) => t.direction)).size < 2;
  const arc = !traces.every(isFullCircle);
  const sparse = traces.some((t) => t.angles.length < SPARSE);
  return [
    ...(single ? (["servo", "across-1", "across-2", "lost-slope-1", "lost-slope-2"] as const) : []),
    ...(arc ? (["lost-slope-1", "lost-slope-2", "bow-1", "bow-2"] as const) : []),
    ...(sparse ? FINE : []),
  ];
}

/** Values of the parts for a shape that is only tried; null where it tells them not apart. */
function valuesFor(traces: readonly CircleTrace[], model: CircleModel): { values: number[]; squares: number } | null {
  const { matrix, right, all } = normalOf(traces, model);
  const scale = scaleOf(matrix);
  const factors = new CholeskyDecomposition(scaledBy(matrix, scale));
  if (!factors.isPositiveDefinite()) return null;
  const column = Matrix.columnVector(Array.from(right, (v, i) => v * scale[i]));
  const values = factors
    .solve(column)
    .to1DArray()
    .map((v, i) => v * scale[i]);
  return { values, squares: values.reduce((s, v, i) => s - v * right[i], all) };
}

export interface Tried {
  readonly shape: TurnShape;
  readonly squares: number;
}

/**
 * Fits with a length of the spike and a lag, and makes the shape of the turns anew from what comes of it.
 * @param traces - both directions, or one
 * @param setup - what was commanded
 * @param tried - the shape to begin with, the parts that cannot be told, and how often it is made anew
 * @returns the shape, and the sum of squares that is left
 * @example
 * const angles = Float64Array.from({ length: 720 }, (_, i) => (i * Math.PI) / 360);
 * const traces = [1, -1].map((direction) => ({ direction, angles, deviations: angles.map((a) => 0.003 * Math.sin(2 * a)) }));
 * const setup = { radiusMm: 100, feedMmMin: 1000, centreMm: [0, 0], axes: [{ letter: "X", perTurnMm: null }, { letter: "Y", perTurnMm: null }] };
 * const from = { lossMm: [0, 0], spikeMm: [0, 0], decayMm: [2, 2], lagMm: 0 };
 * tryShape(traces, setup, { from, without: [] }).squares < 1e-9 // true
 */
export function tryShape(
  traces: readonly CircleTrace[],
  setup: CircleSetup,
  {
    from,
    without,
    passes = 1,
  }: { readonly from: TurnShape; readonly without: readonly CirclePart[]; readonly passes?: number },
): Tried {
  let shape = from;
  let squares = Infinity;
  for (let pass = 0; pass < passes; pass += 1) {
    const model = new CircleModel(setup, shape, without);
    const found = valuesFor(traces, model);
    if (!found) break;
    const of = (part: CirclePart): number => Math.max(0, found.values[model.parts.indexOf(part)] ?? 0);
    squares = found.squares;
    shape = { ...shape, lossMm: [of("lost-1"), of("lost-2")], spikeMm: [of("spike-1"), of("spike-2")] };
  }
  return { shape, squares };
}
