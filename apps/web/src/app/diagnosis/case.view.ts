import {
  CAUSES,
  causeFits,
  findingsOf,
  finding,
  FINDINGS,
  formatDeviation,
  formatLimit,
  formatNumber,
  formatWithU,
  isSplitTest,
  locateTest,
  symptomsOf,
  lossState,
  lossText,
  toMm,
  type AxisConfig,
  type AxisState,
  type FindingGroup,
  type FindingId,
  type Hurt,
  type UnitSystem,
} from "@iron/core";
import { parseDecimal, type Diagnosis, type LedgerView, type Place } from "@iron/contract";

import { momentText } from "../shared/times.text";

export interface SymptomView {
  readonly id: FindingId;
  readonly text: string;
}

export interface SymptomGroup {
  readonly id: string;
  readonly title: string;
  readonly symptoms: readonly SymptomView[];
}

const FIRST: readonly FindingId[] = [
  "no-motion",
  "stops-in-program",
  "click-descent",
  "tight-one-way",
  "spikes",
  "grind-still",
];

const GROUP_TITLES: Partial<Record<FindingGroup, string>> = {
  noise: "What do you hear?",
  binding: "How does it run by load or by hand?",
  position: "What does the position do?",
  surface: "What does the part show?",
  home: "And the home position?",
  heat: "Heat and load",
};

/** The questions of station Ask for an axis: what may be no fault of the machine comes first. */
export function symptomGroups(axis: AxisConfig): readonly SymptomGroup[] {
  const ids = symptomsOf(axis);
  const there = FINDINGS.filter((f) => ids.includes(f.id));
  const view = (id: FindingId): SymptomView => ({
    id,
    text: sentence(there.find((f) => f.id === id)?.text ?? ""),
  });
  const first = FIRST.filter((id) => there.some((f) => f.id === id)).map(view);
  const groups = Object.entries(GROUP_TITLES).map(([group, title]) => ({
    id: group,
    title,
    symptoms: there.filter((f) => f.group === group && !FIRST.includes(f.id)).map((f) => view(f.id)),
  }));
  return [
    { id: "first", title: "Not a mechanical fault?", symptoms: first },
    ...groups.filter((g) => g.symptoms.length > 0),
  ];
}

/** A choice of a few, as the toggles take them. */
export interface Toggle<T extends string> {
  readonly id: T;
  readonly label: string;
}

/** What hurts, in the words of whoever stands there. */
export const HURT_TEXT: readonly Toggle<Hurt>[] = [
  { id: "noise", label: "Noise" },
  { id: "tight", label: "Tight or heavy" },
  { id: "position", label: "Loses position" },
  { id: "part", label: "The part shows it" },
  { id: "stands", label: "Will not move" },
  { id: "home", label: "Home position" },
  { id: "heat", label: "Heat or load" },
  { id: "hand", label: "Something in my hand" },
];

/** What it may have begun after; where one is named, the others are not thereby denied. */
export const BEGAN_AFTER: readonly Toggle<"crash" | "moved" | "longStop" | "freshParts" | "parameterChange">[] = [
  { id: "crash", label: "a crash" },
  { id: "freshParts", label: "new parts" },
  { id: "moved", label: "a move of the machine" },
  { id: "longStop", label: "a long stop" },
  { id: "parameterChange", label: "a parameter change" },
];
export const WORK_HERE: readonly Toggle<"dusty" | "samePlace">[] = [
  { id: "dusty", label: "dusty or abrasive" },
  { id: "samePlace", label: "always in the same place" },
];
export const ONLY_WHEN: readonly Toggle<"cold" | "warm">[] = [
  { id: "cold", label: "cold" },
  { id: "warm", label: "warm" },
];
export const WHERE: readonly Toggle<Place["kind"]>[] = [
  { id: "everywhere", label: "everywhere" },
  { id: "low-end", label: "at the low end" },
  { id: "middle", label: "in the middle" },
  { id: "high-end", label: "at the high end" },
  { id: "spot", label: "at one spot" },
];

/** Of the leading causes so many are in a reader’s mind. */
const IN_MIND = 3;

