import {
  effectiveDof,
  expandedUncertainty,
  fromMm,
  inQuadrature,
  mean,
  OUTSIDE_95_45,
  rectangular,
  requireBound,
  studentQuantile,
  toMm,
  type Uncertainty,
  type UncertaintyPart,
  type UnitSystem,
} from "../../quantity";
import { outliersOf, type Outlier } from "./outliers";
import type { TestPlan, TestStep } from "./plan";
import { stepsOf } from "./plan";
import {
  evaluatePositioning,
  missingForStandard,
  type PositioningEvaluation,
  type TargetReadings,
} from "./positioning";
import { keptByStep, type Reading } from "./reading";
import { scatterOfGroups, USUAL_SCATTER_MM, type Scatter } from "./scatter";
import { tipAngleFactor } from "./tip-angle";

/** How the indicator was set for a run. */
export interface IndicatorSetup {
  readonly resolutionMm: number;
  readonly tipAngleDeg: number;
  /** 1 when the display rises as the axis moves towards plus, −1 when it falls. */
  readonly sense: 1 | -1;
  /** Largest difference between going in and coming out, mm; absent where nobody noted it. */
  readonly hysteresisMm?: number;
  /** Largest error of indication over a short reach, mm; absent where nobody noted it. */
  readonly calibrationMm?: number;
  /** Units and decimals of the program that moved the axis: places are as it commanded them. */
  readonly commanded?: CommandedAs;
}

/** How a program wrote its places. */
export interface CommandedAs {
  readonly system: UnitSystem;
  readonly decimals: number;
}

/**
 * A place as a program commanded it, mm: what it rounded is no error of the machine.
 * @param mm - place as planned, mm
 * @param as - units and decimals of the program; as planned without
 * @returns mm
 * @example commandedMm(12.3456, { system: "metric", decimals: 3 }) // 12.35
 */
export function commandedMm(mm: number, as?: CommandedAs): number {
  if (!as) return mm;
  const unit = as.system === "metric" ? "mm" : "in";
  return toMm(Number(fromMm(mm, unit).toFixed(as.decimals)), unit);
}

/** The tip angle is judged by eye to about this standard uncertainty (common practice, no source). */
const TIP_ANGLE_U_RAD = (2 * Math.PI) / 180;

