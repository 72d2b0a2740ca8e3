import {
  crestReadings,
  formatPosition,
  formatQuantity,
  formatSize,
  fromMm,
  gibChoice,
  seriesAnswers,
  seriesGrades,
  seriesOpen,
  seriesQuantity,
  seriesSteps,
  travelPerTurnMm,
  type AxisConfig,
  type FindingId,
  type GibThread,
  type SeriesPlan,
  type SeriesResult,
  type SeriesStep,
  type TestId,
  type UnitSystem,
} from "@iron/core";
import type { ResultData, Series } from "@iron/contract";

/** The last reading of each step; null where there is none, or it was taken back. */
export function seriesValues(series: Series): readonly (number | null)[] {
  const values: (number | null)[] = seriesSteps(series.plan).map(() => null);
  for (const point of series.points) values[point.step] = point.value;
  return values;
}

/** The first step without a reading. */
export function nextSeriesStep(series: Series): SeriesStep | null {
  return seriesOpen(series.plan, seriesValues(series)).at(0) ?? null;
}

export interface SeriesRow {
  readonly step: number;
  readonly what: string;
  readonly value: string;
  /** Not to be read any more: other readings have made it needless. */
  readonly needless: boolean;
  readonly now: boolean;
}

function placeWords(
  plan: SeriesPlan,
  step: SeriesStep,
  system: UnitSystem,
): string {
  switch (plan.kind) {
    case "crest-run":
      return `${step.group}, ${formatPosition(step.at, { system })}`;
    case "gib-curve":
      return `${step.group}, ${formatQuantity("turns", step.at, system)}`;
    case "tram":
      return step.group;
    case "home-repeat":
      return `homing ${step.at}`;
    case "rock":
    case "hand-push":
      return step.group === "ends" || step.group === "feel"
        ? step.group
        : `${step.group}, ${formatPosition(step.at, { system })}`;
    case "motor-alone":
      return step.group === "sound" ? `sound at ${step.at} %` : step.group;
    case "finger-feel":
      return `${step.group}, ${step.at}°`;
    case "wheel-turn":
    case "coast":
      return `${step.group} ${step.at}`;
  }
}

export function seriesRows(
  series: Series,
  system: UnitSystem,
): readonly SeriesRow[] {
  const values = seriesValues(series);
  const next = nextSeriesStep(series);
  const open = new Set(seriesOpen(series.plan, values).map((s) => s.index));
  return seriesSteps(series.plan).map((step) => ({
    step: step.index,
    what: placeWords(series.plan, step, system),
    value: readWords(series.plan, step, values[step.index], system),
    needless: values[step.index] === null && !open.has(step.index),
    now: step.index === next?.index,
  }));
}

function readWords(
  plan: SeriesPlan,
  step: SeriesStep,
  value: number | null,
  system: UnitSystem,
): string {
  if (value === null) return "";
  const kind = seriesQuantity(plan, step.group);
  return kind === null
    ? (seriesGrades(plan, step.group)[value] ?? "?")
    : formatQuantity(
        kind,
        value,
        system,
        kind === "deviation" && plan.kind !== "gib-curve",
      );
}

/** A usual adjuster: pitch 1.5 mm, taper 1 in 60 (common practice, no source). */
export const USUAL_THREAD: GibThread = { pitchMm: 1.5, taper: 1 / 60 };

/** What the readings say, in sentences; the first is the verdict. */
export function seriesSays(
  result: SeriesResult,
  config: AxisConfig,
  system: UnitSystem,
  thread: GibThread = USUAL_THREAD,
): readonly string[] {
  const dev = (mm: number, signed = false): string =>
    formatQuantity("deviation", mm, system, signed);
  switch (result.kind) {
    case "crest-run": {
      const { planes, limitMm } = result.alignment;
      const out = planes.filter((p) => !p.within);
      return [
        out.length
          ? `Out of line: ${out.map((p) => `${dev(p.overLengthMm)} at ${p.name}`).join(", ")} over the screw; up to ${dev(limitMm)} is fine.`
          : `In line within ${dev(limitMm)} over the screw.`,
        ...planes.map(
          (p) =>
            `${p.name}: ${slopeWords(p.slopeMmPerM, p.expandedMmPerM, system)}; bend and scatter ${dev(p.bendMm)}; ${p.perTurnMm === null ? "once per turn cannot be told from these places" : `once per turn ${dev(p.perTurnMm)}`}.`,
        ),
      ];
    }
    case "gib-curve":
      return gibChoice(result.gib, thread, system).says;
    case "tram":
      return [
        result.tram.within
          ? "Square within 0.050 mm over 300 mm (0.001 in over 6 in)."
          : "Out of square: more than 0.050 mm over 300 mm (0.001 in over 6 in).",
        ...result.tram.slopes.map((s) =>
          s.nearer === "neither"
            ? `${s.direction}: no slope.`
            : `${s.direction}: the ${s.nearer} side stands ${dev(Math.abs(s.perSpanMm))} nearer; that is ${tramWords(s.per300Mm, s.per6InMm, system)}.`,
        ),
      ];
    case "home-repeat": {
      const { home } = result;
      const turn = formatSize(travelPerTurnMm(config), system);
      return [
        home.jumps > 0
          ? `Home jumps by ${home.jumps === 1 ? "a whole turn" : `${home.jumps} whole turns`} (${turn} each): the marker lies too near the switch. Shift the switch by about half a turn.`
          : "Home does not jump.",
        `It repeats within ${dev(home.rangeMm)} (four deviations ${dev(home.repeatMm)}).`,
      ];
    }
    default:
      return [result.hand.headline, ...result.hand.remarks];
  }
}

/** A slope with its uncertainty, in the reader’s units. */
export function slopeWords(
  mmPerM: number,
  expanded: number,
  system: UnitSystem,
): string {
  return system === "metric"
    ? `${mmPerM.toFixed(3)} ± ${expanded.toFixed(3)} mm per metre`
    : `${(mmPerM * 0.012).toFixed(4)} ± ${(expanded * 0.012).toFixed(4)} in per foot`;
}

function tramWords(per300: number, per6In: number, system: UnitSystem): string {
  return system === "metric"
    ? `${Math.abs(per300).toFixed(3)} mm over 300 mm`
    : `${fromMm(Math.abs(per6In), "in").toFixed(4)} in over 6 in`;
}

/** A series as the result of a test at Locate; null for what is no test. */
export function seriesAsResult(
  series: Series,
  result: SeriesResult,
): {
  readonly test: TestId;
  readonly answers: Partial<Record<FindingId, boolean>>;
  readonly data: ResultData;
} | null {
  const said = seriesAnswers(result);
  if (!said) return null;
  if (result.kind !== "crest-run")
    return { ...said, data: { kind: "series", seriesId: series.id } };
  const planes = crestReadings(series.plan, seriesValues(series))
    .filter((p) => p.points.length >= 5)
    .map((p) => p.points.map(({ x, y }) => ({ positionMm: x, readingMm: y })));
  return { ...said, data: { kind: "crest-run", planes } };
}
