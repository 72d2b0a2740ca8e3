import { TEST_KINDS, type IndicatorSetup } from "@iron/core";
import * as z from "zod";
import { axisEventSchema } from "../machine/axis";
import { finite, instantSchema, note, oneOf } from "../wire/common";
import { indicatorEditSchema, tipAngleSchema } from "./indicator";

export const testPlanSchema = z.object({
  kind: oneOf("Test", TEST_KINDS),
  targetsMm: z.array(finite).min(1, "Name at least one place.").max(1000, "At most 1000 places.").readonly(),
  runs: finite,
  overTravelMm: finite,
  tickMm: finite,
  ticksOut: finite,
  keepsZero: z.boolean(),
  markedTurns: z.boolean().optional(),
  countsStill: z.boolean().optional(),
  circumference: z.object({ radiusMm: finite, perTurnMm: finite }).optional(),
});

export const SURFACES = [
  "ground face",
  "milled face",
  "gauge block",
  "square",
  "reference scale",
  "ball in the centre hole",
  "flat screw end",
  "thread flank",
  "part of the drive",
] as const;

export const commandedSchema = z.object({
  system: oneOf("Units", ["metric", "inch"]),
  decimals: z.number().int().min(2, "Decimals must be from 2 to 6.").max(6, "Decimals must be from 2 to 6."),
});
export const senseSchema = z.object({
  sense: z.union([z.literal(1), z.literal(-1)], "Sense must be 1 or -1."),
});

export const runSetupSchema = z.object({
  indicator: indicatorEditSchema,
  tipAngleDeg: tipAngleSchema,
  sense: senseSchema.shape.sense,
  surface: oneOf("Surface", SURFACES),
  temperatureC: finite
    .min(-20, "Temperature must be from −20 to 60 °C.")
    .max(60, "Temperature must be from −20 to 60 °C.")
    .nullable(),
  note: note("Note", 500),
  /** How the program that moved the axis wrote its places; absent where none did. */
  commanded: commandedSchema.optional(),
});
export type RunSetup = z.infer<typeof runSetupSchema>;

/** A run’s set-up as the core evaluates it: one place for server and interface. */
export function indicatorSetup(setup: RunSetup): IndicatorSetup {
  const { indicator, tipAngleDeg, sense, commanded } = setup;
  // Runs from before an indicator’s own errors were noted have neither.
  const hysteresisMm = indicator.hysteresisMm ?? undefined;
  const calibrationMm = indicator.calibrationMm ?? undefined;
  return {
    resolutionMm: indicator.resolutionMm,
    tipAngleDeg,
    sense,
    ...(hysteresisMm ? { hysteresisMm } : {}),
    ...(calibrationMm ? { calibrationMm } : {}),
    ...(commanded ? { commanded } : {}),
  };
}

export const runCreateSchema = z.object({
  plan: testPlanSchema,
  setup: runSetupSchema,
});
export type RunCreate = z.infer<typeof runCreateSchema>;

export const READING_SOURCES = ["device", "program", "typed", "dial", "import"] as const;

/** Reading for a step. With source `device` the server reads the connected indicator itself. */
export const readingCreateSchema = z.discriminatedUnion("source", [
  z.object({
    source: z.literal("device"),
    step: z.number().int().nonnegative(),
    /** Units in which a refusal is worded. */
    system: oneOf("Units", ["metric", "inch"]).default("metric"),
  }),
  z.object({
    source: z.enum(["typed", "dial"]),
    step: z.number().int().nonnegative(),
    /** As displayed, mm; for a count the number of steps. */
    value: finite.min(-40_000, "That reading is out of all reach.").max(40_000, "That reading is out of all reach."),
    /** Full width of what the value is rounded to, mm. */
    widthMm: finite.positive("The width must be above 0.").max(5, "The width must be at most 5 mm."),
    /** What was typed, word for word. */
    entered: z.string().max(80),
    /** The technician saw the target passed. */
    spoilt: z.boolean(),
  }),
]);
export type ReadingCreate = z.infer<typeof readingCreateSchema>;

/** How an approach went, as core judges it; said in words in the reader’s own units. */
export const approachJudgementSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("good") }),
  z.object({ kind: z.literal("not-at-target"), missingMm: z.number() }),
  z.object({ kind: z.literal("overshot"), byMm: z.number() }),
  z.object({ kind: z.literal("wrong-side") }),
  z.object({ kind: z.literal("short-run-up"), runUpMm: z.number() }),
]);

export const readingSchema = z.object({
  id: z.number().int(),
  step: z.number().int(),
  value: z.number(),
  widthMm: z.number(),
  entered: z.string(),
  source: z.enum(READING_SOURCES),
  state: z.enum(["kept", "spoilt", "discarded"]),
  reason: z.string(),
  judgement: approachJudgementSchema.nullable(),
  at: instantSchema,
  by: z.string(),
});
export type ReadingRecord = z.infer<typeof readingSchema>;

export const discardSchema = z.object({ reason: note("Reason", 300) });

export const RUN_STATES = ["running", "finished", "abandoned"] as const;

export const runSchema = z.object({
  id: z.number().int(),
  axisId: z.number().int(),
  plan: testPlanSchema,
  setup: runSetupSchema,
  state: z.enum(RUN_STATES),
  startedAt: instantSchema,
  finishedAt: instantSchema.nullable(),
  by: z.string(),
  imported: z.boolean(),
  /** Why it was given up; empty where it was not. */
  reason: z.string(),
  readings: z.array(readingSchema),
});
export type Run = z.infer<typeof runSchema>;

/** One line of a history. */
export const runSummarySchema = z.object({
  id: z.number().int(),
  kind: oneOf("Test", TEST_KINDS),
  state: z.enum(RUN_STATES),
  at: instantSchema,
  by: z.string(),
  reversalValueMm: z.number().nullable(),
  expandedMm: z.number().nullable(),
  placeMm: z.number().nullable(),
  readings: z.number().int(),
  imported: z.boolean(),
  /** Why it was given up; empty where it was not. */
  reason: z.string(),
});
export type RunSummary = z.infer<typeof runSummarySchema>;

/** A retest typed in a job: a value of its axis without readings of its own. */
export const typedLossSchema = z.object({
  jobId: z.number().int(),
  kind: oneOf("Test", TEST_KINDS),
  reversalValueMm: z.number(),
  expandedMm: z.number(),
  placeMm: z.number().nullable(),
  at: instantSchema,
  by: z.string(),
});
export type TypedLoss = z.infer<typeof typedLossSchema>;

export const historySchema = z.object({
  runs: z.array(runSummarySchema),
  typed: z.array(typedLossSchema),
  events: z.array(axisEventSchema),
});
export type History = z.infer<typeof historySchema>;

export const importSchema = z.object({
  fileName: z.string().max(200),
  text: z.string().max(2_000_000, "The file is larger than 2 MB."),
  setup: runSetupSchema,
  keepsZero: z.boolean(),
  overTravelMm: finite.positive("Over-travel must be above 0 mm."),
});
export const importResultSchema = z.object({
  runId: z.number().int(),
  duplicate: z.boolean(),
  readings: z.number().int(),
});
