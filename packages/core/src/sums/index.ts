export * from "./home";
export * from "./alignment";
export * from "./bearing";
export * from "./preload";
export * from "./screw";
import { ALIGNMENT_SUMS } from "./alignment-sums";
import { BEARING_SUMS } from "./bearing-sums";
import { SCREW_SUMS } from "./screw-sums";
import { SHOP_SUMS } from "./shop-sums";
import type { Sum } from "./types";

export * from "./types";
export { ARRANGEMENTS } from "./bearing-sums";

/** Every sum of the trade that has a form of its own. */
export const SUMS: readonly Sum[] = [...SCREW_SUMS, ...BEARING_SUMS, ...ALIGNMENT_SUMS, ...SHOP_SUMS];

/**
 * A sum by its id.
 * @param id - its name in addresses
 * @returns the sum, or undefined
 * @example sumById("critical-speed")?.group // 'Screw'
 */
export function sumById(id: string): Sum | undefined {
  return SUMS.find((s) => s.id === id);
}
export * from "./sisters";
