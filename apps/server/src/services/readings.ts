import { evaluateRun, type LossResult } from "@iron/core";
import type { ReadingRecord, Run } from "@iron/contract";
import { sql } from "kysely";
import type { Db } from "../store/database";

/** A reading about to be kept. */
export interface NewReading {
  readonly step: number;
  readonly value: number;
  readonly widthMm: number;
  readonly entered: string;
  readonly source: ReadingRecord["source"];
  readonly spoilt: boolean;
  readonly reason: string;
}

/** A run's readings with the state that the last mark of each gives it. */
export async function readingsOf(
  db: Db,
  runId: number,
): Promise<ReadingRecord[]> {
  const rows = await db
    .selectFrom("reading")
    .leftJoin("reading_mark", (join) =>
      join
        .onRef("reading_mark.reading_id", "=", "reading.id")
        .on(
          "reading_mark.id",
          "=",
          sql<number>`(select max(id) from reading_mark where reading_id = reading.id)`,
        ),
    )
    .select([
      "reading.id",
      "step",
      "value",
      "width_mm",
      "entered",
      "source",
      "spoilt",
      "reading.reason",
      "reading.at",
      "reading.by",
      "mark",
      "reading_mark.reason as mark_reason",
    ])
    .where("run_id", "=", runId)
    .orderBy("reading.id")
    .execute();
  return rows.map((r) => ({
    id: r.id,
    step: r.step,
    value: r.value,
    widthMm: r.width_mm,
    entered: r.entered,
    source: r.source,
    state: r.mark === "discarded" ? "discarded" : r.spoilt ? "spoilt" : "kept",
    reason: r.mark === "discarded" ? (r.mark_reason ?? "") : r.reason,
    at: r.at,
    by: r.by,
  }));
}

export function resultOf(
  run: Pick<Run, "plan" | "setup" | "readings">,
): LossResult | null {
  const { indicator, tipAngleDeg, sense } = run.setup;
  return evaluateRun(run.plan, run.readings, {
    resolutionMm: indicator.resolutionMm,
    tipAngleDeg,
    sense,
  });
}
