import { decibels, type Span } from "./decibels";
import { bandOf, type ShortFrames } from "./short-frames";
import { placesOf } from "./sound-levels";
import type { SoundWay } from "./sound-plan";

/** Blows: what stands out of the high band for a moment. */
export interface SoundBlows {
  readonly perTurn: number;
  /** How far the strongest hundredth stands out, dB. */
  readonly heightDb: number;
  /** Share of their energy in the most struck tenth of the way; a tenth where they come anywhere. */
  readonly oneSpot: number;
}

/** A band of the envelope, and its spectral kurtosis: 0 for noise. */
export interface SoundEnvelope {
  readonly fromHz: number;
  readonly toHz: number;
  readonly kurtosis: number;
}

function kurtosisOf(band: Float64Array, spans: readonly Span[]): number {
  let [n, first, second] = [0, 0, 0];
  for (const [from, to] of spans)
    for (let k = from; k < to; k += 1) {
      n += 1;
      first += band[k];
      second += band[k] * band[k];
    }
  return n > 0 && first > 0 ? (second * n) / (first * first) - 1 : 0;
}

/**
 * Of single bins, pairs and fours the band whose power jumps most, weighed by how much scatter its width leaves: spectral
 * kurtosis over short pieces (Antoni 2006, from memory).
 * @param quick - short pieces
 * @param spans - where it moves
 * @returns the band, and how far it is from noise: 0 for noise
 * @example
 * const frames = shortFrames(Float32Array.from({ length: 4800 }, (_, i) => Math.sin(i * i)), { rate: 48000, size: 64, hop: 16, bins: 16 });
 * unlikeNoise(frames, [[0, 290]]).bins.length // 2
 */
export function unlikeNoise(quick: ShortFrames, spans: readonly Span[]): SoundEnvelope & { readonly bins: Span } {
  let best = { bins: [2, 6] as Span, over: -Infinity, kurtosis: 0 };
  for (const width of [1, 2, 4])
    for (let from = 1; from + width <= quick.bins; from += width > 1 ? width / 2 : 1) {
      const bins = [from, from + width] as const;
      const kurtosis = kurtosisOf(bandOf(quick, bins), spans) - 1.3 / width;
      const over = kurtosis * Math.sqrt(width);
      if (over > best.over) best = { bins, over, kurtosis };
    }
  const [from, to] = best.bins;
  return {
    bins: best.bins,
    fromHz: (from - 0.5) * quick.binHz,
    toHz: (to - 0.5) * quick.binHz,
    kurtosis: best.kurtosis,
  };
}

/**
 * Blows in a band: moments in which it is eight times as strong as usual.
 * @param band - its power, piece by piece
 * @param ways - which way each went
 * @param options - `spans`: where each lies; `rate`: pieces a second; `turnsPerS`: of the shaft
 * @returns how many a turn, how high, and whether in one spot
 * @example
 * const band = Float64Array.from({ length: 1000 }, (_, i) => (i % 100 === 50 ? 40 : 1));
 * blowsIn(band, [{ direction: 1 }], { spans: [[0, 1000]], rate: 1000, turnsPerS: 10 }).perTurn // 1
 */
export function blowsIn(
  band: Float64Array,
  ways: readonly Pick<SoundWay, "direction">[],
  { spans, rate, turnsPerS }: { readonly spans: readonly Span[]; readonly rate: number; readonly turnsPerS: number },
): SoundBlows {
  const values: number[] = [];
  for (const [from, to] of spans) for (let k = from; k < to; k += 1) values.push(band[k]);
  const sorted = Float64Array.from(values).sort();
  const middle = sorted[sorted.length >> 1] || 1e-12;
  const strong = sorted[Math.floor(0.99 * sorted.length)];
  const bar = 8 * middle;
  let [count, inside] = [0, false];
  const over = new Float64Array(band.length);
  for (const [from, to] of spans)
    for (let k = from; k < to; k += 1) {
      const above = band[k] > bar;
      if (above && !inside) count += 1;
      inside = above;
      if (above) over[k] = band[k];
    }
  const spread = placesOf(over, { ways, spans }, 10);
  const sum = spread.reduce((a, b) => a + b, 0);
  return {
    perTurn: count / Math.max(1e-9, (values.length / rate) * turnsPerS),
    heightDb: decibels(strong / middle),
    oneSpot: sum > 0 ? Math.max(...spread) / sum : 0.1,
  };
}
