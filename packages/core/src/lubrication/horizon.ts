import { planRounds } from "./rounds";
import type { PlanDay, RoundPlan, VisitNeed } from "./rounds-state";

/** A point as the half-year plan needs it. */
export interface HorizonPoint {
  readonly id: number;
  readonly machine: number;
  readonly bay: string;
  readonly minutes: number;
  readonly weight: number;
  /** Days from today; negative when it is late already. */
  readonly dueDay: number;
  readonly intervalDays: number;
}

/** A week of the plan: minutes that people have, and machines that cannot be stopped in it. */
export interface HorizonWeek {
  readonly minutes: number;
  readonly shut?: ReadonlySet<number>;
}

export interface HorizonVisit extends VisitNeed {
  readonly point: number;
  /** First, second, … visit to its point within the horizon. */
  readonly turn: number;
}

/**
 * Every visit that falls into so many weeks; days become weeks. Later visits are counted from when
 * the one before is due, not from when it is planned, so that one moved visit moves no other.
 * @param points - points with the day they are due
 * @param weeks - how many weeks
 * @returns the visits
 * @example expandVisits([], 26).length // 0
 */
export function expandVisits(points: readonly HorizonPoint[], weeks: number): readonly HorizonVisit[] {
  const list: HorizonVisit[] = [];
  for (const p of points) {
    const every = Math.max(p.intervalDays, 1);
    let turn = 1;
    for (let due = p.dueDay; due < weeks * 7; due = Math.max(due, 0) + every) {
      list.push({
        id: `${p.id} ${turn}`,
        point: p.id,
        turn,
        machine: p.machine,
        bay: p.bay,
        minutes: p.minutes,
        weight: p.weight,
        dueDay: due / 7,
        intervalDays: every / 7,
      });
      turn += 1;
    }
  }
  return list;
}

export interface HorizonPlan extends RoundPlan {
  readonly visits: readonly HorizonVisit[];
}

/** What a week adds up to: minutes, visits, machines to stop at, and how many come late or early. */
export interface WeekSum {
  readonly minutes: number;
  readonly available: number;
  readonly visits: number;
  readonly stops: number;
  readonly late: number;
  readonly early: number;
  /** Minutes of what is late and of what is early, out of all. */
  readonly lateMinutes: number;
  readonly earlyMinutes: number;
}

export interface HorizonOptions {
  readonly progress?: (part: number) => void;
  readonly cancelled?: () => boolean;
  readonly tries?: number;
}

/**
 * Plans half a year by week.
 * @param points - points with the day they are due
 * @param weeks - the weeks, with their minutes
 * @param options - how long to search, and whom to tell
 * @returns a week for each visit, and what it costs
 * @example planHorizon([], [{ minutes: 60 }] ).cost // 0
 */
export function planHorizon(
  points: readonly HorizonPoint[],
  weeks: readonly HorizonWeek[],
  options: HorizonOptions = {},
): HorizonPlan {
  const visits = expandVisits(points, weeks.length);
  const days: PlanDay[] = weeks.map((w) => ({ ...w }));
  // Many visits: few passes put them all well, the search then spends its time where it can.
  const passes = visits.length > 5000 ? 3 : 8;
  return { visits, ...planRounds(visits, days, { ...options, passes }) };
}

/**
 * Plans anew after points have changed: every other visit keeps its week.
 * @param before - the plan there is
 * @param options - `points`: points with the day they are due; `changed`: ids of the points that changed; `weeks`:
 *   the weeks, with their minutes
 * @returns a week for each visit
 * @example replanHorizon(planHorizon([], [{ minutes: 60 }]), { points: [], changed: new Set(), weeks: [{ minutes: 60 }] }).cost // 0
 */
export function replanHorizon(
  before: HorizonPlan,
  {
    points,
    changed,
    weeks,
  }: {
    readonly points: readonly HorizonPoint[];
    readonly changed: ReadonlySet<number>;
    readonly weeks: readonly HorizonWeek[];
  },
): HorizonPlan {
  const weekOf = new Map(before.visits.map((v, i) => [v.id, before.dayOf[i]]));
  const visits = expandVisits(points, weeks.length);
  const keep = visits.map((v) => (changed.has(v.point) ? -1 : (weekOf.get(v.id) ?? -1)));
  return { visits, ...planRounds(visits, weeks, { keep, passes: 4, tries: 400 }) };
}

/**
 * What each week of a plan carries.
 * @param plan - the plan
 * @param weeks - the weeks, with their minutes
 * @returns minutes and stops of each week
 * @example weekSums(planHorizon([], [{ minutes: 60 }] ), [{ minutes: 60 }] ).length // 1
 */
export function weekSums(plan: HorizonPlan, weeks: readonly HorizonWeek[]): readonly WeekSum[] {
  const sums = weeks.map((w) => ({
    minutes: 0,
    available: w.minutes,
    visits: 0,
    machines: new Set<number>(),
    late: 0,
    early: 0,
    lateMinutes: 0,
    earlyMinutes: 0,
  }));
  plan.visits.forEach((v, i) => {
    const week = plan.dayOf[i];
    if (week < 0) return;
    const sum = sums[week];
    sum.minutes += v.minutes;
    sum.visits += 1;
    sum.machines.add(v.machine);
    // A whole week behind or before is late or early; within its week it is due.
    if (week - v.dueDay > 1 || v.dueDay < 0) {
      sum.late += 1;
      sum.lateMinutes += v.minutes;
    } else if (v.dueDay - week > 1) {
      sum.early += 1;
      sum.earlyMinutes += v.minutes;
    }
  });
  return sums.map(({ machines, ...s }) => ({ ...s, stops: machines.size }));
}

/**
 * Points that differ from how they were: other due day, interval, minutes or weight, or new.
 * @param before - the points as they were
 * @param now - the points as they are
 * @returns their ids
 * @example changedPoints([], []).size // 0
 */
export function changedPoints(before: readonly HorizonPoint[], now: readonly HorizonPoint[]): ReadonlySet<number> {
  const was = new Map(before.map((p) => [p.id, JSON.stringify(p)]));
  return new Set(now.filter((p) => was.get(p.id) !== JSON.stringify(p)).map((p) => p.id));
}
