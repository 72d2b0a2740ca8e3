import {
  effectiveDof,
  expandedUncertainty,
  inQuadrature,
  mean,
  type Uncertainty,
  type UncertaintyPart,
} from "../../quantity";
import type { TestPlan, TestStep } from "./plan";
import type { TargetReadings } from "./positioning";
import { plannedParts } from "./planned-uncertainty";
import { keptByStep, type Reading } from "./reading";
import { scatterOfGroups, type Scatter } from "./scatter";
import { tipAngleFactor } from "./tip-angle";
import { type IndicatorSetup, commandedMm, readingFactor, indicatorParts, tipAnglePart } from "./indicator-setup";

export interface PlaceResult {
  readonly positionMm: number;
  /** Lost motion, mm: positive is lost, negative means more than enough was compensated. */
  readonly reversalValueMm: number;
  readonly uncertainty: Uncertainty;
  /** Share of the display, the indicator and the tip angle in u, mm: more runs do not lessen it. */
  readonly uDisplayMm: number;
  /** Share of the scatter of the runs in u, mm, and the degrees of freedom it is known by. */
  readonly uScatterMm: number;
  readonly scatterDof: number;
  /** Deviations used, mm, by approach; empty for tests that give the loss directly. */
  readonly up: readonly number[];
  readonly down: readonly number[];
  readonly runs: number;
}

/**
 * Deviation from where the axis was told to be.
 * @param plan - of the test
 * @param options - `step`: which; `reading`: what was displayed; `setup`: the indicator
 * @returns mm
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * deviationOf(plan, { step: stepsOf(plan)[1], reading: { value: -0.02 }, setup: { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 } }) // -0.02
 */
export function deviationOf(
  plan: TestPlan,
  { step, reading, setup }: { readonly step: TestStep; readonly reading: Reading; readonly setup: IndicatorSetup },
): number {
  const at = (mm: number): number => commandedMm(mm, setup.commanded);
  const expected = plan.keepsZero ? at(step.targetMm) - at(plan.targetsMm[0]) : 0;
  const factor = tipAngleFactor(setup.tipAngleDeg) * readingFactor(plan);
  return setup.sense * reading.value * factor - expected;
}

interface PlaceParts {
  readonly positionMm: number;
  readonly reversalValueMm: number;
  readonly up: readonly number[];
  readonly down: readonly number[];
  readonly runs: number;
  readonly known: readonly UncertaintyPart[];
  /** Scatter of the mean. */
  readonly scatter: UncertaintyPart;
}

function placeResult(p: PlaceParts): PlaceResult {
  const { positionMm, reversalValueMm, up, down, runs, known, scatter } = p;
  return {
    positionMm,
    reversalValueMm,
    uncertainty: expandedUncertainty([...known, scatter]),
    uDisplayMm: inQuadrature(...known.map((k) => k.u)),
    uScatterMm: scatter.u,
    scatterDof: scatter.dof,
    up,
    down,
    runs,
  };
}

/** Two-sided approaches, place by place. Both means of a place share the display's rounding. */
function twoSidedPlaces(
  plan: TestPlan,
  {
    targets,
    widthMm,
    setup,
  }: { readonly targets: readonly TargetReadings[]; readonly widthMm: number; readonly setup: IndicatorSetup },
): PlaceResult[] {
  const { of } = scatterOfGroups(targets.flatMap((t) => [t.up, t.down]));
  return targets.map(({ positionMm, up, down }, i) => {
    const reversalValueMm = mean(down) - mean(up);
    return placeResult({
      positionMm,
      reversalValueMm,
      up,
      down,
      runs: Math.min(up.length, down.length),
      known: [...indicatorParts(plan, setup, [widthMm, widthMm]), tipAnglePart(reversalValueMm, setup)],
      scatter: scatterOfDifference({ scatter: of[2 * i], n: up.length }, { scatter: of[2 * i + 1], n: down.length }),
    });
  });
}

interface Group {
  readonly scatter: Scatter;
  readonly n: number;
}

/** Scatter of the difference of two means. A shared pool keeps its degrees of freedom whole. */
function scatterOfDifference(a: Group, b: Group): UncertaintyPart {
  const [ua, ub] = [a, b].map((g) => g.scatter.s / Math.sqrt(g.n));
  const shared = a.scatter.s === b.scatter.s && a.scatter.dof === b.scatter.dof;
  const dof = shared
    ? a.scatter.dof
    : effectiveDof([
        { u: ua, dof: a.scatter.dof },
        { u: ub, dof: b.scatter.dof },
      ]);
  return { u: inQuadrature(ua, ub), dof };
}

