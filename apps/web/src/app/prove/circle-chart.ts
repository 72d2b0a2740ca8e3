import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../shared/chart";
import type { DrawnTrace } from "./circle-drawn.view";

function line(
  { direction, points }: DrawnTrace,
  { colour, name, width }: { readonly colour: string; readonly name: string; readonly width: number },
): object {
  return {
    label: name + (direction === 1 ? "counterclockwise" : "clockwise"),
    data: points,
    parsing: false,
    spanGaps: false,
    borderColor: colour,
    backgroundColor: colour,
    borderWidth: width,
    borderDash: direction === 1 ? [] : [5, 3],
    pointRadius: 0,
    pointStyle: "line",
  };
}

/** Deviation against angle, the quarters ruled and named by what turns round there. */
export function circleChart(
  { traces, under }: { readonly traces: readonly DrawnTrace[]; readonly under: readonly DrawnTrace[] },
  {
    quarters,
    unit,
    span,
  }: {
    readonly quarters: readonly { readonly deg: number; readonly name: string }[];
    readonly unit: string;
    readonly span: number;
  },
  ink: Ink,
): ChartConfiguration {
  const configuration = {
    type: "line",
    data: {
      datasets: [
        ...traces.map((t) => line(t, { colour: t.direction === 1 ? ink.blue : ink.copper, name: "", width: 1.3 })),
        ...under.map((t) => line(t, { colour: ink.graphite, name: "laid under, ", width: 0.8 })),
      ],
    },
    options: {
      scales: {
        x: {
          type: "linear",
          min: 0,
          max: 360,
          grid: { display: false },
          border: { color: ink.ink },
          ticks: { color: ink.graphite, stepSize: 45, callback: (value: number) => `${value}°` },
          title: { display: true, text: "angle", color: ink.graphite },
        },
        y: {
          type: "linear",
          suggestedMin: -span,
          suggestedMax: span,
          grid: { display: false },
          border: { color: ink.ink },
          ticks: { color: ink.graphite, maxTicksLimit: 6 },
          title: { display: true, text: `deviation, ${unit}`, color: ink.graphite },
        },
      },
      plugins: {
        legend: { position: "bottom", labels: { usePointStyle: true, color: ink.ink, boxHeight: 7 } },
        tooltip: { enabled: false },
        annotation: {
          clip: false,
          annotations: {
            zero: { type: "line", yMin: 0, yMax: 0, borderColor: ink.rule, borderWidth: 1 },
            ...Object.fromEntries(
              quarters.map(({ deg, name }) => [
                `at${deg}`,
                {
                  type: "line",
                  xMin: deg,
                  xMax: deg,
                  borderColor: ink.rule,
                  borderWidth: 1,
                  label: {
                    display: true,
                    content: name,
                    position: "start",
                    backgroundColor: ink.sheet,
                    color: ink.graphite,
                    padding: 2,
                    font: { size: 11, weight: "normal" },
                  },
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
