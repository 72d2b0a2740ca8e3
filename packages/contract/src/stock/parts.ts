import * as z from "zod";
import { finite, idSchema, instantSchema, note, said, versionSchema } from "../wire/common";
import { operation } from "../wire/operation";

const key = z.uuid("The key must be a UUID.");
const count = z
  .number({ error: "How many must be a whole number from 1 to 1000." })
  .int("How many must be a whole number from 1 to 1000.")
  .min(1, "How many must be a whole number from 1 to 1000.")
  .max(1000, "How many must be a whole number from 1 to 1000.");
const counted = z
  .number({ error: "Counted must be a whole number from 0 to 10000." })
  .int("Counted must be a whole number from 0 to 10000.")
  .min(0, "Counted must be a whole number from 0 to 10000.")
  .max(10_000, "Counted must be a whole number from 0 to 10000.");

/** Wanted and not ordered yet, on its way, there, or not wanted after all. */
export const ORDER_STATES = ["wanted", "ordered", "came", "dropped"] as const;
export type OrderState = (typeof ORDER_STATES)[number];

/** What the shop knows better than what is usual. */
export const partTermsSchema = z.object({
  part: said("Part", 120),
  version: versionSchema.or(z.literal(0)),
  price: finite.min(0, "Price must be from 0 to 1000000.").max(1_000_000, "Price must be from 0 to 1000000."),
  leadDays: finite.min(0, "Days to arrive must be from 0 to 365.").max(365, "Days to arrive must be from 0 to 365."),
  waitDays: finite.min(0, "Days without must be from 0 to 365.").max(365, "Days without must be from 0 to 365."),
  least: counted,
});
export type PartTerms = z.infer<typeof partTermsSchema>;

export const partSchema = z.object({
  part: z.string(),
  /** Axes that take it, as “Plover X”; none of a part that was only ordered or counted. */
  axes: z.array(z.string()),
  /** How many of it those axes have. */
  built: z.number().int(),
  perYear: finite,
  hold: z.number().int(),
  stock: z.number().int(),
  countedAt: instantSchema.nullable(),
  onOrder: z.number().int(),
  /** How many to order now. */
  order: z.number().int(),
  shortChance: finite,
  why: z.string(),
  terms: partTermsSchema,
  /** Terms are what is usual: the shop has not said its own. */
  usual: z.boolean(),
});
export type PartRecord = z.infer<typeof partSchema>;

export const partOrderSchema = z.object({
  id: z.number().int(),
  part: z.string(),
  count: z.number().int(),
  why: z.string(),
  machineId: z.number().int().nullable(),
  nickname: z.string(),
  pointId: z.number().int().nullable(),
  state: z.enum(ORDER_STATES),
  at: instantSchema,
  by: z.string(),
  movedAt: instantSchema,
  movedBy: z.string(),
});
export type PartOrder = z.infer<typeof partOrderSchema>;

export const partsSchema = z.object({
  parts: z.array(partSchema),
  /** The open ones first, then those of the last ninety days. */
  orders: z.array(partOrderSchema),
  currency: z.string(),
});
export type Parts = z.infer<typeof partsSchema>;

export const partOrderCreateSchema = z.object({
  key,
  part: said("Part", 120),
  count,
  why: note("What for", 300),
  /** Of a machine, or of a lubrication point of one. */
  machineId: z.number().int().nullable().default(null),
  pointId: z.number().int().nullable().default(null),
});
export type PartOrderCreate = z.infer<typeof partOrderCreateSchema>;

const byId = z.object({ id: idSchema });

/** Spare parts of the shop’s axes: how many to hold, what is there, what is ordered. */
export const PART_OPERATIONS = {
  parts: operation("parts", "Spare parts with how many to hold, and orders", { response: partsSchema }),
  partTerms: operation("partTerms", "Price, days and least number of a part; 409 when somebody was faster", {
    body: partTermsSchema,
    response: partsSchema,
  }),
  countPart: operation("countPart", "Count a part on the shelf, or take one out", {
    body: z.object({
      key,
      part: said("Part", 120),
      kind: z.enum(["count", "out"]),
      count: counted,
    }),
    response: partsSchema,
    created: true,
  }),
  orderPart: operation("orderPart", "Put a part on the list of what to order; the same key again changes nothing", {
    body: partOrderCreateSchema,
    response: partsSchema,
    created: true,
  }),
  moveOrder: operation("moveOrder", "An order is sent, has come, is dropped, or wanted after all", {
    params: byId,
    body: z.object({ key, state: z.enum(ORDER_STATES) }),
    response: partsSchema,
    created: true,
  }),
  exportParts: operation("exportParts", "Spare parts and what to order as CSV", {}),
} as const;
