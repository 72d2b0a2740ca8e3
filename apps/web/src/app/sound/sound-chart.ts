import type { ChartConfiguration } from "chart.js";
import { expectedLines, type AxisConfig } from "@iron/core";
import type { SoundResult } from "@iron/contract";
import type { Ink } from "../shared/chart";

/** Preferred numbers of a decade: bands are called by them (ISO 266, from memory). */
const PREFERRED = [1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 8, 10];

/** What a band is called. */
export function bandName(midHz: number): string {
  const decade = 10 ** Math.floor(Math.log10(midHz) + 1e-9);
  const off = (n: number): number => Math.abs(Math.log(midHz / decade / n));
  const hz = decade * PREFERRED.reduce((best, n) => (off(n) < off(best) ? n : best));
  return hz < 1000 ? `${Number(hz.toPrecision(3))}` : `${Number((hz / 1000).toPrecision(3))}k`;
}

const axisOf = (ink: Ink, title: string): object => ({
  grid: { display: false },
  border: { color: ink.ink },
  ticks: { color: ink.graphite, maxTicksLimit: 8 },
  title: { display: true, text: title, color: ink.graphite },
});

const legend = (ink: Ink): object => ({
  position: "bottom",
  labels: { usePointStyle: true, color: ink.ink, boxHeight: 7 },
});

/** Third octaves: moving, standing, and what lies under them for comparison. */
export function bandsChart({ bands }: SoundResult, under: SoundResult | null, ink: Ink): ChartConfiguration {
  const set = (label: string, values: readonly number[], look: { colour: string; dash: number[]; width: number }) => ({
    label,
    data: values,
    borderColor: look.colour,
    backgroundColor: look.colour,
    borderWidth: look.width,
    borderDash: look.dash,
    pointRadius: 0,
    pointStyle: "line",
  });
  const configuration = {
    type: "line",
    data: {
      labels: bands.map((b) => bandName(b.midHz)),
      datasets: [
        set(
          "moving",
          bands.map((b) => b.movingDb),
          { colour: ink.blue, dash: [], width: 2 },
        ),
        set(
          "standing",
          bands.map((b) => b.stillDb),
          { colour: ink.graphite, dash: [2, 3], width: 1.3 },
        ),
        ...(under
          ? [
              set(
                "the other, moving",
                under.bands.map((b) => b.movingDb),
                { colour: ink.copper, dash: [6, 3], width: 2 },
              ),
            ]
          : []),
      ],
    },
    options: {
      scales: { x: axisOf(ink, "third octaves, Hz"), y: axisOf(ink, "level, dB of full scale") },
      plugins: { legend: legend(ink), tooltip: { enabled: false } },
    },
  };
  return configuration as unknown as ChartConfiguration;
}

/** The envelope in orders of the shaft; lines that stand out are named by their order. */
export function ordersChart({ orders, lines }: SoundResult, config: AxisConfig, ink: Ink): ChartConfiguration {
  const told = lines.filter((l) => l.chance < 0.01);
  const highest = Math.max(14, ...orders.map(([, overDb]) => overDb));
  const spans = expectedLines(config).filter(({ family }) => told.some((l) => l.family === family));
  const configuration = {
    type: "line",
    data: {
      datasets: [
        {
          data: orders.map(([x, y]) => ({ x, y: Math.max(-10, y) })),
          parsing: false,
          borderColor: ink.blue,
          borderWidth: 1.2,
          pointRadius: 0,
        },
      ],
    },
    options: {
      scales: {
        x: {
          type: "linear",
          min: 0,
          max: Math.max(8, Math.ceil(orders.at(-1)?.[0] ?? 8)),
          ...axisOf(ink, "times a turn"),
        },
        // Room over the highest for what it is called.
        y: { type: "linear", min: -10, suggestedMax: 6 + highest, ...axisOf(ink, "over what lies around, dB") },
      },
      plugins: {
        legend: { display: false },
        tooltip: { enabled: false },
        annotation: {
          clip: false,
          annotations: {
            ...Object.fromEntries(
              spans.map(({ family, from, to }) => [
                `span-${family}`,
                { type: "box", xMin: from, xMax: to, yMin: -10, yMax: -8.5, backgroundColor: ink.rule, borderWidth: 0 },
              ]),
            ),
            ...Object.fromEntries(
              told.map(({ family, order, overDb }) => [
                family,
                {
                  type: "label",
                  xValue: order,
                  yValue: overDb,
                  yAdjust: -10,
                  content: order.toFixed(order < 3 ? 2 : 1),
                  color: ink.ink,
                  font: { size: 12 },
                },
              ]),
            ),
          },
        },
      },
    },
  };
  return configuration as unknown as ChartConfiguration;
}
