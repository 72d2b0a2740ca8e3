import {
  ALIGN_METHODS,
  GIB_METHODS,
  HANDS,
  JOB_KIND_IDS,
  jobRenews,
  JOINT_IDS,
  JOINT_STATES,
  NUT_SERVICES,
  PHASES,
  PLACES,
  PRELOAD_METHODS,
  QUANTITY_KINDS,
  RETEST_IDS,
  VERBS,
  WAYS,
} from "@iron/core";
import * as z from "zod";
import { axisConfigSchema } from "../machine/axis";
import { finite, idSchema, instantSchema, note, oneOf } from "../wire/common";
import { circleFigureSchema, type CircleAsked } from "../prove/circle-figure";
import { operation } from "../wire/operation";

const jobKindSchema = oneOf("Job", JOB_KIND_IDS);
export const jobOptionsSchema = z.object({
  preload: oneOf("Preload", PRELOAD_METHODS),
  align: oneOf("Alignment", ALIGN_METHODS),
  gib: oneOf("Gib", GIB_METHODS),
  nutService: oneOf("Nut", NUT_SERVICES),
  newInsert: z.boolean(),
  farEndToo: z.boolean(),
  newBearings: z.boolean().default(true),
  circle: z.boolean().optional(),
});

const strings = z.array(z.string()).readonly();
const joint = z.enum(JOINT_IDS);
const place = z.enum(PLACES);
const power = z.enum(["on", "isolated"]);
const block = z.enum(["none", "set", "tried"]);
const gear = z.enum(["none", "taut"]);
const balance = z.enum(["acts", "secured"]);

/** One axis of a machine as a job finds and leaves it. */
const standingSchema = z.object({
  joints: z.partialRecord(joint, z.enum(JOINT_STATES)),
  member: place,
  block,
  tied: z.boolean(),
  gear,
  balance,
  prop: z.boolean(),
  sling: z.boolean().default(false),
  brakeLet: z.boolean(),
  referenced: z.boolean(),
  notes: z.record(z.string(), z.literal(true)),
});
const machineStateSchema = z.object({
  power,
  axes: z.record(z.string(), standingSchema),
});

/** What a step does to the mechanism. */
const effectSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("joint"), joint, to: z.enum(JOINT_STATES) }),
  z.object({ kind: z.literal("member"), to: place, by: z.enum(WAYS) }),
  z.object({ kind: z.literal("block"), to: block }),
  z.object({ kind: z.literal("tie"), to: z.boolean() }),
  z.object({ kind: z.literal("gear"), to: gear }),
  z.object({ kind: z.literal("balance"), to: balance }),
  z.object({ kind: z.literal("prop"), to: z.boolean() }),
  z.object({ kind: z.literal("sling"), to: z.boolean() }),
  z.object({ kind: z.literal("brake-let"), to: z.boolean() }),
  z.object({ kind: z.literal("referenced") }),
  z.object({ kind: z.literal("note"), id: z.string() }),
  z.object({ kind: z.literal("power"), to: power }),
]);

const partSchema = z.object({
  name: z.string(),
  count: z.number(),
  of: joint.nullable(),
  order: z.boolean(),
  cost: z.enum(["bearing-set", "screw", "small"]),
});
export const plannedStepSchema = z.object({
  id: z.string(),
  axis: z.string().nullable(),
  /** Its name in the trade’s list of steps. */
  kind: z.string(),
  phase: z.enum(PHASES),
  hands: z.enum(HANDS),
  verbs: z.array(z.enum(VERBS)).readonly(),
  at: place.nullable(),
  uses: strings,
  effects: z.array(effectSchema).readonly(),
  tools: strings,
  people: z.union([z.literal(1), z.literal(2)]),
  parts: z.array(partSchema).readonly(),
  hold: z.string(),
  retest: z.enum(RETEST_IDS).nullable(),
  keeps: joint.nullable(),
  title: z.string(),
  why: z.string(),
  how: strings,
  caution: z.string(),
  good: z.string(),
  ifNot: z.string(),
  /** How the axis stands after it, in words. */
  state: z.string(),
  minutes: z.number(),
  consumables: strings,
  photo: z.string(),
  finds: z
    .array(
      z.object({
        id: z.string(),
        label: z.string(),
        offersStop: z.boolean().optional(),
        offers: jobKindSchema.optional(),
        asks: z.boolean().optional(),
        say: z.string().optional(),
      }),
    )
    .readonly(),
  reading: z
    .object({
      label: z.string(),
      quantity: z.enum(QUANTITY_KINDS),
      from: z.number().optional(),
      to: z.number().optional(),
      optional: z.boolean().optional(),
    })
    .nullable(),
  torques: strings,
});
export const jobPlanSchema = z.object({
  /** The axes as they were when the sheet was planned. */
  axes: z.array(z.object({ letter: z.string(), config: axisConfigSchema })).readonly(),
  start: machineStateSchema,
  steps: z.array(plannedStepSchema).readonly(),
});

