import { usualCircles, USUAL_FEED, type CirclePlan, type UnitSystem } from "@iron/core";
import type { Axis, CircleCreate } from "@iron/contract";

/** A plane as the form asks for it. */
export interface PlaneDraft {
  readonly on: boolean;
  readonly a: number;
  readonly b: number;
  readonly shape: "full" | "upper" | "lower";
}

export interface SetUpDraft {
  readonly radiusMm: number;
  readonly feedMmMin: number;
  /** Read all of it once more at this feed; null for once. */
  readonly secondFeed: number | null;
  readonly first: "1" | "-1";
  readonly barName: string;
  readonly resolutionMm: number;
  readonly barU: number;
  readonly calibrated: boolean;
  readonly temperatureC: number | null;
  readonly note: string;
  readonly planes: readonly PlaneDraft[];
}

/** An arc is read over half a circle; a full one all round. */
const SHAPES: Readonly<Record<PlaneDraft["shape"], Pick<CirclePlan, "spanDeg" | "overrunDeg">>> = {
  full: { spanDeg: 360, overrunDeg: 45 },
  upper: { spanDeg: 180, overrunDeg: 20 },
  lower: { spanDeg: 180, overrunDeg: 20 },
};

/** What a bar usually shows and how well it is known, mm, in numbers that are round in their units. */
const USUAL_BAR: Readonly<Record<UnitSystem, Pick<SetUpDraft, "resolutionMm" | "barU">>> = {
  metric: { resolutionMm: 0.0001, barU: 0.0005 },
  inch: { resolutionMm: 0.05 * 0.00254, barU: 0.2 * 0.00254 },
};

/** The planes of a machine as they are usually begun. */
export const usualPlanes = (axes: readonly Axis[], system: UnitSystem): readonly CirclePlan[] =>
  usualCircles(
    axes.filter((a) => a.retiredAt === null).map((a) => a.config),
    system,
  );

export function usualDraft(plans: readonly CirclePlan[], system: UnitSystem): SetUpDraft {
  return {
    radiusMm: Math.min(...plans.map((p) => p.radiusMm)),
    feedMmMin: Math.min(USUAL_FEED[system], ...plans.map((p) => p.feedMmMin)),
    secondFeed: null,
    first: "1",
    barName: "Telescoping bar",
    ...USUAL_BAR[system],
    calibrated: false,
    temperatureC: 20,
    note: "",
    planes: plans.map((p) => ({
      on: true,
      a: p.centreMm[0],
      b: p.centreMm[1],
      shape: p.spanDeg === 360 ? "full" : "upper",
    })),
  };
}

/** What is sent of what stands in the form. */
export function createOf(draft: SetUpDraft, plans: readonly CirclePlan[]): CircleCreate {
  const feeds = draft.secondFeed === null ? [draft.feedMmMin] : [draft.feedMmMin, draft.secondFeed];
  return {
    plans: feeds.flatMap((feedMmMin) => planesAt(draft, plans, feedMmMin)),
    bar: {
      name: draft.barName,
      resolutionMm: draft.resolutionMm,
      uMm: draft.barU,
      calibrated: draft.calibrated,
    },
    temperatureC: draft.temperatureC,
    note: draft.note,
  };
}

/** The planes that are ticked, at one feed. */
function planesAt(draft: SetUpDraft, plans: readonly CirclePlan[], feedMmMin: number): CircleCreate["plans"] {
  return draft.planes.flatMap((plane, i) => {
    if (!plane.on) return [];
    const { leadMm, dwellS, letters, startDeg } = plans[i];
    // Half a circle from the usual start, or the other half.
    const from = plane.shape === "full" ? 0 : plane.shape === "upper" ? startDeg : startDeg + 180;
    return [
      {
        letters: [letters[0], letters[1]] as [string, string],
        centreMm: [plane.a, plane.b] as [number, number],
        radiusMm: draft.radiusMm,
        feedMmMin,
        startDeg: from,
        ...SHAPES[plane.shape],
        leadMm,
        first: draft.first === "1" ? (1 as const) : (-1 as const),
        dwellS,
      },
    ];
  });
}

/** The field that an issue of what is sent is about: of all planes the radius and the feed are one. */
export function fieldOf(path: string): string {
  const plan = /^plans\.\d+\.(radiusMm|feedMmMin)/.exec(path);
  if (plan) return plan[1];
  if (path === "bar.name") return "barName";
  if (path === "bar.uMm") return "barU";
  return path.startsWith("bar.") ? path.slice("bar.".length) : path;
}
