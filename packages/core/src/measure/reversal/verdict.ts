import type { AxisConfig, Feedback, LossLimits } from "../../machine/axis";
import {
  conformity,
  conformityText,
  formatLoss,
  formatPosition,
  formatSize,
  stateOfConformity,
  tooWideFor,
  type AxisState,
  type Conformity,
  type UnitSystem,
} from "../../quantity";
import { isSplitTest, type TestKind, type TestPlan } from "./plan";
import { profileShape, type ProfileShape } from "./region";
import type { IndicatorSetup } from "./indicator-setup";
import { plannedExpanded } from "./planned-uncertainty";
import type { LossResult } from "./result";
import { splitVerdict } from "./split-verdict";
import { whatWouldTell, wouldTellSentence } from "./would-tell";

/**
 * State of an axis from its last reversal value by the one decision rule, {@link conformity}.
 * @param loss - value and its U, mm
 * @param limits - what can be left and what must be repaired, mm
 * @returns the state
 * @example lossState({ reversalValueMm: 0.05, expandedMm: 0.005 }, { leaveMm: 0.015, repairMm: 0.03 }) // "act"
 */
export function lossState(
  loss: { readonly reversalValueMm: number; readonly expandedMm: number | null },
  limits: Pick<LossLimits, "leaveMm" | "repairMm">,
): AxisState {
  return stateOfConformity(conformity(loss, limits));
}

/**
 * The one word for it, the same on floor, chain, result, ledger and finding.
 * @param loss - value and its U, mm; null for never measured
 * @param limits - what can be left and what must be repaired, mm
 * @returns the word
 * @example lossText({ reversalValueMm: 0.05, expandedMm: 0.005 }, { leaveMm: 0.015, repairMm: 0.03 }) // "act"
 */
export function lossText(
  loss: { readonly reversalValueMm: number; readonly expandedMm: number | null } | null,
  limits: Pick<LossLimits, "leaveMm" | "repairMm">,
): string {
  return conformityText(loss ? conformity(loss, limits) : null);
}

export interface Verdict {
  readonly conformity: Conformity;
  readonly state: AxisState;
  readonly word: string;
  /** What is known and how well, in a sentence or two. */
  readonly sentences: readonly string[];
  /** What to do next. */
  readonly next: string;
  /** The test to run next, when it is one that can be run here. */
  readonly nextTest: TestKind | null;
  /** Where to go on besides, when the next thing is no test of the chain. */
  readonly nextPlace: "locate" | null;
  /** The value has the wrong sign for this axis: first look which way the needle counts. */
  readonly askSense: boolean;
}

export interface VerdictContext {
  readonly kind: TestKind;
  readonly memberName: string;
  readonly letter: string;
  readonly limits: LossLimits;
  readonly feedback: Feedback;
  readonly system: UnitSystem;
  /** Display step, mm: what would tell depends on it. */
  readonly resolutionMm: number;
  /** Compensation entered in the control, mm; null or absent where nobody noted one. */
  readonly enteredMm?: number | null;
}

/**
 * Said before a test: will it be able to tell? A U above a quarter of the nearer limit leaves too
 * little room between the limits; afterwards the interval alone decides.
 * @param plan - of the test
 * @param options - `setup`: the indicator; `axis`: with its limits; `options`: units, and where the axis stood last,
 *   mm
 * @returns a sentence, or null when the test is good enough
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * widthWarning(plan, { setup: { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 }, axis: defaultAxis("vertical-centre", "X"), options: { system: "metric" } })
 * // null
 */
export function widthWarning(
  plan: TestPlan,
  {
    setup,
    axis,
    options,
  }: {
    readonly setup: IndicatorSetup;
    readonly axis: Pick<AxisConfig, "limits">;
    readonly options: { readonly system: UnitSystem; readonly lastMm?: number | null };
  },
): string | null {
  const { system, lastMm = null } = options;
  const U = plannedExpanded(plan, setup);
  const { wide, limitMm } = tooWideFor(U, axis.limits, lastMm);
  if (!wide) return null;
  const u = formatLoss(U, system, U);
  const limit = formatSize(limitMm, system);
  const from = formatLoss(Math.max(0, limitMm - U), system, U);
  const to = formatLoss(limitMm + U, system, U);
  const cure =
    plan.runs < 2
      ? "Take at least three runs."
      : plan.kind === "tick-count" && plan.tickMm > setup.resolutionMm
        ? "Use a smaller jog step, or another test."
        : "Take a finer indicator.";
  return `This test will be known to ± ${u} at best, too coarse for the limit of ${limit}: a loss of ${limit} could read as anything from ${from} to ${to}. It may end in “cannot tell”. ${cure}`;
}

