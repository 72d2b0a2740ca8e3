import {
  joinPlanes,
  USUAL_CIRCLE_LIMITS,
  type CircleSetup,
  type CircleTrace,
  type Joint,
  type PassTrouble,
} from "@iron/core";
import type { CircleLimitsRecord, CirclePass, CirclePlane, Circles } from "@iron/contract";
import type { Selectable } from "kysely";
import type { Db } from "../store/database";
import { fromJson } from "../store/columns";
import type { Tables } from "../store/tables";

export interface NewPass {
  readonly direction: 1 | -1;
  readonly source: "bar" | "import" | "typed";
  /** Null where it cannot be used: only what was wrong is kept. */
  readonly trace: CircleTrace | null;
  readonly troubles: readonly PassTrouble[];
}

/** Troubles that spoil a pass. */
const SPOILS: readonly PassTrouble["code"][] = ["no-start", "fell-off", "no-end"];

/** A trace as it is kept: angles, then deviations. */
export function traceBytes({ angles, deviations }: CircleTrace): Buffer {
  const both = new Float32Array(2 * angles.length);
  both.set(angles, 0);
  both.set(deviations, angles.length);
  return Buffer.from(both.buffer, both.byteOffset, both.byteLength);
}

export function traceOf(row: Pick<Selectable<Tables["circle_pass"]>, "direction" | "trace">): CircleTrace {
  // A buffer of the database need not begin where a float may.
  const bytes = Uint8Array.from(row.trace);
  const both = new Float32Array(bytes.buffer);
  const count = both.length / 2;
  return {
    direction: row.direction,
    angles: Float64Array.from(both.subarray(0, count)),
    deviations: Float64Array.from(both.subarray(count)),
  };
}

export const setupOf = ({ plan, perTurnMm }: Pick<CirclePlane, "plan" | "perTurnMm">): CircleSetup => ({
  radiusMm: plan.radiusMm,
  feedMmMin: plan.feedMmMin,
  centreMm: plan.centreMm,
  axes: [
    { letter: plan.letters[0], perTurnMm: perTurnMm[0] },
    { letter: plan.letters[1], perTurnMm: perTurnMm[1] },
  ],
});

/** Planes of sessions with their passes, in the order they were set up. */
export async function planesOf(db: Db, sessionIds: readonly number[]): Promise<Map<number, CirclePlane[]>> {
  const planes = new Map<number, CirclePlane[]>(sessionIds.map((id) => [id, []]));
  if (sessionIds.length === 0) return planes;
  const rows = await db
    .selectFrom("circle_plane")
    .selectAll()
    .where("session_id", "in", sessionIds)
    .orderBy("id")
    .execute();
  const passes = await db
    .selectFrom("circle_pass")
    .innerJoin("circle_plane", "circle_plane.id", "circle_pass.plane_id")
    .leftJoin("circle_aside", "circle_aside.pass_id", "circle_pass.id")
    .select([
      "circle_pass.id",
      "circle_pass.plane_id",
      "circle_pass.direction",
      "circle_pass.source",
      "circle_pass.readings",
      "circle_pass.troubles",
      "circle_pass.at",
      "circle_pass.by",
      "circle_aside.reason",
    ])
    .where("circle_plane.session_id", "in", sessionIds)
    .orderBy("circle_pass.id")
    .execute();
  for (const row of rows) {
    const own = passes
      .filter((p) => p.plane_id === row.id)
      .map((p): CirclePass => {
        const troubles = [...fromJson(p.troubles)];
        const spoilt = troubles.some((t) => SPOILS.includes(t.code));
        const { id, direction, source, readings, at, by } = p;
        const used = p.reason === null && !spoilt;
        const reason = p.reason !== null ? p.reason || "set aside" : spoilt ? "spoilt" : "";
        return { id, direction, source, readings, troubles, used, reason, at, by };
      });
    planes.get(row.session_id)?.push({
      id: row.id,
      plan: fromJson(row.plan),
      axisIds: fromJson(row.axis_ids),
      perTurnMm: fromJson(row.per_turn),
      passes: own,
      analysis: row.analysis === null ? null : fromJson(row.analysis),
      why: row.why,
    });
  }
  return planes;
}

/** What the planes say together; null where there is nothing to join. */
export function jointOf(planes: readonly CirclePlane[]): Joint | null {
  // At another feed servos and friction are others: planes of the first are joined.
  const feed = planes.at(0)?.plan.feedMmMin;
  const found = planes.flatMap(({ plan, analysis }) =>
    analysis && plan.feedMmMin === feed
      ? [
          {
            plane: plan.letters.join(""),
            axes: plan.letters,
            feedMmMin: plan.feedMmMin,
            findings: analysis.findings,
          },
        ]
      : [],
  );
  return found.length > 1 ? joinPlanes(found) : null;
}

export async function limitsOf(db: Db, machineId: number): Promise<CircleLimitsRecord> {
  const row = await db
    .selectFrom("circle_limit")
    .selectAll()
    .where("machine_id", "=", machineId)
    .orderBy("id", "desc")
    .executeTakeFirst();
  return row
    ? { limits: { ...USUAL_CIRCLE_LIMITS, ...fromJson(row.limits) }, why: row.why, by: row.by, at: row.at }
    : { limits: USUAL_CIRCLE_LIMITS, why: "", by: "", at: null };
}

export function sessionOf(row: Selectable<Tables["circle_session"]>, planes: readonly CirclePlane[]) {
  return {
    id: row.id,
    machineId: row.machine_id,
    state: row.state,
    startedAt: row.started_at,
    finishedAt: row.finished_at,
    by: row.by,
    reason: row.reason,
    note: row.note,
    temperatureC: row.temperature_c,
    bar: fromJson(row.bar),
    planes: [...planes],
    joint: jointOf(planes),
  };
}

/** All circles of a machine, the newest last. */
export async function circlesOf(db: Db, machineId: number): Promise<Circles> {
  const rows = await db
    .selectFrom("circle_session")
    .selectAll()
    .where("machine_id", "=", machineId)
    .orderBy("id")
    .execute();
  const planes = await planesOf(
    db,
    rows.map((r) => r.id),
  );
  return {
    sessions: rows.map((r) => sessionOf(r, planes.get(r.id) ?? [])),
    limits: await limitsOf(db, machineId),
  };
}
