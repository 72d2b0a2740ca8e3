import type { LossLimits } from "../axis";
import {
  conformity,
  formatLimit,
  formatQuantity,
  formatWithU,
  lengthsIn,
  type Conformity,
  type UnitSystem,
} from "../quantity";
import { bareName, factWords, openFact } from "./facts";
import { checkOrder, factsAfter } from "./order";
import type { JobPlan, PlannedStep } from "./planner";

/** A loss measured for a job, mm; the run it comes from where it was taken as a test. */
export interface JobFigure {
  readonly lostMm: number;
  /** Null where it was typed and nobody said with what it was measured. */
  readonly expandedMm: number | null;
  readonly runId: number | null;
}

/** A step signed, with what was found, read and vouched for. */
export interface SignedStep {
  readonly step: string;
  readonly found: string | null;
  readonly words: string;
  readonly reading: number | null;
  /** Why a reading outside its bounds, or a failed retest, was accepted. */
  readonly reason: string;
  readonly kept: "as it was" | "changed" | null;
  readonly change: string;
  /** First name of who vouches, for steps that need a deliberate sign-off. */
  readonly holdBy: string;
  readonly figure: JobFigure | null;
}

export type JobEvent =
  | ({ readonly kind: "sign" } & SignedStep)
  | { readonly kind: "undo"; readonly step: string }
  | { readonly kind: "note"; readonly step: string; readonly words: string }
  | { readonly kind: "plan"; readonly why: string; readonly plan: JobPlan };

export interface JobProgress {
  readonly plan: JobPlan;
  /** In the order they were signed, over all plans of the job. */
  readonly signed: readonly SignedStep[];
  readonly done: ReadonlySet<string>;
  readonly facts: readonly string[];
  readonly next: PlannedStep | null;
  readonly notes: readonly { readonly step: string; readonly words: string }[];
  readonly finished: boolean;
}

/** Where a job stands: its plan and everything that happened, in order. */
export function jobProgress(
  first: JobPlan,
  events: readonly JobEvent[],
): JobProgress {
  let plan = first;
  /** Steps of plans gone by stay done; only those of the present plan can be undone. */
  let earlier: SignedStep[] = [];
  let signed: SignedStep[] = [];
  const notes: { step: string; words: string }[] = [];
  for (const event of events) {
    if (event.kind === "sign") signed.push(event);
    else if (event.kind === "note") notes.push(event);
    else if (event.kind === "undo")
      signed = signed.filter((s) => s.step !== event.step);
    else {
      earlier = [...earlier, ...signed];
      signed = [];
      plan = event.plan;
    }
  }
  const done = new Set(signed.map((s) => s.step));
  const byId = new Map(plan.steps.map((s) => [s.id, s]));
  const walked = signed.flatMap((s) => byId.get(s.step) ?? []);
  return {
    plan,
    signed: [...earlier, ...signed],
    done,
    facts: factsAfter(walked, plan.start),
    next: plan.steps.find((s) => !done.has(s.id)) ?? null,
    notes,
    finished: done.has("sign-off"),
  };
}

/** What stands against doing a step now; empty when nothing does. */
export function stepBlocked(
  progress: JobProgress,
  step: PlannedStep,
): readonly string[] {
  const holds = new Set(progress.facts);
  const words: string[] = [];
  for (const need of step.needs)
    if (!holds.has(need)) words.push(`It needs that ${factWords(need)}.`);
  for (const fact of step.without)
    if (holds.has(fact)) words.push(`It cannot be done while ${factWords(fact)}.`); // prettier-ignore
  for (const id of step.after) {
    const other = progress.plan.steps.find((s) => s.id === id);
    if (other && !progress.done.has(id)) words.push(`It comes after “${other.title}”.`); // prettier-ignore
  }
  return words;
}

export interface RetestJudgement {
  readonly passes: boolean;
  /** By the decision rule; what it says of the retest alone. */
  readonly code: Conformity["code"];
  readonly words: string;
}

/**
 * Does a retest pass? By the one decision rule ({@link conformity}): sound does; perhaps above what
 * can be left does, since nothing shows that it is; watch does when the work made it smaller by more
 * than both uncertainties; act does not, nor does one that cannot tell: a finer test settles that, or
 * somebody accepts it by name with a reason (what passes between the limits is ours).
 */
export function judgeRetest(
  before: JobFigure | null,
  after: JobFigure,
  limits: Pick<LossLimits, "leaveMm" | "repairMm">,
  system: UnitSystem,
): RetestJudgement {
  const size = Math.abs(after.lostMm);
  const figure = (f: JobFigure): string =>
    formatWithU(f.lostMm, f.expandedMm, { system });
  const limit = (mm: number): string => formatLimit(mm, system);
  const judged = conformity(after, limits);
  const both = bothExpanded(before, after);
  const change = before ? Math.abs(before.lostMm) - size : 0;
  const compared = before
    ? `${figure(before)} before, ${figure(after)} after.`
    : `${figure(after)} after; nothing was measured before.`;
  const say = (passes: boolean, words: string): RetestJudgement => ({
    passes,
    code: judged.code,
    words: `${compared} ${words}`,
  });
  if (judged.code === "act")
    return say(
      false,
      `Above ${limit(limits.repairMm)}, the limit for repair: find which link still moves.`,
    );
  if (judged.code === "cannot-tell")
    return say(
      false,
      judged.because === "uncertainty-unknown"
        ? `Nobody knows how well that is known: it cannot tell against ${limit(limits.repairMm)}. Name the indicator and the runs, or measure it here.`
        : `${limit(limits.repairMm)}, the limit for repair, lies inside that: this retest cannot tell. A finer indicator or more runs settles it.`,
    );
  if (before && both !== null && -change > both)
    return say(
      false,
      "Worse than before by more than both uncertainties together.",
    );
  if (judged.code === "sound")
    return say(true, `Below ${limit(limits.leaveMm)}: it can be left.`);
  if (judged.perhaps)
    return say(
      true,
      `Perhaps above ${limit(limits.leaveMm)}, under the limit for repair: look again in a week.`,
    );
  if (before && (both === null || change <= both))
    return say(
      false,
      `Above ${limit(limits.leaveMm)}, and the work has not made it smaller than both uncertainties can tell.`,
    );
  return say(
    true,
    `Smaller, and may be compensated; above ${limit(limits.leaveMm)}, so look again in a week.`,
  );
}

