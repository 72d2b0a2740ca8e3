import Papa from "papaparse";
import { guardFormula, parseDecimal, quoted, type CsvError } from "../measure/readings-csv";

/** Why a cell is no good; thrown by the readers of columns. */
export class CellError extends Error {}

/** How one column is read. Undefined from an optional one that is empty or not there. */
export interface Column<T> {
  readonly name: string;
  readonly required: boolean;
  readonly read: (text: string) => T;
}

type Read<C> = C extends Column<infer T> ? T : never;
export interface CsvTable<R> {
  readonly rows: readonly { readonly line: number; readonly value: R }[];
  readonly errors: readonly CsvError[];
}

export const MOST_CSV_ROWS = 50_000;

/**
 * Reads a table with named columns in any order; comma, semicolon or tab between, quotes as RFC 4180
 * has them, a byte order mark passed over. Every wrong cell is named by line and column; good rows
 * are answered beside them.
 */
export function readTable<C extends Record<string, Column<unknown>>>(
  text: string,
  columns: C,
): CsvTable<{ [K in keyof C]: Read<C[K]> | undefined }> {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), {
    delimitersToGuess: [";", ",", "\t"],
  });
  const [head = [], ...body] = parsed.data;
  const header = head.map((h) => h.trim().toLowerCase());
  const errors: CsvError[] = [];
  for (const column of Object.values(columns))
    if (column.required && !header.includes(column.name))
      errors.push({ line: 1, column: column.name, message: `There is no column ${column.name}.` });
  if (errors.length) return { rows: [], errors };
  const rows: { line: number; value: { [K in keyof C]: Read<C[K]> | undefined } }[] = [];
  body.slice(0, MOST_CSV_ROWS).forEach((cells, i) => {
    if (cells.every((c) => c.trim() === "")) return;
    const line = i + 2;
    const before = errors.length;
    const value = Object.fromEntries(
      Object.entries(columns).map(([key, column]) => {
        // The apostrophe that {@link writeTable} puts before what a spreadsheet would compute.
        const cell = (cells[header.indexOf(column.name)] ?? "").trim().replace(/^'(?=[=+\-@＝＋－＠])/, "");
        if (cell === "") {
          if (column.required) errors.push({ line, column: column.name, message: "It is empty." });
          return [key, undefined];
        }
        try {
          return [key, column.read(cell)];
        } catch (error) {
          if (!(error instanceof CellError)) throw error;
          errors.push({ line, column: column.name, message: error.message });
          return [key, undefined];
        }
      }),
    ) as { [K in keyof C]: Read<C[K]> | undefined };
    if (errors.length === before) rows.push({ line, value });
  });
  if (body.length > MOST_CSV_ROWS)
    errors.push({ line: MOST_CSV_ROWS + 2, column: "", message: `Only the first ${MOST_CSV_ROWS} rows are read.` });
  return { rows, errors };
}

export const column = <T>(name: string, read: (text: string) => T, required = true): Column<T> => ({
  name,
  required,
  read,
});

export const text =
  (most: number) =>
  (cell: string): string => {
    if (cell.length > most) throw new CellError(`“${cell.slice(0, 20)}…” is longer than ${most} characters.`);
    return cell;
  };

export const number =
  (least: number, most: number) =>
  (cell: string): number => {
    const value = parseDecimal(cell);
    if (value === undefined) throw new CellError(`${quoted(cell)} is not a number.`);
    if (value < least || value > most) throw new CellError(`${cell} is not from ${least} to ${most}.`);
    return value;
  };

export const yesNo = (cell: string): boolean => {
  if (/^(yes|true|1|x)$/i.test(cell)) return true;
  if (/^(no|false|0)$/i.test(cell)) return false;
  throw new CellError(`${quoted(cell)} is neither yes nor no.`);
};

/** A calendar day, year first, that really is one. */
export const day = (cell: string): string => {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(cell);
  const at = match ? new Date(`${cell}T12:00:00Z`) : null;
  if (!at || Number.isNaN(at.getTime()) || !at.toISOString().startsWith(cell))
    throw new CellError(`${quoted(cell)} is no date: write 2026-03-31.`);
  return cell;
};

export const word =
  <const T extends readonly string[]>(words: T) =>
  (cell: string): T[number] => {
    const found = words.find((w) => w.toLowerCase() === cell.toLowerCase());
    if (found === undefined) throw new CellError(`${quoted(cell)} is none of: ${words.join(", ")}.`);
    return found;
  };

export const words =
  <const T extends readonly string[]>(all: T) =>
  (cell: string): T[number][] =>
    cell
      .split("|")
      .map((w) => w.trim())
      .filter(Boolean)
      .map(word(all));

/** Writes a table that {@link readTable} reads back. A cell a spreadsheet would compute is made text. */
export function writeTable(
  header: readonly string[],
  rows: readonly (readonly (string | number | boolean | null)[])[],
): string {
  const safe = (cell: string | number | boolean | null): string => {
    if (cell === null) return "";
    if (typeof cell === "boolean") return cell ? "yes" : "no";
    if (typeof cell === "number") return String(cell);
    return guardFormula(cell);
  };
  return `${Papa.unparse({ fields: [...header], data: rows.map((r) => r.map(safe)) }, { newline: "\r\n" })}\r\n`;
}
