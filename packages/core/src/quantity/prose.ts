import type { UnitSystem } from "./length";

const INCH = 25.4;

/** Inches as a mechanic would say them: tenths of a thou for what is measured, a tenth for what is far. */
function inches(mm: number): string {
  const value = mm / INCH;
  return mm < 5 ? value.toFixed(4) : value.toFixed(mm < 100 ? 2 : 1);
}

/**
 * Instructions name lengths in mm and µm; a shop that works in inches reads inches. Where the text gives
 * inches of its own in brackets (“0.050 mm over 300 mm (0.001 in over 6 in)”), those are taken.
 * @param text - an instruction with lengths in mm and µm
 * @param system - “metric” or “inch”
 * @returns the same instruction
 * @example lengthsIn("No rock above 0.02 mm.", "inch") // "No rock above 0.0008 in."
 */
export function lengthsIn(text: string, system: UnitSystem): string {
  if (system === "metric") return text;
  return text
    .replace(/(?<![\d.])[\d.]+ mm over [\d.]+ mm([\w ]*?) ?\(([\d.]+ in over [\d.]+ in)\)/g, "$2$1")
    .replace(
      /(?<![\d.])(\d+(?:\.\d+)?) (mm|µm)(?![\w²³/])/g,
      (_, value: string, unit: string) => `${inches(Number(value) / (unit === "µm" ? 1000 : 1))} in`,
    );
}
