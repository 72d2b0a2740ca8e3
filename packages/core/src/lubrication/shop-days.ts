import type { VisitNeed } from "./rounds-state";

/** When a shop has people, and when its machines may be stopped. */
export interface ShopDays {
  /** Minutes for lubrication, Monday first. */
  readonly minutesByWeekday: readonly number[];
  /** Days on which nobody is there, as 2026-12-24. */
  readonly holidays: readonly { readonly date: string }[];
  /** Weekdays on which a machine may be stopped, Monday first; one that is not named may on each. */
  readonly windows: readonly { readonly machineId: number; readonly days: readonly boolean[] }[];
}

/** A point as the planner needs it. */
export interface DuePoint {
  readonly id: number;
  readonly machineId: number;
  readonly minutes: number;
  /** It is a job and no visit: how long it takes, and how many people. */
  readonly job?: { readonly minutes: number; readonly people: number } | null;
  readonly weight: number;
  readonly intervalDays: number;
  /** Day on which it is due, as 2026-03-03. */
  readonly dueOn: string;
  /** Put on a day, or left till one, by hand. */
  readonly hold: { readonly date: string } | null;
}

const DAY_MS = 86_400_000;

/**
 * Weekday of a day, Monday first: 2026-03-02 is a Monday (ISO 8601).
 *
 * @param date - year, month and day
 * @returns 0 for Monday to 6 for Sunday
 * @example weekdayOf("2026-03-02") // 0
 */
export function weekdayOf(date: string): number {
  return (new Date(`${date}T12:00:00Z`).getUTCDay() + 6) % 7;
}

/**
 * Minutes that people have for lubrication on a day: none on a holiday.
 *
 * @param shop - when there are people
 * @param date - year, month and day
 * @returns minutes
 * @example minutesOn({ minutesByWeekday: [90, 90, 90, 90, 90, 0, 0], holidays: [], windows: [] }, "2026-03-07") // 0
 */
export function minutesOn(shop: ShopDays, date: string): number {
  return shop.holidays.some((h) => h.date === date) ? 0 : (shop.minutesByWeekday[weekdayOf(date)] ?? 0);
}

/**
 * Machines that may not be stopped on a day.
 *
 * @param shop - when machines may be stopped
 * @param date - year, month and day
 * @returns their ids
 * @example shutOn({ minutesByWeekday: [], holidays: [], windows: [] }, "2026-03-02").size // 0
 */
export function shutOn(shop: ShopDays, date: string): Set<number> {
  const weekday = weekdayOf(date);
  return new Set(shop.windows.filter((w) => !w.days[weekday]).map((w) => w.machineId));
}

/**
 * Days from today on which a point is due; one left out is due when that ends, a pinned one on its day. Whole days:
 * the same shop has the same plan all day long.
 *
 * @param point - due day and what a person has set
 * @param today - year, month and day
 * @returns days, below 0 where it is late
 * @example dueDayOf({ dueOn: "2026-03-05", hold: null }, "2026-03-03") // 2
 */
export function dueDayOf(point: Pick<DuePoint, "dueOn" | "hold">, today: string): number {
  return (Date.parse(point.hold?.date ?? point.dueOn) - Date.parse(today)) / DAY_MS;
}

/**
 * What a point asks of the planner.
 *
 * @param point - the point as it stands
 * @param today - year, month and day
 * @param bay - where its machine stands
 * @returns its visit: minutes, weight and when it is due
 * @example
 * const point = { id: 3, machineId: 1, minutes: 6, weight: 2, intervalDays: 30, dueOn: "2026-03-05", hold: null };
 * needOf(point, "2026-03-03", "4").dueDay // 2
 */
export function needOf(point: DuePoint, today: string, bay: string): VisitNeed {
  return {
    id: String(point.id),
    machine: point.machineId,
    bay,
    // A job takes its people’s time out of the day: no round is planned beside it.
    minutes: point.job ? point.job.minutes * point.job.people : point.minutes,
    weight: point.weight,
    dueDay: dueDayOf(point, today),
    intervalDays: point.intervalDays,
  };
}

/** Why a point cannot be put on a day. */
export type PinRefusal = "not-in-plan" | "nobody-there" | "machine-runs";

/**
 * May a point be put on a day by hand?
 *
 * @param shop - when there are people, and machines may be stopped
 * @param pin - `machineId`: its machine; `date`: the day wished for; `dates`: the days of the plan
 * @returns why not; null where it may
 * @example
 * const shop = { minutesByWeekday: [90, 90, 90, 90, 90, 0, 0], holidays: [], windows: [] };
 * refusePin(shop, { machineId: 1, date: "2026-03-07", dates: ["2026-03-06", "2026-03-07"] }) // "nobody-there"
 */
export function refusePin(
  shop: ShopDays,
  { machineId, date, dates }: { readonly machineId: number; readonly date: string; readonly dates: readonly string[] },
): PinRefusal | null {
  if (!dates.includes(date)) return "not-in-plan";
  if (minutesOn(shop, date) === 0) return "nobody-there";
  return shutOn(shop, date).has(machineId) ? "machine-runs" : null;
}

/** A week of the long plan. */
export interface ShopWeek {
  /** Its first day. */
  readonly from: string;
  readonly minutes: number;
  /** Machines for which no day of it has both people and leave to stop. */
  readonly shut: readonly number[];
}

/**
 * Days in weeks of seven, with what each has.
 *
 * @param shop - when there are people, and machines may be stopped
 * @param dates - days one after another; a last week may have fewer than seven
 * @returns the weeks in order
 * @example
 * weeksOf({ minutesByWeekday: [90, 90, 90, 90, 90, 0, 0], holidays: [], windows: [] }, ["2026-03-06", "2026-03-07"])
 * // [{ from: "2026-03-06", minutes: 90, shut: [] }]
 */
export function weeksOf(shop: ShopDays, dates: readonly string[]): readonly ShopWeek[] {
  return Array.from({ length: Math.ceil(dates.length / 7) }, (_, week) => {
    const own = dates.slice(7 * week, 7 * week + 7);
    const open = own.filter((d) => minutesOn(shop, d) > 0);
    return {
      from: own[0],
      minutes: own.reduce((sum, d) => sum + minutesOn(shop, d), 0),
      shut: shop.windows.map((x) => x.machineId).filter((id) => open.every((d) => shutOn(shop, d).has(id))),
    };
  });
}
