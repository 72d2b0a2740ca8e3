import {
  analyseCircle,
  CircleModel,
  fitCircle,
  type CircleFinding,
  type CirclePart,
  type CircleTrace,
  type VirtualBar,
  type VirtualPlane,
} from "@iron/core";
import { NO_SHAPE } from "../packages/core/src/prove/circle/circle-model";
import { bothWays, SETUP } from "../packages/core/src/prove/circle/circle-virtual.testing";

type Kind = CircleFinding["kind"];

/** A machine that was drawn, the bar it is read with, and what was put into it, in the units of the parts. */
export interface DrawnMachine {
  readonly plane: VirtualPlane;
  readonly bar: VirtualBar;
  readonly truth: Partial<Record<CirclePart, number>>;
}

const each = <T>(pair: readonly [T, T], axis: 0 | 1, change: (one: T) => T): [T, T] =>
  axis === 0 ? [change(pair[0]), pair[1]] : [pair[0], change(pair[1])];

/** The machine with one thing put right, as a mechanic would: nothing else is touched. */
export function mended(plane: VirtualPlane, kind: Kind, axis: 0 | 1 | null): VirtualPlane {
  const of = axis ?? 0;
  const axes = (change: (a: VirtualPlane["axes"][0]) => VirtualPlane["axes"][0]): VirtualPlane => ({
    ...plane,
    axes: each(plane.axes, of, change),
  });
  switch (kind) {
    case "square":
      return { ...plane, square: 0 };
    case "mismatch": {
      const mean = (plane.scale[0] + plane.scale[1]) / 2;
      return { ...plane, scale: [mean, mean] };
    }
    case "servo": {
      const gain = 2 / (1 / plane.gains[0] + 1 / plane.gains[1]);
      return { ...plane, gains: [gain, gain] };
    }
    case "lost":
      return axes((a) => ({
        ...a,
        links: a.links.map((l) => ({ ...l, deadBandMm: 0, stiffnessNPerMm: 1000 * l.stiffnessNPerMm })),
      }));
    case "ripple":
      return axes((a) => ({ ...a, leadError: { ...a.leadError, amplitudeMm: 0 } }));
    case "spike":
      return { ...plane, stick: each(plane.stick, of, (s) => ({ ...s, mm: 0 })) };
    case "bow":
      return { ...plane, bowMm: each(plane.bowMm, of, () => 0) };
    case "across":
      return { ...plane, asideMm: each(plane.asideMm, of, () => 0) };
  }
}

export interface Apart {
  /** The largest part of an axis is named with its axis. */
  readonly rightAxis: boolean;
  /** The largest part of all is named. */
  readonly rightPart: boolean;
  /** What would be left without the largest is what was left when it was mended, within U. */
  readonly leftWithin: boolean;
  readonly leftOffMm: number;
  readonly leftUMm: number;
  /** What was put in, what was found, and its U, by part. */
  readonly parts: readonly (readonly [id: CirclePart, put: number, value: number, u: number])[];
  /** To take one circle apart, ms. */
  readonly ms: number;
}

/** One machine taken apart, mended where the most comes from, and read again. */
export function takeApart(
  { plane, bar, truth: put }: DrawnMachine,
  { samples, seed }: { readonly samples: number; readonly seed: number },
): Apart {
  const known = { calibrated: false, barU: 0.0005 };
  const traces = bothWays(plane, { samples, seed, bar });
  const start = performance.now();
  const before = analyseCircle(traces, SETUP, known);
  const ms = performance.now() - start;
  const truth = ({ kind, axis }: CircleFinding): number => {
    const own = axis === null ? "" : `-${axis + 1}`;
    return put[(kind === "ripple" ? `ripple-sin${own}` : `${kind}${own}`) as CirclePart] ?? 0;
  };
  const bySize = before.findings
    .map((f) => ({ f, onCircle: f.value === 0 ? 0 : (f.onCircleMm * Math.abs(truth(f))) / Math.abs(f.value) }))
    .sort((a, b) => b.onCircle - a.onCircle);
  const largest = (found: readonly CircleFinding[]): CircleFinding => found[0];
  const ofAxis = (f: CircleFinding): boolean => f.axis !== null;
  const [found, foundOfAxis] = [largest(before.findings), before.findings.filter(ofAxis)[0]];
  const trueOfAxis = bySize.filter(({ f }) => ofAxis(f))[0].f;
  const after = analyseCircle(
    bothWays(mended(plane, found.kind, found.axis), { samples, seed: seed + 100_000, bar }),
    SETUP,
    known,
  );
  const leftOffMm = (found.without.gBothMm ?? NaN) - (after.quantities.gBoth ?? NaN);
  const leftUMm = found.without.uMm ?? NaN;
  return {
    rightAxis: trueOfAxis.axis === foundOfAxis.axis,
    rightPart: bySize[0].f.kind === found.kind && bySize[0].f.axis === found.axis,
    leftWithin: Math.abs(leftOffMm) <= leftUMm,
    leftOffMm,
    leftUMm,
    parts: before.parts.flatMap(({ id, value, u }) => {
      const of = put[id];
      return of === undefined ? [] : [[id, of, value, u] as const];
    }),
    ms,
  };
}

