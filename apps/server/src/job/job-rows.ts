import { type CircleFigure, jobKind, type JobProgress, NoWay, planJob } from "@iron/core";
import { circleAsked, circleFigures, type Job, type JobAct, type JobEventRecord } from "@iron/contract";
import type { Selectable } from "kysely";
import { problem } from "../http/problem-error";
import { circlesOf } from "../prove/circle-rows";
import type { Db } from "../store/database";
import { fromJson } from "../store/columns";
import type { Tables } from "../store/tables";
import { modernEvent, modernPlan } from "../lubrication/old-plans";

/**
 * A figure that names a test is that test’s own value, and the test one of the step’s axis.
 * @throws ProblemError for a test of another axis, or one without a result
 */
export async function fromOwnTest(
  trx: Db,
  { job, progress, act }: { readonly job: Job; readonly progress: JobProgress; readonly act: JobAct },
): Promise<JobAct> {
  if (act.kind !== "sign") return act;
  if (act.circle) return { ...act, circle: await ownCircle(trx, { job, progress, act, circle: act.circle }) };
  if (!act.figure || act.figure.runId === null) return act;
  const { runId } = act.figure;
  const step = progress.plan.steps.find((s) => s.id === act.step);
  const axis = job.axes.find((a) => a.letter === step?.axis);
  const row = await trx
    .selectFrom("loss")
    .select(["axis_id", "lost_mm", "expanded_mm"])
    .where("run_id", "=", runId)
    .executeTakeFirst();
  if (!row || row.axis_id !== axis?.axisId)
    throw problem(422, {
      title: "Not valid",
      detail: row
        ? `Test ${runId} is of another axis: ${step?.axis ?? "this step"} needs one of its own.`
        : `There is no finished test ${runId} with a result.`,

      errors: [
        {
          path: "figure.runId",
          message: "A test of its own axis is needed.",
        },
      ],
    });
  return {
    ...act,
    figure: { runId, reversalValueMm: row.lost_mm, expandedMm: row.expanded_mm },
  };
}

/** The circle that is named, as the shop keeps it: a finished one of the step’s axis, read since the work was done. */
async function ownCircle(
  trx: Db,
  {
    job,
    progress,
    act,
    circle,
  }: {
    readonly job: Job;
    readonly progress: JobProgress;
    readonly act: Extract<JobAct, { kind: "sign" }>;
    readonly circle: CircleFigure;
  },
): Promise<CircleFigure> {
  const step = progress.plan.steps.find((s) => s.id === act.step);
  const asked = circleAsked(job, progress.plan as Job["plan"], step?.axis ?? "");
  const all = asked ? circleFigures(await circlesOf(trx, job.machineId), asked) : [];
  const own = all.find((f) => f.sessionId === circle.sessionId && f.plane.join() === circle.plane.join());
  if (own) return own;
  throw problem(422, {
    title: "Not valid",
    detail: `Circle ${circle.sessionId} cannot be this retest: a finished one is needed that shows ${step?.axis ?? "this axis"} both ways round, read since the work was done.`,
    errors: [{ path: "circle.sessionId", message: "A circle of its own axis is needed." }],
  });
}

/** A sheet, or in words why no safe one is found. */
export function sheetOrProblem(request: Parameters<typeof planJob>[0]) {
  try {
    return planJob(request);
  } catch (error) {
    if (error instanceof NoWay) throw problem(422, { title: "No safe sheet", detail: error.message });
    throw error;
  }
}

export function titleOf(items: Job["items"]): string {
  const byKind = new Map<string, string[]>();
  for (const { kind, letter } of items) byKind.set(kind, [...(byKind.get(kind) ?? []), letter]);
  return [...byKind]
    .map(([kind, letters]) => `${jobKind(kind as Job["items"][number]["kind"]).name}, ${letters.join(" + ")}`)
    .join("; ");
}

export async function eventsOf(db: Db, jobId: number): Promise<JobEventRecord[]> {
  const rows = await db
    .selectFrom("job_event")
    .select(["key", "data", "at", "by"])
    .where("job_id", "=", jobId)
    .orderBy("id")
    .execute();
  return rows.map((r) => ({
    ...modernEvent(fromJson(r.data)),
    key: r.key,
    at: r.at,
    by: r.by,
  }));
}

export function jobOf(
  row: Selectable<Tables["job"]> & { nickname: string; bay: string },
): Omit<Job, "events" | "photos"> {
  return {
    id: row.id,
    machineId: row.machine_id,
    nickname: row.nickname,
    bay: row.bay,
    caseId: row.case_id,
    title: row.title,
    items: fromJson(row.items),
    options: fromJson(row.options),
    axes: fromJson(row.axes),
    openedAt: row.opened_at,
    by: row.by,
    finishedAt: row.finished_at,
    checkOn: row.check_on,
    plan: modernPlan(fromJson(row.plan)),
  };
}
