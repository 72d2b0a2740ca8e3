/**
 * Fractions of a division as people say them at a dial, as eighths, each read to about a quarter of
 * a division (common practice, no source).
 */
export const DIVISION_FRACTIONS = [
  { label: "on the line", fraction: 0 },
  { label: "a touch over the line", fraction: 1 / 8 },
  { label: "a quarter", fraction: 1 / 4 },
  { label: "a bit under half", fraction: 3 / 8 },
  { label: "half", fraction: 1 / 2 },
  { label: "a bit over half", fraction: 5 / 8 },
  { label: "three quarters", fraction: 3 / 4 },
  { label: "almost the next line", fraction: 7 / 8 },
] as const;

/** Width within which a fraction is read, in divisions. */
export const FRACTION_WIDTH = 0.25;

/** A dial reading in whole divisions and a fraction, and the width it is known to. */
export interface DialReading {
  readonly valueMm: number;
  readonly widthMm: number;
}

/**
 * Reads "minus two and a bit over half".
 * @param divisions whole divisions passed, counted from zero, without sign
 * @param fraction between 0 and below 1
 */
export function dialReading(divisions: number, fraction: number, negative: boolean, divisionMm: number): DialReading {
  const magnitude = (divisions + fraction) * divisionMm;
  return {
    valueMm: negative ? -magnitude : magnitude,
    widthMm: FRACTION_WIDTH * divisionMm,
  };
}
