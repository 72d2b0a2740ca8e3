import { inQuadrature, OUTSIDE_95_45, studentQuantile, type Uncertainty } from "../../quantity";
import { outliersOf, type Outlier } from "./outliers";
import type { TestPlan, TestStep } from "./plan";
import { stepsOf } from "./plan";
import { evaluatePositioning, missingForStandard, type PositioningEvaluation } from "./positioning";
import { keptByStep, type Reading } from "./reading";
import { type IndicatorSetup, readingFactor } from "./indicator-setup";
import { type PlaceResult, deviationOf, placesOf, targetReadings } from "./place-result";

/** What the readings of a run say. */
export interface LossResult {
  readonly places: readonly PlaceResult[];
  /** Index of the place with the largest loss: its value is the axis' reversal value. */
  readonly governing: number;
  readonly reversalValueMm: number;
  readonly uncertainty: Uncertainty;
  /** Every approach was made once: a usual scatter stands in for one that nobody measured. */
  readonly repeatabilityUnknown: boolean;
  /** The widest the true loss could be from rounding alone, whatever the statistics. */
  readonly roundingBoundsMm: readonly [number, number];
  readonly iso: PositioningEvaluation | null;
  readonly missingForStandard: readonly string[];
  readonly outliers: readonly Outlier[];
}

/**
 * Widens U for having picked the largest of several places. The picked one errs upwards, so that
 * each of the `c` places that could have been picked may err upwards in 4.55 %/c (Bonferroni, on
 * Student’s t by the degrees of freedom of the scatter); places far below could not.
 */
function widenForPicking(places: readonly PlaceResult[], governing: number): Uncertainty {
  const worst = places[governing];
  const { uncertainty, uDisplayMm, uScatterMm, scatterDof } = worst;
  const near = Math.abs(worst.reversalValueMm) - uncertainty.expanded;
  const rivals = places.filter((p) => Math.abs(p.reversalValueMm) + p.uncertainty.expanded >= near).length;
  if (rivals < 3) return uncertainty;
  const alpha = (2 * OUTSIDE_95_45) / rivals;
  const expanded = inQuadrature(
    studentQuantile(alpha, 1e6) * uDisplayMm,
    studentQuantile(alpha, Math.max(1, scatterDof)) * uScatterMm,
  );
  if (expanded <= uncertainty.expanded) return uncertainty;
  return { ...uncertainty, k: expanded / uncertainty.u, expanded };
}

function outliersIn(
  plan: TestPlan,
  {
    steps,
    readings,
    setup,
  }: { readonly steps: readonly TestStep[]; readonly readings: readonly Reading[]; readonly setup: IndicatorSetup },
): readonly Outlier[] {
  const kept = keptByStep(readings);
  const groups = new Map<string, { step: TestStep; deviationMm: number }[]>();
  for (const step of steps) {
    const reading = kept.get(step.index);
    if (step.action !== "read" || !reading) continue;
    const key = `${step.target}${step.direction}`;
    const deviationMm = deviationOf(plan, { step, reading, setup });
    groups.set(key, [...(groups.get(key) ?? []), { step, deviationMm }]);
  }
  const step = setup.resolutionMm * readingFactor(plan);
  return outliersOf([...groups.values()], step);
}

/**
 * Evaluates what has been read so far; null while no place has both approaches.
 * @param plan - of the test
 * @param readings - taken so far
 * @param setup - the indicator
 * @returns loss with U, mm, and all that follows
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * evaluateRun(plan, [], { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 }) // null
 */
export function evaluateRun(plan: TestPlan, readings: readonly Reading[], setup: IndicatorSetup): LossResult | null {
  const steps = stepsOf(plan);
  const places = placesOf(plan, { steps, readings, setup });
  if (places.length === 0) return null;
  let governing = 0;
  places.forEach((p, i) => {
    if (Math.abs(p.reversalValueMm) > Math.abs(places[governing].reversalValueMm)) governing = i;
  });
  const worst = places[governing];
  const rounding =
    plan.kind === "tick-count" ? (plan.tickMm + setup.resolutionMm) / 2 : setup.resolutionMm * readingFactor(plan);
  const targets = plan.kind === "travel-profile" ? targetReadings(plan, { steps, readings, setup }) : [];
  const missing = plan.kind === "travel-profile" ? missingForStandard(targets, plan.keepsZero) : [];
  const complete = targets.length > 0 && missing.length === 0;
  return {
    places,
    governing,
    reversalValueMm: worst.reversalValueMm,
    uncertainty: widenForPicking(places, governing),
    repeatabilityUnknown: places.every((p) => p.runs < 2),
    roundingBoundsMm: [worst.reversalValueMm - rounding, worst.reversalValueMm + rounding],
    iso: complete ? evaluatePositioning(targets) : null,
    missingForStandard: missing,
    outliers: outliersIn(plan, { steps, readings, setup }),
  };
}
