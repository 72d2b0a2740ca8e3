import type {
  ComparedPrediction,
  Correction,
  CorrectionPrediction,
  CorrectionRules,
  MadeCorrection,
  MayCompensate,
} from "@iron/core";
import * as z from "zod";
import { between, finite, idSchema, instantSchema, note, oneOf } from "../wire/common";
import { operation } from "../wire/operation";

/** How a control wants its table; whether it fits the axis the core checks. */
export const correctionRulesSchema = z.object({
  startMm: between("First point", [-3000, 30_000], "mm"),
  stepMm: between("Step", [1, 30_000], "mm"),
  points: finite
    .int("Points must be a whole number.")
    .min(2, "Points must be from 2 to 1000.")
    .max(1000, "Points must be from 2 to 1000."),
  incrementMm: between("Smallest unit", [0.00001, 0.1], "mm"),
  referenceMm: between("Reference point", [-3000, 33_000], "mm"),
  ways: oneOf("Tables", ["one", "two"]),
  sense: oneOf("Sense", ["added", "taken-away"]),
  form: oneOf("Form", ["whole", "step"]),
  counted: oneOf("Counted", ["+", "-"]),
  largestMm: between("Largest value", [0.00001, 10], "mm"),
  steepestMm: between("Largest change", [0.00001, 10], "mm"),
}) satisfies z.ZodType<CorrectionRules>;

const airSchema = z.object({
  celsius: between("Air temperature", [-10, 50], "°C"),
  hPa: between("Air pressure", [600, 1100], "hPa"),
  humidity: between("Humidity", [0, 100], "%"),
});

export const warmthSchema = z.object({
  carrierC: between("Machine temperature", [-10, 60], "°C"),
  referenceC: between("Reference temperature", [-10, 60], "°C"),
  carrierPerK: between("Growth of the machine", [0, 40], "µm/m a kelvin"),
  referencePerK: between("Growth of the reference", [0, 40], "µm/m a kelvin"),
  uK: between("± of the temperatures", [0, 20], "K"),
});

const typed = z.array(finite).max(1000, "At most 1000 values.");

/** A table as it stands in a control, number by number. */
export const typedTableSchema = z.object({ rules: correctionRulesSchema, up: typed, down: typed.nullable() });

export const correctionCreateSchema = z.object({
  /** Travel profile that it is made from. */
  runId: idSchema,
  rules: correctionRulesSchema,
  warmth: warmthSchema,
  laser: z
    .object({
      first: airSchema,
      last: airSchema,
      reckoned: between("Index of air", [1, 1.001], "").nullable(),
      deadPathMm: between("Dead path", [0, 50_000], "mm"),
    })
    .nullable(),
  /** Expanded uncertainty of the reference along a metre, mm. */
  referenceUPerM: between("U of the reference", [0, 0.1], "mm along a metre"),
  /** Table that was active while the profile was read; null where none was. */
  old: typedTableSchema.nullable(),
  note: note("Note", 500),
});
export type CorrectionCreate = z.infer<typeof correctionCreateSchema>;

/** A travel profile that a table can be made from. */
export const correctionProfileSchema = z.object({
  runId: z.number().int(),
  at: instantSchema,
  by: z.string(),
  places: z.number().int(),
  runs: z.number().int(),
  temperatureC: z.number().nullable(),
  /** Surface it was read on, as it was noted. */
  surface: z.string(),
  /** Table that stood in the control while it was read, as far as is known here; null for none. */
  activeId: z.number().int().nullable(),
  /** Largest gap between two places, mm. */
  gapMm: z.number(),
});
export type CorrectionProfile = z.infer<typeof correctionProfileSchema>;

/** A table worked out, and what is to be thought of it. */
export const correctionTrialSchema = z.object({
  made: z.custom<MadeCorrection>(),
  prediction: z.custom<CorrectionPrediction>(),
  may: z.custom<MayCompensate>(),
});
export type CorrectionTrial = z.infer<typeof correctionTrialSchema>;

export const correctionRecordSchema = correctionTrialSchema.extend({
  id: z.number().int(),
  axisId: z.number().int(),
  machineId: z.number().int(),
  /** Counted from 1 for each axis. */
  version: z.number().int(),
  given: correctionCreateSchema,
  at: instantSchema,
  by: z.string(),
  /** When and by whom it was put into the control, the last time; null where it never was. */
  entered: z.object({ at: instantSchema, by: z.string(), how: z.enum(["read back", "simulated control"]) }).nullable(),
  /** It stands in the control now, as far as is known. */
  active: z.boolean(),
  /** Somebody worked on the axis since: the day. Null where nobody did. */
  workedOnAt: instantSchema.nullable(),
  /** Profiles read while it was active, against what it promised; newest first. */
  after: z.array(
    z.object({
      runId: z.number().int(),
      at: instantSchema,
      compared: z.custom<ComparedPrediction>(),
      meanRangeMm: z.number(),
    }),
  ),
  /** The control of this axis is a simulated one. */
  simulated: z.boolean(),
});
export type CorrectionRecord = z.infer<typeof correctionRecordSchema>;

export const correctionsSchema = z.object({
  profiles: z.array(correctionProfileSchema),
  versions: z.array(
    correctionRecordSchema
      .pick({ id: true, version: true, at: true, by: true, entered: true, active: true, workedOnAt: true })
      .extend({
        beforeMm: z.number(),
        afterMm: z.number(),
        note: z.string(),
        table: z.custom<Correction>(),
      }),
  ),
  /** Losses along the travel by the newest profile, mm. */
  losses: z.array(z.object({ atMm: z.number(), valueMm: z.number(), uMm: z.number() })),
  simulated: z.boolean(),
});
export type Corrections = z.infer<typeof correctionsSchema>;

/** That it stands in the control: the numbers read back from it, or told to the simulated one. */
export const correctionEnterSchema = z.discriminatedUnion("how", [
  z.object({ how: z.literal("read back"), up: typed, down: typed.nullable() }),
  z.object({ how: z.literal("simulated control") }),
]);
export type CorrectionEnter = z.infer<typeof correctionEnterSchema>;

const byId = z.object({ id: idSchema });

export const CORRECTION_OPERATIONS = {
  corrections: operation("corrections", "Compensation tables of an axis, and the profiles they can be made from", {
    params: byId,
    response: correctionsSchema,
  }),
  tryCorrection: operation("tryCorrection", "Work a table out and keep nothing", {
    params: byId,
    body: correctionCreateSchema,
    response: correctionTrialSchema,
  }),
  keepCorrection: operation(
    "keepCorrection",
    "Keep a table as the next version; refused while the mechanics come first",
    {
      params: byId,
      body: correctionCreateSchema,
      response: correctionRecordSchema,
      created: true,
    },
  ),
  correction: operation("correction", "One version of a table, and what was read with it since", {
    params: byId,
    response: correctionRecordSchema,
  }),
  enterCorrection: operation("enterCorrection", "Say that a table stands in the control: its numbers read back", {
    params: byId,
    body: correctionEnterSchema,
    response: correctionRecordSchema,
  }),
  takeOutCorrection: operation("takeOutCorrection", "Say that no table stands in the control any more", {
    params: byId,
    body: z.object({ reason: note("Reason", 300) }),
    response: correctionsSchema,
  }),
  exportCorrection: operation("exportCorrection", "A table as a file", {
    params: byId,
    query: z.object({ format: oneOf("Format", ["csv", "json"]).default("csv") }),
  }),
} as const;
