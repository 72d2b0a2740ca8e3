import { EigenvalueDecomposition, inverse, Matrix } from "ml-matrix";
import { BoundError, requireBound, studentQuantile } from "../../quantity";
import { CircleModel, NO_SHAPE, readingsOf, type CirclePart, type TurnShape } from "./circle-model";
import { circleQuantities, type CircleQuantities } from "./circle-quantities";
import { isFullCircle, type CircleSetup, type CircleTrace } from "./circle-trace";

/** A part of a circle as it was found, in its own unit: mm, mm for a mm, rad, or s for the servo. */
export interface FittedPart {
  readonly id: CirclePart;
  readonly value: number;
  /** Expanded uncertainty, 95 %. */
  readonly u: number;
}

export interface CircleFit {
  readonly parts: readonly FittedPart[];
  /** Parts that these readings cannot tell apart, with their correlation. */
  readonly together: readonly { readonly a: CirclePart; readonly b: CirclePart; readonly correlation: number }[];
  /** What the model does not explain, by trace, in the order of the readings, mm. */
  readonly rest: readonly Float64Array[];
  readonly restRms: number;
  /** How the axes turn round. */
  readonly shape: TurnShape;
  /** What the standard’s quantities would be with one part mended and all else as it is. */
  readonly without: (parts: readonly CirclePart[]) => CircleQuantities;
}

/** Lengths tried for the spike, mm of path; what fits best is kept. */
const DECAYS = [0.5, 1, 1.5, 2, 3, 4, 8];
/** Velocity gains tried, 1/s; null: what is read stands at its own angle. */
const GAINS = [null, 100, 60, 40, 25, 15, 10];
/** Readings that the length is chosen by. */
const FEW = 2400;
/** How often the shape of the turns is made anew from what was found. */
const PASSES = 2;
/** From this correlation on two parts are said together. */
const TOGETHER = 0.85;
/** Stretches that a direction is cut into: readings within one are taken as one another’s neighbours. */
const STRETCHES = 72;
/** Smallest eigenvalue of the scaled normal matrix that still is one. */
const SINGULAR = 1e-7;

interface Normal {
  readonly matrix: Matrix;
  readonly right: Float64Array;
  /** Sum of the squares of the readings. */
  readonly all: number;
}

