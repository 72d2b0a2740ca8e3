import { isGravityAxis, type AxisConfig } from "../../machine/axis";
import { formatPosition, formatSize, type UnitSystem } from "../../quantity";
import { signOf, type ApproachJudgement, type Direction } from "./approach";
import { isSplitTest, type SplitTestKind, type TestKind, type TestPlan, type TestStep } from "./plan";

export const TEST_TEXT: Record<TestKind, { readonly name: string; readonly minutes: number; readonly tells: string }> =
  {
    "tick-count": {
      name: "Tick count",
      minutes: 5,
      tells: "A quick look: after a reversal, count the smallest jog steps that do not move the needle.",
    },
    "out-and-back": {
      name: "Out-and-back",
      minutes: 8,
      tells: "Steps out, the same steps back: the needle’s miss is the lost motion at one place.",
    },
    "two-sided": {
      name: "Two-sided approach",
      minutes: 12,
      tells: "The trusted figure at one place: approach it from both sides, several runs.",
    },
    "travel-profile": {
      name: "Travel profile",
      minutes: 40,
      tells: "Two-sided approach at five or more places: shows wear along the travel.",
    },
    "end-float": {
      name: "Screw end float",
      minutes: 15,
      tells: "How far the screw moves in its end bearings and their housing.",
    },
    "nut-flank": {
      name: "Nut flank",
      minutes: 20,
      tells: "How far the thread moves past the member: what nut and bracket lose together.",
    },
    "coupling-slip": {
      name: "Coupling slip",
      minutes: 10,
      tells: "How far one side of the coupling stays behind the other.",
    },
    "housing-shift": {
      name: "Housing shift",
      minutes: 10,
      tells: "How far the bearing housing moves on its casting.",
    },
    "bracket-shift": {
      name: "Nut bracket shift",
      minutes: 10,
      tells: "How far the nut bracket moves under the member.",
    },
  };

/**
 * How a direction is said on this axis: up and down where gravity is, else by sign.
 * @param axis - how it lies
 * @param direction - “+” or “-”
 * @returns words for jogging that way and for coming from there
 * @example directionText({ orientation: "horizontal" }, "+") // { jog: "towards plus", from: "from minus" }
 */
export function directionText(
  axis: Pick<AxisConfig, "orientation">,
  direction: Direction,
): { readonly jog: string; readonly from: string } {
  if (axis.orientation === "vertical") {
    return direction === "+" ? { jog: "up", from: "from below" } : { jog: "down", from: "from above" };
  }
  return direction === "+" ? { jog: "towards plus", from: "from minus" } : { jog: "towards minus", from: "from plus" };
}

/**
 * What to do now, one action.
 * @param axis - configuration
 * @param options - `plan`: of the test; `step`: which; `system`: units
 * @returns a sentence
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * stepInstruction(defaultAxis("vertical-centre", "X"), { plan: plan, step: stepsOf(plan)[0], system: "metric" }).length > 20
 * // true
 */
export function stepInstruction(
  axis: AxisConfig,
  { plan, step, system }: { readonly plan: TestPlan; readonly step: TestStep; readonly system: UnitSystem },
): string {
  const away = directionText(axis, step.direction === "+" ? "-" : "+").jog;
  const towards = directionText(axis, step.direction).jog;
  const at = formatPosition(step.targetMm, { system });
  const first = plan.targetsMm[0];
  const lifts = blockInTheWay(plan);
  if (step.action === "count") {
    return `Now jog ${towards}, one step of ${formatSize(plan.tickMm, system)} at a time. ${plan.countsStill ? "Count the steps that do not move the needle; the one that moves it is not counted." : "Count the steps until the needle moves, that one too."}`;
  }
  if (plan.kind === "out-and-back" && step.action === "read") {
    const out = `${plan.ticksOut} steps of ${formatSize(plan.tickMm, system)}`;
    return `Jog ${away} ${out}, then ${towards} the same ${out}, back to ${at}. Stop there and read what the needle misses.`;
  }
  const sweeping =
    plan.keepsZero &&
    step.action === "read" &&
    step.target !== (step.direction === "+" ? 0 : plan.targetsMm.length - 1);
  const move = sweeping
    ? `Go on ${towards} to ${at} and stop.`
    : `${lifts ? "Lift the tip off. " : ""}Jog ${away} past ${at} by ${formatSize(step.runUpMm, system)}, then come ${towards} to ${at} and stop.`;
  if (plan.markedTurns) {
    const turns = "whole turns of the screw";
    return `Jog ${away} by ${turns}, then come ${towards} the same ${turns} to the mark at ${at} and stop.${step.action === "zero" ? " Set the indicator to zero there." : " Do not pass the mark."}`;
  }
  if (step.action === "zero")
    return `${move} ${lifts ? "Set the tip down and set the indicator to zero there." : "Set the indicator to zero there."}`;
  const expected =
    plan.keepsZero && step.targetMm !== first
      ? ` It should read ${formatPosition(step.targetMm - first, { system })}.`
      : "";
  return `${move} Do not pass it.${lifts ? " Set the tip down and read." : expected}`;
}

/** At the member, on one side of the target the block would be driven into the tip; across a part nothing is. */
function blockInTheWay(plan: Pick<TestPlan, "kind" | "keepsZero">): boolean {
  return !plan.keepsZero && !isSplitTest(plan.kind);
}

