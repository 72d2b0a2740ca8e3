import { normalEquations, solveLinear } from "../lostmotion/nnls";
import { BoundError } from "../quantity";

/** One sample of a load trace: load in whatever unit, % or A; its sign is that of the force. */
export interface LoadSample {
  readonly positionMm: number;
  readonly direction: "+" | "-";
  readonly load: number;
}

/** A parameter with its standard uncertainty. */
export interface LoadPart {
  readonly value: number;
  readonly u: number;
  /** More than three of its own uncertainties, and more than a tenth of the friction. */
  readonly real: boolean;
}

export interface LocalSpot {
  readonly fromMm: number;
  readonly toMm: number;
  readonly peakMm: number;
  readonly extra: number;
}

export interface LoadTrace {
  readonly friction: LoadPart;
  readonly gravity: LoadPart;
  readonly lowEnd: LoadPart;
  readonly highEnd: LoadPart;
  /** Amplitude of the once-per-turn ripple. */
  readonly perTurn: LoadPart;
  readonly spots: readonly LocalSpot[];
  readonly scatter: number;
  /** Modelled load for each sample that was used, in order of the input; null where it was cut off. */
  readonly fitted: readonly (number | null)[];
  readonly cutOff: number;
}

export interface LoadTraceOptions {
  readonly perTurnMm: number;
  /** Cut off at each end of each stroke; null finds it from the travel. */
  readonly cutMm?: number | null;
}

/** How much of the travel the rise towards an end may take: the one that fits best is used. */
const END_PARTS = [0.15, 0.2, 0.25, 0.3, 1 / 3, 0.4, 0.5];
const TUKEY = 4.685;

/**
 * Separates a load trace: load = friction·direction + gravity + rises at the ends + once-per-turn
 * ripple + local spots. Robust (Tukey's biweight, iterated): spots and acceleration zones do not
 * bend the rest; spots are what is left over, in one place and both ways.
 * @throws BoundError when there are too few samples or only one direction
 */
export function analyseLoadTrace(samples: readonly LoadSample[], options: LoadTraceOptions): LoadTrace {
  const places = samples.map((s) => s.positionMm);
  const [low, high] = [Math.min(...places), Math.max(...places)];
  const span = high - low;
  if (samples.length < 40) throw new BoundError('samples', samples.length, 'at least 40');
  if (!samples.some((s) => s.direction === '+') || !samples.some((s) => s.direction === '-'))
    throw new BoundError('directions', 1, '2: one traverse each way');
  if (!(span > 0)) throw new BoundError('traverse, mm', span, 'above 0');
  const cut = options.cutMm ?? 0.03 * span;
  const used = samples.map((s) => s.positionMm >= low + cut && s.positionMm <= high - cut);
  const ripple = span > 3 * options.perTurnMm;
  const row = (s: LoadSample, endPart: number): number[] => {
    const d = s.direction === '+' ? 1 : -1;
    const at = (s.positionMm - low) / span;
    const turn = (2 * Math.PI * s.positionMm) / options.perTurnMm;
    const parts = [d, 1, d * Math.max(0, (endPart - at) / endPart), d * Math.max(0, (at - 1 + endPart) / endPart)];
    return ripple ? [...parts, d * Math.sin(turn), d * Math.cos(turn)] : parts;
  };
  const kept = samples.filter((_, i) => used[i]);
  const loads = kept.map((s) => s.load);
  const fits = END_PARTS.map((endPart) => {
    const rows = kept.map((s) => row(s, endPart));
    return { rows, ...robustFit(rows, loads) };
  });
  const fit = fits.reduce((a, b) => (b.misfit < a.misfit ? b : a));
  const { rows } = fit;
  const { x, scatter, covariance } = fit;
  const part = (i: number): LoadPart => {
    const u = Math.sqrt(covariance[i][i]);
    return { value: x[i], u, real: Math.abs(x[i]) > 3 * u && Math.abs(x[i]) > 0.1 * Math.abs(x[0]) };
  };
  const amplitude = ripple ? Math.hypot(x[4], x[5]) : 0;
  const uAmplitude = ripple ? Math.sqrt((covariance[4][4] + covariance[5][5]) / 2) : 0;
  const predicted = rows.map((r) => r.reduce((s, a, i) => s + a * x[i], 0));
  let next = 0;
  return {
    friction: part(0), gravity: part(1), lowEnd: part(2), highEnd: part(3),
    perTurn: { value: amplitude, u: uAmplitude, real: ripple && amplitude > 3.5 * uAmplitude && amplitude > 0.12 * Math.abs(x[0]) },
    spots: localSpots(kept, loads.map((l, i) => l - predicted[i]), scatter, Math.abs(x[0])),
    scatter,
    fitted: used.map((u) => (u ? predicted[next++] : null)),
    cutOff: samples.length - kept.length,
  };
} // prettier-ignore

