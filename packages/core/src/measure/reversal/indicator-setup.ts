import { fromMm, rectangular, toMm, type UncertaintyPart, type UnitSystem } from "../../quantity";
import type { TestPlan } from "./plan";
import { tipAngleFactor } from "./tip-angle";

/** How the indicator was set for a run. */
export interface IndicatorSetup {
  readonly resolutionMm: number;
  readonly tipAngleDeg: number;
  /** 1 when the display rises as the axis moves towards plus, −1 when it falls. */
  readonly sense: 1 | -1;
  /** Largest difference between going in and coming out, mm; absent where nobody noted it. */
  readonly hysteresisMm?: number;
  /** Largest error of indication over a short reach, mm; absent where nobody noted it. */
  readonly calibrationMm?: number;
  /** Units and decimals of the program that moved the axis: places are as it commanded them. */
  readonly commanded?: CommandedAs;
}

/** How a program wrote its places. */
export interface CommandedAs {
  readonly system: UnitSystem;
  readonly decimals: number;
}

/**
 * A place as a program commanded it, mm: what it rounded is no error of the machine.
 * @param mm - place as planned, mm
 * @param as - units and decimals of the program; as planned without
 * @returns mm
 * @example commandedMm(12.3456, { system: "metric", decimals: 3 }) // 12.346
 */
export function commandedMm(mm: number, as?: CommandedAs): number {
  if (!as) return mm;
  const unit = as.system === "metric" ? "mm" : "in";
  return toMm(Number(fromMm(mm, unit).toFixed(as.decimals)), unit);
}

/** The tip angle is judged by eye to about this standard uncertainty (common practice, no source). */
const TIP_ANGLE_U_RAD = (2 * Math.PI) / 180;

/**
 * Table motion for what an indicator reads: 1, or along a hub’s circumference lead over 2π·r.
 * @param plan - of the test
 * @returns table motion for what is read
 * @example readingFactor({ circumference: { radiusMm: 20, perTurnMm: 10 } }) // 0.07958
 */
export function readingFactor(plan: Pick<TestPlan, "circumference">): number {
  const { circumference } = plan;
  return circumference ? circumference.perTurnMm / (2 * Math.PI * circumference.radiusMm) : 1;
}

/** The tip stays on while the axis turns round: then the indicator turns round with it. */
function tipStaysOn(plan: Pick<TestPlan, "kind" | "keepsZero">): boolean {
  return plan.keepsZero || (plan.kind !== "two-sided" && plan.kind !== "travel-profile");
}

/**
 * What the indicator itself does not know of a loss, mm: display steps, hysteresis where the tip
 * stays on over a reversal, errors of indication. All rectangular (GUM 4.3.7).
 * @param plan - of the test
 * @param setup - the indicator
 * @param widthsMm - full width of what each reading is rounded to, mm
 * @returns standard uncertainties with their degrees of freedom, mm
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * indicatorParts(plan, { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 }, [0.001, 0.001]).length // 2
 */
export function indicatorParts(plan: TestPlan, setup: IndicatorSetup, widthsMm: readonly number[]): UncertaintyPart[] {
  const factor = tipAngleFactor(setup.tipAngleDeg) * readingFactor(plan);
  const known = (u: number): UncertaintyPart => ({ u, dof: Infinity });
  const parts = widthsMm.map((w) => known(rectangular(w * factor)));
  if (setup.hysteresisMm && tipStaysOn(plan))
    // It only ever adds, from nothing to all of it, and is not taken off: √(h²/3).
    parts.push(known((setup.hysteresisMm * factor) / Math.sqrt(3)));
  if (setup.calibrationMm) parts.push(known(rectangular(2 * setup.calibrationMm * factor)));
  return parts;
}

/**
 * What a tip angle misjudged by two degrees does to a loss (common practice, no source).
 * @param reversalValueMm - the loss, mm
 * @param setup - the indicator
 * @returns standard uncertainty, mm
 * @example tipAnglePart(0.02, { resolutionMm: 0.001, tipAngleDeg: 20, sense: 1 }).u // 0.000254
 */
export function tipAnglePart(reversalValueMm: number, setup: IndicatorSetup): UncertaintyPart {
  const phi = (setup.tipAngleDeg * Math.PI) / 180;
  return {
    u: Math.abs(reversalValueMm) * Math.tan(phi) * TIP_ANGLE_U_RAD,
    dof: Infinity,
  };
}
