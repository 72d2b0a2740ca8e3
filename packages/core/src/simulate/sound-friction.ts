import type { AxisConfig } from "../machine/axis";
import { usualFrictionN } from "../machine/mechanism/friction";

/** Friction of a sound axis of middling weight, N. */
export const SOUND_FRICTION_N = 120;

/**
 * Friction of a sound virtual axis: heavier ones drag more.
 * @param axis - configuration
 * @returns N, no less than a middling one
 * @example soundFrictionN(defaultAxis("vertical-centre", "X")) >= 120 // true
 */
export function soundFrictionN(axis: AxisConfig): number {
  return Math.max(SOUND_FRICTION_N, usualFrictionN(axis));
}
