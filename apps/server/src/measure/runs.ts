import { checkPlan, nextStep, stepsOf, type TestStep } from "@iron/core";
import type { ReadingRecord, Run, RunCreate, RunSetup } from "@iron/contract";
import type { Transaction } from "kysely";
import { conflict, notFound, problem } from "../http/problem-error";
import type { Db } from "../store/database";
import { toJson } from "../store/columns";
import type { Tables } from "../store/tables";
import { settleAxes } from "../machine/axis-summary";
import { summarise } from "./run-summary";
import { instant, type Clock } from "../shop/clock";
import type { Machines } from "../machine/machines";
import { readingsOf, resultOf, type NewReading } from "./readings";
import { runOf, hangsOn } from "./run-rows";

/** Raised whenever the same readings give another value or another U than before. */
const EVALUATION = 2;

/** Tests and their readings: kept the moment they are taken, never changed, set aside by marks. */
export class Runs {
  constructor(
    private readonly db: Db,
    private readonly machines: Machines,
    private readonly clock: Clock,
  ) {}

  async run(id: number, db: Db = this.db): Promise<Run> {
    const row = await db.selectFrom("run").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("test", id);
    return runOf(row, await readingsOf(db, id));
  }

  async start(axisId: number, create: RunCreate, who: string): Promise<Run> {
    const axis = await this.machines.axis(axisId);
    checkPlan(create.plan, axis.config.travelMm);
    const id = await this.db.transaction().execute(async (trx) => {
      const made = await this.insertRun(trx, { axisId, create, who, hash: null });
      await settleAxes(trx, [axisId]);
      return made;
    });
    return this.run(id);
  }

  /** Keeps a reading if its step is the next one; a run whose last step is read is finished. */
  async keep(runId: number, reading: NewReading, who: string): Promise<Run> {
    return this.changing(runId, async (trx, run) => {
      const next = this.expectRunning(run);
      if (next.index !== reading.step) {
        throw conflict(
          "That step already has its reading, or another comes first. The test has gone on; look again.",
          run,
        );
      }
      await this.insertReading(trx, { runId, r: reading, who });
    });
  }

  async discard(readingId: number, reason: string, who: string): Promise<Run> {
    return this.marking(
      readingId,
      (run, reading) => {
        if (reading.state !== "kept") throw conflict("That reading is not in use: there is nothing to set aside.");
        const step = stepsOf(run.plan)[reading.step];
        const hang = run.readings.some((r) => r.state === "kept" && r.step > step.index && hangsOn(run, step, r.step));
        if (step.action === "zero" && hang) {
          throw conflict("Readings taken since hang on this zero. Set them aside first, or begin a new test.");
        }
        return { mark: "discarded", reason: reason || "set aside by hand" };
      },
      who,
    );
  }

  async restore(readingId: number, who: string): Promise<Run> {
    return this.marking(
      readingId,
      (run, reading) => {
        if (reading.state !== "discarded") throw conflict("That reading was not set aside.");
        if (run.readings.some((r) => r.state === "kept" && r.step === reading.step)) {
          throw conflict("Its step has been read anew. Set that reading aside first.");
        }
        return { mark: "restored", reason: "" };
      },
      who,
    );
  }

  async finish(runId: number): Promise<Run> {
    return this.changing(runId, async (trx, run) => {
      this.expectRunning(run);
      if (!resultOf(run)) {
        throw problem(422, {
          title: "Too little read",
          detail: "There is no result yet: at least one place must be read from both sides.",
        });
      }
      await trx
        .updateTable("run")
        .set({ state: "finished", finished_at: instant(this.clock) })
        .where("id", "=", runId)
        .execute();
    });
  }

  /**
   * Which way the needle counted. Readings stay as they were shown; the result follows, and the
   * set-up says who turned it and when.
   */
  async turnSense(runId: number, sense: 1 | -1, who: string): Promise<Run> {
    return this.changing(runId, async (trx, run) => {
      if (run.setup.sense === sense) return;
      const message = `Sense of the needle turned by ${who}, ${instant(this.clock).slice(0, 10)}.`;
      const note = `${run.setup.note} ${message}`.trim().slice(0, 500);
      await this.writeSetup(trx, runId, { ...run.setup, sense, note });
    });
  }

  /** A program that is about to move the axis; once readings hang on another one it is too late. */
  async noteProgram(runId: number, commanded: NonNullable<RunSetup["commanded"]>): Promise<Run> {
    return this.changing(runId, async (trx, run) => {
      const there = run.setup.commanded;
      const same = there?.system === commanded.system && there.decimals === commanded.decimals;
      if (same) return;
      const steps = stepsOf(run.plan);
      const read = run.readings.some((r) => r.state === "kept" && steps[r.step].action !== "zero");
      if (read)
        throw conflict(
          "Readings have been taken already: their places were commanded as before. Begin a new test for another program.",
          run,
        );
      await this.writeSetup(trx, runId, { ...run.setup, commanded });
    });
  }

