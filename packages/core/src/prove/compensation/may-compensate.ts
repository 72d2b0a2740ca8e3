import { conformity, type Conformity, type ConformityLimits } from "../../quantity";

/** A loss with its U, mm, where one was measured. */
export interface KnownLoss {
  readonly atMm: number;
  readonly valueMm: number;
  readonly uMm: number;
}

/** What stands against a table: the mechanics come first. */
export type CompensationBar =
  | { readonly code: "reversal-over"; readonly loss: KnownLoss; readonly repairMm: number }
  | { readonly code: "reversal-cannot-tell"; readonly loss: KnownLoss; readonly repairMm: number }
  | { readonly code: "end-float-over"; readonly loss: KnownLoss; readonly repairMm: number }
  | {
      readonly code: "worn-at-a-place";
      readonly atMm: number;
      readonly mostMm: number;
      readonly leastMm: number;
      /** Of the difference. */
      readonly uMm: number;
      readonly allowedMm: number;
    }
  | { readonly code: "entered-backlash"; readonly enteredMm: number; readonly limitMm: number };

export interface MayCompensate {
  /** A table is not made while one of these holds. */
  readonly refused: readonly CompensationBar[];
  /** These are said, and the table is made. */
  readonly doubts: readonly CompensationBar[];
  readonly reversal: Conformity | null;
}

/**
 * Are the mechanics in a state that a table may be laid on? A table on a loose or worn axis corrects today’s play at one
 * place in one direction, and is wrong as soon as it wears on: what can be mended is mended first (common practice).
 * @param reversals - loss at each place of the profile, mm, largest or not
 * @param options - `limits`: of the axis; `endFloat`: last measured since work on it, or null; `enteredMm`: backlash
 *   compensation in the control while it was read
 * @returns what refuses, what is doubtful
 * @example
 * mayCompensate([{ atMm: 100, valueMm: 0.05, uMm: 0.003 }], { limits: { leaveMm: 0.01, repairMm: 0.025 }, endFloat: null, enteredMm: 0 }).refused[0].code
 * // 'reversal-over'
 */
export function mayCompensate(
  reversals: readonly KnownLoss[],
  options: { readonly limits: ConformityLimits; readonly endFloat: KnownLoss | null; readonly enteredMm: number },
): MayCompensate {
  const { limits, endFloat, enteredMm } = options;
  const refused: CompensationBar[] = [];
  const doubts: CompensationBar[] = [];
  const judge = (loss: KnownLoss): Conformity =>
    conformity({ reversalValueMm: loss.valueMm, expandedMm: loss.uMm }, limits);
  // What is hidden by an entered compensation is lost all the same.
  const true_ = reversals.map((r) => ({ ...r, valueMm: r.valueMm + enteredMm }));
  const worst = [...true_].sort((a, b) => Math.abs(b.valueMm) - Math.abs(a.valueMm)).at(0);
  const reversal = worst ? judge(worst) : null;
  const { repairMm } = limits;
  if (worst && reversal?.code === "act") {
    const shown = judge({ ...worst, valueMm: worst.valueMm - enteredMm });
    if (enteredMm > 0 && shown.code !== "act") refused.push({ code: "entered-backlash", enteredMm, limitMm: repairMm });
    else refused.push({ code: "reversal-over", loss: worst, repairMm });
  }
  if (worst && reversal?.code === "cannot-tell") doubts.push({ code: "reversal-cannot-tell", loss: worst, repairMm });
  if (endFloat && judge(endFloat).code === "act") refused.push({ code: "end-float-over", loss: endFloat, repairMm });
  const wear = wornAtAPlace(true_, limits.leaveMm);
  if (wear) (wear.clear ? refused : doubts).push(wear.bar);
  return { refused, doubts, reversal };
}

/** A reversal that differs along the travel by more than what may be left is wear, not lead (common practice, no source). */
function wornAtAPlace(
  reversals: readonly KnownLoss[],
  allowedMm: number,
): { readonly bar: CompensationBar; readonly clear: boolean } | null {
  if (reversals.length < 3) return null;
  const sorted = [...reversals].sort((a, b) => a.valueMm - b.valueMm);
  const [least, most] = [sorted[0], sorted[sorted.length - 1]];
  // The largest and the least of many were picked: their U counts half again (common practice, no source).
  const uMm = 1.5 * Math.hypot(least.uMm, most.uMm);
  const differs = most.valueMm - least.valueMm;
  if (differs <= allowedMm) return null;
  const bar = {
    code: "worn-at-a-place" as const,
    atMm: most.atMm,
    mostMm: most.valueMm,
    leastMm: least.valueMm,
    uMm,
    allowedMm,
  };
  return { bar, clear: differs - uMm > allowedMm };
}
