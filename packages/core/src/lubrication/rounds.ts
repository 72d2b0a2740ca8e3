import { requireBound } from "../quantity";
import { MOST_TRIES, ruinAndRecreate } from "./rounds-search";
import {
  evenShare,
  isOpen,
  leastGap,
  marginal,
  roundCost,
  ROUND_WEIGHTS,
  shift,
  whyLeftOut,
  type PlanDay,
  type RoundPlan,
  type RoundWeights,
  type State,
  type VisitNeed,
} from "./rounds-state";

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
 * @throws BoundError without a day, or for a pin outside the horizon
 */
export function planRounds(
  visits: readonly VisitNeed[],
  days: readonly PlanDay[],
  options: PlanOptions = {},
): RoundPlan {
  const { weights: w = ROUND_WEIGHTS, pinned = new Map(), passes = 12 } = options;
  requireBound("number of days", days.length, days.length > 0, "at least 1");
  const mean = evenShare(visits, days);
  const state: State = { load: days.map(() => 0), stops: days.map(() => new Map()), bays: days.map(() => new Map()) };
  const dayOf = visits.map(() => -1);
  const put = (i: number, day: number): void => {
    if (dayOf[i] >= 0) shift(state, visits[i], dayOf[i], -1);
    dayOf[i] = day;
    if (day >= 0) shift(state, visits[i], day, 1);
  };
  visits.forEach((v, i) => {
    const pin = pinned.get(v.id);
    if (pin === undefined) return;
    requireBound(`day of ${v.id}`, pin, pin >= 0 && pin < days.length, `from 0 to ${days.length - 1}`);
    put(i, pin);
  });
  options.keep?.forEach((day, i) => {
    if (dayOf[i] < 0 && day >= 0 && day < days.length) put(i, day);
  });
  const free = visits
    .map((_, i) => i)
    .filter((i) => dayOf[i] < 0)
    .sort((a, b) => visits[a].dueDay - visits[b].dueDay || visits[b].weight - visits[a].weight);
  const mates = matesOf(visits);
  const gaps = visits.map(leastGap);
  const reaches = visits.map((v) => reach(v, days.length));
  /** May a visit stand on a day: open, and far enough from the other visits to its point? */
  const allowed = (i: number, d: number): boolean => {
    if (!isOpen(days, visits[i], d)) return false;
    for (const k of mates[i]) if (dayOf[k] >= 0 && Math.abs(dayOf[k] - d) < gaps[i]) return false;
    return true;
  };
  const cheapest = (i: number, from: number, to: number, may: (i: number, d: number) => boolean): number => {
    let day = -1;
    let least = Infinity;
    for (let d = from; d <= to; d += 1) {
      if (!may(i, d)) continue;
      const cost = marginal(state, visits[i], d, days, mean, w);
      if (cost < least - 1e-9) [day, least] = [d, cost];
    }
    return day;
  };
  const best = (i: number): number => {
    const [from, to] = reaches[i];
    const near = cheapest(i, from, to, allowed);
    if (near >= 0) return near;
    // Nothing open about when it is due: any day is better than none.
    const any = cheapest(i, 0, days.length - 1, allowed);
    return any >= 0 ? any : cheapest(i, 0, days.length - 1, (v, d) => isOpen(days, visits[v], d));
  };
  for (const i of free) put(i, best(i));
  for (let pass = 0; pass < passes && !options.cancelled?.(); pass += 1) {
    options.progress?.((0.6 * pass) / passes);
    let moved = moveStops(visits, days, state, dayOf, free, put, mean, w, allowed);
    for (const i of free) {
      const from = dayOf[i];
      if (from >= 0) put(i, -1);
      const to = best(i);
      put(i, to);
      if (to !== from) moved = true;
    }
    if (!moved) break;
  }
  const tries = options.tries ?? Math.min(MOST_TRIES, 1500 * free.length);
  // A small shop is quickly searched: again from another start, and the best is kept.
  const seeds = tries > 0 && free.length <= SMALL ? SEEDS : SEEDS.slice(0, 1);
  let kept = { cost: Infinity, dayOf: [...dayOf] };
  for (const [k, seed] of seeds.entries()) {
    const progress = (part: number): void => options.progress?.(0.6 + (0.4 * (k + part)) / seeds.length);
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
      cancelled: options.cancelled,
      progress,
      tries,
      seed,
    });
    const { cost } = roundCost(visits, days, dayOf, w);
    if (cost < kept.cost) kept = { cost, dayOf: [...dayOf] };
  }
  kept.dayOf.forEach((day, i) => {
    if (dayOf[i] !== day) put(i, day);
  });
  return { dayOf, leftOut: leftOutOf(visits, days, dayOf), ...roundCost(visits, days, dayOf, w) };
}

const SMALL = 120;
const SEEDS: readonly number[] = [20_011, 7_919, 104_729];

/** The other visits to the same point, by place in the list. */
function matesOf(visits: readonly VisitNeed[]): readonly (readonly number[])[] {
  const byPoint = new Map<number, number[]>();
  visits.forEach((v, i) => {
    if (v.point === undefined) return;
    const list = byPoint.get(v.point);
    if (list) list.push(i);
    else byPoint.set(v.point, [i]);
  });
  return visits.map((v, i) => (v.point === undefined ? [] : (byPoint.get(v.point) ?? []).filter((k) => k !== i)));
}

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

/** Days worth trying for a visit: from half its interval early to the end of what is late. */
function reach(visit: VisitNeed, days: number): [number, number] {
  const early = Math.floor(visit.dueDay - Math.max(2, 0.6 * visit.intervalDays));
  const late = Math.ceil(Math.max(visit.dueDay, 0) + 10);
  return [Math.max(0, Math.min(days - 1, early)), Math.min(days - 1, late)];
}

/** Tries to move all free visits of a machine from one day to another together: one stop fewer. */
function moveStops(
  visits: readonly VisitNeed[],
  days: readonly PlanDay[],
  state: State,
  dayOf: number[],
  free: readonly number[],
  put: (i: number, day: number) => void,
  mean: number,
  w: RoundWeights,
  allowed: (i: number, d: number) => boolean,
): boolean {
  const groups = new Map<string, number[]>();
  for (const i of free)
    if (dayOf[i] >= 0) {
      const key = `${dayOf[i]} ${visits[i].machine}`;
      groups.set(key, [...(groups.get(key) ?? []), i]);
    }
  let moved = false;
  for (const group of groups.values()) {
    const from = dayOf[group[0]];
    const cost = (day: number): number => {
      let sum = 0;
      for (const i of group) {
        sum += marginal(state, visits[i], day, days, mean, w);
        shift(state, visits[i], day, 1);
      }
      for (const i of group) shift(state, visits[i], day, -1);
      return sum;
    };
    for (const i of group) shift(state, visits[i], from, -1);
    let [day, least] = [from, cost(from)];
    const spans = group.map((i) => reach(visits[i], days.length));
    const [low, high] = [Math.max(...spans.map((s) => s[0])), Math.min(...spans.map((s) => s[1]))];
    for (let d = low; d <= high; d += 1) {
      if (d === from || !group.every((i) => allowed(i, d))) continue;
      const c = cost(d);
      if (c < least - 1e-9) [day, least] = [d, c];
    }
    for (const i of group) shift(state, visits[i], from, 1);
    if (day !== from) {
      for (const i of group) put(i, day);
      moved = true;
    }
  }
  return moved;
}

/** The plain method: each visit on the day it is due, or the next open one. */
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
  return { dayOf, leftOut, ...roundCost(visits, days, dayOf) };
}
