import {
  AXIS_BOUNDS,
  BASE_MECHANICS,
  BEARING_SETS,
  BRAKE_PLACES,
  COUPLINGS,
  FEEDBACKS,
  FIXED_ENDS,
  FIXINGS,
  FLANGE_SIDES,
  GUIDEWAYS,
  JOINT_IDS,
  limitsAreUsual,
  LOCK_NUTS,
  MEMBERS,
  MOTORS,
  NUTS,
  ORIENTATIONS,
  SCREW_MAKES,
  TORQUE_SOURCES,
  TRANSMISSIONS,
} from "@iron/core";
import * as z from "zod";
import { bounded, instantSchema, note, oneOf, said } from "../wire/common";

const limitsSchema = z
  .object({
    leaveMm: bounded(AXIS_BOUNDS["limits.leaveMm"]),
    repairMm: bounded(AXIS_BOUNDS["limits.repairMm"]),
    setBy: note("Who set the limits", 60),
    why: note("Why the limits", 300),
  })
  .superRefine((limits, context) => {
    if (limits.leaveMm >= limits.repairMm) {
      context.addIssue({
        code: "custom",
        path: ["repairMm"],
        message: `Repair above ${limits.repairMm * 1000} µm cannot be: it must be more than the ${limits.leaveMm * 1000} µm that can be left.`,
      });
    }
  });

const screwSchema = z.object({
  nominalMm: bounded(AXIS_BOUNDS["screw.nominalMm"]),
  rootMm: bounded(AXIS_BOUNDS["screw.rootMm"]),
  leadMm: bounded(AXIS_BOUNDS["screw.leadMm"]),
  freeLengthMm: bounded(AXIS_BOUNDS["screw.freeLengthMm"]),
  fixings: oneOf("End fixings", FIXINGS),
  make: oneOf("Make", SCREW_MAKES),
});

const fastenerSchema = z.object({
  thread: note("Thread", 20),
  grade: note("Grade", 20),
  count: z
    .number()
    .int("The number of screws must be whole.")
    .min(1, "The number of screws must be from 1 to 99.")
    .max(99, "The number of screws must be from 1 to 99."),
  torqueNm: bounded(AXIS_BOUNDS["mechanics.torqueNm"]).nullable(),
  source: oneOf("Where the torque comes from", TORQUE_SOURCES),
});

const mechanicsSchema = z.object({
  memberKg: bounded(AXIS_BOUNDS["mechanics.memberKg"]).nullable(),
  motorKg: bounded(AXIS_BOUNDS["mechanics.motorKg"]).nullable(),
  brakeAt: oneOf("Brake at", BRAKE_PLACES),
  brakeLever: z.boolean(),
  dragBrakeKnown: z.boolean(),
  fixedEnd: oneOf("Fixed end", FIXED_ENDS),
  farNut: z.boolean(),
  flangeSide: oneOf("Side of the nut’s flange", FLANGE_SIDES),
  flangePasses: z.boolean(),
  couplingHidden: z.boolean(),
  bumper: z.boolean(),
  tableOverNut: z.boolean(),
  lubeLine: z.boolean(),
  column: z.boolean(),
  fasteners: z.partialRecord(z.enum(JOINT_IDS), fastenerSchema),
});

export const axisConfigSchema = z
  .object({
    letter: z
      .string()
      .trim()
      .max(2, "The letter must be one capital, perhaps with a digit.")
      .regex(/^[A-Z][0-9]?$/, "The letter must be one capital, perhaps with a digit: X, Y, Z, W, X2."),
    member: oneOf("What it moves", MEMBERS),
    orientation: oneOf("Orientation", ORIENTATIONS),
    slantDeg: bounded(AXIS_BOUNDS.slantDeg),
    travelMm: bounded(AXIS_BOUNDS.travelMm),
    rapidMmMin: bounded(AXIS_BOUNDS.rapidMmMin),
    tickMm: bounded(AXIS_BOUNDS.tickMm),
    feedback: oneOf("Feedback", FEEDBACKS),
    motor: oneOf("Motor", MOTORS),
    brake: z.boolean(),
    counterweight: z.boolean(),
    gasSpring: z.boolean(),
    dragBrake: z.boolean(),
    transmission: oneOf("Transmission", TRANSMISSIONS),
    coupling: oneOf("Coupling", COUPLINGS),
    ratio: bounded(AXIS_BOUNDS.ratio),
    pinionDiameterMm: bounded(AXIS_BOUNDS.pinionDiameterMm),
    screw: screwSchema,
    nut: oneOf("Nut", NUTS),
    bearings: oneOf("Bearing set", BEARING_SETS),
    lockNut: oneOf("Lock nut", LOCK_NUTS),
    guideway: oneOf("Guideway", GUIDEWAYS),
    /** What holds, moves and can be reached; a middling machine’s where nobody says. */
    mechanics: mechanicsSchema.default({ ...BASE_MECHANICS, fasteners: {} }),
    limits: limitsSchema,
    enteredMm: bounded(AXIS_BOUNDS.enteredMm).default(0),
    costs: z.object({
      downtimePerHour: bounded(AXIS_BOUNDS["costs.downtimePerHour"]),
      bearingSet: bounded(AXIS_BOUNDS["costs.bearingSet"]).nullable(),
      screw: bounded(AXIS_BOUNDS["costs.screw"]).nullable(),
    }),
  })
  .superRefine((axis, context) => {
    // Limits of one’s own are somebody’s, for a reason.
    if (!limitsAreUsual(axis)) {
      const missing = (path: string, message: string): void =>
        context.addIssue({ code: "custom", path: ["limits", path], message });
      if (!axis.limits.why.trim()) missing("why", "Say why this axis has limits of its own.");
      if (!axis.limits.setBy.trim()) missing("setBy", "Say who set these limits.");
    }
    if (axis.transmission === "rack") return;
    const { rootMm, nominalMm } = axis.screw;
    if (rootMm >= nominalMm) {
      context.addIssue({
        code: "custom",
        path: ["screw", "rootMm"],
        message: `Root diameter ${rootMm} mm cannot be: the bottom of the thread lies below the nominal diameter of ${nominalMm} mm.`,
      });
    }
  });

/** An axis as kept. `version` rises with every change; send the one you edited. */
export const axisSchema = z.object({
  id: z.number().int(),
  machineId: z.number().int(),
  config: axisConfigSchema,
  version: z.number().int(),
  updatedAt: instantSchema,
  updatedBy: z.string(),
  retiredAt: instantSchema.nullable(),
});
export type Axis = z.infer<typeof axisSchema>;

export const axisCreateSchema = z.object({ config: axisConfigSchema });
export const axisUpdateSchema = z.object({
  version: z.number().int(),
  config: axisConfigSchema,
});

export const AXIS_EVENT_KINDS = ["repair", "adjustment", "crash", "move", "lubrication", "note"] as const;

export const axisEventCreateSchema = z.object({
  kind: oneOf("Kind of event", AXIS_EVENT_KINDS),
  text: said("What happened", 500),
  at: instantSchema,
});
export const axisEventSchema = axisEventCreateSchema.extend({
  id: z.number().int(),
  by: z.string(),
});
export type AxisEvent = z.infer<typeof axisEventSchema>;
