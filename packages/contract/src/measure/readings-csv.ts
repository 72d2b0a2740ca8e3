import { fromMm, stepsOf, toMm, type Direction, type LengthUnit, type TestPlan } from "@iron/core";
import Papa from "papaparse";
import type { Run } from "./run";

/** One row of a readings file: what an indicator showed at a place, relative to that place. */
export interface CsvReading {
  readonly line: number;
  readonly placeMm: number;
  readonly approach: Direction;
  readonly run: number;
  readonly readingMm: number;
  readonly state: "kept" | "spoilt" | "discarded";
  readonly reason: string;
}

export interface CsvError {
  readonly line: number;
  readonly column: string;
  readonly message: string;
}

export interface CsvReadings {
  readonly rows: readonly CsvReading[];
  readonly errors: readonly CsvError[];
  readonly delimiter: string;
}

const PLACE_COLUMNS: Record<string, LengthUnit> = {
  place_mm: "mm",
  place_in: "in",
};
const READING_COLUMNS: Record<string, LengthUnit> = {
  reading_mm: "mm",
  reading_um: "um",
  reading_in: "in",
  reading_thou: "thou",
  reading_tenth: "tenth",
};
const APPROACHES = new Map<string, Direction>([
  ["+", "+"],
  ["up", "+"],
  ["↑", "+"],
  ["-", "-"],
  ["−", "-"],
  ["down", "-"],
  ["↓", "-"],
]);
const STATES = ["kept", "spoilt", "discarded"] as const;
const MOST_ROWS = 50_000;

/** No figure of the trade is longer. */
const LONGEST_NUMBER = 40;

/** A number with a decimal point or a decimal comma; undefined when it is neither, or endless. */
export function parseDecimal(text: string): number | undefined {
  const plain = text.trim().replace(/^[−–]/, "-").replace(",", ".");
  if (plain.length > LONGEST_NUMBER) return undefined;
  return /^[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?$/i.test(plain) ? Number(plain) : undefined;
}

/** A cell as an error quotes it. */
export function quoted(cell: string): string {
  return `“${cell.length > LONGEST_NUMBER ? `${cell.slice(0, LONGEST_NUMBER)}…` : cell}”`;
}

interface Columns {
  readonly place: readonly [string, LengthUnit];
  readonly reading: readonly [string, LengthUnit];
}

function findColumns(header: readonly string[], errors: CsvError[]): Columns | undefined {
  const find = (wanted: Record<string, LengthUnit>): [string, LengthUnit] | undefined => {
    const name = header.find((h) => Object.hasOwn(wanted, h));
    return name === undefined ? undefined : [name, wanted[name]];
  };
  const place = find(PLACE_COLUMNS);
  const reading = find(READING_COLUMNS);
  const missing = (column: string, message: string): void => {
    errors.push({ line: 1, column, message });
  };
  if (!place) missing("place_mm", "There is no column place_mm or place_in: the place of each reading.");
  if (!reading)
    missing("reading_mm", "There is no column reading_mm, reading_um, reading_in, reading_thou or reading_tenth.");
  if (!header.includes("approach"))
    missing("approach", "There is no column approach: + for coming from minus, - for coming from plus.");
  if (!header.includes("run")) missing("run", "There is no column run: 1, 2, 3 …");
  return place && reading && errors.length === 0 ? { place, reading } : undefined;
}

/**
 * Reads a file of readings: a header line, then a row a reading; comma, semicolon or tab between,
 * decimal point or comma. Wrong rows are named by line and column; good rows are returned all the
 * same, so that they can be looked at before anything is kept.
 */
export function parseReadingsCsv(text: string): CsvReadings {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), {
    delimitersToGuess: [";", ",", "\t"],
  });
  const delimiter = parsed.meta.delimiter;
  const [head = [], ...body] = parsed.data;
  const header = head.map((h) => h.trim().toLowerCase());
  const errors: CsvError[] = [];
  const columns = findColumns(header, errors);
  if (!columns) return { rows: [], errors, delimiter };
  const rows: CsvReading[] = [];
  const seen = new Map<string, number>();
  body.slice(0, MOST_ROWS).forEach((cells, i) => {
    if (cells.every((c) => c.trim() === "")) return;
    const row = readRow(cells, { line: i + 2, header, columns, errors });
    if (!row) return;
    const key = `${row.placeMm} ${row.approach} ${row.run}`;
    const before = row.state === "kept" ? seen.get(key) : undefined;
    if (before !== undefined) {
      errors.push({
        line: row.line,
        column: "run",
        message: `Run ${row.run} from this side at this place is already on line ${before}.`,
      });
      return;
    }
    if (row.state === "kept") seen.set(key, row.line);
    rows.push(row);
  });
  if (body.length > MOST_ROWS) {
    errors.push({
      line: MOST_ROWS + 2,
      column: "",
      message: `Only the first ${MOST_ROWS} rows are read.`,
    });
  }
  if (rows.length === 0 && errors.length === 0) {
    errors.push({
      line: 2,
      column: "",
      message: "There is no reading below the header line.",
    });
  }
  return { rows, errors, delimiter };
}

