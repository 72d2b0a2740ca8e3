import {
  formatSize,
  fromMm,
  type FindingId,
  type LoadSample,
  type UnitSystem,
} from "@iron/core";
import type { loadTraceSchema } from "@iron/contract";
import type { ChartConfiguration } from "chart.js";
import type { z } from "zod";
import type { Ink } from "../../shared/chart";
import { loadWords } from "./case.view";

export interface LoadTraceView {
  readonly samples: readonly LoadSample[];
  readonly unit: "%" | "A";
  readonly analysis: z.infer<typeof loadTraceSchema>;
}

/** Friction that a sound axis of this size is taken to have, % of full load (common practice, no source). */
const SOUND_FRICTION_PERCENT = 4;

/** What a trace says by itself; the technician may say otherwise. */
export function loadFindings(view: LoadTraceView): Partial<Record<FindingId, boolean>> {
  const { friction, gravity, lowEnd, highEnd, perTurn, spots } = view.analysis;
  const size = Math.abs(friction.value);
  const percent = view.unit === "%";
  return {
    ...(percent ? { "tight-all": size > 1.75 * SOUND_FRICTION_PERCENT } : {}),
    "tight-end": [lowEnd, highEnd].some((e) => e.real && e.value > 0.35 * size),
    "tight-turn": perTurn.real,
    "tight-spot": spots.length > 0,
    "tight-one-way": Math.abs(gravity.value) > 0.8 * size,
    "gravity-off": percent && Math.abs(gravity.value) > 0.5 * SOUND_FRICTION_PERCENT,
  };
} // prettier-ignore

export interface LoadPartView {
  readonly name: string;
  readonly value: string;
  readonly points: string;
}

/** Each part of the trace and what it points to. */
export function loadParts(view: LoadTraceView, system: UnitSystem): readonly LoadPartView[] {
  const { friction, gravity, lowEnd, highEnd, perTurn, spots } = view.analysis;
  const part = (name: string, p: { value: number; u: number; real: boolean }, points: string): LoadPartView => ({
    name,
    value: `${loadWords(p.value, view.unit)} ± ${(2 * p.u).toFixed(1)}`,
    points: p.real ? points : 'nothing out of the ordinary',
  });
  return [
    part('Friction, both ways', friction, 'high over the whole travel points to gib, wheels, bearing nut or a dry way'),
    part('Gravity', gravity, 'out of balance points to counterweight, spring or a drag brake'),
    part('Rise at the lower end', lowEnd, 'a screw out of line with the ways, or the wrong tightening order'),
    part('Rise at the upper end', highEnd, 'a screw out of line with the ways, or the wrong tightening order'),
    part('Once per turn', perTurn, 'bent screw, eccentric coupling or journal'),
    ...spots.map((s) => ({
      name: `Spot at ${formatSize(Math.round(s.peakMm), system)}`,
      value: loadWords(s.extra, view.unit),
      points: 'chips or damage there; a rack high spot',
    })),
  ];
} // prettier-ignore

/** The trace with the parts laid over it: both directions, the model as a thin line. */
export function loadChart(view: LoadTraceView, system: UnitSystem, ink: Ink): ChartConfiguration {
  const unit = system === "metric" ? "mm" : "in";
  const points = (direction: "+" | "-", what: "load" | "fit") =>
    view.samples
      .map((s, i) => ({ x: fromMm(s.positionMm, unit), y: what === "load" ? s.load : view.analysis.fitted[i], d: s.direction }))
      .filter((p, i) => p.d === direction && p.y !== null && view.analysis.fitted[i] !== null)
      .map(({ x, y }) => ({ x, y: y as number }));
  const line = (label: string, data: { x: number; y: number }[], colour: string, width: number, dash: number[] = []) => ({
    type: 'line' as const, label, data, borderColor: colour, backgroundColor: colour, borderWidth: width, borderDash: dash, pointRadius: 0,
  });
  const spots = Object.fromEntries(view.analysis.spots.map((s, i) => [
    `spot${i}`,
    { type: 'box' as const, xMin: fromMm(s.fromMm, unit), xMax: fromMm(s.toMm, unit), backgroundColor: `${ink.oxide}22`, borderColor: ink.oxide, borderWidth: 1, label: { display: true, content: 'spot', color: ink.oxide, position: { x: 'center' as const, y: 'start' as const }, font: { size: 11 } } },
  ]));
  const axis = (text: string) => ({ type: 'linear' as const, grid: { display: false }, border: { color: ink.ink }, ticks: { color: ink.graphite, maxTicksLimit: 7 }, title: { display: true, text, color: ink.graphite } });
  const configuration = {
    type: 'line',
    data: {
      datasets: [
        line('towards plus', points('+', 'load'), ink.blue, 1),
        line('towards minus', points('-', 'load'), ink.copper, 1, [4, 3]),
        line('parts together, towards plus', points('+', 'fit'), ink.ink, 2),
        line('parts together, towards minus', points('-', 'fit'), ink.graphite, 2, [8, 3]),
      ],
    },
    options: {
      scales: { x: axis(`position, ${unit}`), y: axis(`drive load, ${view.unit}`) },
      plugins: { legend: { position: 'bottom', labels: { color: ink.ink, boxHeight: 2 } }, tooltip: { enabled: false }, annotation: { annotations: spots } },
    },
  };
  return configuration as unknown as ChartConfiguration;
} // prettier-ignore
