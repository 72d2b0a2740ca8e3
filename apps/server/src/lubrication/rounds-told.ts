import { refusePin, walkOrder, worthMost, type PinRefusal, type PlanDay, type PlannedPoint } from "@iron/core";
import type { LubricationSettings, LubricationPointRecord, Rounds } from "@iron/contract";
import { problem } from "../http/problem-error";
import type { PlanMade } from "../threads/tasks";
export const DAY_MS = 86_400_000;

export const LEFT_OUT_TEXT: Record<PlanMade["leftOut"][number]["why"], string> = {
  "nobody-there": "nobody is there on any of these days",
  "no-minutes": "there are not minutes enough for all that is due",
  "never-stopped": "the machine may not be stopped on any of these days",
};

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
  { due, dates, days, dayOf, machine, leftOut, points, against, changes, at }: Present,
  bays: readonly string[],
): Omit<Rounds, "currency" | "gramsPerStroke"> {
  const inOrder = walkOrder(bays);
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
        minutes: here.reduce((s, p) => s + (p.job ? 0 : p.minutes), 0),
        jobMinutes: here.reduce((s, p) => s + (p.job ? p.job.minutes * p.job.people : 0), 0),
        available: days[d].minutes,
        first: firstOf(here, days[d].minutes),
        stops: stops.sort((a, b) => inOrder(a.bay, b.bay)),
      };
    }),
    late: due.filter((p) => p.lateDays >= 1 && p.hold?.kind !== "skip").length,
    points,
    changes: [...changes],
    changedAt: at,
    unplanned: leftOut.map(({ visit, why }) => ({
      id: due[visit].id,
      name: `${machine.get(due[visit].machineId)?.nickname ?? ""}, ${due[visit].place}`,
      why: LEFT_OUT_TEXT[why],
      noMinutes: why === "no-minutes",
      minutes: due[visit].minutes,
      week: due[visit].risk.week,
    })),
    against,
  };
}

/** Where there are not minutes for all: those that together risk most; a job is a day of its own. */
function firstOf(here: readonly LubricationPointRecord[], minutes: number): number[] {
  const visits = here.filter((p) => p.job === null);
  if (minutes <= 0 || visits.reduce((s, p) => s + p.minutes, 0) <= minutes) return [];
  const all = visits.map((p) => ({ minutes: p.minutes, worth: p.risk.week }));
  return worthMost(all, minutes).map((i) => visits[i].id);
}

const PIN_TEXT: Record<PinRefusal, (dates: readonly string[]) => string> = {
  "not-in-plan": (dates) => `the plan runs from ${dates[0]} to ${dates[dates.length - 1]}.`,
  "nobody-there": () => "nobody is there on that day.",
  "machine-runs": () => "the machine may not be stopped on that weekday.",
};

/** @throws ProblemError where a point cannot be put on a day. */
export function mayPin(
  settings: LubricationSettings,
  {
    point,
    date,
    dates,
  }: { readonly point: LubricationPointRecord; readonly date: string; readonly dates: readonly string[] },
): void {
  const no = refusePin(settings, { machineId: point.machineId, date, dates });
  if (no !== null)
    throw problem(422, {
      title: "Not valid",
      detail: `${point.place} cannot be put on ${date}: ${PIN_TEXT[no](dates)}`,
    });
}
