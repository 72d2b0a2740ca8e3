import { boundMessage, type FieldBound } from "@iron/core";
import * as z from "zod";

/** A number with the bounds and words of the trade. */
export function bounded(bound: FieldBound): z.ZodNumber {
  const unit = bound.unit === "money" || bound.unit === "ratio" ? "" : `, ${bound.unit === "µm" ? "mm" : bound.unit}`;
  return z
    .number({ error: () => boundMessage(bound, NaN) })
    .check((context) => {
      const message = boundMessage(bound, context.value);
      if (message) context.issues.push({ code: "custom", message, input: context.value });
    })
    .meta({ description: `${bound.label}${unit}: ${bound.why}` });
}

/** Text that must say something, up to `max` characters. */
export function said(what: string, max: number): z.ZodString {
  return z
    .string({ error: `${what} must be text.` })
    .trim()
    .min(1, `${what} is empty: say at least a word.`)
    .max(max, `${what} is longer than ${max} characters.`);
}

/** Text that may be empty. */
export function note(what: string, max: number): z.ZodString {
  return z.string({ error: `${what} must be text.` }).max(max, `${what} is longer than ${max} characters.`);
}

export function oneOf<const T extends readonly [string, ...string[]]>(what: string, values: T) {
  return z.enum(values, {
    error: `${what} must be one of: ${values.join(", ")}.`,
  });
}

export const idSchema = z.coerce
  .number({ error: "The id must be a whole number." })
  .int("The id must be a whole number.")
  .positive("The id must be above 0.");

/** An instant, ISO 8601 in UTC. */
export const instantSchema = z.iso.datetime({
  error: "Must be an instant like 2026-03-03T07:40:00Z.",
});

/** The version that a change was made from: rises with each, so that nobody’s is lost unseen. */
export const versionSchema = z
  .number({ error: "The version is missing: read it first, then change it." })
  .int("The version must be a whole number.")
  .min(0, "The version must be 0 or more.");

export const finite = z.number({ error: "Must be a number." });

/** A number within bounds that are said with their unit. */
export function between(what: string, [low, high]: readonly [number, number], unit: string): z.ZodNumber {
  const message = `${what} must be from ${low} to ${high}${unit ? ` ${unit}` : ""}.`;
  return finite.min(low, message).max(high, message);
}

const LETTER = "An axis is one capital, perhaps with a digit.";
/** Letter of an axis. */
export const letterSchema = z
  .string()
  .max(2, LETTER)
  .regex(/^[A-Z][0-9]?$/, LETTER);
