import { fromMm, type LengthUnit, type UnitSystem } from "./length";

const MINUS = "\u2212";

/** The words that stand behind a number. */
export const UNIT_WORD: Record<LengthUnit, string> = {
  mm: "mm",
  um: "µm",
  in: "in",
  thou: "thou",
  tenth: "tenths",
};

/**
 * Unit of small things (deviations, lost motion) in a system.
 * @param system - “metric” or “inch”
 * @returns the unit
 * @example deviationUnit("metric") // 'um'
 */
export function deviationUnit(system: UnitSystem): LengthUnit {
  return system === "metric" ? "um" : "tenth";
}

/**
 * Unit of positions and sizes in a system.
 * @param system - “metric” or “inch”
 * @returns the unit
 * @example positionUnit("inch") // 'in'
 */
export function positionUnit(system: UnitSystem): LengthUnit {
  return system === "metric" ? "mm" : "in";
}

/**
 * Decimals worth showing for a value whose expanded uncertainty is `expanded`, in the same unit: two
 * significant digits of the uncertainty decide (JCGM 100:2008, 7.2.6), so that ± is never zero.
 * @param expanded - U, above 0, in any unit
 * @returns decimals, 0 or more
 * @example decimalsFor(1.6) // 1
 * @example decimalsFor(34) // 0
 */
export function decimalsFor(expanded: number): number {
  if (!(expanded > 0) || !Number.isFinite(expanded)) return 1;
  // 0.0996 is 0.10 in two digits: what counts is the exponent after rounding.
  const exponent = Number(expanded.toExponential(1).split("e")[1]);
  return Math.min(9, Math.max(0, 1 - exponent));
}

/**
 * Fixed decimals, a true minus, no "−0", the sign written when `signed`.
 * @param value - any number
 * @param decimals - decimals, 0 or more
 * @param signed - write a plus as well
 * @returns the text
 * @example formatNumber(-2.345, 1) // '−2.3'
 */
export function formatNumber(value: number, decimals: number, signed = false): string {
  const magnitude = Math.abs(value).toFixed(decimals);
  const isZero = Number(magnitude) === 0;
  const sign = value < 0 && !isZero ? MINUS : signed && !isZero ? "+" : "";
  return sign + magnitude;
}

export interface FormatOptions {
  readonly system: UnitSystem;
  /** Expanded uncertainty, mm: bounds the digits shown. */
  readonly expandedMm?: number;
  readonly signed?: boolean;
  /** Leave the unit word out, for table cells under a heading that names it. */
  readonly bare?: boolean;
}

/**
 * A deviation or lost motion in the user's small unit.
 * @param mm - value, mm
 * @param options - units, and U in mm where it is known
 * @returns the text with its unit
 * @example formatDeviation(0.0271, { system: 'metric', expandedMm: 0.002 }) // '27.1 µm'
 */
export function formatDeviation(mm: number, options: FormatOptions): string {
  const unit = deviationUnit(options.system);
  const decimals = options.expandedMm === undefined ? 1 : decimalsFor(fromMm(options.expandedMm, unit));
  const text = formatNumber(fromMm(mm, unit), decimals, options.signed);
  return options.bare ? text : `${text} ${UNIT_WORD[unit]}`;
}

/**
 * A position or size in the user's large unit.
 * @param mm - value, mm
 * @param options - units, and decimals where the usual ones do not fit
 * @returns the text with its unit
 * @example formatPosition(180, { system: 'metric' }) // '180.000 mm'
 */
export function formatPosition(mm: number, options: FormatOptions & { decimals?: number }): string {
  const unit = positionUnit(options.system);
  const decimals = options.decimals ?? (unit === "mm" ? 3 : 4);
  const text = formatNumber(fromMm(mm, unit), decimals, options.signed);
  return options.bare ? text : `${text} ${UNIT_WORD[unit]}`;
}

/**
 * A size without trailing zeros, for prose: "30 mm", "0.5 in". In inches five figures: what is round
 * in millimetres is no finer for being converted.
 * @param mm - value, mm
 * @param system - “metric” or “inch”
 * @returns the text with its unit
 * @example formatSize(300, "inch") // '11.811 in'
 */
export function formatSize(mm: number, system: UnitSystem): string {
  const unit = positionUnit(system);
  const value = fromMm(mm, unit);
  const figures = unit === "mm" ? value : Number(value.toPrecision(5));
  return `${Number(figures.toFixed(unit === "mm" ? 4 : 5))} ${UNIT_WORD[unit]}`;
}

/**
 * A limit in the user’s small unit, as it was set: "25 µm", "10 tenths", without digits of its own.
 * @param mm - limit, mm
 * @param system - “metric” or “inch”
 * @returns the text with its unit
 * @example formatLimit(0.025, "metric") // '25 µm'
 */
export function formatLimit(mm: number, system: UnitSystem): string {
  const unit = deviationUnit(system);
  return `${Number(fromMm(mm, unit).toFixed(2))} ${UNIT_WORD[unit]}`;
}

/**
 * A size as the millimetres and inches people say in a shop: "0.027 mm", "0.0011 in". With an
 * uncertainty its digits decide, even past the usual three or four.
 * @param mm - loss, mm
 * @param system - “metric” or “inch”
 * @param expandedMm - U, mm, where it is known
 * @returns the text with its unit
 * @example formatLoss(0.027, "inch") // '0.0011 in'
 */
export function formatLoss(mm: number, system: UnitSystem, expandedMm?: number): string {
  const unit = positionUnit(system);
  const decimals =
    expandedMm === undefined || !(expandedMm > 0) ? (unit === "mm" ? 3 : 4) : decimalsFor(fromMm(expandedMm, unit));
  return `${formatNumber(fromMm(mm, unit), decimals)} ${UNIT_WORD[unit]}`;
}

/**
 * A small value with its ±, both to the digits of U: "27.1 ± 1.6 µm". Without a known U the value
 * stands alone and says so.
 * @param mm - value, mm
 * @param expandedMm - U, mm; null where it is not known
 * @param options - units
 * @returns the text with its unit
 * @example formatWithU(0.0271, 0.0016, { system: "metric" }) // '27.1 ± 1.6 µm'
 */
export function formatWithU(mm: number, expandedMm: number | null, options: Omit<FormatOptions, "expandedMm">): string {
  const word = UNIT_WORD[deviationUnit(options.system)];
  const unit = options.bare ? "" : ` ${word}`;
  if (expandedMm === null) return `${formatDeviation(mm, { ...options, bare: true })}${unit}, uncertainty unknown`;
  const both = { ...options, expandedMm, bare: true };
  return `${formatDeviation(mm, both)} ± ${formatDeviation(expandedMm, { ...both, signed: false })}${unit}`;
}
