import { dayOf, isSplitTest, lossTrend } from "@iron/core";
import type { Floor, FloorAxis } from "@iron/contract";
import type { Db } from "../store/database";
import { fromJson } from "../store/tables";
import { axisOf, machineOf } from "./machines";

/** How long a first check that is due stays on the floor. */
const CHECK_SHOWN_MS = 14 * 86_400_000;

/** The floor: every machine, each axis with its last value, trend and open test, its open cases and jobs. Seven queries in all. */
export async function readFloor(
  db: Db,
  now: Date,
  lube: ReadonlyMap<number, string>,
): Promise<Omit<Floor, "backup">> {
  const machines = (
    await db.selectFrom("machine").selectAll().orderBy("id").execute()
  ).map(machineOf);
  const axes = (
    await db
      .selectFrom("axis")
      .selectAll()
      .where("retired_at", "is", null)
      .orderBy("id")
      .execute()
  ).map(axisOf);
  const runs = await db
    .selectFrom("run")
    .select(["id", "axis_id as axisId"])
    .where("state", "=", "running")
    .orderBy("started_at")
    .execute();
  const losses = await db
    .selectFrom("loss")
    .select([
      "run_id as runId",
      "job_id as jobId",
      "axis_id as axisId",
      "kind",
      "lost_mm as lostMm",
      "expanded_mm as expandedMm",
      "at",
    ])
    .orderBy("at")
    .execute();
  const repairs = await db
    .selectFrom("axis_event")
    .select(["axis_id", (eb) => eb.fn.max("at").as("at")])
    .where("kind", "in", ["repair", "adjustment"])
    .groupBy("axis_id")
    .execute();
  const cases = await db
    .selectFrom("case_file")
    .select(["id", "machine_id", "axis_ids"])
    .where("state", "=", "open")
    .orderBy("opened_at")
    .execute();
  const today = dayOf(now);
  const jobs = await db
    .selectFrom("job")
    .select(["id", "machine_id", "title", "finished_at", "check_on"])
    .where((eb) =>
      eb.or([
        eb("finished_at", "is", null),
        eb.and([
          eb("check_on", "<=", today),
          eb("check_on", ">", dayOf(now.getTime() - CHECK_SHOWN_MS)), // prettier-ignore
        ]),
      ]),
    )
    .orderBy("opened_at")
    .execute();
  const lastRepair = new Map(repairs.map((r) => [r.axis_id, r.at]));
  const byAxis = new Map<number, (typeof losses)[number][]>();
  const open = new Map<number, number>();
  for (const run of runs) open.set(run.axisId, run.id);
  for (const loss of losses) {
    if (isSplitTest(loss.kind)) continue;
    const list = byAxis.get(loss.axisId) ?? [];
    list.push(loss);
    byAxis.set(loss.axisId, list);
  }
  const floorAxis = (axis: (typeof axes)[number]): FloorAxis => {
    const { letter, limits, feedback } = axis.config;
    const done = byAxis.get(axis.id) ?? [];
    const last = done.at(-1);
    const since = done.filter(
      (r) => r.at > (lastRepair.get(axis.id) ?? "") && r.kind === last?.kind,
    );
    const points = since.map((r) => ({
      atMs: Date.parse(r.at),
      lostMm: r.lostMm,
      expandedMm: r.expandedMm,
    }));
    const trend = lossTrend(points, limits.repairMm);
    return {
      id: axis.id,
      letter,
      leaveMm: limits.leaveMm,
      repairMm: limits.repairMm,
      feedback,
      last: last
        ? {
            runId: last.runId,
            jobId: last.jobId,
            lostMm: last.lostMm,
            expandedMm: last.expandedMm,
            at: last.at,
          }
        : null,
      trend: trend && {
        perMonthMm: trend.perMonthMm,
        significant: trend.significant,
        reachesLimitAt:
          trend.reachesLimitAtMs === null
            ? null
            : new Date(trend.reachesLimitAtMs).toISOString(),
      },
      openRunId: open.get(axis.id) ?? null,
    };
  };
  return {
    machines: machines
      .filter((m) => !m.retiredAt)
      .map((m) => ({
        ...m,
        axes: axes.filter((a) => a.machineId === m.id).map(floorAxis),
        openCases: cases
          .filter((c) => c.machine_id === m.id)
          .map((c) => ({ id: c.id, axisId: fromJson(c.axis_ids)[0] })),
        lube: lube.get(m.id) ?? "",
        jobs: jobs
          .filter((j) => j.machine_id === m.id)
          .map((j) => ({ id: j.id, title: j.title, checkOn: j.finished_at ? j.check_on : null })), // prettier-ignore
      })),
    retired: machines.filter((m) => m.retiredAt),
  };
}
