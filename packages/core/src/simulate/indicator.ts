import { normalNoise } from "./noise";

export const INDICATOR_KINDS = ["lever", "plunger", "digital"] as const;
export type IndicatorKind = (typeof INDICATOR_KINDS)[number];

/** What reads the member's movement. Lengths in mm whatever its face shows. */
export interface Indicator {
  readonly kind: IndicatorKind;
  /** Smallest step of the display, or one division of the dial. */
  readonly resolutionMm: number;
  /** Angle between tip and surface (lever) or between plunger and movement. */
  readonly tipAngleDeg: number;
  /** From one end of its reach to the other. */
  readonly rangeMm: number;
}

/** How a simulated indicator sits. */
export interface Mounting {
  /** Where the member is when the tip is in the middle of its reach, mm. */
  readonly contactMm: number;
  /** What is subtracted since the face was last set to zero, mm. */
  readonly zeroMm: number;
}

/**
 * Tip movement for a movement of the member: the indicator reads too much by 1 / cos φ.
 * @param indicator - kind and angle of its tip
 * @param mounting - where it stands
 * @param memberMm - place of the member, mm
 * @returns mm; null where the tip does not touch
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * rawReading(indicator, { contactMm: 0, zeroMm: 0 }, 0.5) // 0.5
 */
export function rawReading(indicator: Indicator, mounting: Mounting, memberMm: number): number | null {
  const moved = memberMm - mounting.contactMm;
  if (Math.abs(moved) > indicator.rangeMm / 2) return null;
  return moved / Math.cos((indicator.tipAngleDeg * Math.PI) / 180);
}

/**
 * What the face shows, mm, or null when the tip does not touch.
 * @param indicator - display step, angle and reach
 * @param options - `mounting`: where it stands; `memberMm`: place of the member, mm; `seed`, `sample`: which tremble
 *   of the needle
 * @returns mm, in whole display steps; null where the tip does not touch
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * displayedReading({ ...indicator, resolutionMm: 0.01 }, { mounting: { contactMm: 0, zeroMm: 0 }, memberMm: 0.502, seed: 1, sample: 0 })
 * // 0.5
 */
export function displayedReading(
  indicator: Indicator,
  {
    mounting,
    memberMm,
    seed,
    sample,
  }: { readonly mounting: Mounting; readonly memberMm: number; readonly seed: number; readonly sample: number },
): number | null {
  const raw = rawReading(indicator, mounting, memberMm);
  if (raw === null) return null;
  const jitter = 0.12 * indicator.resolutionMm * normalNoise(seed, sample);
  return Math.round((raw - mounting.zeroMm + jitter) / indicator.resolutionMm) * indicator.resolutionMm;
}
