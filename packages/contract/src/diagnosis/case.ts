import { CAUSES, FINDING_IDS, FOUND_TORQUE, TEST_IDS } from "@iron/core";
import * as z from "zod";
import { bounded, finite, instantSchema, note, oneOf } from "../wire/common";

const maybe = z.boolean().nullable();

/** What is known of the axis’ age and history; null where nobody knows, which is not the same as no. */
export const caseContextSchema = z.object({
  ageYears: finite.min(0, "Age must be from 0 to 80 years.").max(80, "Age must be from 0 to 80 years.").nullable(),
  weeksSinceWork: finite.min(0, "Weeks must be 0 or more.").max(5000, "Weeks must be at most 5000.").nullable(),
  crash: maybe,
  moved: maybe,
  longStop: maybe,
  freshParts: maybe,
  dusty: maybe,
  samePlace: maybe,
  parameterChange: maybe,
  only: z.enum(["cold", "warm"]).nullable().default(null),
});

const findingId = z.enum(FINDING_IDS, { error: "There is no such finding." });
export const testIdSchema = z.enum(TEST_IDS, {
  error: "There is no such test.",
});

/** Answers by finding: true is so, false is not; what is left out is unknown. */
export const answersSchema = z.partialRecord(findingId, z.boolean());
export type Answers = z.infer<typeof answersSchema>;

/** What stands behind a symptom: a note, and the measurement or result that shows it (photos name theirs). */
export const symptomEvidenceSchema = z.partialRecord(
  findingId,
  z.object({
    note: note("Note", 300),
    ref: z
      .string()
      .max(30, "Evidence is a run or a result of this axis.")
      .regex(/^(run|result) \d+$/, "Evidence is a run or a result of this axis.")
      .nullable(),
  }),
);
export type SymptomEvidence = z.infer<typeof symptomEvidenceSchema>;

/** Where along the travel it is noticed. */
export const PLACES = ["everywhere", "low-end", "middle", "high-end", "spot"] as const;
export const placeSchema = z.object({
  kind: oneOf("Place", PLACES),
  /** Of a spot, where it is. */
  atMm: finite.nullable(),
});
export type Place = z.infer<typeof placeSchema>;

/** Axes of one case. */
const MOST_AXES = 12;

/** What was told of one axis of a case. */
export const toldSchema = z.object({
  answers: answersSchema,
  evidence: symptomEvidenceSchema.default({}),
  /** Nothing else was noticed: what was not told speaks a little against itself. */
  allTold: z.boolean().default(false),
  place: placeSchema.nullable().default(null),
});
export type Told = z.infer<typeof toldSchema>;
export const NOTHING_TOLD: Told = { answers: {}, evidence: {}, allTold: false, place: null };
/** By id of the axis: each axis has its own. */
export const toldByAxisSchema = z
  .record(z.string().max(12).regex(/^\d+$/, "Told by the id of an axis."), toldSchema)
  .refine((told) => Object.keys(told).length <= MOST_AXES, `At most ${MOST_AXES} axes.`)
  .meta({ maxProperties: MOST_AXES });
export type ToldByAxis = z.infer<typeof toldByAxisSchema>;

export const loadSampleSchema = z.object({
  positionMm: finite,
  direction: z.enum(["+", "-"]),
  load: finite,
});
export const crestPointSchema = z.object({
  positionMm: finite,
  readingMm: finite,
});
/** Measurements behind a result, kept with it. */
export const resultDataSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("load-trace"),
    unit: z.enum(["%", "A"]),
    samples: z
      .array(loadSampleSchema)
      .min(40, "A load trace needs at least 40 samples.")
      .max(20_000, "At most 20000 samples."),
  }),
  z.object({
    kind: z.literal("crest-run"),
    planes: z.array(z.array(crestPointSchema).min(5, "Each plane needs at least 5 places.").max(500)).min(1).max(2),
  }),
  /** The row of readings that stands behind a result. */
  z.object({ kind: z.literal("series"), seriesId: z.number().int() }),
  z.object({
    kind: z.literal("fasteners"),
    found: z
      .array(
        z.object({
          name: z.string().max(80),
          torqueNm: bounded(FOUND_TORQUE).nullable(),
          state: z.enum(["tight", "turned", "missing", "not looked at"]),
        }),
      )
      .max(60),
  }),
]);
export type ResultData = z.infer<typeof resultDataSchema>;

export const resultCreateSchema = z.object({
  axisId: z.number().int(),
  test: testIdSchema,
  answers: answersSchema,
  note: note("Note", 1000),
  data: resultDataSchema.nullable(),
});
export const resultSchema = resultCreateSchema.extend({
  id: z.number().int(),
  at: instantSchema,
  by: z.string(),
  withdrawn: z.boolean(),
});
export type CaseResult = z.infer<typeof resultSchema>;

export const photoSchema = z.object({
  id: z.number().int(),
  caption: z.string(),
  finding: findingId.nullable(),
  media: z.enum(["image/jpeg", "image/png"]),
  bytes: z.number().int(),
  at: instantSchema,
  by: z.string(),
});

export const CAUSE_IDS = CAUSES.map((c) => c.id) as [string, ...string[]];
const causeId = z.enum(CAUSE_IDS, { error: "There is no such cause." });

const axisIds = z
  .array(z.number().int())
  .min(1, "Name at least one axis.")
  .max(MOST_AXES, `At most ${MOST_AXES} axes.`);
export const caseCreateSchema = z.object({
  axisIds,
  /** The first answer, of the first of them. */
  answers: answersSchema.default({}),
});
export const caseUpdateSchema = z.object({
  version: z.number().int(),
  context: caseContextSchema,
  told: toldByAxisSchema,
  /** Axes it may be; left out, they stay. */
  axisIds: axisIds.optional(),
  notes: note("Notes", 4000),
});
export const caseCloseSchema = z.object({
  version: z.number().int(),
  /** What it really was; empty for nothing wrong. */
  found: z.array(causeId).max(4, "At most four causes."),
  words: note("What was found", 1000),
});

export const caseSchema = z.object({
  id: z.number().int(),
  machineId: z.number().int(),
  axisIds: z.array(z.number().int()),
  state: oneOf("State", ["open", "closed"]),
  openedAt: instantSchema,
  by: z.string(),
  version: z.number().int(),
  context: caseContextSchema,
  told: toldByAxisSchema,
  notes: z.string(),
  results: z.array(resultSchema),
  photos: z.array(photoSchema),
  closed: z
    .object({
      at: instantSchema,
      by: z.string(),
      found: z.array(z.string()),
      words: z.string(),
    })
    .nullable(),
});
export type Case = z.infer<typeof caseSchema>;

export const caseSummarySchema = z.object({
  id: z.number().int(),
  machineId: z.number().int(),
  nickname: z.string(),
  bay: z.string(),
  letters: z.string(),
  axisIds: z.array(z.number().int()),
  state: z.enum(["open", "closed"]),
  openedAt: instantSchema,
  by: z.string(),
  /** The first symptoms in words. */
  says: z.string(),
  found: z.string(),
});
export type CaseSummary = z.infer<typeof caseSummarySchema>;
