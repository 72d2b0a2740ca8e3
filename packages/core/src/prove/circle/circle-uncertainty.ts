import { Matrix, pseudoInverse } from "ml-matrix";
import { groupsOf } from "./circle-groups";
import { CircleModel, type CirclePart, type TurnShape } from "./circle-model";
import type { Solved } from "./circle-solve";
import type { CircleSetup, CircleTrace } from "./circle-trace";

/** Stretches that a direction is cut into: readings within one are taken as one another’s neighbours. */
const STRETCHES = 72;
/** Below this a length or a lag changes nothing that was read: it is no unknown here. */
const NOTHING = 1e-9;
/** Smallest step of the shape, mm, and its part of what is stepped. */
const STEP = { mm: 1e-5, part: 0.01 };

/** A number of the shape that was found beside the linear parts. */
interface Turn {
  /** The part whose value it is; null for one that was looked for by itself. */
  readonly part: CirclePart | null;
  readonly plus: CircleModel;
  readonly minus: CircleModel;
  /** Between the two, mm. */
  readonly apart: number;
}

/**
 * Stretches of the path that count as one each.
 * @param trace - one way round
 * @returns how many
 * @example stretchesOf({ direction: 1, angles: new Float64Array(720), deviations: new Float64Array(720) }) // 72
 */
export const stretchesOf = ({ angles }: CircleTrace): number => Math.min(STRETCHES, angles.length);

const set = (pair: readonly [number, number], at: 0 | 1, value: number): [number, number] =>
  at === 0 ? [value, pair[1]] : [pair[0], value];

/** The models a step to either side, for every number of the shape. */
function turnsOf(setup: CircleSetup, { model, values }: Solved, shape: TurnShape): readonly Turn[] {
  const without = (over: TurnShape): CircleModel => new CircleModel(setup, over, missing);
  const missing = model.missing;
  const turn = (part: CirclePart | null, value: number, of: (mm: number) => TurnShape): Turn => {
    const step = Math.max(STEP.mm, STEP.part * value);
    // Never below nothing.
    const down = Math.min(step, value);
    return { part, plus: without(of(value + step)), minus: without(of(value - down)), apart: step + down };
  };
  const shown = (part: CirclePart): boolean => values[model.parts.indexOf(part)] > 0;
  const turns: Turn[] = [];
  if (shape.lagMm > 0) turns.push(turn(null, shape.lagMm, (lagMm) => ({ ...shape, lagMm })));
  for (const i of [0, 1] as const) {
    const own = i === 0 ? "1" : "2";
    const { decayMm, lossMm, spikeMm } = shape;
    if (shown(`spike-${own}`)) {
      turns.push(turn(null, decayMm[i], (mm) => ({ ...shape, decayMm: set(decayMm, i, mm) })));
      turns.push(turn(`spike-${own}`, spikeMm[i], (mm) => ({ ...shape, spikeMm: set(spikeMm, i, mm) })));
    }
    if (shown(`lost-${own}`))
      turns.push(turn(`lost-${own}`, lossMm[i], (mm) => ({ ...shape, lossMm: set(lossMm, i, mm) })));
  }
  return turns;
}

/** What a step of each number of the shape changes of the radius, at one reading. */
class Slopes {
  private readonly row: Float64Array;

  constructor(
    private readonly turns: readonly Turn[],
    private readonly values: Float64Array,
  ) {
    this.row = new Float64Array(values.length);
  }

  at(angle: number, direction: 1 | -1): number[] {
    return this.turns.map(({ plus, minus, apart }) => {
      return (this.radius(plus, angle, direction) - this.radius(minus, angle, direction)) / apart;
    });
  }

  private radius(model: CircleModel, angle: number, direction: 1 | -1): number {
    model.fill(this.row, angle, direction);
    let sum = 0;
    for (let k = 0; k < this.row.length; k += 1) sum += this.row[k] * this.values[k];
    return sum;
  }
}

/** Sums over the readings: how what is asked answers to what is sought, and what each stretch pulls at it. */
interface Sums {
  /** Estimating functions by unknowns. */
  readonly bread: Matrix;
  readonly scores: readonly Float64Array[];
}

