import type { AxisConfig } from "../machine/axis";
import type { QuantityKind, UnitSystem } from "../quantity";

/** A number or a choice that a sum takes. Values are in core units; a choice is its place in the list. */
export interface SumField {
  readonly id: string;
  readonly label: string;
  readonly quantity: QuantityKind;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  /** The least itself is not allowed. */
  readonly above?: boolean;
  readonly choices?: readonly string[];
  /** Measured here and now: it begins empty, since no axis and no habit knows it. */
  readonly asked?: true;
  /** What an axis says of it. */
  readonly of?: (axis: AxisConfig) => number | undefined;
}

export type SumValues = Readonly<Record<string, number>>;

export interface SumLine {
  readonly label: string;
  readonly quantity: QuantityKind;
  readonly value: number;
  readonly signed?: boolean;
}

export interface SumCurve {
  readonly xLabel: string;
  readonly xQuantity: QuantityKind;
  readonly yLabel: string;
  readonly yQuantity: QuantityKind;
  readonly points: readonly { readonly x: number; readonly y: number }[];
  /** A place on the curve that matters, with its name. */
  readonly mark?: { readonly x: number; readonly text: string };
}

export interface SumAnswer {
  readonly lines: readonly SumLine[];
  /** What the numbers say, in a sentence; the first is the verdict. */
  readonly says: readonly string[];
  readonly state: "sound" | "watch" | "act" | "unknown" | null;
  readonly curve?: SumCurve;
}

export interface Sum {
  readonly id: string;
  readonly name: string;
  readonly group: "Screw" | "Bearing and preload" | "Alignment" | "Home" | "Costs" | "Lubrication";
  readonly asks: string;
  /** In TeX. */
  readonly formula: string;
  /** Standard or handbook, common practice, or from memory. */
  readonly source: string;
  readonly drawing: string;
  readonly fields: readonly SumField[];
  readonly compute: (values: SumValues, system: UnitSystem) => SumAnswer;
}

/**
 * What is wrong with a value of a field, naming value and bound; empty when nothing is.
 * @param field - the field with its bounds
 * @param value - what was given, in the core’s unit
 * @param say - how a value is said
 * @returns the message
 * @example fieldError({ ...SUMS[0].fields[0], min: 1, max: 2 }, 1.5, String) // ''
 */
export function fieldError(field: SumField, value: number, say: (value: number) => string): string {
  if (!Number.isFinite(value)) return `${field.label} must be a number.`;
  const low = field.above ? value <= field.min : value < field.min;
  if (!low && value <= field.max) return "";
  const least = `${field.above ? "above" : "from"} ${say(field.min)}`;
  return `${field.label} ${say(value)} cannot be: it is ${least} ${field.above ? "and up" : ""} to ${say(field.max)}.`.replace(
    / {2}/g,
    " ",
  );
}

/**
 * The values a sum begins with, those of an axis where one is given.
 * @param sum - the sum
 * @param axis - an axis, or null
 * @returns a value for each field, in the core’s units
 * @example typeof startValues(SUMS[0], null) // 'object'
 */
export function startValues(sum: Sum, axis: AxisConfig | null): SumValues {
  return Object.fromEntries(
    sum.fields.map((f) => {
      const own = axis ? f.of?.(axis) : undefined;
      return [f.id, own ?? f.value];
    }),
  );
}