/** Tests whose every run gives the loss itself: tick count, out-and-back. */
function directPlace(
  plan: TestPlan,
  {
    losses,
    known,
    setup,
  }: { readonly losses: readonly number[]; readonly known: readonly UncertaintyPart[]; readonly setup: IndicatorSetup },
): PlaceResult {
  const reversalValueMm = mean(losses);
  const [{ s, dof }] = scatterOfGroups([losses]).of;
  return placeResult({
    positionMm: plan.targetsMm[0],
    reversalValueMm,
    up: [],
    down: [],
    runs: losses.length,
    known: [...known, tipAnglePart(reversalValueMm, setup)],
    scatter: { u: s / Math.sqrt(losses.length), dof },
  });
}

/**
 * Loss from a tick count: after `still` steps the needle stood, after one more it had moved. Movement
 * is noticed when the display has changed by `noticedMm`, which the member reaches on average half a
 * display step before. The loss lies within one step: its middle is taken, the step counts in U.
 * @param still - whole steps that did not move the needle, 0 or more
 * @param tickMm - size of a step, mm
 * @param noticed - how far the display has changed when it is noticed, and its step, mm
 * @returns loss, mm
 * @example tickCountLoss(2, 0.01, { noticedMm: 0.001, resolutionMm: 0.001 }) // 0.0245
 */
export function tickCountLoss(
  still: number,
  tickMm: number,
  noticed: { readonly noticedMm: number; readonly resolutionMm: number },
): number {
  const { noticedMm, resolutionMm } = noticed;
  return (still + 0.5) * tickMm - (noticedMm - resolutionMm / 2);
}

/** Steps that did not move the needle; older tests counted the one that did as well. */
function stillSteps(plan: TestPlan, reading: Reading): number {
  return plan.countsStill ? reading.value : reading.value - 1;
}

/**
 * What was read at each target of a plan, by direction of approach.
 * @param plan - of the test
 * @param options - `steps`: of the plan; `readings`: taken so far; `setup`: the indicator
 * @returns deviations of each target, mm; none where nothing was read
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * targetReadings(plan, { steps: stepsOf(plan), readings: [], setup: { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 } })[0].up // []
 */
export function targetReadings(
  plan: TestPlan,
  {
    steps,
    readings,
    setup,
  }: { readonly steps: readonly TestStep[]; readonly readings: readonly Reading[]; readonly setup: IndicatorSetup },
): TargetReadings[] {
  const kept = keptByStep(readings);
  const targets = plan.targetsMm.map((positionMm) => ({
    positionMm,
    up: [] as number[],
    down: [] as number[],
  }));
  for (const step of steps) {
    const reading = kept.get(step.index);
    if (step.action !== "read" || !reading) continue;
    const deviation = deviationOf(plan, { step, reading, setup });
    (step.direction === "+" ? targets[step.target].up : targets[step.target].down).push(deviation);
  }
  return targets;
}

/**
 * The loss at each place that was read from both sides.
 * @param plan - of the test
 * @param options - `steps`: of the plan; `readings`: taken so far; `setup`: the indicator
 * @returns loss with U by place, mm
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * placesOf(plan, { steps: stepsOf(plan), readings: [], setup: { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 } }) // []
 */
export function placesOf(
  plan: TestPlan,
  {
    steps,
    readings,
    setup,
  }: { readonly steps: readonly TestStep[]; readonly readings: readonly Reading[]; readonly setup: IndicatorSetup },
): PlaceResult[] {
  const kept = keptByStep(readings);
  const read = steps.filter((s) => s.action !== "zero" && kept.has(s.index));
  const { resolutionMm } = setup;
  const widest = Math.max(resolutionMm * 1e-9, ...read.map((s) => kept.get(s.index)?.widthMm ?? 0));
  if (plan.kind === "tick-count") {
    if (read.length === 0) return [];
    const losses = read.map((s) => {
      const r = kept.get(s.index) as Reading;
      const noticed = { noticedMm: r.widthMm, resolutionMm };
      return tickCountLoss(stillSteps(plan, r), plan.tickMm, noticed);
    });
    return [directPlace(plan, { losses, known: plannedParts(plan, setup), setup })];
  }
  if (plan.kind === "out-and-back") {
    if (read.length === 0) return [];
    const losses = read.map((s) => deviationOf(plan, { step: s, reading: kept.get(s.index) as Reading, setup }));
    const known = indicatorParts(plan, setup, [widest, widest]);
    return [directPlace(plan, { losses, known, setup })];
  }
  const targets = targetReadings(plan, { steps, readings, setup }).filter((t) => t.up.length > 0 && t.down.length > 0);
  return twoSidedPlaces(plan, { targets, widthMm: widest, setup });
}
