import {
  deviationUnit,
  fromMm,
  handTestQuantity,
  handTestSteps,
  toShown,
  unitOf,
  UNIT_WORD,
  type QuantityKind,
  type HandTestPlan,
  type HandTestResult,
  type UnitSystem,
} from "@iron/core";
import type { HandTest } from "@iron/contract";
import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../../shared/chart";
import { handTestValues } from "./hand-test.view";

const axis = (text: string, ink: Ink) => ({
  type: "linear" as const,
  grid: { display: false },
  border: { color: ink.ink },
  ticks: { color: ink.graphite, maxTicksLimit: 7 },
  title: { display: true, text, color: ink.graphite },
});

/** Groups that are drawn, with their names in the legend; the first is filled. */
function drawnGroups(plan: HandTestPlan): readonly (readonly [string, string])[] {
  switch (plan.kind) {
    case "crest-run":
      return [
        ["0°", "above, 0°"],
        ["90°", "beside, 90°"],
      ];
    case "gib-curve":
      return [
        ["friction", "friction"],
        ["rock", "rock"],
        ["lost motion", "lost motion"],
      ];
    case "hand-push":
      return [
        ["out", "away from the motor"],
        ["back", "towards the motor"],
      ];
    default:
      return [];
  }
}

/** Is there anything to draw for a plan? */
export function handTestDrawn(plan: HandTestPlan): boolean {
  return plan.gib !== "seize" && drawnGroups(plan).length > 0;
}

/** A fitted line that bends once. */
interface Fitted {
  readonly at: (turns: number) => number;
  readonly bend: number;
}

/** Readings against place, with the lines or knees that were fitted. */
export function handTestChart(
  handTest: HandTest,
  { result, system, ink }: { readonly result: HandTestResult | null; readonly system: UnitSystem; readonly ink: Ink },
): ChartConfiguration {
  const { plan } = handTest;
  const values = handTestValues(handTest);
  const steps = handTestSteps(plan);
  const turns = plan.kind === "gib-curve";
  const x = (at: number): number => (turns ? at : fromMm(at, system === "metric" ? "mm" : "in"));
  const groups = drawnGroups(plan).filter(([group]) => steps.some((s) => s.group === group));
  const kinds = groups.map(([group]) => handTestQuantity(plan, group) ?? "number");
  // Friction and rock have a scale each: the second stands at the right.
  const scaleOf = (i: number): string => (kinds[i] === kinds[0] ? "y" : "y2");
  const datasets: unknown[] = groups.map(([group, label], i) => ({
    type: "line",
    label,
    yAxisID: scaleOf(i),
    data: steps
      .filter((s) => s.group === group && values[s.index] !== null)
      .map((s) => ({
        x: x(s.at),
        y: toShown(kinds[i], values[s.index] ?? 0, system),
      })),
    showLine: false,
    pointStyle: i === 0 ? "circle" : "rectRot",
    pointRadius: 5,
    borderColor: i === 0 ? ink.blue : ink.copper,
    backgroundColor: i === 0 ? ink.blue : "transparent",
  }));
  if (result?.kind === "gib-curve") {
    const { knee, firm } = result.gib;
    const ends = [plan.places[0], plan.places[plan.places.length - 1]];
    const fitted = (label: string, i: number, line: Fitted): unknown => ({
      type: "line",
      label,
      yAxisID: scaleOf(i),
      data: [ends[0], line.bend, ends[1]].map((t) => ({ x: t, y: toShown(kinds[i], line.at(t), system) })),
      borderColor: i === 0 ? ink.ink : ink.copper,
      borderWidth: 2,
      pointStyle: "line",
      borderDash: i === 0 ? [] : [6, 4],
      pointRadius: 0,
    });
    if (knee)
      datasets.push(
        fitted("floor and climb", 0, {
          at: (t) => knee.floor + knee.risePerTurn * Math.max(0, t - knee.kneeTurns),
          bend: knee.kneeTurns,
        }),
      );
    if (firm)
      datasets.push(
        fitted("fall and floor", groups.length - 1, {
          at: (t) => firm.floor + firm.risePerTurn * Math.max(0, firm.kneeTurns - t),
          bend: firm.kneeTurns,
        }),
      );
  }
  const title = (i: number): string =>
    `${turns || plan.kind === "hand-push" ? (turns ? groups[i][1] : "pull") : "reading"}, ${unitText(kinds[i], system)}`;
  const second = groups.findIndex((_, i) => scaleOf(i) === "y2");
  const configuration = {
    type: "line",
    data: { datasets },
    options: {
      scales: {
        x: axis(turns ? "adjuster, turns in" : `position, ${system === "metric" ? "mm" : "in"}`, ink),
        y: axis(title(0), ink),
        ...(second > 0 ? { y2: { ...axis(title(second), ink), position: "right" } } : {}),
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

function unitText(kind: QuantityKind, system: UnitSystem): string {
  return kind === "deviation" ? UNIT_WORD[deviationUnit(system)] : unitOf(kind, system);
}