/** Both uncertainties together, mm; null where one of them is not known. */
function bothExpanded(
  before: JobFigure | null,
  after: JobFigure,
): number | null {
  if (!before || before.expandedMm === null || after.expandedMm === null)
    return null;
  return Math.hypot(before.expandedMm, after.expandedMm);
}

export interface SignRules {
  readonly before: (letter: string) => JobFigure | null;
  readonly limits: (letter: string) => Pick<LossLimits, "leaveMm" | "repairMm"> | null; // prettier-ignore
  readonly system: UnitSystem;
}

/** Why a step cannot be signed like this; empty when it can. Says the value and the bound. */
export function refuseSign(
  progress: JobProgress,
  sign: SignedStep,
  rules: SignRules,
): string {
  const step = progress.plan.steps.find((s) => s.id === sign.step);
  if (!step) return "That step is not on the sheet any more: it was planned anew."; // prettier-ignore
  if (progress.done.has(step.id)) return "That step is signed already.";
  const blocked = stepBlocked(progress, step);
  if (blocked.length) return `“${step.title}” cannot be signed yet. ${blocked.join(" ")}`; // prettier-ignore
  if (step.hold && !sign.holdBy.trim())
    return "This one is a hold: say by first name who vouches for it.";
  if (step.keep && step.closes && !sign.kept)
    return `Say how the ${step.keep} went back: as it was, or changed.`;
  if (sign.kept === "changed" && !sign.change.trim())
    return "Say what was changed: the new thickness or size and why.";
  if (step.finds.length && sign.found === null)
    return "Say what was found, even when it was as it should be.";
  if (step.retest === "chain") {
    if (!sign.figure) return "The retest has no figure yet: measure at the same place, or type it."; // prettier-ignore
    const letter = step.axis ?? "";
    const limits = rules.limits(letter);
    if (!limits) return "";
    const judged = judgeRetest(rules.before(letter), sign.figure, limits, rules.system); // prettier-ignore
    if (!judged.passes && !sign.reason.trim())
      return `The retest does not pass. ${judged.words} To go on all the same, somebody accepts the deviation with a reason.`;
    if (!judged.passes && !sign.holdBy.trim())
      return "A deviation is accepted by name.";
    return "";
  }
  return refuseReading(step, sign, rules.system);
}

/** Does a reading lie within the bounds its step gives? */
export function readingWithin(step: PlannedStep, value: number): boolean {
  const { from = -Infinity, to = Infinity } = step.reading ?? {};
  return value >= from && value <= to;
}

function refuseReading(
  step: PlannedStep,
  sign: SignedStep,
  system: UnitSystem,
): string {
  const { reading } = step;
  if (!reading) return "";
  if (sign.reading === null)
    return reading.optional
      ? ""
      : `${lengthsIn(reading.label, system)} is missing.`;
  const { from = -Infinity, to = Infinity, quantity } = reading;
  if (readingWithin(step, sign.reading)) return "";
  if (sign.reason.trim())
    return step.retest && !sign.holdBy.trim() ? "A deviation is accepted by name." : ""; // prettier-ignore
  const value = formatQuantity(quantity, sign.reading, system);
  const bounds = [
    Number.isFinite(from) ? `from ${formatQuantity(quantity, from, system)}` : "", // prettier-ignore
    Number.isFinite(to) ? `up to ${formatQuantity(quantity, to, system)}` : "",
  ].filter(Boolean);
  return `${lengthsIn(reading.label, system)} ${value} is out of bounds: it should be ${bounds.join(" ")}. Put it right, or give a reason to go on.`;
}

/** Where a changed order of what is left goes wrong; empty when it can be worked. */
export function refuseOrder(
  progress: JobProgress,
  order: readonly string[],
): readonly string[] {
  const left = progress.plan.steps.filter((s) => !progress.done.has(s.id));
  const byId = new Map(left.map((s) => [s.id, s]));
  const steps = order.flatMap((id) => byId.get(id) ?? []);
  if (steps.length !== left.length || new Set(order).size !== order.length)
    return ["The order must name every step that is left, each once."];
  const doneSteps = progress.plan.steps.filter((s) => progress.done.has(s.id));
  const afterLeft = steps.map((s) => ({
    ...s,
    after: s.after.filter((id) => !doneSteps.some((d) => d.id === id)),
  }));
  return checkOrder(afterLeft, progress.facts).map((b) => b.words);
}

/** Is the member of an axis blocked at this moment of the job? */
export function isBlocked(progress: JobProgress, letter: string): boolean {
  return progress.facts.includes(`${letter}:blocked`);
}

/** Everything that is off its place now, in words. */
export function openNow(progress: JobProgress): readonly string[] {
  return progress.facts
    .filter((f) => openFact(f) && !bareName(f).startsWith("isolated"))
    .map(factWords);
}
