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
 * @param reading - `divisions`: whole divisions passed, counted from zero, without sign; `fraction`: between 0 and
 *   below 1; `negative`: it turned backwards; `divisionMm`: size of a division
 * @returns value and the width it is known to, mm
 * @example
 * dialReading({ divisions: 2, fraction: 0.5, negative: true, divisionMm: 0.01 })
 * // { valueMm: -0.025, widthMm: 0.0025 }
 */
export function dialReading({
  divisions,
  fraction,
  negative,
  divisionMm,
}: {
  readonly divisions: number;
  readonly fraction: number;
  readonly negative: boolean;
  readonly divisionMm: number;
}): DialReading {
  const magnitude = (divisions + fraction) * divisionMm;
  return {
    valueMm: negative ? -magnitude : magnitude,
    widthMm: FRACTION_WIDTH * divisionMm,
  };
}
