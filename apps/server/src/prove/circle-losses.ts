import { judgeCircle } from "@iron/core";
import type { Axis } from "@iron/contract";
import { sql } from "kysely";
import type { Db } from "../store/database";
import { jointOf, limitsOf, planesOf } from "./circle-rows";

/** What a circle says an axis loses when it turns round: a loss of the whole chain, at the circle’s own place and feed. */
export interface CircleLoss {
  readonly circleId: number;
  readonly mm: number;
  readonly expandedMm: number;
  readonly at: string;
}

/**
 * The loss by the last finished circle since somebody worked on the axis; where planes of it were joined, by all of them.
 * Null where none was finished, or none could tell it.
 */
export async function circleLoss(db: Db, axis: Axis, since: string | null): Promise<CircleLoss | null> {
  const rows = await db
    .selectFrom("circle_session")
    .select(["id", "finished_at"])
    .where("machine_id", "=", axis.machineId)
    .where("state", "=", "finished")
    .where("finished_at", ">", since ?? "")
    .orderBy("finished_at", "desc")
    .limit(5)
    .execute();
  const planes = await planesOf(
    db,
    rows.map((r) => r.id),
  );
  const { letter } = axis.config;
  for (const { id, finished_at: at } of rows) {
    const own = (planes.get(id) ?? []).filter((p) => p.axisIds.includes(axis.id));
    const joined = jointOf(own)?.findings.find((f) => f.kind === "lost" && f.letter === letter);
    const single = own
      .flatMap((p) => p.analysis?.findings ?? [])
      .find((f) => f.kind === "lost" && f.letter === letter && f.with.length === 0);
    const found = joined ?? single;
    if (found && at !== null) return { circleId: id, mm: found.value, expandedMm: found.u, at };
  }
  return null;
}

/**
 * The last finished circle since somebody worked on the axis, if the axis trembles in it by more than can be left; null
 * where it does not, or none was finished.
 */
export async function circleTremble(db: Db, axis: Axis, since: string | null): Promise<number | null> {
  const row = await db
    .selectFrom("circle_session")
    .select("id")
    .where("machine_id", "=", axis.machineId)
    .where("state", "=", "finished")
    .where("finished_at", ">", since ?? "")
    .where(
      "id",
      "in",
      db
        .selectFrom("circle_plane")
        .select("session_id")
        .where("analysis", "is not", null)
        .where((eb) =>
          eb.or(
            ([0, 1] as const).map((i) =>
              eb(
                sql<string>`cast(json_extract(circle_plane.axis_ids, ${sql.lit(`$[${i}]`)}) as text)`,
                "=",
                String(axis.id),
              ),
            ),
          ),
        ),
    )
    .orderBy("finished_at", "desc")
    .limit(1)
    .executeTakeFirst();
  if (!row) return null;
  const planes = (await planesOf(db, [row.id])).get(row.id) ?? [];
  const { limits } = await limitsOf(db, axis.machineId);
  const seen = planes.flatMap(({ axisIds, analysis }) => {
    const at = axisIds.indexOf(axis.id);
    if (!analysis || (at !== 0 && at !== 1)) return [];
    const { code, ...judged } = judgeCircle(
      "tremble",
      { value: analysis.tremble.rmsMm[at], u: analysis.tremble.uMm[at] },
      limits,
    );
    return [code === "act" || (code === "watch" && !("perhaps" in judged && judged.perhaps))];
  });
  // What is of the axis itself shows in every plane; beside another that trembles it only seems to.
  const shakes = seen.length > 0 && seen.every(Boolean);
  return shakes ? row.id : null;
}
