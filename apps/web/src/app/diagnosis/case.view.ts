import {
  CAUSES,
  causeFits,
  findingsOf,
  FINDINGS,
  formatDeviation,
  formatLimit,
  formatNumber,
  formatWithU,
  isSplitTest,
  locateTest,
  lossState,
  lossText,
  toMm,
  type AxisConfig,
  type AxisState,
  type FindingGroup,
  type FindingId,
  type UnitSystem,
} from "@iron/core";
import { parseDecimal, type Diagnosis, type LedgerView } from "@iron/contract";

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

const GRAVITY_ONLY: readonly FindingId[] = ["click-descent", "tight-one-way"];

/** The questions of station Ask for an axis: what may be no fault of the machine comes first. */
export function symptomGroups(axis: AxisConfig): readonly SymptomGroup[] {
  const gravity = axis.orientation !== "horizontal";
  const there = FINDINGS.filter((f) => {
    if (!f.asked) return false;
    if (!gravity && GRAVITY_ONLY.includes(f.id)) return false;
    if (f.id === "carriage-click") return axis.guideway === "rail";
    if (f.id === "recut") return axis.member === "head" || axis.member === "quill";
    return true;
  });
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

export interface ContextQuestion {
  readonly key: "crash" | "moved" | "longStop" | "freshParts" | "dusty" | "samePlace" | "parameterChange";
  readonly label: string;
}

export const CONTEXT_QUESTIONS: readonly ContextQuestion[] = [
  { key: "crash", label: "After a crash" },
  { key: "moved", label: "After the machine was moved" },
  { key: "longStop", label: "After a long stop" },
  { key: "freshParts", label: "Parts on it are fresh" },
  { key: "parameterChange", label: "Sudden, since a parameter change" },
  { key: "dusty", label: "Dusty or abrasive work" },
  { key: "samePlace", label: "Always worked in the same place" },
];

export interface LikelyView {
  readonly id: string;
  readonly name: string;
  readonly percent: string;
  readonly width: number;
  readonly remedy: string;
  readonly method: string;
  readonly speaksFor: Diagnosis["leading"][number]["speaksFor"];
  readonly speaksAgainst: Diagnosis["leading"][number]["speaksAgainst"];
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
    speaksFor: l.speaksFor,
    speaksAgainst: l.speaksAgainst,
  }));
  const none: LikelyView & { p: number } = {
    id: "none",
    name: "Nothing wrong",
    p: a.noFault,
    percent: percentText(a.noFault),
    width: Math.round(100 * a.noFault),
    remedy: "hand the machine back",
    method: "",
    speaksFor: [],
    speaksAgainst: [],
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
    message: `${formatWithU(whole.reversalValueMm, whole.expandedMm, { system })} lost when last tested, ${momentText(whole.at)}; can be left up to ${formatLimit(config.limits.leaveMm, system)}, repaired above ${formatLimit(config.limits.repairMm, system)}.`,
  };
}

export function money(value: number, currency: string): string {
  return new Intl.NumberFormat("en-GB", {
    style: "currency",
    currency,
    maximumFractionDigits: 0,
  }).format(value);
}

export function minutesText(minutes: number): string {
  if (minutes < 60) return `${Math.round(minutes)} min`;
  const hours = Math.floor(minutes / 60);
  const rest = Math.round(minutes - 60 * hours);
  return rest ? `${hours} h ${rest} min` : `${hours} h`;
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

function sentence(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** One sister axis, what renewing it now or later is expected to cost, and what that assumes. */
export function sisterText(sister: Diagnosis["sisters"][number], sum: (value: number) => string): string {
  const advice = sister.worth ? "cheaper in the same stop" : "leave it";
  const assumes = sister.assumes.length ? ` (${sister.assumes.join(", ")})` : "";
  return `${sister.letter}: ${advice}. ${sum(sister.nowCost)} now against ${sum(sister.laterCost)} later, ${percentText(sister.goes)} to go${assumes}.`;
}
