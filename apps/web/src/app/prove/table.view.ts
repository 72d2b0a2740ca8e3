import {
  BoundError,
  checkCorrectionRules,
  compensationBarText,
  correctionNoteText,
  formatDeviation,
  formatPosition,
  formatSize,
  formatWithU,
  fromMm,
  GROWTH_PER_K,
  pointAt,
  typedBlocks,
  typedValues,
  usualCorrectionRules,
  type AxisConfig,
  type Correction,
  type Direction,
  type Grows,
  type UnitSystem,
} from "@iron/core";
import {
  parseTypedTable,
  type CorrectionCreate,
  type CorrectionProfile,
  type Corrections,
  type CorrectionTrial,
} from "@iron/contract";
import type { Choice } from "../shared/fields";
import { dayText, momentText } from "../shared/times.text";

/** What the form of a table holds: lengths mm. */
export interface TableDraft {
  readonly run: string;
  readonly stepMm: number;
  readonly startMm: number;
  readonly points: number;
  readonly referenceMm: number;
  readonly incrementMm: number;
  readonly ways: "one" | "two";
  readonly sense: "added" | "taken-away";
  readonly form: "whole" | "step";
  readonly counted: Direction;
  readonly largestMm: number;
  readonly steepestMm: number;
  readonly carrierC: number;
  readonly referenceC: number;
  readonly carrierPerK: number;
  readonly referencePerK: number;
  readonly uK: number;
  readonly referenceUPerM: number;
  /** “none”, “typed”, or the id of a version. */
  readonly old: string;
  readonly oldTyped: string;
  readonly isLaser: boolean;
  readonly airC: number;
  readonly hPa: number;
  readonly humidity: number;
  readonly lastC: number;
  readonly reckoned: number | null;
  readonly deadPathMm: number;
  readonly note: string;
}

/** What carries the position of an axis, by how it is built: what its length follows. */
function carrierOf(config: AxisConfig): Grows {
  if (config.feedback === "scale") return "glass";
  return config.screw.fixings === "fixed-fixed" && config.transmission !== "rack" ? "cast-iron" : "steel";
}

/** A table as it is usually begun: from the newest profile, about as finely as it was read. */
export function usualTable(config: AxisConfig, all: Corrections, system: UnitSystem = "metric"): TableDraft {
  const profile = all.profiles.at(0);
  const rules = {
    ...usualCorrectionRules(config.travelMm, usualStep(config.travelMm, profile, system)),
    ...(system === "inch" ? INCH_UNITS : {}),
  };
  return {
    run: String(profile?.runId ?? ""),
    ...rules,
    ...ofProfile(profile),
    carrierPerK: GROWTH_PER_K[carrierOf(config)],
    referencePerK: GROWTH_PER_K.glass,
    referenceUPerM: 0.001,
    oldTyped: "",
    isLaser: false,
    hPa: 1013,
    humidity: 50,
    reckoned: null,
    deadPathMm: 0,
    note: "",
  };
}

/** A temperature that nobody noted is taken for 20 °C and for hardly known, K (common practice, no source). */
const [NOTED, UNNOTED] = [1, 4];

/** What a profile brings along: how warm it was, and which table stood in the control while it was read. */
export function ofProfile(
  profile: CorrectionProfile | undefined,
): Pick<TableDraft, "carrierC" | "referenceC" | "airC" | "lastC" | "uK" | "old"> {
  const celsius = profile?.temperatureC ?? 20;
  return {
    carrierC: celsius,
    referenceC: celsius,
    airC: celsius,
    lastC: celsius,
    uK: typeof profile?.temperatureC === "number" ? NOTED : UNNOTED,
    old: String(profile?.activeId ?? "none"),
  };
}

/** A control set to inches: a tenth of a thou, 20 thou at most, 4 thou from point to point (common practice, no source). */
const INCH_UNITS = { incrementMm: 0.00254, largestMm: 0.508, steepestMm: 0.1016 };
const STEPS = {
  metric: [25, 50, 100, 200, 250, 500],
  inch: [0.5, 1, 2, 4, 10, 20].map((s) => Number((25.4 * s).toFixed(1))),
};

/** 25 mm or half an inch as is usual, but no finer than what was read. */
function usualStep(travelMm: number, profile: CorrectionProfile | undefined, system: UnitSystem): number {
  const steps = STEPS[system];
  const gap = profile?.gapMm ?? steps[0];
  return steps.find((s) => s >= 0.8 * gap) ?? travelMm / 4;
}