interface Said {
  readonly result: LossResult;
  readonly judged: Conformity;
  readonly c: VerdictContext;
}

const figure = (mm: number, { result, c }: Said): string => formatLoss(mm, c.system, result.uncertainty.expanded);

function placeText(mm: number, system: UnitSystem): string {
  return formatPosition(mm, { system, decimals: system === "metric" ? 0 : 2 });
}

function isGain({ reversalValueMm, uncertainty }: LossResult): boolean {
  return reversalValueMm < -uncertainty.expanded;
}

/** Is a compensation known to be entered, so that a gain can be one? */
function compensated(c: VerdictContext): boolean {
  return (c.enteredMm ?? 0) > 0;
}

function lossSentence(said: Said): string {
  const { result, judged, c } = said;
  const { reversalValueMm, uncertainty, places } = result;
  const both = `${figure(Math.abs(reversalValueMm), said)} ± ${figure(uncertainty.expanded, said)}`;
  const place = placeText(places[result.governing].positionMm, c.system);
  if (Math.abs(reversalValueMm) <= uncertainty.expanded)
    return judged.code === "sound"
      ? `The ${c.memberName} loses nothing that this test can see at ${place}: ${both}.`
      : `What the ${c.memberName} loses at ${place} lies somewhere between nothing and ${figure(judged.toMm, said)}: the test read ${both} and can see no better.`;
  if (reversalValueMm < 0)
    return compensated(c)
      ? `The ${c.memberName} gains ${both} each time ${c.letter} turns round: more is compensated than is lost.`
      : `The reading is below zero: −${both} at ${place}. No compensation is noted for this axis, so either the needle counts the other way and ${figure(Math.abs(reversalValueMm), said)} are lost, or the control compensates more than is lost.`;
  return `The ${c.memberName} loses ${both} each time ${c.letter} turns round${places.length > 1 ? `, most at ${place}` : ` at ${place}`}.`;
}

function limitSentence(said: Said): string {
  const { result, judged, c } = said;
  const repair = formatSize(c.limits.repairMm, c.system);
  const leave = formatSize(c.limits.leaveMm, c.system);
  const gain = isGain(result);
  switch (judged.code) {
    case "sound":
      return `All of that lies within the ${leave} that can be left.`;
    case "act":
      return gain
        ? `As much is wrong as the limit of ${repair} allows, and more.`
        : `That is over this axis’ limit of ${repair}, and past what compensation should hide.`;
    case "watch": {
      const where = judged.perhaps
        ? `Perhaps that is more than the ${leave} that can be left; it is under the limit of ${repair}`
        : `That is between ${leave}, which can be left, and the limit of ${repair}`;
      return gain ? `${where}.` : `${where}: it may be compensated once the mechanics are checked.`;
    }
    case "cannot-tell":
      return `The limit of ${repair} lies inside that: this test cannot tell. ${likelierSentence(judged.likelier)} ${wouldTellSentence(whatWouldTell(result, { limitMm: c.limits.repairMm, resolutionMm: c.resolutionMm }), c.system)}`;
  }
}

function likelierSentence(likelier: "under" | "over" | "at-limit"): string {
  if (likelier === "at-limit") return "It stands right at the limit.";
  return `It is likelier ${likelier} than ${likelier === "over" ? "under" : "over"} it.`;
}

function regionText(shape: Extract<ProfileShape, { code: "worse" | "less" }>, c: VerdictContext): string {
  const U = shape.expandedMm;
  const by = `${formatLoss(shape.excessMm, c.system, U)} ± ${formatLoss(U, c.system, U)}`;
  const at = (mm: number): string => placeText(mm, c.system);
  const span = shape.fromMm === shape.toMm ? `at ${at(shape.peakMm)}` : `from ${at(shape.fromMm)} to ${at(shape.toMm)}`;
  const where = shape.where === "middle" ? "in the middle" : `at the ${shape.where}`;
  const versus = shape.where === "middle" ? "the ends" : "the rest";
  return shape.code === "worse"
    ? `It loses more ${where}, ${span}: ${by} more than ${versus}. Wear of the screw looks like this.`
    : `It loses least ${where}, ${span}: ${by} less than ${versus}. A worn screw does the opposite; something at ${versus} adds to it.`;
}

