import { requireBound } from "../../quantity";
import { isSplitTest, signOf, stepsOf, type TestPlan, type TestStep } from "../reversal";

/**
 * How the tip gets out of the way before the axis goes past a target. On one side of the target the
 * block would be driven into the tip, so it is lifted before and set down again to read.
 */
export type TipLift =
  /** By a second axis, which stands at `clearMm` while the axis goes past and at `readMm` to read. */
  | {
      readonly way: "axis";
      /** As the control writes it: X, or Z2= for an axis with a digit. */
      readonly letter: string;
      /** Of that axis: it is not sent further, counted from either end. */
      readonly travelMm: number;
      readonly clearMm: number;
      readonly readMm: number;
    }
  /** By hand: the program stops each time. */
  | { readonly way: "by-hand" }
  /** Not at all: only where the tip rides along, on a scale or on a part of the drive. */
  | { readonly way: "none" };

export interface ProgramOptions {
  /** As the control writes it: X, or Z2= for an axis with a digit. */
  readonly letter: string;
  readonly feedMmMin: number;
  readonly dwellS: number;
  readonly lift: TipLift;
  /** The program stops for setting zero, so that nobody hurries; or dwells. */
  readonly zeroBy: "stop" | "dwell";
}

/** One move of a test program. `step` marks where that step is zeroed or read. */
export type ProgramMove =
  | { readonly kind: "rapid"; readonly toMm: number; readonly note: string }
  | { readonly kind: "feed"; readonly toMm: number; readonly note: string }
  | { readonly kind: "clear" | "set-down"; readonly toMm: number }
  | {
      readonly kind: "dwell";
      readonly seconds: number;
      readonly step: number;
      readonly note: string;
    }
  | {
      readonly kind: "stop";
      readonly step: number | null;
      readonly note: string;
    };

/**
 * Must the tip be lifted before the axis goes past a target in this test?
 * @param plan - of the test
 * @returns whether it must
 * @example needsLift({ kind: "two-sided", keepsZero: false }) // true
 */
export function needsLift(plan: Pick<TestPlan, "kind" | "keepsZero">): boolean {
  return !plan.keepsZero && !isSplitTest(plan.kind);
}

/** Least way between clear and reading, mm: less would not free a tip of usual preload. */
const LEAST_LIFT_MM = 0.5;

/** What a program can be refused for, as it is said: a {@link BoundError} names one of these. */
export const PROGRAM_ARGUMENTS = {
  feed: "feed",
  dwell: "dwell",
  clear: "place where the tip is clear, mm,",
  read: "place where the tip reads, mm,",
  clearance: "clearance",
} as const;

/**
 * Checks feed, dwell and lift; the places are checked with the plan.
 * @param plan - of the test
 * @param options - letters, feed, dwell, lift
 * @param rapidMmMin - rapid of the axis, mm/min
 * @throws BoundError naming value and bound
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * const how = { letter: "X", feedMmMin: 1000, dwellS: 5, lift: { way: "axis", letter: "Z", travelMm: 460, clearMm: 50, readMm: 10 }, zeroBy: "stop" };
 * checkProgram(plan, how, 20000) // undefined
 */
