import { pricesOf, type AxisConfig } from "../machine/axis";
import type { Cause } from "./knowledge";

/** What the decision is weighed by. Money in the shop’s currency. */
export interface DecisionTerms {
  /** Retest and re-reference after any remedy, min. */
  readonly retestMinutes: number;
  /** Small parts of cost class 1. */
  readonly smallParts: number;
  /** Somebody called in when nothing here was it, min of standing. */
  readonly callInMinutes: number;
  /** What a remedy that was not it costs besides: taking apart twice, planning, trust; min. */
  readonly wrongMinutes: number;
  /** What a wrong verdict costs beyond the trying: parts ordered, a machine given back; min. */
  readonly misnamedMinutes: number;
  /**
   * What mending a cause takes on this axis by its job sheet, retest included, by cause; where it is
   * not here the catalogue’s rough figure stands.
   */
  readonly mending?: Mending;
}

/** Minutes of standing and money for parts, by cause. */
export type Mending = Readonly<Record<string, { readonly minutes: number; readonly parts: number }>>;

/** Common practice, no source; the hourly rate and the parts come from the axis’ own costs. */
export const DECISION_TERMS: DecisionTerms = {
  retestMinutes: 15,
  smallParts: 40,
  callInMinutes: 480,
  wrongMinutes: 60,
  misnamedMinutes: 960,
};

/**
 * What mending a cause costs, work and parts.
 * @param axis - with its prices
 * @param cause - what is mended
 * @param terms - minutes and prices that are taken
 * @returns in the shop's money
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * remedyCost(axis, causeById("nut-worn")) > remedyCost(axis, causeById("retainer-loose")) // true
 */
export function remedyCost(axis: AxisConfig, cause: Cause, terms = DECISION_TERMS): number {
  const sheet = terms.mending?.[cause.id];
  if (sheet) return minuteCost(axis, sheet.minutes) + sheet.parts;
  const { minutes, costClass, kind } = cause.remedy;
  if (kind === "none" || kind === "refer") return minuteCost(axis, minutes);
  const { bearingSet, screw } = pricesOf(axis);
  const parts = [0, terms.smallParts, bearingSet, screw][costClass];
  return minuteCost(axis, minutes + terms.retestMinutes) + parts;
}

/**
 * What a time costs on this machine: it stands still meanwhile.
 * @param axis - with its price of an hour
 * @param minutes - how long
 * @returns in the shop's money
 * @example
 * minuteCost({ ...defaultAxis("vertical-centre", "X"), costs: { bearingSet: null, screw: null, downtimePerHour: 60 } }, 10)
 * // 10
 */
export function minuteCost(axis: AxisConfig, minutes: number): number {
  return (minutes / 60) * axis.costs.downtimePerHour;
}
