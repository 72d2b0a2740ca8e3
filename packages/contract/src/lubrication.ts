import { DOSE_UNITS, FACTOR_IDS, FOUND_STATES, LINK_IDS, LUBE_WAYS } from "@iron/core"; // prettier-ignore
import { z } from "zod";
import { finite, idSchema, instantSchema, note, oneOf, said } from "./common";
import { operation } from "./operation";

const days = (what: string) => finite.min(1, `${what} must be from 1 to 3650 days.`).max(3650, `${what} must be from 1 to 3650 days.`); // prettier-ignore
export const lubePointEditSchema = z.object({
  place: said("Place", 120),
  letter: z.string().max(4).nullable(),
  link: z.enum(LINK_IDS).nullable(),
  way: oneOf("Way in", LUBE_WAYS),
  lubricant: said("Lubricant", 80),
  dose: finite.min(0, "Dose must be from 0 to 500.").max(500, "Dose must be from 0 to 500."), // prettier-ignore
  doseUnit: oneOf("Dose unit", DOSE_UNITS),
  minutes: finite.min(0.5, "Minutes must be from 0.5 to 240.").max(240, "Minutes must be from 0.5 to 240."), // prettier-ignore
  access: note("Access", 300),
  machineOff: z.boolean(),
  partsNut: z.boolean(),
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
  factors: z.array(z.enum(FACTOR_IDS)).readonly(),
  weight: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  provenance: z.string().max(200),
});

export const lubePointSchema = lubePointEditSchema.extend({
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
  dueOn: z.string(),
  /** Days past due; negative while it is still to come. */
  lateDays: finite,
  /** Found so that it wants more than grease. */
  asksCase: z.string(),
});
export type LubePointRecord = z.infer<typeof lubePointSchema>;

export const lubeVisitSchema = z.object({
  key: z.uuid("The key must be a UUID."),
  /** Null takes the last visit back. */
  found: z.enum(FOUND_STATES).nullable(),
  dose: finite.min(0, "Dose must be from 0 to 500.").max(500, "Dose must be from 0 to 500."), // prettier-ignore
  glitter: z.boolean(),
  words: note("Note", 500),
});
export type LubeVisitCreate = z.infer<typeof lubeVisitSchema>;

export const roundStopSchema = z.object({
  machineId: z.number().int(),
  nickname: z.string(),
  bay: z.string(),
  points: z.array(lubePointSchema),
});
export const roundDaySchema = z.object({
  date: z.string(),
  minutes: finite,
  available: finite,
  stops: z.array(roundStopSchema),
});
export const roundsSchema = z.object({
  days: z.array(roundDaySchema),
  late: z.number().int(),
  points: z.number().int(),
  /** What the plan costs against doing each when it is due. */
  against: finite,
});
export type Rounds = z.infer<typeof roundsSchema>;

const byId = z.object({ id: idSchema });
/** Lubrication: points, visits, and the rounds of the coming days. */
export const LUBE_OPERATIONS = {
  lubePoints: operation("get", "/api/machines/:id/lube-points", "Points of a machine with what is due", { params: byId, response: z.array(lubePointSchema) }), // prettier-ignore
  usualPoints: operation("post", "/api/machines/:id/lube-points/usual", "Add the usual points of the machine’s axes that are not there yet", { params: byId, response: z.array(lubePointSchema) }), // prettier-ignore
  updatePoint: operation("put", "/api/lube-points/:id", "Change a point", { params: byId, body: lubePointEditSchema, response: lubePointSchema }), // prettier-ignore
  visitPoint: operation("post", "/api/lube-points/:id/visits", "Keep what was found and given; the same key again changes nothing", { params: byId, body: lubeVisitSchema, response: lubePointSchema, created: true }), // prettier-ignore
  rounds: operation("get", "/api/rounds", "Rounds of the next two weeks", { response: roundsSchema }), // prettier-ignore
} as const;