export function checkProgram(
  plan: Pick<TestPlan, "kind" | "keepsZero">,
  options: ProgramOptions,
  rapidMmMin: number,
): void {
  const { feedMmMin, dwellS, lift, letter } = options;
  requireBound(
    { [PROGRAM_ARGUMENTS.feed]: feedMmMin },
    feedMmMin >= 1 && feedMmMin <= rapidMmMin,
    `from 1 up to the rapid feed of ${rapidMmMin} mm/min`,
  );
  requireBound({ [PROGRAM_ARGUMENTS.dwell]: dwellS }, dwellS >= 0.5 && dwellS <= 60, "from 0.5 to 60 s");
  if (lift.way === "none")
    requireBound(
      { "lift of the tip, mm,": 0 },
      !needsLift(plan),
      "above 0: on one side of the target the block would be driven into the tip. Lift it with another axis or by hand",
    );
  if (lift.way !== "axis") return;
  requireBound(
    { "number of axes": 1 },
    lift.letter !== letter,
    `2: the tip cannot be lifted by ${letter.replace("=", "")}, the axis that is tested`,
  );
  for (const [what, at] of [
    [PROGRAM_ARGUMENTS.clear, lift.clearMm],
    [PROGRAM_ARGUMENTS.read, lift.readMm],
  ] as const)
    requireBound(
      { [what]: at },
      Math.abs(at) <= lift.travelMm,
      `from ${-lift.travelMm} to ${lift.travelMm}, the travel of ${lift.letter.replace("=", "")}`,
    );
  requireBound(
    { [PROGRAM_ARGUMENTS.clearance]: lift.clearMm },
    Math.abs(lift.clearMm - lift.readMm) >= LEAST_LIFT_MM,
    `at least ${LEAST_LIFT_MM} mm away from where the tip reads`,
  );
}

/**
 * The moves of a two-sided approach or travel profile, from step `fromStep` on. Every target is
 * approached at feed from at least the over-travel away, or from the target before it on a pass, and
 * left onwards or back only beyond a reading: no target is ever crossed and returned to. The tip is
 * off whenever the axis goes past, and at the end.
 * @param plan - of the test
 * @param options - letters, feed, dwell, lift
 * @param fromStep - the first step that is still to be read
 * @returns the moves in order
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * const how = { letter: "X", feedMmMin: 1000, dwellS: 5, lift: { way: "axis", letter: "Z", travelMm: 460, clearMm: 50, readMm: 10 }, zeroBy: "stop" };
 * programMoves(plan, how)[0].kind // "clear"
 */
export function programMoves(plan: TestPlan, options: ProgramOptions, fromStep = 0): readonly ProgramMove[] {
  const steps = stepsOf(plan).filter((s) => s.index >= fromStep);
  const { lift } = options;
  const moves: ProgramMove[] = [];
  const up = (): void => {
    if (lift.way === "axis") moves.push({ kind: "clear", toMm: lift.clearMm });
    if (lift.way === "by-hand") moves.push({ kind: "stop", step: null, note: "lift the tip off" });
  };
  const down = (): void => {
    if (lift.way === "axis") moves.push({ kind: "set-down", toMm: lift.readMm });
    if (lift.way === "by-hand") moves.push({ kind: "stop", step: null, note: "set the tip down" });
  };
  let sweeping: "+" | "-" | null = null;
  for (const step of steps) {
    const sign = signOf(step.direction);
    const onPass =
      plan.keepsZero && sweeping === step.direction && step.target !== (sign > 0 ? 0 : plan.targetsMm.length - 1);
    const name = stepName(step);
    up();
    if (!onPass)
      moves.push({
        kind: "rapid",
        toMm: step.targetMm - sign * step.runUpMm,
        note: `past ${name}`,
      });
    moves.push({
      kind: "feed",
      toMm: step.targetMm,
      note: `to ${name} towards ${step.direction}`,
    });
    down();
    moves.push(readMove(step, options));
    sweeping = step.action === "read" ? step.direction : null;
  }
  if (steps.length > 0) up();
  return moves;
}

function stepName(step: TestStep): string {
  return `place ${step.target + 1}, ${step.action === "zero" ? "zero" : `run ${step.run}`}`;
}

function readMove(step: TestStep, options: ProgramOptions): ProgramMove {
  if (step.action === "zero" && options.zeroBy === "stop")
    return {
      kind: "stop",
      step: step.index,
      note: "set the indicator to zero, then start",
    };
  return {
    kind: "dwell",
    seconds: options.dwellS,
    step: step.index,
    note: step.action === "zero" ? "set to zero" : "read",
  };
}
