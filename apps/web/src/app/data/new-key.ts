import { v4 } from "uuid";

/**
 * A key that makes sending something twice harmless. The browser’s own `randomUUID` exists only on a
 * secure origin, and a tablet in the shop reaches this server over plain http.
 */
export function newKey(): string {
  return v4();
}
