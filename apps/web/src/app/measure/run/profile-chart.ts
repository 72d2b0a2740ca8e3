import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../../shared/chart";
import type { ProfileSeries } from "./result.view";

/** Runs are counted: half a run, where the axis begins and ends, has no tick. */
function wholeTicksOnly(axis: { ticks: { value: number }[] }): void {
  axis.ticks = axis.ticks.filter((t) => Number.isInteger(t.value));
}

/** Both approaches with ± 2s; the limit is a ruled line with its name on it. */
export function profileChart(series: ProfileSeries, ink: Ink): ChartConfiguration {
  const bars = (colour: string) => ({
    errorBarColor: colour,
    errorBarWhiskerColor: colour,
    errorBarLineWidth: 1,
    errorBarWhiskerSize: 6,
    errorBarWhiskerLineWidth: 1,
  });
  const axis = (text: string, whole: boolean) => ({
    type: "linear" as const,
    grid: { display: false },
    border: { color: ink.ink },
    ticks: {
      color: ink.graphite,
      ...(whole ? { precision: 0, stepSize: 1 } : { maxTicksLimit: 6 }),
    },
    title: { display: true, text, color: ink.graphite },
  });
  const configuration = {
    type: "lineWithErrorBars",
    data: {
      datasets: [
        {
          label: "from minus, ± 2s",
          data: series.up,
          borderColor: ink.blue,
          backgroundColor: ink.blue,
          pointStyle: "circle",
          pointRadius: 4,
          borderWidth: 1.5,
          ...bars(ink.blue),
        },
        {
          label: "from plus, ± 2s",
          data: series.down,
          borderColor: ink.copper,
          backgroundColor: ink.sheet,
          pointStyle: "rectRot",
          pointRadius: 6,
          pointBorderWidth: 1.5,
          borderWidth: 1.5,
          borderDash: [6, 4],
          ...bars(ink.copper),
        },
        {
          label: "limit",
          data: series.limit.map((p) => ({ ...p, yMin: p.y, yMax: p.y })),
          borderColor: ink.oxide,
          backgroundColor: ink.oxide,
          pointStyle: false,
          pointRadius: 0,
          borderWidth: 1,
          ...bars(ink.oxide),
          pointBorderWidth: 0,
          errorBarWhiskerSize: 0,
          errorBarWhiskerLineWidth: 0,
          errorBarLineWidth: 0,
        },
      ],
    },
    options: {
      scales: {
        x: {
          ...axis(series.xLabel, series.oneXEach === "run"),
          ...(series.oneXEach === "run" ? { min: series.limit[0].x, max: series.limit[1].x } : {}),
          afterBuildTicks: series.oneXEach === "run" ? wholeTicksOnly : undefined,
        },
        y: { ...axis(series.yLabel, false), grace: "18%" },
      },
      plugins: {
        legend: {
          position: "bottom",
          labels: {
            usePointStyle: true,
            color: ink.ink,
            boxHeight: 7,
            filter: (item: { text: string }) => item.text !== "limit",
          },
        },
        tooltip: { enabled: false },
        annotation: {
          // The limit may be the highest thing there: its name must not be cut at the edge.
          clip: false,
          annotations: {
            limit: {
              type: "label",
              xValue: series.limit[0].x,
              yValue: series.limit[0].y,
              content: series.limitName,
              color: ink.oxide,
              position: { x: "start", y: "end" },
              padding: 2,
              font: { size: 11 },
            },
          },
        },
      },
    },
  };
  return configuration as unknown as ChartConfiguration;
}
