import { fft } from "fourier-transform";
import { hann } from "./short-frames";
import { resample } from "./resample";

/** Power against orders of the shaft, over the ways together. */
export interface OrderSpectrum {
  /** From one value to the next, orders. */
  readonly step: number;
  /** What two lines must be apart to be two: travel for a turn by the length of a way, orders. */
  readonly resolution: number;
  /** Power over what lies around it: 1 where nothing stands out. */
  readonly over: Float64Array;
  /** How many ways were averaged. */
  readonly averaged: number;
}

/** Values around a line that say what lies around it, orders either side. */
const AROUND = 1.6;

/** Middle one of some values. */
function middle(values: Float64Array): number {
  const sorted = Float64Array.from(values).sort();
  return sorted[sorted.length >> 1];
}

/** Power by what lies around it: a running median, which no line moves. */
function overAround(power: Float64Array, step: number): Float64Array {
  const half = Math.max(8, Math.round(AROUND / step));
  const every = Math.max(1, Math.round(half / 6));
  const centres = Array.from({ length: Math.ceil(power.length / every) + 1 }, (_, j) => j * every);
  const base = centres.map((c) => {
    const from = Math.max(1, Math.min(c - half, power.length - 2 * half));
    return middle(power.subarray(from, Math.min(power.length, from + 2 * half))) + 1e-30;
  });
  return power.map((p, i) => {
    const j = Math.floor(i / every);
    const part = i / every - j;
    return p / (base[j] * (1 - part) + base[Math.min(j + 1, base.length - 1)] * part);
  });
}

/**
 * Spectrum of an envelope in orders of the shaft: each way resampled evenly by the angle, its mean taken off, under a Hann
 * window, and the powers of all averaged.
 * @param ways - the envelope of each way, piece by piece, all of one length
 * @param options - `rate`: pieces a second; `turnsPerS`: of the shaft; `most`: highest order wanted
 * @returns power over what lies around, by order; null where a way is shorter than four turns
 * @example orderSpectrum([new Float64Array(10)], { rate: 100, turnsPerS: 1, most: 8 }) // null
 */
export function orderSpectrum(
  ways: readonly Float64Array[],
  { rate, turnsPerS, most }: { readonly rate: number; readonly turnsPerS: number; readonly most: number },
): OrderSpectrum | null {
  const length = Math.min(...ways.map((w) => w.length));
  const turns = (length / rate) * turnsPerS;
  if (ways.length === 0 || turns < 4) return null;
  const perTurn = Math.min(2.4 * most, (0.98 * rate) / turnsPerS);
  const count = Math.floor(turns * perTurn);
  const size = 2 ** Math.ceil(Math.log2(2 * count));
  const window = hann(count);
  const power = new Float64Array(size / 2);
  const positions = Float64Array.from({ length: count }, (_, i) => (i * rate) / (perTurn * turnsPerS));
  for (const way of ways) {
    const even = resample(way, positions);
    const level = even.reduce((a, b) => a + b, 0) / count || 1;
    const piece = new Float64Array(size);
    for (let i = 0; i < count; i += 1) piece[i] = (even[i] / level - 1) * window[i];
    const [re, im] = fft(piece);
    for (let b = 0; b < power.length; b += 1) power[b] += (re[b] * re[b] + im[b] * im[b]) / ways.length;
  }
  const step = perTurn / size;
  const kept = power.subarray(0, Math.min(power.length, Math.floor(most / step)));
  return { step, resolution: 1 / turns, over: overAround(kept, step), averaged: ways.length };
}
