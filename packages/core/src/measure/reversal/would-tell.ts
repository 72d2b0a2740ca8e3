import { coverageFactor, formatSize, type UnitSystem } from "../../quantity";
import type { LossResult } from "./result";

/** What would decide a value whose interval holds a limit. */
export type WouldTell =
  /** It stands so near the limit that no shop test tells. */
  | { readonly code: "at-limit" }
  /** The display is what keeps it open. */
  | { readonly code: "finer"; readonly resolutionMm: number }
  /** The scatter is: so many runs each way. */
  | { readonly code: "runs"; readonly runs: number }
  /** Both, or more runs than anybody makes. */
  | { readonly code: "finer-and-runs"; readonly resolutionMm: number };

/** Display steps that a shop can buy, mm, coarse to fine (common practice, no source). */
const STEPS_MM = [0.01, 0.005, 0.002, 0.001, 0.0005, 0.0002, 0.0001];
/** Nearer than this no indicator of a shop decides, mm. */
const NEAREST_MM = 0.0003;
const MOST_RUNS = 20;

/**
 * What would tell on which side of a limit a value lies: a finer indicator where the display keeps it
 * open, more runs where the scatter does. The value is taken to stay where it is.
 * @param result - of {@link evaluateRun}
 * @param options - limit, mm, and display step used, mm
 * @returns a code with its figure
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * const result = evaluateRun(
 *   plan,
 *   stepsOf(plan).map((s) => ({ step: s.index, value: s.direction === "+" ? 0 : -0.02, widthMm: 0.001, state: "kept" })),
 *   { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 },
 * );
 * whatWouldTell({ ...result, reversalValueMm: 0.015 }, { limitMm: 0.015, resolutionMm: 0.001 }).code // "at-limit"
 */
export function whatWouldTell(
  result: LossResult,
  options: { readonly limitMm: number; readonly resolutionMm: number },
): WouldTell {
  const { uDisplayMm, uScatterMm, runs } = result.places[result.governing];
  const gap = Math.abs(Math.abs(result.reversalValueMm) - options.limitMm);
  if (gap < NEAREST_MM) return { code: "at-limit" };
  const more = (wanted: number): number =>
    coverageFactor(Math.max(1, 2 * (wanted - 1))) * Math.hypot(uDisplayMm, uScatterMm * Math.sqrt(runs / wanted));
  for (let wanted = Math.max(3, runs + 1); wanted <= MOST_RUNS; wanted += 1)
    if (more(wanted) < gap) return { code: "runs", runs: wanted };
  // Two readings each know their step to a/√12; half the gap is left to the scatter.
  const wantedMm = (gap / 4) * Math.sqrt(6);
  const finer = STEPS_MM.find((s) => s <= wantedMm && s < options.resolutionMm * 0.99);
  const resolutionMm = finer ?? Math.min(options.resolutionMm, STEPS_MM[6]);
  const scatterAlone = 2 * uScatterMm < gap;
  return finer !== undefined && scatterAlone
    ? { code: "finer", resolutionMm }
    : { code: "finer-and-runs", resolutionMm };
}

/** The same in inches, as indicators are sold. */
const STEPS_IN = [0.0005, 0.0002, 0.0001, 0.00005, 0.00002, 0.00001];

function stepText(resolutionMm: number, system: UnitSystem): string {
  if (system === "metric") return formatSize(resolutionMm, system);
  const inch = STEPS_IN.find((s) => s * 25.4 <= resolutionMm * 1.3);
  return formatSize((inch ?? STEPS_IN[5]) * 25.4, system);
}

/**
 * The same in words.
 * @param tell - of {@link whatWouldTell}
 * @param system - units
 * @returns a sentence
 * @example wouldTellSentence({ code: "runs", runs: 5 }, "metric").length > 20 // true
 */
export function wouldTellSentence(tell: WouldTell, system: UnitSystem): string {
  switch (tell.code) {
    case "at-limit":
      return "No test at hand tells so near the limit: somebody decides, and says why.";
    case "runs":
      return `${tell.runs} runs each way would tell.`;
    case "finer":
      return `An indicator with steps of ${stepText(tell.resolutionMm, system)} would tell.`;
    case "finer-and-runs":
      return `A finer indicator, with steps of ${stepText(tell.resolutionMm, system)}, and more runs would tell.`;
  }
}
