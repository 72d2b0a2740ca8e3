import { EigenvalueDecomposition, inverse, Matrix } from "ml-matrix";
import { BoundError } from "../../quantity";
import { CircleModel, readingsOf, type CirclePart, type TurnShape } from "./circle-model";
import { isFullCircle, type CircleSetup, type CircleTrace } from "./circle-trace";

/** Readings that the length is chosen by. */
const FEW = 2400;
/** How often the shape of the turns is made anew from what was found. */
const PASSES = 2;
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

/** Sums of the model’s columns and of the readings with them. */
function normalOf(traces: readonly CircleTrace[], model: CircleModel): Normal {
  const n = model.parts.length;
  const row = new Float64Array(n);
  const sums = new Float64Array(n * n);
  const right = new Float64Array(n);
  let all = 0;
  for (const { direction, angles, deviations } of traces)
    for (let i = 0; i < angles.length; i += 1) {
      model.fill(row, angles[i], direction);
      const mm = deviations[i];
      all += mm * mm;
      for (let a = 0; a < n; a += 1) {
        const x = row[a];
        right[a] += x * mm;
        for (let b = a; b < n; b += 1) sums[a * n + b] += x * row[b];
      }
    }
  const matrix = Matrix.zeros(n, n);
  for (let a = 0; a < n; a += 1)
    for (let b = a; b < n; b += 1) matrix.set(a, b, sums[a * n + b]).set(b, a, sums[a * n + b]);
  return { matrix, right, all };
}

/** A matrix with its rows and columns made larger. */
export const scaledBy = (matrix: Matrix, scale: readonly number[]): Matrix => {
  const n = scale.length;
  return Matrix.from1DArray(
    n,
    n,
    matrix.to1DArray().map((v, k) => v * scale[Math.floor(k / n)] * scale[k % n]),
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
 * const from = { lossMm: [0, 0], spikeMm: [0, 0], decayMm: 2, lagMm: 0 };
 * solveFor(traces, new CircleModel(setup, from)).squares < 1e-9 // true
 */
export function solveFor(traces: readonly CircleTrace[], model: CircleModel): Solved {
  const normal = normalOf(traces, model);
  const { matrix, right, all } = normal;
  const scale = matrix.diagonal().map((d) => 1 / Math.sqrt(d || 1));
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
 * @returns the same, with at most some thousand readings
 * @example thinned([{ direction: 1, angles: new Float64Array(9000), deviations: new Float64Array(9000) }])[0].angles.length // 3000
 */
export function thinned(traces: readonly CircleTrace[], most = FEW): readonly CircleTrace[] {
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

export interface Tried {
  readonly shape: TurnShape;
  readonly squares: number;
}

/**
 * Fits with a length of the spike and a lag, and makes the shape of the turns anew from what comes of it.
 * @param traces - both directions, or one
 * @param setup - what was commanded
 * @param tried - the shape to begin with, and the parts that cannot be told
 * @returns the shape, and the sum of squares that is left
 * @example
 * const angles = Float64Array.from({ length: 720 }, (_, i) => (i * Math.PI) / 360);
 * const traces = [1, -1].map((direction) => ({ direction, angles, deviations: angles.map((a) => 0.003 * Math.sin(2 * a)) }));
 * const setup = { radiusMm: 100, feedMmMin: 1000, centreMm: [0, 0], axes: [{ letter: "X", perTurnMm: null }, { letter: "Y", perTurnMm: null }] };
 * const from = { lossMm: [0, 0], spikeMm: [0, 0], decayMm: 2, lagMm: 0 };
 * tryShape(traces, setup, { from, without: [] }).squares < 1e-9 // true
 */
export function tryShape(
  traces: readonly CircleTrace[],
  setup: CircleSetup,
  { from, without }: { readonly from: TurnShape; readonly without: readonly CirclePart[] },
): Tried {
  let shape = from;
  let squares = Infinity;
  for (let pass = 0; pass < PASSES; pass += 1) {
    const found = solveFor(traces, new CircleModel(setup, shape, without));
    const of = (part: CirclePart): number => Math.max(0, found.values[found.model.parts.indexOf(part)] ?? 0);
    squares = found.squares;
    shape = { ...shape, lossMm: [of("lost-1"), of("lost-2")], spikeMm: [of("spike-1"), of("spike-2")] };
  }
  return { shape, squares };
}
