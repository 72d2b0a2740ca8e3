import { INDICATOR_KINDS } from "@iron/core";
import * as z from "zod";
import { finite, instantSchema, oneOf, said, versionSchema } from "../wire/common";

const resolutionMessage =
  "Resolution must be above 0 and at most 1 mm. Typical: 0.001 to 0.01 mm, or 0.0001 to 0.0005 in.";
export const tipAngleSchema = finite
  .min(0, "Tip angle must be from 0° to below 80°.")
  .lt(80, "Tip angle must be from 0° to below 80°.");

const ownError = (what: string) =>
  finite
    .min(0, `${what} must be from 0 to 0.1 mm.`)
    .max(0.1, `${what} must be from 0 to 0.1 mm.`)
    .nullable()
    .optional();

export const indicatorEditSchema = z.object({
  name: said("Name", 60),
  kind: oneOf("Kind", INDICATOR_KINDS),
  resolutionMm: finite.positive(resolutionMessage).max(1, resolutionMessage),
  unit: oneOf("Unit", ["mm", "in"]),
  tipAngleDeg: tipAngleSchema,
  rangeMm: finite
    .positive("Range must be above 0 mm. Typical: 0.8 mm for a lever, 10 mm for a plunger.")
    .max(30_000, "Range must be at most 30000 mm."),
  /** Largest difference between going in and coming out, mm; null where nobody noted it. */
  hysteresisMm: ownError("Hysteresis"),
  /** Largest error over a short reach, as its calibration says, mm; null where nobody noted it. */
  calibrationMm: ownError("Error over a short reach"),
});
export const indicatorUpdateSchema = indicatorEditSchema.extend({
  version: versionSchema,
});
export const indicatorSchema = indicatorUpdateSchema.extend({
  id: z.number().int(),
  retiredAt: instantSchema.nullable(),
});
export type IndicatorEdit = z.infer<typeof indicatorEditSchema>;
export type IndicatorRecord = z.infer<typeof indicatorSchema>;
