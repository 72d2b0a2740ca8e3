import { decibels, type Span } from "./decibels";
import { orderSpectrum } from "./order-spectrum";
import { bandOf, meanOver, type ShortFrames } from "./short-frames";
import type { SoundPlan, SoundTiming } from "./sound-plan";

/** The tone that stands out most. */
export interface SoundTone {
  readonly hz: number;
  /** How far it stands out of what lies beside it, dB. */
  readonly overDb: number;
  /** How deep it swells, 0 to 1, and how often a turn. */
  readonly depth: number;
  readonly perTurn: number;
}

/** How much louder it is where it turns round, dB. */
export interface SoundKnock {
  /** Than where it first sets off. */
  readonly firstDb: number;
  /** Than on its way. */
  readonly wayDb: number;
}

export interface SoundStill {
  /** How far the level goes up and down, dB. */
  readonly unrestDb: number;
  /** How much of it lies between 200 and 1500 Hz, dB. */
  readonly midDb: number;
}

/**
 * The tone between 200 and 2000 Hz that stands out most of what lies beside it, and how it swells.
 * @param slow - pieces that tell tones apart
 * @param spans - where it moves
 * @param turnsPerS - of the shaft
 * @returns the tone
 * @example
 * const samples = Float32Array.from({ length: 48000 }, (_, i) => Math.sin((2 * Math.PI * 750 * i) / 48000) + 0.01 * Math.sin(i * i));
 * toneIn(shortFrames(samples, { rate: 48000, size: 1024, hop: 256, bins: 360 }), [[0, 180]], 5).hz // 750
 */
export function toneIn(slow: ShortFrames, spans: readonly Span[], turnsPerS: number): SoundTone {
  const mean = meanOver(slow, spans);
  let [at, over] = [5, -Infinity];
  for (let b = Math.ceil(200 / slow.binHz); b * slow.binHz <= 2000; b += 1) {
    const near = (mean[b - 4] + mean[b - 3] + mean[b + 3] + mean[b + 4]) / 4;
    const stands = decibels((mean[b - 1] + mean[b] + mean[b + 1]) / (3 * near));
    if (stands > over) [at, over] = [b, stands];
  }
  const band = bandOf(slow, [at - 1, at + 2]);
  const swells = orderSpectrum(
    spans.map(([from, to]) => band.slice(from, to)),
    { rate: slow.rate, turnsPerS, most: Math.min(2, (0.4 * slow.rate) / turnsPerS) },
  );
  let [perTurn, most] = [0, 1];
  if (swells)
    for (let i = Math.ceil(0.25 / swells.step); i < swells.over.length; i += 1)
      if (swells.over[i] > most) [perTurn, most] = [i * swells.step, swells.over[i]];
  return { hz: at * slow.binHz, overDb: over, depth: Math.min(1, decibels(most) / 20), perTurn };
}

/**
 * How much louder it is where it sets off after a turn round: than where it first sets off, and than on its way.
 * @param low - power of the low band, piece by piece
 * @param options - `rate`: pieces a second; `timing`, `plan`: when it turns; `spans`: where it moves
 * @returns dB, 0 where it never turns
 * @example knockIn(new Float64Array(9).fill(1), { rate: 1, timing: { startS: 1, eachS: 2, contrastDb: 9 }, plan: { passes: 1 }, spans: [[0, 9]] }).firstDb // 0
 */
export function knockIn(
  low: Float64Array,
  {
    rate,
    timing,
    plan,
    spans,
  }: {
    readonly rate: number;
    readonly timing: SoundTiming;
    readonly plan: Pick<SoundPlan, "passes">;
    readonly spans: readonly Span[];
  },
): SoundKnock {
  const at = (s: number): number => {
    let most = 0;
    const [from, to] = [Math.round((s - 0.06) * rate), Math.round((s + 0.1) * rate)];
    for (let k = Math.max(0, from); k < Math.min(low.length, to); k += 1) most = Math.max(most, low[k]);
    return most + 1e-14;
  };
  const turns = Array.from({ length: plan.passes - 1 }, (_, k) => at(timing.startS + (k + 1) * timing.eachS)).sort(
    (a, b) => a - b,
  );
  if (turns.length === 0) return { firstDb: 0, wayDb: 0 };
  let [sum, count] = [0, 0];
  for (const [from, to] of spans)
    for (let k = from; k < to; k += 1) {
      sum += low[k];
      count += 1;
    }
  const middle = turns[turns.length >> 1];
  return { firstDb: decibels(middle / at(timing.startS)), wayDb: decibels((middle * count) / (sum + 1e-14)) };
}

/**
 * How far the narrowest ring between 1 and 4 kHz stands out of what lies beside it: tubes and sheet ring long.
 * @param slow - pieces that tell tones apart
 * @param spans - where it moves
 * @returns dB
 * @example
 * const samples = Float32Array.from({ length: 48000 }, (_, i) => Math.sin((2 * Math.PI * 1500 * i) / 48000) + Math.sin(i * i));
 * ringIn(shortFrames(samples, { rate: 48000, size: 1024, hop: 256, bins: 360 }), [[0, 180]]) > 6 // true
 */
export function ringIn(slow: ShortFrames, spans: readonly Span[]): number {
  const mean = meanOver(slow, spans);
  let most = -Infinity;
  for (let b = Math.ceil(1000 / slow.binHz); b * slow.binHz <= 4000; b += 1) {
    const near = (mean[b - 5] + mean[b - 4] + mean[b - 3] + mean[b + 3] + mean[b + 4] + mean[b + 5]) / 6;
    most = Math.max(most, decibels((mean[b - 1] + mean[b] + mean[b + 1]) / (3 * near + 1e-30)));
  }
  return most;
}

/**
 * What is heard while it stands.
 * @param slow - pieces that tell tones apart
 * @param span - where it stands
 * @returns how far its level goes up and down, and how much of it lies in the middle
 * @example
 * const frames = shortFrames(new Float32Array(48000).fill(0.1), { rate: 48000, size: 1024, hop: 256, bins: 360 });
 * stillIn(frames, [0, 180]).unrestDb < 0.1 // true
 */
export function stillIn(slow: ShortFrames, [from, to]: Span): SoundStill {
  const mid = bandOf(slow, [Math.round(200 / slow.binHz), Math.round(1500 / slow.binHz)]);
  const all = bandOf(slow, [2, slow.bins]);
  const levels: number[] = [];
  let [inside, whole] = [0, 0];
  const piece = Math.max(1, Math.round(0.05 * slow.rate));
  for (let k = from; k + piece <= to; k += piece) {
    let sum = 0;
    for (let j = k; j < k + piece; j += 1) sum += mid[j];
    levels.push(decibels(sum));
  }
  for (let k = from; k < to; k += 1) {
    inside += mid[k];
    whole += all[k];
  }
  const mean = levels.reduce((a, b) => a + b, 0) / Math.max(1, levels.length);
  const spread = levels.reduce((s, x) => s + (x - mean) ** 2, 0) / Math.max(1, levels.length - 1);
  return { unrestDb: Math.sqrt(spread), midDb: decibels(inside / (whole + 1e-30)) };
}
