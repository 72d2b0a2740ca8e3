import type { LineFound, SoundBand, SoundComparison, SoundDrift, SoundFacts, SoundTrouble } from "@iron/core";
import * as z from "zod";
import { between, idSchema, instantSchema, note, oneOf, said } from "../wire/common";
import { operation } from "../wire/operation";

/** Longest file taken, and longest part of it sent at once, bytes. */
export const LARGEST_SOUND = 20_000_000;
export const LARGEST_SOUND_PART = 1_000_000;

export const SOUND_SOURCES = ["microphone", "file", "simulated"] as const;

export const soundPlanSchema = z.object({
  stillS: between("Standing first", [1, 20], "s"),
  feedMmMin: between("Feed", [20, 200_000], "mm/min"),
  fromMm: between("From", [-40_000, 40_000], "mm"),
  strokeMm: between("Way", [5, 40_000], "mm"),
  passes: between("Ways", [2, 30], "").int("Ways must be a whole number."),
  dwellS: between("Standing at either end", [0.2, 5], "s"),
  /** The motor runs uncoupled. */
  motorAlone: z.boolean().optional(),
});

export const soundCreateSchema = z.object({
  /** Made by who sends it: the same again begins nothing new. */
  key: z.uuid("The key must be a UUID."),
  plan: soundPlanSchema,
  source: oneOf("Source", ["microphone", "file"]),
  bytes: between("Size of the recording", [1000, LARGEST_SOUND], "bytes").int("The size must be a whole number."),
  /** Where the telephone lies: to be the same when it is compared. */
  place: note("Place", 200),
  /** The microphone turned itself up or down: no levels are compared. Null: nobody knows. */
  ownGain: z.boolean().nullable(),
  /** When it was made, where it waited to be sent; left out: now. */
  at: instantSchema.optional(),
});
export type SoundCreate = z.infer<typeof soundCreateSchema>;

/** What was worked out of a recording and is kept. */
export interface SoundResult extends Omit<SoundFacts, "orders" | "ways"> {
  readonly troubles: readonly SoundTrouble[];
  /** Chance of each kind of sound; “sound” is nothing wrong, before as likely as all the others together. None of a motor alone. */
  readonly chances: Readonly<Record<string, number>>;
  readonly lines: readonly LineFound[];
  readonly bands: readonly SoundBand[];
  readonly ways: number;
  /** Envelope in orders, thinned to what is drawn: order and power over what lies around, dB. */
  readonly orders: readonly (readonly [order: number, overDb: number])[];
}

export const SOUND_STATES = ["arriving", "kept", "refused"] as const;

export const soundSchema = z.object({
  id: z.number().int(),
  axisId: z.number().int(),
  state: z.enum(SOUND_STATES),
  source: z.enum(SOUND_SOURCES),
  plan: soundPlanSchema,
  place: z.string(),
  ownGain: z.boolean().nullable(),
  /** Of the file, and how much of it is there. */
  bytes: z.number().int(),
  received: z.number().int(),
  seconds: z.number().nullable(),
  result: z.custom<SoundResult>().nullable(),
  /** Why there is no result; empty where there is. */
  why: z.string(),
  /** Why it is set aside; empty where it is not. */
  aside: z.string(),
  /** It is kept as how the axis sounds when it is well. */
  well: z.boolean(),
  /** How it has grown since then; null where there is nothing to hold it beside. */
  drift: z.custom<SoundDrift & { readonly wellId: number }>().nullable(),
  at: instantSchema,
  by: z.string(),
});
export type Sound = z.infer<typeof soundSchema>;

/** A recording of another axis of the same kind, with whose it is. */
export const sisterSoundSchema = soundSchema.extend({ machine: z.string(), letter: z.string() });
export type SisterSound = z.infer<typeof sisterSoundSchema>;

const byId = z.object({ id: idSchema });

export const SOUND_OPERATIONS = {
  sounds: operation("sounds", "Recordings of an axis, the newest first", {
    params: byId,
    response: z.array(soundSchema),
  }),
  sisterSounds: operation("sisterSounds", "Recordings of other axes of the same kind, the newest first", {
    params: byId,
    response: z.array(sisterSoundSchema),
  }),
  beginSound: operation("beginSound", "Begins to send a recording; its parts follow", {
    params: byId,
    body: soundCreateSchema,
    response: soundSchema,
    created: true,
  }),
  simulateSound: operation("simulateSound", "Runs the simulated axis to and fro and records it", {
    params: byId,
    body: z.object({ plan: soundPlanSchema, place: note("Place", 200) }),
    response: soundSchema,
    created: true,
  }),
  sound: operation("sound", "A recording and what was worked out of it", { params: byId, response: soundSchema }),
  finishSound: operation("finishSound", "All parts are there: works the recording out", {
    params: byId,
    response: soundSchema,
  }),
  setSoundAside: operation("setSoundAside", "Sets a recording aside; it is kept, and counts no more", {
    params: byId,
    body: z.object({ reason: said("Why", 200) }),
    response: soundSchema,
  }),
  keepSoundWell: operation("keepSoundWell", "Keeps a recording as how the axis sounds when it is well, or no longer", {
    params: byId,
    body: z.object({ well: z.boolean() }),
    response: soundSchema,
  }),
  compareSounds: operation("compareSounds", "A recording beside another: how much louder it is, band by band", {
    params: z.object({ id: idSchema, other: idSchema }),
    response: z.custom<SoundComparison>(),
  }),
} as const;
