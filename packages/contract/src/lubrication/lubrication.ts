import {
  CARRIAGE_WAYS,
  CENTRALS,
  CHECK_ANSWERS,
  DOSE_UNITS,
  FACTOR_IDS,
  FOUND_STATES,
  HELD_BY,
  LINK_IDS,
  LUBE_WAYS,
  NUT_WAYS,
  USUAL_PRIMING,
} from "@iron/core";
import * as z from "zod";
import { finite, idSchema, instantSchema, note, oneOf, said, versionSchema } from "../wire/common";
import { operation } from "../wire/operation";

const days = (what: string) =>
  finite.min(1, `${what} must be from 1 to 3650 days.`).max(3650, `${what} must be from 1 to 3650 days.`);
const dose = finite.min(0, "Dose must be from 0 to 500.").max(500, "Dose must be from 0 to 500.");
export const lubricationPointEditSchema = z.object({
  place: said("Place", 120),
  letter: z.string().max(4).nullable(),
  link: z.enum(LINK_IDS).nullable(),
  way: oneOf("Way in", LUBE_WAYS),
  lubricant: said("Lubricant", 80),
  dose,
  doseUnit: oneOf("Dose unit", DOSE_UNITS),
  minutes: finite.min(0.5, "Minutes must be from 0.5 to 240.").max(240, "Minutes must be from 0.5 to 240."),
  access: note("Access", 300),
  machineOff: z.boolean(),
  heldBy: z.enum(HELD_BY).nullable().default(null),
  partsNut: z.boolean(),
  qualified: z.boolean().default(false),
  outlets: z.array(z.string().max(60)).max(40, "At most 40 outlets.").readonly().default([]),
  priming: finite
    .min(1, "Priming must be from 1 to 100 strokes.")
    .max(100, "Priming must be from 1 to 100 strokes.")
    .default(USUAL_PRIMING),
  checks: z.array(z.string().max(120)).max(12).readonly(),
  rule: z
    .object({
      days: days("Calendar interval").nullable(),
      hours: finite.positive("Hours must be above 0.").nullable(),
      km: finite.positive("Distance must be above 0 km.").nullable(),
      leastDays: days("Least interval"),
      mostDays: days("Greatest interval"),
    })
    .refine((r) => r.leastDays <= r.mostDays, {
      error: "The least interval is longer than the greatest.",
    }),
  factors: z.array(z.enum(FACTOR_IDS)).max(40).readonly(),
  weight: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  provenance: z.string().max(200),
});

const lastDone = z.iso
  .date({ error: "Must be a day like 2026-03-03." })
  .nullable()
  .default(null)
  .describe("When it was last seen to; null: nobody knows, and it is due now");

export const lubricationPointCreateSchema = lubricationPointEditSchema.extend({ lastDone });

/** How a machine is lubricated, what surrounds it, and when it was last seen to: what its usual points are made from. */
export const usualPointsSchema = z.object({
  setUp: z.object({
    central: oneOf("Central system", CENTRALS),
    carriages: oneOf("Carriages", CARRIAGE_WAYS),
    nuts: oneOf("Ball nuts", NUT_WAYS),
    board: z.boolean(),
  }),
  factors: z.array(z.enum(FACTOR_IDS)).max(40).readonly(),
  lastDone,
  /** Places that this machine does not have. */
  leaveOut: z.array(z.string().max(120)).max(400).default([]),
});
export type UsualPoints = z.infer<typeof usualPointsSchema>;
export type UsualPointsInput = z.input<typeof usualPointsSchema>;

/** A usual point before it is kept. */
export const usualPointSchema = z.object({
  place: z.string(),
  give: z.string(),
  intervalDays: finite,
  /** Without what surrounds the machine. */
  plainDays: finite,
  by: z.enum(["calendar", "hours", "distance"]),
  dueOn: z.string(),
  minutes: finite,
  partsNut: z.boolean(),
  /** The machine has a point of that name already, kept or not. */
  there: z.boolean(),
});
export type UsualPoint = z.infer<typeof usualPointSchema>;

export const lubricationPointUpdateSchema = lubricationPointEditSchema.extend({
  version: versionSchema,
});

/** One of several places that share a dose, as it was found and what it was given. */
export const placeFoundSchema = z.object({ name: z.string().max(60), found: z.enum(FOUND_STATES), dose });

