import { requireBound } from "../quantity";
import { MOST_TRIES, ruinAndRecreate } from "./rounds-search";
import {
  isOpen,
  roundCost,
  ROUND_WEIGHTS,
  whyLeftOut,
  type PlanDay,
  type RoundPlan,
  type RoundWeights,
  type VisitNeed,
} from "./rounds-state";
import { RoundDraft } from "./round-draft";

export interface PlanOptions {
  readonly weights?: RoundWeights;
  /** Visits put on a day by hand: respected, never moved. */
  readonly pinned?: ReadonlyMap<string, number>;
  /** Rounds of improvement at most. */
  readonly passes?: number;
  /** How often a few visits are taken out and put back at the end; 0 for a quick plan. */
  readonly tries?: number;
  /**
   * Days as they are, by place in the list; −1 for what is to be put anew. What has a day stays
   * there: planning after one change touches that change alone.
   */
  readonly keep?: readonly number[];
  /** Told how much is done, 0 to 1. */
  readonly progress?: (part: number) => void;
  /** Called between passes; answers true to stop. */
  readonly cancelled?: () => boolean;
}

/**
 * Puts visits on days: each on its cheapest day in the order they are due, then single visits and
 * whole stops are moved as long as that saves anything.
 * @param visits - visits to points, with the day each is due
 * @param days - the days, with their minutes
 * @param options - pins, what stays, how long to search, and whom to tell
 * @returns a day for each visit, what has none, and the cost
 * @throws BoundError without a day, or for a pin outside the horizon
 * @example planRounds([], [{ minutes: 60 }]).cost // 0
 */
export function planRounds(
  visits: readonly VisitNeed[],
  days: readonly PlanDay[],
  options: PlanOptions = {},
): RoundPlan {
  const { weights: w = ROUND_WEIGHTS, pinned = new Map(), passes = 12 } = options;
  requireBound({ "number of days": days.length }, days.length > 0, "at least 1");
  const draft = new RoundDraft(visits, days, w);
  const { dayOf } = draft;
  visits.forEach((v, i) => {
    const pin = pinned.get(v.id);
    if (pin === undefined) return;
    requireBound({ [`day of ${v.id}`]: pin }, pin >= 0 && pin < days.length, `from 0 to ${days.length - 1}`);
    draft.put(i, pin);
  });
  options.keep?.forEach((day, i) => {
    if (dayOf[i] < 0 && day >= 0 && day < days.length) draft.put(i, day);
  });
  const free = visits
    .map((_, i) => i)
    .filter((i) => dayOf[i] < 0)
    .sort((a, b) => visits[a].dueDay - visits[b].dueDay || visits[b].weight - visits[a].weight);
  for (const i of free) draft.put(i, draft.best(i));
  for (let pass = 0; pass < passes && !options.cancelled?.(); pass += 1) {
    options.progress?.((0.6 * pass) / passes);
    let moved = draft.moveStops(free);
    for (const i of free) {
      const from = dayOf[i];
      if (from >= 0) draft.put(i, -1);
      const to = draft.best(i);
      draft.put(i, to);
      if (to !== from) moved = true;
    }
    if (!moved) break;
  }
  searchOn(draft, free, options);
  return { dayOf, leftOut: leftOutOf(visits, days, dayOf), ...roundCost(visits, { days, dayOf, w }) };
}

/** Takes part of the plan back and makes it anew, again and again; the best that was seen is kept. */
function searchOn(draft: RoundDraft, free: readonly number[], options: PlanOptions): void {
  const { visits, days, state, dayOf, mean, w } = draft;
  const tries = options.tries ?? Math.min(MOST_TRIES, 1500 * free.length);
  // A small shop is quickly searched: again from another start, and the best is kept.
  const seeds = tries > 0 && free.length <= SMALL ? SEEDS : SEEDS.slice(0, 1);
  const put = (i: number, day: number): void => draft.put(i, day);
  const best = (i: number): number => draft.best(i);
  const allowed = (i: number, d: number): boolean => draft.allowed(i, d);
  let kept = { cost: Infinity, dayOf: [...dayOf] };
  for (const [k, seed] of seeds.entries()) {
    const progress = (part: number): void => options.progress?.(0.6 + (0.4 * (k + part)) / seeds.length);
    const { cancelled } = options;
    ruinAndRecreate({
      visits,
      days,
      state,
      dayOf,
      free,
      put,
      best,
      allowed,
      mean,
      w,
      cancelled,
      progress,
      tries,
      seed,
    });
    const { cost } = roundCost(visits, { days, dayOf, w });
    if (cost < kept.cost) kept = { cost, dayOf: [...dayOf] };
  }
  kept.dayOf.forEach((day, i) => {
    if (dayOf[i] !== day) draft.put(i, day);
  });
}

const SMALL = 120;
const SEEDS: readonly number[] = [20_011, 7_919, 104_729];

/** What has no day, with the reason: a visit is never just gone. */
function leftOutOf(
  visits: readonly VisitNeed[],
  days: readonly PlanDay[],
  dayOf: readonly number[],
): RoundPlan["leftOut"] {
  return dayOf.flatMap((d, visit) => {
    const why = d < 0 ? whyLeftOut(visits[visit], days) : null;
    return why ? [{ visit, why }] : [];
  });
}

/**
 * The plain method: each visit on the day it is due, or the next open one.
 * @param visits - visits to points, with the day each is due
 * @param days - the days, with their minutes
 * @returns a day for each visit, what has none, and the cost
 * @example planWhenDue([], [{ minutes: 60 }]).cost // 0
 */
export function planWhenDue(visits: readonly VisitNeed[], days: readonly PlanDay[]): RoundPlan {
  const dayOf = visits.map((v) => {
    const due = Math.min(days.length - 1, Math.max(0, Math.floor(v.dueDay)));
    let day = due;
    while (day < days.length && !isOpen(days, v, day)) day += 1;
    if (day < days.length) return day;
    // Nothing open after it is due: the last open day before.
    for (day = due - 1; day >= 0; day -= 1) if (isOpen(days, v, day)) break;
    return day;
  });
  const leftOut = leftOutOf(visits, days, dayOf);
  return { dayOf, leftOut, ...roundCost(visits, { days, dayOf }) };
}
