import { decibels, levelDb, type Span } from "./decibels";
import { meanOver, type ShortFrames } from "./short-frames";
import type { SoundWay } from "./sound-plan";
import { bandPowers, thirdOctaves } from "./third-octaves";

export interface SoundBand {
  readonly midHz: number;
  readonly movingDb: number;
  readonly stillDb: number;
  /** Standard deviation of its mean over the ways, dB. */
  readonly scatterDb: number;
}

/** How the level goes along the way, in low and high bands, dB: end less beginning, and middle less both. */
export interface SoundAlong {
  readonly lowSlope: number;
  readonly lowMiddle: number;
  readonly highSlope: number;
  readonly highMiddle: number;
  /** How far the loudest thirtieth of the way stands out in the high band, and in the low one, dB. */
  readonly spotDb: number;
  readonly spotLowDb: number;
  /** The same of the loudest twelfth: what is bad over a hand’s breadth stands out there, where a thirtieth scatters more. */
  readonly patchDb: number;
  readonly patchLowDb: number;
}

/**
 * Third octaves of a recording, moving and standing.
 * @param slow - pieces that tell them apart
 * @param options - `ways`, `still`: where it moves and where it stands
 * @returns levels from 125 Hz to 16 kHz
 * @example
 * const frames = shortFrames(new Float32Array(4096).fill(0.1), { rate: 48000, size: 1024, hop: 256, bins: 360 });
 * soundBands(frames, { ways: [[0, 4]], still: [4, 8] }).length // 22
 */
export function soundBands(
  slow: ShortFrames,
  { ways, still }: { readonly ways: readonly Span[]; readonly still: Span },
): readonly SoundBand[] {
  const octaves = thirdOctaves(125, 16_000);
  const quiet = bandPowers(meanOver(slow, [still]), slow.binHz, octaves);
  const loud = ways.map((way) => bandPowers(meanOver(slow, [way]), slow.binHz, octaves));
  return octaves.map(({ midHz }, b) => {
    const levels = loud.map((way) => levelDb(way[b]));
    const mean = levels.reduce((s, x) => s + x, 0) / levels.length;
    const spread = levels.reduce((s, x) => s + (x - mean) ** 2, 0) / Math.max(1, levels.length - 1);
    return {
      midHz,
      movingDb: levelDb(loud.reduce((s, way) => s + way[b], 0) / loud.length),
      stillDb: levelDb(quiet[b]),
      scatterDb: Math.sqrt(spread / levels.length),
    };
  });
}

/** Places along the way that its level is told in. */
export const SOUND_PLACES = 60;

/**
 * Level place by place along the way, both directions laid over each other.
 * @param band - power, piece by piece
 * @param ways - which way each went, and where it lies
 * @param places - into how many the way is parted
 * @returns mean power of each, from the lower end
 * @example placesOf(new Float64Array(100).fill(2), { ways: [{ direction: 1 }], spans: [[0, 100]] }, 10)[4] // 2
 */
export function placesOf(
  band: Float64Array,
  { ways, spans }: { readonly ways: readonly Pick<SoundWay, "direction">[]; readonly spans: readonly Span[] },
  places: number,
): readonly number[] {
  const sums = new Array<number>(places).fill(0);
  spans.forEach(([from, to], w) => {
    const count = new Array<number>(places).fill(0);
    const power = new Array<number>(places).fill(0);
    for (let k = from; k < to; k += 1) {
      const along = Math.floor((places * (k - from)) / (to - from));
      const at = ways[w].direction === 1 ? along : places - 1 - along;
      power[at] += band[k];
      count[at] += 1;
    }
    power.forEach((p, at) => (sums[at] += p / Math.max(1, count[at]) / spans.length));
  });
  return sums;
}

/**
 * How levels go along the way: what is bad at one place stands out there.
 * @param low - power of the low band, place by place
 * @param high - of the high band
 * @returns slopes, middles and spots, dB
 * @example alongWay([1, 1, 1, 1, 1, 1, 1, 1, 1, 1], [1, 1, 1, 1, 1, 1, 1, 10, 10, 10]).highSlope // 10
 */
export function alongWay(low: readonly number[], high: readonly number[]): SoundAlong {
  const level = (of: readonly number[], from: number, to: number): number => {
    const part = of.slice(Math.round(from * of.length), Math.round(to * of.length));
    return decibels(part.reduce((a, b) => a + b, 0) / part.length);
  };
  const shape = (of: readonly number[]): Span => [
    level(of, 0.7, 1) - level(of, 0, 0.3),
    level(of, 0.4, 0.6) - (level(of, 0, 0.2) + level(of, 0.8, 1)) / 2,
  ];
  // The piece is slid along: it need not begin where a place does.
  const over = (of: readonly number[], share: number): number => {
    const wide = Math.max(1, Math.round(share * of.length));
    const slid = of.slice(wide - 1).map((_, i) => of.slice(i, i + wide).reduce((a, b) => a + b, 0) / wide);
    const sorted = slid.sort((a, b) => a - b);
    return decibels(sorted[sorted.length - 1] / sorted[(sorted.length >> 1) - 1]);
  };
  const [spot, patch] = [1 / 30, 1 / 12];
  const [lowSlope, lowMiddle] = shape(low);
  const [highSlope, highMiddle] = shape(high);
  return {
    ...{ lowSlope, lowMiddle, highSlope, highMiddle },
    ...{ spotDb: over(high, spot), spotLowDb: over(low, spot) },
    ...{ patchDb: over(high, patch), patchLowDb: over(low, patch) },
  };
}
