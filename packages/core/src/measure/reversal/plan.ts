import { BoundError, requireBound } from "../../quantity";
import type { Direction, WantedApproach } from "./approach";

/** Tests of the whole chain, at the member. */
export const CHAIN_TEST_KINDS = ["tick-count", "out-and-back", "two-sided", "travel-profile"] as const;
/** Tests of a part of the chain: the same two-sided approach with the indicator set across it. */
export const SPLIT_TEST_KINDS = ["end-float", "nut-flank", "coupling-slip", "housing-shift", "bracket-shift"] as const;
export const TEST_KINDS = [...CHAIN_TEST_KINDS, ...SPLIT_TEST_KINDS] as const;
export type TestKind = (typeof TEST_KINDS)[number];
export type SplitTestKind = (typeof SPLIT_TEST_KINDS)[number];

/**
 * Does a test measure a part of the chain?
 * @param kind - of the test
 * @returns whether it does
 * @example isSplitTest("end-float") // true
 */
export function isSplitTest(kind: TestKind): kind is SplitTestKind {
  return SPLIT_TEST_KINDS.some((k) => k === kind);
}

/**
 * Tests whose approaches a program can make: all but those that count or step by hand.
 * @param kind - of the test
 * @returns whether it does
 * @example hasProgram("tick-count") // false
 */
export function hasProgram(kind: TestKind): boolean {
  return kind !== "tick-count" && kind !== "out-and-back";
}

/** What is to be done, fixed when a test begins. Lengths mm. */
export interface TestPlan {
  readonly kind: TestKind;
  /** One place, or five and more for a travel profile, ascending. */
  readonly targetsMm: readonly number[];
  readonly runs: number;
  /** How far past the target before each approach. */
  readonly overTravelMm: number;
  /** Size of one jog step: tick count and out-and-back. */
  readonly tickMm: number;
  /** Steps out and back: out-and-back only. */
  readonly ticksOut: number;
  /** The indicator keeps its zero over all targets (a reference scale): one pass visits them all. */
  readonly keepsZero: boolean;
  /** End float without a ball: whole turns to a mark, so that an untrue face reads the same. */
  readonly markedTurns?: boolean;
  /** Tick count: steps that did *not* move the needle are counted. Older tests counted until it moved. */
  readonly countsStill?: boolean;
  /** Coupling slip: read along a hub’s circumference, turned into table motion by the lead. */
  readonly circumference?: {
    readonly radiusMm: number;
    readonly perTurnMm: number;
  };
}

/** One action: bring the axis somewhere in a known way, then zero, read or count. */
export interface TestStep {
  readonly index: number;
  readonly action: "zero" | "read" | "count";
  readonly target: number;
  readonly targetMm: number;
  readonly direction: Direction;
  readonly run: number;
  /** Length of the stroke before the target. */
  readonly runUpMm: number;
}

/**
 * The steps of a plan, in order. The order is the method: approaches alternate so that drift falls
 * on both directions alike, and with a reference scale the axis goes all the way up, then all the
 * way down (ISO 230-2:2014 figure 1, the standard test cycle).
 * @param plan - of the test
 * @returns the steps
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * stepsOf(plan).map((s) => s.action + s.direction) // [ "zero+", "read+", "read-", "read+", "read-" ]
 */
export function stepsOf(plan: TestPlan): readonly TestStep[] {
  const steps: TestStep[] = [];
  const add = (
    action: TestStep["action"],
    {
      target,
      direction,
      run,
      runUpMm = plan.overTravelMm,
    }: { readonly target: number; readonly direction: Direction; readonly run: number; readonly runUpMm?: number },
  ): void => {
    steps.push({
      index: steps.length,
      action,
      target,
      targetMm: plan.targetsMm[target],
      direction,
      run,
      runUpMm,
    });
  };
  const runs = Array.from({ length: plan.runs }, (_, i) => i + 1);
  const targets = plan.targetsMm.map((_, i) => i);
  switch (plan.kind) {
    case "tick-count":
      for (const run of runs) {
        add("zero", { target: 0, direction: "+", run });
        add("count", { target: 0, direction: "-", run, runUpMm: 0 });
      }
      break;
    case "out-and-back":
      for (const run of runs) {
        add("zero", { target: 0, direction: "+", run });
        add("read", { target: 0, direction: "-", run, runUpMm: plan.tickMm * plan.ticksOut });
      }
      break;
    default:
      if (plan.keepsZero) {
        add("zero", { target: 0, direction: "+", run: 1 });
        for (const run of runs) {
          for (const target of targets) add("read", { target, direction: "+", run });
          for (const target of [...targets].reverse()) add("read", { target, direction: "-", run });
        }
      } else {
        for (const target of targets) {
          add("zero", { target, direction: "+", run: 1 });
          for (const run of runs) {
            add("read", { target, direction: "+", run });
            add("read", { target, direction: "-", run });
          }
        }
      }
  }
  return steps;
}

/**
 * The approach a step asks for. Counting starts where zero was set, so it asks for none.
 * @param plan - of the test
 * @param step - which
 * @returns place, direction, run-up and tolerance, mm
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * wantedApproach(plan, stepsOf(plan)[0]).minRunUpMm // 2.5
 */
