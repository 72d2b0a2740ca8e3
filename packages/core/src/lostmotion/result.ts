import { probit } from "simple-statistics";
import {
  expandedUncertainty,
  grubbsOutlier,
  mean,
  rectangular,
  sampleDeviation,
  type Uncertainty,
  type UncertaintyPart,
} from "../quantity";
import type { TestPlan, TestStep } from "./plan";
import { stepsOf } from "./plan";
import {
  evaluatePositioning,
  missingForStandard,
  type PositioningEvaluation,
  type TargetReadings,
} from "./positioning";
import { keptByStep, type Reading } from "./reading";
import { tipAngleFactor } from "./tip-angle";

/** How the indicator was set for a run. */
export interface IndicatorSetup {
  readonly resolutionMm: number;
  readonly tipAngleDeg: number;
  /** 1 when the display rises as the axis moves towards plus, −1 when it falls. */
  readonly sense: 1 | -1;
}

/** The tip angle is judged by eye to about this standard uncertainty (common practice, no source). */
const TIP_ANGLE_U_RAD = (2 * Math.PI) / 180;

export interface PlaceResult {
  readonly positionMm: number;
  /** Lost motion, mm: positive is lost, negative means more than enough was compensated. */
  readonly lostMm: number;
  readonly uncertainty: Uncertainty;
  /** Deviations used, mm, by approach; empty for tests that give the loss directly. */
  readonly up: readonly number[];
  readonly down: readonly number[];
  readonly runs: number;
}

export interface Outlier {
  readonly step: number;
  readonly positionMm: number;
  readonly deviationMm: number;
  readonly test: "Grubbs, two-sided 5 %";
}

/** What the readings of a run say. */
export interface LossResult {
  readonly places: readonly PlaceResult[];
  /** Index of the place with the largest loss: its value is the axis' reversal value. */
  readonly governing: number;
  readonly lostMm: number;
  readonly uncertainty: Uncertainty;
  /** Fewer than two runs somewhere: U holds the display's share only. */
  readonly repeatabilityUnknown: boolean;
  /** The widest the true loss could be from rounding alone, whatever the statistics. */
  readonly roundingBoundsMm: readonly [number, number];
  readonly iso: PositioningEvaluation | null;
  readonly missingForStandard: readonly string[];
  readonly outliers: readonly Outlier[];
}

function scatterPart(s: number, n: number): UncertaintyPart[] {
  return n > 1 ? [{ u: s / Math.sqrt(n), dof: n - 1 }] : [];
}

function tipAnglePart(lostMm: number, setup: IndicatorSetup): UncertaintyPart {
  const phi = (setup.tipAngleDeg * Math.PI) / 180;
  return {
    u: Math.abs(lostMm) * Math.tan(phi) * TIP_ANGLE_U_RAD,
    dof: Infinity,
  };
}

/** Deviation from where the axis was told to be, mm. */
function deviationOf(
  plan: TestPlan,
  step: TestStep,
  reading: Reading,
  setup: IndicatorSetup,
): number {
  const expected = plan.keepsZero ? step.targetMm - plan.targetsMm[0] : 0;
  return (
    setup.sense * reading.value * tipAngleFactor(setup.tipAngleDeg) - expected
  );
}

/** Two-sided approaches at one place. Both means share the display's rounding, GUM 4.3.7. */
function twoSidedPlace(
  target: TargetReadings,
  widthMm: number,
  setup: IndicatorSetup,
): PlaceResult {
  const { up, down } = target;
  const lostMm = mean(down) - mean(up);
  const display = {
    u: rectangular(widthMm * tipAngleFactor(setup.tipAngleDeg)),
    dof: Infinity,
  };
  const uncertainty = expandedUncertainty([
    display,
    display,
    ...scatterPart(sampleDeviation(up), up.length),
    ...scatterPart(sampleDeviation(down), down.length),
    tipAnglePart(lostMm, setup),
  ]);
  return {
    positionMm: target.positionMm,
    lostMm,
    uncertainty,
    up,
    down,
    runs: Math.min(up.length, down.length),
  };
}

/** Tests whose every run gives the loss itself: tick count, out-and-back. */
function directPlace(
  positionMm: number,
  losses: readonly number[],
  widthsMm: readonly number[],
  setup: IndicatorSetup,
): PlaceResult {
  const lostMm = mean(losses);
  const uncertainty = expandedUncertainty([
    ...widthsMm.map((w) => ({ u: rectangular(w), dof: Infinity })),
    ...scatterPart(sampleDeviation(losses), losses.length),
    tipAnglePart(lostMm, setup),
  ]);
  return {
    positionMm,
    lostMm,
    uncertainty,
    up: [],
    down: [],
    runs: losses.length,
  };
}

/**
 * Loss from a tick count: the needle had not moved after N − 1 ticks and had after N. Movement is
 * noticed when the display has changed by `noticedMm`, which the member reaches on average half a
 * display step before.
 * @example tickCountLoss(3, 0.01, 0.001, 0.001) // 0.0245
 */
