import { stepsOf, type TestStep } from "@iron/core";
import type { ReadingRecord, Run } from "@iron/contract";
import type { Selectable } from "kysely";
import { fromJson } from "../store/columns";
import type { Tables } from "../store/tables";

export function runOf(row: Selectable<Tables["run"]>, readings: readonly ReadingRecord[]): Run {
  return {
    id: row.id,
    axisId: row.axis_id,
    plan: fromJson(row.plan),
    setup: fromJson(row.setup),
    state: row.state,
    startedAt: row.started_at,
    finishedAt: row.finished_at,
    by: row.by,
    imported: row.import_hash !== null,
    reason: row.given_up,
    readings: [...readings],
  };
}

/** Does the reading of a later step depend on where this zero was set? */
export function hangsOn(run: Run, zero: TestStep, step: number): boolean {
  const steps = stepsOf(run.plan);
  const nextZero = steps.find((s) => s.action === "zero" && s.index > zero.index);
  return !nextZero || step < nextZero.index;
}
