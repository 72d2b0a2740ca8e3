import { travelPerTurnMm, type AxisConfig } from "./axis";

/**
 * Are two axes of one kind, so that one may be heard against the other at equal feed: driven alike, as much way a turn,
 * on like ways? Common practice, no source.
 * @param a - configuration
 * @param b - configuration of the other
 * @returns whether they are
 * @example areSisters(defaultAxis("vertical-centre", "X"), defaultAxis("router", "X")) // false
 */
export function areSisters(a: AxisConfig, b: AxisConfig): boolean {
  const alike = Math.abs(travelPerTurnMm(a) / travelPerTurnMm(b) - 1) < 0.01;
  return alike && a.transmission === b.transmission && a.guideway === b.guideway && a.motor === b.motor;
}
