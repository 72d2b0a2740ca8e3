import {
  fieldError,
  fromShown,
  SUMS,
  toShown,
  unitOf,
  type Sum,
  type SumAnswer,
  type SumCurve,
  type SumValues,
  type UnitSystem,
} from "@iron/core";
import { parseDecimal } from "@iron/contract";
import type { ChartConfiguration } from "chart.js";
import type { Ink } from "../shared/chart";

/** Sums by group, in the order of the trade. */
export function sumGroups(query: string): readonly { readonly name: string; readonly sums: readonly Sum[] }[] {
  const wanted = query.trim().toLowerCase();
  const there = SUMS.filter((s) => `${s.name} ${s.asks} ${s.group}`.toLowerCase().includes(wanted));
  const names = [...new Set(there.map((s) => s.group))];
  return names.map((name) => ({ name, sums: there.filter((s) => s.group === name) }));
}

/** A field as it is shown: its value in the reader’s unit, few enough digits to read. */
export function shownField(quantity: Sum["fields"][number]["quantity"], value: number, system: UnitSystem): string {
  const shown = toShown(quantity, value, system);
  return String(Number(shown.toPrecision(7)));
}

export interface ReadInputs {
  readonly values: SumValues;
  readonly errors: Readonly<Record<string, string>>;
  /** Fields that are measured and not typed yet. */
  readonly missing: readonly string[];
}

/** What was typed, in core units; what cannot be, with its reason. Untouched fields keep their value. */
export function readInputs(
  sum: Sum,
  {
    base,
    typed,
    system,
  }: { readonly base: SumValues; readonly typed: Readonly<Record<string, string>>; readonly system: UnitSystem },
): ReadInputs {
  const values: Record<string, number> = { ...base };
  const errors: Record<string, string> = {};
  const missing: string[] = [];
  for (const field of sum.fields) {
    const text = typed[field.id] as string | undefined;
    if (field.asked && !text?.trim()) {
      missing.push(field.label);
      continue;
    }
    if (text === undefined) continue;
    const shown = field.choices ? Number(text) : parseDecimal(text);
    if (shown === undefined) {
      errors[field.id] = `“${text.trim()}” is not a number.`;
      continue;
    }
    const value = field.choices ? shown : fromShown(field.quantity, shown, system);
    const say = (v: number): string =>
      `${shownField(field.quantity, v, system)} ${unitOf(field.quantity, system)}`.trim();
    const message = fieldError(field, value, say);
    if (message) errors[field.id] = message;
    else values[field.id] = value;
  }
  return { values, errors, missing };
}

/** The answer, or why there is none. */
export function answerOf(
  sum: Sum,
  inputs: ReadInputs,
  system: UnitSystem,
): {
  readonly answer: SumAnswer | null;
  readonly error: string;
  /** What is still to be typed before there is an answer. */
  readonly waits?: string;
} {
  if (Object.keys(inputs.errors).length) return { answer: null, error: "One of the values cannot be: see beside it." };
  if (inputs.missing.length)
    return { answer: null, error: "", waits: `Type what was measured: ${inputs.missing.join(", ").toLowerCase()}.` };
  try {
    return { answer: sum.compute(inputs.values, system), error: "" };
  } catch (error) {
    return { answer: null, error: error instanceof Error ? `${error.message}.` : String(error) };
  }
}

export function unitText(quantity: Sum["fields"][number]["quantity"], system: UnitSystem): string {
  const unit = unitOf(quantity, system);
  return unit ? `, ${unit}` : "";
}

/** Curves of one or two sets of inputs in one chart. */
export function sumChart(curves: readonly SumCurve[], system: UnitSystem, ink: Ink): ChartConfiguration {
  const [first] = curves;
  const axis = (text: string) => ({
    type: "linear" as const,
    grid: { display: false },
    border: { color: ink.ink },
    ticks: { color: ink.graphite, maxTicksLimit: 7 },
    title: { display: true, text, color: ink.graphite },
  });
  const shown = (curve: SumCurve) =>
    curve.points.map((p) => ({
      x: toShown(curve.xQuantity, p.x, system),
      y: toShown(curve.yQuantity, p.y, system),
    }));
  const marks = curves.flatMap((curve, i) =>
    curve.mark
      ? [
          [
            `mark${i}`,
            {
              type: "line",
              xMin: toShown(curve.xQuantity, curve.mark.x, system),
              xMax: toShown(curve.xQuantity, curve.mark.x, system),
              borderColor: ink.graphite,
              borderWidth: 1,
              borderDash: [4, 3],
              label: {
                display: true,
                content: curve.mark.text,
                position: "start",
                color: ink.ink,
                backgroundColor: ink.sheet,
                font: { size: 11 },
              },
            },
          ] as const,
        ]
      : [],
  );
  const configuration = {
    type: "line",
    data: {
      datasets: curves.map((curve, i) => ({
        type: "line",
        label: i === 0 ? "present" : "proposed",
        data: shown(curve),
        borderColor: i === 0 ? ink.blue : ink.copper,
        borderDash: i === 0 ? [] : [6, 3],
        borderWidth: 2,
        pointRadius: 0,
      })),
    },
    options: {
      scales: {
        x: axis(`${first.xLabel}${unitText(first.xQuantity, system)}`),
        y: axis(`${first.yLabel}${unitText(first.yQuantity, system)}`),
      },
      plugins: {
        legend: { display: curves.length > 1, position: "bottom", labels: { color: ink.ink, boxHeight: 2 } },
        tooltip: { enabled: false },
        annotation: { annotations: Object.fromEntries(marks) },
      },
    },
  };
  return configuration as unknown as ChartConfiguration;
}
