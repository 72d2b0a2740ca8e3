import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/**
 * A standard normal number that depends only on `seed` and `count`: a stand-in that is stopped and
 * started again goes on with the same noise. Box–Muller on xoroshiro128+.
 * @param seed - which sequence
 * @param count - which number of it, 0 or more
 * @returns a number from the standard normal distribution
 * @example normalNoise(1, 0) === normalNoise(1, 0) // true
 */
export function normalNoise(seed: number, count: number): number {
  const generator = xoroshiro128plus((Math.imul(seed, 0x9e3779b1) ^ Math.imul(count + 1, 0x85ebca6b)) | 0);
  for (let i = 0; i < 4; i += 1) generator.next();
  const radius = Math.sqrt(-2 * Math.log(1 - uniformFloat64(generator)));
  return radius * Math.cos(2 * Math.PI * uniformFloat64(generator));
}