function profileSentence({ result, c }: Said): string | null {
  const shape = profileShape(result.places);
  if (!shape) return null;
  if (shape.code !== "even") return regionText(shape, c);
  const sees = formatLoss(shape.seesMm, c.system, shape.seesMm);
  return shape.seesMm > c.limits.leaveMm
    ? `Whether it is the same along the travel cannot be told: only a difference above ${sees} would have shown. More runs would tell.`
    : `It is the same along the whole travel, as far as this test can see (${sees}): a worn screw would be worse where it works most.`;
}

type Next = Pick<Verdict, "next" | "nextTest" | "nextPlace">;

function nextStepFor(said: Said): Next {
  const { result, judged, c } = said;
  const to = (next: string, nextTest: TestKind | null = null, nextPlace: Verdict["nextPlace"] = null): Next => ({
    next,
    nextTest,
    nextPlace,
  });
  if (isGain(result))
    return compensated(c)
      ? to(
          "Lower the compensation entered in the control, then run the same test again at the same place. The aim is zero, never over.",
          c.kind,
        )
      : to(
          "Move the axis towards plus by hand and look which way the needle goes. If it counts the other way, turn its sense here. If it counts right, read the compensation in the control, note it in the axis’ data, and lower it.",
          c.kind,
        );
  if (judged.code === "cannot-tell") {
    const quick = c.kind === "tick-count" || c.kind === "out-and-back";
    return to(
      quick
        ? "Measure with a two-sided approach and five runs before taking anything apart."
        : "Measure again so that it can tell, before taking anything apart or calling it good.",
      quick ? "two-sided" : c.kind,
    );
  }
  if (judged.code === "act")
    return to(
      "Go to Locate. The fasteners of the end bearings, the nut bracket and the coupling come first: they are free. Then split the chain, beginning with the screw end float.",
      null,
      "locate",
    );
  if (result.repeatabilityUnknown)
    return to("Take at least three runs each way: one run says nothing of how well it repeats.", c.kind);
  if (judged.code === "sound") return to("Nothing to do. Measure again in six months, or after a crash.");
  return c.kind === "travel-profile"
    ? to("Check the fasteners, then measure again in a month: the trend decides.")
    : to(
        "Run a travel profile, 40 min: it tells wear of the screw, which is worse in one place, from loss that is the same everywhere.",
        "travel-profile",
      );
}

/**
 * The verdict on a result: a code by the one decision rule, and sentences that follow from it.
 * @param result - of {@link evaluateRun}
 * @param context - the test, limits, units and the indicator
 * @returns code, sentences and what to do next
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * const result = evaluateRun(
 *   plan,
 *   stepsOf(plan).map((s) => ({ step: s.index, value: s.direction === "+" ? 0 : -0.02, widthMm: 0.001, state: "kept" })),
 *   { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 },
 * );
 * verdictOn(result, { kind: "two-sided", limits: { leaveMm: 0.015, repairMm: 0.03 }, system: "metric", resolutionMm: 0.001 }).state
 * // "watch"
 */
export function verdictOn(result: LossResult, context: VerdictContext): Verdict {
  const c = context;
  const value = {
    reversalValueMm: result.reversalValueMm,
    expandedMm: result.uncertainty.expanded,
  };
  const judged = conformity(value, c.limits);
  const said = { result, judged, c };
  const base = {
    conformity: judged,
    state: stateOfConformity(judged),
    word: conformityText(judged),
    askSense: isGain(result) && !compensated(c),
  };
  if (isSplitTest(c.kind)) return { ...base, ...splitVerdict(c.kind, said) };
  const sentences = [lossSentence(said), limitSentence(said)];
  const profile = profileSentence(said);
  if (profile) sentences.push(profile);
  if (c.feedback === "scale")
    sentences.push(
      "This axis is read by a scale at the table: slack does not show as lost position here, it shows as hunting at the reversal.",
    );
  if (result.repeatabilityUnknown) sentences.push(USUAL_SCATTER_SENTENCE);
  return { ...base, sentences, ...nextStepFor(said) };
}

export const USUAL_SCATTER_SENTENCE = "Nothing was repeated: the ± holds a usual scatter, not this axis’ own.";
