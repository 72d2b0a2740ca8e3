import { formatLoss, formatSize, type Conformity, type UnitSystem } from "../../quantity";
import type { SplitTestKind } from "./plan";
import type { LossResult } from "./result";
import { whatWouldTell, wouldTellSentence } from "./would-tell";

const SPLIT_TEXT: Record<SplitTestKind, readonly [string, string]> = {
  "end-float": [
    "The end bearings let the screw float",
    "Check the retainer and housing screws before ordering bearings: they are free.",
  ],
  "nut-flank": [
    "Nut and bracket together give way on the thread by",
    "Measure the bracket’s shift from the same stand: what it does not take is the nut’s. A single nut has some clearance from new.",
  ],
  "coupling-slip": ["The coupling gives way by", "Look at its clamp screws and its insert."],
  "housing-shift": [
    "The bearing housing moves on its casting by",
    "Tighten and pin it, then repeat the whole-chain test.",
  ],
  "bracket-shift": [
    "The nut bracket moves under the member by",
    "Tighten it, float it into line, then repeat the whole-chain test.",
  ],
};

interface SplitContext {
  readonly result: LossResult;
  readonly judged: Conformity;
  readonly c: {
    readonly limits: { readonly leaveMm: number; readonly repairMm: number };
    readonly system: UnitSystem;
    readonly resolutionMm: number;
  };
}

/**
 * What a test of a part of the chain says: its size, and what that is worth in the ledger. A part is
 * cleared only when the whole interval lies within what the axis may lose.
 * @param kind - of the test
 * @param context - result, how it was judged, limits and units
 * @returns sentences, and what to do next
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * const result = evaluateRun(
 *   plan,
 *   stepsOf(plan).map((s) => ({ step: s.index, value: s.direction === "+" ? 0 : -0.02, widthMm: 0.001, state: "kept" })),
 *   { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 },
 * );
 * splitVerdict("end-float", { result: result, judged: conformity({ reversalValueMm: 0.02, expandedMm: 0.001 }, { leaveMm: 0.015, repairMm: 0.03 }), c: { limits: { leaveMm: 0.015, repairMm: 0.03 }, system: "metric", resolutionMm: 0.001 } }).nextPlace
 * // null
 */
export function splitVerdict(
  kind: SplitTestKind,
  { result, judged, c }: SplitContext,
): {
  readonly sentences: readonly string[];
  readonly next: string;
  readonly nextTest: SplitTestKind | null;
  readonly nextPlace: "locate" | null;
} {
  const { system, limits } = c;
  const U = result.uncertainty.expanded;
  const say = (mm: number): string => formatLoss(mm, system, U);
  const size = `${say(Math.abs(result.reversalValueMm))} ± ${say(U)}`;
  const [words, then] = SPLIT_TEXT[kind];
  const moves = result.reversalValueMm > U;
  const backwards = result.reversalValueMm < -U;
  const sentences: string[] = [];
  if (backwards)
    sentences.push(
      `The reading is below zero, −${size}: a part cannot gain. The needle counts the other way, or something moved between the readings.`,
    );
  else if (moves) sentences.push(`${words} ${size}.`);
  else if (judged.code === "sound") sentences.push(`Nothing that this test can see moves there: ${size}.`);
  else
    sentences.push(
      `What moves there lies between nothing and ${say(judged.toMm)}: the test read ${size} and can see no better.`,
    );
  if (judged.code === "cannot-tell")
    sentences.push(
      `The limit of ${formatSize(limits.repairMm, system)} lies inside that: this test cannot tell. ${wouldTellSentence(whatWouldTell(result, { limitMm: limits.repairMm, resolutionMm: c.resolutionMm }), system)}`,
    );
  if (result.repeatabilityUnknown)
    sentences.push("Nothing was repeated: the ± holds a usual scatter, not this axis’ own.");
  if (backwards)
    return {
      sentences,
      next: "See how the reading counts in this test, turn the needle’s sense if it is the other way, or repeat it.",
      nextTest: kind,
      nextPlace: null,
    };
  if (judged.code === "cannot-tell" || (!moves && judged.code !== "sound"))
    return {
      sentences,
      next: "Repeat it so that it can tell: this part is not cleared.",
      nextTest: kind,
      nextPlace: "locate",
    };
  return {
    sentences,
    next: moves
      ? `${then} Then go back to Locate: the ledger has this share now.`
      : "Go back to Locate: this part is cleared.",
    nextTest: null,
    nextPlace: "locate",
  };
}
