import { FEEDBACKS, MACHINE_BOUNDS, MACHINE_KINDS } from "@iron/core";
import * as z from "zod";
import { axisSchema } from "./axis";
import { bounded, instantSchema, note, oneOf, said, versionSchema } from "../wire/common";

export const machineEditSchema = z.object({
  nickname: said("Nickname", 40),
  bay: said("Bay", 20),
  kind: oneOf("Kind", MACHINE_KINDS),
  hoursPerWeek: bounded(MACHINE_BOUNDS.hoursPerWeek),
  note: note("Note", 2000),
});
export type MachineEdit = z.infer<typeof machineEditSchema>;

export const machineUpdateSchema = machineEditSchema.extend({
  version: versionSchema,
});
/** Axis letters to begin with; each gets the defaults of the machine's kind. */
export const machineCreateSchema = machineEditSchema.extend({
  letters: z
    .array(
      z
        .string()
        .max(2, "An axis letter is one capital, perhaps with a digit.")
        .regex(/^[A-Z][0-9]?$/, "Axis letters are one capital, perhaps with a digit."),
    )
    .max(12, "At most 12 axes."),
  /** Units that the usual limits are set in: a thou is a thou, not 25 µm. */
  units: oneOf("Units", ["metric", "inch"]).default("metric"),
});

export const machineSchema = machineEditSchema.extend({
  id: z.number().int(),
  version: z.number().int(),
  retiredAt: instantSchema.nullable(),
});
export type Machine = z.infer<typeof machineSchema>;

export const machineWithAxesSchema = machineSchema.extend({
  axes: z.array(axisSchema),
});
export type MachineWithAxes = z.infer<typeof machineWithAxesSchema>;

/** The last kept reversal value of an axis. */
export const lastLossSchema = z.object({
  /** The test it comes from; null where it was typed in a job. */
  runId: z.number().int().nullable(),
  jobId: z.number().int().nullable(),
  reversalValueMm: z.number(),
  expandedMm: z.number(),
  at: instantSchema,
});

export const floorAxisSchema = z.object({
  id: z.number().int(),
  letter: z.string(),
  leaveMm: z.number(),
  repairMm: z.number(),
  feedback: z.enum(FEEDBACKS),
  last: lastLossSchema.nullable(),
  /** From at least three measurements since the last repair; null when there is no trend. */
  trend: z
    .object({
      perMonthMm: z.number(),
      significant: z.boolean(),
      reachesLimitAt: instantSchema.nullable(),
    })
    .nullable(),
  openRunId: z.number().int().nullable(),
  /** When it was recorded; null where it was neither recorded nor worked on. */
  sound: z
    .object({
      lastAt: instantSchema.nullable(),
      workedAt: instantSchema.nullable(),
      ever: z.boolean(),
      /** It sounds louder than when it was well, by more than can be left for sure. */
      grown: z
        .object({
          soundId: z.number().int(),
          midHz: z.number().nullable(),
          louderDb: z.number(),
          uDb: z.number(),
          over: z.boolean(),
        })
        .nullable(),
    })
    .nullable(),
});
export const floorMachineSchema = machineSchema.extend({
  axes: z.array(floorAxisSchema),
  /** Cases not yet closed, the oldest first. */
  openCases: z.array(z.object({ id: z.number().int(), axisId: z.number().int() })),
  /** Jobs not yet signed off, and those signed off whose first check is due. */
  jobs: z.array(
    z.object({
      id: z.number().int(),
      title: z.string(),
      checkOn: z.string().nullable(),
    }),
  ),
  /** What lubrication has to say of the machine; empty when nothing. */
  lubrication: z.string(),
});
/** How the backups of the shop’s data stand. */
export const backupStateSchema = z.object({
  lastAt: instantSchema.nullable(),
  count: z.number().int(),
  /** Why the last one that was due was not made; empty where it was. */
  error: z.string(),
});
export type BackupState = z.infer<typeof backupStateSchema>;

export const floorSchema = z.object({
  machines: z.array(floorMachineSchema),
  /** Null where none are kept, as in the demo. */
  backup: backupStateSchema.nullable(),
  retired: z.array(machineSchema),
});
export type FloorAxis = z.infer<typeof floorAxisSchema>;
export type FloorMachine = z.infer<typeof floorMachineSchema>;
export type Floor = z.infer<typeof floorSchema>;

export const shopSchema = z.object({
  name: z.string(),
  currency: z.string(),
  people: z.array(z.string()),
  demo: z.boolean(),
  version: versionSchema,
});
export const shopUpdateSchema = z.object({
  name: said("Name of the shop", 80),
  currency: z
    .string()
    .max(3, "The currency is three capitals, like EUR or GBP.")
    .regex(/^[A-Z]{3}$/, "The currency is three capitals, like EUR or GBP."),
  people: z.array(said("First name", 40)).min(1, "Name at least one person.").max(200, "At most 200 people."),
  version: versionSchema,
});
export type Shop = z.infer<typeof shopSchema>;
export type ShopUpdate = z.infer<typeof shopUpdateSchema>;