function sumsOf(
  traces: readonly CircleTrace[],
  { model, values }: Solved,
  {
    turns,
    rest,
    radiusMm,
  }: { readonly turns: readonly Turn[]; readonly rest: readonly Float64Array[]; readonly radiusMm: number },
): Sums {
  const n = model.parts.length;
  const alone = turns.filter((t) => t.part === null);
  const size = n + alone.length;
  const slopes = new Slopes(turns, values);
  const bread = new Float64Array(size * size);
  const scores: Float64Array[] = [];
  const [row, asked, sought] = [new Float64Array(n), new Float64Array(size), new Float64Array(size)];
  traces.forEach(({ direction, angles }, trace) => {
    const stretches = stretchesOf(traces[trace]);
    const edges = groupsOf(traces[trace], radiusMm);
    for (let g = 0; g + 1 < edges.length; g += 1) {
      const [from, to] = [edges[g], edges[g + 1]];
      const middle = (from + to - 1) >> 1;
      model.fill(row, angles[middle], direction);
      asked.set(row);
      sought.set(row);
      let next = n;
      slopes.at(angles[middle], direction).forEach((slope, t) => {
        const { part } = turns[t];
        if (part === null) asked[next] = sought[next++] = slope;
        // A loss that is found larger turns the axis round later too.
        else sought[model.parts.indexOf(part)] += slope;
      });
      let left = 0;
      for (let i = from; i < to; i += 1) left += rest[trace][i];
      const score = (scores[trace * STRETCHES + Math.floor((from * stretches) / angles.length)] ??= new Float64Array(
        size,
      ));
      for (let a = 0; a < size; a += 1) {
        const weight = (to - from) * asked[a];
        score[a] += asked[a] * left;
        if (weight !== 0) for (let b = 0; b < size; b += 1) bread[a * size + b] += weight * sought[b];
      }
    }
  });
  // Stretches that no reading fell into are not there at all.
  return { bread: Matrix.from1DArray(size, size, bread), scores: scores.filter(() => true) };
}

/**
 * Covariance of the parts of a circle, those of the shape of its turns let go with them: samples along one circle are
 * alike, so that what a stretch of the path has in common counts once (cluster-robust, Liang & Zeger 1986; estimating
 * equations with unequal sides, Huber 1967; both from memory).
 * @param traces - what was read
 * @param solved - the parts at the shape
 * @param found - what was commanded, the shape that was found, and what is left of the readings, by trace, mm
 * @returns in the units of the parts, in their order
 * @example
 * const angles = Float64Array.from({ length: 720 }, (_, i) => (i * Math.PI) / 360);
 * const traces = [1, -1].map((direction) => ({ direction, angles, deviations: angles.map((a, i) => 0.001 * (i % 2)) }));
 * const setup = { radiusMm: 100, feedMmMin: 1000, centreMm: [0, 0], axes: [{ letter: "X", perTurnMm: null }, { letter: "Y", perTurnMm: null }] };
 * const shape = { lossMm: [0, 0], spikeMm: [0, 0], decayMm: [2, 2], lagMm: 0 };
 * const solved = solveFor(traces, new CircleModel(setup, shape));
 * const rest = traces.map((t) => t.deviations.map((d) => d - 0.0005));
 * partsCovariance(traces, solved, { setup, shape, rest }).rows // 16
 */
export function partsCovariance(
  traces: readonly CircleTrace[],
  solved: Solved,
  {
    setup,
    shape,
    rest,
  }: { readonly setup: CircleSetup; readonly shape: TurnShape; readonly rest: readonly Float64Array[] },
): Matrix {
  const n = solved.model.parts.length;
  const turns = turnsOf(setup, solved, shape);
  const { bread, scores } = sumsOf(traces, solved, { turns, rest, radiusMm: setup.radiusMm });
  // Columns of one size: mm, rad and s stand beside each other.
  const scale = bread.diagonal().map((d) => (d > NOTHING ? 1 / Math.sqrt(d) : 0));
  const scaled = bread.clone();
  for (let a = 0; a < scale.length; a += 1)
    for (let b = 0; b < scale.length; b += 1) scaled.set(a, b, scaled.get(a, b) * scale[a] * scale[b]);
  const answer = pseudoInverse(scaled);
  const meat = Matrix.zeros(scale.length, scale.length);
  for (const score of scores) {
    const column = Matrix.columnVector(Array.from(score, (v, a) => v * scale[a]));
    meat.add(column.mmul(column.transpose()));
  }
  meat.mul(scores.length / Math.max(1, scores.length - scale.length));
  const covariance = answer.mmul(meat).mmul(answer.transpose());
  for (let a = 0; a < n; a += 1)
    for (let b = 0; b < n; b += 1) covariance.set(a, b, covariance.get(a, b) * scale[a] * scale[b]);
  return covariance.subMatrix(0, n - 1, 0, n - 1);
}