/** Where the stand and the tip go for a test of a part of the chain. */
function splitSetup(kind: SplitTestKind, markedTurns = false): readonly string[] {
  switch (kind) {
    case "end-float":
      return markedTurns
        ? [
            "Indicator on the saddle or casting, tip on the flat end of the screw.",
            "Mark the screw and the casting: the axis stops at the mark after whole turns, so that an untrue face reads the same.",
          ]
        : [
            "Bed a ball with grease in the screw’s centre hole, so that an untrue end face does not matter.",
            "Indicator on the saddle or casting, its flat tip on the ball.",
          ];
    case "nut-flank":
      return [
        "Let the indicator ride on the moving member, its tip on a thread flank close to the nut.",
        "Keep the tip from climbing off the flank: short strokes, whole turns back to the place.",
      ];
    case "coupling-slip":
      return [
        "Indicator fixed to one hub, its tip on a mark or key of the other, read along the circumference.",
        "Measure the radius at which the tip reads: with the lead it turns the reading into table motion.",
      ];
    case "housing-shift":
      return ["Indicator stand on the casting, tip on the bearing housing along the screw."];
    case "bracket-shift":
      return ["Indicator stand on the moving member, tip on the nut bracket along the screw."];
  }
}

/**
 * Which way a reading counts in a test of a part of the chain, so that slack comes out above zero: the
 * reading that comes from plus is then the higher one (geometry of the chain: a driven part stays
 * behind, what bears the thrust is pushed against the motion).
 */
export const COUNTS_TOWARDS: Record<SplitTestKind, { readonly part: string; readonly counts: "plus" | "minus" }> = {
  "end-float": { part: "the screw end", counts: "plus" },
  "housing-shift": { part: "the housing", counts: "plus" },
  "nut-flank": { part: "the flank", counts: "minus" },
  "bracket-shift": { part: "the bracket", counts: "minus" },
  "coupling-slip": {
    part: "the motor’s hub, against the screw’s,",
    counts: "minus",
  },
};

/**
 * The same in a sentence.
 * @param kind - of the test
 * @returns a sentence
 * @example countingSentence("end-float").length > 20 // true
 */
export function countingSentence(kind: SplitTestKind): string {
  const { part, counts } = COUNTS_TOWARDS[kind];
  return `Count the reading as above zero when ${part} moves in the sense of the axis’ ${counts}: with slack, the reading that comes from plus is then the higher one. Say beside it which way your needle rises.`;
}

/**
 * How to set the indicator before the first movement.
 * @param axis - configuration
 * @param plan - of the test
 * @param system - units
 * @returns sentences in order
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * setupSentences(defaultAxis("vertical-centre", "X"), plan, "metric").length > 2 // true
 */
export function setupSentences(
  axis: AxisConfig,
  plan: Pick<TestPlan, "kind" | "keepsZero" | "markedTurns">,
  system: UnitSystem,
): readonly string[] {
  const split = isSplitTest(plan.kind) ? splitSetup(plan.kind, plan.markedTurns) : null;
  const said = [
    ...(split ?? [
      plan.keepsZero
        ? "Clamp the reference scale along the axis, its zero at the first place, and check that nothing touches it over the whole travel."
        : "Set the indicator against a machined face or a gauge block clamped square to the axis, never against rough casting.",
    ]),
    ...(isSplitTest(plan.kind) ? [countingSentence(plan.kind)] : []),
    `Put the tip on with about ${system === "metric" ? "0.25 mm" : "0.010 in"} of preload past zero, so that it follows both ways.`,
    "Keep the tip as near to parallel with the face as you can: the angle is corrected, but a wrong guess of a large angle is not.",
  ];
  if (blockInTheWay(plan)) {
    said.push(
      "Chamfer the block, and lift the tip off before every pass: on one side of the place the block would be driven into it.",
    );
  }
  if (isGravityAxis(axis))
    said.push("This axis can fall. Keep hands out from under it; never reach in with the drive on.");
  else said.push("Hands out while the axis moves; slow feed; one hand on the stop.");
  return said;
}

/**
 * What is wrong with an approach and what to do, or undefined for a good one.
 * @param judgement - of {@link judgeApproach}
 * @param options - `step`: which; `axis`: configuration; `system`: units
 * @returns a sentence; undefined for a good one
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * approachSentence({ kind: "good" }, { step: stepsOf(plan)[0], axis: defaultAxis("vertical-centre", "X"), system: "metric" })
 * // undefined
 */
export function approachSentence(
  judgement: ApproachJudgement,
  { step, axis, system }: { readonly step: TestStep; readonly axis: AxisConfig; readonly system: UnitSystem },
): string | undefined {
  const at = formatPosition(step.targetMm, { system });
  switch (judgement.kind) {
    case "good":
      return undefined;
    case "not-at-target": {
      const missing = formatPosition(judgement.missingMm, {
        system,
        signed: true,
      });
      return `The axis does not stand at ${at}: ${missing} is missing.`;
    }
    case "overshot":
      return `Passed ${at} by ${formatPosition(judgement.byMm, { system })}, so this reading is spoilt. Coming back took up slack from the other side by an amount nobody knows; that cannot be corrected. Make the approach again.`;
    case "wrong-side":
      return `That came ${directionText(axis, signOf(step.direction) > 0 ? "-" : "+").from}; this reading wants ${directionText(axis, step.direction).from}.`;
    case "short-run-up":
      return `Only ${formatPosition(judgement.runUpMm, { system })} of run-up: the slack may not be taken up. Go ${formatSize(step.runUpMm, system)} past and come again.`;
  }
}
