import { isSplitTest, lossTrend } from "@iron/core";
import type { FloorAxis } from "@iron/contract";
import type { Db } from "../store/database";
import { floorSounds } from "../sound/sounds-well";
import { fromJson, toJson } from "../store/columns";

/** Axes asked for at once: SQLite takes only so many values in one question. */
const AT_ONCE = 400;

/** The floor’s line of each axis, from all that is known of it. */
export async function summariesOf(db: Db, ids: readonly number[]): Promise<ReadonlyMap<number, FloorAxis>> {
  const all = new Map<number, FloorAxis>();
  for (let from = 0; from < ids.length; from += AT_ONCE)
    for (const one of await workOut(db, ids.slice(from, from + AT_ONCE))) all.set(one.id, one);
  return all;
}

/**
 * Works out and keeps what the floor says of axes, in the transaction of the change; with no axes named,
 * of all that have no line. What forgets this costs time, never truth: triggers take the old line away.
 */
export async function settleAxes(db: Db, ids?: readonly number[]): Promise<void> {
  const open =
    ids ??
    (
      await db
        .selectFrom("axis")
        .leftJoin("axis_summary", "axis_summary.axis_id", "axis.id")
        .select("axis.id")
        .where("summary", "is", null)
        .where("retired_at", "is", null)
        .orderBy("axis.id")
        .execute()
    ).map((r) => r.id);
  for (const [axis_id, line] of await summariesOf(db, open)) {
    const summary = toJson(line);
    await db
      .insertInto("axis_summary")
      .values({ axis_id, summary })
      .onConflict((c) => c.column("axis_id").doUpdateSet({ summary }))
      .execute();
  }
}

/** What the database has of some axes, for their lines on the floor. */
async function factsOf(db: Db, ids: readonly number[]) {
  const axes = await db.selectFrom("axis").select(["id", "config"]).where("id", "in", ids).orderBy("id").execute();
  const running = await db
    .selectFrom("run")
    .select(["id", "axis_id"])
    .where("state", "=", "running")
    .where("axis_id", "in", ids)
    .orderBy("started_at")
    .execute();
  const losses = await db
    .selectFrom("loss")
    .select([
      "run_id as runId",
      "job_id as jobId",
      "axis_id as axisId",
      "kind",
      "lost_mm as reversalValueMm",
      "expanded_mm as expandedMm",
      "at",
    ])
    .where("axis_id", "in", ids)
    .orderBy("at")
    .execute();
  const repairs = await db
    .selectFrom("axis_event")
    .select(["axis_id", (eb) => eb.fn.max("at").as("at")])
    .where("kind", "in", ["repair", "adjustment"])
    .where("axis_id", "in", ids)
    .groupBy("axis_id")
    .execute();
  const soundOf = await floorSounds(db, ids, repairs);
  return { axes, running, losses, repairs, soundOf };
}

async function workOut(db: Db, ids: readonly number[]): Promise<FloorAxis[]> {
  if (ids.length === 0) return [];
  const { axes, running, losses, repairs, soundOf } = await factsOf(db, ids);
  const lastRepair = new Map(repairs.map((r) => [r.axis_id, r.at]));
  const open = new Map(running.map((r) => [r.axis_id, r.id]));
  const byAxis = new Map<number, (typeof losses)[number][]>();
  for (const loss of losses) {
    if (isSplitTest(loss.kind)) continue;
    const there = byAxis.get(loss.axisId);
    if (there) there.push(loss);
    else byAxis.set(loss.axisId, [loss]);
  }
  return axes.map(({ id, config }): FloorAxis => {
    const { letter, limits, feedback } = fromJson(config);
    const done = byAxis.get(id) ?? [];
    const last = done.at(-1);
    const since = done.filter((r) => r.at > (lastRepair.get(id) ?? "") && r.kind === last?.kind);
    const points = since.map((r) => ({
      atMs: Date.parse(r.at),
      reversalValueMm: r.reversalValueMm,
      expandedMm: r.expandedMm,
    }));
    const trend = lossTrend(points, limits.repairMm);
    return {
      id,
      letter,
      leaveMm: limits.leaveMm,
      repairMm: limits.repairMm,
      feedback,
      last: last
        ? {
            runId: last.runId,
            jobId: last.jobId,
            reversalValueMm: last.reversalValueMm,
            expandedMm: last.expandedMm,
            at: last.at,
          }
        : null,
      trend: trend && {
        perMonthMm: trend.perMonthMm,
        significant: trend.significant,
        reachesLimitAt: trend.reachesLimitAtMs === null ? null : new Date(trend.reachesLimitAtMs).toISOString(),
      },
      openRunId: open.get(id) ?? null,
      sound: soundOf(id),
    };
  });
}