/** What a test is for: the leading causes it tells apart, or else what it looks at. */
export function testFor(
  test: Pick<Diagnosis["tests"][number], "splits" | "isolates">,
  leading: Diagnosis["leading"],
): string {
  const inMind = leading.slice(0, IN_MIND).map((l) => l.cause.name);
  const tells = test.splits.length > 1 && test.splits.some((name) => inMind.includes(name));
  return tells ? `Tells ${test.splits.join(" from ")}.` : `Looks at ${test.isolates}.`;
}

/** Where along the travel that is, mm; nowhere in particular is nowhere. */
export function placeMm(place: Place | null, travelMm: number): number | null {
  if (!place || place.kind === "everywhere") return null;
  if (place.kind === "spot") return place.atMm;
  return Math.round({ "low-end": 0.1, middle: 0.5, "high-end": 0.9 }[place.kind] * travelMm);
}

/** Findings as toggles, in words. */
export function asToggles(ids: readonly FindingId[]): Toggle<FindingId>[] {
  return ids.map((id) => ({ id, label: sentence(finding(id).text) }));
}

export interface LikelyView {
  readonly id: string;
  readonly name: string;
  readonly percent: string;
  readonly width: number;
  readonly remedy: string;
  readonly method: string;
  /** What speaks for and against it, the strongest first. */
  readonly speaks: readonly Speaks[];
}

/** A piece of evidence and how strongly it speaks. */
interface Speaks {
  readonly message: string;
  readonly ref: string | null;
  readonly weight: number;
  readonly how: string;
}

/** How strongly a piece of evidence speaks, from its log likelihood ratio. */
export function strengthText(weight: number): string {
  const size = Math.abs(weight);
  if (size >= Math.log(10)) return "strongly";
  return size >= Math.log(3) ? "clearly" : "a little";
}

/** A result and what it would mean, in a sentence. */
export function meaningText({ when, names, probability }: Diagnosis["meanings"][number]): string {
  const then = names.length ? names.join(" with ") : "nothing wrong";
  return `${sentence(when)}: then ${then}, ${percentText(probability).replaceAll(" ", "\u00a0")}.`;
}

export function percentText(p: number): string {
  if (p > 0.995) return "> 99 %";
  if (p < 0.005) return "< 1 %";
  return `${Math.round(100 * p)} %`;
}

/** The leading causes with no fault among them, most likely first. */
export function likelyViews(a: Diagnosis): readonly LikelyView[] {
  const causes = a.leading.map((l): LikelyView & { p: number } => ({
    id: l.cause.id,
    name: l.cause.name,
    p: l.probability,
    percent: percentText(l.probability),
    width: Math.round(100 * l.probability),
    remedy: `${l.cause.remedy}${l.cause.minutes ? `, ${l.cause.minutes} min` : ""}`,
    method: l.cause.method,
    speaks: [...l.speaksFor, ...l.speaksAgainst]
      .sort((x, y) => Math.abs(y.weight) - Math.abs(x.weight))
      .map((item) => ({ ...item, how: `${strengthText(item.weight)} ${item.weight > 0 ? "for" : "against"}` })),
  }));
  const none: LikelyView & { p: number } = {
    id: "none",
    name: "Nothing to mend",
    p: a.noFault,
    percent: percentText(a.noFault),
    width: Math.round(100 * a.noFault),
    remedy: "hand the machine back",
    method: "",
    speaks: [],
  };
  return [...causes, none].sort((x, y) => y.p - x.p);
}

export interface LedgerRow {
  readonly name: string;
  readonly from: string;
  readonly share: string;
  readonly plusMinus: string;
  readonly width: number;
  readonly known: boolean;
}

/** The ledger as it adds up; what nobody looked at has its bounds instead of a share. */
export function ledgerRows(ledger: LedgerView, system: UnitSystem): readonly LedgerRow[] {
  const whole = Math.max(
    ledger.total ? 1e-6 : 0.025,
    Math.abs(ledger.total?.reversalValueMm ?? 0),
    ...ledger.lines.map((l) => l.shareMm ?? 0),
  );
  const small = (mm: number, u?: number): string => formatDeviation(mm, { system, bare: true, expandedMm: u });
  return ledger.lines.map((l) => {
    const u = l.expandedMm ?? undefined;
    const from = l.computed
      ? "computed from stiffness and usual friction"
      : l.from.length
        ? l.from.map((k) => locateTest(k)?.name.toLowerCase() ?? k).join(", ")
        : l.boundsMm[1] === null
          ? "not looked at"
          : "not looked at: between";
    const high = l.boundsMm[1];
    return {
      name: l.name,
      from,
      known: l.shareMm !== null,
      share: l.shareMm !== null ? small(l.shareMm, u) : high === null ? "?" : `0 … ${small(high)}`,
      plusMinus: u === undefined ? "" : `± ${small(u, u)}`,
      width: Math.round((100 * (l.shareMm ?? (high === null ? 0 : Math.min(high, whole)))) / whole),
    };
  });
}

