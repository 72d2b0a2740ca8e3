import { fft } from "fourier-transform";
import { requireBound } from "../quantity";
import type { Span } from "./decibels";

/** Power in short pieces of a recording, piece by piece and bin by bin. */
export interface ShortFrames {
  /** Pieces a second. */
  readonly rate: number;
  /** Width of a bin, Hz. */
  readonly binHz: number;
  readonly bins: number;
  readonly count: number;
  /** `count` × `bins`: mean square of the signal in the bin, in its unit squared. */
  readonly power: Float32Array;
}

/**
 * A window that falls to nothing at both ends (Hann).
 * @param size - samples
 * @returns its weights
 * @example hann(4)[2] // 1
 */
export function hann(size: number): Float64Array {
  const window = new Float64Array(size);
  for (let i = 0; i < size; i += 1) window[i] = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size);
  return window;
}

/**
 * Power in short, overlapping pieces under a Hann window.
 * @param samples - the recording
 * @param options - `rate`: samples a second; `size`: of a piece, a power of two; `hop`: from one to the next, samples;
 *   `bins`: how many from the lowest are kept
 * @returns mean squares; the sum over bins is that of the signal
 * @throws BoundError when the recording is shorter than a piece
 * @example shortFrames(new Float32Array(64).fill(1), { rate: 48000, size: 64, hop: 16, bins: 4 }).count // 1
 */
export function shortFrames(
  samples: Float32Array,
  {
    rate,
    size,
    hop,
    bins,
  }: { readonly rate: number; readonly size: number; readonly hop: number; readonly bins: number },
): ShortFrames {
  requireBound({ samples: samples.length }, samples.length >= size, `at least ${size}`);
  const window = hann(size);
  let weight = 0;
  for (const w of window) weight += w * w;
  const count = Math.floor((samples.length - size) / hop) + 1;
  const power = new Float32Array(count * bins);
  const piece = new Float64Array(size);
  const out: [Float64Array, Float64Array] = [new Float64Array(size / 2 + 1), new Float64Array(size / 2 + 1)];
  const [re, im] = out;
  for (let k = 0; k < count; k += 1) {
    for (let i = 0, at = k * hop; i < size; i += 1, at += 1) piece[i] = samples[at] * window[i];
    fft(piece, out);
    for (let b = 0; b < bins; b += 1) {
      const twice = b === 0 || b === size / 2 ? 1 : 2;
      power[k * bins + b] = (twice * (re[b] * re[b] + im[b] * im[b])) / (size * weight);
    }
  }
  return { rate: rate / hop, binHz: rate / size, bins, count, power };
}

/**
 * Mean power of some bins in each piece.
 * @param frames - the pieces
 * @param bins - first bin, and the one after the last
 * @returns a value for each piece
 * @example bandOf({ rate: 1, binHz: 1, bins: 2, count: 1, power: Float32Array.of(1, 2) }, [0, 2])[0] // 3
 */
export function bandOf(frames: ShortFrames, [from, to]: readonly [number, number]): Float64Array {
  const band = new Float64Array(frames.count);
  for (let k = 0; k < frames.count; k += 1) {
    let sum = 0;
    for (let b = from; b < to; b += 1) sum += frames.power[k * frames.bins + b];
    band[k] = sum;
  }
  return band;
}

/**
 * Pieces that lie between two instants.
 * @param frames - how many a second, and how many there are
 * @param span - from and to, s
 * @returns first piece, and the one after the last
 * @example framesBetween({ rate: 100, count: 500 }, [1, 2]) // [100, 200]
 */
export function framesBetween(
  frames: Pick<ShortFrames, "rate" | "count">,
  [fromS, toS]: readonly [number, number],
): readonly [number, number] {
  const inside = (s: number): number => Math.min(frames.count, Math.max(0, Math.round(s * frames.rate)));
  return [inside(fromS), inside(toS)];
}

/**
 * Mean power of each bin over some stretches together.
 * @param frames - the pieces
 * @param spans - stretches: first piece, and the one after the last
 * @returns a value for each bin
 * @example meanOver({ rate: 1, binHz: 1, bins: 1, count: 3, power: Float32Array.of(1, 2, 6) }, [[0, 3]])[0] // 3
 */
export function meanOver(frames: ShortFrames, spans: readonly Span[]): Float64Array {
  const mean = new Float64Array(frames.bins);
  let count = 0;
  for (const [from, to] of spans) {
    count += to - from;
    for (let k = from; k < to; k += 1)
      for (let b = 0; b < frames.bins; b += 1) mean[b] += frames.power[k * frames.bins + b];
  }
  return mean.map((sum) => sum / Math.max(1, count));
}
