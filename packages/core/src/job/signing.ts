import type { LossLimits } from "../machine/axis";
import { judgeCircleRetest } from "../prove";
import { formatQuantity, lengthsIn, type UnitSystem } from "../quantity";
import { stepBlocked, type JobProgress, type SignedStep } from "./progress";
import { judgeRetest, type JobFigure } from "./retest";
import type { PlannedStep } from "./step-kind";

export interface SignRules {
  readonly before: (letter: string) => JobFigure | null;
  readonly limits: (letter: string) => Pick<LossLimits, "leaveMm" | "repairMm"> | null;
  readonly system: UnitSystem;
}

/** Why a step cannot be signed like this, and whether a reason is part of what is wanted. */
export interface SignRefusal {
  readonly message: string;
  readonly asksReason: boolean;
}

const refusal = (message: string): SignRefusal => ({ message, asksReason: false });
const reasonWanted = (message: string): SignRefusal => ({ message, asksReason: true });

/**
 * Why a step cannot be signed like this; null when it can. Says the value and the bound.
 * @param progress - the sheet and everything that happened
 * @param sign - the step, as it would be signed
 * @param rules - losses before, limits and units
 * @returns why not, or null
 * @example
 * refuseSign(jobProgress(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }), []), { step: "no-such-step" }, {})?.asksReason
 * // false
 */
export function refuseSign(progress: JobProgress, sign: SignedStep, rules: SignRules): SignRefusal | null {
  const step = progress.plan.steps.find((s) => s.id === sign.step);
  if (!step) return refusal("That step is not on the sheet any more: it was planned anew.");
  if (progress.done.has(step.id)) return refusal("That step is signed already.");
  const blocked = stepBlocked(progress, step);
  if (blocked.length) return refusal(`“${step.title}” cannot be signed yet. ${blocked.join(" ")}`);
  if (step.hold && !sign.holdBy.trim()) return refusal("This one is a hold: say by first name who vouches for it.");
  if (step.keeps && !sign.kept) return refusal(`Say how the ${step.keeps} went back: as it was, or changed.`);
  if (sign.kept === "changed" && !sign.change.trim())
    return refusal("Say what was changed: the new thickness or size and why.");
  if (step.finds.length && sign.found === null) return refusal("Say what was found, even when it was as it should be.");
  const found = step.finds.find((f) => f.id === sign.found);
  if (found?.asks && !sign.reason.trim())
    return reasonWanted(
      `Found “${found.label}”: it does not go straight on. Say in a sentence how it goes on, and why.`,
    );
  if (step.retest === "circle") return refuseCircle(step, sign, rules.system);
  return step.retest === "chain" ? refuseRetest(step, sign, rules) : refuseReading(step, sign, rules.system);
}

function refuseCircle(step: PlannedStep, sign: SignedStep, system: UnitSystem): SignRefusal | null {
  if (!sign.circle) return refusal("The retest has no circle yet: take one at Prove, both ways round.");
  return refuseFailed(judgeCircleRetest(sign.circle, step.axis ?? "", system), sign);
}

/** A retest that does not pass holds the sheet, unless somebody accepts it by name and reason. */
function refuseFailed(judged: { readonly passes: boolean; readonly message: string }, sign: SignedStep) {
  if (judged.passes) return null;
  if (!sign.reason.trim())
    return reasonWanted(
      `The retest does not pass. ${judged.message} To go on all the same, somebody accepts the deviation with a reason.`,
    );
  return sign.holdBy.trim() ? null : reasonWanted("A deviation is accepted by name.");
}

function refuseRetest(step: PlannedStep, sign: SignedStep, rules: SignRules): SignRefusal | null {
  if (!sign.figure) return refusal("The retest has no figure yet: measure at the same place, or type it.");
  const letter = step.axis ?? "";
  const limits = rules.limits(letter);
  if (!limits) return null;
  return refuseFailed(judgeRetest(rules.before(letter), sign.figure, { limits, system: rules.system }), sign);
}

/**
 * Does a reading lie within the bounds its step gives?
 * @param step - the step
 * @param value - the reading, in its core unit
 * @returns whether it does
 * @example readingWithin({ ...planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }).steps[0], reading: null }, 1) // true
 */
export function readingWithin(step: PlannedStep, value: number): boolean {
  const { from = -Infinity, to = Infinity } = step.reading ?? {};
  return value >= from && value <= to;
}

function refuseReading(step: PlannedStep, sign: SignedStep, system: UnitSystem): SignRefusal | null {
  const { reading } = step;
  if (!reading) return null;
  if (sign.reading === null)
    return reading.optional ? null : refusal(`${lengthsIn(reading.label, system)} is missing.`);
  const { from = -Infinity, to = Infinity, quantity } = reading;
  if (readingWithin(step, sign.reading)) return null;
  if (sign.reason.trim())
    return step.retest && !sign.holdBy.trim() ? reasonWanted("A deviation is accepted by name.") : null;
  const value = formatQuantity(quantity, sign.reading, system);
  const bounds = [
    Number.isFinite(from) ? `from ${formatQuantity(quantity, from, system)}` : "",
    Number.isFinite(to) ? `up to ${formatQuantity(quantity, to, system)}` : "",
  ].filter(Boolean);
  return reasonWanted(
    `${lengthsIn(reading.label, system)} ${value} is out of bounds: it should be ${bounds.join(" ")}. Put it right, or give a reason to go on.`,
  );
}
