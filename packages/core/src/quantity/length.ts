import { BoundError } from "./bound-error";

/** One inch in millimetres, exact (International yard and pound agreement, 1959; ISO 80000-3). */
export const MM_PER_INCH = 25.4;

/** What the user reads: millimetres and micrometres, or inches and tenths of a thousandth. */
export type UnitSystem = "metric" | "inch";

export const LENGTH_UNITS = ["mm", "um", "in", "thou", "tenth"] as const;
export type LengthUnit = (typeof LENGTH_UNITS)[number];

const MM_PER: Record<LengthUnit, number> = {
  mm: 1,
  um: 1e-3,
  in: MM_PER_INCH,
  thou: MM_PER_INCH * 1e-3,
  tenth: MM_PER_INCH * 1e-4,
};

/**
 * Length in millimetres.
 * @param value - length in `unit`
 * @param unit - mm, um (µm), in, thou or tenth
 * @returns length, mm
 * @throws BoundError when the value is not finite
 * @example toMm(0.0005, 'in') // 0.0127
 */
export function toMm(value: number, unit: LengthUnit): number {
  if (!Number.isFinite(value)) throw new BoundError("length", value, "a finite number");
  return value * MM_PER[unit];
}

/**
 * Length in another unit from millimetres.
 * @param mm - length, mm
 * @param unit - mm, um (µm), in, thou or tenth
 * @returns length in `unit`
 * @example fromMm(0.0254, 'thou') // 1
 */
export function fromMm(mm: number, unit: LengthUnit): number {
  if (!Number.isFinite(mm)) throw new BoundError("length", mm, "a finite number");
  return mm / MM_PER[unit];
}
