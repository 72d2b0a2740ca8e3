import { conflict } from "../http/problem-error";
import type { Db } from "./database";
import type { Tables } from "./tables";

/** Tables whose rows carry a key made by who sends them, and what each row belongs to. */
const OWNERS = {
  job_event: "job_id",
  job_photo: "job_id",
  lube_visit: "point_id",
  lube_hold: "point_id",
  lube_photo: "point_id",
  meter_reading: "machine_id",
  lube_stock: "lubricant_id",
  part_order_move: "order_id",
  series_point: "series_id",
} as const satisfies Partial<Record<keyof Tables, string>>;

/**
 * Was this sent before? The same key again changes nothing; sent to another owner it is refused, so that
 * nobody takes for kept there what was kept elsewhere.
 * @throws ProblemError 409 for a key that belongs to another owner
 */
export async function isKnownKey(
  db: Db,
  { table, key, owner }: { readonly table: keyof typeof OWNERS; readonly key: string; readonly owner: number },
): Promise<boolean> {
  const column = OWNERS[table];
  const row = (await db
    .selectFrom(table as "job_event")
    .select(column as "job_id")
    .where("key", "=", key)
    .executeTakeFirst()) as Readonly<Record<string, number>> | undefined;
  if (!row) return false;
  if (row[column] !== owner)
    throw conflict("This was sent before, and kept for something else. Nothing was kept here: enter it anew.");
  return true;
}
