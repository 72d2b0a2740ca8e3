import * as z from "zod";
import { instantSchema } from "../wire/common";
import { operation } from "../wire/operation";

/** Lines of the record that are answered at once. */
export const RECORD_PAGE = 100;

export const recordLineSchema = z.object({
  /** Of the door, or of a change; numbers begin anew in each. */
  kind: z.enum(["door", "change"]),
  id: z.number().int(),
  at: instantSchema,
  by: z.string(),
  /** Of the device it came from. */
  address: z.string(),
  what: z.string(),
  /** Of what: a machine, an axis, a job. */
  subject: z.string(),
  /** What was sent, shortened; never a PIN. */
  detail: z.string(),
});
export type RecordLine = z.infer<typeof recordLineSchema>;

export const recordQuerySchema = z.object({
  /** Words that all stand somewhere in a line. */
  words: z.string().max(200, "What is looked for is longer than 200 characters.").optional(),
  by: z.string().max(40, "The name is longer than 40 letters.").optional(),
  /** Not before this instant, and before that one: whoever asks knows where their days begin. */
  from: instantSchema.optional(),
  till: instantSchema.optional(),
  /** Older than this line: its instant, kind and number. */
  before: z
    .string()
    .max(60, "That is no line of the record to go on from.")
    .regex(/^[\dT:.Z-]{20,30}\|(?:door|change)\|\d{1,15}$/, "That is no line of the record to go on from.")
    .optional(),
});
export type RecordQuery = z.infer<typeof recordQuerySchema>;

/** Told to every browser as soon as it is kept. */
export interface Changed {
  /** Address of what was changed: “/api/jobs/3/acts”. */
  readonly path: string;
  /** Page that sent it: it knows already. */
  readonly page: string;
}
export const RECORD_OPERATIONS = {
  record: operation("record", "Who changed what, when, and from where; the newest first, a page at a time", {
    query: recordQuerySchema,
    response: z.object({ lines: z.array(recordLineSchema), more: z.boolean() }),
  }),
  exportRecord: operation("exportRecord", "The record as a CSV file", { query: recordQuerySchema }),
};