export const lubricationPointSchema = lubricationPointUpdateSchema.extend({
  id: z.number().int(),
  machineId: z.number().int(),
  lastAt: instantSchema.nullable(),
  lastFound: z.enum(FOUND_STATES).nullable(),
  intervalDays: finite,
  by: z.enum(["calendar", "hours", "distance"]),
  /** Held by the maker’s bounds. */
  held: z.boolean(),
  /** Interval before anything was learnt, and what was. */
  unlearntDays: finite,
  learnt: z.string(),
  /** Found flooded, and more often than dry. */
  overGreased: z.boolean(),
  dueOn: z.string(),
  /** How far the due day may be off as usage is forecast, days, k about 2; 0 by the calendar. */
  dueSpreadDays: finite,
  /** Days past due; negative while it is still to come. */
  lateDays: finite,
  /** Chance that it is dry by now, and what another week of waiting risks, in the shop’s money. */
  risk: z.object({ dry: finite, week: finite }),
  /** It is a job: minutes of its sheet, and how many people; null where it is a visit, or no job fits its axis. */
  job: z.object({ minutes: finite, people: z.number().int() }).nullable(),
  /** Nobody is known to have seen to it: it is due now. */
  neverSeen: z.boolean(),
  /** Each check as it was last answered, in the order of the point’s own. */
  answered: z.array(
    z.object({
      name: z.string(),
      unit: z.string().nullable(),
      least: finite.nullable(),
      most: finite.nullable(),
      wrong: z.string(),
      answer: z.enum(CHECK_ANSWERS).nullable(),
      figure: finite.nullable(),
      at: instantSchema.nullable(),
      readings: z.array(z.object({ at: instantSchema, figure: finite })),
      /** When the figure comes to its bound as it goes; null where none is in sight. */
      boundOn: z.string().nullable(),
    }),
  ),
  /** Found so that it wants more than grease. */
  asksCase: z.string(),
  /** Places that share the dose, each as it was found at the last visit; empty where nobody told them apart. */
  places: z.array(placeFoundSchema),
  /** What a stroke of the shop’s weighed gun gives, g; null where nobody has weighed one. */
  gunStrokeG: finite.nullable(),
  visits: z.number().int(),
  /** Put on a day, or left till one, by hand; null when not. */
  hold: z.object({ kind: z.enum(["pin", "skip"]), date: z.string(), message: z.string() }).nullable(),
  retired: z.boolean(),
  photos: z.array(
    z.object({
      id: z.number().int(),
      caption: z.string(),
      /** The check that it shows; null: the point. */
      of: z.string().nullable(),
      at: instantSchema,
      by: z.string(),
    }),
  ),
});
export type LubricationPointRecord = z.infer<typeof lubricationPointSchema>;

/** A check as somebody answered it. */
export const checkAnsweredSchema = z.object({
  name: z.string().max(120),
  answer: z.enum(CHECK_ANSWERS),
  figure: finite
    .min(-1_000_000, "A figure must be from -1000000 to 1000000.")
    .max(1_000_000, "A figure must be from -1000000 to 1000000.")
    .nullable()
    .default(null),
});
export type CheckAnswered = z.infer<typeof checkAnsweredSchema>;

export const lubricationVisitSchema = z.object({
  key: z.uuid("The key must be a UUID."),
  /** Null takes the last visit back. */
  found: z.enum(FOUND_STATES).nullable(),
  /** Key of the visit that is taken back: never another that came since. Null: whichever is the last. */
  takesBack: z.uuid("The key must be a UUID.").nullable().default(null),
  dose,
  glitter: z.boolean(),
  /** More friction than the last time. */
  friction: z.boolean().default(false),
  /** Central system, from the pump outwards: wet, dry, or not looked at. */
  outlets: z.array(z.boolean().nullable()).max(40).default([]),
  /** Places that share the dose, where they were told apart. */
  places: z.array(placeFoundSchema).max(40, "At most 40 places.").default([]),
  /** What was looked at on the way. */
  checks: z.array(checkAnsweredSchema).max(12, "At most 12 checks.").default([]),
  words: note("Note", 500),
  /** Day of the work where it is typed in from paper; today where it is left out. */
  date: z.iso.date({ error: "Must be a day like 2026-03-03." }).nullable().default(null),
  /** Kept although somebody else has done the point today. */
  again: z.boolean().default(false),
});
export type LubricationVisitCreate = z.infer<typeof lubricationVisitSchema>;
export type LubricationVisitInput = z.input<typeof lubricationVisitSchema>;

/** A move by hand: a pin puts it on a day, a skip leaves it till one, free lets the plan choose again. */
export const lubricationHoldSchema = z
  .object({
    key: z.uuid("The key must be a UUID."),
    kind: z.enum(["pin", "skip", "free"]),
    date: z.iso.date({ error: "Must be a day like 2026-03-03." }).nullable(),
    reason: note("Reason", 200),
  })
  .refine((h) => h.kind === "free" || h.date !== null, { error: "Name the day." })
  .refine((h) => h.kind !== "skip" || h.reason.trim() !== "", { error: "Say why it is left out." });
export type LubricationHoldCreate = z.infer<typeof lubricationHoldSchema>;

