/** Something that is looked at on the way, and answered. */
export interface PointCheck {
  readonly name: string;
  /** Unit of a figure that is read with it; null where it is only looked at. */
  readonly unit: string | null;
  readonly least: number | null;
  readonly most: number | null;
  /** What it is when somebody has to act: “cracked”, “worn to the mark”. */
  readonly act: string;
}

export const CHECK_ANSWERS = ["fine", "watch", "act"] as const;
export type CheckAnswer = (typeof CHECK_ANSWERS)[number];

const NUMBER = String.raw`(-?\d{1,6}(?:\.\d{1,4})?)`;
const BOUNDS = new RegExp(`^([^,]{1,12})(?:, ?(?:at least ${NUMBER}|at most ${NUMBER}|${NUMBER} to ${NUMBER}))?$`);

function numberOf(text: string | undefined): number | null {
  return text === undefined ? null : Number(text);
}

/**
 * Reads a check as it is written: what is looked at, in brackets the unit of its figure with bounds, after a colon what
 * it is when somebody has to act. Only the first is needed.
 * @param line - as written
 * @returns the check; what cannot be read as unit and bounds is part of its name
 * @example
 * parseCheck("brush length [mm, at least 6]: worn to the mark")
 * // { name: "brush length", unit: "mm", least: 6, most: null, act: "worn to the mark" }
 */
export function parseCheck(line: string): PointCheck {
  const colon = line.indexOf(":");
  const head = (colon < 0 ? line : line.slice(0, colon)).trim();
  const act = colon < 0 ? "" : line.slice(colon + 1).trim();
  const open = head.endsWith("]") ? head.lastIndexOf("[") : -1;
  const read = open > 0 ? BOUNDS.exec(head.slice(open + 1, -1).trim()) : null;
  if (!read) return { name: head, unit: null, least: null, most: null, act };
  const [, unit, atLeast, atMost, from, to] = read;
  return {
    name: head.slice(0, open).trim(),
    unit: unit.trim(),
    least: numberOf(atLeast ?? from),
    most: numberOf(atMost ?? to),
    act,
  };
}

/**
 * What a figure says by its bounds: beyond them somebody has to act, within a tenth of their span of one it is watched.
 * The tenth is ours.
 * @param check - the check
 * @param figure - what was read, in its unit
 * @returns the answer; null where it has no bounds
 * @example checkFigure(parseCheck("brush length [mm, at least 6]"), 5) // "act"
 */
export function checkFigure({ least, most }: PointCheck, figure: number): CheckAnswer | null {
  if (least === null && most === null) return null;
  if ((least !== null && figure < least) || (most !== null && figure > most)) return "act";
  const span = 0.1 * (least !== null && most !== null ? most - least : Math.abs(least ?? most ?? 0));
  const near = (least !== null && figure - least < span) || (most !== null && most - figure < span);
  return near ? "watch" : "fine";
}

/** A figure read at a visit. */
export interface CheckReading {
  readonly at: string;
  readonly figure: number;
}

const DAY_MS = 86_400_000;

/**
 * When a figure that changes steadily will come to its bound: least squares over its readings, the oldest first. Told
 * only from three readings on, and only where it moves towards a bound by more than it scatters (twice the standard
 * error of its slope).
 * Source: simple linear regression, as in any handbook of statistics.
 * @param check - the check, with its bounds
 * @param readings - the readings, the oldest first
 * @returns days from the last reading to the bound, never below 0; null where none is in sight
 * @example checkTrend(parseCheck("brush length [mm, at least 6]"), []) // null
 */
export function checkTrend({ least, most }: PointCheck, readings: readonly CheckReading[]): number | null {
  if (readings.length < 3) return null;
  const x = readings.map((r) => Date.parse(r.at) / DAY_MS);
  const y = readings.map((r) => r.figure);
  const n = x.length;
  const mx = x.reduce((a, b) => a + b, 0) / n;
  const my = y.reduce((a, b) => a + b, 0) / n;
  const sxx = x.reduce((s, xi) => s + (xi - mx) ** 2, 0);
  if (sxx === 0) return null;
  const slope = x.reduce((s, xi, i) => s + (xi - mx) * (y[i] - my), 0) / sxx;
  const squares = x.reduce((s, xi, i) => s + (y[i] - my - slope * (xi - mx)) ** 2, 0);
  const error = Math.sqrt(squares / (n - 2) / sxx);
  if (Math.abs(slope) <= 2 * error || slope === 0) return null;
  const bound = slope < 0 ? least : most;
  if (bound === null) return null;
  const now = my + slope * (x[n - 1] - mx);
  return Math.max(0, (bound - now) / slope);
}
