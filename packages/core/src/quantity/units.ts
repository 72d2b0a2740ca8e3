import type { UnitSystem } from "./length";
import { decimalsFor, formatNumber } from "./format";

/** What is measured or computed, each with the unit the core keeps it in. */
export const QUANTITY_KINDS = [
  "length",
  "deviation",
  "force",
  "torque",
  "feed",
  "stiffness",
  "temperature-step",
  "angle",
  "turns",
  "speed",
  "load",
  "hours",
  "mass",
  "number",
  "percent",
  "slope",
] as const;
export type QuantityKind = (typeof QUANTITY_KINDS)[number];

interface Shown {
  readonly unit: string;
  /** Core value divided by this is the shown value. */
  readonly per: number;
  readonly decimals: number;
}

/**
 * Shown units by system. 1 in = 25.4 mm and 1 lb = 0.45359237 kg exactly (International yard and
 * pound agreement, 1959); standard gravity 9.80665 m/s² (3rd CGPM, 1901).
 */
const LBF = 0.45359237 * 9.80665;
const SHOWN: Record<QuantityKind, Record<UnitSystem, Shown>> = {
  length: { metric: { unit: "mm", per: 1, decimals: 3 }, inch: { unit: "in", per: 25.4, decimals: 4 } },
  deviation: { metric: { unit: "µm", per: 0.001, decimals: 1 }, inch: { unit: "tenths", per: 0.00254, decimals: 2 } },
  force: { metric: { unit: "N", per: 1, decimals: 0 }, inch: { unit: "lbf", per: LBF, decimals: 1 } },
  torque: { metric: { unit: "N·m", per: 1, decimals: 2 }, inch: { unit: "lbf·ft", per: LBF * 0.3048, decimals: 2 } },
  feed: { metric: { unit: "mm/min", per: 1, decimals: 0 }, inch: { unit: "in/min", per: 25.4, decimals: 1 } },
  stiffness: {
    metric: { unit: "N/µm", per: 1000, decimals: 1 },
    inch: { unit: "lbf/tenth", per: LBF / 0.00254, decimals: 2 },
  },
  "temperature-step": { metric: { unit: "K", per: 1, decimals: 1 }, inch: { unit: "°F", per: 5 / 9, decimals: 1 } },
  angle: { metric: { unit: "°", per: 1, decimals: 2 }, inch: { unit: "°", per: 1, decimals: 2 } },
  turns: { metric: { unit: "turns", per: 1, decimals: 3 }, inch: { unit: "turns", per: 1, decimals: 3 } },
  speed: { metric: { unit: "min⁻¹", per: 1, decimals: 0 }, inch: { unit: "min⁻¹", per: 1, decimals: 0 } },
  /** Of a bed, mm for a metre. */
  slope: {
    metric: { unit: "mm/m", per: 1, decimals: 3 },
    inch: { unit: "in/ft", per: 1000 / 12, decimals: 5 },
  },
  load: { metric: { unit: "%", per: 1, decimals: 1 }, inch: { unit: "%", per: 1, decimals: 1 } },
  hours: { metric: { unit: "h", per: 1, decimals: 0 }, inch: { unit: "h", per: 1, decimals: 0 } },
  mass: { metric: { unit: "g", per: 1, decimals: 1 }, inch: { unit: "g", per: 1, decimals: 1 } },
  number: { metric: { unit: "", per: 1, decimals: 3 }, inch: { unit: "", per: 1, decimals: 3 } },
  percent: { metric: { unit: "%", per: 0.01, decimals: 1 }, inch: { unit: "%", per: 0.01, decimals: 1 } },
};

/**
 * Unit that a system shows a quantity in.
 * @param kind - what is measured
 * @param system - “metric” or “inch”
 * @returns the unit, empty for a plain number
 * @example unitOf("torque", "metric") // 'N·m'
 */
export function unitOf(kind: QuantityKind, system: UnitSystem): string {
  return SHOWN[kind][system].unit;
}

/**
 * A core value in the unit that a system shows.
 * @param kind - what is measured
 * @param value - in the core’s unit
 * @param system - “metric” or “inch”
 * @returns value in the shown unit
 * @example toShown("torque", 10, "inch") // 7.3756
 */
export function toShown(kind: QuantityKind, value: number, system: UnitSystem): number {
  return value / SHOWN[kind][system].per;
}

/**
 * The inverse of {@link toShown}.
 * @param kind - what is measured
 * @param shown - in the shown unit
 * @param system - “metric” or “inch”
 * @returns value in the core’s unit
 * @example fromShown("length", 1, "inch") // 25.4
 */
export function fromShown(kind: QuantityKind, shown: number, system: UnitSystem): number {
  return shown * SHOWN[kind][system].per;
}

/**
 * A value with its unit: whole-ish digits for large figures, few decimals for small ones.
 * @param kind - what is measured
 * @param value - in the core’s unit
 * @param system - “metric” or “inch”
 * @returns the text with its unit
 * @example formatQuantity("torque", 12.5, "metric") // '12.5 N·m'
 */
export function formatQuantity(kind: QuantityKind, value: number, system: UnitSystem): string {
  return written(kind, toShown(kind, value, system), { system, signed: false });
}

/**
 * As {@link formatQuantity}, with a plus before what is above 0.
 * @param kind - what is measured
 * @param value - in the core’s unit
 * @param system - “metric” or “inch”
 * @returns the text with its sign and unit
 * @example signedQuantity("torque", 12.5, "metric") // '+12.5 N·m'
 */
export function signedQuantity(kind: QuantityKind, value: number, system: UnitSystem): string {
  return written(kind, toShown(kind, value, system), { system, signed: true });
}

function written(
  kind: QuantityKind,
  shown: number,
  { system, signed }: { readonly system: UnitSystem; readonly signed: boolean },
): string {
  const { unit, decimals } = SHOWN[kind][system];
  if (!Number.isFinite(shown)) return shown > 0 ? "no limit" : "–";
  const size = Math.abs(shown);
  const places = kind === "length" || size < 10 ? decimals : Math.min(decimals, size >= 1000 ? 0 : 1);
  return `${formatNumber(shown, places, signed)} ${unit}`.trim();
}

/**
 * A value and its ± with their unit, both to two significant digits of U (JCGM 100:2008, 7.2.6).
 * @param kind - what is measured
 * @param of - `value` and U, `expanded`, in the core’s unit
 * @param system - “metric” or “inch”
 * @returns value and ±, each with the unit
 * @example quantityWithU("force", { value: 118.3, expanded: 6.1 }, "metric") // ["118.3 N", "± 6.1 N"]
 */
export function quantityWithU(
  kind: QuantityKind,
  { value, expanded }: { readonly value: number; readonly expanded: number },
  system: UnitSystem,
): readonly [string, string] {
  const { unit } = SHOWN[kind][system];
  const U = toShown(kind, expanded, system);
  const decimals = decimalsFor(U);
  const say = (shown: number): string => `${formatNumber(shown, decimals)} ${unit}`.trim();
  return [say(toShown(kind, value, system)), `± ${say(U)}`];
}

/**
 * A torque in both units, as job sheets give it.
 * @param torqueNm - torque, N·m
 * @returns the torque in N·m and lbf·ft
 * @example bothTorques(40) // '40.0 N·m (29.5 lbf·ft)'
 */
export function bothTorques(torqueNm: number): string {
  return `${formatQuantity("torque", torqueNm, "metric")} (${formatQuantity("torque", torqueNm, "inch")})`;
}
