import { momentText } from "./times.text";

/** What was sent, in words: names and values, no brackets; what was shortened stays as it is. */
export function sentText(detail: string): string {
  if (!detail) return "";
  try {
    return said(JSON.parse(detail));
  } catch {
    return detail;
  }
}

const INSTANT = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(?:\.\d{1,9})?Z$/;

function said(value: unknown): string {
  if (Array.isArray(value)) return value.map(said).join(", ");
  if (typeof value === "object" && value !== null)
    return Object.entries(value)
      .filter(([name, v]) => name !== "key" && name !== "version" && v !== null && said(v) !== "")
      .map(([name, v]) => `${spaced(name)}: ${said(v)}`)
      .join("; ");
  if (typeof value === "boolean") return value ? "yes" : "no";
  const text = String(value);
  return INSTANT.test(text) ? momentText(text) : text;
}

/** “overTravelMm” is read “over travel mm”. */
const spaced = (name: string): string =>
  name.replace(/([a-z0-9])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`);
