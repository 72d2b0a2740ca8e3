import {
  firstCheckOn,
  axisFromParts,
  keptThrough,
  mendMachine,
  doneText,
  isSplitTest,
  jobKind,
  jobProgress,
  mendParts,
  recordOf,
  type JobItem,
} from "@iron/core";
import type { Job, JobAct, JobEventRecord, JobSummary } from "@iron/contract";
import type { Transaction } from "kysely";
import type * as z from "zod";
import type { jobCreateSchema } from "@iron/contract";
import type { DeviceHub } from "../devices/device-hub";
import { conflict, notFound, problem } from "../http/problem-error";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";
import { fromJson, toJson } from "../store/columns";
import type { Tables } from "../store/tables";
import { settleAxes } from "../machine/axis-summary";
import { instant, type Clock } from "../shop/clock";
import { eventFor } from "./job-acts";
import { jobPhoto, keepJobPhoto, type JobPhoto } from "./job-photos";
import { countAsVisit, forgetLoss, keepLoss, tellCase } from "./job-tells";
import type { Machines } from "../machine/machines";
import { sheetOrProblem, titleOf, jobOf, eventsOf, fromOwnTest } from "./job-rows";

type Create = z.output<typeof jobCreateSchema>;

/** Jobs: a planned sheet, and everything that happens on it, kept as it happens. */
export class Jobs {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly clock: Clock;
      readonly hub: DeviceHub;
    },
  ) {}

  async open(machineId: number, create: Create, who: string): Promise<Job> {
    const machine = await this.needs.machines.withAxes(machineId);
    const axes = machine.axes.filter((a) => create.items.some((i) => i.axisId === a.id));
    const items = create.items.map(({ axisId, kind, loose }): JobItem => {
      const axis = axes.find((a) => a.id === axisId);
      if (!axis) throw problem(422, { title: "Not valid", detail: `${machine.nickname} has no axis ${axisId}.` });
      if (!jobKind(kind).fits(axis.config))
        throw problem(422, {
          title: "Not on this axis",
          detail: `“${jobKind(kind).name}” does not fit ${axis.config.letter}: it has no such part.`,
        });
      return {
        letter: axis.config.letter,
        kind,
        ...(loose?.length ? { loose } : {}),
      };
    });
    if (create.caseId !== null) await this.mustBeCase(create.caseId, machineId);
    const plan = sheetOrProblem({
      axes: axes.map((a) => ({ letter: a.config.letter, config: a.config })),
      items,
      options: create.options,
    });
    const before = await Promise.all(
      axes.map(async (a) => ({
        axisId: a.id,
        letter: a.config.letter,
        leaveMm: a.config.limits.leaveMm,
        repairMm: a.config.limits.repairMm,
        before: await this.lastLoss(a.id),
      })),
    );
    const { id } = await this.needs.db
      .insertInto("job")
      .values({
        machine_id: machineId,
        case_id: create.caseId,
        title: titleOf(items as Job["items"]),
        items: toJson(items as Job["items"]),
        options: toJson(create.options),
        axes: toJson(before),
        plan: toJson(plan as Job["plan"]),
        opened_at: instant(this.needs.clock),
        by: who,
        finished_at: null,
        check_on: null,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    return this.get(id);
  }

  async get(id: number, db: Db = this.needs.db): Promise<Job> {
    const row = await db
      .selectFrom("job")
      .innerJoin("machine", "machine.id", "job.machine_id")
      .selectAll("job")
      .select(["nickname", "bay"])
      .where("job.id", "=", id)
      .executeTakeFirst();
    if (!row) throw notFound("job", id);
    const photos = await db
      .selectFrom("job_photo")
      .select(["id", "step", "caption", "at", "by"])
      .where("job_id", "=", id)
      .orderBy("id")
      .execute();
    return { ...jobOf(row), events: await eventsOf(db, id), photos };
  }

  /** The open job of a kind on an axis, the newest; null where there is none. */
  async openOf(axisId: number, kind: JobItem["kind"]): Promise<number | null> {
    const rows = await this.needs.db
      .selectFrom("job")
      .select(["id", "axes", "items"])
      .where("finished_at", "is", null)
      .orderBy("id", "desc")
      .execute();
    const row = rows.find((r) => {
      const axis = fromJson(r.axes).find((a) => a.axisId === axisId);
      return fromJson(r.items).some((i) => i.letter === axis?.letter && i.kind === kind);
    });
    return row?.id ?? null;
  }

  async list(): Promise<JobSummary[]> {
    const rows = await this.needs.db
      .selectFrom("job")
      .innerJoin("machine", "machine.id", "job.machine_id")
      .selectAll("job")
      .select(["nickname", "bay"])
      .orderBy("job.id", "desc")
      .execute();
    return Promise.all(
      rows.map(async (row) => {
        const job = jobOf(row);
        const progress = jobProgress(job.plan, await eventsOf(this.needs.db, row.id));
        return {
          id: job.id,
          machineId: job.machineId,
          axisIds: job.axes.map((a) => a.axisId),
          nickname: job.nickname,
          bay: job.bay,
          title: job.title,
          openedAt: job.openedAt,
          by: job.by,
          finishedAt: job.finishedAt,
          checkOn: job.checkOn,
          done: progress.done.size,
          steps: progress.plan.steps.length,
          next: progress.next?.title ?? "",
        };
      }),
    );
  }

  /** Takes one act: refused in words where it cannot be; the same key again changes nothing. */
  async act(id: number, act: JobAct, who: string): Promise<Job> {
    // Read before the transaction: there is one connection.
    const { machineId } = await this.get(id);
    const { axes } = await this.needs.machines.withAxes(machineId);
    const after = await this.needs.db.transaction().execute(async (trx) => {
      const job = await this.get(id, trx);
      if (await isKnownKey(trx, { table: "job_event", key: act.key, owner: id })) return job;
      const progress = jobProgress(job.plan, job.events);
      if (job.finishedAt && act.kind !== "note" && act.kind !== "kit")
        throw conflict("This job is signed off. Open another one for more work.", job);
      const event = eventFor(job, { progress, act: await fromOwnTest(trx, { job, progress, act }), machineAxes: axes });
      const at = instant(this.needs.clock);
      await trx
        .insertInto("job_event")
        .values({
          key: act.key,
          job_id: id,
          kind: event.kind,
          data: toJson(event as JobEventRecord),
          at,
          by: who,
        })
        .execute();
      if (act.kind === "sign" && act.step === "sign-off") await this.finish(trx, job, { at, who });
      if (event.kind === "undo") await forgetLoss(trx, job, event.step);
      if (event.kind === "sign") {
        await tellCase(trx, job, { signed: event, at, who });
        await keepLoss(trx, job, { signed: event, at, who });
      }
      if (event.kind === "sign" || event.kind === "undo")
        await settleAxes(
          trx,
          job.axes.map((a) => a.axisId),
        );
      return this.get(id, trx);
    });
    if (act.kind === "sign") await this.mend(after, act.step);
    return after;
  }

  /** What a step does to the simulated machine, so that its retest can prove it. */
  private async mend(job: Job, stepId: string): Promise<void> {
    const step = jobProgress(job.plan, job.events).plan.steps.find((s) => s.id === stepId);
    const axis = job.axes.find((a) => a.letter === step?.axis);
    if (!step || !axis) return;
    await this.mendBeyond(job, axis.letter, { id: step.kind, renewed: step.parts.length > 0 });
    const row = await this.needs.db
      .selectFrom("virtual_axis")
      .select("model")
      .where("axis_id", "=", axis.axisId)
      .executeTakeFirst();
    const model = row ? fromJson(row.model) : null;
    if (!model?.parts) return;
    const parts = mendParts(model.parts, step.kind, step.parts.length > 0);
    if (parts === model.parts) return;
    const { config } = await this.needs.machines.axis(axis.axisId);
    await this.needs.db
      .updateTable("virtual_axis")
      // What was typed into the control stays there, whatever was renewed; so does the error of a screw that was not.
      .set({ model: toJson({ ...axisFromParts(config, parts, axis.axisId), ...keptThrough(model, step.kind) }) })
      .where("axis_id", "=", axis.axisId)
      .execute();
    await this.needs.hub.forget(axis.axisId);
  }

  /** The same for what a circle shows of the machine beyond its axes. */
  private async mendBeyond(job: Job, letter: string, step: { readonly id: string; readonly renewed: boolean }) {
    const { db } = this.needs;
    const row = await db
      .selectFrom("virtual_machine")
      .select("model")
      .where("machine_id", "=", job.machineId)
      .executeTakeFirst();
    if (!row) return;
    const model = fromJson(row.model);
    const after = mendMachine(model, letter, step);
    if (after === model) return;
    await db
      .updateTable("virtual_machine")
      .set({ model: toJson(after) })
      .where("machine_id", "=", job.machineId)
      .execute();
  }

  async addPhoto(jobId: number, photo: JobPhoto, who: string): Promise<Job> {
    await this.get(jobId);
    await keepJobPhoto(this.needs.db, jobId, { photo, when: { at: instant(this.needs.clock), who } });
    return this.get(jobId);
  }

  photo(id: number): Promise<{ media: string; bytes: Buffer }> {
    return jobPhoto(this.needs.db, id);
  }

  /** Signed off: the log of each axis says so, dated before its retest so that the retest counts as after. */
  private async finish(
    trx: Transaction<Tables>,
    job: Job,
    { at, who }: { readonly at: string; readonly who: string },
  ): Promise<void> {
    const powered = job.events.find((e) => e.kind === "sign" && e.step.startsWith("tools-out"));
    const workEnded = powered?.at ?? at;
    const record = recordOf(jobProgress(job.plan, job.events));
    for (const axis of job.axes)
      await trx
        .insertInto("axis_event")
        .values({
          axis_id: axis.axisId,
          kind: "repair",
          text: `Job ${job.id}: ${doneText(record, axis.letter)}.`.slice(0, 500),
          at: workEnded,
          by: who,
        })
        .execute();
    await countAsVisit(trx, job, { record, at, who });
    const checkOn = firstCheckOn(Date.parse(at));
    await trx.updateTable("job").set({ finished_at: at, check_on: checkOn }).where("id", "=", job.id).execute();
  }

  private async mustBeCase(id: number, machineId: number): Promise<void> {
    const row = await this.needs.db
      .selectFrom("case_file")
      .select("machine_id")
      .where("id", "=", id)
      .executeTakeFirst();
    if (row?.machine_id !== machineId)
      throw problem(422, { title: "Not valid", detail: `There is no case ${id} on this machine.` });
  }

  private async lastLoss(axisId: number): Promise<Job["axes"][number]["before"]> {
    const rows = await this.needs.db
      .selectFrom("loss")
      .select(["run_id", "kind", "lost_mm", "expanded_mm", "place_mm", "at"])
      .where("axis_id", "=", axisId)
      .orderBy("at", "desc")
      .limit(20)
      .execute();
    const last = rows.find((r) => !isSplitTest(r.kind));
    if (!last) return null;
    return {
      reversalValueMm: last.lost_mm,
      expandedMm: last.expanded_mm,
      runId: last.run_id,
      at: last.at,
      kind: last.kind,
      placeMm: last.place_mm,
    };
  }
}