/** Steps of the general library that are waited for. */
const MOST_STEPS = 32;
/** What the library is given one of: µm, µrad and µs lie near enough to each other, lag and lengths go in mm. */
const SMALL = 1e-6;
const unitOf = (part: CirclePart): number =>
  part === "mismatch" || part === "square" || part === "servo" ? SMALL : 1000 * SMALL;

/** The radius by all that is looked for: the parts, and behind them lag and the length of each axis’ spike, mm. */
function radiusBy(parameters: readonly number[], parts: readonly CirclePart[]): (at: number, way: 1 | -1) => number {
  const values = parts.map((part, i) => unitOf(part) * parameters[i]);
  const of = (part: CirclePart): number => Math.max(0, values[parts.indexOf(part)]);
  const [lagMm, first, second] = parameters.slice(parts.length);
  const model = new CircleModel(SETUP, {
    lossMm: [of("lost-1"), of("lost-2")],
    spikeMm: [of("spike-1"), of("spike-2")],
    lagMm: Math.max(0, lagMm),
    decayMm: [Math.max(0.05, first), Math.max(0.05, second)],
  });
  const row = new Float64Array(parts.length);
  return (at, way) => {
    model.fill(row, at, way);
    let sum = 0;
    for (let k = 0; k < row.length; k += 1) sum += row[k] * values[k];
    return sum;
  };
}

/**
 * A whole circle taken apart, every U with it, against a general Levenberg–Marquardt library at its defaults on the same
 * readings and the same parameters: the parts, how late the axes turn round and how long each spike lasts. It is let run
 * for 1, 2, 4 … steps from the same beginning until its sum of squares is within a millionth of ours; the last run counts.
 */
export async function againstGeneral(traces: readonly CircleTrace[]): Promise<void> {
  const start = performance.now();
  const { rest } = fitCircle(traces, SETUP);
  const ours = performance.now() - start;
  const squares = rest.reduce((sum, one) => one.reduce((s, r) => s + r * r, sum), 0);
  const x: number[] = [];
  const y: number[] = [];
  // One number tells angle and way: those that go back stand behind a turn of a hundred.
  for (const { angles, deviations, direction } of traces)
    for (let i = 0; i < angles.length; i += 1) {
      x.push(direction === 1 ? angles[i] : angles[i] + BACK);
      y.push(deviations[i]);
    }
  const { parts } = new CircleModel(SETUP, { ...NO_SHAPE, decayMm: [2, 2], lagMm: 0 });
  const { levenbergMarquardt } = await import("ml-levenberg-marquardt");
  const model = (parameters: number[]): ((at: number) => number) => {
    const radius = radiusBy(parameters, parts);
    return (at) => (at > BACK / 2 ? radius(at - BACK, -1) : radius(at, 1));
  };
  const initialValues = [...parts.map(() => 0), 0.3, 2, 2];
  let [general, steps, left] = [0, 0, Infinity];
  while (left > squares * (1 + 1e-6) && steps < MOST_STEPS) {
    steps = Math.max(1, 2 * steps);
    const begun = performance.now();
    const { parameterValues } = levenbergMarquardt({ x, y }, model, { initialValues, maxIterations: steps });
    general = performance.now() - begun;
    const at = model([...parameterValues]);
    left = y.reduce((sum, mm, i) => sum + (mm - at(x[i])) ** 2, 0);
  }
  const there = left <= squares * (1 + 1e-6) ? "there" : "not there yet";
  console.log(
    `${initialValues.length} parameters of ${x.length} readings: ours ${ours.toFixed(0)} ms with every U; ml-levenberg-marquardt ${general.toFixed(0)} ms in ${steps} steps, ${there}: ${(left / squares).toFixed(7)} of our sum of squares; ratio ${(ours / general).toFixed(4)} (aim 0.02)`,
  );
}

/** Full turns that tell one way round from the other, rad. */
const BACK = 200 * Math.PI;

/** What ten minutes at 1 kHz cost in memory, analysed as the server does. */
export function memoryOfTenMinutes(plane: VirtualPlane): void {
  const before = process.memoryUsage().rss;
  const traces = bothWays(plane, { samples: 300_000 });
  const held = process.memoryUsage().rss;
  const start = performance.now();
  analyseCircle(traces, SETUP, { calibrated: false, barU: 0.0005 });
  const [mb, after] = [(bytes: number): string => (bytes / 1e6).toFixed(0), process.memoryUsage().rss];
  console.log(
    `600000 readings (10 min at 1 kHz): ${mb(held - before)} MB with the stand-in that makes them, ${mb(after - held)} MB more to take them apart, ${((performance.now() - start) / 1000).toFixed(1)} s`,
  );
}
