import type { Levels, LevelsTaken, SquareSwept } from "@iron/core";
import * as z from "zod";
import { between, finite, idSchema, instantSchema, letterSchema, note, oneOf, said } from "../wire/common";
import { operation } from "../wire/operation";

const letters = z.tuple([letterSchema, letterSchema]).readonly();
const place = between("Place", [-40_000, 40_000], "mm");

const leg = (what: string, least: number) =>
  z
    .array(z.object({ atMm: place, mm: between("Reading", [-5, 5], "mm") }))
    .min(least, `${what}: read at two places at least.`)
    .max(100, `${what}: at most 100 places.`)
    .readonly();

const sweepSchema = z.object({
  kind: z.literal("sweep"),
  letters,
  setting: leg("Setting", 0),
  sweep: leg("The leg that is swept", 2),
  flippedSetting: leg("Setting, flipped", 0),
  flipped: leg("Flipped", 0),
  squareU: between("U of the square", [0, 0.001], "mm for a mm"),
  resolutionMm: between("Resolution", [0.00001, 0.05], "mm"),
});

const diagonalsSchema = z.object({
  kind: z.literal("diagonals"),
  letters,
  sidesMm: z.tuple([finite, finite]).readonly(),
  diagonalsMm: z.tuple([finite, finite]).readonly(),
  uMm: between("U of the difference", [0.00001, 1], "mm"),
});

const levelsSchema = z
  .object({
    kind: z.literal("levels"),
    feet: z
      .array(z.object({ name: said("Name of a foot", 12), xMm: place, yMm: place }))
      .min(3, "A machine stands on at least 3 feet.")
      .max(24, "At most 24 feet.")
      .readonly(),
    readings: z
      .array(
        z.object({
          along: oneOf("Along", ["X", "Y"]),
          xMm: place,
          yMm: place,
          mmPerM: between("Reading", [-20, 20], "mm/m"),
          turnedMmPerM: between("Turned", [-20, 20], "mm/m").nullable(),
        }),
      )
      .min(2, "Lay the level along X and along Y at least.")
      .max(60, "At most 60 readings.")
      .readonly(),
    divisionMmPerM: between("Division", [0.001, 1], "mm/m"),
    soft: z.string().max(12, "Name of a foot is longer than 12 characters.").nullable(),
    pitchMm: between("Pitch of a foot", [0.1, 10], "mm").nullable(),
  })
  .check((context) => {
    const names = context.value.feet.map((f) => f.name);
    const wrong = (path: string, message: string): void => {
      context.issues.push({ code: "custom", path: [path], message, input: context.value });
    };
    const twice = names.find((n, i) => names.indexOf(n) < i);
    if (twice !== undefined) wrong("feet", `Two feet are called ${twice}: each has a name of its own.`);
    const { soft } = context.value;
    if (soft !== null && !names.includes(soft)) wrong("soft", `There is no foot ${soft}: say which one hangs.`);
  }) satisfies z.ZodType<LevelsTaken & { readonly kind: "levels" }>;

export const geometryTakenSchema = z.discriminatedUnion("kind", [sweepSchema, diagonalsSchema, levelsSchema]);
export type GeometryTaken = z.infer<typeof geometryTakenSchema>;
export const geometryCreateSchema = z.object({ taken: geometryTakenSchema, note: note("Note", 300) });
export type GeometryCreate = z.infer<typeof geometryCreateSchema>;

const recordSchema = z.object({
  id: z.number().int(),
  at: instantSchema,
  by: z.string(),
  note: z.string(),
  /** Why it is not used: set aside by somebody; empty where it is. */
  aside: z.string(),
});

export const geometrySchema = z.object({
  /** Out of square of pairs, by square, by diagonals and by circles; the newest last. */
  square: z.array(
    recordSchema.extend({
      by: z.string(),
      way: oneOf("Way", ["sweep", "diagonals", "circle"]),
      letters,
      value: z.number(),
      u: z.number(),
      ownError: z.custom<SquareSwept["ownError"]>(),
    }),
  ),
  levels: z.array(recordSchema.extend({ taken: levelsSchema, result: z.custom<Levels>() })),
});
export type Geometry = z.infer<typeof geometrySchema>;

const byId = z.object({ id: idSchema });

export const GEOMETRY_OPERATIONS = {
  geometry: operation("geometry", "How a machine stands: pairs of axes against each other, and its levels", {
    params: byId,
    response: geometrySchema,
  }),
  keepGeometry: operation("keepGeometry", "Keep readings of a square, of diagonals or of levels", {
    params: byId,
    body: geometryCreateSchema,
    response: geometrySchema,
    created: true,
  }),
  setGeometryAside: operation("setGeometryAside", "Set such readings aside, with why", {
    params: byId,
    body: z.object({ reason: said("Reason", 300) }),
    response: geometrySchema,
  }),
} as const;