interface Solved {
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

const scaledBy = (matrix: Matrix, scale: readonly number[]): Matrix => {
  const n = scale.length;
  return Matrix.from1DArray(
    n,
    n,
    matrix.to1DArray().map((v, k) => v * scale[Math.floor(k / n)] * scale[k % n]),
  );
};

function solveFor(traces: readonly CircleTrace[], model: CircleModel): Solved {
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

/** Every so many readings, for what is only to be compared. */
function thinned(traces: readonly CircleTrace[]): readonly CircleTrace[] {
  const every = Math.max(1, Math.floor(readingsOf(traces) / FEW));
  if (every === 1) return traces;
  const few = (values: Float64Array): Float64Array => values.filter((_, i) => i % every === 0);
  return traces.map((t) => ({ ...t, angles: few(t.angles), deviations: few(t.deviations) }));
}

/** The shape of the turns that fits best: how late they come, how long a spike lasts, how large loss and spike are. */
function shapeOf(traces: readonly CircleTrace[], setup: CircleSetup, without: readonly CirclePart[]): TurnShape {
  const few = thinned(traces);
  const tried = (decayMm: number, lagMm: number, from: Pick<TurnShape, "lostMm" | "spikeMm">): Tried => {
    let shape: TurnShape = { lostMm: from.lostMm, spikeMm: from.spikeMm, decayMm, lagMm };
    let squares = Infinity;
    for (let pass = 0; pass < PASSES; pass += 1) {
      const found = solveFor(few, new CircleModel(setup, shape, without));
      const of = (part: CirclePart): number => Math.max(0, found.values[found.model.parts.indexOf(part)] ?? 0);
      squares = found.squares;
      shape = { decayMm, lagMm, lostMm: [of("lost-1"), of("lost-2")], spikeMm: [of("spike-1"), of("spike-2")] };
    }
    return { shape, squares };
  };
  const feed = setup.feedMmMin / 60;
  let { shape } = best(GAINS.map((gain) => tried(2, gain === null ? 0 : feed / gain, NO_SHAPE)));
  const decays = (): TurnShape => best(DECAYS.map((decayMm) => tried(decayMm, shape.lagMm, shape))).shape;
  shape = decays();
  for (const times of [1.2, 1.07, 1.025]) {
    const { decayMm, lagMm } = shape;
    shape = best([lagMm / times, lagMm, times * lagMm].map((lag) => tried(decayMm, lag, shape))).shape;
  }
  shape = decays();
  for (const times of [1.15, 1.06]) {
    const { decayMm, lagMm } = shape;
    shape = best([decayMm / times, decayMm, times * decayMm].map((decay) => tried(decay, lagMm, shape))).shape;
  }
  return shape;
}

interface Tried {
  readonly shape: TurnShape;
  readonly squares: number;
}

const best = (all: readonly Tried[]): Tried => all.reduce((a, b) => (b.squares < a.squares ? b : a));

/** Parts that these traces cannot tell, whatever they read. */
function untold(traces: readonly CircleTrace[]): readonly CirclePart[] {
  // One way round shows no difference between the two; an arc no slope of the loss from one end to the other.
  const single = new Set(traces.map((t) => t.direction)).size < 2;
  const arc = !traces.every(isFullCircle);
  return [
    ...(single ? (["servo", "across-1", "across-2", "lost-slope-1", "lost-slope-2"] as const) : []),
    ...(arc ? (["lost-slope-1", "lost-slope-2", "bow-1", "bow-2"] as const) : []),
  ];
}

/**
 * Takes a circle apart: one linear least squares over both directions together, each part with its uncertainty. Samples
 * along one circle are alike: what a stretch of the path has in common counts once (a cluster-robust covariance; Liang &
 * Zeger 1986, from memory).
 * @param traces - both directions, or one; of an arc the parts that it cannot tell are named together
 * @param setup - what was commanded
 * @returns the parts, what is left of the readings, and what the standard’s quantities were without any of them
 * @throws BoundError where the readings do not tell the parts apart
 * @example
 * const angles = Float64Array.from({ length: 720 }, (_, i) => (i * Math.PI) / 360);
 * const leaning = { angles, deviations: angles.map((a) => 0.003 * Math.sin(2 * a)) };
 * const setup = { radiusMm: 100, feedMmMin: 1000, centreMm: [0, 0], axes: [{ letter: "X", perTurnMm: null }, { letter: "Y", perTurnMm: null }] };
 * fitCircle([{ direction: 1, ...leaning }, { direction: -1, ...leaning }], setup).parts.find((p) => p.id === "square").value // 0.00006
 */
export function fitCircle(traces: readonly CircleTrace[], setup: CircleSetup): CircleFit {
  const count = readingsOf(traces);
  requireBound({ "number of readings": count }, count >= 100, "at least 100");
  const without = untold(traces);
  const shape = shapeOf(traces, setup, without);
  const solved = solveFor(traces, new CircleModel(setup, shape, without));
  const { model, values } = solved;
  const n = model.parts.length;
  const rest = restOf(traces, model, values);
  const covariance = robust(traces, solved, rest);
  const t = studentQuantile(0.05, Math.max(1, STRETCHES * traces.length - n));
  const squares = rest.reduce((s, one) => one.reduce((q, r) => q + r * r, s), 0);
  return {
    parts: model.parts.map((id, i) => {
      const bend = servoBend(id, { setup, shape, servo: values[model.parts.indexOf("servo")] ?? 0 });
      const u = t * Math.sqrt(Math.max(0, covariance.get(i, i)));
      // How long a spike lasts is known roughly, and it is as much larger as it is shorter.
      const shapeU = id.startsWith("spike") ? DECAY_UNKNOWN * Math.abs(values[i]) : 0;
      return { id, value: values[i] - bend, u: Math.hypot(u, BEND_UNKNOWN * bend, shapeU) };
    }),
    together: togetherIn(solved),
    rest,
    restRms: Math.sqrt(squares / Math.max(1, count - n)),
    shape,
    without: (parts) => circleQuantities(withoutParts(traces, solved, parts), { calibrated: false }),
  };
}

/** How well the size of a spike is known by how long it lasts (ours). */
const DECAY_UNKNOWN = 0.1;
/** How well the bend below is known: the lag is found from when the axes turn round (ours). */
const BEND_UNKNOWN = 0.3;

/**
 * What lag makes of radius and scale: a first-order servo draws its axis’ circle in by (v/K)²/R, and what it is late by
 * stands a little further out. Each axis goes as cos φ cos(θ − φ) with tan φ = v/(K R); taken to the second order the
 * radius loses half the mean square of φ, and scales seem to differ by −3/2 of the difference of the squares.
 */
function servoBend(
  part: CirclePart,
  { setup, shape, servo }: { readonly setup: CircleSetup; readonly shape: TurnShape; readonly servo: number },
): number {
  const { radiusMm, feedMmMin } = setup;
  const late = shape.lagMm / radiusMm;
  if (part === "radius") return -0.5 * radiusMm * late * late;
  // The difference of the squares is that of the lags by twice their mean.
  return part === "mismatch" ? (-3 * late * servo * (feedMmMin / 60)) / radiusMm : 0;
}

function restOf(traces: readonly CircleTrace[], model: CircleModel, values: Float64Array): Float64Array[] {
  const row = new Float64Array(values.length);
  return traces.map(({ direction, angles, deviations }) => {
    const rest = new Float64Array(angles.length);
    for (let i = 0; i < angles.length; i += 1) {
      model.fill(row, angles[i], direction);
      let left = deviations[i];
      for (let k = 0; k < row.length; k += 1) left -= row[k] * values[k];
      rest[i] = left;
    }
    return rest;
  });
}

function robust(
  traces: readonly CircleTrace[],
  { model, scale, bread }: Solved,
  rest: readonly Float64Array[],
): Matrix {
  const n = scale.length;
  const row = new Float64Array(n);
  const scores: Float64Array[] = [];
  traces.forEach(({ direction, angles }, trace) => {
    for (let i = 0; i < angles.length; i += 1) {
      const at = trace * STRETCHES + Math.floor((i * STRETCHES) / angles.length);
      const score = (scores[at] ??= new Float64Array(n));
      model.fill(row, angles[i], direction);
      for (let a = 0; a < n; a += 1) score[a] += row[a] * scale[a] * rest[trace][i];
    }
  });
  const meat = Matrix.zeros(n, n);
  for (const score of scores) {
    const column = Matrix.columnVector(Array.from(score));
    meat.add(column.mmul(column.transpose()));
  }
  meat.mul(scores.length / Math.max(1, scores.length - n));
  return scaledBy(bread.mmul(meat).mmul(bread), scale);
}

/** The traces as they would be with some parts mended. */
function withoutParts(
  traces: readonly CircleTrace[],
  { model, values }: Solved,
  parts: readonly CirclePart[],
): CircleTrace[] {
  const out = Float64Array.from(values, (v, i) => (parts.includes(model.parts[i]) ? v : 0));
  const kept = restOf(traces, model, out);
  return traces.map((t, i) => ({ ...t, deviations: kept[i] }));
}

/** Pairs of parts that show alike on these readings: from what was read where, whatever was read. */
function togetherIn({ model: { parts }, bread }: Solved): CircleFit["together"] {
  const pairs: { a: CirclePart; b: CirclePart; correlation: number }[] = [];
  parts.forEach((a, i) => {
    for (let j = i + 1; j < parts.length; j += 1) {
      const correlation = bread.get(i, j) / Math.sqrt(bread.get(i, i) * bread.get(j, j));
      if (Math.abs(correlation) >= TOGETHER) pairs.push({ a, b: parts[j], correlation });
    }
  });
  return pairs;
}
