import type { WeekSum } from "@iron/core";
import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../shared/chart";

/** Bars of minutes by week, what is due below, then early, then late; the line is what people have. */
export function horizonChart(rows: readonly (WeekSum & { readonly text: string })[], ink: Ink): ChartConfiguration {
  const bar = (label: string, of: (w: WeekSum) => number, colour: string) => ({
    type: "bar" as const,
    label,
    data: rows.map(of),
    backgroundColor: colour,
    stack: "minutes",
  });
  const configuration = {
    type: "bar",
    data: {
      labels: rows.map((r) => r.text),
      datasets: [
        bar("due", (w) => w.minutes - w.lateMinutes - w.earlyMinutes, ink.ink),
        bar("early", (w) => w.earlyMinutes, ink.blue),
        bar("late", (w) => w.lateMinutes, ink.oxide),
        {
          type: "line" as const,
          label: "what people have",
          data: rows.map((r) => r.available),
          borderColor: ink.brass,
          borderWidth: 2,
          pointRadius: 0,
          pointStyle: "line",
          stepped: "middle",
        },
      ],
    },
    options: {
      scales: {
        x: {
          stacked: true,
          grid: { display: false },
          border: { color: ink.ink },
          ticks: { color: ink.graphite, maxTicksLimit: 9, maxRotation: 0 },
          title: { display: true, text: "week from", color: ink.graphite },
        },
        y: {
          stacked: true,
          beginAtZero: true,
          grid: { display: false },
          border: { color: ink.ink },
          ticks: { color: ink.graphite, maxTicksLimit: 6 },
          title: { display: true, text: "minutes", color: ink.graphite },
        },
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