  private async writeSetup(trx: Db, runId: number, setup: RunSetup) {
    const row = { setup: toJson(setup) };
    await trx.updateTable("run").set(row).where("id", "=", runId).execute();
  }

  async abandon(runId: number, reason: string): Promise<Run> {
    return this.changing(runId, async (trx, run) => {
      this.expectRunning(run);
      await trx
        .updateTable("run")
        .set({
          state: "abandoned",
          finished_at: instant(this.clock),
          given_up: reason,
        })
        .where("id", "=", runId)
        .execute();
    });
  }

  private expectRunning(run: Run): TestStep {
    const next = nextStep(stepsOf(run.plan), run.readings);
    if (run.state !== "running" || !next) throw conflict("This test has ended. Begin a new one.", run);
    return next;
  }

  /** One transaction: look, change, then settle the run's state and summary. */
  private changing(runId: number, change: (trx: Transaction<Tables>, run: Run) => Promise<void>): Promise<Run> {
    return this.db.transaction().execute(async (trx) => {
      await change(trx, await this.run(runId, trx));
      const run = await this.run(runId, trx);
      const complete = !nextStep(stepsOf(run.plan), run.readings);
      if (run.state === "running" && complete) {
        await trx
          .updateTable("run")
          .set({ state: "finished", finished_at: instant(this.clock) })
          .where("id", "=", runId)
          .execute();
      }
      const settled = await this.run(runId, trx);
      await summarise(trx, settled);
      await settleAxes(trx, [run.axisId]);
      return settled;
    });
  }

  private async marking(
    readingId: number,
    mark: (run: Run, reading: ReadingRecord) => { mark: "discarded" | "restored"; reason: string },
    who: string,
  ): Promise<Run> {
    const row = await this.db.selectFrom("reading").select("run_id").where("id", "=", readingId).executeTakeFirst();
    if (!row) throw notFound("reading", readingId);
    return this.changing(row.run_id, async (trx, run) => {
      if (run.state === "abandoned") throw conflict("This test was given up. Begin a new one.");
      const reading = run.readings.find((r) => r.id === readingId) as ReadingRecord;
      const made = mark(run, reading);
      await trx
        .insertInto("reading_mark")
        .values({
          reading_id: readingId,
          ...made,
          at: instant(this.clock),
          by: who,
        })
        .execute();
      if (made.mark === "discarded") {
        await trx.updateTable("run").set({ state: "running", finished_at: null }).where("id", "=", run.id).execute();
      }
    });
  }

  /**
   * Works every finished test out anew after the evaluation has changed, so that floor and history
   * say what the test’s own page says. Does nothing when that was done before.
   * @returns how many tests were worked out
   */
  async reevaluate(): Promise<number> {
    const key = "evaluation";
    const value = String(EVALUATION);
    const done = await this.db.selectFrom("setting").select("value").where("key", "=", key).executeTakeFirst();
    if (done?.value === value) return 0;
    return this.db.transaction().execute(async (trx) => {
      const rows = await trx.selectFrom("run").select("id").where("state", "=", "finished").orderBy("id").execute();
      for (const { id } of rows) await summarise(trx, await this.run(id, trx));
      await settleAxes(trx);
      await trx
        .insertInto("setting")
        .values({ key, value })
        .onConflict((c) => c.column("key").doUpdateSet({ value }))
        .execute();
      return rows.length;
    });
  }

  async insertRun(
    db: Db,
    {
      axisId,
      create,
      who,
      hash,
    }: { readonly axisId: number; readonly create: RunCreate; readonly who: string; readonly hash: string | null },
  ): Promise<number> {
    const row = {
      axis_id: axisId,
      kind: create.plan.kind,
      plan: toJson(create.plan),
      setup: toJson(create.setup),
      state: "running" as const,
      started_at: instant(this.clock),
      finished_at: null,
      by: who,
      import_hash: hash,
      lost_mm: null,
      expanded_mm: null,
      place_mm: null,
    };
    return (await db.insertInto("run").values(row).returning("id").executeTakeFirstOrThrow()).id;
  }

  async insertReading(
    db: Db,
    { runId, r, who }: { readonly runId: number; readonly r: NewReading; readonly who: string },
  ): Promise<void> {
    const row = {
      run_id: runId,
      step: r.step,
      value: r.value,
      width_mm: r.widthMm,
      entered: r.entered,
      source: r.source,
      spoilt: r.spoilt ? 1 : 0,
      reason: r.reason,
      judgement: r.judgement ? toJson(r.judgement) : null,
      at: instant(this.clock),
      by: who,
    };
    await db.insertInto("reading").values(row).execute();
  }
}
