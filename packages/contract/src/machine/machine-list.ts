import { CARRIAGE_WAYS, CENTRALS, MACHINE_BOUNDS, MACHINE_KINDS, NUT_WAYS } from "@iron/core";
import * as z from "zod";
import { CellError, column, day, number, readTable, text, word, type CsvTable } from "../wire/csv-table";
import { finite, oneOf } from "../wire/common";
import { operation } from "../wire/operation";
import type { MachineEdit } from "./machine";

/** A machine of a list, with what its usual points are made from. */
export interface MachineRow {
  readonly machine: MachineEdit;
  readonly letters: readonly string[];
  readonly meterHours: number | null;
  /** When it was last lubricated; null where nobody knows. */
  readonly lastDone: string | null;
  /** Null: as is usual for its kind. */
  readonly central: (typeof CENTRALS)[number] | null;
  readonly carriages: (typeof CARRIAGE_WAYS)[number] | null;
  readonly nuts: (typeof NUT_WAYS)[number] | null;
}

const MOST_AXES = 12;
const MOST_MACHINES = 1000;
const { min: leastHours, max: mostHours } = MACHINE_BOUNDS.hoursPerWeek;

/** Axis letters in one cell: “X Y Z”, “XYZ”, “X, Y, Z1”. */
function letters(cell: string): string[] {
  const all: readonly string[] = cell.toUpperCase().match(/[A-Z][0-9]?/g) ?? [];
  const rest = cell.toUpperCase().replace(/[A-Z][0-9]?/g, "");
  if (all.length === 0 || /[^\s,;|/+]/.test(rest)) throw new CellError(`“${cell.slice(0, 20)}” are no axis letters.`);
  if (all.length > MOST_AXES) throw new CellError(`${all.length} axes: at most ${MOST_AXES}.`);
  const twice = all.find((l, i) => all.indexOf(l) !== i);
  if (twice) throw new CellError(`${twice} is there twice.`);
  return [...all];
}

/**
 * A list of machines: machine (its nickname), bay, kind and axes, as “X Y Z”; where known hours_per_week, the hour
 * meter, the day of its last lubrication, and how its ways, carriages and nuts are lubricated.
 */
export function readMachineCsv(file: string): CsvTable<MachineRow> {
  const { rows, errors } = readTable(file, {
    machine: column("machine", text(40)),
    bay: column("bay", text(20)),
    kind: column("kind", word(MACHINE_KINDS)),
    axes: column("axes", letters),
    hoursPerWeek: column("hours_per_week", number(leastHours, mostHours), false),
    meter: column("meter_hours", number(0, 1_000_000), false),
    lastDone: column("last_lubricated", day, false),
    central: column("central", word(CENTRALS), false),
    carriages: column("carriages", word(CARRIAGE_WAYS), false),
    nuts: column("nuts", word(NUT_WAYS), false),
    note: column("note", text(2000), false),
  });
  const tooMany = {
    line: MOST_MACHINES + 2,
    column: "",
    message: `Only the first ${MOST_MACHINES} machines are read.`,
  };
  return {
    errors: rows.length > MOST_MACHINES ? [...errors, tooMany] : errors,
    rows: rows.slice(0, MOST_MACHINES).map(({ line, value: v }) => ({
      line,
      value: {
        machine: {
          nickname: v.machine ?? "",
          bay: v.bay ?? "",
          kind: v.kind ?? "vertical-centre",
          hoursPerWeek: v.hoursPerWeek ?? 40,
          note: v.note ?? "",
        },
        letters: v.axes ?? [],
        meterHours: v.meter ?? null,
        lastDone: v.lastDone ?? null,
        central: v.central ?? null,
        carriages: v.carriages ?? null,
        nuts: v.nuts ?? null,
      },
    })),
  };
}

export const machineListSchema = z.object({
  text: z.string().max(1_000_000, "The list is larger than 1 MB."),
  /** Only looked at, nothing kept. */
  preview: z.boolean().default(true),
  /** Machines that are not wanted, by nickname. */
  leaveOut: z.array(z.string().max(40)).max(2000).default([]),
  units: oneOf("Units", ["metric", "inch"]).default("metric"),
});

export const machineListAnswerSchema = z.object({
  machines: z.array(
    z.object({
      line: z.number().int(),
      nickname: z.string(),
      bay: z.string(),
      kind: z.enum(MACHINE_KINDS),
      letters: z.array(z.string()),
      points: z.number().int(),
      minutes: finite,
      lastDone: z.string().nullable(),
      /** A machine of that name is there already: it stays as it is. */
      there: z.boolean(),
    }),
  ),
  errors: z.array(z.object({ line: z.number().int(), column: z.string(), message: z.string() })),
  /** Those that were made now; empty for a preview. */
  ids: z.array(z.number().int()),
  /** What their points take in the first four weeks, against the minutes that people have, min. */
  firstWeeks: z.object({ minutes: finite, available: finite }),
});
export type MachineListAnswer = z.infer<typeof machineListAnswerSchema>;

export const LIST_OPERATIONS = {
  machineList: operation("machineList", "Machines with their usual points from a list; a preview keeps nothing", {
    body: machineListSchema,
    response: machineListAnswerSchema,
  }),
  machineListBack: operation("machineListBack", "Take machines off the floor again, all at once", {
    body: z.object({ ids: z.array(z.number().int()).max(2000, "At most 2000 machines.") }),
    response: z.object({ retired: z.number().int() }),
  }),
} as const;
