import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../shared/chart";

export interface WorkBar {
  readonly from: number;
  readonly to: number;
  /** Share of all way, %. */
  readonly part: number;
}

/** How much of the way lies in each part of the travel. */
export function workChart(bars: readonly WorkBar[], unit: string, ink: Ink): ChartConfiguration {
  const configuration = {
    type: "bar",
    data: {
      labels: bars.map((b) => String(Math.round(b.from))),
      datasets: [
        {
          label: "share of the way",
          data: bars.map((b) => b.part),
          backgroundColor: ink.blue,
          categoryPercentage: 1,
          barPercentage: 0.9,
        },
      ],
    },
    options: {
      scales: {
        x: {
          grid: { display: false },
          border: { color: ink.ink },
          ticks: { color: ink.graphite, maxTicksLimit: 9, maxRotation: 0 },
          title: { display: true, text: `place, ${unit}`, color: ink.graphite },
        },
        y: {
          grid: { display: false },
          border: { color: ink.ink },
          ticks: { color: ink.graphite, maxTicksLimit: 5, callback: (value: number) => `${value} %` },
        },
      },
      plugins: { legend: { display: false }, tooltip: { enabled: false } },
    },
  };
  return configuration as unknown as ChartConfiguration;
}
