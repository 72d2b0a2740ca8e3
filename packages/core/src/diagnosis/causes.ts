import { CAUSES } from "./causes.table";
import type { Cause } from "./knowledge";

export { AFFINITIES, CAUSES } from "./causes.table";

const BY_ID = new Map(CAUSES.map((c) => [c.id, c]));
export function causeById(id: string): Cause | undefined {
  return BY_ID.get(id);
}
