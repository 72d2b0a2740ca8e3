import { firstChecksAsked } from "@iron/core";
import type { Floor, FloorAxis } from "@iron/contract";
import type { Db } from "../store/database";
import { fromJson } from "../store/columns";
import { summariesOf } from "../machine/axis-summary";
import { machineOf } from "../machine/machines";

/** How long a first check that is due stays on the floor. */

/**
 * The floor: every machine, each axis with its last value, trend and open test as kept in its summary,
 * its open cases and jobs. What nobody settled yet is worked out, and not kept: reading changes nothing.
 */
export async function readFloor(
  db: Db,
  now: Date,
  lubrication: ReadonlyMap<number, string>,
): Promise<Omit<Floor, "backup">> {
  const machines = (await db.selectFrom("machine").selectAll().orderBy("id").execute()).map(machineOf);
  const rows = await db
    .selectFrom("axis")
    .leftJoin("axis_summary", "axis_summary.axis_id", "axis.id")
    .select(["axis.id", "machine_id", "summary"])
    .where("retired_at", "is", null)
    .orderBy("axis.id")
    .execute();
  const fresh = await summariesOf(
    db,
    rows.filter((r) => r.summary === null).map((r) => r.id),
  );
  const axes = grouped(
    rows.flatMap((r) => {
      const summary = r.summary ? fromJson(r.summary) : fresh.get(r.id);
      return summary ? [{ machine_id: r.machine_id, summary }] : [];
    }),
  );
  const cases = grouped(
    await db
      .selectFrom("case_file")
      .select(["id", "machine_id", "axis_ids"])
      .where("state", "=", "open")
      .orderBy("opened_at")
      .execute(),
  );
  const jobs = grouped(await jobsInSight(db, now));
  return {
    machines: machines
      .filter((m) => !m.retiredAt)
      .map((m) => ({
        ...m,
        axes: (axes.get(m.id) ?? []).map((a): FloorAxis => a.summary),
        openCases: (cases.get(m.id) ?? []).map((c) => ({
          id: c.id,
          axisId: fromJson(c.axis_ids)[0],
        })),
        lubrication: lubrication.get(m.id) ?? "",
        jobs: (jobs.get(m.id) ?? []).map((j) => ({
          id: j.id,
          title: j.title,
          checkOn: j.finished_at ? j.check_on : null,
        })),
      })),
    retired: machines.filter((m) => m.retiredAt),
  };
}

/** Jobs at work, and done ones whose first check is due. */
function jobsInSight(db: Db, now: Date) {
  const { after, upTo } = firstChecksAsked(now.getTime());
  return db
    .selectFrom("job")
    .select(["id", "machine_id", "title", "finished_at", "check_on"])
    .where((eb) =>
      eb.or([eb("finished_at", "is", null), eb.and([eb("check_on", "<=", upTo), eb("check_on", ">", after)])]),
    )
    .orderBy("opened_at")
    .execute();
}

function grouped<T extends { readonly machine_id: number }>(rows: readonly T[]): ReadonlyMap<number, T[]> {
  const map = new Map<number, T[]>();
  for (const row of rows) {
    const there = map.get(row.machine_id);
    if (there) there.push(row);
    else map.set(row.machine_id, [row]);
  }
  return map;
}
