import {
  analyseCircle,
  defaultAxis,
  joinPlanes,
  USUAL_CIRCLE_LIMITS,
  type CirclePlan,
  type CircleTrace,
} from "@iron/core";
import type { Axis, CircleDrawn, CirclePlane, CircleSession } from "@iron/contract";

export const PLAN: CirclePlan = {
  letters: ["X", "Y"],
  centreMm: [300, 200],
  radiusMm: 100,
  feedMmMin: 1000,
  startDeg: 0,
  spanDeg: 360,
  overrunDeg: 45,
  leadMm: 1.5,
  first: 1,
  dwellS: 3,
};

/** Axes X and Y of a machine. */
export const AXES = ["X", "Y"].map((letter, i) => ({
  id: i + 1,
  machineId: 1,
  config: defaultAxis("vertical-centre", letter),
  version: 1,
  updatedAt: "2026-03-02T08:00:00Z",
  updatedBy: "Ama",
  retiredAt: null,
})) as unknown as Axis[];

/** A circle that leans by so much, mm over its radius, with a step where X turns round. */
export const leaning = (direction: 1 | -1, leanMm: number, stepMm = 0): CircleTrace => {
  const angles = Float64Array.from({ length: 720 }, (_, i) => (direction * i * Math.PI) / 360);
  return {
    direction,
    angles,
    deviations: angles.map((a) => {
      const inwards = -direction * Math.sin(a) * Math.cos(a) > 0 ? 0 : -1;
      return leanMm * Math.sin(2 * a) + stepMm * (inwards + 0.5) * Math.abs(Math.cos(a));
    }),
  };
};

export const pass = (id: number, direction: 1 | -1, over: object = {}) => ({
  id,
  direction,
  source: "bar" as const,
  readings: 720,
  troubles: [],
  used: true,
  reason: "",
  at: "2026-03-02T09:00:00Z",
  by: "Ama",
  ...over,
});

export function circlePlane(traces: readonly CircleTrace[], over: Partial<CirclePlane> = {}): CirclePlane {
  const setup = {
    radiusMm: 100,
    feedMmMin: 1000,
    centreMm: [300, 200] as const,
    axes: [
      { letter: "X", perTurnMm: 10 },
      { letter: "Y", perTurnMm: 10 },
    ] as const,
  };
  return {
    id: 11,
    plan: { ...PLAN },
    axisIds: [1, 2],
    perTurnMm: [10, 10],
    passes: traces.map((t, i) => pass(i + 1, t.direction)),
    analysis: traces.length ? analyseCircle(traces, setup, { calibrated: false, barU: 0.0005 }) : null,
    why: "",
    ...over,
  };
}

export function circleSession(planes: readonly CirclePlane[], over: Partial<CircleSession> = {}): CircleSession {
  return {
    id: 5,
    machineId: 1,
    state: "open",
    startedAt: "2026-03-02T08:30:00Z",
    finishedAt: null,
    by: "Ama",
    reason: "",
    note: "",
    temperatureC: 20,
    bar: { name: "Bar", resolutionMm: 0.0001, uMm: 0.0005, calibrated: false },
    planes: [...planes],
    joint: joinPlanes([]),
    limits: { limits: USUAL_CIRCLE_LIMITS, why: "", by: "", at: null },
    fresh: [],
    connected: true,
    reading: null,
    ...over,
  };
}

export const drawnOf = (traces: readonly CircleTrace[]): CircleDrawn => ({
  traces: traces.map(({ direction, angles, deviations }, i) => ({
    passId: i + 1,
    direction,
    angles: Array.from(angles, (a) => (a * 180) / Math.PI),
    deviations: Array.from(deviations, (d) => 1000 * d),
  })),
});