export function tickCountLoss(
  count: number,
  tickMm: number,
  noticedMm: number,
  resolutionMm: number,
): number {
  return (count - 0.5) * tickMm - (noticedMm - resolutionMm / 2);
}

function targetReadings(
  plan: TestPlan,
  steps: readonly TestStep[],
  readings: readonly Reading[],
  setup: IndicatorSetup,
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
    const deviation = deviationOf(plan, step, reading, setup);
    (step.direction === "+"
      ? targets[step.target].up
      : targets[step.target].down
    ).push(deviation);
  }
  return targets;
}

function placesOf(
  plan: TestPlan,
  steps: readonly TestStep[],
  readings: readonly Reading[],
  setup: IndicatorSetup,
): PlaceResult[] {
  const kept = keptByStep(readings);
  const read = steps.filter((s) => s.action !== "zero" && kept.has(s.index));
  const widest = Math.max(
    setup.resolutionMm * 1e-9,
    ...read.map((s) => kept.get(s.index)?.widthMm ?? 0),
  );
  if (plan.kind === "tick-count") {
    if (read.length === 0) return [];
    const losses = read.map((s) => {
      const r = kept.get(s.index) as Reading;
      return tickCountLoss(r.value, plan.tickMm, r.widthMm, setup.resolutionMm);
    });
    return [
      directPlace(
        plan.targetsMm[0],
        losses,
        [plan.tickMm, setup.resolutionMm],
        setup,
      ),
    ];
  }
  if (plan.kind === "out-and-back") {
    if (read.length === 0) return [];
    const losses = read.map((s) =>
      deviationOf(plan, s, kept.get(s.index) as Reading, setup),
    );
    return [directPlace(plan.targetsMm[0], losses, [widest, widest], setup)];
  }
  return targetReadings(plan, steps, readings, setup)
    .filter((t) => t.up.length > 0 && t.down.length > 0)
    .map((t) => twoSidedPlace(t, widest, setup));
}

/**
 * Widens U for having picked the largest of several places, so that about 95 % holds for all of them
 * together (Šidák 1967, normal quantiles).
 */
function widenForPicking(
  uncertainty: Uncertainty,
  places: number,
): Uncertainty {
  if (places < 2) return uncertainty;
  const each = 0.9545 ** (1 / places);
  const k = (uncertainty.k * probit((1 + each) / 2)) / 2;
  return { ...uncertainty, k, expanded: k * uncertainty.u };
}

function outliersOf(
  plan: TestPlan,
  steps: readonly TestStep[],
  readings: readonly Reading[],
  setup: IndicatorSetup,
): Outlier[] {
  const kept = keptByStep(readings);
  const groups = new Map<string, TestStep[]>();
  for (const step of steps) {
    if (step.action !== "read" || !kept.has(step.index)) continue;
    const key = `${step.target}${step.direction}`;
    groups.set(key, [...(groups.get(key) ?? []), step]);
  }
  const found: Outlier[] = [];
  for (const group of groups.values()) {
    const deviations = group.map((s) =>
      deviationOf(plan, s, kept.get(s.index) as Reading, setup),
    );
    const worst = grubbsOutlier(deviations, setup.resolutionMm);
    if (worst === undefined) continue;
    found.push({
      step: group[worst].index,
      positionMm: group[worst].targetMm,
      deviationMm: deviations[worst],
      test: "Grubbs, two-sided 5 %",
    });
  }
  return found;
}

/** Evaluates what has been read so far; null while no place has both approaches. */
export function evaluateRun(
  plan: TestPlan,
  readings: readonly Reading[],
  setup: IndicatorSetup,
): LossResult | null {
  const steps = stepsOf(plan);
  const places = placesOf(plan, steps, readings, setup);
  if (places.length === 0) return null;
  let governing = 0;
  places.forEach((p, i) => {
    if (Math.abs(p.lostMm) > Math.abs(places[governing].lostMm)) governing = i;
  });
  const worst = places[governing];
  const rounding =
    plan.kind === "tick-count"
      ? (plan.tickMm + setup.resolutionMm) / 2
      : setup.resolutionMm;
  const targets =
    plan.kind === "travel-profile"
      ? targetReadings(plan, steps, readings, setup)
      : [];
  const missing =
    plan.kind === "travel-profile"
      ? missingForStandard(targets, plan.keepsZero)
      : [];
  const complete = targets.length > 0 && missing.length === 0;
  return {
    places,
    governing,
    lostMm: worst.lostMm,
    uncertainty: widenForPicking(worst.uncertainty, places.length),
    repeatabilityUnknown: places.some((p) => p.runs < 2),
    roundingBoundsMm: [worst.lostMm - rounding, worst.lostMm + rounding],
    iso: complete ? evaluatePositioning(targets) : null,
    missingForStandard: missing,
    outliers: outliersOf(plan, steps, readings, setup),
  };
}
