import {
  approachSentence,
  deviationUnit,
  directionText,
  formatDeviation,
  formatNumber,
  formatPosition,
  formatSize,
  fromMm,
  keptByStep,
  mean,
  nextStep,
  sampleDeviation,
  stepInstruction,
  stepsOf,
  TEST_TEXT,
  tipAngleFactor,
  UNIT_WORD,
  type AxisConfig,
  type Direction,
  type TestStep,
  type UnitSystem,
} from "@iron/core";
import type { ReadingRecord, Run } from "@iron/contract";

export interface CellView {
  readonly step: number;
  readonly text: string;
  readonly now: boolean;
  readonly readingId: number | null;
}

export interface RowView {
  readonly key: string;
  readonly direction: Direction;
  readonly name: string;
  readonly place: string;
  readonly cells: readonly CellView[];
  readonly mean: string;
  readonly s: string;
}

export interface AsideView {
  readonly id: number;
  readonly text: string;
  readonly canRestore: boolean;
}

export interface RunView {
  readonly title: string;
  readonly about: string;
  readonly step: TestStep | null;
  readonly stepName: string;
  readonly instruction: string;
  readonly takeLabel: string;
  readonly done: number;
  readonly all: number;
  readonly unit: string;
  readonly runs: readonly number[];
  readonly rows: readonly RowView[];
  readonly manyPlaces: boolean;
  readonly asides: readonly AsideView[];
  /** The reading that Backspace sets aside. */
  readonly last: ReadingRecord | null;
}

/** Decimals a display of this resolution shows, in a unit of `unitMm` millimetres. */
export function displayDecimals(resolutionMm: number, system: UnitSystem): number {
  const step = fromMm(resolutionMm, system === "metric" ? "mm" : "in");
  return Math.min(6, Math.max(2, Math.ceil(-Math.log10(step) - 1e-9)));
}

/** The live figure: sign always shown, digits of the display. */
export function liveText(displayMm: number | null, resolutionMm: number, system: UnitSystem): string {
  if (displayMm === null) return "no contact";
  const unit = system === "metric" ? "mm" : "in";
  const text = formatNumber(fromMm(displayMm, unit), displayDecimals(resolutionMm, system), true);
  return /^[+−]/.test(text) ? text : `\u2007${text}`;
}

function setupText(run: Run, system: UnitSystem): string {
  const { indicator, tipAngleDeg, surface, temperatureC } = run.setup;
  const factor =
    tipAngleDeg > 0 ? `, tip at ${tipAngleDeg}°: readings × ${tipAngleFactor(tipAngleDeg).toFixed(3)}` : "";
  const warm = temperatureC === null ? "" : `, ${temperatureC} °C`;
  return `${indicator.name}, steps of ${formatSize(indicator.resolutionMm, system)}${factor}, on ${surface}${warm}.`;
}

function asideText(
  reading: ReadingRecord,
  {
    steps,
    system,
    config,
  }: { readonly steps: readonly TestStep[]; readonly system: UnitSystem; readonly config: AxisConfig },
): string {
  const step = steps[reading.step];
  const where = `Run ${step.run} ${directionText(config, step.direction).from} at ${formatPosition(step.targetMm, { system })}`;
  const value =
    step.action === "count" ? `${reading.value} steps` : formatDeviation(reading.value, { system, signed: true });
  // What the judge found is said in the reader's units, whatever the units it was found in.
  const judged =
    reading.state === "spoilt" && reading.judgement
      ? approachSentence(reading.judgement, { step, axis: config, system })
      : undefined;
  return `${where}, ${value}: ${reading.state}. ${judged ?? reading.reason}`;
}

