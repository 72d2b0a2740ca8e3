import type { AxisConfig } from "../axis";
import { memberMass } from "./masses";

const GRAVITY = 9.81;
/** Friction of ways against the weight on them: sliding ways under way oil, balls and rollers (common practice, no source). */
const WAY_FRICTION: Record<AxisConfig["guideway"], number> = {
  box: 0.08,
  dovetail: 0.08,
  rail: 0.004,
  "v-wheel": 0.01,
  "crossed-roller": 0.003,
  "ball-cage": 0.003,
};
/** Drag that does not go with the weight: seals and wipers of the way; screw, nut and bearings; N (common practice, no source). */
const SEALS_N: Record<AxisConfig["guideway"], number> = {
  box: 40,
  dovetail: 30,
  rail: 60,
  "v-wheel": 10,
  "crossed-roller": 10,
  "ball-cage": 10,
};
const SCREW_DRAG_N = 40;

/**
 * Friction that a sound axis turns round against: its weight on its ways, seals, and the drag of screw and nut. On an
 * upright axis the ways carry the tilting alone, taken as half the weight.
 * @param axis - configuration
 * @returns N
 * @example usualFrictionN(defaultAxis("vertical-centre", "X")) > 60 // true
 */
export function usualFrictionN(axis: AxisConfig): number {
  const weight = memberMass(axis).kg * GRAVITY * (axis.orientation === "vertical" ? 0.5 : 1);
  return WAY_FRICTION[axis.guideway] * weight + SEALS_N[axis.guideway] + SCREW_DRAG_N;
}
