import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/** White noise of unit variance, and numbers from 0 to 1: the same seed gives the same. */
export interface SoundLuck {
  readonly uniform: () => number;
  readonly white: () => number;
  /** How this machine happens to be built, from 0 to 1: the same on every occasion. */
  readonly built: () => number;
}

function generatorFrom(seed: number): ReturnType<typeof xoroshiro128plus> {
  const generator = xoroshiro128plus(Math.imul(seed, 0x9e3779b1) ^ 0x5bd1e995);
  for (let i = 0; i < 8; i += 1) generator.next();
  return generator;
}

/**
 * Numbers for one source of sound.
 * @param occasion - which sequence
 * @param machine - which machine it is
 * @returns draws from 0 to 1, of unit variance, and how the machine is built
 * @example soundLuck(1, 1).uniform() === soundLuck(1, 2).uniform() // true
 */
export function soundLuck(occasion: number, machine: number): SoundLuck {
  const noise = generatorFrom(occasion);
  const build = generatorFrom(machine + 0x2545f4);
  // Whole numbers of 32 bits, with their sign, are fine enough for noise.
  const unit = Math.sqrt(3) / 2 ** 31;
  return {
    uniform: () => uniformFloat64(noise),
    white: () => unit * (noise.next() | 0),
    built: () => uniformFloat64(build),
  };
}

/** Something that rings: a housing, a tube, a casting. */
export interface Ring {
  readonly hz: number;
  /** How fast it dies away to a third, s. */
  readonly tauS: number;
  readonly gain: number;
}

/**
 * Adds to `out` what rings when it is struck: a damped spring, of unit height for a unit blow.
 * @param out - added to, sample by sample
 * @param blows - what strikes it, sample by sample
 * @param options - the ring, and samples a second
 * @example
 * const out = new Float32Array(100);
 * addRing(out, Float32Array.of(1, ...new Array(99).fill(0)), { ring: { hz: 1000, tauS: 0.001, gain: 1 }, rate: 48000 });
 * Math.max(...out) < 1 // true
 */
export function addRing(
  out: Float32Array,
  blows: Float32Array,
  { ring, rate }: { readonly ring: Ring; readonly rate: number },
): void {
  const decay = Math.exp(-1 / (ring.tauS * rate));
  const turn = (2 * Math.PI * ring.hz) / rate;
  const a1 = 2 * decay * Math.cos(turn);
  const a2 = -decay * decay;
  const gain = ring.gain * Math.sin(turn);
  let [y1, y2] = [0, 0];
  for (let i = 0; i < out.length; i += 1) {
    const y = a1 * y1 + a2 * y2 + blows[i];
    y2 = y1;
    y1 = Math.abs(y) < 1e-20 ? 0 : y;
    out[i] += gain * y;
  }
}

/**
 * Root mean square.
 * @param signal - samples
 * @param from - first of them
 * @returns in their unit, 0 where there is none
 * @example rootMeanSquare(Float32Array.of(3, -3), 0) // 3
 */
export function rootMeanSquare(signal: Float32Array, from: number): number {
  let sum = 0;
  for (let i = from; i < signal.length; i += 1) sum += signal[i] * signal[i];
  return signal.length > from ? Math.sqrt(sum / (signal.length - from)) : 0;
}
