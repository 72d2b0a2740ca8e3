import {
  giveText,
  isBrought,
  USUAL_PRIMING,
  visitText,
  type FoundState,
  type LubricationPoint,
  type VisitText,
} from "@iron/core";
import type { LubricationPointRecord, Rounds } from "@iron/contract";
import { minutesText, money } from "../shared/amount.text";
import { dayText } from "../shared/times.text";

/** The five large keys, in the order of the hand: what was found before anything was given. */
export const FOUND_KEYS: readonly { readonly state: FoundState; readonly label: string }[] = [
  { state: "dry", label: "Dry" },
  { state: "right", label: "Right" },
  { state: "flooded", label: "Flooded" },
  { state: "dirty", label: "Dirty" },
  { state: "blocked", label: "Blocked" },
];

/** The keys that fit a point: nobody finds a belt flooded, and an empty bowl of water is not a dry bearing. */
export function foundKeys({
  way,
  dose,
}: Pick<LubricationPointRecord, "way" | "dose">): readonly { readonly state: FoundState; readonly label: string }[] {
  if (way === "look") return [{ state: "right", label: "Looked at" }];
  if (way === "clean")
    return [
      { state: "right", label: "Was clean" },
      { state: "dirty", label: "Was dirty, is clean" },
    ];
  if (way === "bath" && dose === 0)
    return [
      { state: "right", label: "At its mark" },
      { state: "dry", label: "Below its mark" },
      { state: "flooded", label: "Over its mark" },
      { state: "dirty", label: "Dirty" },
    ];
  return FOUND_KEYS;
}

/** What is brought along for these points, each once; "nothing" where none is given anything. */
export function bringText(points: readonly LubricationPointRecord[]): string {
  return [...new Set(points.filter(isBrought).map((p) => p.lubricant))].join("; ") || "nothing but a clean cloth";
}

/** What is done at a point, with its dose in words. */
export const visitOf = (point: LubricationPointRecord): VisitText => visitText(point, giveText(point));

/** When a point is due and why then: "due Tue 3 Mar, every 126 days by hours (was 180: found dry twice)". */
export function dueText(point: LubricationPointRecord): string {
  const late = Math.floor(point.lateDays);
  const due = late > 0 ? `${late} ${late === 1 ? "day" : "days"} late` : `due ${dayText(`${point.dueOn}T12:00:00`)}`;
  const first = point.neverSeen && late <= 0 ? ", as nobody is known to have seen to it" : "";
  const spread = late <= 0 && point.dueSpreadDays >= 1 ? ` ± ${Math.round(point.dueSpreadDays)} days` : "";
  const was =
    point.learnt && point.unlearntDays !== point.intervalDays ? ` (was ${point.unlearntDays}: ${point.learnt})` : "";
  const held = point.held ? ", held by the maker’s bounds" : "";
  return `${due}${first}${spread}; every ${point.intervalDays === 1 ? "day" : `${point.intervalDays} days`} by ${point.by}${was}${held}`;
}

/** The same as a sentence begins. */
export const dueSentence = (point: LubricationPointRecord): string =>
  dueText(point).replace(/^./, (c) => c.toUpperCase());

export interface DayBar {
  readonly date: string;
  readonly day: string;
  /** 0 to 1 of what is available. */
  readonly part: number;
  readonly late: number;
  readonly label: string;
}

/** How long a job takes and how many people, as “about 3 h 20 min, two people”; empty where it is none. */
export function jobSizeText(job: LubricationPointRecord["job"]): string {
  return job ? `about ${minutesText(job.minutes)}, ${job.people === 1 ? "one person" : "two people"}` : "";
}

/** The coming days as bars: minutes of each against what people have. */
export function dayBars(rounds: Rounds): readonly DayBar[] {
  return rounds.days.map((day) => {
    const points = day.stops.flatMap((s) => s.points);
    const late = points.filter((p) => p.lateDays >= 1).length;
    const dayLine = dayText(`${day.date}T12:00:00`);
    const round = day.available === 0 ? "nobody there" : `${Math.round(day.minutes)} of ${day.available} min`;
    const free = day.jobMinutes ? `${round} and a job of ${minutesText(day.jobMinutes)}` : round;
    const filled = day.minutes + day.jobMinutes;
    return {
      date: day.date,
      day: dayLine,
      part: day.available > 0 ? Math.min(1, filled / day.available) : 0,
      late,
      label: `${dayLine}: ${free}, ${points.length} ${points.length === 1 ? "point" : "points"}${late ? `, ${late} late` : ""}`,
    };
  });
}

/** Points of a walk that a plan made since no longer has on that day, or has visited once more. */
export function goneFrom(
  walk: readonly { readonly point: LubricationPointRecord }[],
  fresh: Rounds,
  date: string,
): readonly LubricationPointRecord[] {
  const still = new Map(walkOf(fresh, date).map((w) => [w.point.id, w.point.visits]));
  return walk.map((w) => w.point).filter((p) => still.get(p.id) !== p.visits);
}

