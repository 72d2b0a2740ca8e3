import type { SignedStep } from "./progress";
import type { JobFigure } from "./retest";

type Signed = Pick<SignedStep, "step" | "figure" | "reading">;

/**
 * The loss before the work: what was read at its step, else what was known before the job.
 * @param signed - the steps signed so far
 * @param letter - of the axis
 * @param known - the last test before the job; null where there is none
 * @returns loss with U where it is known, mm; null where nobody measured
 * @example figureBefore([], "X", { reversalValueMm: 0.02, expandedMm: 0.002, runId: 7 })?.reversalValueMm // 0.02
 */
export function figureBefore(signed: readonly Signed[], letter: string, known: JobFigure | null): JobFigure | null {
  return figureOf(signed, `${letter}:measure-before`) ?? known;
}

/**
 * The loss that the retest found.
 * @param signed - the steps signed so far
 * @param letter - of the axis
 * @returns loss with U where it is known, mm; null where it was not measured
 * @example figureAfter([], "X") // null
 */
export function figureAfter(signed: readonly Signed[], letter: string): JobFigure | null {
  return figureOf(signed, `${letter}:retest-chain`);
}

function figureOf(signed: readonly Signed[], step: string): JobFigure | null {
  const last = signed.findLast((s) => s.step === step);
  if (!last) return null;
  if (last.figure) return last.figure;
  return last.reading === null ? null : { reversalValueMm: last.reading, expandedMm: null, runId: null };
}