/** How the axis stood when it was last tested as a whole: the same state and word as on the floor. */
export function lastLoss(
  diagnosis: Pick<Diagnosis, "measured">,
  config: Pick<AxisConfig, "limits">,
  system: UnitSystem,
): {
  readonly state: AxisState;
  readonly word: string;
  readonly message: string;
} | null {
  const whole = diagnosis.measured
    .filter((m) => !isSplitTest(m.kind))
    .sort((a, b) => a.at.localeCompare(b.at))
    .at(-1);
  if (!whole) return null;
  return {
    state: lossState(whole, config.limits),
    word: lossText(whole, config.limits),
    message: `${formatWithU(whole.reversalValueMm, whole.expandedMm, { system })} lost ${whole.circleId === null ? "when last tested" : "by the last circle"}, ${momentText(whole.at)}; can be left up to ${formatLimit(config.limits.leaveMm, system)}, repaired above ${formatLimit(config.limits.repairMm, system)}.`,
  };
}

/** The findings a test asks about on this axis, as sentences. */
export function testQuestions(axis: AxisConfig, testId: string): readonly SymptomView[] {
  const test = locateTest(testId);
  if (!test) return [];
  return findingsOf(axis, test).map((id) => ({ id, text: sentence(FINDINGS.find((f) => f.id === id)?.text ?? id) }));
}

export interface CrestEntry {
  readonly planes: readonly (readonly {
    positionMm: number;
    readingMm: number;
  }[])[];
  readonly error: string;
}

/** Crest readings as typed: a line a place with the reading at 0° and at 90°, in the user’s units. */
export function parseCrest(text: string, system: UnitSystem): CrestEntry {
  const unit = system === "metric" ? "mm" : "in";
  const planes: { positionMm: number; readingMm: number }[][] = [[], []];
  const lines = text.split("\n").map((l) => l.trim());
  for (const [i, line] of lines.entries()) {
    if (!line) continue;
    const cells = line.split(/[;\t]| +/).filter(Boolean);
    const values = cells.map((c) => parseDecimal(c));
    if (cells.length < 2 || cells.length > 3 || values.some((v) => v === undefined))
      return {
        planes: [],
        error: `Line ${i + 1}, “${line}”, cannot be read: write place; reading at 0°; reading at 90°.`,
      };
    const [place, ...readings] = values.map((v) => toMm(v ?? 0, unit));
    readings.forEach((readingMm, k) => planes[k].push({ positionMm: place, readingMm }));
  }
  const used = planes.filter((p) => p.length > 0);
  const short = used.length === 0 || used.some((p) => p.length < 5);
  return short
    ? { planes: [], error: `${used[0]?.length ?? 0} places are too few: a line wants at least 5 over the travel.` }
    : { planes: used, error: "" };
}

/** Causes this axis can have, for saying at the end what it really was. */
export function causesOf(axis: AxisConfig): readonly { id: string; name: string }[] {
  return CAUSES.filter((c) => causeFits(axis, c)).map(({ id, name }) => ({ id, name }));
}

export function loadText(value: number, unit: string): string {
  return `${formatNumber(value, 1, true)} ${unit}`;
}

export function sentence(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** One sister axis, what renewing it now or later is expected to cost, and what that assumes. */
export function sisterText(sister: Diagnosis["sisters"][number], sum: (value: number) => string): string {
  const advice = sister.worth ? "cheaper in the same stop" : "leave it";
  const assumes = sister.assumes.length ? ` (${sister.assumes.join(", ")})` : "";
  return `${sister.letter}: ${advice}. ${sum(sister.nowCost)} now against ${sum(sister.laterCost)} later, ${percentText(sister.goes)} to go${assumes}.`;
}