/** Why the control’s rules do not fit the axis, by value and bound; empty where they do. */
function unfit(rules: CorrectionCreate["rules"], travelMm: number): string {
  try {
    checkCorrectionRules(rules, travelMm);
    return "";
  } catch (error) {
    if (!(error instanceof BoundError)) throw error;
    return `The ${error.message}.`;
  }
}

/** What is sent of what stands in the form, and what of it cannot be. */
export function tableCreate(
  draft: TableDraft,
  all: Corrections,
  travelMm: number,
): { readonly body: CorrectionCreate; readonly wrong: string } {
  const { startMm, stepMm, points, incrementMm, referenceMm, ways, sense, form, counted, largestMm, steepestMm } =
    draft;
  const rules = {
    startMm,
    stepMm,
    points,
    incrementMm,
    referenceMm,
    ways,
    sense,
    form,
    counted,
    largestMm,
    steepestMm,
  };
  const { carrierC, referenceC, carrierPerK, referencePerK, uK } = draft;
  const old = oldTable(draft, { rules, all });
  const air = (celsius: number) => ({ celsius, hPa: draft.hPa, humidity: draft.humidity });
  return {
    body: {
      runId: Number(draft.run),
      rules,
      warmth: { carrierC, referenceC, carrierPerK, referencePerK, uK },
      laser: draft.isLaser
        ? {
            first: air(draft.airC),
            last: air(draft.lastC),
            reckoned: draft.reckoned,
            deadPathMm: draft.deadPathMm,
          }
        : null,
      referenceUPerM: draft.referenceUPerM,
      old: old.table,
      note: draft.note,
    },
    wrong: old.wrong || unfit(rules, travelMm),
  };
}

function oldTable(
  { old, oldTyped }: TableDraft,
  { rules, all }: { readonly rules: CorrectionCreate["rules"]; readonly all: Corrections },
): { readonly table: CorrectionCreate["old"]; readonly wrong: string } {
  if (old === "none") return { table: null, wrong: "" };
  const kept = all.versions.find((v) => String(v.id) === old)?.table;
  if (kept)
    return {
      table: {
        rules: kept.rules,
        up: [...typedValues(kept, "+")],
        down: kept.down ? [...typedValues(kept, "-")] : null,
      },
      wrong: "",
    };
  const { up, down, errors } = parseTypedTable(oldTyped);
  const [first] = errors;
  return {
    table: { rules, up: [...up], down: down ? [...down] : null },
    wrong: errors.length > 0 ? `Old table, line ${first.line}: ${first.message}` : "",
  };
}

/** The field of the form that an issue of what is sent is about. */
export function tableField(path: string): string {
  const [head, ...rest] = path.split(".");
  if (head === "runId") return "run";
  if (head === "old") return "oldTyped";
  const last = rest.at(-1) ?? head;
  if (head === "laser") return { celsius: rest[0] === "last" ? "lastC" : "airC" }[last] ?? last;
  return last;
}

export const profileChoices = (all: Corrections): readonly Choice[] =>
  all.profiles.map((p) => ({
    id: String(p.runId),
    label: `${momentText(p.at)}, ${p.by}: ${p.places} places, ${p.runs} ${p.runs === 1 ? "run" : "runs"}`,
  }));

export const oldChoices = (all: Corrections): readonly Choice[] => [
  { id: "none", label: "none, or switched off" },
  ...all.versions.map((v) => ({
    id: String(v.id),
    label: `version ${v.version} of ${dayText(v.at)}${v.active ? ", in the control" : ""}`,
  })),
  { id: "typed", label: "another, typed below" },
];

export interface TrialView {
  readonly refused: readonly string[];
  readonly doubts: readonly string[];
  readonly notes: readonly string[];
  readonly headline: string;
  readonly figures: readonly { readonly name: string; readonly before: string; readonly after: string }[];
  readonly beyond: readonly string[];
  readonly kelvin: string;
}