/** Everything the guided run shows besides the live figure and the result. */
export function runView(run: Run, config: AxisConfig, system: UnitSystem): RunView {
  const steps = stepsOf(run.plan);
  const kept = keptByStep(run.readings);
  const step = run.state === "running" ? (nextStep(steps, run.readings) ?? null) : null;
  const shown = steps.filter((s) => s.action !== "zero");
  const text = TEST_TEXT[run.plan.kind];
  const manyPlaces = run.plan.targetsMm.length > 1;
  const place = manyPlaces
    ? `${run.plan.targetsMm.length} places`
    : `at ${formatPosition(run.plan.targetsMm[0], { system })}`;
  return {
    title: `${text.name} ${manyPlaces ? "over" : ""} ${place}`.replace("  ", " "),
    about: setupText(run, system),
    step,
    stepName: step ? stepName(step, { run, config, system }) : "",
    instruction: step ? stepInstruction(config, { plan: run.plan, step, system }) : "",
    takeLabel: step?.action === "zero" ? "Set to zero" : step?.action === "count" ? "The needle moved" : "Take reading",
    done: shown.filter((s) => kept.has(s.index)).length,
    all: shown.length,
    unit: UNIT_WORD[deviationUnit(system)],
    runs: Array.from({ length: run.plan.runs }, (_, i) => i + 1),
    rows: rowsOf(run, { shown, now: step?.index ?? null, config, system }),
    manyPlaces,
    asides: run.readings
      .filter((r) => r.state !== "kept")
      .map((r) => ({
        id: r.id,
        text: asideText(r, { steps, system, config }),
        canRestore: r.state === "discarded" && !kept.has(r.step),
      })),
    last: run.readings.findLast((r) => r.state === "kept") ?? null,
  };
}

/** A row for each place and direction: what was read there, its mean and scatter. */
function rowsOf(
  run: Run,
  {
    shown,
    now,
    config,
    system,
  }: {
    readonly shown: readonly TestStep[];
    readonly now: number | null;
    readonly config: AxisConfig;
    readonly system: UnitSystem;
  },
): readonly RowView[] {
  const kept = keptByStep(run.readings);
  const ids = new Map(run.readings.filter((r) => r.state === "kept").map((r) => [r.step, r.id]));
  const factor = run.setup.sense * tipAngleFactor(run.setup.tipAngleDeg);
  const expected = (s: TestStep): number => (run.plan.keepsZero ? s.targetMm - run.plan.targetsMm[0] : 0);
  const small = (mm: number): string => formatDeviation(mm, { system, bare: true, signed: true });
  const rowKeys = [...new Set(shown.map((s) => `${s.target}${s.direction}`))];
  return rowKeys.map((key): RowView => {
    const group = shown.filter((s) => `${s.target}${s.direction}` === key);
    const counted = group[0].action === "count";
    const value = (s: TestStep): number | null => {
      const reading = kept.get(s.index);
      if (!reading) return null;
      return counted ? reading.value : factor * reading.value - expected(s);
    };
    const values = group.map(value).filter((v) => v !== null);
    const text = (v: number): string => (counted ? String(v) : small(v));
    const s = sampleDeviation(values);
    return {
      key,
      direction: group[0].direction,
      name: counted ? "steps counted" : directionText(config, group[0].direction).from,
      place: formatPosition(group[0].targetMm, { system, bare: true }),
      cells: group.map((g) => {
        const v = value(g);
        return {
          step: g.index,
          text: v === null ? "" : text(v),
          now: now === g.index,
          readingId: ids.get(g.index) ?? null,
        };
      }),
      mean: values.length ? (counted ? mean(values).toFixed(1) : small(mean(values))) : "",
      s: Number.isNaN(s) ? "" : counted ? s.toFixed(1) : formatDeviation(s, { system, bare: true }),
    };
  });
}

function stepName(
  step: TestStep,
  { run, config, system }: { readonly run: Run; readonly config: AxisConfig; readonly system: UnitSystem },
): string {
  const place =
    run.plan.targetsMm.length > 1
      ? `Place ${step.target + 1} of ${run.plan.targetsMm.length}, ${formatPosition(step.targetMm, { system })}: `
      : "";
  if (step.action === "zero") return sentence(`${place}set the zero`);
  return sentence(
    `${place}run ${step.run} of ${run.plan.runs}, approach ${directionText(config, step.direction).from}`,
  );
}

function sentence(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
