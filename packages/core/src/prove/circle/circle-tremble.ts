import type { CircleDirection, CircleSetup, CircleTrace } from "./circle-trace";

/** A line of the tremble: bound to the turning of an axis, or to the clock. */
export type TrembleLine =
  | {
      readonly by: "order";
      readonly axis: 0 | 1;
      readonly letter: string;
      readonly perTurn: number;
      readonly mm: number;
    }
  | { readonly by: "hz"; readonly hz: number; readonly mm: number };

export interface Tremble {
  /** How much trembles along each axis, root mean square, mm; the bar’s own noise is in it. */
  readonly rmsMm: readonly [number, number];
  /** Its U, mm: from how much it differs round the circle. */
  readonly uMm: readonly [number, number];
  /** The strongest first. */
  readonly lines: readonly TrembleLine[];
  /** Where it is strongest: an eighth of the circle, of one direction. */
  readonly most: { readonly fromDeg: number; readonly direction: CircleDirection; readonly rmsMm: number } | null;
}

/** Readings that lines are sought in. */
const FEW = 6000;
/** Lines told at most. */
const LINES = 2;
/** How seldom noise alone makes a line, over all that are tried. */
const FALSE_LINE = 0.001;
/** A line smaller than this is nobody’s trouble, mm. */
const SMALLEST_MM = 0.0002;

interface Sample {
  readonly own: readonly [number, number];
  readonly turns: readonly [number, number];
  readonly time: number;
}

interface Series {
  readonly samples: readonly Sample[];
  readonly values: Float64Array;
  readonly rateHz: number;
}

function seriesOf(traces: readonly CircleTrace[], rest: readonly Float64Array[], setup: CircleSetup): Series {
  const count = rest.reduce((n, r) => n + r.length, 0);
  const every = Math.max(1, Math.ceil(count / FEW));
  const samples: Sample[] = [];
  const values: number[] = [];
  const perRad = setup.radiusMm / (setup.feedMmMin / 60);
  let shortest = Infinity;
  traces.forEach(({ angles, direction }, k) => {
    const since = angles[0];
    for (let i = 0; i < angles.length; i += every) {
      const own = [Math.cos(angles[i]), Math.sin(angles[i])] as const;
      const turn = (axis: 0 | 1): number => {
        const per = setup.axes[axis].perTurnMm;
        return per === null ? 0 : (setup.centreMm[axis] + setup.radiusMm * own[axis]) / per;
      };
      // The second way round begins long after the first: its lines need not be in step.
      const time = direction * (angles[i] - since) * perRad;
      samples.push({ own, turns: [turn(0), turn(1)], time });
      values.push(rest[k][i]);
      const before = samples.at(-2);
      if (i > 0 && before) shortest = Math.min(shortest, Math.max(1e-9, time - before.time));
    }
  });
  return { samples, values: Float64Array.from(values), rateHz: Number.isFinite(shortest) ? 1 / shortest : 0 };
}

/** Of one wave: how much of the series it makes, by least squares against its sine and cosine. */
function waveOf(
  { samples, values }: Series,
  phase: (s: Sample) => number,
  weight: (s: Sample) => number,
): { readonly power: number; readonly mm: number; readonly take: (i: number) => number } {
  let [ss, cc, sc, sy, cy] = [0, 0, 0, 0, 0];
  for (let i = 0; i < samples.length; i += 1) {
    const turn = 2 * Math.PI * phase(samples[i]);
    const w = weight(samples[i]);
    const [s, c] = [w * Math.sin(turn), w * Math.cos(turn)];
    ss += s * s;
    cc += c * c;
    sc += s * c;
    sy += s * values[i];
    cy += c * values[i];
  }
  const det = ss * cc - sc * sc;
  if (!(det > 1e-9 * ss * cc)) return { power: 0, mm: 0, take: () => 0 };
  const [a, b] = [(sy * cc - cy * sc) / det, (cy * ss - sy * sc) / det];
  return {
    power: a * sy + b * cy,
    mm: Math.hypot(a, b),
    take: (i) => {
      const turn = 2 * Math.PI * phase(samples[i]);
      return weight(samples[i]) * (a * Math.sin(turn) + b * Math.cos(turn));
    },
  };
}

