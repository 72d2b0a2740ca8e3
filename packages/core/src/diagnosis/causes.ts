import { CAUSES } from "./causes.table";
import type { Cause } from "./knowledge";

export { AFFINITIES, CAUSES } from "./causes.table";

const BY_ID = new Map(CAUSES.map((c) => [c.id, c]));
/**
 * A cause of the catalogue by its id.
 * @param id - as in the table of causes
 * @returns the cause; undefined where there is none of that name
 * @example causeById("retainer-loose")?.link // "end-bearings"
 */
export function causeById(id: string): Cause | undefined {
  return BY_ID.get(id);
}
