import type { Run, RunSummary, TypedLoss } from "@iron/contract";
import type { Db } from "../store/database";
import { readingsOfRuns } from "./readings";
import { runOf } from "./run-rows";

/** Tests whose readings are read together. */
const RUNS_AT_ONCE = 8;

/** What was measured on an axis, test by test. */
export class RunHistory {
  constructor(private readonly db: Db) {}

  async summaries(axisId: number): Promise<RunSummary[]> {
    const rows = await this.db
      .selectFrom("run")
      .select([
        "id",
        "kind",
        "state",
        "started_at",
        "finished_at",
        "by",
        "lost_mm",
        "expanded_mm",
        "place_mm",
        "import_hash",
        "given_up",
      ])
      .select((eb) =>
        eb
          .selectFrom("reading")
          .select(eb.fn.countAll<number>().as("n"))
          .whereRef("run_id", "=", "run.id")
          .as("readings"),
      )
      .where("axis_id", "=", axisId)
      .orderBy("started_at")
      .execute();
    return rows.map((r) => ({
      id: r.id,
      kind: r.kind,
      state: r.state,
      at: r.finished_at ?? r.started_at,
      by: r.by,
      reversalValueMm: r.lost_mm,
      expandedMm: r.expanded_mm,
      placeMm: r.place_mm,
      readings: r.readings ?? 0,
      imported: r.import_hash !== null,
      reason: r.given_up,
    }));
  }

  /** Retests of an axis that were typed in a job. */
  async typedLosses(axisId: number): Promise<TypedLoss[]> {
    return this.db
      .selectFrom("typed_loss")
      .select([
        "job_id as jobId",
        "kind",
        "lost_mm as reversalValueMm",
        "expanded_mm as expandedMm",
        "place_mm as placeMm",
        "at",
        "by",
      ])
      .where("axis_id", "=", axisId)
      .orderBy("at")
      .execute();
  }

  /** Every test of an axis with its readings, some at a time: others are answered in between. */
  async *allReadings(axisId: number): AsyncGenerator<Run> {
    const ids = await this.db
      .selectFrom("run")
      .select("id")
      .where("axis_id", "=", axisId)
      .orderBy("started_at")
      .execute();
    for (let from = 0; from < ids.length; from += RUNS_AT_ONCE) {
      const some = ids.slice(from, from + RUNS_AT_ONCE).map((r) => r.id);
      const rows = await this.db.selectFrom("run").selectAll().where("id", "in", some).orderBy("started_at").execute();
      const readings = await readingsOfRuns(this.db, some);
      for (const row of rows) yield runOf(row, readings.get(row.id) ?? []);
      await new Promise((others) => setImmediate(others));
    }
  }
}
