import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/** Chance that comes out the same each time. */
export interface Luck {
  uniform(): number;
  normal(): number;
}

export function luckFrom(seed: number): Luck {
  const generator = xoroshiro128plus(Math.imul(seed + 1, 0x9e3779b1) | 0);
  for (let i = 0; i < 8; i += 1) generator.next();
  const uniform = (): number => uniformFloat64(generator);
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
  return { uniform, normal };
}
