import { expandedUncertainty, rectangular, requireBound, type UncertaintyPart } from "../../quantity";
import type { TestPlan } from "./plan";
import { USUAL_SCATTER_MM } from "./scatter";
import { type IndicatorSetup, indicatorParts } from "./indicator-setup";

/**
 * What is known of U before anything is read: display, jog step, indicator.
 * @param plan - of the test
 * @param setup - the indicator
 * @returns standard uncertainties, mm
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * plannedParts(plan, { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 }).length // 2
 */
export function plannedParts(plan: TestPlan, setup: IndicatorSetup): UncertaintyPart[] {
  const { resolutionMm } = setup;
  if (plan.kind !== "tick-count") return indicatorParts(plan, setup, [resolutionMm, resolutionMm]);
  return [{ u: rectangular(plan.tickMm), dof: Infinity }, ...indicatorParts(plan, setup, [resolutionMm])];
}

/**
 * The least U that a test can have, mm, before it is done: what display, jog step and indicator leave
 * open, and the usual scatter where it is not repeated. Scatter of the runs comes on top.
 * @param plan - of the test
 * @param setup - the indicator
 * @returns mm
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * plannedExpanded(plan, { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 }) // 0.0008165
 */
export function plannedExpanded(plan: TestPlan, setup: IndicatorSetup): number {
  const once = plan.kind === "tick-count" || plan.kind === "out-and-back";
  const u = USUAL_SCATTER_MM * (once ? 1 : Math.SQRT2);
  const scatter = plan.runs > 1 ? [] : [{ u, dof: Infinity }];
  return expandedUncertainty([...plannedParts(plan, setup), ...scatter]).expanded;
}

/**
 * U of a loss that was measured elsewhere and typed here, mm, from what it was measured with: two
 * readings of that indicator and the usual scatter over so many runs each way.
 * @param indicator - display step, hysteresis and calibration, mm
 * @param runs - runs each way, 1 or more
 * @returns mm
 * @throws BoundError when runs is not a whole number from 1 to 50
 * @example typedExpanded({ resolutionMm: 0.001 }, 3) // 0.004967
 */
export function typedExpanded(
  indicator: Pick<IndicatorSetup, "resolutionMm" | "hysteresisMm" | "calibrationMm">,
  runs: number,
): number {
  requireBound({ runs }, Number.isInteger(runs) && runs >= 1 && runs <= 50, "a whole number from 1 to 50");
  const step = rectangular(indicator.resolutionMm);
  const hysteresis = (indicator.hysteresisMm ?? 0) / Math.sqrt(3);
  const own = rectangular(2 * (indicator.calibrationMm ?? 0));
  const scatter = USUAL_SCATTER_MM * Math.sqrt(2 / runs);
  return expandedUncertainty([step, step, hysteresis, own, scatter].map((u) => ({ u, dof: Infinity }))).expanded;
}