interface Candidate {
  readonly line: TrembleLine;
  readonly power: number;
  readonly take: (i: number) => number;
}

/** A wave that is sought: what makes its phase, what it weighs at a sample, and which are tried. */
interface Sought {
  readonly phase: (s: Sample) => number;
  readonly weight: (s: Sample) => number;
  readonly from: number;
  readonly by: number;
  readonly count: number;
  readonly line: (wave: number, mm: number) => TrembleLine;
}

/** Powers of all waves that are tried: each sample turns on by as much from one wave to the next, no sine is worked out. */
function powersOf({ samples, values }: Series, { phase, weight, from, by, count }: Sought): Float64Array {
  const [sines, cosines] = [new Float64Array(count), new Float64Array(count)];
  let squares = 0;
  for (let i = 0; i < samples.length; i += 1) {
    const [at, w] = [phase(samples[i]), weight(samples[i])];
    const y = w * values[i];
    squares += w * w;
    const [turnS, turnC] = [Math.sin(2 * Math.PI * by * at), Math.cos(2 * Math.PI * by * at)];
    let [s, c] = [Math.sin(2 * Math.PI * from * at), Math.cos(2 * Math.PI * from * at)];
    for (let k = 0; k < count; k += 1) {
      sines[k] += s * y;
      cosines[k] += c * y;
      const next = c * turnC - s * turnS;
      s = s * turnC + c * turnS;
      c = next;
    }
  }
  // Sine and cosine each take half of the squares of their weights.
  return sines.map((s, k) => (2 * (s * s + cosines[k] * cosines[k])) / (squares || 1));
}

/** The strongest wave of a kind, if noise alone seldom makes one. */
function strongest(series: Series, sought: Sought): Candidate | null {
  if (sought.count < 3) return null;
  const powers = powersOf(series, sought);
  const best = powers.reduce((a, p, k) => (p > powers[a] ? k : a), 0);
  // Powers of noise fall off exponentially: its scale is its median over ln 2.
  const median = Float64Array.from(powers).sort()[Math.floor(powers.length / 2)];
  const seldom = (median / Math.LN2) * Math.log(powers.length / FALSE_LINE);
  if (!(powers[best] > seldom)) return null;
  const wave = sought.from + best * sought.by;
  const found = waveOf(series, (s) => wave * sought.phase(s), sought.weight);
  return found.mm >= SMALLEST_MM ? { ...found, line: sought.line(wave, found.mm) } : null;
}

const countOf = (from: number, to: number, by: number): number => Math.max(0, Math.floor((to - from) / by));

function candidates(series: Series, setup: CircleSetup): readonly Candidate[] {
  const { radiusMm, feedMmMin, axes } = setup;
  const sought = ([0, 1] as const).flatMap((axis): Sought[] => {
    const per = axes[axis].perTurnMm;
    if (per === null) return [];
    const most = Math.min(30, ((series.rateHz / 2.5) * per) / (feedMmMin / 60));
    const [from, by] = [1.5, per / (4 * radiusMm)];
    return [
      {
        phase: (s) => s.turns[axis],
        weight: (s) => s.own[axis],
        from,
        by,
        count: countOf(from, most, by),
        line: (perTurn, mm) => ({ by: "order", axis, letter: axes[axis].letter, perTurn, mm }),
      },
    ];
  });
  const seconds = series.samples.reduce((most, s) => Math.max(most, s.time), 1);
  const [from, by] = [2, 1 / (2 * seconds)];
  sought.push({
    phase: (s) => s.time,
    weight: () => 1,
    from,
    by,
    count: countOf(from, Math.min(200, series.rateHz / 2.5), by),
    line: (hz, mm) => ({ by: "hz", hz, mm }),
  });
  return sought.flatMap((one) => strongest(series, one) ?? []);
}

