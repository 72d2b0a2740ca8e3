import { GIB_MODES, HAND_TEST_KINDS, SHIMMED } from "@iron/core";
import * as z from "zod";
import { finite, idSchema, instantSchema, oneOf } from "../wire/common";
import { operation } from "../wire/operation";

export const handTestPlanSchema = z.object({
  kind: oneOf("Measurement", HAND_TEST_KINDS),
  places: z.array(finite).max(200, "At most 200 places.").readonly(),
  repeats: finite,
  spanMm: finite,
  depthMm: finite,
  friction: oneOf("Friction", ["load", "pull"]),
  resolutionMm: finite.optional(),
  gib: oneOf("Way of setting the gib", GIB_MODES).optional(),
});

/** A reading of one step; null takes the step’s reading back. The key makes sending it twice harmless. */
export const handTestPointCreateSchema = z.object({
  key: z.uuid("The key must be a UUID."),
  step: z.number().int().nonnegative(),
  value: finite
    .min(-100_000, "That reading is out of all reach.")
    .max(100_000, "That reading is out of all reach.")
    .nullable(),
  entered: z.string().max(80),
});
export type HandTestPointCreate = z.infer<typeof handTestPointCreateSchema>;

export const handTestPointSchema = z.object({
  step: z.number().int(),
  value: finite.nullable(),
  source: z.enum(["typed", "device"]),
  at: instantSchema,
  by: z.string(),
});

export const handTestSchema = z.object({
  id: z.number().int(),
  axisId: z.number().int(),
  plan: handTestPlanSchema,
  state: z.enum(["running", "finished"]),
  startedAt: instantSchema,
  by: z.string(),
  /** Every reading in the order it was taken; the last of a step counts. */
  points: z.array(handTestPointSchema),
});
export type HandTest = z.infer<typeof handTestSchema>;

/** Shims put in on the simulated machine: under what, where each bolt stands, how thick, mm. */
export const shimsSchema = z.object({
  shimmed: oneOf("What is shimmed", SHIMMED),
  shims: z
    .array(
      z.object({
        x: finite,
        y: finite,
        mm: finite.min(0, "A shim must be from 0 to 10 mm.").max(10, "A shim must be from 0 to 10 mm."),
      }),
    )
    .min(3, "Name at least three bolts.")
    .max(12, "At most twelve bolts."),
  /** How far the part was turned on its face, rad. */
  turnRad: finite.min(-0.1).max(0.1).default(0),
});

const byId = z.object({ id: idSchema });

/** Crest runs, gib settings, tram, home tests and tests by hand: rows of readings kept as they are taken. */
export const SERIES_OPERATIONS = {
  axisHandTests: operation("axisHandTests", "Such tests of an axis, newest first", {
    params: byId,
    response: z.array(handTestSchema),
  }),
  startHandTest: operation("startHandTest", "Begin a test read step by step", {
    params: byId,
    body: z.object({ plan: handTestPlanSchema }),
    response: handTestSchema,
    created: true,
  }),
  handTest: operation("handTest", "One such test with its readings", { params: byId, response: handTestSchema }),
  addHandTestPoint: operation("addHandTestPoint", "Keep a reading, or take one back", {
    params: byId,
    body: handTestPointCreateSchema,
    response: handTestSchema,
    created: true,
  }),
  shimDevice: operation("shimDevice", "Put shims in on the simulated machine", {
    params: byId,
    body: shimsSchema,
    response: z.object({ simulated: z.literal(true) }),
  }),
  readHandTestStep: operation("readHandTestStep", "Let the simulated machine go to a step and read it", {
    params: byId,
    body: z.object({ step: z.number().int().nonnegative() }),
    response: handTestSchema,
  }),
} as const;
