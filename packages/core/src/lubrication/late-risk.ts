import type { FoundState, LubricationPoint } from "./types";

/** What it costs when a point is ruined for want of lubricant, in the shop’s money. */
export interface Harm {
  /** An hour of the machine standing. */
  readonly hour: number;
  /** Parts that are renewed then. */
  readonly parts: number;
}

/** Hours a machine stands when a point is ruined, by how bad it is when it is forgotten (common practice, no source). */
const STANDS_HOURS: Readonly<Record<LubricationPoint["weight"], number>> = { 1: 1, 2: 4, 3: 16 };
/** Days that a part runs dry before it is ruined, in the mean (common practice, no source). */
const RUINED_AFTER_DAYS = 60;
/**
 * Of points seen to when they are due one in ten is found dry before anything of them is known, and that counts as much
 * as four visits (ours): the mean of a beta distribution with the visits added.
 */
const DRY_AT_FIRST = 0.1;
const WORTH_VISITS = 4;
/** How fast it goes dry after that: a film is there for long, then it is not (ours). */
const SHAPE = 2.5;
/** Where nobody knows when it was last seen to, it is taken for so many intervals ago (ours). */
const UNKNOWN_INTERVALS = 2;

/**
 * Chance that a point has run dry, or that what is looked at there is as bad as that.
 * Source: the posterior mean of a beta distribution, as in any handbook of statistics; its start and the shape are ours.
 * @param point - `ageDays`: since it was last seen to, or since it is kept where nobody knows; `intervalDays`: its
 *   interval; `neverSeen`: nobody knows; `found`: states found, the oldest first
 * @returns chance, 0 to 1
 * @example dryChance({ ageDays: 30, intervalDays: 30, neverSeen: false, found: [] }) // 0.1
 */
export function dryChance({
  ageDays,
  intervalDays,
  neverSeen,
  found,
}: {
  readonly ageDays: number;
  readonly intervalDays: number;
  readonly neverSeen: boolean;
  readonly found: readonly FoundState[];
}): number {
  const bad = found.filter((f) => f === "dry" || f === "blocked").length;
  const atDue = (DRY_AT_FIRST * WORTH_VISITS + bad) / (WORTH_VISITS + found.length);
  const intervals = Math.max(0, ageDays) / intervalDays + (neverSeen ? UNKNOWN_INTERVALS : 0);
  return -Math.expm1(Math.log1p(-atDue) * intervals ** SHAPE);
}

/**
 * What it risks to leave a point for some days more, in the shop’s money: its harm, times the chance that it is dry,
 * times the part of a dry part’s time that these days are.
 * @param weight - how bad it is when it is forgotten
 * @param options - `harm`: what it costs when it is ruined; `dry`: chance that it is dry; `days`: how long it waits
 * @returns expected cost
 * @example waitingCost(1, { harm: { hour: 60, parts: 0 }, dry: 0.5, days: 60 }) // 30
 */
export function waitingCost(
  weight: LubricationPoint["weight"],
  { harm, dry, days }: { readonly harm: Harm; readonly dry: number; readonly days: number },
): number {
  return (STANDS_HOURS[weight] * harm.hour + harm.parts) * dry * Math.min(1, days / RUINED_AFTER_DAYS);
}

/** Steps in which minutes are counted when it is chosen among points. */
const STEP_MINUTES = 0.5;

/**
 * Which of these are done when there are not minutes for all of them: those that together are worth most. Exact, by
 * dynamic programming over half minutes (0/1 knapsack; Bellman 1957, from memory).
 * @param all - minutes and worth of each
 * @param minutes - that there are
 * @returns places in the list, in its order
 * @example worthMost([{ minutes: 10, worth: 5 }, { minutes: 5, worth: 4 }, { minutes: 5, worth: 4 }], 10) // [1, 2]
 */
export function worthMost(
  all: readonly { readonly minutes: number; readonly worth: number }[],
  minutes: number,
): readonly number[] {
  const room = Math.max(0, Math.floor(minutes / STEP_MINUTES));
  const best = new Float64Array(room + 1);
  const takes = all.map(({ minutes: own, worth }) => {
    const size = Math.ceil(own / STEP_MINUTES);
    const taken = new Uint8Array(room + 1);
    for (let at = room; at >= size; at -= 1) {
      const taking = best[at - size] + worth;
      if (taking <= best[at]) continue;
      best[at] = taking;
      taken[at] = 1;
    }
    return { size, taken };
  });
  const chosen: number[] = [];
  let at = room;
  for (let i = all.length - 1; i >= 0; i -= 1) {
    if (!takes[i].taken[at]) continue;
    chosen.push(i);
    at -= takes[i].size;
  }
  return chosen.reverse();
}
