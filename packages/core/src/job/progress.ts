import { stateAfter, stateText, type MachineState } from "../machine/mechanism";
import type { CircleFigure } from "../prove";
import { auditSheet, auditStepNow } from "./audit";
import { kitOf } from "./kit";
import type { JobPlan } from "./planner";
import type { JobFigure } from "./retest";
import { PHASES, type PlannedStep } from "./step-kind";

/** A step signed, with what was found, read and vouched for. */
export interface SignedStep {
  readonly step: string;
  readonly found: string | null;
  readonly words: string;
  readonly reading: number | null;
  /** Why a reading outside its bounds, a failed retest or a smooth part was passed over. */
  readonly reason: string;
  readonly kept: "as it was" | "changed" | null;
  readonly change: string;
  /** First name of who vouches, for steps that need a deliberate sign-off. */
  readonly holdBy: string;
  readonly figure: JobFigure | null;
  /** A circle that was taken as the retest; not there on what was kept before it could be. */
  readonly circle?: CircleFigure | null;
}

export type JobEvent =
  | ({ readonly kind: "sign" } & SignedStep)
  | { readonly kind: "undo"; readonly step: string }
  | { readonly kind: "note"; readonly step: string; readonly words: string }
  | { readonly kind: "kit"; readonly item: string; readonly on: boolean }
  | { readonly kind: "plan"; readonly why: string; readonly plan: JobPlan };

/** A step of the record: as it was on the sheet when it was signed. */
export interface RecordedStep {
  readonly step: PlannedStep;
  readonly signed: SignedStep;
}

export interface JobProgress {
  readonly plan: JobPlan;
  /** Steps signed on sheets gone by, in the order they were: they stay on screen and paper. */
  readonly earlier: readonly RecordedStep[];
  /** In the order they were signed, over all sheets of the job. */
  readonly signed: readonly SignedStep[];
  /** Steps of the present sheet that are signed. */
  readonly done: ReadonlySet<string>;
  readonly state: MachineState;
  readonly next: PlannedStep | null;
  readonly notes: readonly { readonly step: string; readonly words: string }[];
  /** What of the kit lies ready. */
  readonly ready: ReadonlySet<string>;
  readonly finished: boolean;
}

/**
 * Where a job stands: its sheet and everything that happened, in order.
 * @param first - the sheet the job began with
 * @param events - what happened since, the oldest first
 * @returns where it stands
 * @example jobProgress(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }), []).finished // false
 */
export function jobProgress(first: JobPlan, events: readonly JobEvent[]): JobProgress {
  let plan = first;
  let earlier: RecordedStep[] = [];
  /** Only steps of the present sheet can be taken back. */
  let signed: SignedStep[] = [];
  const notes: { step: string; words: string }[] = [];
  const ready = new Set<string>();
  const recorded = (): RecordedStep[] =>
    signed.flatMap((s) => {
      const step = plan.steps.find((x) => x.id === s.step);
      return step ? [{ step, signed: s }] : [];
    });
  for (const event of events) {
    if (event.kind === "sign") signed.push(event);
    else if (event.kind === "note") notes.push(event);
    else if (event.kind === "kit") {
      if (event.on) ready.add(event.item);
      else ready.delete(event.item);
    } else if (event.kind === "undo") signed = signed.filter((s) => s.step !== event.step);
    else {
      earlier = [...earlier, ...recorded()];
      signed = [];
      plan = event.plan;
    }
  }
  const done = new Set(signed.map((s) => s.step));
  const state = recorded().reduce((s, { step }) => stateAfter(s, step.axis, step.effects), plan.start);
  return {
    plan,
    earlier,
    signed: [...earlier.map((r) => r.signed), ...signed],
    done,
    state,
    next: plan.steps.find((s) => !done.has(s.id)) ?? null,
    notes,
    ready,
    finished: done.has("sign-off"),
  };
}

