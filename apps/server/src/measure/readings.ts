import { evaluateRun, type ApproachJudgement, type LossResult } from "@iron/core";
import { indicatorSetup, type ReadingRecord, type Run } from "@iron/contract";
import { sql } from "kysely";
import type { Db } from "../store/database";
import { rowsOfJson, type ColumnKind } from "../store/in-dialect";
import { fromJson, toJson, type Json } from "../store/columns";

/** A reading about to be kept. */
export interface NewReading {
  readonly step: number;
  readonly value: number;
  readonly widthMm: number;
  readonly entered: string;
  readonly source: ReadingRecord["source"];
  readonly spoilt: boolean;
  readonly reason: string;
  readonly judgement?: ApproachJudgement;
}

/** A run's readings with the state that the last mark of each gives it. */
export async function readingsOf(db: Db, runId: number): Promise<ReadingRecord[]> {
  const rows = await selectReadings(db).where("run_id", "=", runId).orderBy("reading.id").execute();
  return rows.map(recordOf);
}

/** Readings of some tests in one query, by test. */
export async function readingsOfRuns(db: Db, runIds: readonly number[]): Promise<ReadonlyMap<number, ReadingRecord[]>> {
  const rows = await selectReadings(db).where("run_id", "in", runIds).orderBy("reading.id").execute();
  const byRun = new Map<number, ReadingRecord[]>();
  for (const r of rows) {
    const record = recordOf(r);
    const there = byRun.get(r.run_id);
    if (there) there.push(record);
    else byRun.set(r.run_id, [record]);
  }
  return byRun;
}

function selectReadings(db: Db) {
  return db
    .selectFrom("reading")
    .leftJoin("reading_mark", (join) =>
      join
        .onRef("reading_mark.reading_id", "=", "reading.id")
        .on("reading_mark.id", "=", sql<number>`(select max(id) from reading_mark where reading_id = reading.id)`),
    )
    .select([
      "reading.id",
      "run_id",
      "step",
      "value",
      "width_mm",
      "entered",
      "source",
      "spoilt",
      "reading.reason",
      "judgement",
      "reading.at",
      "reading.by",
      "mark",
      "reading_mark.reason as mark_reason",
    ]);
}

interface ReadingRow {
  readonly id: number;
  readonly step: number;
  readonly value: number;
  readonly width_mm: number;
  readonly entered: string;
  readonly source: ReadingRecord["source"];
  readonly spoilt: number;
  readonly reason: string;
  readonly judgement: Json<ApproachJudgement> | null;
  readonly at: string;
  readonly by: string;
  readonly mark: "discarded" | "restored" | null;
  readonly mark_reason: string | null;
}

function recordOf(r: ReadingRow): ReadingRecord {
  return {
    id: r.id,
    step: r.step,
    value: r.value,
    widthMm: r.width_mm,
    entered: r.entered,
    source: r.source,
    state: r.mark === "discarded" ? "discarded" : r.spoilt ? "spoilt" : "kept",
    reason: r.mark === "discarded" ? (r.mark_reason ?? "") : r.reason,
    judgement: r.judgement === null ? null : fromJson(r.judgement),
    at: r.at,
    by: r.by,
  };
}

export function resultOf(run: Pick<Run, "plan" | "setup" | "readings">): LossResult | null {
  return evaluateRun(run.plan, run.readings, indicatorSetup(run.setup));
}

const COLUMNS: Readonly<Record<string, ColumnKind>> = {
  ...{ step: "integer", value: "real", widthMm: "real", entered: "text", source: "text", spoilt: "integer" },
  ...{ reason: "text", judgement: "text" },
};

/** Keeps many readings at once, in their order. */
export async function insertReadings(
  trx: Db,
  {
    runId,
    readings,
    at,
    who,
  }: { readonly runId: number; readonly readings: readonly NewReading[]; readonly at: string; readonly who: string },
): Promise<void> {
  const rows = JSON.stringify(
    readings.map(({ judgement, spoilt, ...r }) => ({
      ...r,
      spoilt: spoilt ? 1 : 0,
      judgement: judgement ? toJson(judgement) : null,
    })),
  );
  await sql`insert into reading (run_id, step, value, width_mm, entered, source, spoilt, reason, judgement, at, by)
    select ${runId}, r.step, r.value, r."widthMm", r.entered, r.source, r.spoilt, r.reason, r.judgement, ${at}, ${who}
    from ${rowsOfJson(trx, rows, COLUMNS)} order by r.n`.execute(trx);
}
