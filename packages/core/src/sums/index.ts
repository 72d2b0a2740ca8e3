import { BEARING_SUMS } from "./bearing-sums";
import { OTHER_SUMS } from "./other-sums";
import { SCREW_SUMS } from "./screw-sums";
import type { Sum } from "./types";

export * from "./types";
export { ARRANGEMENTS } from "./bearing-sums";

/** Every sum of the trade that has a form of its own. */
export const SUMS: readonly Sum[] = [...SCREW_SUMS, ...BEARING_SUMS, ...OTHER_SUMS];

export function sumById(id: string): Sum | undefined {
  return SUMS.find((s) => s.id === id);
}
