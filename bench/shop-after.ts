import { infer, learnedCandour, learnedFactors, type ClosedCase, type ShopPriors } from "@iron/core";
import type { World } from "./diagnosis-case";

/** Cases that a shop has closed before the bench begins, and the numbers they are drawn with: none of those it is tried on. */
export const CLOSED_BEFORE = 120;
const APART_FROM_THE_BENCH = 1_000_000;

/**
 * What a shop has learned from cases it closed before, each with the cause that was found in the end.
 * @param draw - an axis of the world by its number
 * @param count - how many were closed
 */
export function shopAfter(draw: (seed: number) => World, count = CLOSED_BEFORE): ShopPriors {
  const closed = Array.from({ length: count }, (_, i): ClosedCase => {
    const { config, context, reports, faults } = draw(APART_FROM_THE_BENCH + i);
    const { causes, marginals } = infer({ axis: config, context, reports, magnitudes: [], allTold: true });
    return {
      found: faults,
      expected: Object.fromEntries(causes.map((c, k) => [c.id, marginals[k]])),
      told: reports.filter((r) => r.present).map((r) => r.finding),
    };
  });
  return { overrides: {}, learned: learnedFactors(closed), candour: learnedCandour(closed) };
}
