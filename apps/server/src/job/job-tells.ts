import { randomUUID } from "node:crypto";
import { evidenceOf, jobProgress, TEST_KINDS, type recordOf, type SignedStep, type TestKind } from "@iron/core";
import { resultCreateSchema, type Job } from "@iron/contract";
import type { Transaction } from "kysely";
import { fromJson, toJson } from "../store/columns";
import type { Tables } from "../store/tables";

const isFound = (found: string | null): found is "right" | "dry" | "dirty" =>
  found === "right" || found === "dry" || found === "dirty";

/** What was found is evidence in its case at once: kept like a test, with the job it came from. */
export async function tellCase(
  trx: Transaction<Tables>,
  job: Job,
  { signed, at, who }: { readonly signed: SignedStep; readonly at: string; readonly who: string },
): Promise<void> {
  const { steps } = jobProgress(job.plan, job.events).plan;
  const step = steps.find((s) => s.id === signed.step);
  const axis = job.axes.find((a) => a.letter === step?.axis);
  if (job.caseId === null || !step || !axis) return;
  const found = evidenceOf({ step, signed });
  if (!found) return;
  const file = await trx
    .selectFrom("case_file")
    .select(["state", "axis_ids"])
    .where("id", "=", job.caseId)
    .executeTakeFirst();
  if (file?.state !== "open" || !fromJson(file.axis_ids).includes(axis.axisId)) return;
  const result = resultCreateSchema.parse({
    axisId: axis.axisId,
    test: found.test,
    answers: found.answers,
    note: `Found in job ${job.id}: ${step.title}.`,
    data: null,
  });
  await trx
    .insertInto("case_result")
    .values({
      case_id: job.caseId,
      axis_id: axis.axisId,
      test: result.test,
      note: result.note,
      answers: toJson(result.answers),
      data: null,
      at,
      by: who,
    })
    .execute();
}

const isTestKind = (kind: string | undefined): kind is TestKind => TEST_KINDS.some((k) => k === kind);

/** A retest typed here is the axis’ value from now on, as far as somebody said how well it is known. */
export async function keepLoss(
  trx: Transaction<Tables>,
  job: Job,
  { signed, at, who }: { readonly signed: SignedStep; readonly at: string; readonly who: string },
): Promise<void> {
  const { figure } = signed;
  if (!figure || figure.runId !== null || figure.expandedMm === null) return;
  const { steps } = jobProgress(job.plan, job.events).plan;
  const step = steps.find((s) => s.id === signed.step);
  const axis = job.axes.find((a) => a.letter === step?.axis);
  if (step?.retest !== "chain" || !axis) return;
  const before = axis.before?.kind;
  await forgetLoss(trx, job, step.id);
  await trx
    .insertInto("typed_loss")
    .values({
      axis_id: axis.axisId,
      job_id: job.id,
      step: step.id,
      // The same test at the same place as before, as its step asks.
      // One figure typed is no profile, whatever was taken before.
      kind: isTestKind(before) && before !== "travel-profile" ? before : "two-sided",
      lost_mm: figure.reversalValueMm,
      expanded_mm: figure.expandedMm,
      place_mm: axis.before?.placeMm ?? null,
      at,
      by: who,
    })
    .execute();
}

export async function forgetLoss(trx: Transaction<Tables>, job: Job, step: string): Promise<void> {
  await trx.deleteFrom("typed_loss").where("job_id", "=", job.id).where("step", "=", step).execute();
}

/** A nut that was parted and greased in a job is a visit of its point. */
export async function countAsVisit(
  trx: Transaction<Tables>,
  job: Job,
  { record, at, who }: { readonly record: ReturnType<typeof recordOf>; readonly at: string; readonly who: string },
): Promise<void> {
  const points = await trx
    .selectFrom("lube_point")
    .select(["id", "point"])
    .where("machine_id", "=", job.machineId)
    .where("retired_at", "is", null)
    .orderBy("id")
    .execute();
  for (const { step, signed } of record) {
    if (step.kind !== "grease-nut") continue;
    for (const row of points) {
      const point = fromJson(row.point);
      if (!point.partsNut || point.letter !== step.axis) continue;
      await trx
        .insertInto("lube_visit")
        .values({
          key: randomUUID(),
          point_id: row.id,
          found: isFound(signed.found) ? signed.found : "right",
          dose: point.dose,
          glitter: 0,
          friction: 0,
          outlets: null,
          words: `Job ${job.id}: nut parted, greased and aligned.`,
          at,
          by: who,
        })
        .execute();
    }
  }
}
