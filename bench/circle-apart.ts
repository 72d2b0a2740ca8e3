import {
  analyseCircle,
  CircleModel,
  fitCircle,
  type CircleFinding,
  type CircleTrace,
  type VirtualPlane,
} from "@iron/core";
import { solveFor } from "../packages/core/src/prove/circle/circle-solve";
import { bothWays, SETUP } from "../packages/core/src/prove/circle/circle-virtual.testing";

type Kind = CircleFinding["kind"];

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
}

/** One machine taken apart, mended where the most comes from, and read again. */
export function takeApart(
  plane: VirtualPlane,
  truth: (finding: CircleFinding) => number,
  { samples, seed }: { readonly samples: number; readonly seed: number },
): Apart {
  const known = { calibrated: false, barU: 0.0005 };
  const before = analyseCircle(bothWays(plane, { samples, seed }), SETUP, known);
  const put = before.findings
    .map((f) => ({ f, onCircle: f.value === 0 ? 0 : (f.onCircleMm * Math.abs(truth(f))) / Math.abs(f.value) }))
    .sort((a, b) => b.onCircle - a.onCircle);
  const largest = (found: readonly CircleFinding[]): CircleFinding => found[0];
  const ofAxis = (f: CircleFinding): boolean => f.axis !== null;
  const [found, foundOfAxis] = [largest(before.findings), before.findings.filter(ofAxis)[0]];
  const trueOfAxis = put.filter(({ f }) => ofAxis(f))[0].f;
  const after = analyseCircle(
    bothWays(mended(plane, found.kind, found.axis), { samples, seed: seed + 100_000 }),
    SETUP,
    known,
  );
  const leftOffMm = (found.without.gBothMm ?? NaN) - (after.quantities.gBoth ?? NaN);
  const part = found.value === 0 ? 0 : (found.onCircleMm * found.u) / Math.abs(found.value);
  const leftUMm = Math.hypot(before.quantitiesU, after.quantitiesU, part);
  return {
    rightAxis: trueOfAxis.axis === foundOfAxis.axis,
    rightPart: put[0].f.kind === found.kind && put[0].f.axis === found.axis,
    leftWithin: Math.abs(leftOffMm) <= leftUMm,
    leftOffMm,
    leftUMm,
  };
}

/** Steps of the general library that are waited for. */
const MOST_STEPS = 60;

/**
 * Our solution of the linear parts against a general Levenberg–Marquardt library at its defaults on the same readings and
 * the same parts, with the shape of the turns, which we look for as well, given to it for nothing; step by step until its
 * sum of squares is within a millionth of ours.
 */
export async function againstGeneral(traces: readonly CircleTrace[]): Promise<void> {
  const readings = traces.reduce((n, t) => n + t.angles.length, 0);
  let start = performance.now();
  const { shape } = fitCircle(traces, SETUP);
  const whole = performance.now() - start;
  const model = new CircleModel(SETUP, shape);
  start = performance.now();
  const { values: own } = solveFor(traces, model);
  const ours = performance.now() - start;
  const width = model.parts.length;
  const rows = new Float64Array(readings * width);
  const y: number[] = [];
  for (const { angles, deviations, direction } of traces)
    for (let i = 0; i < angles.length; i += 1) {
      model.fill(rows.subarray(y.length * width, (y.length + 1) * width), angles[i], direction);
      y.push(deviations[i]);
    }
  const x = y.map((_, i) => i);
  const sumAt = (parameters: ArrayLike<number>, i: number): number => {
    let sum = 0;
    for (let k = 0; k < width; k += 1) sum += rows[i * width + k] * parameters[k];
    return sum;
  };
  const squaresOf = (p: ArrayLike<number>): number => y.reduce((s, v, i) => s + (v - sumAt(p, i)) ** 2, 0);
  const squares = squaresOf(own);
  const { levenbergMarquardt } = await import("ml-levenberg-marquardt");
  let values: number[] = model.parts.map(() => 0);
  let [general, steps, left] = [0, 0, Infinity];
  while (left > squares * (1 + 1e-6) && steps < MOST_STEPS) {
    start = performance.now();
    const answer = levenbergMarquardt({ x, y }, (p: number[]) => (i: number) => sumAt(p, i), {
      initialValues: values,
      maxIterations: 1,
    });
    general += performance.now() - start;
    values = [...answer.parameterValues];
    steps += 1;
    left = squaresOf(values);
  }
  console.log(
    `${width} parts of ${readings} readings: ours ${ours.toFixed(0)} ms (${whole.toFixed(0)} ms with the shape of the turns and every U); ml-levenberg-marquardt ${general.toFixed(0)} ms in ${steps} steps, to ${(left / squares).toFixed(7)} of our sum of squares: ratio ${(ours / general).toFixed(4)} (aim 0.02)`,
  );
}

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
