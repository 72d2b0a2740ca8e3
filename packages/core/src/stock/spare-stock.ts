import { pricesOf, type AxisConfig } from "../machine/axis";
import type { PartLife } from "./life";
import { wantedChance } from "./life";
import { holdCount, wantedCounts } from "./newsvendor";
import { SPARES, type SpareKind } from "./spares.table";

/** A part of one axis, as far as a stock has to know it. */
export interface SpareOnAxis {
  readonly kind: SpareKind;
  /** Kind and size: axes with the same can share one. */
  readonly name: string;
  readonly price: number;
}

/**
 * The usual spare parts of an axis.
 * @param axis - configuration
 * @returns each once, with what it is called and costs
 * @example sparesOf(defaultAxis("vertical-centre", "X")).length > 3 // true
 */
export function sparesOf(axis: AxisConfig): readonly SpareOnAxis[] {
  const prices = pricesOf(axis);
  return SPARES.filter((kind) => kind.fits(axis)).map((kind) => ({
    kind,
    name: [kind.name, kind.size(axis)].filter(Boolean).join(", "),
    price: kind.price(prices),
  }));
}

/** A place where a part wears. */
export interface SparePlace {
  readonly life: PartLife;
  /** How many of them, worn alike, each by itself. */
  readonly count: number;
  /** Hours it has run since it was renewed; null where nobody knows. */
  readonly ageHours: number | null;
  readonly hoursPerDay: number;
  /** What a day without it costs. */
  readonly dayCost: number;
}

export interface SpareTerms {
  readonly price: number;
  readonly leadDays: number;
  /** Days a machine waits where none is there. */
  readonly waitDays: number;
  /** Held in any case. */
  readonly least: number;
}

export interface SpareAdvice {
  /** How many to hold; ordered one for one when there are fewer, those on order counted. */
  readonly hold: number;
  /** Wanted in a year, in the mean. */
  readonly perYear: number;
  /** Chance that more are wanted until an order comes than are held. */
  readonly shortChance: number;
  /** Of an empty shelf: chance that one is wanted until an order comes, and what that wait costs. */
  readonly wantedChance: number;
  readonly missing: number;
}

/** What a part on the shelf costs a year: money, room, rust; of its price (common practice, no source). */
export const HOLDING_A_YEAR = 0.2;
const YEAR_DAYS = 365;

/**
 * How many of a spare part to hold, over all places that it fits: the newsvendor over the time an order takes. One too
 * many costs its keep for that time; one missing costs the wait of the machine that wants it.
 * Source: as {@link holdCount}; base stock, ordered one for one.
 * @param places - all that take this part
 * @param terms - price, days until an order comes, days a machine waits without one
 * @returns how many to hold, and why
 * @example spareAdvice([], { price: 20, leadDays: 7, waitDays: 2, least: 0 }).hold // 0
 */
export function spareAdvice(places: readonly SparePlace[], terms: SpareTerms): SpareAdvice {
  const { price, leadDays, waitDays, least } = terms;
  const within = (p: SparePlace, days: number): number =>
    wantedChance(p.life, { ageHours: p.ageHours, windowHours: p.hoursPerDay * days });
  const each = places.flatMap((p) => Array.from({ length: p.count }, () => within(p, leadDays)));
  const counts = wantedCounts(each);
  const wanted = places.reduce((s, p) => s + p.count * within(p, leadDays), 0);
  // Whichever wants it first: by how likely that is.
  const mean = places.reduce((s, p) => s + p.count * within(p, leadDays) * p.dayCost, 0) / (wanted || 1);
  const missing = mean * waitDays;
  const idle = Math.max(0.01, price) * HOLDING_A_YEAR * (Math.max(1, leadDays) / YEAR_DAYS);
  const hold = Math.max(least, wanted > 0 ? holdCount(counts, { missing, idle }) : 0);
  return {
    hold,
    perYear: places.reduce((s, p) => s + p.count * Math.min(within(p, YEAR_DAYS), 1), 0),
    shortChance: counts.slice(hold + 1).reduce((a, b) => a + b, 0),
    wantedChance: 1 - counts[0],
    missing,
  };
}
