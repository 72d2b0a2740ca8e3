import { guardFormula, parseDecimal, quoted, type CsvError } from "../measure/readings-csv";
import { toMm, turned, type CircleDirection, type CircleTrace, type LengthUnit } from "@iron/core";
import Papa from "papaparse";

export interface CircleCsv {
  readonly traces: readonly CircleTrace[];
  readonly errors: readonly CsvError[];
}

const DEVIATIONS: Readonly<Record<string, LengthUnit>> = {
  deviation_um: "um",
  deviation_mm: "mm",
  deviation_in: "in",
  deviation_thou: "thou",
  deviation_tenth: "tenth",
};
const PLACES: Readonly<Record<string, LengthUnit>> = { mm: "mm", in: "in" };
const DIRECTIONS = new Map<string, CircleDirection>([
  ["+", 1],
  ["+1", 1],
  ["1", 1],
  ["ccw", 1],
  ["g3", 1],
  ["counterclockwise", 1],
  ["-", -1],
  ["−", -1],
  ["-1", -1],
  ["cw", -1],
  ["g2", -1],
  ["clockwise", -1],
]);
const MOST_ROWS = 120_000;
const MOST_ERRORS = 200;
/** Nothing on a machine deviates further from a circle, mm. */
const MOST_MM = 20;

interface Row {
  readonly line: number;
  readonly rad: number;
  readonly mm: number;
  readonly direction: CircleDirection | null;
  readonly run: number;
}

interface Columns {
  readonly names: readonly string[];
  readonly deviation: readonly [string, LengthUnit] | null;
  readonly xy: readonly [string, string, LengthUnit] | null;
}

function columnsOf(names: readonly string[], errors: CsvError[]): Columns | null {
  const deviation = Object.entries(DEVIATIONS).find(([name]) => names.includes(name)) ?? null;
  const unit = Object.entries(PLACES).find(([u]) => names.includes(`x_${u}`) && names.includes(`y_${u}`));
  const xy = unit ? ([`x_${unit[0]}`, `y_${unit[0]}`, unit[1]] as const) : null;
  if (xy || (deviation && names.includes("angle_deg"))) return { names, deviation, xy };
  errors.push({
    line: 1,
    column: "angle_deg",
    message:
      "There must be the columns angle_deg and deviation_um (or _mm, _in, _thou, _tenth), or x_mm and y_mm (or _in) from the centre.",
  });
  return null;
}

function rowOf(
  cells: readonly string[],
  {
    line,
    columns: { names, deviation, xy },
    radiusMm,
    errors,
  }: { readonly line: number; readonly columns: Columns; readonly radiusMm: number; readonly errors: CsvError[] },
): Row | null {
  const cell = (name: string): string => (cells[names.indexOf(name)] ?? "").trim();
  const before = errors.length;
  const failed = (column: string, message: string): void => void errors.push({ line, column, message });
  const number = (name: string): number => {
    const value = parseDecimal(cell(name));
    if (value === undefined)
      failed(name, cell(name) === "" ? "The number is missing." : `${quoted(cell(name))} is not a number.`);
    return value ?? NaN;
  };
  const length = (name: string, unit: LengthUnit): number => {
    const value = number(name);
    return Number.isFinite(value) ? toMm(value, unit) : NaN;
  };
  if (cells.length > names.length) {
    failed(
      "",
      `There are ${cells.length} cells under ${names.length} headings: is a decimal comma taken for the separator?`,
    );
    return null;
  }
  const place = (): { rad: number; mm: number } => {
    if (xy) {
      const [x, y] = [length(xy[0], xy[2]), length(xy[1], xy[2])];
      return { rad: Math.atan2(y, x), mm: Math.hypot(x, y) - radiusMm };
    }
    const [name, unit] = deviation ?? ["deviation_um", "um"];
    return { rad: (number("angle_deg") * Math.PI) / 180, mm: length(name, unit) };
  };
  const { rad, mm } = place();
  const told = names.includes("direction") ? cell("direction").toLowerCase() : "";
  const direction = DIRECTIONS.get(told) ?? null;
  if (told !== "" && direction === null)
    failed("direction", `${quoted(cell("direction"))} is no direction: write + or -, ccw or cw, G3 or G2.`);
  if (Math.abs(mm) > MOST_MM)
    failed(
      xy ? xy[0] : (deviation?.[0] ?? ""),
      `${mm.toFixed(3)} mm from a circle of ${radiusMm} mm radius: is the radius right?`,
    );
  const run = names.includes("run") ? Number(cell("run") || "1") : 1;
  if (!Number.isInteger(run) || run < 1 || run > 50)
    failed("run", `Run ${quoted(cell("run"))} must be a whole number from 1 to 50.`);
  return errors.length > before ? null : { line, rad, mm, direction, run };
}

