import {
  estimateJob,
  figureBefore,
  formatQuantity,
  formatWithU,
  JOB_KINDS,
  judgeCircleRetest,
  judgeRetest,
  lengthsIn,
  LINK_OF_JOINT,
  openJoints,
  readingWithin,
  recordOf,
  stateAfter,
  stateChange,
  stateLine,
  stateText,
  type JobFigure,
  type JobPlan,
  type JobProgress,
  type PlannedStep,
  type SignedStep,
  type StateLine,
  type UnitSystem,
} from "@iron/core";
import type { Axis, Circles, Job, JobEventRecord } from "@iron/contract";
import { minutesText } from "../shared/amount.text";
import { STEP_SUMS, SUM_NAMES } from "./step-sums";
import { momentText } from "../shared/times.text";

export function stepName(step: PlannedStep): string {
  return step.axis ? `${step.axis} · ${step.title}` : step.title;
}

export interface SheetRow {
  readonly id: string;
  readonly name: string;
  readonly minutes: number;
  /** How the axis stands after it. */
  readonly state: string;
  readonly done: string;
  readonly now: boolean;
  readonly hold: boolean;
}

/** Every step signed on sheets gone by, then every step of this one, with who signed it and when. */
export function sheetRows(job: Job, progress: JobProgress): readonly SheetRow[] {
  const signs = signsOf(job.events);
  const signedBy = (id: string): string => {
    const sign = signs.get(id);
    return sign ? `${momentText(sign.at)}, ${sign.by}` : "kept here, not sent yet";
  };
  const earlier = progress.earlier.map(({ step }, i): SheetRow => ({
    id: `earlier ${i} ${step.id}`,
    name: stepName(step),
    minutes: step.minutes,
    state: step.state,
    done: signedBy(step.id),
    now: false,
    hold: step.hold !== "",
  }));
  const changes = stateChanges(progress.plan);
  return [
    ...earlier,
    ...progress.plan.steps.map((step): SheetRow => ({
      id: step.id,
      name: stepName(step),
      minutes: step.minutes,
      state: changes.get(step.id) ?? "",
      done: progress.done.has(step.id) ? signedBy(step.id) : "",
      now: step.id === progress.next?.id,
      hold: step.hold !== "",
    })),
  ];
}

/** What each step of a sheet changes, axis by axis: the first of an axis says how it stands. */
function stateChanges({ axes, start, steps }: JobPlan): ReadonlyMap<string, string> {
  const last = new Map<string, StateLine>();
  let state = start;
  return new Map(
    steps.map((step) => {
      state = stateAfter(state, step.axis, step.effects);
      const shown = axes.filter((a) => step.axis === null || a.letter === step.axis);
      const lines = shown.map(({ letter, config }) => {
        const now = stateLine(config, state.axes[letter], state.power);
        const before = last.get(letter);
        last.set(letter, now);
        const said = before ? stateChange(config, before, now) : stateText(config, state.axes[letter], state.power);
        return said && shown.length > 1 ? `${letter}: ${said}` : said;
      });
      return [step.id, lines.filter(Boolean).join("; ")];
    }),
  );
}

function signsOf(events: readonly JobEventRecord[]): ReadonlyMap<string, { readonly at: string; readonly by: string }> {
  const signs = new Map<string, { at: string; by: string }>();
  for (const e of events) if (e.kind === "sign") signs.set(e.step, e);
  return signs;
}

/** "12 of 41 steps, about 2 h 10 min to go (1 h 30 min to 2 h 50 min)". */
export function aheadText(progress: JobProgress): string {
  const total = progress.plan.steps.length + progress.earlier.length;
  const done = progress.signed.length;
  if (progress.finished) return `All ${total} steps are signed.`;
  const estimate = estimateJob(progress.plan, progress.done);
  const [from, to] = estimate.between;
  const waits = estimate.waitDays ? `, and about ${estimate.waitDays} working days at the screw shop` : "";
  return `${done} of ${total} steps signed, about ${minutesText(estimate.minutes)} to go (${minutesText(from)} to ${minutesText(to)})${waits}.`;
}

