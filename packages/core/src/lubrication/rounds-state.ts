/** One visit to a point that falls into the horizon. Days are counted from the first day planned. */
export interface VisitNeed {
  readonly id: string;
  readonly machine: number;
  readonly bay: string;
  readonly minutes: number;
  readonly weight: number;
  /** When it is due; below 0 it is late already. */
  readonly dueDay: number;
  readonly intervalDays: number;
  /** The point it belongs to, where several of its visits are planned: they are kept apart. */
  readonly point?: number;
}

export interface PlanDay {
  /** Minutes that people have; 0 on a holiday. */
  readonly minutes: number;
  /** Machines that may not be stopped on this day. */
  readonly shut?: ReadonlySet<number>;
}

/** What the plan is weighed by (ours): late first, then stops and walking, then even days. */
export interface RoundWeights {
  readonly late: number;
  readonly early: number;
  readonly stop: number;
  readonly bay: number;
  readonly uneven: number;
  readonly over: number;
}
export const ROUND_WEIGHTS: RoundWeights = {
  late: 40,
  early: 14,
  stop: 4,
  bay: 2,
  uneven: 0.05,
  over: 40,
};
/** Up to this part of its interval before it is due, a visit is not early. */
const NOT_EARLY = 0.1;

export interface RoundPlan {
  /** Day of each visit, by its place in the list; −1 only when no day at all is open for it. */
  readonly dayOf: readonly number[];
  /** Visits without a day, by their place in the list, and why. */
  readonly leftOut: readonly {
    readonly visit: number;
    readonly why: LeftOutWhy;
  }[];
  readonly cost: number;
  readonly parts: {
    readonly late: number;
    readonly early: number;
    readonly stops: number;
    readonly bays: number;
    readonly uneven: number;
    readonly over: number;
  };
}

/** Nobody is there on any day, or the machine may not be stopped on any day when somebody is. */
export type LeftOutWhy = "nobody-there" | "never-stopped";

/**
 * Why a visit can have no day; null when one is open.
 * @param visit - the visit
 * @param days - the days, with their minutes
 * @returns why, or null
 * @example whyLeftOut({ machine: 1, minutes: 10 } , []) // 'nobody-there'
 */
export function whyLeftOut(visit: VisitNeed, days: readonly PlanDay[]): LeftOutWhy | null {
  if (days.every((d) => d.minutes <= 0)) return "nobody-there";
  return days.some((_, d) => isOpen(days, visit, d)) ? null : "never-stopped";
}

/**
 * Leaving a visit out costs more than doing it on the last day and walking there for it alone.
 * @param visit - the visit
 * @param days - how many days
 * @param w - what weighs how much
 * @returns cost
 * @example leftOutCost({ minutes: 5, dueDay: 0, intervalDays: 30, weight: 1 } , 10) > 0 // true
 */
export function leftOutCost(visit: VisitNeed, days: number, w: RoundWeights = ROUND_WEIGHTS): number {
  const latest = Math.max(days, visit.dueDay + 1);
  const alone = w.stop + w.bay + (w.over + w.uneven) * visit.minutes;
  return visitCost(visit, latest, w) + 10 * alone + 1000;
}

/**
 * Two visits to a point stand at least so far apart: half its interval; none for less than a day.
 * @param visit - the visit
 * @returns days
 * @example leastGap({ intervalDays: 30 } ) // 15
 */
export function leastGap(visit: VisitNeed): number {
  return visit.intervalDays >= 1 ? visit.intervalDays / 2 : 0;
}

/**
 * Cost of a visit on a day by itself: late or early against its own interval.
 * @param visit - the visit
 * @param day - the day
 * @param w - what weighs how much
 * @returns cost, 0 on the day it is due
 * @example visitCost({ dueDay: 3, intervalDays: 30, weight: 1 } , 3) // 0
 */
export function visitCost(visit: VisitNeed, day: number, w: RoundWeights = ROUND_WEIGHTS): number {
  const off = (day - visit.dueDay) / Math.max(1, visit.intervalDays);
  if (off > 0) return w.late * visit.weight * off;
  return w.early * Math.max(0, -off - NOT_EARLY);
}

/**
 * May a machine be worked on that day?
 * @param days - the days, with their minutes
 * @param visit - the visit
 * @param day - the day
 * @returns whether there are minutes, and the machine may stop
 * @example isOpen([{ minutes: 60 }] , { machine: 1 } , 0) // true
 */
export function isOpen(days: readonly PlanDay[], visit: VisitNeed, day: number): boolean {
  return days[day].minutes > 0 && !days[day].shut?.has(visit.machine);
}

/**
 * Adds up what a plan costs, by part.
 * @param visits - visits to points, with the day each is due
 * @param options - `days`: the days, with their minutes; `dayOf`: day of each visit, −1 for none; `w`: what weighs
 *   how much
 * @returns cost, and its parts
 * @example roundCost([], { days: [], dayOf: [] }).cost // 0
 */
