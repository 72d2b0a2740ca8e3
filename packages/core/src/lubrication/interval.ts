import { requireBound } from "../quantity";
import type { FactorId, FoundState, IntervalRule, IntervalMethod, Usage } from "./types";

/** What stretches or shortens an interval, by how much, and who says so. */
export const FACTORS: Readonly<
  Record<FactorId, { readonly text: string; readonly times: number; readonly source: string }>
> = {
  covers: {
    text: "under covers or curtains",
    times: 3,
    source: "covers stretch monthly to quarterly: common practice, no source",
  },
  dirt: { text: "dust, castings, wood or graphite", times: 0.5, source: "common practice, no source" },
  coolant: { text: "coolant reaches it", times: 0.7, source: "common practice, no source" },
  duty: { text: "short strokes at the same place", times: 0.6, source: "common practice, no source" },
  load: { text: "heavy load or crash history", times: 0.8, source: "common practice, no source" },
  heat: {
    text: "runs hot",
    times: 0.7,
    source: "halving per 15 K above 70 °C in bearing handbooks, from memory; 0.7 for warm",
  },
};

export interface IntervalDays {
  readonly days: number;
  /** Which of calendar, hours or distance comes first. */
  readonly by: "calendar" | "hours" | "distance";
  /** Held by the maker’s bounds. */
  readonly held: boolean;
}

/**
 * Interval of a point in days: calendar, hours and distance, whichever comes first, scaled by its
 * factors and by what was learnt, inside the maker’s bounds.
 * @param rule - what the maker says, days, hours and km
 * @param usage - hours a day and km an hour
 * @param options - `factors`: what scales it; `learnt`: factor that the visits taught; `method`: what counts
 * @returns days, and by what
 * @throws BoundError when no part of the rule counts
 * @example intervalDays({ days: 90, hours: null, km: null, leastDays: 7, mostDays: 365 }, { hoursPerDay: 8,
 *   kmPerHour: 0.1 } ).days // 90
 */
export function intervalDays(
  rule: IntervalRule,
  usage: Usage,
  {
    factors = [],
    learnt = 1,
    method = "all",
  }: { readonly factors?: readonly FactorId[]; readonly learnt?: number; readonly method?: IntervalMethod } = {},
): IntervalDays {
  requireBound({ "learnt factor": learnt }, learnt > 0, "above 0");
  const counts = (by: IntervalDays["by"]): boolean => method === "all" || method === by;
  const parts: { days: number; by: IntervalDays["by"] }[] = [];
  if (rule.days !== null && counts("calendar")) parts.push({ days: rule.days, by: "calendar" });
  if (rule.hours !== null && counts("hours") && usage.hoursPerDay > 0)
    parts.push({ days: rule.hours / usage.hoursPerDay, by: "hours" });
  if (rule.km !== null && counts("distance") && usage.kmPerDay > 0)
    parts.push({ days: rule.km / usage.kmPerDay, by: "distance" });
  // A machine that stands still is due by the calendar’s bound all the same.
  if (parts.length === 0) parts.push({ days: rule.mostDays, by: "calendar" });
  const scale = factors.reduce((f, id) => f * FACTORS[id].times, learnt);
  const first = parts.reduce((a, b) => (b.days < a.days ? b : a));
  const days = first.days * scale;
  const held = Math.min(rule.mostDays, Math.max(rule.leastDays, days));
  return { days: held, by: first.by, held: Math.abs(held - days) > 1e-9 };
}

export interface Learnt {
  /** Times the rule’s own interval. */
  readonly factor: number;
  /** How often each was found. */
  readonly counts: Readonly<Partial<Record<FoundState, number>>>;
  /** Why, in words; empty while nothing was learnt. */
  readonly message: string;
}

/** One finding moves an interval a little, the same again more (the rule is ours). */
const STEP: Readonly<Record<FoundState, readonly [first: number, again: number]>> = {
  dry: [0.85, 0.7],
  right: [1, 1],
  flooded: [1.1, 1.25],
  dirty: [0.9, 0.8],
  // A blocked point is mended, not visited more often.
  blocked: [1, 1],
};
const LEAST = 0.25;
const MOST = 3;

/** What a visit found, and what the point took against its own dose; null where that tells nothing. */
export interface VisitFinding {
  readonly found: FoundState;
  readonly taken: number | null;
}

/** A point found right that took so much more, or so much less, than its dose wants it sooner or later. */
const MUCH = 1.5;
const LITTLE = 0.5;
const TOOK_MUCH = 0.9;
const TOOK_LITTLE = 1.1;

/**
 * What the visits to a point teach of its interval: dry shortens, flooded stretches, the same finding
 * twice running counts more, right leaves it unless the point took half again its dose (shorter) or
 * half of it or less (longer). Never by more than a quarter to three times: the factor is held there
 * visit by visit, so that one finding the other way moves it at once, however long it stood at the
 * bound.
 * @param visits - what was found, the oldest first
 * @returns the factor, and what it comes from
 * @example learnInterval([]).factor // 1
 */
export function learnInterval(visits: readonly (FoundState | VisitFinding)[]): Learnt {
  let factor = 1;
  const move = (times: number): void => {
    factor = Math.min(MOST, Math.max(LEAST, factor * times));
  };
  const counts: Partial<Record<FoundState, number>> = {};
  let before: FoundState | null = null;
  const seen = new Map<string, number>();
  const note = (what: string): void => void seen.set(what, (seen.get(what) ?? 0) + 1);
  for (const visit of visits) {
    const { found, taken } = typeof visit === "string" ? { found: visit, taken: null } : visit;
    const [first, again] = STEP[found];
    move(found === before ? again : first);
    counts[found] = (counts[found] ?? 0) + 1;
    before = found;
    if (first !== 1) note(`found ${found}`);
    if (found !== "right" || taken === null) continue;
    if (taken >= MUCH) {
      move(TOOK_MUCH);
      note("took much more than its dose");
    } else if (taken <= LITTLE) {
      move(TOOK_LITTLE);
      note("took half its dose or less");
    }
  }
  const times = (n: number): string => (n === 1 ? "once" : n === 2 ? "twice" : `${n} times`);
  const list = [...seen].map(([what, n]) => `${what} ${times(n)}`).join(", ");
  return { factor, counts, message: list };
}

/**
 * A point is given too much: found flooded now, twice at least, and more often than dry.
 * @param counts - how often each was found
 * @param last - what was found last
 * @returns whether it is
 * @example isOverGreased(learnInterval([]).counts, null) // false
 */
export function isOverGreased(counts: Learnt["counts"], last: FoundState | null): boolean {
  const { flooded = 0, dry = 0 } = counts;
  return last === "flooded" && flooded >= 2 && flooded > dry;
}
