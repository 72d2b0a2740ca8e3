import {
  jobKind,
  NoWay,
  planJob,
  recordOf,
  refuseOrder,
  refuseSign,
  reordered,
  type JobItem,
  type JobPlan,
  type JobProgress,
  type JointId,
} from "@iron/core";
import type { Axis, Job, JobAct, JobEventRecord } from "@iron/contract";
import { conflict, problem } from "../http/problem-error";

type DistributiveOmit<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;

/** The loss typed or taken at the step before the work, which is fresher than the last test. */
function beforeOf(progress: JobProgress, letter: string) {
  const signed = progress.signed.find((s) => s.step === `${letter}:measure-before`);
  if (signed?.figure) return signed.figure;
  return signed?.reading === null || signed?.reading === undefined
    ? null
    : { reversalValueMm: signed.reading, expandedMm: null, runId: null };
}

/** What an act becomes on record; a problem in words where it cannot be. */
export function eventFor(
  job: Job,
  {
    progress,
    act,
    machineAxes,
  }: { readonly progress: JobProgress; readonly act: JobAct; readonly machineAxes: readonly Axis[] },
): DistributiveOmit<JobEventRecord, "at" | "by" | "key"> {
  switch (act.kind) {
    case "sign": {
      const { key: _, system, ...sign } = act;
      const axis = (letter: string) => job.axes.find((a) => a.letter === letter);
      const refusal = refuseSign(progress, sign, {
        before: (letter) => beforeOf(progress, letter) ?? axis(letter)?.before ?? null,
        limits: (letter) => axis(letter) ?? null,
        system,
      });
      if (refusal) throw conflict(refusal.message, job);
      return sign;
    }
    case "undo": {
      const last = progress.signed.at(-1);
      if (last?.step !== act.step || !progress.done.has(act.step))
        throw conflict("Only the step signed last can be taken back; later ones hang on it.", job);
      return { kind: "undo", step: act.step };
    }
    case "note":
      return { kind: "note", step: act.step, words: act.words };
    case "kit":
      return { kind: "kit", item: act.item, on: act.on };
    case "reorder": {
      const errors = refuseOrder(progress, act.order);
      if (errors.length) throw conflict(`That order cannot be worked. ${errors.slice(0, 3).join(" ")}`, job);
      return {
        kind: "plan",
        why: "order changed by hand",
        plan: reordered(progress, act.order) as Job["plan"],
      };
    }
    case "stop-here":
      return {
        kind: "plan",
        why: "fasteners were loose: tighten, close and retest",
        plan: planAnew(job, {
          progress,
          added: { letter: act.letter, kind: "tighten", loose: looseAt(progress, act.letter) },
          keepWork: false,
          machineAxes,
        }),
      };
    case "add-work":
      return {
        kind: "plan",
        why: `added: ${jobKind(act.job).name}, ${act.letter}`,
        plan: planAnew(job, { progress, added: { letter: act.letter, kind: act.job }, keepWork: true, machineAxes }),
      };
  }
}

/** Joints whose fasteners were tried at the step that found something loose. */
function looseAt(progress: JobProgress, letter: string): readonly JointId[] {
  const last = recordOf(progress)
    .filter((r) => r.step.axis === letter)
    .at(-1);
  return (last?.step.effects ?? []).flatMap((e) =>
    e.kind === "note" && e.id.startsWith("tried:") ? [e.id.slice("tried:".length) as JointId] : [],
  );
}

/** The sheet from here on: what is open is closed properly, with other or more work. */
function planAnew(
  job: Job,
  {
    progress,
    added,
    keepWork,
    machineAxes,
  }: {
    readonly progress: JobProgress;
    readonly added: JobItem;
    readonly keepWork: boolean;
    readonly machineAxes: readonly Axis[];
  },
): Job["plan"] {
  const { letter, kind } = added;
  const all = machineAxes.filter((a) => job.axes.some((j) => j.axisId === a.id));
  const on = all.find((a) => a.config.letter === letter);
  if (!on) throw problem(422, { title: "Not valid", detail: `This job is not on axis ${letter}.` });
  if (!jobKind(kind).fits(on.config))
    throw problem(422, {
      title: "Not on this axis",
      detail: `“${jobKind(kind).name}” does not fit ${letter}: it has no such part.`,
    });
  const items: readonly JobItem[] = [...(keepWork ? job.items : job.items.filter((i) => i.letter !== letter)), added];
  return inText(job, () =>
    planJob({
      axes: all.map((a) => ({ letter: a.config.letter, config: a.config })),
      items,
      options: job.options,
      start: progress.state,
      done: new Set(recordOf(progress).map((r) => `${r.step.axis ?? ""}:${r.step.kind}`)),
    }),
  );
}

/** A sheet that cannot be is refused in words, with the job as it is. */
function inText(job: Job, plan: () => JobPlan): Job["plan"] {
  try {
    return plan() as Job["plan"];
  } catch (error) {
    if (error instanceof NoWay) throw conflict(error.message, job);
    throw error;
  }
}
