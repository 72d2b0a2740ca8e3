import { expectedOf, infer, learnedCandour, learnedFactors, type ClosedCase, type ShopPriors } from "@iron/core";
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
  const worlds = Array.from({ length: count }, (_, i) => draw(APART_FROM_THE_BENCH + i));
  const closed = worlds.map(({ reports, faults }): ClosedCase => ({
    found: faults,
    expected: {},
    told: reports.filter((r) => r.present).map((r) => r.finding),
  }));
  const shop = { overrides: {}, learned: {}, candour: learnedCandour(closed) };
  const learned = learnedFactors(
    worlds.map(({ config, context, reports }, i) => ({
      ...closed[i],
      expected: expectedOf(infer({ axis: config, context, reports, magnitudes: [], shop, allTold: true })),
    })),
  );
  return { ...shop, learned };
}
