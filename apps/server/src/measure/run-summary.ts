import type { Run } from "@iron/contract";
import type { Transaction } from "kysely";
import type { Tables } from "../store/tables";
import { resultOf } from "./readings";

/** Keeps with a test what its readings come to; most readings change nothing of it, and then nothing is written. */
export async function summarise(trx: Transaction<Tables>, run: Run): Promise<void> {
  const result = run.state === "finished" ? resultOf(run) : null;
  const summary = {
    lost_mm: result?.reversalValueMm ?? null,
    expanded_mm: result?.uncertainty.expanded ?? null,
    place_mm: result ? result.places[result.governing].positionMm : null,
  };
  const there = await trx
    .selectFrom("run")
    .select(["lost_mm", "expanded_mm", "place_mm"])
    .where("id", "=", run.id)
    .executeTakeFirstOrThrow();
  // Most readings change nothing of it, and the axis’ line on the floor stays.
  if (
    there.lost_mm === summary.lost_mm &&
    there.expanded_mm === summary.expanded_mm &&
    there.place_mm === summary.place_mm
  )
    return;
  await trx.updateTable("run").set(summary).where("id", "=", run.id).execute();
}
