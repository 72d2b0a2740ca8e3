import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../../shared/chart";
import { monthText } from "../../shared/times.text";
import type { HistoryChartData } from "./history.view";

/** Loss over time with U as bars, the limits as named lines, events as upright lines. */
export function historyChart(data: HistoryChartData, unit: string, ink: Ink): ChartConfiguration {
  const line = (value: number, colour: string, text: string) => ({
    type: "line" as const,
    yMin: value,
    yMax: value,
    borderColor: colour,
    borderWidth: 1,
    label: {
      display: true,
      content: text,
      position: "start" as const,
      backgroundColor: "transparent",
      color: colour,
      yAdjust: -8,
      padding: 0,
      font: { size: 11, weight: "normal" as const },
    },
  });
  const upright = (x: number, text: string) => ({
    type: "line" as const,
    xMin: x,
    xMax: x,
    borderColor: ink.graphite,
    borderDash: [2, 3],
    borderWidth: 1,
    label: {
      display: true,
      content: text,
      position: "end" as const,
      backgroundColor: ink.sheet,
      color: ink.graphite,
      padding: 2,
      font: { size: 11, weight: "normal" as const },
    },
  });
  const annotations = {
    leave: line(data.leave, ink.brass, "leave up to here"),
    repair: line(data.repair, ink.oxide, "limit: repair above"),
    ...Object.fromEntries(data.events.map((e, i) => [`event${i}`, upright(e.x, e.text)])),
  };
  const xs = [...data.points.map((p) => p.x), ...data.events.map((e) => e.x)];
  const month = 30 * 86_400_000;
  const configuration = {
    type: "lineWithErrorBars",
    data: {
      datasets: [
        {
          label: "lost",
          data: data.points,
          borderColor: ink.ink,
          backgroundColor: ink.ink,
          pointRadius: 4,
          borderWidth: 1.5,
          errorBarColor: ink.ink,
          errorBarWhiskerColor: ink.ink,
          errorBarWhiskerSize: 7,
          errorBarLineWidth: 1,
          errorBarWhiskerLineWidth: 1,
        },
      ],
    },
    options: {
      scales: {
        x: {
          type: "linear",
          min: Math.min(...xs) - month,
          max: Math.max(...xs) + month,
          grid: { display: false },
          border: { color: ink.ink },
          ticks: {
            color: ink.graphite,
            maxTicksLimit: 6,
            maxRotation: 0,
            callback: (v: number | string) => monthText(new Date(Number(v)).toISOString()),
          },
        },
        y: {
          type: "linear",
          suggestedMin: 0,
          suggestedMax: data.repair * 1.15,
          grid: { display: false },
          border: { color: ink.ink },
          ticks: { color: ink.graphite, maxTicksLimit: 6 },
          title: {
            display: true,
            text: `lost at reversal, ${unit}`,
            color: ink.graphite,
          },
        },
      },
      plugins: {
        legend: { display: false },
        tooltip: { enabled: false },
        annotation: { annotations },
      },
    },
  };
  return configuration as unknown as ChartConfiguration;
}
