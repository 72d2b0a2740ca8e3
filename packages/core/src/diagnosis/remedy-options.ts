import { conformity, type Conformity } from "../quantity";
import { minuteCost, remedyCost, type DecisionTerms } from "./decision-terms";
import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";
import { mayCondemn } from "./proven";

export interface RemedyOption {
  readonly cause: Cause | null;
  readonly message: string;
  readonly cost: number;
  readonly chanceRight: number;
  /** With what follows when it was not it. */
  readonly expectedCost: number;
  /** Not advised, and why: an unproven screw, a loss past compensating. */
  readonly unless: string | null;
}

/** Why a loss of this verdict is not compensated, and why it is not left. */
const NOT_COMPENSATED: Record<Conformity["code"], string | null> = {
  sound: null,
  watch: null,
  act: "The loss is past what compensation should hide: mechanics first.",
  "cannot-tell": "Cannot tell whether the loss is past what compensation may hide: a finer test first.",
};
const NOT_LEFT: Record<Conformity["code"], string | null> = {
  sound: null,
  watch: "The loss is above what can be left.",
  act: "The loss is above what can be left.",
  "cannot-tell": "Cannot tell whether the loss can be left: a finer test first.",
};

/**
 * What can be done now, dearest part or nothing at all, by what it is expected to cost with what follows when it was
 * not it.
 * @param posterior - what is known so far
 * @param terms - what minutes and parts cost
 * @returns the cheapest advisable first; what is not advised comes last and says why
 * @example
 * remedyOptions(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] }), DECISION_TERMS)
 *   .every((option) => option.expectedCost >= option.cost) // true
 */
export function remedyOptions(posterior: Posterior, terms: DecisionTerms): RemedyOption[] {
  const { axis, magnitudes } = posterior.evidence;
  const callIn = minuteCost(axis, terms.callInMinutes + terms.wrongMinutes);
  const options: RemedyOption[] = [];
  const ranked = posterior.causes.map((cause, i) => ({ cause, p: posterior.marginals[i] })).sort((a, b) => b.p - a.p);
  for (const { cause, p } of ranked.slice(0, 5)) {
    if (p < 0.02) continue;
    const cost = remedyCost(axis, cause, terms);
    const unproven = cause.remedy.costClass === 3 && cause.provenBy && !mayCondemn(posterior, cause);
    options.push({
      cause,
      cost,
      chanceRight: p,
      message: `${cause.name}: ${cause.remedy.text}`,
      expectedCost: cost + (1 - p) * callIn,
      unless: unproven ? "Not proven: do not buy the part on this." : null,
    });
  }
  const whole = magnitudes.filter((m) => m.kind === "whole-chain").at(-1);
  if (whole) {
    const judged = conformity({ reversalValueMm: whole.reversalValueMm, expandedMm: 2 * whole.uMm }, axis.limits);
    const mechanics = 1 - posterior.noFault;
    options.push({
      cause: null,
      cost: minuteCost(axis, 25),
      chanceRight: Math.max(0, 1 - mechanics),
      message: "Compensate what is left, within the limits, and retest",
      expectedCost: minuteCost(axis, 25) + Math.max(0, mechanics) * callIn,
      unless: NOT_COMPENSATED[judged.code],
    });
    options.push({
      cause: null,
      cost: 0,
      chanceRight: Math.max(0, 1 - mechanics),
      message: "Leave it and look again in a month",
      expectedCost: Math.max(0, mechanics) * callIn,
      unless:
        judged.code === "watch" && judged.perhaps
          ? "The loss is perhaps above what can be left."
          : NOT_LEFT[judged.code],
    });
  }
  return options.sort((a, b) => Number(!!a.unless) - Number(!!b.unless) || a.expectedCost - b.expectedCost);
}