/**
 * Every step signed so far with the step it was, over all sheets.
 * @param progress - the sheet and everything that happened
 * @returns the steps, the first first
 * @example recordOf(jobProgress(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }), [])).length // 0
 */
export function recordOf(progress: JobProgress): readonly RecordedStep[] {
  const now = progress.signed.slice(progress.earlier.length);
  return [
    ...progress.earlier,
    ...now.flatMap((signed) => {
      const step = progress.plan.steps.find((s) => s.id === signed.step);
      return step ? [{ step, signed }] : [];
    }),
  ];
}

/**
 * What stands against doing a step now, in words; empty when nothing does.
 * @param progress - the sheet and everything that happened
 * @param step - the step
 * @returns the sentences
 * @example stepBlocked(jobProgress(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }), []), planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }).steps[0]).length // 0
 */
export function stepBlocked(progress: JobProgress, step: PlannedStep): readonly string[] {
  const { axes } = progress.plan;
  if (step.id === "sign-off")
    return progress.plan.steps
      .filter((s) => s.id !== step.id && !progress.done.has(s.id))
      .slice(0, 3)
      .map((s) => `“${s.title}” is not signed yet.`);
  const waits = progress.plan.steps
    .slice(0, progress.plan.steps.indexOf(step))
    .filter(
      (s) =>
        !progress.done.has(s.id) &&
        PHASES.indexOf(s.phase) < PHASES.indexOf(step.phase) &&
        (s.axis === null || step.axis === null || s.axis === step.axis),
    );
  return [
    ...new Set(auditStepNow(axes, progress.state, step).map((f) => `It ${f.message}.`)),
    ...waits.slice(0, 1).map((s) => `It comes after “${s.title}”.`),
  ];
}

/**
 * The rest of a sheet in another order, each step’s state worked out anew.
 * @param progress - the sheet and everything that happened
 * @param order - ids of the steps that are left
 * @returns the sheet
 * @example reordered(jobProgress(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }), []), planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }).steps.map((s) => s.id)).steps.length === planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }).steps.length // true
 */
export function reordered(progress: JobProgress, order: readonly string[]): JobPlan {
  const byId = new Map(progress.plan.steps.map((s) => [s.id, s]));
  const { axes } = progress.plan;
  let state = progress.state;
  const steps = order.flatMap((id): PlannedStep[] => {
    const step = byId.get(id);
    if (!step) return [];
    state = stateAfter(state, step.axis, step.effects);
    const shown = axes.filter((a) => step.axis === null || a.letter === step.axis);
    const lines = shown.map((a) => {
      const line = stateText(a.config, state.axes[a.letter], state.power);
      return axes.length > 1 && step.axis === null ? `${a.letter}: ${line}` : line;
    });
    return [{ ...step, state: lines.join("; ") }];
  });
  return { axes, start: progress.state, steps };
}

/**
 * Where a changed order of what is left goes wrong; empty when it can be worked.
 * @param progress - the sheet and everything that happened
 * @param order - ids of the steps that are left
 * @returns the sentences
 * @example refuseOrder(jobProgress(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }), []), planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }).steps.map((s) => s.id)).length // 0
 */
export function refuseOrder(progress: JobProgress, order: readonly string[]): readonly string[] {
  const left = progress.plan.steps.filter((s) => !progress.done.has(s.id));
  const known = new Set(left.map((s) => s.id));
  if (order.length !== left.length || new Set(order).size !== order.length || !order.every((id) => known.has(id)))
    return ["The order must name every step that is left, each once."];
  if (order.at(-1) !== left.at(-1)?.id) return [`“${left.at(-1)?.title ?? ""}” comes last.`];
  const plan = reordered(progress, order);
  const names = new Map(plan.steps.map((s) => [s.id, s.axis ? `${s.axis}: ${s.title}` : s.title]));
  return auditSheet({ ...plan, kit: kitOf(plan) }).map((f) => `“${names.get(f.step) ?? f.step}” ${f.message}.`);
}