function robustFit(rows: readonly (readonly number[])[], loads: readonly number[]): { x: number[]; scatter: number; covariance: number[][]; misfit: number } {
  let weights = loads.map(() => 1);
  let x: number[] = [];
  let scatter = 0;
  let misfit = 0;
  for (let round = 0; round < 25; round += 1) {
    const { matrix, right } = normalEquations(rows, loads, weights);
    const solved = solveLinear(matrix, right);
    if (!solved) throw new BoundError('samples', rows.length, 'spread over the travel in both directions');
    const moved = x.length ? Math.max(...solved.map((v, i) => Math.abs(v - x[i]))) : Infinity;
    x = solved;
    const residuals = loads.map((l, i) => l - rows[i].reduce((s, a, k) => s + a * x[k], 0));
    misfit = residuals.reduce((s, r) => s + Math.abs(r), 0) / residuals.length;
    scatter = Math.max(median(residuals.map(Math.abs)) / 0.6745, 1e-9);
    weights = residuals.map((r) => {
      const z = r / (TUKEY * scatter);
      return Math.abs(z) < 1 ? (1 - z * z) ** 2 + 1e-9 : 1e-9;
    });
    if (moved < 1e-9 * Math.max(1, Math.abs(x[0]))) break;
  }
  const { matrix } = normalEquations(rows, loads, weights);
  const covariance = matrix.map((_, c) => (solveLinear(matrix, matrix.map((__, i) => (i === c ? 1 : 0))) ?? []).map((v) => v * scatter * scatter));
  return { x, scatter, covariance, misfit };
} // prettier-ignore

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
} // prettier-ignore

/** Stretches of the travel where the load against the motion is higher than the rest explains, both ways. */
function localSpots(samples: readonly LoadSample[], residuals: readonly number[], scatter: number, friction: number): LocalSpot[] {
  const places = samples.map((s) => s.positionMm);
  const [low, high] = [Math.min(...places), Math.max(...places)];
  const bins = Math.min(120, Math.max(20, Math.floor(samples.length / 8)));
  const width = (high - low) / bins;
  const sums = { '+': new Float64Array(bins), '-': new Float64Array(bins) };
  const counts = { '+': new Float64Array(bins), '-': new Float64Array(bins) };
  samples.forEach((s, i) => {
    const b = Math.min(bins - 1, Math.floor((s.positionMm - low) / width));
    sums[s.direction][b] += (s.direction === '+' ? 1 : -1) * residuals[i];
    counts[s.direction][b] += 1;
  });
  const extra = Array.from({ length: bins }, (_, b) => {
    const up = sums['+'][b] / Math.max(1, counts['+'][b]);
    const down = sums['-'][b] / Math.max(1, counts['-'][b]);
    const n = counts['+'][b] + counts['-'][b];
    const limit = Math.max((4.5 * scatter) / Math.sqrt(Math.max(1, n)), 0.25 * friction);
    const bothWays = counts['+'][b] > 0 && counts['-'][b] > 0 && Math.min(up, down) > limit / 2;
    return bothWays && (up + down) / 2 > limit ? (up + down) / 2 : 0;
  });
  const spots: LocalSpot[] = [];
  for (let b = 0; b < bins; b += 1) {
    if (extra[b] === 0) continue;
    let end = b;
    while (end + 1 < bins && extra[end + 1] > 0) end += 1;
    let peak = b;
    for (let k = b; k <= end; k += 1) if (extra[k] > extra[peak]) peak = k;
    spots.push({ fromMm: low + b * width, toMm: low + (end + 1) * width, peakMm: low + (peak + 0.5) * width, extra: extra[peak] });
    b = end;
  }
  return spots;
} // prettier-ignore
