/** Where a point stood in a plan, and what it was planned from. */
export interface PlannedPoint {
  readonly id: number;
  readonly place: string;
  readonly nickname: string;
  /** Day it is planned on, ISO date; null when it is not in the plan. */
  readonly date: string | null;
  readonly dueOn: string;
  readonly intervalDays: number;
  readonly visits: number;
  /** Pin or skip in words; empty for none. */
  readonly held: string;
}

/**
 * Does a point ask the planner for the same as when it was planned? Then it keeps its day.
 *
 * @param old - the point in the plan that was kept
 * @param now - the point as it stands
 * @returns whether nothing of it is other
 * @example
 * const point = { dueOn: "2026-03-05", intervalDays: 30, visits: 2, held: "" };
 * sameNeed(point, { ...point, visits: 3 }) // false
 */
export function sameNeed(old: AskedPoint, now: AskedPoint): boolean {
  return (
    old.dueOn === now.dueOn &&
    old.intervalDays === now.intervalDays &&
    old.visits === now.visits &&
    old.held === now.held
  );
}

type AskedPoint = Pick<PlannedPoint, "dueOn" | "intervalDays" | "visits" | "held">;

export interface PlanChange {
  readonly id: number;
  readonly what: string;
  readonly why: string;
}

interface Told {
  readonly today: string;
  readonly dayText: (date: string) => string;
  /** Why points that are due have no day. */
  readonly without?: ReadonlyMap<number, string>;
}

/**
 * What a new plan changed and why, point by point. What moved by itself was moved to join a stop or
 * to even out the days.
 * @param before - the plan as it was
 * @param after - the plan as it is
 * @param options - `today`: points planned before it that are gone were simply passed; `dayText`: says a date in
 *   the reader's words; `without`: why points that are due have no day
 * @returns what changed, and why
 * @example planChanges([], [], "2026-03-03", String).length // 0
 */
export function planChanges(
  before: readonly PlannedPoint[],
  after: readonly PlannedPoint[],
  { today, dayText, without = new Map() }: Told,
): readonly PlanChange[] {
  const was = new Map(before.map((p) => [p.id, p]));
  const list: PlanChange[] = [];
  for (const now of after) {
    const old = was.get(now.id);
    was.delete(now.id);
    const name = `${now.nickname}, ${now.place}`;
    if (!old) {
      if (now.date)
        list.push({
          id: now.id,
          what: `${name}: new on ${dayText(now.date)}`,
          why: now.held || `due ${dayText(now.dueOn)}`,
        });
      continue;
    }
    if (old.date === now.date) continue;
    const what = `${name}: ${old.date ? dayText(old.date) : "not planned"} to ${now.date ? dayText(now.date) : "later"}`;
    list.push({ id: now.id, what, why: reason(old, now, { today, dayText, without }) });
  }
  for (const gone of was.values())
    if (gone.date)
      list.push({
        id: gone.id,
        what: `${gone.nickname}, ${gone.place}: off the plan`,
        why: "the point is kept no more",
      });
  return list;
}

function reason(old: PlannedPoint, now: PlannedPoint, { today, dayText, without }: Required<Told>): string {
  if (old.held !== now.held) return now.held || "no longer held by hand";
  if (old.visits < now.visits) return "visited";
  if (old.visits > now.visits) return "a visit was taken back";
  if (old.intervalDays !== now.intervalDays) return `interval ${old.intervalDays} to ${now.intervalDays} days`;
  if (old.date !== null && old.date < today) return "not done on its day";
  const left = without.get(now.id);
  if (left !== undefined) return left;
  if (old.dueOn !== now.dueOn) return `now due ${dayText(now.dueOn)}`;
  return old.date === null ? "there is room for it again" : "to make one stop of it, or to even out the days";
}
