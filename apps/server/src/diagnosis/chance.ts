import { normalNoise } from "@iron/core";

let seed: number | null = null;
let count = 0;

/** Makes the scatter of the simulated stand-ins repeat itself from a seed; null: as it falls. */
export function seedChance(next: number | null): void {
  seed = next;
  count = 0;
}

/** A standard normal number, for the simulated stand-ins. */
export function standardNormal(): number {
  if (seed !== null) return normalNoise(seed, (count += 1));
  return Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random());
}

/** A number from 0 up to 1, for the simulated stand-ins. */
export function uniformNumber(): number {
  if (seed === null) return Math.random();
  const spread = 1e4 * Math.abs(standardNormal());
  return spread - Math.floor(spread);
}