/** How much trembles along each axis: what goes along the first shows as cos², along the second as sin². */
function alongAxes(traces: readonly CircleTrace[], rest: readonly Float64Array[]): readonly [number, number] {
  let [cc, cs, ss, cy, sy] = [0, 0, 0, 0, 0];
  traces.forEach(({ angles }, k) => {
    for (let i = 0; i < angles.length; i += 1) {
      const c = Math.cos(angles[i]) ** 2;
      const r = rest[k][i] ** 2;
      cc += c * c;
      cs += c * (1 - c);
      ss += (1 - c) ** 2;
      cy += c * r;
      sy += (1 - c) * r;
    }
  });
  const det = cc * ss - cs * cs;
  const [a, b] = [(cy * ss - sy * cs) / det, (sy * cc - cy * cs) / det];
  // No axis trembles less than not at all.
  if (a < 0) return [0, Math.sqrt(Math.max(0, sy / ss))];
  return b < 0 ? [Math.sqrt(Math.max(0, cy / cc)), 0] : [Math.sqrt(a), Math.sqrt(b)];
}

function mostOf(traces: readonly CircleTrace[], rest: readonly Float64Array[]): Tremble["most"] {
  let most: Tremble["most"] = null;
  traces.forEach(({ angles, direction }, k) => {
    const sums = Array.from({ length: 8 }, () => ({ squares: 0, count: 0 }));
    angles.forEach((angle, i) => {
      const eighth = ((Math.floor(angle / (Math.PI / 4)) % 8) + 8) % 8;
      sums[eighth].squares += rest[k][i] ** 2;
      sums[eighth].count += 1;
    });
    sums.forEach(({ squares, count }, eighth) => {
      const rmsMm = Math.sqrt(squares / Math.max(1, count));
      if (count > 10 && (most === null || rmsMm > most.rmsMm)) most = { fromDeg: 45 * eighth, direction, rmsMm };
    });
  });
  return most;
}

/**
 * What trembles in a circle once its parts are taken out: how much along which axis, where, and whether it goes by the
 * turns of an axis or by the clock.
 * @param traces - as they were read
 * @param rest - what the model leaves, one for each trace, mm
 * @param setup - what was commanded
 * @returns root mean squares and lines
 * @example
 * const angles = Float64Array.from({ length: 3600 }, (_, i) => (i * Math.PI) / 1800);
 * const rest = angles.map((a) => 0.002 * Math.cos(a) * Math.sin(2 * Math.PI * 4 * ((300 + 100 * Math.cos(a)) / 10)));
 * const setup = { radiusMm: 100, feedMmMin: 1000, centreMm: [300, 200], axes: [{ letter: "X", perTurnMm: 10 }, { letter: "Y", perTurnMm: 10 }] };
 * trembleOf([{ direction: 1, angles, deviations: rest }], [rest], setup).lines[0].perTurn // 4.0
 */
export function trembleOf(traces: readonly CircleTrace[], rest: readonly Float64Array[], setup: CircleSetup): Tremble {
  const rms = alongAxes(traces, rest);
  const halves = rest.map((_, k) => alongAxes([traces[k]], [rest[k]]));
  const spread = (axis: 0 | 1): number => {
    const values = halves.map((h) => h[axis]);
    const half = values.length > 1 ? (Math.max(...values) - Math.min(...values)) / 2 : 0;
    return Math.max(half, 0.1 * rms[axis], SMALLEST_MM);
  };
  const series = seriesOf(traces, rest, setup);
  const lines: TrembleLine[] = [];
  const left = { ...series, values: Float64Array.from(series.values) };
  while (lines.length < LINES) {
    const found = candidates(left, setup);
    if (found.length === 0) break;
    const best = found.reduce((a, b) => (b.power > a.power ? b : a));
    lines.push(best.line);
    for (let i = 0; i < left.values.length; i += 1) left.values[i] -= best.take(i);
  }
  return { rmsMm: rms, uMm: [spread(0), spread(1)], lines, most: mostOf(traces, rest) };
}
