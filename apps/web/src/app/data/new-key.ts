import { v4 } from "uuid";

/**
 * A key that makes sending something twice harmless. The browser’s own `randomUUID` exists only on a
 * secure origin, which a server behind a proxy, or one that a tablet does not trust yet, need not be.
 */
export function newKey(): string {
  return v4();
}
