import type { Feedback, LossLimits } from "../axis";
import {
  formatLoss,
  formatPosition,
  formatSize,
  type UnitSystem,
} from "../quantity";
import { isSplitTest, type SplitTestKind, type TestKind } from "./plan";
import { worseRegion } from "./region";
import type { LossResult } from "./result";

export type AxisState = "sound" | "watch" | "act" | "unknown";

/** State of an axis from its last reversal value, judged on the value itself. */
export function lossState(
  lostMm: number,
  limits: Pick<LossLimits, "leaveMm" | "repairMm">,
): AxisState {
  const size = Math.abs(lostMm);
  if (size > limits.repairMm) return "act";
  return size > limits.leaveMm || lostMm < -limits.leaveMm / 2
    ? "watch"
    : "sound";
}

export interface Verdict {
  readonly state: AxisState;
  /** What is known and how well, in a sentence or two. */
  readonly sentences: readonly string[];
  /** What to do next. */
  readonly next: string;
  /** The test to run next, when it is one that can be run here. */
  readonly nextTest: TestKind | null;
}

export interface VerdictContext {
  readonly kind: TestKind;
  readonly memberName: string;
  readonly letter: string;
  readonly limits: LossLimits;
  readonly feedback: Feedback;
  readonly system: UnitSystem;
}

/**
 * Said before a test: can this display see these limits at all? The difference of two readings is
 * known no better than from one step less to one step more.
 */
export function resolutionWarning(
  resolutionMm: number,
  limits: LossLimits,
  system: UnitSystem,
): string | null {
  const step = formatSize(resolutionMm, system);
  if (resolutionMm > limits.leaveMm / 2) {
    const from = Math.max(0, limits.leaveMm - resolutionMm);
    const to = limits.leaveMm + resolutionMm;
    return `Steps of ${step} are too coarse here: a loss of ${formatSize(limits.leaveMm, system)} could read as anything from ${formatSize(from, system)} to ${formatSize(to, system)}. Take an indicator with ${formatSize(limits.leaveMm / 5, system)} or finer.`;
  }
  return null;
}

function lossSentence(result: LossResult, c: VerdictContext): string {
  const { lostMm, uncertainty } = result;
  const value = formatLoss(Math.abs(lostMm), c.system, uncertainty.expanded);
  const u = formatLoss(uncertainty.expanded, c.system, uncertainty.expanded);
  const place = formatPosition(result.places[result.governing].positionMm, {
    system: c.system,
    decimals: c.system === "metric" ? 0 : 2,
  });
  if (Math.abs(lostMm) <= uncertainty.expanded) {
    return `The ${c.memberName} loses nothing that this test can see at ${place}: ${value} ± ${u}.`;
  }
  if (lostMm < 0) {
    return `The ${c.memberName} gains ${value} ± ${u} each time ${c.letter} turns round: more is compensated than is lost.`;
  }
  return `The ${c.memberName} loses ${value} ± ${u} each time ${c.letter} turns round${result.places.length > 1 ? `, most at ${place}` : ` at ${place}`}.`;
}

function limitSentence(result: LossResult, c: VerdictContext): string {
  const size = Math.abs(result.lostMm);
  const U = result.uncertainty.expanded;
  const { leaveMm, repairMm } = c.limits;
  const repair = formatSize(repairMm, c.system);
  const leave = formatSize(leaveMm, c.system);
  if (size > repairMm) {
    const sure = size - U > repairMm;
    return sure
      ? `That is over this axis’ limit of ${repair}, and past what compensation should hide.`
      : `That is over this axis’ limit of ${repair}, but by less than the uncertainty: measure again before taking anything apart.`;
  }
  if (size > leaveMm) {
    return `That is between ${leave}, which can be left, and the limit of ${repair}: it may be compensated once the mechanics are checked.`;
  }
  return size + U > leaveMm
    ? `That is within the ${leave} that can be left, though not by more than the uncertainty.`
    : `That is within the ${leave} that can be left.`;
}

function profileSentence(result: LossResult, c: VerdictContext): string | null {
  if (result.places.length < 5) return null;
  const region = worseRegion(result.places);
  if (!region)
    return "It is the same along the whole travel, within the uncertainty: a worn screw would be worse where it works most.";
  const excess = formatLoss(region.excessMm, c.system, region.expandedMm);
  const u = formatLoss(region.expandedMm, c.system, region.expandedMm);
  const at = (mm: number): string =>
    formatPosition(mm, {
      system: c.system,
      decimals: c.system === "metric" ? 0 : 2,
    });
  const span =
    region.fromMm === region.toMm
      ? `at ${at(region.peakMm)}`
      : `from ${at(region.fromMm)} to ${at(region.toMm)}`;
  const versus = region.where === "middle" ? "the ends" : "the rest";
  return `It is worse ${region.where === "middle" ? "in the middle" : `at the ${region.where}`}, ${span}: ${excess} ± ${u} more than ${versus}. Wear of the screw looks like this.`;
}

