import * as z from "zod";
import { finite, letterSchema, oneOf } from "../wire/common";

/**
 * What a connected axis and indicator say, 30 times a second. A real device would send the same;
 * see docs/reference/device.md.
 */
export const deviceSnapshotSchema = z.object({
  /** Rises by one with each sample since the server began. */
  sequence: z.number().int(),
  atMs: z.number(),
  simulated: z.boolean(),
  commandMm: z.number(),
  displayMm: z.number().nullable(),
  moving: z.boolean(),
  dwelling: z.boolean(),
  queued: z.number().int(),
  loadPercent: z.number(),
  track: z.object({
    positionMm: z.number(),
    lastDirection: z.enum(["+", "-"]).nullable(),
    strokeStartMm: z.number(),
  }),
  /** The run that the indicator was last set up for. */
  mountedRunId: z.number().int().nullable(),
  /** Why the last program was stopped before its end, in words; empty when it was not. */
  stopped: z.string(),
  /** The run that a program is feeding with readings. */
  programRunId: z.number().int().nullable(),
  resolutionMm: z.number(),
  /** The axis has moved since it was last read. */
  fresh: z.boolean(),
});
/** Of a stop nothing else is told: who asked for it need not have signed in. */
export const stoppedSchema = z.object({ stopped: z.literal(true) });

export type DeviceSnapshot = z.infer<typeof deviceSnapshotSchema>;

const feed = finite.positive("Feed must be above 0 mm/min.").max(200_000, "Feed must be at most 200000 mm/min.");

export const jogSchema = z.object({ byMm: finite, feedMmMin: feed });
export const approachSchema = z.object({
  runId: z.number().int(),
  feedMmMin: feed,
});
export const programRunSchema = z.object({
  runId: z.number().int(),
  feedMmMin: feed,
  dwellS: finite.min(0.5, "Dwell must be from 0.5 to 60 s.").max(60, "Dwell must be from 0.5 to 60 s."),
});

const axisWord = z
  .string()
  .max(3, "A program writes an axis as one capital, or as Z2=.")
  .regex(/^[A-Z](?:[0-9]=)?$/, "A program writes an axis as one capital, or as Z2= where its name has a digit.");
export const gcodeRequestSchema = z.object({
  runId: z.number().int().optional(),
  /** Axis that is tested, by its name. */
  letter: letterSchema,
  /** How the control writes it: left out, by its name. */
  word: axisWord.optional(),
  feedMmMin: feed,
  dwellS: finite,
  system: oneOf("Units", ["metric", "inch"]),
  /** Second axis that lifts the tip off before going past, and where it is clear and reads. */
  clearanceLetter: letterSchema.optional(),
  clearanceWord: axisWord.optional(),
  lift: oneOf("Lifting the tip", ["axis", "by-hand", "none"]).optional(),
  zeroBy: oneOf("At the zero", ["stop", "dwell"]).default("stop"),
  inchDecimals: z.coerce
    .number()
    .refine((n) => n === 4 || n === 5, "Decimals of an inch must be 4 or 5.")
    .transform((n): 4 | 5 => (n === 5 ? 5 : 4))
    .default(4),
  clearMm: finite.default(20),
  readMm: finite.default(5),
  dwellWord: oneOf("Dwell word", ["P-seconds", "P-milliseconds", "X-seconds"]),
});