export function wantedApproach(plan: TestPlan, step: TestStep): WantedApproach {
  const toleranceMm = Math.min(plan.tickMm / 2, 0.0006);
  const pass = plan.keepsZero && plan.targetsMm.length > 1;
  const gaps = plan.targetsMm.slice(1).map((p, i) => p - plan.targetsMm[i]);
  const runUp = pass ? Math.min(step.runUpMm, ...gaps) : step.runUpMm;
  const minRunUpMm = plan.kind === "out-and-back" && step.action === "read" ? runUp : runUp / 2;
  return {
    targetMm: step.targetMm,
    direction: step.direction,
    minRunUpMm,
    toleranceMm,
  };
}

/**
 * Checks a plan against the travel. Errors name value and bound.
 * @param plan - of the test
 * @param travelMm - travel of the axis, mm
 * @throws BoundError naming value and bound
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * checkPlan(plan, 500) // undefined
 */
export function checkPlan(plan: TestPlan, travelMm: number): void {
  requireBound(
    { runs: plan.runs },
    Number.isInteger(plan.runs) && plan.runs >= 1 && plan.runs <= 50,
    "a whole number from 1 to 50",
  );
  const least = plan.kind === "travel-profile" ? 2 : 1;
  const most = plan.kind === "travel-profile" ? 1000 : 1;
  requireBound(
    { "number of places": plan.targetsMm.length },
    plan.targetsMm.length >= least && plan.targetsMm.length <= most,
    least === most ? "exactly 1" : `from ${least} to ${most}`,
  );
  requireBound({ "jog step": plan.tickMm }, plan.tickMm > 0 && plan.tickMm <= 1, "above 0 and up to 1 mm");
  requireBound({ "over-travel": plan.overTravelMm }, plan.overTravelMm > 0, "above 0 mm");
  if (plan.circumference) {
    const { radiusMm, perTurnMm } = plan.circumference;
    requireBound({ "hub radius": radiusMm }, radiusMm >= 1 && radiusMm <= 1000, "from 1 to 1000 mm");
    requireBound({ "travel for a turn": perTurnMm }, perTurnMm > 0, "above 0 mm");
  }
  if (plan.kind === "out-and-back") {
    requireBound(
      { "steps out": plan.ticksOut },
      Number.isInteger(plan.ticksOut) && plan.ticksOut >= 2 && plan.ticksOut <= 1000,
      "a whole number from 2 to 1000",
    );
  }
  const past =
    plan.kind === "out-and-back" ? Math.max(plan.overTravelMm, plan.tickMm * plan.ticksOut) : plan.overTravelMm;
  let previous = -Infinity;
  for (const target of plan.targetsMm) {
    if (!(target > previous)) throw new BoundError("place", target, "in ascending order, each once");
    previous = target;
    const needs = `from ${past} to ${travelMm - past} mm, so that the ${past} mm over-travel stays inside the travel of 0 to ${travelMm} mm`;
    requireBound({ place: target }, target - past >= -1e-9 && target + past <= travelMm + 1e-9, needs);
  }
}

/**
 * Places for a travel profile: evenly spread with a small uneven shift, so that a once-per-turn error
 * is not met at the same phase each time (ISO 230-2:2014, 4.3.2 asks for such a shift). The ends lie on
 * the over-travel itself, to a tenth of a micrometre inwards; between them places are rounded only as far as they stay apart, so that
 * {@link checkPlan} takes them.
 * @param travelMm - travel of the axis, mm
 * @param options - `count`: how many places; `overTravelMm`: kept free at each end; `perTurnMm`: travel for a turn of
 *   the screw
 * @returns places, ascending, mm
 * @throws BoundError when over-travel and places do not fit the travel
 * @example profileTargets(500, { count: 5, overTravelMm: 5, perTurnMm: 10 }).length // 5
 */
export function profileTargets(
  travelMm: number,
  {
    count,
    overTravelMm,
    perTurnMm,
  }: { readonly count: number; readonly overTravelMm: number; readonly perTurnMm: number },
): readonly number[] {
  const last = travelMm - overTravelMm;
  requireBound({ "number of places": count }, Number.isInteger(count) && count >= 2, "a whole number from 2 on");
  requireBound(
    { "over-travel": overTravelMm },
    overTravelMm > 0 && overTravelMm < last,
    `above 0 and below half the travel of ${travelMm} mm`,
  );
  const pitch = (last - overTravelMm) / (count - 1);
  const decimals = Math.max(1, Math.ceil(-Math.log10(pitch / 5)));
  return Array.from({ length: count }, (_, i) => {
    if (i === 0) return Math.ceil(overTravelMm * 1e4 - 1e-6) / 1e4;
    if (i === count - 1) return Math.floor(last * 1e4 + 1e-6) / 1e4;
    const shift = ((((i * 7) % 5) - 2) / 5) * Math.min(perTurnMm, pitch / 2);
    return Number((overTravelMm + i * pitch + shift).toFixed(decimals));
  });
}
