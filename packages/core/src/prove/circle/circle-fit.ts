import { Matrix } from "ml-matrix";
import { requireBound, studentQuantile } from "../../quantity";
import { CircleModel, NO_SHAPE, readingsOf, type CirclePart, type TurnShape } from "./circle-model";
import { circleQuantities, type CircleQuantities } from "./circle-quantities";
import { scaledBy, solveFor, thinned, tryShape, untold, type Solved, type Tried } from "./circle-solve";
import type { CircleSetup, CircleTrace } from "./circle-trace";

/** A part of a circle as it was found, in its own unit: mm, mm for a mm, rad, or s for the servo. */
export interface FittedPart {
  readonly id: CirclePart;
  readonly value: number;
  /** As it stands in the readings: what lag makes of it is still in it. */
  readonly fitted: number;
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
/** What a lag must leave of the sum of squares without one. */
const SHOWN = 0.99;
/** Velocity gains tried, 1/s; null: what is read stands at its own angle. */
const GAINS = [null, 100, 60, 40, 25, 15, 10];
/** From this correlation on two parts are said together. */
const TOGETHER = 0.85;
/** Stretches that a direction is cut into: readings within one are taken as one another’s neighbours. */
const STRETCHES = 72;
/** The shape of the turns that fits best: how late they come, how long a spike lasts, how large loss and spike are. */
function shapeOf(traces: readonly CircleTrace[], setup: CircleSetup, without: readonly CirclePart[]): TurnShape {
  const few = thinned(traces);
  const tried = (decayMm: number, lagMm: number, from: Pick<TurnShape, "lossMm" | "spikeMm">): Tried =>
    tryShape(few, setup, { from: { lossMm: from.lossMm, spikeMm: from.spikeMm, decayMm, lagMm }, without });
  const feed = setup.feedMmMin / 60;
  const [still, ...late] = GAINS.map((gain) => tried(2, gain === null ? 0 : feed / gain, NO_SHAPE));
  const later = best(late);
  // A lag is one only where the turns show it: even readings fit any.
  let { shape } = later.squares < SHOWN * still.squares ? later : still;
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

const best = (all: readonly Tried[]): Tried => all.reduce((a, b) => (b.squares < a.squares ? b : a));

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
  requireBound({ "number of readings": count }, count >= 24, "at least 24");
  const without = untold(traces);
  const shape = shapeOf(traces, setup, without);
  const solved = solveFor(traces, new CircleModel(setup, shape, without));
  const { model, values } = solved;
  const n = model.parts.length;
  const valueOf = (part: CirclePart): number => values[model.parts.indexOf(part)] ?? 0;
  const rest = restOf(traces, model, values);
  const covariance = robust(traces, solved, rest);
  const stretches = traces.reduce((sum, one) => sum + stretchesOf(one), 0);
  const t = studentQuantile(0.05, Math.max(1, stretches - n));
  const squares = rest.reduce((s, one) => one.reduce((q, r) => q + r * r, s), 0);
  return {
    parts: model.parts.map((id, i) => {
      const bend = servoBend(id, { setup, shape, servo: valueOf("servo") });
      const u = t * Math.sqrt(Math.max(0, covariance.get(i, i)));
      return {
        id,
        value: values[i] - bend,
        fitted: values[i],
        u: Math.hypot(u, BEND_UNKNOWN * bend, unknownOf(id, valueOf)),
      };
    }),
    // One way round a lag of one servo behind the other looks as if they were out of square.
    together: [
      ...togetherIn(solved),
      ...(new Set(traces.map((one) => one.direction)).size < 2
        ? [{ a: "square" as const, b: "servo" as const, correlation: 1 }]
        : []),
    ],
    rest,
    restRms: Math.sqrt(squares / Math.max(1, count - n)),
    shape,
    without: (parts) => circleQuantities(withoutParts(traces, solved, parts), { calibrated: false }),
  };
}

/** How well the size of a spike is known by how long it lasts, of its size and mm; of an offset across, mm (ours). */
const SPIKE_UNKNOWN = { part: 0.1, mm: 0.0006 };
const ACROSS_UNKNOWN = 0.00008;

/** How well a loss is known: a spike beside it takes of it or gives to it, and springs let it go bit by bit (ours). */
const LOSS_UNKNOWN = { ofSpike: 0.15, part: 0.05, mm: 0.0001 };

/** What the shape that is taken for a part may be off by. */
function unknownOf(id: CirclePart, of: (part: CirclePart) => number): number {
  const value = Math.abs(of(id));
  // It is as much larger as it is shorter, and what springs round the turn takes of it.
  if (id.startsWith("spike")) return Math.hypot(SPIKE_UNKNOWN.part * value, SPIKE_UNKNOWN.mm);
  if (id === "lost-1" || id === "lost-2") {
    const spike = of(id === "lost-1" ? "spike-1" : "spike-2");
    return Math.hypot(LOSS_UNKNOWN.ofSpike * spike, LOSS_UNKNOWN.part * value + LOSS_UNKNOWN.mm);
  }
  return id.startsWith("across") ? ACROSS_UNKNOWN : 0;
}

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

const stretchesOf = ({ angles }: CircleTrace): number => Math.min(STRETCHES, angles.length);

function robust(
  traces: readonly CircleTrace[],
  { model, scale, bread }: Solved,
  rest: readonly Float64Array[],
): Matrix {
  const n = scale.length;
  const row = new Float64Array(n);
  const scores: Float64Array[] = [];
  traces.forEach(({ direction, angles }, trace) => {
    const stretches = stretchesOf(traces[trace]);
    for (let i = 0; i < angles.length; i += 1) {
      const at = trace * STRETCHES + Math.floor((i * stretches) / angles.length);
      const score = (scores[at] ??= new Float64Array(n));
      model.fill(row, angles[i], direction);
      for (let a = 0; a < n; a += 1) score[a] += row[a] * scale[a] * rest[trace][i];
    }
  });
  const meat = Matrix.zeros(n, n);
  // Those that no reading fell into are not there at all.
  const met = scores.filter(() => true);
  for (const score of met) {
    const column = Matrix.columnVector(Array.from(score));
    meat.add(column.mmul(column.transpose()));
  }
  meat.mul(met.length / Math.max(1, met.length - n));
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
