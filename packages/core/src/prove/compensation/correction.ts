import { BoundError, requireBound } from "../../quantity";
import type { Direction } from "../../measure/reversal";

/** How a control wants its table. Lengths mm. */
export interface CorrectionRules {
  /** Place of the lowest point. */
  readonly startMm: number;
  readonly stepMm: number;
  readonly points: number;
  /** Smallest step of a value in the table. */
  readonly incrementMm: number;
  /** Reference point: the correction is nothing there, so that no zero of a part moves. */
  readonly referenceMm: number;
  /** One table for both directions, or one each. */
  readonly ways: "one" | "two";
  /** What the control does with a value: adds it to the command, or takes it for the error and takes it away. */
  readonly sense: "added" | "taken-away";
  /** Values from zero at each point, or the change from the point before. */
  readonly form: "whole" | "step";
  /** Points are counted from the lowest, or from the highest. */
  readonly counted: Direction;
  /** Largest value and largest change from point to point that the control takes. */
  readonly largestMm: number;
  readonly steepestMm: number;
}

/** A table: what is added to the command at each point, ascending, in increments. */
export interface Correction {
  readonly rules: CorrectionRules;
  /** Approached from below; from either side where there is one table. */
  readonly up: readonly number[];
  /** Approached from above; null with one table. */
  readonly down: readonly number[] | null;
}

/** Fewest and most points a control keeps for an axis (common practice, no source). */
const POINTS = [2, 1000] as const;

/**
 * Checks the rules of a table against the travel of its axis.
 * @param rules - of the control
 * @param travelMm - travel of the axis, mm
 * @throws BoundError naming value and bound
 * @example checkCorrectionRules(usualCorrectionRules(500), 500) // undefined
 */
export function checkCorrectionRules(rules: CorrectionRules, travelMm: number): void {
  const { startMm, stepMm, points, incrementMm, referenceMm } = rules;
  requireBound({ step: stepMm }, stepMm >= 1 && stepMm <= travelMm, `from 1 to ${travelMm} mm`);
  requireBound(
    { "number of points": points },
    Number.isInteger(points) && points >= POINTS[0] && points <= POINTS[1],
    `a whole number from ${POINTS[0]} to ${POINTS[1]}`,
  );
  requireBound({ "smallest unit": incrementMm }, incrementMm >= 1e-5 && incrementMm <= 0.1, "from 0.00001 to 0.1 mm");
  const over = travelMm / 10;
  requireBound({ "first point": startMm }, startMm >= -over && startMm < travelMm, `from ${-over} to ${travelMm} mm`);
  const last = startMm + stepMm * (points - 1);
  requireBound({ "last point": last }, last <= travelMm + stepMm, `at most ${travelMm + stepMm} mm`);
  requireBound(
    { "reference point": referenceMm },
    referenceMm >= -over && referenceMm <= travelMm + over,
    "on the axis",
  );
  requireBound({ "largest value": rules.largestMm }, rules.largestMm >= incrementMm, `at least ${incrementMm} mm`);
  requireBound({ "largest change": rules.steepestMm }, rules.steepestMm >= incrementMm, `at least ${incrementMm} mm`);
}

/**
 * How tables are usually laid out: every 25 mm (0.5 in are 12.7 mm), in thousandths, one table, added to the command
 * (common practice, no source; the control’s manual decides).
 * @param travelMm - travel of the axis, mm
 * @param stepMm - distance of the points, mm
 * @returns the rules
 * @example usualCorrectionRules(500).points // 21
 */
export function usualCorrectionRules(travelMm: number, stepMm = 25): CorrectionRules {
  const step = Math.min(stepMm, travelMm / 4);
  return {
    startMm: 0,
    stepMm: step,
    // Up to the end of the travel, the last point beyond it where the step does not come out even.
    points: Math.ceil(travelMm / step - 1e-9) + 1,
    incrementMm: 0.001,
    referenceMm: 0,
    ways: "one",
    sense: "added",
    form: "whole",
    counted: "+",
    largestMm: 0.5,
    steepestMm: 0.1,
  };
}

/**
 * Place of a point of a table.
 * @param rules - of the table
 * @param point - counted from the lowest, from 0
 * @returns mm
 * @example pointAt(usualCorrectionRules(500), 2) // 50
 */
export function pointAt({ startMm, stepMm }: Pick<CorrectionRules, "startMm" | "stepMm">, point: number): number {
  return startMm + point * stepMm;
}

/**
 * What a table adds to the command: straight between its points; before the first and behind the last it holds their
 * values (common practice, no source).
 * @param table - of the axis
 * @param atMm - place, mm
 * @param direction - of the approach
 * @returns mm, positive towards plus
 * @example
 * const rules = { ...usualCorrectionRules(500), points: 2 };
 * correctionAt({ rules, up: [0, 10], down: null }, 12.5, "+") // 0.005
 */
export function correctionAt({ rules, up, down }: Correction, atMm: number, direction: Direction): number {
  const values = direction === "-" && down ? down : up;
  const place = Math.min(Math.max((atMm - rules.startMm) / rules.stepMm, 0), values.length - 1);
  const below = Math.min(Math.floor(place), values.length - 2);
  const part = place - below;
  return rules.incrementMm * (values[below] * (1 - part) + values[below + 1] * part);
}

/**
 * The numbers as they are typed into the control, in the order of its points.
 * @param table - of the axis
 * @param direction - which of two tables; the only one where there is one
 * @returns whole numbers of the smallest unit
 * @example
 * const rules = { ...usualCorrectionRules(500), points: 3, form: "step", sense: "taken-away" };
 * typedValues({ rules, up: [0, 2, 5], down: null }, "+") // [0, -2, -3]
 */
export function typedValues({ rules, up, down }: Correction, direction: Direction): readonly number[] {
  const values = direction === "-" && down ? down : up;
  const ordered = rules.counted === "+" ? values : [...values].reverse();
  const sign = rules.sense === "added" ? 1 : -1;
  // No minus zero on paper.
  return ordered.map((v, i) => sign * (rules.form === "whole" || i === 0 ? v : v - ordered[i - 1]) + 0);
}

/**
 * A table from the numbers that stand in the control: the other way of {@link typedValues}.
 * @param rules - of the control
 * @param typed - for each direction the numbers in the order of its points; `down` null with one table
 * @returns the table
 * @throws BoundError where there are too few or too many, or one is no whole number
 * @example
 * const rules = { ...usualCorrectionRules(500), points: 3, form: "step", sense: "taken-away" };
 * correctionFromTyped(rules, { up: [0, -2, -3], down: null }).up // [0, 2, 5]
 */
export function correctionFromTyped(
  rules: CorrectionRules,
  typed: { readonly up: readonly number[]; readonly down: readonly number[] | null },
): Correction {
  const sign = rules.sense === "added" ? 1 : -1;
  const from = (numbers: readonly number[]): readonly number[] => {
    if (numbers.length !== rules.points)
      throw new BoundError("number of values", numbers.length, `${rules.points}, one for each point`);
    let sum = 0;
    const whole = numbers.map((n) => {
      requireBound({ value: n }, Number.isInteger(n), "a whole number of the control’s smallest unit");
      sum = rules.form === "whole" ? n : sum + n;
      return sign * sum + 0;
    });
    return rules.counted === "+" ? whole : whole.reverse();
  };
  return { rules, up: from(typed.up), down: rules.ways === "two" && typed.down ? from(typed.down) : null };
}
