import type { TestStep } from "./plan";

export type ReadingState = "kept" | "spoilt" | "discarded";

/** A reading as the run knows it. Values are as displayed, mm; counts are plain numbers. */
export interface Reading {
  readonly step: number;
  readonly value: number;
  /** Full width of what the value is rounded to, mm: a display step, or a fraction of a division. */
  readonly widthMm: number;
  readonly state: ReadingState;
}

/**
 * The first step without a kept reading, or undefined when the run is complete.
 * @param steps - of the test
 * @param readings - taken so far
 * @returns the step
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * nextStep(stepsOf(plan), []).index // 0
 */
export function nextStep(steps: readonly TestStep[], readings: readonly Reading[]): TestStep | undefined {
  const done = new Set(readings.filter((r) => r.state === "kept").map((r) => r.step));
  return steps.find((s) => !done.has(s.index));
}

/**
 * The kept reading of each step.
 * @param readings - taken so far
 * @returns by index of the step
 * @example keptByStep([{ step: 1, value: 0.01, widthMm: 0.001, state: "discarded" }]).size // 0
 */
export function keptByStep(readings: readonly Reading[]): ReadonlyMap<number, Reading> {
  return new Map(readings.filter((r) => r.state === "kept").map((r) => [r.step, r]));
}
