import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../shared/chart";
import type { tableSeries } from "./table.view";

type Series = ReturnType<typeof tableSeries>;

/** Deviation along the travel, as it is and as the table will leave it, from either side. */
export function tableChart(series: Series, ink: Ink): ChartConfiguration {
  const line = (
    label: string,
    data: Series["afterUp"],
    { colour, dash, width }: { readonly colour: string; readonly dash: readonly number[]; readonly width: number },
  ): object => ({
    label,
    data,
    parsing: false,
    borderColor: colour,
    backgroundColor: colour,
    borderWidth: width,
    borderDash: dash,
    pointRadius: width > 1 ? 2.5 : 0,
    pointStyle: dash.length > 0 ? "rectRot" : "circle",
  });
  const axis = (text: string): object => ({
    type: "linear",
    grid: { display: false },
    border: { color: ink.ink },
    ticks: { color: ink.graphite, maxTicksLimit: 8 },
    title: { display: true, text, color: ink.graphite },
  });
  const configuration = {
    type: "line",
    data: {
      datasets: [
        line("as it is, from minus", series.beforeUp, { colour: ink.graphite, dash: [], width: 1 }),
        line("as it is, from plus", series.beforeDown, { colour: ink.graphite, dash: [5, 3], width: 1 }),
        line("with the table, from minus", series.afterUp, { colour: ink.blue, dash: [], width: 1.5 }),
        line("with the table, from plus", series.afterDown, { colour: ink.copper, dash: [5, 3], width: 1.5 }),
      ],
    },
    options: {
      scales: { x: axis(series.xLabel), y: axis(series.yLabel) },
      plugins: {
        legend: { position: "bottom", labels: { usePointStyle: true, color: ink.ink, boxHeight: 7 } },
        tooltip: { enabled: false },
        annotation: {
          annotations: { zero: { type: "line", yMin: 0, yMax: 0, borderColor: ink.rule, borderWidth: 1 } },
        },
      },
    },
  };
  return configuration as unknown as ChartConfiguration;
}
