import { pointAt, typedValues, type Correction } from "@iron/core";
import Papa from "papaparse";
import { parseDecimal, quoted, type CsvError } from "../measure/readings-csv";

/** Names of the columns of a table’s file. */
const [POINT, PLACE, VALUE, FROM_ABOVE] = ["point", "place_mm", "value", "value_from_above"] as const;
const MOST_ROWS = 2000;
const MOST_ERRORS = 50;

/**
 * A table as a file: a row for each point in the order of the control, in its smallest unit.
 * @param table - of the axis
 * @returns CSV
 */
export function correctionCsv(table: Correction): string {
  const { rules } = table;
  const [up, down] = [typedValues(table, "+"), table.down ? typedValues(table, "-") : null];
  return Papa.unparse(
    {
      fields: [POINT, PLACE, VALUE, ...(down ? [FROM_ABOVE] : [])],
      data: up.map((value, i) => {
        const at = pointAt(rules, rules.counted === "+" ? i : rules.points - 1 - i);
        return [i + 1, Number(at.toFixed(5)), value, ...(down ? [down[i]] : [])];
      }),
    },
    { newline: "\r\n" },
  );
}

export interface TypedCsv {
  readonly up: readonly number[];
  readonly down: readonly number[] | null;
  readonly errors: readonly CsvError[];
}

/**
 * Numbers of a table from a file: the column value, and value_from_above where there are two; or a bare list of numbers.
 * @param text - CSV
 * @returns numbers in their order, and what is wrong with it
 */
export function parseTypedTable(text: string): TypedCsv {
  const { data } = Papa.parse<readonly string[]>(text.trim(), { skipEmptyLines: "greedy" });
  const errors: CsvError[] = [];
  const failed = (line: number, column: string, message: string): void => {
    if (errors.length < MOST_ERRORS) errors.push({ line, column, message });
  };
  if (data.length > MOST_ROWS) {
    failed(1, VALUE, `There are ${data.length} rows; at most ${MOST_ROWS} can be read.`);
    return { up: [], down: null, errors };
  }
  const head = data.at(0)?.map((c) => c.trim().toLowerCase()) ?? [];
  const named = head.includes(VALUE);
  if (!named && data.some((row) => row.length > 1)) {
    failed(
      1,
      VALUE,
      `There must be a column ${VALUE}, and ${FROM_ABOVE} where there are two tables; or one number a line.`,
    );
    return { up: [], down: null, errors };
  }
  const rows = named ? data.slice(1) : data;
  const column = (name: string, at: number): readonly number[] =>
    rows.map((row, i) => {
      const cell = (row.at(at) ?? "").trim();
      const value = parseDecimal(cell);
      if (value === undefined) failed(i + (named ? 2 : 1), name, `${quoted(cell)} is not a number.`);
      return value ?? NaN;
    });
  const up = column(VALUE, named ? head.indexOf(VALUE) : 0);
  const down = named && head.includes(FROM_ABOVE) ? column(FROM_ABOVE, head.indexOf(FROM_ABOVE)) : null;
  return { up, down, errors };
}
