import { inQuadrature, requireBound } from "../../quantity";

/** What grew with the warmth while the readings were taken. */
export interface Warmth {
  /** What carries the position, screw or scale, and the reference: °C. */
  readonly carrierC: number;
  readonly referenceC: number;
  /** Millionths of its length that each grows by a kelvin. */
  readonly carrierPerK: number;
  readonly referencePerK: number;
  /** How well the two temperatures are known, K, 95 %. */
  readonly uK: number;
}

/** ISO 1:2022: lengths are said at 20 °C. */
export const REFERENCE_C = 20;

/** Growth by a kelvin, 1 µm/m (handbook values, from memory). */
export const GROWTH_PER_K = {
  /** Screw held at one end, or a steel tape. */
  steel: 11.5,
  /** Screw stretched between two fixed ends, or a scale clamped to the bed: they follow the casting. */
  "cast-iron": 10.5,
  glass: 8,
  granite: 6.5,
  "no-growth": 0,
} as const;
export type Grows = keyof typeof GROWTH_PER_K;

/** How well a coefficient is known, as a part of it, 95 % (common practice, no source). */
const U_GROWTH = 0.1;

/**
 * What is added to a deviation so that it is what both, machine and reference, would show at 20 °C (ISO 1; ISO 230-2:2014
 * clause 3 on numerical compensation of the differential expansion, from memory).
 * @param warmth - temperatures and growth
 * @param lengthMm - from the reference point, mm, with its sign
 * @returns mm
 * @example
 * const warmth = { carrierC: 25, referenceC: 20, carrierPerK: 11.5, referencePerK: 11.5, uK: 0.5 };
 * toTwenty(warmth, 1000) // -0.0575
 */
export function toTwenty(warmth: Warmth, lengthMm: number): number {
  return growthAt(warmth) * lengthMm;
}

/**
 * Millionths, as a ratio, by which a deviation is put right for each millimetre of length.
 * @param warmth - temperatures and growth
 * @returns mm for a mm
 * @throws BoundError where a temperature or a growth is out of reason
 * @example growthAt({ carrierC: 20, referenceC: 20, carrierPerK: 11.5, referencePerK: 8, uK: 0.5 }) // 0
 */
export function growthAt({ carrierC, referenceC, carrierPerK, referencePerK }: Warmth): number {
  for (const [name, value] of Object.entries({ "machine temperature": carrierC, "reference temperature": referenceC }))
    requireBound({ [name]: value }, value >= -10 && value <= 60, "from -10 to 60 °C");
  for (const [name, value] of Object.entries({
    "growth of the machine": carrierPerK,
    "growth of the reference": referencePerK,
  }))
    requireBound({ [name]: value }, value >= 0 && value <= 40, "from 0 to 40 millionths a kelvin");
  // A warm reference reads short, so its growth is added; a warm screw reaches far, so its growth is taken off.
  return 1e-6 * (referencePerK * (referenceC - REFERENCE_C) - carrierPerK * (carrierC - REFERENCE_C));
}

/**
 * Expanded uncertainty of {@link growthAt}: of both temperatures and both coefficients.
 * @param warmth - temperatures and growth
 * @returns mm for a mm, 95 %
 * @example growthU({ carrierC: 20, referenceC: 20, carrierPerK: 10, referencePerK: 0, uK: 1 }) // 0.00001
 */
export function growthU({ carrierC, referenceC, carrierPerK, referencePerK, uK }: Warmth): number {
  requireBound({ "± of the temperatures": uK }, uK >= 0 && uK <= 20, "from 0 to 20 K");
  return (
    1e-6 *
    inQuadrature(
      carrierPerK * uK,
      referencePerK * uK,
      U_GROWTH * carrierPerK * (carrierC - REFERENCE_C),
      U_GROWTH * referencePerK * (referenceC - REFERENCE_C),
    )
  );
}
