import {
  crestReadings,
  deviationUnit,
  formatPosition,
  formatQuantity,
  formatSize,
  fromMm,
  seriesQuantity,
  seriesSteps,
  toShown,
  travelPerTurnMm,
  unitOf,
  UNIT_WORD,
  type AxisConfig,
  type FindingId,
  type SeriesPlan,
  type SeriesResult,
  type SeriesStep,
  type TestId,
  type UnitSystem,
} from "@iron/core";
import type { ResultData, Series } from "@iron/contract";
import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../../shared/chart";

/** The last reading of each step; null where there is none, or it was taken back. */
export function seriesValues(series: Series): readonly (number | null)[] {
  const values: (number | null)[] = seriesSteps(series.plan).map(() => null);
  for (const point of series.points) values[point.step] = point.value;
  return values;
}

/** The first step without a reading. */
export function nextSeriesStep(series: Series): SeriesStep | null {
  const values = seriesValues(series);
  return seriesSteps(series.plan).find((s) => values[s.index] === null) ?? null;
}

export interface SeriesRow {
  readonly step: number;
  readonly what: string;
  readonly value: string;
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
      return formatQuantity("turns", step.at, system);
    case "tram":
      return step.group;
    case "home-repeat":
      return `homing ${step.at}`;
  }
}

export function seriesRows(
  series: Series,
  system: UnitSystem,
): readonly SeriesRow[] {
  const values = seriesValues(series);
  const next = nextSeriesStep(series);
  const kind = seriesQuantity(series.plan);
  return seriesSteps(series.plan).map((step) => {
    const value = values[step.index];
    return {
      step: step.index,
      what: placeWords(series.plan, step, system),
      value:
        value === null
          ? ""
          : formatQuantity(kind, value, system, kind === "deviation"),
      now: step.index === next?.index,
    };
  });
}

/** What the readings say, in sentences; the first is the verdict. */
export function seriesSays(
  result: SeriesResult,
  config: AxisConfig,
  system: UnitSystem,
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
    case "gib-curve": {
      const { knee } = result;
      if (!knee.reached)
        return [
          "No knee yet: friction is still flat. Turn the gib further in and go on.",
        ];
      const [from, to] = knee.betweenTurns;
      return [
        `Friction begins to climb at ${formatQuantity("turns", knee.kneeTurns, system)} in (between ${from.toFixed(2)} and ${to.toFixed(2)}).`,
        "Beyond the knee there is hardly any stiffness to gain, and wear climbs. Set back from it, then rock the member by hand as the check.",
      ];
    }
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
  }
}

function slopeWords(
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
  plan: SeriesPlan,
  values: readonly (number | null)[],
  result: SeriesResult,
): {
  readonly test: TestId;
  readonly answers: Partial<Record<FindingId, boolean>>;
  readonly data: ResultData | null;
} | null {
  switch (result.kind) {
    case "crest-run": {
      const { planes } = result.alignment;
      const data: ResultData = {
        kind: "crest-run",
        planes: crestReadings(plan, values)
          .filter((p) => p.points.length >= 5)
          .map((p) =>
            p.points.map(({ x, y }) => ({ positionMm: x, readingMm: y })),
          ),
      };
      const swings = planes.some(
        (p) => p.bendMm > 0.03 || (p.perTurnMm ?? 0) > 0.015,
      );
      return {
        test: "crest-run",
        answers: {
          "crest-slope": planes.some(
            (p) =>
              Math.abs(p.slopeMmPerM) > 0.05 &&
              Math.abs(p.slopeMmPerM) > p.expandedMmPerM,
          ),
          "crest-turn": swings,
        },
        data,
      };
    }
    case "tram":
      return {
        test: "tram-look",
        answers: { "tram-off": !result.tram.within },
        data: null,
      };
    case "home-repeat":
      return {
        test: "home-again",
        answers: {
          "home-varies": result.home.rangeMm > 0.02,
          "home-turn": result.home.jumps > 0,
        },
        data: null,
      };
    case "gib-curve":
      return null;
  }
}

const axis = (text: string, ink: Ink) => ({
  type: "linear" as const,
  grid: { display: false },
  border: { color: ink.ink },
  ticks: { color: ink.graphite, maxTicksLimit: 7 },
  title: { display: true, text, color: ink.graphite },
});

/** Readings against place, with the line or the knee that was fitted. */
export function seriesChart(
  series: Series,
  result: SeriesResult | null,
  system: UnitSystem,
  ink: Ink,
): ChartConfiguration | null {
  const { plan } = series;
  if (plan.kind !== "crest-run" && plan.kind !== "gib-curve") return null;
  const values = seriesValues(series);
  const kind = seriesQuantity(plan);
  const x = (at: number): number =>
    plan.kind === "gib-curve"
      ? at
      : fromMm(at, system === "metric" ? "mm" : "in");
  const marks = (group: string, label: string, first: boolean) => ({
    type: "line" as const,
    label,
    data: seriesSteps(plan)
      .filter((s) => s.group === group && values[s.index] !== null)
      .map((s) => ({
        x: x(s.at),
        y: toShown(kind, values[s.index] ?? 0, system),
      })),
    showLine: false,
    pointStyle: first ? ("circle" as const) : ("rectRot" as const),
    pointRadius: 5,
    borderColor: first ? ink.blue : ink.copper,
    backgroundColor: first ? ink.blue : "transparent",
  });
  const line = (
    label: string,
    data: { x: number; y: number }[],
    colour: string,
  ) => ({
    type: "line" as const,
    label,
    data,
    borderColor: colour,
    borderWidth: 2,
    pointRadius: 0,
  });
  const datasets: unknown[] = [];
  if (plan.kind === "crest-run") {
    datasets.push(
      marks("0°", "above, 0°", true),
      marks("90°", "beside, 90°", false),
    );
  } else {
    datasets.push(marks("friction", "read", true));
    if (result?.kind === "gib-curve") {
      const { knee } = result;
      const last = plan.places[plan.places.length - 1];
      const at = (t: number): number =>
        knee.floor + knee.risePerTurn * Math.max(0, t - knee.kneeTurns);
      datasets.push(
        line(
          "floor and climb",
          [plan.places[0], knee.kneeTurns, last].map((t) => ({
            x: t,
            y: toShown(kind, at(t), system),
          })),
          ink.ink,
        ),
      );
    }
  }
  const unit =
    kind === "deviation"
      ? UNIT_WORD[deviationUnit(system)]
      : unitOf(kind, system);
  const configuration = {
    type: "line",
    data: { datasets },
    options: {
      scales: {
        x: axis(
          plan.kind === "gib-curve"
            ? "adjuster, turns in"
            : `position, ${system === "metric" ? "mm" : "in"}`,
          ink,
        ),
        y: axis(
          plan.kind === "gib-curve" ? `friction, ${unit}` : `reading, ${unit}`,
          ink,
        ),
      },
      plugins: {
        legend: {
          position: "bottom",
          labels: { color: ink.ink, usePointStyle: true },
        },
        tooltip: { enabled: false },
      },
    },
  };
  return configuration as unknown as ChartConfiguration;
}
