import type { LeftOutWhy, PlanDay, PlannedPoint, VisitNeed } from "@iron/core";
import type { LubricationSettings, LubricationPointRecord, Rounds } from "@iron/contract";
import { problem } from "../http/problem-error";
import { minutesOn, shutOn } from "./lubrication-settings";
import type { PlanMade } from "../threads/tasks";
export const DAY_MS = 86_400_000;

const LEFT_OUT_TEXT: Record<LeftOutWhy, string> = {
  "nobody-there": "nobody is there on any of these days",
  "never-stopped": "the machine may not be stopped on any of these days",
};

/** Is nothing of a point other than when it was planned? Then it keeps its day. */
export function asBefore(old: PlannedPoint, now: LubricationPointRecord): boolean {
  return (
    old.dueOn === now.dueOn &&
    old.intervalDays === now.intervalDays &&
    old.visits === now.visits &&
    old.held === (now.hold?.message ?? "")
  );
}

export interface Present extends PlanMade {
  readonly due: readonly LubricationPointRecord[];
  readonly dates: readonly string[];
  readonly days: readonly PlanDay[];
  readonly machine: ReadonlyMap<number, { readonly nickname: string; readonly bay: string }>;
  readonly points: number;
  /** As it is kept, with what fell out of the two weeks. */
  readonly full: readonly PlannedPoint[];
  /** Nothing of it is new. */
  readonly same: boolean;
  readonly changes: Rounds["changes"];
  readonly at: string | null;
}

/** A plan in the words of its days, stops and points. */
export function tell(
  { due, dates, days, dayOf, machine, leftOut, points, against }: Omit<Present, "changes" | "at">,
  changes: Rounds["changes"],
  changedAt: string | null,
): Rounds {
  return {
    days: dates.map((date, d) => {
      const here = due.filter((_, i) => dayOf[i] === d);
      const ids = [...new Set(here.map((p) => p.machineId))];
      const stops = ids.map((id) => ({
        machineId: id,
        nickname: machine.get(id)?.nickname ?? "",
        bay: machine.get(id)?.bay ?? "",
        points: here.filter((p) => p.machineId === id),
      }));
      return {
        date,
        minutes: here.reduce((s, p) => s + p.minutes, 0),
        available: days[d].minutes,
        stops: stops.sort((a, b) => inOrder.compare(a.bay, b.bay)),
      };
    }),
    late: due.filter((p) => p.lateDays > 0 && p.hold?.kind !== "skip").length,
    points,
    changes: [...changes],
    changedAt,
    unplanned: leftOut.map(({ visit, why }) => ({
      id: due[visit].id,
      name: `${machine.get(due[visit].machineId)?.nickname ?? ""}, ${due[visit].place}`,
      why: LEFT_OUT_TEXT[why],
    })),
    against,
  };
}

const inOrder = new Intl.Collator("en", { numeric: true });

/** Days from today on which a point is due; one left out is due when that ends, a pinned one on its day. */
export function dueDayOf(point: LubricationPointRecord, today: string): number {
  // Whole days: the same shop has the same plan all day long.
  return (Date.parse(point.hold?.date ?? point.dueOn) - Date.parse(today)) / DAY_MS;
}

export function needOf(point: LubricationPointRecord, today: string, bay: string): VisitNeed {
  return {
    id: String(point.id),
    machine: point.machineId,
    bay,
    minutes: point.minutes,
    weight: point.weight,
    dueDay: dueDayOf(point, today),
    intervalDays: point.intervalDays,
  };
}

export function refusePin(
  settings: LubricationSettings,
  {
    point,
    date,
    dates,
  }: { readonly point: LubricationPointRecord; readonly date: string; readonly dates: readonly string[] },
): void {
  const no = (why: string): never => {
    throw problem(422, { title: "Not valid", detail: `${point.place} cannot be put on ${date}: ${why}` });
  };
  if (!dates.includes(date)) no(`the plan runs from ${dates[0]} to ${dates[dates.length - 1]}.`);
  if (minutesOn(settings, date) === 0) no("nobody is there on that day.");
  if (shutOn(settings, date).has(point.machineId)) no("the machine may not be stopped on that weekday.");
}
