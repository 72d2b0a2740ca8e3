import { requireBound } from "../quantity";
import { signOf, stepsOf, type TestPlan } from "../lostmotion";

export interface ProgramOptions {
  readonly letter: string;
  readonly feedMmMin: number;
  readonly dwellS: number;
  /** Lifts the tip off before going past, and sets it down again to read. */
  readonly clearance: {
    readonly letter: string;
    readonly clearMm: number;
    readonly readMm: number;
  } | null;
}

/** One move of a test program. `step` marks the dwell in which that step is zeroed or read. */
export type ProgramMove =
  | { readonly kind: "rapid"; readonly toMm: number; readonly note: string }
  | { readonly kind: "feed"; readonly toMm: number; readonly note: string }
  | { readonly kind: "clear" | "set-down"; readonly toMm: number }
  | {
      readonly kind: "dwell";
      readonly seconds: number;
      readonly step: number;
      readonly note: string;
    };

/** Checks feed, dwell and clearance; the places are checked with the plan. */
export function checkProgram(
  options: ProgramOptions,
  rapidMmMin: number,
): void {
  const { feedMmMin, dwellS, clearance } = options;
  requireBound(
    "feed",
    feedMmMin,
    feedMmMin > 0 && feedMmMin <= rapidMmMin,
    `above 0 and up to the rapid feed of ${rapidMmMin} mm/min`,
  );
  requireBound(
    "dwell",
    dwellS,
    dwellS >= 0.5 && dwellS <= 60,
    "from 0.5 to 60 s",
  );
  if (clearance) {
    requireBound(
      "clearance",
      clearance.clearMm,
      Math.abs(clearance.clearMm - clearance.readMm) >= 0.5,
      "at least 0.5 mm away from where the tip reads",
    );
  }
}

/**
 * The moves of a two-sided approach or travel profile, from step `fromStep` on. Every target is
 * approached at feed from at least the over-travel away, or from the target before it on a pass, and
 * left onwards or back only beyond a reading: no target is ever crossed and returned to.
 */
export function programMoves(
  plan: TestPlan,
  options: ProgramOptions,
  fromStep = 0,
): readonly ProgramMove[] {
  const steps = stepsOf(plan).filter((s) => s.index >= fromStep);
  const moves: ProgramMove[] = [];
  let sweeping: "+" | "-" | null = null;
  for (const step of steps) {
    const sign = signOf(step.direction);
    const onPass =
      plan.keepsZero &&
      sweeping === step.direction &&
      step.target !== (sign > 0 ? 0 : plan.targetsMm.length - 1);
    const name = `place ${step.target + 1}, ${step.action === "zero" ? "zero" : `run ${step.run}`}`;
    if (options.clearance)
      moves.push({ kind: "clear", toMm: options.clearance.clearMm });
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
    if (options.clearance)
      moves.push({ kind: "set-down", toMm: options.clearance.readMm });
    moves.push({
      kind: "dwell",
      seconds: options.dwellS,
      step: step.index,
      note: step.action === "zero" ? "set to zero" : "read",
    });
    sweeping = step.action === "read" ? step.direction : null;
  }
  return moves;
}
