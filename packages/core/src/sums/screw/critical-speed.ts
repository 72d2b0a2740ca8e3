import type { Fixings } from "../../machine/axis";
import { requireBound } from "../../quantity";
import { STEEL_DENSITY, STEEL_E } from "./steel";

/**
 * First eigenvalue βL of a beam by how its ends are held (Euler–Bernoulli: cos βL·cosh βL = −1 for
 * fixed–free, sin βL = 0, tan βL = tanh βL, cos βL·cosh βL = 1).
 */
export const BEAM_EIGENVALUES: Readonly<Record<Fixings, number>> = {
  "fixed-free": 1.875104,
  "supported-supported": Math.PI,
  "fixed-supported": 3.926602,
  "fixed-fixed": 4.730041,
};
/** Share of the first critical speed that is used (ball-screw catalogues). */
export const SPEED_MARGIN = 0.8;

export interface ScrewSpan {
  readonly rootMm: number;
  readonly freeLengthMm: number;
  readonly fixings: Fixings;
}

/**
 * Highest speed of a screw before it whirls, min⁻¹, margin 0.8 in.
 * n = 60/(2π)·(βL/L)²·√(EI/ρA)·0.8 = f·d/L²·10⁷ with f = 3.4, 9.7, 15.1, 21.9.
 * @param span - root and free length, mm, and how the ends are held
 * @returns speed, min⁻¹
 * @throws BoundError when a length is not above 0
 * @example criticalSpeed({ rootMm: 28, freeLengthMm: 1000, fixings: "fixed-supported" }) // 4224
 */
export function criticalSpeed(span: ScrewSpan): number {
  const { rootMm, freeLengthMm, fixings } = span;
  requireBound({ "root diameter": rootMm }, rootMm > 0, "above 0 mm");
  requireBound({ "free length": freeLengthMm }, freeLengthMm > 0, "above 0 mm");
  const beta = BEAM_EIGENVALUES[fixings] / freeLengthMm;
  // √(E/ρ) in mm/s: N/mm² over kg/mm³ is 10³ mm²/s².
  const wave = Math.sqrt((STEEL_E * 1000) / STEEL_DENSITY);
  const radPerS = beta ** 2 * (rootMm / 4) * wave;
  return SPEED_MARGIN * radPerS * (60 / (2 * Math.PI));
}

/** Buckling multiples of π²EI/L² by how the ends are held (Euler; 2.05 for fixed–supported). */
const BUCKLING: Readonly<Record<Fixings, number>> = {
  "fixed-free": 0.25,
  "supported-supported": 1,
  "fixed-supported": 2.05,
  "fixed-fixed": 4,
};
const BUCKLING_MARGIN = 0.5;

/**
 * Highest push on a screw before it buckles, N, margin 0.5 in (Euler, ball-screw catalogues).
 * @param span - root and free length, mm, and how the ends are held
 * @returns force, N
 * @example bucklingLoad({ rootMm: 28, freeLengthMm: 1000, fixings: "fixed-supported" }) // 62877
 */
export function bucklingLoad(span: ScrewSpan): number {
  const { rootMm, freeLengthMm, fixings } = span;
  requireBound({ "root diameter": rootMm }, rootMm > 0, "above 0 mm");
  requireBound({ "free length": freeLengthMm }, freeLengthMm > 0, "above 0 mm");
  const inertia = (Math.PI * rootMm ** 4) / 64;
  return (BUCKLING_MARGIN * BUCKLING[fixings] * Math.PI ** 2 * STEEL_E * inertia) / freeLengthMm ** 2;
}

/** DN value: ball-circle diameter times speed; 70 000 is a common limit (from memory). */
export const DN_LIMIT = 70_000;
/**
 * Speed value of a screw: nominal diameter times speed, which catalogues bound.
 * @param nominalMm - nominal diameter, mm
 * @param speedPerMin - speed, min⁻¹
 * @returns diameter times speed, mm·min⁻¹
 * @example dnValue(32, 2000) // 64000
 */
export function dnValue(nominalMm: number, speedPerMin: number): number {
  return nominalMm * speedPerMin;
}
