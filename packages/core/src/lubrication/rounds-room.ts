import type { PlanDay, VisitNeed } from "./rounds-state";

/** What already has a day counts for so much more: nobody is called off for a penny (ours). */
const STAYS = 1.2;

/**
 * Which visits wait beyond the plan because its days have not the minutes for all: those that risk least for each minute
 * they take. What must stand stays whatever it risks. A job takes the round out of its day and no more, since its own
 * hours are beside it.
 * Source: the greedy rule for the 0/1 knapsack, which falls short of the best choice by less than the worth of one visit
 * (Dantzig 1957, from memory).
 * @param visits - visits to points
 * @param options - `days`: the days, with their minutes; `worth`: what leaving each for a week risks, Infinity where it
 *   must stand; `stays`: whether it has a day already
 * @returns their places in the list, those that risk most first; none where the minutes suffice or nobody is there at all
 * @example
 * const visit = { id: "1", machine: 1, bay: "1", minutes: 60, weight: 1, dueDay: 0, intervalDays: 30 };
 * waitBeyond([visit, visit], { days: [{ minutes: 60 }], worth: [1, 2] }) // [0]
 */
export function waitBeyond(
  visits: readonly VisitNeed[],
  {
    days,
    worth,
    stays = () => false,
  }: {
    readonly days: readonly PlanDay[];
    readonly worth: readonly number[];
    readonly stays?: (visit: number) => boolean;
  },
): readonly number[] {
  const open = days.filter((d) => d.minutes > 0);
  const room = open.reduce((s, d) => s + d.minutes, 0);
  const day = room / Math.max(1, open.length);
  const takes = (i: number): number => (worth[i] === Infinity ? Math.min(visits[i].minutes, day) : visits[i].minutes);
  const all = visits.map((_, i) => i);
  if (room === 0 || all.reduce((s, i) => s + takes(i), 0) <= room) return [];
  const density = all.map((i) => (worth[i] * (stays(i) ? STAYS : 1)) / Math.max(0.5, visits[i].minutes));
  const order = all.sort((a, b) => density[b] - density[a] || visits[a].dueDay - visits[b].dueDay);
  let left = room;
  return order.filter((i) => {
    const fits = worth[i] === Infinity || takes(i) <= left;
    if (fits) left -= takes(i);
    return !fits;
  });
}

/**
 * Days that stay, without what a day has no minutes for: that is put anew, and finds its old day again where none is
 * better. Those that risk most for their minutes stay first.
 * @param visits - visits to points
 * @param options - `days`: the days, with their minutes; `worth`: what leaving each for a week risks; `keep`: the day each
 *   had, −1 for none
 * @returns the day each keeps, −1 where it is put anew
 * @example
 * const visit = { id: "1", machine: 1, bay: "1", minutes: 40, weight: 1, dueDay: 0, intervalDays: 30 };
 * keptWithin([visit, visit], { days: [{ minutes: 60 }], worth: [1, 2], keep: [0, 0] }) // [-1, 0]
 */
export function keptWithin(
  visits: readonly VisitNeed[],
  {
    days,
    worth,
    keep,
  }: { readonly days: readonly PlanDay[]; readonly worth: readonly number[]; readonly keep: readonly number[] },
): readonly number[] {
  const left = days.map((d) => d.minutes);
  const kept = visits.map(() => -1);
  const order = visits
    .map((_, i) => i)
    .sort((a, b) => worth[b] / visits[b].minutes - worth[a] / visits[a].minutes || a - b);
  for (const i of order) {
    const day = keep[i];
    if (day < 0 || (worth[i] !== Infinity && visits[i].minutes > left[day])) continue;
    kept[i] = day;
    left[day] -= visits[i].minutes;
  }
  return kept;
}
