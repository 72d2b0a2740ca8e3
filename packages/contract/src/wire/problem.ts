import * as z from "zod";

/** RFC 9457 problem details, with the fields that are wrong and, on a conflict, what is there now. */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  errors: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
  current: z.unknown().optional(),
});
export type Problem = z.infer<typeof problemSchema>;
