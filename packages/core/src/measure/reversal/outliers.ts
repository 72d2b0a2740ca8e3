import { grubbsOutlier } from "../../quantity";
import type { TestStep } from "./plan";

export interface Outlier {
  readonly step: number;
  readonly positionMm: number;
  readonly deviationMm: number;
  readonly test: "Grubbs, two-sided, 5 % over the whole test";
}

/** A little under 5 %: rounding makes clean readings stand out a little more often. */
const POINTS = 0.042;

/**
 * Readings that stand out of their group. The chance of pointing at anything in a clean test is 5 %
 * over all its groups together (Šidák 1967), not for each; one reading 25 µm off at 1 µm scatter is
 * pointed at in above 90 %: both measured in the coverage bench.
 * @param groups - readings of one place and direction, with their deviations, mm
 * @param resolutionMm - display step: a spread within two steps is none
 * @returns the readings, with how far each is out, mm
 * @example outliersOf([], 0.001) // []
 */
export function outliersOf(
  groups: readonly (readonly {
    readonly step: TestStep;
    readonly deviationMm: number;
  }[])[],
  resolutionMm: number,
): readonly Outlier[] {
  const judged = groups.filter((g) => g.length >= 3);
  const alpha = 1 - (1 - POINTS) ** (1 / Math.max(1, judged.length));
  return judged.flatMap((group) => {
    const worst = grubbsOutlier(
      group.map((g) => g.deviationMm),
      resolutionMm,
      alpha,
    );
    if (worst === undefined) return [];
    const { step, deviationMm } = group[worst];
    return [
      {
        step: step.index,
        positionMm: step.targetMm,
        deviationMm,
        test: "Grubbs, two-sided, 5 % over the whole test" as const,
      },
    ];
  });
}