/** The points of a day in walking order; where there are not minutes for all, first those that come first. */
export function walkOf(
  rounds: Rounds,
  date: string,
): readonly { readonly stop: Rounds["days"][number]["stops"][number]; readonly point: LubricationPointRecord }[] {
  const day = rounds.days.find((d) => d.date === date);
  const all = (day?.stops ?? []).flatMap((stop) => stop.points.map((point) => ({ stop, point })));
  const first = new Set(day?.first);
  if (first.size === 0) return all;
  return [...all.filter((w) => first.has(w.point.id)), ...all.filter((w) => !first.has(w.point.id))];
}

/** Why some come first: what the minutes are enough for, and what waiting risks. Empty where there is time for all. */
export function firstText({ days, currency }: Pick<Rounds, "days" | "currency">, date: string): string {
  const day = days.find((d) => d.date === date);
  if (!day || day.first.length === 0) return "";
  const first = new Set(day.first);
  const all = day.stops.flatMap((s) => s.points).filter((p) => p.job === null);
  const risk = (points: typeof all): string =>
    money(
      points.reduce((s, p) => s + p.risk.week, 0),
      currency,
    );
  const these = all.filter((p) => first.has(p.id));
  return `${day.available} minutes are enough for ${these.length} of ${all.length} points. These come first: left for a week they risk ${risk(these)} of the ${risk(all)} of all.`;
}

/** What is due and waits beyond the two weeks for want of minutes, and what that risks; empty where there is time for all. */
export function shortText({ days, unplanned, currency }: Pick<Rounds, "days" | "unplanned" | "currency">): string {
  const waits = unplanned.filter((u) => u.noMinutes);
  if (waits.length === 0) return "";
  const sum = (all: readonly number[]): number => all.reduce((a, b) => a + b, 0);
  const there = sum(days.map((d) => d.available));
  const missing = sum(waits.map((u) => u.minutes));
  const points =
    waits.length === 1
      ? "the one point that risks least for its minutes waits"
      : `the ${waits.length} points that risk least for their minutes wait`;
  return `These two weeks have ${minutesText(there)}; what is due wants ${minutesText(missing)} more. So ${points}: for each week about ${money(sum(waits.map((u) => u.week)), currency)} at risk.`;
}

/** What it risks to leave a point for another week; empty where it is next to nothing. */
export function riskText({ risk, dose }: LubricationPointRecord, currency: string): string {
  if (risk.week < 1) return "";
  const dry = dose > 0 ? `: dry by now in ${Math.round(100 * risk.dry)} of 100 cases` : "";
  return `Left for a week it risks about ${money(risk.week, currency)}${dry}.`;
}

/** One letter a finding, for typing paper in fast. */
export const FOUND_LETTERS: ReadonlyMap<string, FoundState> = new Map([
  ["d", "dry"],
  ["r", "right"],
  ["f", "flooded"],
  ["i", "dirty"],
  ["b", "blocked"],
]);

/** A point to begin from. */
export function emptyPoint(): LubricationPoint {
  return {
    place: "",
    letter: null,
    link: null,
    way: "nipple",
    lubricant: "",
    dose: 3,
    doseUnit: "strokes",
    minutes: 5,
    access: "",
    machineOff: true,
    partsNut: false,
    qualified: false,
    outlets: [],
    priming: USUAL_PRIMING,
    checks: [],
    factors: [],
    weight: 2,
    provenance: "the shop’s own",
    rule: { days: 182, hours: null, km: null, leastDays: 30, mostDays: 365 },
  };
}

/** What of a kept point can be changed. */
export function pointEdit(point: LubricationPointRecord): LubricationPoint {
  const {
    place,
    letter,
    link,
    way,
    lubricant,
    dose,
    doseUnit,
    minutes,
    access,
    machineOff,
    partsNut,
    qualified,
    outlets,
    priming,
    checks,
    rule,
    factors,
    weight,
    provenance,
  } = point;
  return {
    place,
    letter,
    link,
    way,
    lubricant,
    dose,
    doseUnit,
    minutes,
    access,
    machineOff,
    partsNut,
    qualified,
    outlets,
    priming,
    checks,
    rule,
    factors,
    weight,
    provenance,
  };
}

/** How many points hang on each link, and how many of them are late. */
export function chainMarks(points: readonly LubricationPointRecord[]): Readonly<Partial<Record<string, string>>> {
  const marks: Partial<Record<string, string>> = {};
  for (const link of new Set(points.map((p) => p.link))) {
    if (link === null) continue;
    const own = points.filter((p) => p.link === link);
    const late = own.filter((p) => p.lateDays >= 1).length;
    marks[link] = `${own.length} ${own.length === 1 ? "point" : "points"}${late ? `, ${late} late` : ""}`;
  }
  return marks;
}