/** How each axis of the job stands now: power, who carries it, what is open. */
export function standText(progress: JobProgress): readonly string[] {
  const { axes } = progress.plan;
  return axes.map(({ letter, config }) => {
    const text = stateText(config, progress.state.axes[letter], progress.state.power);
    return axes.length > 1 ? `${letter}: ${text}` : text;
  });
}

/** Steps that have been signed with something found, read, changed or accepted. */
export function remarks(progress: JobProgress): readonly string[] {
  const byId = new Map(progress.plan.steps.map((s) => [s.id, s]));
  const said = (step: PlannedStep, s: SignedStep): string => {
    const found = step.finds.find((f) => f.id === s.found);
    const parts = [
      found && found !== step.finds[0] ? found.label : "",
      s.kept === "changed" ? `changed: ${s.change}` : "",
      s.reason ? `accepted: ${s.reason} (${s.holdBy || "no name"})` : "",
      s.words,
    ].filter(Boolean);
    return parts.length ? `${stepName(step)}: ${parts.join("; ")}` : "";
  };
  return [
    ...recordOf(progress).map((r) => said(r.step, r.signed)),
    ...progress.notes.map((n) => `${byId.get(n.step)?.title ?? n.step}: ${n.words}`),
  ].filter(Boolean);
}

export interface Proof {
  readonly letter: string;
  readonly message: string;
  /** Null while a retest of this axis is still to come. */
  readonly passes: boolean | null;
}

/** Before and after by axis, with the verdict of every retest its sheet asks for. */
export function beforeAfter(job: Job, progress: JobProgress, system: UnitSystem): readonly Proof[] {
  return job.axes.map((axis) => {
    const steps = progress.plan.steps.filter((s) => s.axis === axis.letter && s.retest);
    const proofs = steps.map((step) =>
      step.retest === "chain"
        ? chainProof(job, { progress, axis, system })
        : step.retest === "circle"
          ? circleProof(step, progress, system)
          : readingProof(step, progress, system),
    );
    // A job that ended before its retests still says what was measured.
    const all = proofs.length ? proofs : [chainProof(job, { progress, axis, system })];
    const verdicts = all.map((p) => p.passes);
    const passes = verdicts.includes(false) ? false : verdicts.includes(null) ? null : true;
    return { letter: axis.letter, message: all.map((p) => p.message).join(" "), passes };
  });
}

type OneProof = Pick<Proof, "message" | "passes">;

function chainProof(
  job: Job,
  {
    progress,
    axis,
    system,
  }: { readonly progress: JobProgress; readonly axis: Job["axes"][number]; readonly system: UnitSystem },
): OneProof {
  const before = beforeFigure(job, progress, axis.letter);
  const after = progress.signed.find((s) => s.step === `${axis.letter}:retest-chain`)?.figure;
  if (after) return judgeRetest(before, after, { limits: axis, system });
  const message = before
    ? `${formatWithU(before.reversalValueMm, before.expandedMm, { system })} before.`
    : "Nothing measured before.";
  return { message, passes: null };
}

function circleProof(step: PlannedStep, progress: JobProgress, system: UnitSystem): OneProof {
  const circle = progress.signed.find((s) => s.step === step.id)?.circle;
  return circle
    ? judgeCircleRetest(circle, step.axis ?? "", system)
    : { message: "No circle taken yet.", passes: progress.done.has(step.id) ? true : null };
}

function readingProof(step: PlannedStep, progress: JobProgress, system: UnitSystem): OneProof {
  const { reading } = step;
  const value = progress.signed.find((s) => s.step === step.id)?.reading ?? null;
  if (!reading || value === null)
    return {
      message: `${lengthsIn(reading?.label ?? step.title, system)}: not retested yet.`,
      passes: progress.done.has(step.id) ? true : null,
    };
  const bound =
    reading.to === undefined ? "" : `, up to ${formatQuantity(reading.quantity, reading.to, system)} is fine`;
  return {
    message: `${lengthsIn(reading.label, system)} ${formatQuantity(reading.quantity, value, system)}${bound}.`,
    passes: readingWithin(step, value),
  };
}