function readRow(
  cells: readonly string[],
  {
    line,
    header,
    columns,
    errors,
  }: {
    readonly line: number;
    readonly header: readonly string[];
    readonly columns: Columns;
    readonly errors: CsvError[];
  },
): CsvReading | undefined {
  const before = errors.length;
  const cell = (name: string): string => (cells[header.indexOf(name)] ?? "").trim();
  const failed = (column: string, message: string): unknown => errors.push({ line, column, message });
  const length = ([name, unit]: readonly [string, LengthUnit]): number => {
    const value = parseDecimal(cell(name));
    if (value !== undefined) return toMm(value, unit);
    failed(name, cell(name) === "" ? "The number is missing." : `${quoted(cell(name))} is not a number.`);
    return NaN;
  };
  if (cells.length > header.length) {
    failed(
      "",
      `There are ${cells.length} cells under ${header.length} headings: is a decimal comma taken for the separator?`,
    );
    return undefined;
  }
  const placeMm = length(columns.place);
  const readingMm = length(columns.reading);
  const approach = APPROACHES.get(cell("approach").toLowerCase());
  if (!approach) failed("approach", `${quoted(cell("approach"))} is no approach: write + or -, up or down.`);
  const run = Number(cell("run"));
  if (!Number.isInteger(run) || run < 1 || run > 50)
    failed("run", `Run ${quoted(cell("run"))} must be a whole number from 1 to 50.`);
  const state = STATES.find((s) => s === (cell("state").toLowerCase() || "kept"));
  if (!state) failed("state", `${quoted(cell("state"))} must be kept, spoilt or discarded.`);
  if (errors.length > before || !state || !approach) return undefined;
  return {
    line,
    placeMm: Math.round(placeMm * 1e6) / 1e6,
    approach,
    run,
    readingMm,
    state,
    reason: cell("reason"),
  };
}

/** The plan that rows of a file fill in: one place is a two-sided approach, more a travel profile. */
export function planOfRows(rows: readonly CsvReading[], keepsZero: boolean, overTravelMm: number): TestPlan {
  const targetsMm = [...new Set(rows.map((r) => r.placeMm))].sort((a, b) => a - b);
  const many = targetsMm.length > 1;
  return {
    kind: many ? "travel-profile" : "two-sided",
    targetsMm,
    runs: Math.max(...rows.map((r) => r.run)),
    overTravelMm,
    tickMm: 0.001,
    ticksOut: 50,
    keepsZero: keepsZero && many,
  };
}

/** The readings of a run as a file that can be read in again. Readings are as displayed. */
export function writeReadingsCsv(run: Run, system: "metric" | "inch"): string {
  const inch = system === "inch";
  const steps = new Map(stepsOf(run.plan).map((s) => [s.index, s]));
  const rows = run.readings.flatMap((reading) => {
    const step = steps.get(reading.step);
    if (!step || step.action === "zero") return [];
    const expected = run.plan.keepsZero ? step.targetMm - run.plan.targetsMm[0] : 0;
    const counted = step.action === "count";
    const shown = fromMm(reading.value - expected, inch ? "in" : "mm").toFixed(inch ? 8 : 6);
    return [
      {
        [inch ? "place_in" : "place_mm"]: fromMm(step.targetMm, inch ? "in" : "mm").toFixed(inch ? 8 : 4),
        approach: step.direction,
        run: step.run,
        [inch ? "reading_in" : "reading_mm"]: counted ? "" : shown,
        count: counted ? reading.value : "",
        state: reading.state,
        reason: guardFormula(reading.reason),
        at: reading.at,
        by: guardFormula(reading.by),
      },
    ];
  });
  return Papa.unparse(rows, { newline: "\n" });
}

/** What a spreadsheet may take for a formula, full-width signs of East Asian keyboards among them. */
const FORMULA = /^[=+\-@\t\r＝＋－＠]/;

/** Keeps spreadsheets from running text as a formula. */
export function guardFormula(text: string): string {
  return FORMULA.test(text) ? `'${text}` : text;
}
