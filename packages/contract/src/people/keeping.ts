import * as z from "zod";
import { instantSchema } from "../wire/common";
import { operation } from "../wire/operation";

const bytes = z.number().int().nonnegative();

/** How the server stands: for whoever keeps it. */
export const serverSchema = z.object({
  version: z.string(),
  /** Of what it runs on, by name. */
  runsOn: z.array(z.object({ name: z.string(), version: z.string() })),
  /** The last change of the store’s form. */
  store: z.string(),
  since: instantSchema,
  /** Of the shop’s file and what lies beside it, bytes; null where it cannot be told, backups where none are kept. */
  storage: z.object({
    database: bytes.nullable(),
    backups: bytes.nullable(),
    photos: bytes,
    sounds: bytes,
    free: bytes.nullable(),
  }),
  /** The last backup that was checked; null: there is none. */
  lastBackup: z.object({ at: instantSchema, bytes }).nullable(),
});
export type Server = z.infer<typeof serverSchema>;

export const KEEPING_OPERATIONS = {
  server: operation("server", "Versions, storage and backups of the server", { response: serverSchema }),
  downloadBackup: operation("downloadBackup", "The last backup that was checked, a database file", {}),
  exportShop: operation(
    "exportShop",
    "Everything of the shop as one zip: each table as JSON and CSV, photos and recordings; no PINs",
    {},
  ),
  ownCalendar: operation("ownCalendar", "Whether one’s calendar has an address of its own", {
    response: z.object({ has: z.boolean() }),
  }),
  renewCalendar: operation(
    "renewCalendar",
    "A secret address for one’s calendar, said once; what was before ends with it",
    { response: z.object({ path: z.string() }) },
  ),
};
