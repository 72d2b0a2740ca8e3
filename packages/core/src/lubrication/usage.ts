import { BoundError, coverageFactor, rectangular } from "../quantity";

/** A look at an hour meter. */
export interface MeterReading {
  /** Day, ISO 8601 date or instant. */
  readonly at: string;
  readonly hours: number;
  /** The meter was replaced or set back before this reading: no hours are counted across it. */
  readonly reset: boolean;
}

export interface UsageForecast {
  /** Expected running hours on a calendar day. */
  readonly hoursPerDay: number;
  /** Standard uncertainty of that, h per day. */
  readonly spread: number;
  /** Expanded, about 95 %, h per day: on Student’s t by the stretches it is known from. */
  readonly expanded: number;
  readonly from: "meter" | "working week";
  /** What was odd in the readings, in words. */
  readonly notes: readonly string[];
}

const DAY_MS = 86_400_000;
/** A stretch this old weighs half as much as one that ends today, days (ours). */
const HALF_LIFE_DAYS = 90;
/** How well a working week written down by hand forecasts the hours, part of it (common practice, no source). */
const WEEK_SPREAD = 0.3;

/**
 * Hours a day to come, from meter readings. A reading lower than the one before starts the count
 * afresh; closed days (holidays) count as no day; more than 24 hours a day is left out and said.
 * Without two usable readings the working week stands in, with a wide spread.
 * @param readings - readings of the meter
 * @param options - `hoursPerWeek`: the working week, where there are too few; `today`: year, month and day;
 *   `closed`: days on which the machine did not run, ISO dates
 * @returns hours a day with U, and what was odd
 * @example forecastUsage([], 40, "2026-03-03").from // 'working week'
 */
export function forecastUsage(
  readings: readonly MeterReading[],
  {
    hoursPerWeek,
    today,
    closed = [],
  }: { readonly hoursPerWeek: number; readonly today: string; readonly closed?: readonly string[] },
): UsageForecast {
  const sorted = [...readings].sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  const notes: string[] = [];
  const stretches: { rate: number; weight: number }[] = [];
  const now = Date.parse(today);
  for (let i = 1; i < sorted.length; i += 1) {
    const [from, to] = [sorted[i - 1], sorted[i]];
    const day = to.at.slice(0, 10);
    if (to.reset) continue;
    if (to.hours < from.hours) {
      notes.push(`The reading of ${day} is lower than the one before: counted afresh from there.`);
      continue;
    }
    const between = closed.filter((c) => c > from.at.slice(0, 10) && c <= day).length;
    const days = (Date.parse(to.at) - Date.parse(from.at)) / DAY_MS - between;
    if (days <= 0) continue;
    const rate = (to.hours - from.hours) / days;
    if (rate > 24) {
      notes.push(`${rate.toFixed(0)} hours a day up to ${day} cannot be: left out.`);
      continue;
    }
    if (days > 120) notes.push(`No reading for ${Math.round(days)} days up to ${day}: only the mean is known.`);
    const age = Math.max(0, (now - Date.parse(to.at)) / DAY_MS);
    stretches.push({ rate, weight: days * 0.5 ** (age / HALF_LIFE_DAYS) });
  }
  const week = hoursPerWeek / 7;
  const weights = stretches.reduce((s, x) => s + x.weight, 0);
  if (weights === 0)
    return {
      hoursPerDay: week,
      spread: WEEK_SPREAD * week,
      expanded: 2 * WEEK_SPREAD * week,
      from: "working week",
      notes,
    };
  const mean = stretches.reduce((s, x) => s + x.weight * x.rate, 0) / weights;
  const squares = stretches.reduce((s, x) => s + x.weight * (x.rate - mean) ** 2, 0);
  const effective = weights ** 2 / stretches.reduce((s, x) => s + x.weight ** 2, 0);
  // One stretch alone tells no scatter: the working week's own is taken.
  const spread = effective > 1.2 ? Math.sqrt(squares / weights / (effective - 1)) : WEEK_SPREAD * mean;
  const k = effective > 1.2 ? coverageFactor(Math.max(1, effective - 1)) : 2;
  // A meter shows whole hours: the first and the last look are each known to a half.
  const step = (2 * Math.SQRT2 * rectangular(1)) / weights;
  return {
    hoursPerDay: mean,
    spread,
    expanded: Math.hypot(k * spread, step),
    from: "meter",
    notes,
  };
}

/**
 * Checks a reading against the one before it.
 * @param before - the reading before, or null
 * @param next - the new one
 * @throws BoundError when it is lower without a reset, or more than the time between allows
 * @example checkMeter(null, { date: "2026-03-03", hours: 10, reset: false }) // undefined
 */
export function checkMeter(before: MeterReading | null, next: MeterReading): void {
  if (next.hours < 0 || next.hours > 1_000_000) throw new BoundError("hours", next.hours, "from 0 to 1000000");
  if (!before || next.reset) return;
  if (next.hours < before.hours)
    throw new BoundError(
      "hours",
      next.hours,
      `at least ${before.hours}, as read before; a replaced or reset meter is said so`,
    );
  const most = ((Date.parse(next.at) - Date.parse(before.at)) / DAY_MS + 1) * 24;
  if (next.hours - before.hours > most)
    throw new BoundError(
      "hours",
      next.hours,
      `at most ${Math.floor(before.hours + most)}: no more hours have passed since`,
    );
}