export function roundCost(
  visits: readonly VisitNeed[],
  {
    days,
    dayOf,
    w = ROUND_WEIGHTS,
  }: { readonly days: readonly PlanDay[]; readonly dayOf: readonly number[]; readonly w?: RoundWeights },
): Pick<RoundPlan, "cost" | "parts"> {
  const stops = new Set<string>();
  const bays = new Set<string>();
  const load = days.map(() => 0);
  let late = 0;
  let early = 0;
  visits.forEach((v, i) => {
    const d = dayOf[i];
    if (d < 0) {
      late += leftOutCost(v, days.length, w);
      return;
    }
    const cost = visitCost(v, d, w);
    if (d > v.dueDay) late += cost;
    else early += cost;
    stops.add(`${d} ${v.machine}`);
    bays.add(`${d} ${v.bay}`);
    load[d] += v.minutes;
  });
  const mean = evenShare(visits, days);
  const uneven = w.uneven * load.reduce((s, l) => s + Math.max(0, l - mean), 0);
  const over = w.over * load.reduce((s, l, d) => s + Math.max(0, l - days[d].minutes), 0);
  const parts = { late, early, stops: w.stop * stops.size, bays: w.bay * bays.size, uneven, over };
  return { parts, cost: Object.values(parts).reduce((a, b) => a + b, 0) };
}

/**
 * Minutes a day if all open days were alike.
 * @param visits - visits to points, with the day each is due
 * @param days - the days, with their minutes
 * @returns minutes
 * @example evenShare([{ minutes: 30 }, { minutes: 30 }] , [{ minutes: 60 }, { minutes: 60 }] ) // 30
 */
export function evenShare(visits: readonly VisitNeed[], days: readonly PlanDay[]): number {
  const open = days.filter((d) => d.minutes > 0).length;
  return visits.reduce((s, v) => s + v.minutes, 0) / Math.max(1, open);
}

/** The days as they are filled so far. */
export interface State {
  readonly load: number[];
  readonly stops: Map<number, number>[];
  readonly bays: Map<string, number>[];
}

/** The days of a plan in the making, and what it is weighed by. */
export interface FilledDays {
  readonly state: State;
  readonly days: readonly PlanDay[];
  /** Minutes a day if all were alike. */
  readonly mean: number;
  readonly w: RoundWeights;
}

/**
 * What it costs more to have a visit on a day, as the days are now.
 * @param plan - the days as they are filled, and what they are weighed by
 * @param visit - the visit
 * @param day - the day
 * @returns cost
 * @example
 * marginal(
 *   { state: { load: [0], stops: [new Map()], bays: [new Map()] }, days: [{ minutes: 60 }], mean: 5, w: ROUND_WEIGHTS },
 *   { machine: 1, bay: "1", minutes: 5, dueDay: 0, intervalDays: 30, weight: 1 },
 *   0,
 * ) // 6
 */
export function marginal({ state, days, mean, w }: FilledDays, visit: VisitNeed, day: number): number {
  const load = state.load[day];
  const more = load + visit.minutes;
  const { minutes } = days[day];
  // Written out: this is asked millions of times in one plan.
  return (
    visitCost(visit, day, w) +
    (state.stops[day].has(visit.machine) ? 0 : w.stop) +
    (state.bays[day].has(visit.bay) ? 0 : w.bay) +
    w.uneven * ((more > mean ? more - mean : 0) - (load > mean ? load - mean : 0)) +
    w.over * ((more > minutes ? more - minutes : 0) - (load > minutes ? load - minutes : 0))
  );
}

/**
 * Puts a visit on a day.
 * @param state - the days as they are, changed
 * @param visit - the visit
 * @param day - the day
 * @example putOn({ load: [0], stops: [new Map()], bays: [new Map()] }, { machine: 1, bay: "1", minutes: 5 }, 0) // undefined
 */
export function putOn(state: State, visit: VisitNeed, day: number): void {
  state.load[day] += visit.minutes;
  state.stops[day].set(visit.machine, (state.stops[day].get(visit.machine) ?? 0) + 1);
  state.bays[day].set(visit.bay, (state.bays[day].get(visit.bay) ?? 0) + 1);
}

/**
 * Takes a visit off a day that it stands on.
 * @param state - the days as they are, changed
 * @param visit - the visit
 * @param day - the day
 * @example takeOff({ load: [5], stops: [new Map([[1, 1]])], bays: [new Map([["1", 1]])] }, { machine: 1, bay: "1", minutes: 5 }, 0) // undefined
 */
export function takeOff(state: State, visit: VisitNeed, day: number): void {
  state.load[day] -= visit.minutes;
  lessOne(state.stops[day], visit.machine);
  lessOne(state.bays[day], visit.bay);
}

function lessOne<K>(counts: Map<K, number>, key: K): void {
  const left = (counts.get(key) ?? 0) - 1;
  if (left) counts.set(key, left);
  else counts.delete(key);
}
