import { toMm, type LoadSample } from "@iron/core";
import Papa from "papaparse";
import { parseDecimal, quoted, type CsvError } from "../measure/readings-csv";

export interface CsvLoadTrace {
  readonly samples: readonly LoadSample[];
  readonly unit: "%" | "A";
  readonly errors: readonly CsvError[];
}

const DIRECTIONS = new Map<string, "+" | "-">([
  ["+", "+"],
  ["up", "+"],
  ["-", "-"],
  ["−", "-"],
  ["down", "-"],
]);
const MOST = 20_000;

/**
 * Reads a load trace: columns position_mm or position_in, direction (+ or -), load_percent or
 * load_a; comma, semicolon or tab between, decimal point or comma. Wrong rows are named.
 */
export function parseLoadCsv(text: string): CsvLoadTrace {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), {
    delimitersToGuess: [";", ",", "\t"],
  });
  const [head = [], ...body] = parsed.data;
  const header = head.map((h) => h.trim().toLowerCase());
  const errors: CsvError[] = [];
  const place = header.findIndex((h) => h === "position_mm" || h === "position_in");
  const direction = header.indexOf("direction");
  const load = header.findIndex((h) => h === "load_percent" || h === "load_a");
  const need = (at: number, column: string, message: string): void => {
    if (at < 0) errors.push({ line: 1, column, message });
  };
  need(place, "position_mm", "There is no column position_mm or position_in.");
  need(direction, "direction", "There is no column direction: + or - for each row.");
  need(load, "load_percent", "There is no column load_percent or load_a.");
  if (errors.length) return { samples: [], unit: "%", errors };
  const inch = header[place] === "position_in";
  const samples: LoadSample[] = [];
  body.slice(0, MOST).forEach((cells, i) => {
    if (cells.every((c) => c.trim() === "")) return;
    const line = i + 2;
    const number = (at: number): number => {
      const value = parseDecimal(cells[at] ?? "");
      if (value === undefined)
        errors.push({ line, column: header[at], message: `${quoted((cells[at] ?? "").trim())} is not a number.` });
      return value ?? NaN;
    };
    const at = number(place);
    const value = number(load);
    const way = DIRECTIONS.get((cells[direction] ?? "").trim().toLowerCase());
    if (!way)
      errors.push({
        line,
        column: "direction",
        message: `${quoted((cells[direction] ?? "").trim())} is no direction: write + or -.`,
      });
    if (way && !Number.isNaN(at) && !Number.isNaN(value))
      samples.push({ positionMm: inch ? toMm(at, "in") : at, direction: way, load: value });
  });
  if (body.length > MOST) errors.push({ line: MOST + 2, column: "", message: `Only the first ${MOST} rows are read.` });
  return { samples, unit: header[load] === "load_a" ? "A" : "%", errors };
}
