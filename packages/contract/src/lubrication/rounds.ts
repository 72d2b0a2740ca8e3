import { BASE_OILS, INTERVAL_METHODS, LUBRICANT_KINDS, THICKENERS } from "@iron/core";
import * as z from "zod";
import { finite, idSchema, instantSchema, note, oneOf, said, versionSchema } from "../wire/common";
import { operation } from "../wire/operation";

const key = z.uuid("The key must be a UUID.");
const byId = z.object({ id: idSchema });
export const daySchema = z.iso.date({
  error: "Must be a day like 2026-03-03.",
});

const minutes = finite.min(0, "Minutes must be from 0 to 1440.").max(1440, "Minutes must be from 0 to 1440.");

/** Strokes of a gun, and the grams that came out. */
export const weighingSchema = z.object({
  strokes: z.number().int().min(1, "Strokes must be from 1 to 200.").max(200, "Strokes must be from 1 to 200."),
  grams: finite.positive("Grams must be above 0.").max(4000, "Grams must be at most 4000."),
});

/** How the shop keeps its machines lubricated. Weekdays begin with Monday. */
export const lubricationSettingsEditSchema = z.object({
  version: versionSchema,
  minutesByWeekday: z.array(minutes).length(7, "Seven weekdays."),
  holidays: z.array(z.object({ date: daySchema, words: note("Holiday", 60) })).max(400, "At most 400 holidays."),
  method: oneOf("Method", INTERVAL_METHODS),
  /** Weekdays on which a machine may be stopped; a machine not named may be on each. */
  windows: z
    .array(
      z.object({
        machineId: z.number().int(),
        days: z.array(z.boolean()).length(7, "Seven weekdays."),
      }),
    )
    .max(2000),
  /** What a program makes an axis travel in an hour of running; others are reckoned from rapid. */
  travel: z
    .array(
      z.object({
        machineId: z.number().int(),
        letter: z.string().max(4),
        kmPerHour: finite
          .min(0, "Travel must be from 0 to 10 km an hour.")
          .max(10, "Travel must be from 0 to 10 km an hour."),
        from: note("Program", 80),
      }),
    )
    .max(5000)
    .default([]),
  /** Bays in the order in which they are walked; the others come after, by number. */
  bays: z.array(said("Bay", 20)).max(500, "At most 500 bays.").default([]),
  guns: z
    .array(
      z.object({
        name: said("Name of the gun", 60),
        weighings: z.array(weighingSchema).min(1, "A gun needs at least one weighing.").max(20),
      }),
    )
    .max(30),
});
export const lubricationSettingsSchema = lubricationSettingsEditSchema.extend({
  /** What a stroke gives, from the first gun; the usual 0.8 g without one. */
  gramsPerStroke: finite,
  gunFigures: z.array(z.object({ name: z.string(), gramsPerStroke: finite, expandedGrams: finite })),
});
export type LubricationSettings = z.infer<typeof lubricationSettingsSchema>;
export type LubricationSettingsEdit = z.infer<typeof lubricationSettingsEditSchema>;

export const meterCreateSchema = z.object({
  key,
  date: daySchema,
  hours: finite,
  reset: z.boolean(),
});
export type MeterCreate = z.infer<typeof meterCreateSchema>;

export const machineMeterSchema = z.object({
  machineId: z.number().int(),
  nickname: z.string(),
  bay: z.string(),
  hoursPerDay: finite,
  /** Expanded, about 95 %, h per day. */
  expanded: finite,
  from: z.enum(["meter", "working week"]),
  notes: z.array(z.string()),
  readings: z.array(
    z.object({ id: z.number().int(), date: z.string(), hours: finite, reset: z.boolean(), by: z.string() }),
  ),
});
export type MachineMeter = z.infer<typeof machineMeterSchema>;

const importBody = z.object({
  text: z.string().max(5_000_000, "The file is larger than 5 MB."),
  /** Keep the good rows although others are wrong. */
  anyway: z.boolean().default(false),
  /** By which to ask how far it is, or to call it off. */
  key: key.optional(),
});
/** A file being read: its rows are gone through, then kept all at once. */
export const importStateSchema = z.object({
  /** None: it has not come yet, or is through; both are asked about by whoever sends one. */
  phase: z.enum(["none", "waiting", "reading", "keeping"]),
  rows: z.number().int(),
  /** Rows there are; 0 until the file is taken apart. */
  of: z.number().int(),
});
export type ImportState = z.infer<typeof importStateSchema>;
const byKey = z.object({ key });
export const keepImportSchema = z.object({
  kept: z.number().int(),
  /** Rows that were there already. */
  known: z.number().int(),
  good: z.number().int(),
  /** Lines with something wrong; only the first of them are told. */
  errorLines: z.number().int(),
  errors: z.array(z.object({ line: z.number().int(), column: z.string(), message: z.string() })),
});
export type LubricationImport = z.infer<typeof keepImportSchema>;