export interface PlaceResult {
  readonly positionMm: number;
  /** Lost motion, mm: positive is lost, negative means more than enough was compensated. */
  readonly lostMm: number;
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

/** What the readings of a run say. */
export interface LossResult {
  readonly places: readonly PlaceResult[];
  /** Index of the place with the largest loss: its value is the axis' reversal value. */
  readonly governing: number;
  readonly lostMm: number;
  readonly uncertainty: Uncertainty;
  /** Every approach was made once: a usual scatter stands in for one that nobody measured. */
  readonly repeatabilityUnknown: boolean;
  /** The widest the true loss could be from rounding alone, whatever the statistics. */
  readonly roundingBoundsMm: readonly [number, number];
  readonly iso: PositioningEvaluation | null;
  readonly missingForStandard: readonly string[];
  readonly outliers: readonly Outlier[];
}

/**
 * Table motion for what an indicator reads: 1, or along a hub’s circumference lead over 2π·r.
 * @param plan - of the test
 * @returns table motion for what is read
 * @example readingFactor({ circumference: { radiusMm: 20, perTurnMm: 10 } }) // 0.07958
 */
export function readingFactor(plan: Pick<TestPlan, "circumference">): number {
  const { circumference } = plan;
  return circumference ? circumference.perTurnMm / (2 * Math.PI * circumference.radiusMm) : 1;
}

/** The tip stays on while the axis turns round: then the indicator turns round with it. */
function tipStaysOn(plan: Pick<TestPlan, "kind" | "keepsZero">): boolean {
  return plan.keepsZero || (plan.kind !== "two-sided" && plan.kind !== "travel-profile");
}

/**
 * What the indicator itself does not know of a loss, mm: display steps, hysteresis where the tip
 * stays on over a reversal, errors of indication. All rectangular (GUM 4.3.7).
 */
function indicatorParts(plan: TestPlan, setup: IndicatorSetup, widthsMm: readonly number[]): UncertaintyPart[] {
  const factor = tipAngleFactor(setup.tipAngleDeg) * readingFactor(plan);
  const known = (u: number): UncertaintyPart => ({ u, dof: Infinity });
  const parts = widthsMm.map((w) => known(rectangular(w * factor)));
  if (setup.hysteresisMm && tipStaysOn(plan))
    // It only ever adds, from nothing to all of it, and is not taken off: √(h²/3).
    parts.push(known((setup.hysteresisMm * factor) / Math.sqrt(3)));
  if (setup.calibrationMm) parts.push(known(rectangular(2 * setup.calibrationMm * factor)));
  return parts;
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
  { step, reading, setup }: { readonly step: TestStep; readonly reading: Reading; readonly setup: IndicatorSetup },
): number {
  const at = (mm: number): number => commandedMm(mm, setup.commanded);
  const expected = plan.keepsZero ? at(step.targetMm) - at(plan.targetsMm[0]) : 0;
  const factor = tipAngleFactor(setup.tipAngleDeg) * readingFactor(plan);
  return setup.sense * reading.value * factor - expected;
}

interface PlaceParts {
  readonly positionMm: number;
  readonly lostMm: number;
  readonly up: readonly number[];
  readonly down: readonly number[];
  readonly runs: number;
  readonly known: readonly UncertaintyPart[];
  /** Scatter of the mean. */
  readonly scatter: UncertaintyPart;
}

function placeResult(p: PlaceParts): PlaceResult {
  const { positionMm, lostMm, up, down, runs, known, scatter } = p;
  return {
    positionMm,
    lostMm,
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
    const lostMm = mean(down) - mean(up);
    return placeResult({
      positionMm,
      lostMm,
      up,
      down,
      runs: Math.min(up.length, down.length),
      known: [...indicatorParts(plan, setup, [widthMm, widthMm]), tipAnglePart(lostMm, setup)],
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
  const lostMm = mean(losses);
  const [{ s, dof }] = scatterOfGroups([losses]).of;
  return placeResult({
    positionMm: plan.targetsMm[0],
    lostMm,
    up: [],
    down: [],
    runs: losses.length,
    known: [...known, tipAnglePart(lostMm, setup)],
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

function targetReadings(
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

function placesOf(
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

/** What is known of U before anything is read: display, jog step, indicator. */
function plannedParts(plan: TestPlan, setup: IndicatorSetup): UncertaintyPart[] {
  const { resolutionMm } = setup;
  if (plan.kind !== "tick-count") return indicatorParts(plan, setup, [resolutionMm, resolutionMm]);
  return [{ u: rectangular(plan.tickMm), dof: Infinity }, ...indicatorParts(plan, setup, [resolutionMm])];
}

/**
 * The least U that a test can have, mm, before it is done: what display, jog step and indicator leave
 * open, and the usual scatter where it is not repeated. Scatter of the runs comes on top.
 * @param plan - of the test
 * @param setup - the indicator
 * @returns mm
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * plannedExpanded(plan, { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 }) // 0.0008165
 */
export function plannedExpanded(plan: TestPlan, setup: IndicatorSetup): number {
  const once = plan.kind === "tick-count" || plan.kind === "out-and-back";
  const u = USUAL_SCATTER_MM * (once ? 1 : Math.SQRT2);
  const scatter = plan.runs > 1 ? [] : [{ u, dof: Infinity }];
  return expandedUncertainty([...plannedParts(plan, setup), ...scatter]).expanded;
}

/**
 * U of a loss that was measured elsewhere and typed here, mm, from what it was measured with: two
 * readings of that indicator and the usual scatter over so many runs each way.
 * @param indicator - display step, hysteresis and calibration, mm
 * @param runs - runs each way, 1 or more
 * @returns mm
 * @throws BoundError when runs is not a whole number from 1 to 50
 * @example typedExpanded({ resolutionMm: 0.001 }, 3) // 0.004967
 */
export function typedExpanded(
  indicator: Pick<IndicatorSetup, "resolutionMm" | "hysteresisMm" | "calibrationMm">,
  runs: number,
): number {
  requireBound({ runs }, Number.isInteger(runs) && runs >= 1 && runs <= 50, "a whole number from 1 to 50");
  const step = rectangular(indicator.resolutionMm);
  const hysteresis = (indicator.hysteresisMm ?? 0) / Math.sqrt(3);
  const own = rectangular(2 * (indicator.calibrationMm ?? 0));
  const scatter = USUAL_SCATTER_MM * Math.sqrt(2 / runs);
  return expandedUncertainty([step, step, hysteresis, own, scatter].map((u) => ({ u, dof: Infinity }))).expanded;
}

/**
 * Widens U for having picked the largest of several places. The picked one errs upwards, so that
 * each of the `c` places that could have been picked may err upwards in 4.55 %/c (Bonferroni, on
 * Student’s t by the degrees of freedom of the scatter); places far below could not.
 */
function widenForPicking(places: readonly PlaceResult[], governing: number): Uncertainty {
  const worst = places[governing];
  const { uncertainty, uDisplayMm, uScatterMm, scatterDof } = worst;
  const near = Math.abs(worst.lostMm) - uncertainty.expanded;
  const rivals = places.filter((p) => Math.abs(p.lostMm) + p.uncertainty.expanded >= near).length;
  if (rivals < 3) return uncertainty;
  const alpha = (2 * OUTSIDE_95_45) / rivals;
  const expanded = inQuadrature(
    studentQuantile(alpha, 1e6) * uDisplayMm,
    studentQuantile(alpha, Math.max(1, scatterDof)) * uScatterMm,
  );
  if (expanded <= uncertainty.expanded) return uncertainty;
  return { ...uncertainty, k: expanded / uncertainty.u, expanded };
}

function outliersIn(
  plan: TestPlan,
  {
    steps,
    readings,
    setup,
  }: { readonly steps: readonly TestStep[]; readonly readings: readonly Reading[]; readonly setup: IndicatorSetup },
): readonly Outlier[] {
  const kept = keptByStep(readings);
  const groups = new Map<string, { step: TestStep; deviationMm: number }[]>();
  for (const step of steps) {
    const reading = kept.get(step.index);
    if (step.action !== "read" || !reading) continue;
    const key = `${step.target}${step.direction}`;
    const deviationMm = deviationOf(plan, { step, reading, setup });
    groups.set(key, [...(groups.get(key) ?? []), { step, deviationMm }]);
  }
  const step = setup.resolutionMm * readingFactor(plan);
  return outliersOf([...groups.values()], step);
}

/**
 * Evaluates what has been read so far; null while no place has both approaches.
 * @param plan - of the test
 * @param readings - taken so far
 * @param setup - the indicator
 * @returns loss with U, mm, and all that follows
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * evaluateRun(plan, [], { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 }) // null
 */
export function evaluateRun(plan: TestPlan, readings: readonly Reading[], setup: IndicatorSetup): LossResult | null {
  const steps = stepsOf(plan);
  const places = placesOf(plan, { steps, readings, setup });
  if (places.length === 0) return null;
  let governing = 0;
  places.forEach((p, i) => {
    if (Math.abs(p.lostMm) > Math.abs(places[governing].lostMm)) governing = i;
  });
  const worst = places[governing];
  const rounding =
    plan.kind === "tick-count" ? (plan.tickMm + setup.resolutionMm) / 2 : setup.resolutionMm * readingFactor(plan);
  const targets = plan.kind === "travel-profile" ? targetReadings(plan, { steps, readings, setup }) : [];
  const missing = plan.kind === "travel-profile" ? missingForStandard(targets, plan.keepsZero) : [];
  const complete = targets.length > 0 && missing.length === 0;
  return {
    places,
    governing,
    lostMm: worst.lostMm,
    uncertainty: widenForPicking(places, governing),
    repeatabilityUnknown: places.every((p) => p.runs < 2),
    roundingBoundsMm: [worst.lostMm - rounding, worst.lostMm + rounding],
    iso: complete ? evaluatePositioning(targets) : null,
    missingForStandard: missing,
    outliers: outliersIn(plan, { steps, readings, setup }),
  };
}
