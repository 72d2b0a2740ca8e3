import { CIRCLE_LIMITED, type CircleAnalysis, type CircleLimits, type Joint, type PassTrouble } from "@iron/core";
import * as z from "zod";
import { stoppedSchema } from "../measure/device";
import { between, finite, idSchema, instantSchema, letterSchema, note, oneOf, said } from "../wire/common";
import { operation } from "../wire/operation";

const direction = z.union([z.literal(1), z.literal(-1)], "Direction must be 1 (counterclockwise) or -1 (clockwise).");
const pair = <T extends z.ZodType>(of: T) => z.tuple([of, of]).readonly();

/** What a plane commands; whether it stays within the travel the core checks. */
export const circlePlanSchema = z.object({
  letters: pair(letterSchema),
  centreMm: pair(finite),
  radiusMm: between("Radius", [10, 600], "mm"),
  feedMmMin: between("Feed", [1, 200_000], "mm/min"),
  startDeg: between("Start", [-360, 360], "°"),
  spanDeg: between("Data", [90, 360], "°"),
  overrunDeg: between("Overrun", [5, 180], "°"),
  leadMm: between("Run in", [0.5, 5], "mm"),
  first: direction,
  dwellS: between("Dwell", [0.5, 60], "s"),
});

export const circleBarSchema = z.object({
  name: said("Name of the bar", 80),
  /** Full width of what it shows, mm. */
  resolutionMm: between("Resolution", [0.00001, 0.05], "mm"),
  /** Expanded uncertainty of a difference it reads, mm. */
  uMm: between("U of the bar", [0, 0.05], "mm"),
  /** Soaked to the room and set on its master: only then its radius means anything. */
  calibrated: z.boolean(),
});
export type CircleBar = z.infer<typeof circleBarSchema>;

export const circleCreateSchema = z.object({
  plans: z.array(circlePlanSchema).min(1, "Name at least one plane.").max(6, "At most 6 planes."),
  bar: circleBarSchema,
  temperatureC: between("Temperature", [-20, 60], "°C").nullable(),
  /** Where on the table, and what else a later one must be like. */
  note: note("Note", 500),
});
export type CircleCreate = z.infer<typeof circleCreateSchema>;

export const CIRCLE_SOURCES = ["bar", "import", "typed"] as const;

export const circlePassSchema = z.object({
  id: z.number().int(),
  direction,
  source: z.enum(CIRCLE_SOURCES),
  readings: z.number().int(),
  troubles: z.array(z.custom<PassTrouble>()),
  /** It can be used, and nobody has set it aside. */
  used: z.boolean(),
  /** Why it is not used: set aside, or spoilt; empty where it is. */
  reason: z.string(),
  at: instantSchema,
  by: z.string(),
});
export type CirclePass = z.infer<typeof circlePassSchema>;

export const circlePlaneSchema = z.object({
  id: z.number().int(),
  plan: circlePlanSchema,
  axisIds: pair(z.number().int()),
  /** Travel for a turn of each screw, mm. */
  perTurnMm: pair(z.number().nullable()),
  passes: z.array(circlePassSchema),
  analysis: z.custom<CircleAnalysis>().nullable(),
  /** Why there is none although something was read; empty where there is. */
  why: z.string(),
});
export type CirclePlane = z.infer<typeof circlePlaneSchema>;

export const CIRCLE_STATES = ["open", "finished", "abandoned"] as const;

/** The last limits that somebody set for a machine, or the usual ones. */
export const circleLimitsSchema = z.object({
  limits: z.custom<CircleLimits>(),
  /** Empty where they are the usual ones. */
  why: z.string(),
  by: z.string(),
  at: instantSchema.nullable(),
});
export type CircleLimitsRecord = z.infer<typeof circleLimitsSchema>;

const limit = z.object({ leave: finite, repair: finite });
export const circleLimitsEditSchema = z
  .object({
    limits: z.object(Object.fromEntries(CIRCLE_LIMITED.map((id) => [id, limit])) as Record<string, typeof limit>),
    why: said("Why", 200),
  })
  .check((context) => {
    for (const [id, { leave, repair }] of Object.entries(context.value.limits))
      if (!(leave > 0 && repair > leave && repair < 100))
        context.issues.push({
          code: "custom",
          path: ["limits", id],
          message: `What can be left must be above 0 and below what is repaired first: ${leave} and ${repair}.`,
          input: context.value,
        });
  });

export const circleSessionSchema = z.object({
  id: z.number().int(),
  machineId: z.number().int(),
  state: oneOf("State", CIRCLE_STATES),
  startedAt: instantSchema,
  finishedAt: instantSchema.nullable(),
  by: z.string(),
  reason: z.string(),
  note: z.string(),
  temperatureC: z.number().nullable(),
  bar: circleBarSchema,
  planes: z.array(circlePlaneSchema),
  joint: z.custom<Joint>().nullable(),
  limits: circleLimitsSchema,
  /** Axes whose bearings, nut or screw were renewed within the last weeks. */
  fresh: z.array(z.string()),
  /** A bar is connected to this machine. */
  connected: z.boolean(),
  /** The plane that the bar is reading now. */
  reading: z.number().int().nullable(),
});
export type CircleSession = z.infer<typeof circleSessionSchema>;