/** The figure before the work: what was read at its step, else the last test before. */
export function beforeFigure(job: Job, progress: JobProgress, letter: string): JobFigure | null {
  return figureBefore(progress.signed, letter, job.axes.find((a) => a.letter === letter)?.before ?? null);
}

/** Jobs that fit an axis, the one that a case points to first. */
export function jobChoices(
  axis: Axis,
  wanted: string | null,
): readonly { readonly id: string; readonly name: string }[] {
  return JOB_KINDS.filter((k) => k.fits(axis.config))
    .map(({ id, name }) => ({ id, name }))
    .sort((a, b) => Number(b.id === wanted) - Number(a.id === wanted));
}

/** Links of an axis that are undone at this moment. */
export function openLinks(progress: JobProgress, letter: string): readonly string[] {
  const axis = progress.plan.axes.find((a) => a.letter === letter);
  if (!axis) return [];
  const open = openJoints(axis.config, progress.state.axes[letter]);
  return [...new Set(open.flatMap((j) => LINK_OF_JOINT[j] ?? []))];
}

/** How long the step at hand has been going: since the last signature, or since the job was opened. */
export function stepTime(job: Job, nowMs: number): string {
  const last = job.events.at(-1)?.at ?? job.openedAt;
  const minutes = Math.max(0, (nowMs - Date.parse(last)) / 60_000);
  const total = Math.max(0, (nowMs - Date.parse(job.openedAt)) / 60_000);
  return `This step has been going for ${minutesText(minutes)}, the job for ${minutesText(total)}.`;
}

/** Steps that are measured at station Set. */
const STEP_MEASURED = [
  "float-bracket",
  "housing-tight",
  "set-gib",
  "set-gib-rock",
  "sweep-before",
  "shim-head",
  "shim-column",
  "retest-home",
  "retest-tram",
];

export interface StepLink {
  readonly label: string;
  readonly link: readonly (string | number)[];
  readonly axis: number | null;
}

/** Ways from a step to the sums and measurements that it needs. */
export function stepLinks(job: Job, step: PlannedStep): readonly StepLink[] {
  const name = step.kind;
  const axisId = job.axes.find((a) => a.letter === step.axis)?.axisId ?? null;
  const sums = (STEP_SUMS[name] ?? []).map((id): StepLink => ({
    label: SUM_NAMES[id],
    link: ["/sums", id],
    axis: axisId,
  }));
  return STEP_MEASURED.includes(name) && axisId !== null
    ? [...sums, { label: "Measure it at Set", link: ["/machines", job.machineId, "axes", axisId, "set"], axis: null }]
    : sums;
}

/** The circles before and after a job that show one of its axes, and what they are good for; empty where none was before. */
export function circleBeside(
  job: Pick<Job, "axes" | "openedAt" | "finishedAt">,
  sessions: Circles["sessions"],
): string {
  const letters = job.axes.map((a) => a.letter);
  const shows = sessions.filter(
    (s) =>
      s.state === "finished" && s.planes.some((p) => p.analysis && p.plan.letters.some((l) => letters.includes(l))),
  );
  const before = shows.filter((s) => s.startedAt < job.openedAt).at(-1);
  if (!before) return "";
  const { finishedAt } = job;
  const after = finishedAt === null ? undefined : shows.find((s) => s.startedAt > finishedAt);
  const when = momentText(before.startedAt);
  return after
    ? `Circles before, ${when}, and after, ${momentText(after.startedAt)}: laid over each other they show what else has changed.`
    : `A circle was taken before, ${when}. Take it again after the job, in the same plane at the same feed, and lay one over the other.`;
}