/** What a table promises, what stands against it, and what is to be known. */
export function trialView(
  { made, prediction, may }: Pick<CorrectionTrial, "made" | "prediction" | "may">,
  given: Pick<CorrectionCreate, "warmth">,
  system: UnitSystem,
): TrialView {
  const { before, after, unseenRangeMm, betweenMm, uMm, missing } = prediction;
  const dev = (mm: number): string => formatDeviation(mm, { system });
  const named = missing.length === 0;
  const places = made.points.map((p) => p.atMm);
  const length = Math.max(...places) - Math.min(...places);
  const row = (name: string, symbol: string, of: (f: typeof before) => number | null) => {
    const [a, b] = [of(before), of(after)];
    return a === null || b === null
      ? []
      : [{ name: named ? `${name}, ${symbol}` : name, before: dev(a), after: dev(b) }];
  };
  return {
    refused: may.refused.map((r) => compensationBarText(r, system)),
    doubts: may.doubts.map((d) => compensationBarText(d, system)),
    notes: made.notes.map((n) => correctionNoteText(n, system)),
    headline: made.notes.some((n) => n.code === "nothing-proven")
      ? "Nothing to correct that is more than its own ±."
      : `${dev(before.meanRange)} from end to end become about ${dev(unseenRangeMm ?? after.meanRange)}.`,
    figures: [
      ...row("Range of the mean of both directions", "M", (f) => f.meanRange),
      ...row("Systematic deviation", "E", (f) => f.systematic),
      ...row("Accuracy of positioning", "A", (f) => f.accuracy),
      ...row("Reversal value", "B", (f) => f.reversal),
    ],
    beyond: [
      ...(unseenRangeMm === null
        ? ["It was read once: what a second run would see is not known. Read it at least twice."]
        : [
            `On its own readings the table leaves ${dev(after.meanRange)}; a run that it was not made from sees ${dev(unseenRangeMm)}, on average.`,
          ]),
      ...(betweenMm === null ? [] : [`At a place that it was not made from it is off by up to ${dev(betweenMm)}.`]),
      `What the reference and the temperatures leave open from end to end is ± ${dev(uMm)}; it is in every figure here.`,
      ...(named ? [] : [`These are not yet the figures of ISO 230-2: wanted are ${missing.join("; ")}.`]),
    ],
    kelvin: `A kelvin more, and the machine reaches ${dev((given.warmth.carrierPerK * length) / 1e6)} further over ${formatSize(length, system)}: a table is right for the warmth it works at.`,
  };
}

/** What is drawn: deviation at 20 °C before, and as it will be. */
export function tableSeries({ prediction }: Pick<CorrectionTrial, "prediction">, system: UnitSystem) {
  const [x, y] = system === "metric" ? (["mm", "um"] as const) : (["in", "tenth"] as const);
  const line = (of: (p: (typeof prediction.byPlace)[number]) => number) =>
    prediction.byPlace.map((p) => ({ x: fromMm(p.positionMm, x), y: fromMm(of(p), y) }));
  return {
    beforeUp: line((p) => p.beforeUp),
    beforeDown: line((p) => p.beforeDown),
    afterUp: line((p) => p.afterUp),
    afterDown: line((p) => p.afterDown),
    xLabel: `place, ${x}`,
    yLabel: `deviation at 20 °C, ${y === "um" ? "µm" : "tenths"}`,
  };
}

export interface SheetBlock {
  readonly range: string;
  readonly sum: number;
  readonly rows: readonly { readonly point: number; readonly place: string; readonly value: number }[];
}

/** The sheet that a table is typed from: ten points a block, with the sum of each. */
export function typingSheet(table: Correction, direction: Direction, system: UnitSystem): readonly SheetBlock[] {
  const { rules } = table;
  return typedBlocks(typedValues(table, direction)).map(({ from, to, values, sum }) => ({
    range: `${from} to ${to}`,
    sum,
    rows: values.map((value, i) => {
      const point = from + i;
      const at = pointAt(rules, rules.counted === "+" ? point - 1 : rules.points - point);
      return { point, place: formatPosition(at, { system }), value };
    }),
  }));
}

/** Points with what is added there and its ±. */
export function pointRows({ made }: Pick<CorrectionTrial, "made">, system: UnitSystem) {
  const both = made.table.down !== null;
  const value = (mm: number, u: number): string => formatWithU(mm, u, { system, signed: true, bare: true });
  return made.points.map((p) => ({
    place: formatPosition(p.atMm, { system }),
    up: value(p.upMm, p.uMm),
    down: both ? value(p.downMm, p.uMm) : "",
    held: p.held,
  }));
}

/** How the control wants the numbers, in words. */
export function rulesText({ rules }: Correction, system: UnitSystem): string {
  const unit = formatSize(rules.incrementMm, system);
  return [
    `${rules.points} points every ${formatSize(rules.stepMm, system)} from ${formatSize(rules.startMm, system)}, counted from the ${rules.counted === "+" ? "lowest" : "highest"}`,
    `in steps of ${unit}`,
    rules.form === "whole" ? "whole values" : "changes from the point before",
    rules.sense === "added" ? "added to the command" : "entered as the error, which the control takes away",
    rules.ways === "one" ? "one table for both directions" : "a table for each direction",
    `nothing at the reference point, ${formatSize(rules.referenceMm, system)}`,
  ].join("; ");
}