/** All circles of a machine, the newest last. */
export const circlesSchema = z.object({
  sessions: z.array(circleSessionSchema.omit({ limits: true, fresh: true, connected: true, reading: true })),
  limits: circleLimitsSchema,
});
export type Circles = z.infer<typeof circlesSchema>;

/** What is drawn of a plane: readings, thinned to what a screen shows. */
export const circleDrawnSchema = z.object({
  traces: z.array(
    z.object({
      passId: z.number().int(),
      direction,
      /** Degrees, in the order they were passed. */
      angles: z.array(z.number()),
      /** µm. */
      deviations: z.array(z.number()),
    }),
  ),
});
export type CircleDrawn = z.infer<typeof circleDrawnSchema>;

export const circleImportSchema = z.object({
  text: z.string().max(4_000_000, "The file is larger than 4 MB."),
});
export const circleTypedSchema = z.object({
  direction,
  /** Degrees and mm. */
  readings: z
    .array(z.object({ deg: between("Angle", [-360, 720], "°"), mm: between("Reading", [-5, 5], "mm") }))
    .min(12, "Read at least 12 places: every 10° is usual.")
    .max(2000, "At most 2000 readings."),
});

/** Samples as the bar sends them, several at once. */
export const barBatchSchema = z.object({
  planeId: z.number().int(),
  direction,
  rateHz: z.number(),
  /** Number of the first of them since the reading began. */
  from: z.number().int(),
  /** µm; null where the bar said nothing. */
  values: z.array(z.number().nullable()),
  /** How many there will be, as far as is known. */
  of: z.number().int(),
  ended: z.boolean(),
});
export type BarBatch = z.infer<typeof barBatchSchema>;

const byId = z.object({ id: idSchema });
const formatQuery = z.object({
  format: oneOf("Format", ["csv", "json", "pdf"]).default("csv"),
  system: oneOf("Units", ["metric", "inch"]).default("metric"),
});

export const CIRCLE_OPERATIONS = {
  circles: operation("circles", "Circles of a machine, and what they are judged by", {
    params: byId,
    response: circlesSchema,
  }),
  startCircle: operation("startCircle", "Begin a session of circles: one plane or several", {
    params: byId,
    body: circleCreateSchema,
    response: circleSessionSchema,
    created: true,
  }),
  setCircleLimits: operation("setCircleLimits", "What circles of a machine are judged by, with who and why", {
    params: byId,
    body: circleLimitsEditSchema,
    response: circleLimitsSchema,
  }),
  circle: operation("circle", "One session of circles with what is worked out of it", {
    params: byId,
    response: circleSessionSchema,
  }),
  finishCircle: operation("finishCircle", "End a session with what has been read", {
    params: byId,
    response: circleSessionSchema,
  }),
  abandonCircle: operation("abandonCircle", "Give a session up; its readings stay", {
    params: byId,
    body: z.object({ reason: note("Reason", 300) }),
    response: circleSessionSchema,
  }),
  drawnCircle: operation("drawnCircle", "Readings of a plane as they are drawn", {
    params: byId,
    response: circleDrawnSchema,
  }),
  readCircle: operation("readCircle", "Let the connected bar read one way round; its samples come over the stream", {
    params: byId,
    body: z.object({ direction }),
    response: z.object({ samples: z.number().int(), seconds: z.number() }),
  }),
  circleWork: operation("circleWork", "How much of a plane is worked out by now", {
    params: byId,
    response: z.object({ share: z.number().min(0).max(1).nullable() }),
  }),
  stopCircle: operation("stopCircle", "Stop the machine and the reading; the pass is not kept", {
    params: byId,
    response: stoppedSchema,
  }),
  importCircle: operation("importCircle", "Keep the readings of a CSV file as a plane’s passes", {
    params: byId,
    body: circleImportSchema,
    response: circleSessionSchema,
    created: true,
  }),
  typeCircle: operation("typeCircle", "Keep typed readings as one way round", {
    params: byId,
    body: circleTypedSchema,
    response: circleSessionSchema,
    created: true,
  }),
  setPassAside: operation("setPassAside", "Set one way round aside", {
    params: byId,
    body: z.object({ reason: note("Reason", 300) }),
    response: circleSessionSchema,
  }),
  circleProgramOf: operation("circleProgramOf", "Program of a plane for the machine’s control", {
    params: byId,
    query: z.object({
      system: oneOf("Units", ["metric", "inch"]).default("metric"),
      dwellWord: oneOf("Dwell word", ["P-seconds", "P-milliseconds", "X-seconds"]).default("P-seconds"),
    }),
  }),
  exportCircle: operation("exportCircle", "Readings of a session as a file", { params: byId, query: formatQuery }),
} as const;