/** From one reading to the next, the shorter way round, rad. */
const onward = (from: number, to: number): number => turned(to - from + Math.PI) - Math.PI;

/** Where nobody says it: which way the angles go; null where they go neither. */
function goesBy(rows: readonly Row[]): CircleDirection | null {
  let [up, down] = [0, 0];
  for (let i = 1; i < rows.length; i += 1) {
    const step = onward(rows[i - 1].rad, rows[i].rad);
    if (step > 0) up += 1;
    else if (step < 0) down += 1;
  }
  if (up > 0.98 * (rows.length - 1)) return 1;
  return down > 0.98 * (rows.length - 1) ? -1 : null;
}

/** Stretches that were read one after the other: a new one begins where it is said to, or where the angles turn back. */
function stretchesOf(rows: readonly Row[]): readonly (readonly Row[])[] {
  const stretches: Row[][] = [];
  let way = 0;
  rows.forEach((row, i) => {
    const before = rows[i - 1] as Row | undefined;
    const step = before ? Math.sign(onward(before.rad, row.rad)) : 0;
    const told = row.direction !== null;
    const turnsBack = !told && way !== 0 && step !== 0 && step !== way && (stretches.at(-1)?.length ?? 0) > 10;
    if (!before || row.direction !== before.direction || row.run !== before.run || turnsBack) {
      stretches.push([row]);
      way = 0;
    } else {
      stretches[stretches.length - 1].push(row);
      if (way === 0) way = step;
    }
  });
  return stretches;
}

function traceOf(rows: readonly Row[], errors: CsvError[]): CircleTrace | null {
  const [{ line, direction: told }] = rows;
  const goes = goesBy(rows);
  const failed = (message: string): null => {
    errors.push({ line, column: "direction", message });
    return null;
  };
  if (told === null && goes === null)
    return failed("Which way round was it? The angles go neither way all through: add a column direction, ccw or cw.");
  if (told !== null && goes !== null && told !== goes)
    return failed(
      `The angles ${goes === 1 ? "grow" : "fall"} from line ${line} on, which is ${goes === 1 ? "counterclockwise" : "clockwise"}; the column says the other. Which is it?`,
    );
  // Wound on past the full turn, so that they stand in the order they were passed.
  let at = rows[0].rad;
  const angles = rows.map((row, i) => (i === 0 ? at : (at += onward(rows[i - 1].rad, row.rad))));
  return {
    direction: told ?? goes ?? 1,
    angles: Float64Array.from(angles),
    deviations: Float64Array.from(rows, (r) => r.mm),
  };
}

/**
 * Reads circles from a file: a header line, then a row a reading, angle and deviation or x and y from the centre; comma,
 * semicolon or tab between. Which way round is told by a column, or by how the angles go; where neither does, it is asked.
 */
export function parseCircleCsv(text: string, radiusMm: number): CircleCsv {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { delimitersToGuess: [";", ",", "\t"] });
  const [head = [], ...body] = parsed.data;
  const errors: CsvError[] = [];
  const columns = columnsOf(
    head.map((h) => h.trim().toLowerCase()),
    errors,
  );
  if (!columns) return { traces: [], errors };
  const rows = body.slice(0, MOST_ROWS).flatMap((cells, i) => {
    if (errors.length > MOST_ERRORS || cells.every((c) => c.trim() === "")) return [];
    return rowOf(cells, { line: i + 2, columns, radiusMm, errors }) ?? [];
  });
  if (body.length > MOST_ROWS)
    errors.push({ line: MOST_ROWS + 2, column: "", message: `There are more than ${MOST_ROWS} readings.` });
  if (errors.length > 0) return { traces: [], errors };
  const traces = stretchesOf(rows).flatMap((s) => {
    if (s.length >= 12) return traceOf(s, errors) ?? [];
    errors.push({
      line: s[0].line,
      column: "",
      message: `Only ${s.length} readings one way round: at least 12 are needed.`,
    });
    return [];
  });
  if (traces.length === 0 && errors.length === 0)
    errors.push({ line: 2, column: "", message: "There is no reading below the header line." });
  return { traces: errors.length > 0 ? [] : traces, errors };
}

/** The readings of a plane as rows of a file that can be read in again. */
export function circleCsvRows(
  plane: string,
  traces: readonly { readonly run: number; readonly by: string; readonly trace: CircleTrace }[],
): readonly Readonly<Record<string, string>>[] {
  return traces.flatMap(({ run, by, trace }) =>
    Array.from(trace.angles, (angle, i) => ({
      plane: guardFormula(plane),
      direction: trace.direction === 1 ? "ccw" : "cw",
      run: String(run),
      angle_deg: ((angle * 180) / Math.PI).toFixed(4),
      deviation_um: (1000 * trace.deviations[i]).toFixed(3),
      by: guardFormula(by),
    })),
  );
}
