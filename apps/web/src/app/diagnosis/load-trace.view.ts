import {
  decimalsFor,
  formatNumber,
  formatSize,
  frictionHigh,
  fromMm,
  type LoadSample,
  type UnitSystem,
} from "@iron/core";
import type { loadTraceSchema } from "@iron/contract";
import type { ChartConfiguration } from "chart.js";
import type * as z from "zod";
import type { Ink } from "../shared/chart";
import { loadText } from "./case.view";

export interface LoadTraceView {
  readonly samples: readonly LoadSample[];
  readonly unit: "%" | "A";
  readonly analysis: z.infer<typeof loadTraceSchema>;
}

export interface LoadPartView {
  readonly name: string;
  readonly value: string;
  readonly points: string;
}

const END_POINTS = "a screw out of line with the ways, or the wrong tightening order";
const QUIET = "nothing out of the ordinary";

function frictionPoints(view: LoadTraceView): string {
  if (view.analysis.frictionOrGravity)
    return "a meter without a sign cannot tell friction from gravity: one of the two is this";
  switch (frictionHigh(view)) {
    case true:
      return "high over the whole travel: gib, wheels, bearing nut or a dry way";
    case false:
      return "no more than usual for such an axis";
    case null:
      return "whether that is high, only this axis’ own past can say";
  }
}

/** Each part of the trace and what it points to. */
export function loadParts(view: LoadTraceView, system: UnitSystem): readonly LoadPartView[] {
  const { friction, gravity, lowEnd, highEnd, perTurn, spots } = view.analysis;
  const { stretches, frictionOrGravity } = view.analysis;
  const at = (mm: number): string => formatSize(Math.round(mm), system);
  const value = (p: { value: number; u: number }): string => {
    const decimals = decimalsFor(2 * p.u);
    return `${formatNumber(p.value, decimals, true)} ± ${formatNumber(2 * p.u, decimals)} ${view.unit}`;
  };
  const part = (name: string, p: { value: number; u: number; real: boolean }, points: string): LoadPartView => ({
    name,
    value: value(p),
    points: p.real ? points : QUIET,
  });
  return [
    {
      name: "Friction, both ways",
      value: value(friction),
      points: frictionPoints(view),
    },
    part(
      "Gravity",
      gravity,
      frictionOrGravity
        ? "or friction: the meter shows no sign"
        : "out of balance points to counterweight, spring or a drag brake",
    ),
    part("Rise at the lower end", lowEnd, END_POINTS),
    part("Rise at the upper end", highEnd, END_POINTS),
    ...stretches.map((s) => ({
      name: `Tight from ${at(s.fromMm)} to ${at(s.toMm)}`,
      value: value(s.extra),
      points: "the way there: dirt, damage, or a gib set where it is worn least",
    })),
    part("Once per turn", perTurn, "bent screw, eccentric coupling or journal"),
    ...spots.map((s) => ({
      name: `Spot at ${at(s.peakMm)}`,
      value: loadText(s.extra, view.unit),
      points: "chips or damage there; a rack high spot",
    })),
  ];
}

/** What has to be said besides: which account is not known, what has to be asked. */
export function loadRemarks(view: LoadTraceView): readonly string[] {
  const { alike, askMeter, meter } = view.analysis;
  return [
    alike
      ? "A rise at an end and a tight stretch inside would account for this about as well. Traverse it slower, over the whole travel, before taking either for granted."
      : "",
    askMeter
      ? "Both ways read on one side of zero. Either the meter shows no sign, as most do, or gravity is more than friction here. Say which."
      : meter === "unsigned"
        ? "The meter shows no sign: it was taken for the size of the force."
        : "",
  ].filter(Boolean);
}

/** The trace with the parts laid over it: both directions, the model as a thin line. */
export function loadChart(view: LoadTraceView, system: UnitSystem, ink: Ink): ChartConfiguration {
  const unit = system === "metric" ? "mm" : "in";
  const points = (direction: "+" | "-", what: "load" | "fit") =>
    view.samples
      .map((s, i) => ({
        x: fromMm(s.positionMm, unit),
        y: what === "load" ? s.load : view.analysis.fitted[i],
        d: s.direction,
      }))
      .filter((p, i) => p.d === direction && p.y !== null && view.analysis.fitted[i] !== null)
      .map(({ x, y }) => ({ x, y: y as number }));
  const line = (
    label: string,
    {
      data,
      colour,
      width,
      dash = [],
    }: {
      readonly data: { x: number; y: number }[];
      readonly colour: string;
      readonly width: number;
      readonly dash?: number[];
    },
  ) => ({
    type: "line" as const,
    label,
    data,
    borderColor: colour,
    backgroundColor: colour,
    borderWidth: width,
    borderDash: dash,
    pointRadius: 0,
  });
  const spots = Object.fromEntries(
    view.analysis.spots.map((s, i) => [
      `spot${i}`,
      {
        type: "box" as const,
        xMin: fromMm(s.fromMm, unit),
        xMax: fromMm(s.toMm, unit),
        backgroundColor: `${ink.oxide}22`,
        borderColor: ink.oxide,
        borderWidth: 1,
        label: {
          display: true,
          content: "spot",
          color: ink.oxide,
          position: { x: "center" as const, y: "start" as const },
          font: { size: 11 },
        },
      },
    ]),
  );
  const axis = (text: string) => ({
    type: "linear" as const,
    grid: { display: false },
    border: { color: ink.ink },
    ticks: { color: ink.graphite, maxTicksLimit: 7 },
    title: { display: true, text, color: ink.graphite },
  });
  const configuration = {
    type: "line",
    data: {
      datasets: [
        line("towards plus", { data: points("+", "load"), colour: ink.blue, width: 1 }),
        line("towards minus", { data: points("-", "load"), colour: ink.copper, width: 1, dash: [4, 3] }),
        line("parts together, towards plus", { data: points("+", "fit"), colour: ink.ink, width: 2 }),
        line("parts together, towards minus", {
          data: points("-", "fit"),
          colour: ink.graphite,
          width: 2,
          dash: [8, 3],
        }),
      ],
    },
    options: {
      scales: { x: axis(`position, ${unit}`), y: axis(`drive load, ${view.unit}`) },
      plugins: {
        legend: { position: "bottom", labels: { color: ink.ink, boxHeight: 2 } },
        tooltip: { enabled: false },
        annotation: { annotations: spots },
      },
    },
  };
  return configuration as unknown as ChartConfiguration;
}