export const roundStopSchema = z.object({
  machineId: z.number().int(),
  nickname: z.string(),
  bay: z.string(),
  points: z.array(lubricationPointSchema),
});
export const roundDaySchema = z.object({
  date: z.string(),
  /** Of the round; its jobs have hours of their own. */
  minutes: finite,
  /** Of its jobs, all people together. */
  jobMinutes: finite,
  available: finite,
  /** Where there are not minutes for all: the points that together risk most, which come first. Empty where there are. */
  first: z.array(z.number().int()),
  stops: z.array(roundStopSchema),
});
export const roundsSchema = z.object({
  days: z.array(roundDaySchema),
  late: z.number().int(),
  points: z.number().int(),
  /** What the last planning changed, and why. */
  changes: z.array(z.object({ id: z.number().int(), what: z.string(), why: z.string() })),
  changedAt: instantSchema.nullable(),
  /** What is due within the plan and has no day in it, with the reason. */
  unplanned: z.array(
    z.object({
      id: z.number().int(),
      name: z.string(),
      why: z.string(),
      /** The days have not the minutes for all that is due, and this one risks least. */
      noMinutes: z.boolean(),
      minutes: finite,
      /** What leaving it for a week risks, in the shop’s money. */
      week: finite,
    }),
  ),
  currency: z.string(),
  /** What a stroke of the shop’s gun gives, g. */
  gramsPerStroke: finite,
  /** What the plan costs against doing each when it is due. */
  against: finite,
});
export type Rounds = z.infer<typeof roundsSchema>;

/** What the half-year plan is made from, in the browser. */
export const horizonSchema = z.object({
  weeks: z.array(z.object({ from: z.string(), minutes: finite, shut: z.array(z.number().int()) })),
  points: z.array(
    z.object({
      id: z.number().int(),
      machine: z.number().int(),
      bay: z.string(),
      minutes: finite,
      weight: finite,
      dueDay: finite,
      intervalDays: finite,
    }),
  ),
});
export type Horizon = z.infer<typeof horizonSchema>;

const byId = z.object({ id: idSchema });
/** Lubrication: points, visits, and the rounds of the coming days. */
export const LUBE_OPERATIONS = {
  lubricationPoints: operation("lubricationPoints", "Points of a machine with what is due", {
    params: byId,
    response: z.array(lubricationPointSchema),
  }),
  usualPreview: operation("usualPreview", "The usual points of the machine as they would be made, kept nowhere", {
    params: byId,
    body: usualPointsSchema,
    response: z.array(usualPointSchema),
  }),
  usualPoints: operation(
    "usualPoints",
    "Add the usual points of the machine that are not there yet; tells those that were added",
    {
      params: byId,
      body: usualPointsSchema,
      response: z.array(lubricationPointSchema),
    },
  ),
  updatePoint: operation("updatePoint", "Change a point; 409 with the present one when somebody was faster", {
    params: byId,
    body: lubricationPointUpdateSchema,
    response: lubricationPointSchema,
  }),
  createPoint: operation("createPoint", "Add a point", {
    params: byId,
    body: lubricationPointCreateSchema,
    response: lubricationPointSchema,
    created: true,
  }),
  retirePoint: operation("retirePoint", "Keep a point no more, or again", {
    params: byId,
    body: z.object({ retired: z.boolean() }),
    response: lubricationPointSchema,
  }),
  lubricationPoint: operation("lubricationPoint", "One point", { params: byId, response: lubricationPointSchema }),
  jobFromPoint: operation(
    "jobFromPoint",
    "Open the job that parts the nut to grease this point, or go on with the open one",
    { params: byId, response: z.object({ jobId: z.number().int() }), created: true },
  ),
  caseFromPoint: operation(
    "caseFromPoint",
    "Open a case on the point’s axis with what was found as evidence, or go on with the open one",
    {
      params: byId,
      response: z.object({ caseId: z.number().int(), machineId: z.number().int(), axisId: z.number().int() }),
      created: true,
    },
  ),
  holdPoint: operation("holdPoint", "Put a visit on a day, leave it out with a reason, or let the plan choose", {
    params: byId,
    body: lubricationHoldSchema,
    response: roundsSchema,
  }),
  horizon: operation("horizon", "What the half-year plan is made from", { response: horizonSchema }),
  calendar: operation("calendar", "The rounds as an iCalendar file or feed", {}),
  visitPoint: operation("visitPoint", "Keep what was found and given; the same key again changes nothing", {
    params: byId,
    body: lubricationVisitSchema,
    response: lubricationPointSchema,
    created: true,
  }),
  planRounds: operation("planRounds", "Plan the next two weeks afresh, whatever was planned before", {
    response: roundsSchema,
  }),
  rounds: operation("rounds", "Rounds of the next two weeks", { response: roundsSchema }),
} as const;
