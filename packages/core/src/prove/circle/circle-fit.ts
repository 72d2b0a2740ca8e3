import { requireBound, studentQuantile } from "../../quantity";
import { gathered } from "./circle-groups";
import { CircleModel, NO_SHAPE, readingsOf, type CirclePart, type TurnShape } from "./circle-model";
import { circleQuantities, type CircleQuantities } from "./circle-quantities";
import { solveFor, tryShape, untold, type Solved, type Tried } from "./circle-solve";
import type { CircleSetup, CircleTrace } from "./circle-trace";
import { partsCovariance, stretchesOf } from "./circle-uncertainty";

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
/** The shape of the turns that fits best: how late they come, how long a spike lasts, how large loss and spike are. */
function shapeOf(traces: readonly CircleTrace[], setup: CircleSetup, without: readonly CirclePart[]): TurnShape {
  const few = gathered(traces, setup.radiusMm);
  const best = (all: readonly Tried[]): Tried => leastOf(all, readingsOf(few));
  const tried = (from: TurnShape, passes = 1): Tried => tryShape(few, setup, { from, without, passes });
  const feed = setup.feedMmMin / 60;
  const [still, ...late] = GAINS.map((gain) =>
    // Nothing is known of loss and spike yet: what is found first shapes the turns of the second look.
    tried({ ...NO_SHAPE, decayMm: [2, 2], lagMm: gain === null ? 0 : feed / gain }, 2),
  );
  const later = best(late);
  // A lag is one only where the turns show it: even readings fit any.
  let { shape } = later.squares < SHOWN * still.squares ? later : still;
  const decaying = (axis: 0 | 1, decays: readonly number[]): void => {
    const of = (mm: number): [number, number] => (axis === 0 ? [mm, shape.decayMm[1]] : [shape.decayMm[0], mm]);
    shape = best(decays.map((mm) => tried({ ...shape, decayMm: of(mm) }))).shape;
  };
  const near = (mm: number, times: number): readonly number[] => [mm, mm / times, times * mm];
  const lagging = (times: number): void => {
    if (shape.lagMm > 0) shape = best(near(shape.lagMm, times).map((lagMm) => tried({ ...shape, lagMm }))).shape;
  };
  decaying(0, DECAYS);
  decaying(1, DECAYS);
  for (const times of [1.2, 1.07, 1.025]) lagging(times);
  for (const times of [1.4, 1.15, 1.06])
    for (const axis of [0, 1] as const) decaying(axis, near(shape.decayMm[axis], times));
  return tried(shape, 2).shape;
}

/** How long friction holds on machines at large, mm of path, and by how much that differs, in logarithms (ours). */
const USUAL_DECAY = { mm: 1.6, spread: 0.6 };

/** How unusual the lengths of a shape are, in χ². */
const unusual = ({ decayMm }: TurnShape): number =>
  decayMm.reduce((sum, mm) => sum + (Math.log(mm / USUAL_DECAY.mm) / USUAL_DECAY.spread) ** 2, 0);

/** What fits best; of shapes that fit alike the one that machines usually have. A spike of nothing is of any length. */
function leastOf(all: readonly Tried[], readings: number): Tried {
  const score = (one: Tried): number => readings * Math.log(one.squares) + unusual(one.shape);
  return all.reduce((a, b) => (score(b) < score(a) ? b : a));
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
  requireBound({ "number of readings": count }, count >= 24, "at least 24");
  const without = untold(traces);
  const shape = shapeOf(traces, setup, without);
  const solved = solveFor(traces, new CircleModel(setup, shape, without));
  const { model, values } = solved;
  const n = model.parts.length;
  const valueOf = (part: CirclePart): number => values[model.parts.indexOf(part)] ?? 0;
  const rest = restOf(traces, model, values);
  const covariance = partsCovariance(traces, solved, { setup, shape, rest });
  const stretches = traces.reduce((sum, one) => sum + stretchesOf(one), 0);
  const t = studentQuantile(0.05, Math.max(1, stretches - n));
  // What shows where an axis turns round is known by the few stretches there.
  const ofTurns = Math.max(t, studentQuantile(0.05, TURN_STRETCHES));
  const squares = rest.reduce((s, one) => one.reduce((q, r) => q + r * r, s), 0);
  return {
    parts: model.parts.map((id, i) => {
      const bend = servoBend(id, { setup, shape, servo: valueOf("servo") });
      const u = (TURNS.test(id) ? ofTurns : t) * Math.sqrt(Math.max(0, covariance.get(i, i)));
      return {
        id,
        value: values[i] - bend,
        fitted: values[i],
        u: Math.hypot(u, BEND_UNKNOWN * bend, unknownOf(id, values[i])),
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

/** Parts that show where an axis turns round, and stretches that tell of them (ours). */
const TURNS = /^(lost|spike)/;
const TURN_STRETCHES = 16;

/**
 * How well the size of a spike is known beside what its readings leave open: how long it lasts shows in a few readings
 * only, and what is worked out from straight slopes is too sure there. Ours: on 1,000 simulated machines it holds.
 */
const SPIKE_UNKNOWN = { part: 0.06, mm: 0.0002 };

const unknownOf = (id: CirclePart, value: number): number =>
  id.startsWith("spike") ? Math.hypot(SPIKE_UNKNOWN.part * value, SPIKE_UNKNOWN.mm) : 0;

/** How well the bend below is known: the lag is found from when the axes turn round (ours). */
const BEND_UNKNOWN = 0.3;

/**
 * What lag makes of radius and scale: a first-order servo draws its axis’ circle in by half of (v/K)²/R. Each axis goes as
 * cos φ cos(θ − φ) with tan φ = v/(K R); seen from where the spindle stands, late by the mean of both, the radius loses
 * half the mean square of φ, and scales seem to differ by −1/2 of the difference of the squares.
 */
function servoBend(
  part: CirclePart,
  { setup, shape, servo }: { readonly setup: CircleSetup; readonly shape: TurnShape; readonly servo: number },
): number {
  const { radiusMm, feedMmMin } = setup;
  const late = shape.lagMm / radiusMm;
  if (part === "radius") return -0.5 * radiusMm * late * late;
  // The difference of the squares is that of the lags by twice their mean.
  return part === "mismatch" ? (-late * servo * (feedMmMin / 60)) / radiusMm : 0;
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
