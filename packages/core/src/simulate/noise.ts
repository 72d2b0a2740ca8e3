import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/** Stirs all bits of a whole number into each other (the finaliser of MurmurHash3, Appleby 2008, from memory). */
function stirred(whole: number): number {
  let h = whole | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/**
 * A standard normal number that depends only on `seed` and `count`: a stand-in that is stopped and
 * started again goes on with the same noise. Box–Muller on xoroshiro128+.
 * @param seed - which sequence
 * @param count - which number of it, 0 or more
 * @returns a number from the standard normal distribution
 * @example normalNoise(1, 0) === normalNoise(1, 0) // true
 */
export function normalNoise(seed: number, count: number): number {
  const generator = xoroshiro128plus(stirred(stirred(seed) + count));
  for (let i = 0; i < 4; i += 1) generator.next();
  const radius = Math.sqrt(-2 * Math.log(1 - uniformFloat64(generator)));
  return radius * Math.cos(2 * Math.PI * uniformFloat64(generator));
}