function nextStepFor(
  state: AxisState,
  result: LossResult,
  c: VerdictContext,
): Pick<Verdict, "next" | "nextTest"> {
  if (result.lostMm < -result.uncertainty.expanded) {
    return {
      next: "Lower the compensation entered in the control, then run the same test again at the same place. The aim is zero, never over.",
      nextTest: c.kind,
    };
  }
  if (result.repeatabilityUnknown) {
    return {
      next: "Take at least three runs each way: one run says nothing of how well it repeats.",
      nextTest: c.kind,
    };
  }
  if (
    state === "act" &&
    Math.abs(result.lostMm) - result.uncertainty.expanded <= c.limits.repairMm
  ) {
    return {
      next: "Measure again with a two-sided approach and five runs, or with a finer indicator.",
      nextTest: "two-sided",
    };
  }
  if (state !== "sound" && c.kind !== "travel-profile") {
    return {
      next: "Run a travel profile, 40 min: it tells wear of the screw, which is worse in one place, from loss that is the same everywhere.",
      nextTest: "travel-profile",
    };
  }
  if (state === "act") {
    return {
      next: "Check the fasteners of the end bearings, the nut bracket and the coupling first: they are free. Then split the chain, beginning with the screw end float.",
      nextTest: null,
    };
  }
  if (state === "watch") {
    return {
      next: "Check the fasteners, then measure again in a month: the trend decides.",
      nextTest: null,
    };
  }
  return {
    next: "Nothing to do. Measure again in six months, or after a crash.",
    nextTest: null,
  };
}

const SPLIT_WORDS: Record<SplitTestKind, readonly [string, string]> = {
  "end-float": ["The end bearings let the screw float", "Check the retainer and housing screws before ordering bearings: they are free."],
  "nut-flank": ["The nut moves on its thread by", "A single nut has some clearance from new; prove the link before buying a screw."],
  "coupling-slip": ["The coupling gives way by", "Look at its clamp screws and its insert."],
  "housing-shift": ["The bearing housing moves on its casting by", "Tighten and pin it, then repeat the whole-chain test."],
  "bracket-shift": ["The nut bracket moves under the member by", "Tighten it, float it into line, then repeat the whole-chain test."],
}; // prettier-ignore

/** What a test of a part of the chain says: its size, and what that is worth in the ledger. */
function splitVerdict(
  kind: SplitTestKind,
  result: LossResult,
  c: VerdictContext,
): Verdict {
  const U = result.uncertainty.expanded;
  const size = `${formatLoss(Math.abs(result.lostMm), c.system, U)} ± ${formatLoss(U, c.system, U)}`;
  const [words, then] = SPLIT_WORDS[kind];
  const nothing = Math.abs(result.lostMm) <= U;
  const sentences = [
    nothing
      ? `Nothing that this test can see moves there: ${size}.`
      : `${words} ${size}.`,
  ];
  if (result.repeatabilityUnknown)
    sentences.push(
      "With one run the uncertainty holds the display’s share only.",
    );
  return {
    state: nothing ? "sound" : lossState(result.lostMm, c.limits),
    sentences,
    next: nothing
      ? "Go back to Locate: this part is cleared."
      : `${then} Then go back to Locate: the ledger has this share now.`,
    nextTest: null,
  };
}

/** The verdict on a result, in words. */
export function verdictOn(
  result: LossResult,
  context: VerdictContext,
): Verdict {
  if (isSplitTest(context.kind))
    return splitVerdict(context.kind, result, context);
  const state = lossState(result.lostMm, context.limits);
  const sentences = [
    lossSentence(result, context),
    limitSentence(result, context),
  ];
  const profile = profileSentence(result, context);
  if (profile) sentences.push(profile);
  if (context.feedback === "scale") {
    sentences.push(
      "This axis is read by a scale at the table: slack does not show as lost position here, it shows as hunting at the reversal.",
    );
  }
  if (result.repeatabilityUnknown) {
    sentences.push(
      "With one run the uncertainty holds the display’s share only.",
    );
  }
  return { state, sentences, ...nextStepFor(state, result, context) };
}