export const jobFigureSchema = z.object({
  reversalValueMm: finite.min(-5, "A loss must be from −5 to 5 mm.").max(5, "A loss must be from −5 to 5 mm."),
  /** Null where it was typed and nobody said with what it was measured. */
  expandedMm: finite.min(0, "U must be from 0 to 1 mm.").max(1, "U must be from 0 to 1 mm.").nullable(),
  runId: z.number().int().nullable(),
});
export type JobFigureRecord = z.infer<typeof jobFigureSchema>;

const signSchema = z.object({
  kind: z.literal("sign"),
  step: z.string().max(80),
  found: z.string().max(40).nullable(),
  words: note("Note", 1000),
  reading: finite.nullable(),
  reason: note("Reason", 500),
  kept: z.enum(["as it was", "changed"]).nullable(),
  change: note("Change", 300),
  holdBy: note("Name", 40),
  figure: jobFigureSchema.nullable(),
  circle: circleFigureSchema.nullable().optional(),
});

const stamp = { at: instantSchema, by: z.string(), key: z.string() };
/** What happened on a job; never changed, only added to. */
export const jobEventSchema = z.discriminatedUnion("kind", [
  signSchema.extend(stamp),
  z.object({ kind: z.literal("undo"), step: z.string(), ...stamp }),
  z.object({ kind: z.literal("note"), step: z.string(), words: z.string(), ...stamp }),
  z.object({ kind: z.literal("plan"), why: z.string(), plan: jobPlanSchema, ...stamp }),
  /** Something of the kit lies ready, or does not any more. */
  z.object({ kind: z.literal("kit"), item: z.string(), on: z.boolean(), ...stamp }),
]);
export type JobEventRecord = z.infer<typeof jobEventSchema>;

const key = z.uuid("The key must be a UUID.");
/** What is sent: the key makes sending it twice harmless. */
export const jobActSchema = z.discriminatedUnion("kind", [
  signSchema.extend({ key, system: oneOf("Units", ["metric", "inch"]).default("metric") }),
  z.object({ kind: z.literal("undo"), step: z.string().max(80), key }),
  z.object({ kind: z.literal("note"), step: z.string().max(80), words: note("Note", 1000), key }),
  z.object({ kind: z.literal("kit"), item: z.string().min(1, "Say what lies ready.").max(120), on: z.boolean(), key }),
  /** Tighten what was loose, put everything back, retest: the sheet is planned anew. */
  z.object({ kind: z.literal("stop-here"), letter: z.string().max(4), key }),
  z.object({ kind: z.literal("add-work"), letter: z.string().max(4), job: jobKindSchema, key }),
  z.object({ kind: z.literal("reorder"), order: z.array(z.string().max(80)).max(400), key }),
]);
export type JobAct = z.infer<typeof jobActSchema>;

export const jobCreateSchema = z.object({
  items: z
    .array(
      z.object({
        axisId: z.number().int(),
        kind: jobKindSchema,
        /** Joints whose fasteners the case found loose. */
        loose: z.array(joint).max(20).optional(),
      }),
    )
    .min(1, "Name at least one piece of work.")
    .max(24, "At most 24 pieces of work on one sheet."),
  options: jobOptionsSchema,
  caseId: z.number().int().nullable(),
});
export type JobCreate = z.input<typeof jobCreateSchema>;

