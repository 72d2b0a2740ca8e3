import type { LossLimits } from "../machine/axis";
import { conformity, formatLimit, formatWithU, type Conformity, type UnitSystem } from "../quantity";

/** A loss measured for a job, mm; the run it comes from where it was taken as a test. */
export interface JobFigure {
  readonly reversalValueMm: number;
  /** Null where it was typed and nobody said with what it was measured. */
  readonly expandedMm: number | null;
  readonly runId: number | null;
}

export interface RetestJudgement {
  readonly passes: boolean;
  /** By the decision rule; what it says of the retest alone. */
  readonly code: Conformity["code"];
  readonly message: string;
}

/**
 * Does a retest pass? By the one decision rule ({@link conformity}): sound does; perhaps above what
 * can be left does, since nothing shows that it is; watch does when the work made it smaller by more
 * than both uncertainties; act does not, nor does one that cannot tell: a finer test settles that, or
 * somebody accepts it by name with a reason (what passes between the limits is ours).
 * @param before - loss before the work, or null
 * @param after - loss after it
 * @param options - `limits`: limits of the axis, mm; `system`: “metric” or “inch”
 * @returns whether it passes, and why
 * @example
 * const limits = { leaveMm: 0.01, repairMm: 0.025 };
 * judgeRetest(null, { reversalValueMm: 0.004, expandedMm: 0.001, runId: 1 }, { limits, system: "metric" }).passes // true
 */
export function judgeRetest(
  before: JobFigure | null,
  after: JobFigure,
  { limits, system }: { readonly limits: Pick<LossLimits, "leaveMm" | "repairMm">; readonly system: UnitSystem },
): RetestJudgement {
  const size = Math.abs(after.reversalValueMm);
  const figure = (f: JobFigure): string => formatWithU(f.reversalValueMm, f.expandedMm, { system });
  const limit = (mm: number): string => formatLimit(mm, system);
  const judged = conformity(after, limits);
  const both = bothExpanded(before, after);
  const change = before ? Math.abs(before.reversalValueMm) - size : 0;
  const compared = before
    ? `${figure(before)} before, ${figure(after)} after.`
    : `${figure(after)} after; nothing was measured before.`;
  const say = (passes: boolean, message: string): RetestJudgement => ({
    passes,
    code: judged.code,
    message: `${compared} ${message}`,
  });
  if (judged.code === "act")
    return say(false, `Above ${limit(limits.repairMm)}, the limit for repair: find which link still moves.`);
  if (judged.code === "cannot-tell")
    return say(
      false,
      judged.because === "uncertainty-unknown"
        ? `Nobody knows how well that is known: it cannot tell against ${limit(limits.repairMm)}. Name the indicator and the runs, or measure it here.`
        : `${limit(limits.repairMm)}, the limit for repair, lies inside that: this retest cannot tell. A finer indicator or more runs settles it.`,
    );
  if (before && both !== null && -change > both)
    return say(false, "Worse than before by more than both uncertainties together.");
  if (judged.code === "sound") return say(true, `Below ${limit(limits.leaveMm)}: it can be left.`);
  if (judged.perhaps)
    return say(true, `Perhaps above ${limit(limits.leaveMm)}, under the limit for repair: look again in a week.`);
  if (before && (both === null || change <= both))
    return say(
      false,
      `Above ${limit(limits.leaveMm)}, and the work has not made it smaller than both uncertainties can tell.`,
    );
  return say(true, `Smaller, and may be compensated; above ${limit(limits.leaveMm)}, so look again in a week.`);
}

/** Both uncertainties together, mm; null where one of them is not known. */
function bothExpanded(before: JobFigure | null, after: JobFigure): number | null {
  if (!before || before.expandedMm === null || after.expandedMm === null) return null;
  return Math.hypot(before.expandedMm, after.expandedMm);
}
