import type { ProgramMove } from "@iron/core";
import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../../shared/chart";

/** Position over time of a program’s moves: minutes against millimetres. */
export function pathPoints(
  moves: readonly ProgramMove[],
  rapidMmMin: number,
  feedMmMin: number,
): { x: number; y: number }[] {
  const points: { x: number; y: number }[] = [];
  let at: number | null = null;
  let minutes = 0;
  for (const move of moves) {
    if (move.kind === "rapid" || move.kind === "feed") {
      if (at !== null) minutes += Math.abs(move.toMm - at) / (move.kind === "rapid" ? rapidMmMin : feedMmMin);
      at = move.toMm;
      points.push({ x: minutes, y: at });
    } else if (move.kind === "dwell" && at !== null) {
      minutes += move.seconds / 60;
      points.push({ x: minutes, y: at });
    }
  }
  return points;
}

export function pathChart(points: readonly { x: number; y: number }[], yLabel: string, ink: Ink): ChartConfiguration {
  const axis = (text: string) => ({
    type: "linear" as const,
    grid: { display: false },
    border: { color: ink.ink },
    ticks: { color: ink.graphite, maxTicksLimit: 6 },
    title: { display: true, text, color: ink.graphite },
  });
  return {
    type: "line",
    data: {
      datasets: [
        {
          data: [...points],
          borderColor: ink.blue,
          borderWidth: 1.2,
          pointRadius: 0,
        },
      ],
    },
    options: {
      scales: { x: axis("minutes"), y: axis(yLabel) },
      plugins: { legend: { display: false }, tooltip: { enabled: false } },
    },
  };
}