export const lubricantEditSchema = z.object({
  name: said("Name", 80),
  kind: oneOf("Kind", LUBRICANT_KINDS),
  thickener: z.enum(THICKENERS, { error: "There is no such thickener." }).nullable(),
  base: z.enum(BASE_OILS, { error: "There is no such base oil." }).nullable(),
  nlgi: finite.min(0, "NLGI must be from 0 to 6.").max(6, "NLGI must be from 0 to 6.").nullable(),
  viscosity: finite.min(1, "ISO VG must be from 1 to 5000.").max(5000, "ISO VG must be from 1 to 5000.").nullable(),
  containerG: finite
    .positive("A container must hold more than 0 g.")
    .max(1_000_000, "A container must hold at most 1000000 g."),
  leadDays: finite.min(0, "Days to arrive must be from 0 to 365.").max(365, "Days to arrive must be from 0 to 365."),
  reserveG: finite.min(0, "The reserve must be 0 g or more.").max(1_000_000, "The reserve must be at most 1000000 g."),
});
export type LubricantEdit = z.infer<typeof lubricantEditSchema>;

export const lubricantUpdateSchema = lubricantEditSchema.extend({
  version: versionSchema,
});
export const lubricantSchema = lubricantUpdateSchema.extend({
  id: z.number().int(),
  points: z.number().int(),
  stockG: finite,
  countedAt: instantSchema.nullable(),
  gramsPerDay: finite,
  daysLeft: finite.nullable(),
  /** Order by this day; null while nothing uses it. */
  orderBy: z.string().nullable(),
});
export type LubricantRecord = z.infer<typeof lubricantSchema>;

export const stockMoveSchema = z.object({
  key,
  /** Counted afresh, or come in. */
  kind: z.enum(["count", "in"]),
  grams: finite.min(0, "Grams must be 0 or more.").max(10_000_000, "Grams must be at most 10000000."),
});

/** Settings of lubrication, hour meters, lubricants and their stock. */
export const KEEP_OPERATIONS = {
  lubricationSettings: operation("lubricationSettings", "Minutes, holidays, windows, method and guns", {
    response: lubricationSettingsSchema,
  }),
  updateLubricationSettings: operation(
    "updateLubricationSettings",
    "Change them; the version guards against another’s change",
    {
      body: lubricationSettingsEditSchema,
      response: lubricationSettingsSchema,
    },
  ),
  meters: operation("meters", "Hour meters of all machines with the usage to come", {
    response: z.array(machineMeterSchema),
  }),
  addMeter: operation("addMeter", "Keep a reading of an hour meter", {
    params: byId,
    body: meterCreateSchema,
    response: z.array(machineMeterSchema),
    created: true,
  }),
  readMeter: operation("readMeter", "Let the simulated machine tell its hours", {
    params: byId,
    response: z.array(machineMeterSchema),
  }),
  takeMeterBack: operation("takeMeterBack", "Take a meter reading back", {
    params: byId,
    response: z.array(machineMeterSchema),
  }),
  importMeters: operation("importMeters", "Meter readings from a CSV file", {
    body: importBody,
    response: keepImportSchema,
  }),
  importState: operation("importState", "How far a file is that is being read", {
    params: byKey,
    response: importStateSchema,
  }),
  callImportOff: operation("callImportOff", "Call a file off: nothing of it is kept", {
    params: byKey,
    response: importStateSchema,
  }),
  exportMeters: operation("exportMeters", "Meter readings as CSV", {}),
  importPoints: operation("importPoints", "Points from a CSV file; a place that is there is changed", {
    body: importBody,
    response: keepImportSchema,
  }),
  exportPoints: operation("exportPoints", "Points as CSV", {}),
  importWork: operation("importWork", "Completed work from a CSV file", {
    body: importBody,
    response: keepImportSchema,
  }),
  exportWork: operation("exportWork", "Completed work as CSV", {}),
  lubricants: operation("lubricants", "Lubricants, their stock and when to order", {
    response: z.array(lubricantSchema),
  }),
  createLubricant: operation("createLubricant", "Add a lubricant", {
    body: lubricantEditSchema,
    response: z.array(lubricantSchema),
    created: true,
  }),
  updateLubricant: operation(
    "updateLubricant",
    "Change a lubricant; 409 with the present one when somebody was faster",
    { params: byId, body: lubricantUpdateSchema, response: z.array(lubricantSchema) },
  ),
  moveStock: operation("moveStock", "Count the stock, or take a delivery in", {
    params: byId,
    body: stockMoveSchema,
    response: z.array(lubricantSchema),
    created: true,
  }),
} as const;
