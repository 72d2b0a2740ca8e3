import { stepsOf, type TestPlan } from "./plan";
import type { Reading } from "./reading";
import type { IndicatorSetup } from "./indicator-setup";

/** A two-sided approach at one place, to be changed. */
export const plan = (over: Partial<TestPlan> = {}): TestPlan => ({
  kind: "two-sided",
  targetsMm: [180],
  runs: 5,
  overTravelMm: 30,
  tickMm: 0.001,
  ticksOut: 50,
  keepsZero: false,
  ...over,
});
export const setup: IndicatorSetup = {
  resolutionMm: 0.001,
  tipAngleDeg: 0,
  sense: 1,
};

/** Readings for every step of a plan, from what the indicator shows at each. */
export function readAll(
  p: TestPlan,
  shows: (place: number, direction: "+" | "-", run: number) => number,
  widthMm = 0.001,
): Reading[] {
  return stepsOf(p).map((s) => ({
    step: s.index,
    value: s.action === "zero" ? 0 : shows(s.target, s.direction, s.run),
    widthMm,
    state: "kept",
  }));
}