export const jobPhotoSchema = z.object({
  id: z.number().int(),
  step: z.string(),
  caption: z.string(),
  at: instantSchema,
  by: z.string(),
});

export const jobAxisSchema = z.object({
  axisId: z.number().int(),
  letter: z.string(),
  leaveMm: z.number(),
  repairMm: z.number(),
  /** The last whole-chain test when the job was opened. */
  before: jobFigureSchema
    .extend({
      at: instantSchema,
      kind: z.string(),
      placeMm: z.number().nullable(),
    })
    .nullable(),
});

export const jobSchema = z.object({
  id: z.number().int(),
  machineId: z.number().int(),
  nickname: z.string(),
  bay: z.string(),
  caseId: z.number().int().nullable(),
  title: z.string(),
  items: z.array(
    z.object({
      letter: z.string(),
      kind: jobKindSchema,
      loose: z.array(joint).optional(),
    }),
  ),
  options: jobOptionsSchema,
  axes: z.array(jobAxisSchema),
  openedAt: instantSchema,
  by: z.string(),
  finishedAt: instantSchema.nullable(),
  /** First check after the job, a week on. */
  checkOn: z.string().nullable(),
  plan: jobPlanSchema,
  events: z.array(jobEventSchema),
  photos: z.array(jobPhotoSchema),
});
export type Job = z.infer<typeof jobSchema>;

export const jobSummarySchema = z.object({
  id: z.number().int(),
  machineId: z.number().int(),
  axisIds: z.array(z.number().int()),
  nickname: z.string(),
  bay: z.string(),
  title: z.string(),
  openedAt: instantSchema,
  by: z.string(),
  finishedAt: instantSchema.nullable(),
  checkOn: z.string().nullable(),
  done: z.number().int(),
  steps: z.number().int(),
  next: z.string(),
});
export type JobSummary = z.infer<typeof jobSummarySchema>;

const byId = z.object({ id: idSchema });
/** Jobs: the sheet, and everything that happens on it. */
export const JOB_OPERATIONS = {
  jobs: operation("jobs", "All jobs, newest first", { response: z.array(jobSummarySchema) }),
  openJob: operation("openJob", "Open a job: plans its sheet", {
    params: byId,
    body: jobCreateSchema,
    response: jobSchema,
    created: true,
  }),
  job: operation("job", "A job with its sheet and all that happened", {
    params: byId,
    response: jobSchema,
  }),
  actOnJob: operation("actOnJob", "Sign a step, take it back, note, plan anew; the same key again changes nothing", {
    params: byId,
    body: jobActSchema,
    response: jobSchema,
  }),
  jobPdf: operation("jobPdf", "The signed sheet as a PDF file: who, when, found, readings with U, before and after", {
    params: byId,
    query: z.object({ system: oneOf("Units", ["metric", "inch"]).default("metric") }),
  }),
  exportJob: operation("exportJob", "A job as JSON", { params: byId }),
} as const;

const WORK: readonly z.infer<typeof plannedStepSchema>["phase"][] = ["secure", "work", "power"];

/** When the last work before the retests was signed: what was read until then was read before it. */
function workedAt({ openedAt, events }: Pick<Job, "openedAt" | "events">, plan: Job["plan"]): string {
  const worked = new Set(plan.steps.flatMap((s) => (WORK.includes(s.phase) ? [s.id] : [])));
  // A sheet planned anew was planned for what had been done.
  const counts = (e: JobEventRecord): boolean => e.kind === "plan" || (e.kind === "sign" && worked.has(e.step));
  return events.reduce((at, e) => (counts(e) && e.at > at ? e.at : at), openedAt);
}

/** What a job asks of a circle that is the retest of one of its axes. */
export function circleAsked(
  job: Pick<Job, "items" | "openedAt" | "axes" | "events">,
  plan: Job["plan"],
  letter: string,
): CircleAsked | null {
  const lost = job.axes.find((a) => a.letter === letter);
  return lost
    ? {
        letter,
        since: workedAt(job, plan),
        lost,
        fresh: job.items.some((i) => i.letter === letter && jobRenews(i.kind)),
        square: plan.steps.some((s) => s.axis === letter && s.retest === "pattern"),
      }
    : null;
}
