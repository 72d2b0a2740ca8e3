import {
  circleProgram,
  jobRenews,
  travelPerTurnMm,
  type CircleLimits,
  type CirclePlan,
  type CircleTrace,
  type DwellWord,
  type UnitSystem,
} from "@iron/core";
import type {
  CircleCreate,
  CircleDrawn,
  CircleLimitsRecord,
  Circles as CircleList,
  CirclePlane,
  CircleSession,
  MachineWithAxes,
} from "@iron/contract";
import { conflict, notFound, problem } from "../http/problem-error";
import type { Machines } from "../machine/machines";
import { instant, type Clock } from "../shop/clock";
import type { Db } from "../store/database";
import { fromJson, toJson } from "../store/columns";
import type { WorkPool } from "../threads/pool";
import { circlesOf, limitsOf, planesOf, sessionOf, setupOf, traceBytes, traceOf, type NewPass } from "./circle-rows";

/** Fresh bearings run in for about so long (common practice, no source), days. */
const FRESH_DAYS = 56;
const DAY_MS = 86_400_000;
/** Readings of a way round that are drawn at most. */
const DRAWN = 1800;

export interface PlaneAt {
  readonly session: CircleSession;
  readonly plane: CirclePlane;
}

/** Circles of machines: readings kept as they come, what is worked out of them made anew whenever they change. */
export class Circles {
  private readonly working = new Map<number, Float64Array<SharedArrayBuffer>>();

  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly clock: Clock;
      readonly pool: WorkPool;
      /** Whether a bar is connected to a machine. */
      readonly connected: (machineId: number) => Promise<boolean>;
      /** Whether the bar is reading a plane now. */
      readonly reading: (planeId: number) => boolean;
    },
  ) {}

  async list(machineId: number): Promise<CircleList> {
    const { db, machines } = this.needs;
    await machines.machine(machineId);
    return circlesOf(db, machineId);
  }

  async session(id: number): Promise<CircleSession> {
    const { db } = this.needs;
    const row = await db.selectFrom("circle_session").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("circle", id);
    const planes = (await planesOf(db, [id])).get(id) ?? [];
    return {
      ...sessionOf(row, planes),
      limits: await limitsOf(db, row.machine_id),
      fresh: await this.fresh(row.machine_id),
      connected: await this.needs.connected(row.machine_id),
      reading: planes.find((p) => this.needs.reading(p.id))?.id ?? null,
    };
  }

  async plane(planeId: number): Promise<PlaneAt> {
    const row = await this.needs.db
      .selectFrom("circle_plane")
      .select("session_id")
      .where("id", "=", planeId)
      .executeTakeFirst();
    if (!row) throw notFound("plane", planeId);
    const session = await this.session(row.session_id);
    return { session, plane: session.planes.find((p) => p.id === planeId) as CirclePlane };
  }

  async start(
    machineId: number,
    { plans, bar, temperatureC, note }: CircleCreate,
    who: string,
  ): Promise<CircleSession> {
    const machine = await this.needs.machines.withAxes(machineId);
    const axisOf = (letter: string) => {
      const found = machine.axes.find((a) => a.config.letter === letter && a.retiredAt === null);
      if (found) return found;
      throw problem(422, { title: "Not valid", detail: `${machine.nickname} has no axis ${letter}.` });
    };
    const planes = plans.map((plan, i) => {
      const axes = [axisOf(plan.letters[0]), axisOf(plan.letters[1])] as const;
      // What a control could not run is not begun: the program says why.
      programOf(plan, [axes[0].config, axes[1].config], {
        system: "metric",
        dwellWord: "P-seconds",
        title: `${i + 1}`,
      });
      return {
        plan: toJson(plan),
        axis_ids: toJson([axes[0].id, axes[1].id] as const),
        per_turn: toJson([travelPerTurnMm(axes[0].config), travelPerTurnMm(axes[1].config)] as const),
        analysis: null,
        why: "",
      };
    });
    const id = await this.needs.db.transaction().execute(async (trx) => {
      const row = {
        machine_id: machineId,
        state: "open" as const,
        started_at: instant(this.needs.clock),
        finished_at: null,
        by: who,
        reason: "",
        note,
        temperature_c: temperatureC,
        bar: toJson(bar),
      };
      const made = await trx.insertInto("circle_session").values(row).returning("id").executeTakeFirstOrThrow();
      await trx
        .insertInto("circle_plane")
        .values(planes.map((p) => ({ session_id: made.id, ...p })))
        .execute();
      return made.id;
    });
    return this.session(id);
  }

  /** Keeps one way round and works the plane out anew. */
  async keep(planeId: number, passes: readonly NewPass[], who: string): Promise<CircleSession> {
    const { session } = await this.plane(planeId);
    expectOpen(session);
    const at = instant(this.needs.clock);
    await this.needs.db
      .insertInto("circle_pass")
      .values(
        passes.map(({ direction, source, trace, troubles }) => ({
          plane_id: planeId,
          direction,
          source,
          readings: trace?.angles.length ?? 0,
          trace: trace ? traceBytes(trace) : Buffer.alloc(0),
          troubles: toJson(troubles),
          at,
          by: who,
        })),
      )
      .execute();
    await this.evaluate(planeId);
    return this.session(session.id);
  }

  async setAside(passId: number, reason: string, who: string): Promise<CircleSession> {
    const { db } = this.needs;
    const row = await db.selectFrom("circle_pass").select("plane_id").where("id", "=", passId).executeTakeFirst();
    if (!row) throw notFound("way round", passId);
    const { session } = await this.plane(row.plane_id);
    expectOpen(session);
    const there = await db
      .selectFrom("circle_aside")
      .select("pass_id")
      .where("pass_id", "=", passId)
      .executeTakeFirst();
    if (there) throw conflict("That way round is set aside already.", session);
    const aside = { pass_id: passId, reason, at: instant(this.needs.clock), by: who };
    await db.insertInto("circle_aside").values(aside).execute();
    await this.evaluate(row.plane_id);
    return this.session(session.id);
  }

  async end(id: number, state: "finished" | "abandoned", reason: string): Promise<CircleSession> {
    const session = await this.session(id);
    expectOpen(session);
    if (state === "finished" && !session.planes.some((p) => p.analysis))
      throw problem(422, {
        title: "Too little read",
        detail: "There is no result yet: read at least one plane, or give it up.",
      });
    await this.needs.db
      .updateTable("circle_session")
      .set({ state, reason, finished_at: instant(this.needs.clock) })
      .where("id", "=", id)
      .execute();
    return this.session(id);
  }

  async setLimits(
    machineId: number,
    { limits, why }: { readonly limits: CircleLimits; readonly why: string },
    who: string,
  ): Promise<CircleLimitsRecord> {
    await this.needs.machines.machine(machineId);
    const row = { machine_id: machineId, limits: toJson(limits), why, at: instant(this.needs.clock), by: who };
    await this.needs.db.insertInto("circle_limit").values(row).execute();
    return limitsOf(this.needs.db, machineId);
  }

  /** Ways round that are used, as they were read. */
  async traces(
    planeId: number,
  ): Promise<readonly { readonly passId: number; readonly by: string; readonly trace: CircleTrace }[]> {
    const { plane } = await this.plane(planeId);
    const used = plane.passes.filter((p) => p.used).map((p) => p.id);
    if (used.length === 0) return [];
    const rows = await this.needs.db
      .selectFrom("circle_pass")
      .selectAll()
      .where("id", "in", used)
      .orderBy("id")
      .execute();
    return rows.map((r) => ({ passId: r.id, by: r.by, trace: traceOf(r) }));
  }

  async drawn(planeId: number): Promise<CircleDrawn> {
    const traces = (await this.traces(planeId)).map(({ passId, trace: { direction, angles, deviations } }) => {
      const every = Math.max(1, Math.floor(angles.length / DRAWN));
      const kept = Array.from(angles.keys()).filter((i) => i % every === 0);
      const rounded = (value: number): number => Math.round(1000 * value) / 1000;
      return {
        passId,
        direction,
        angles: kept.map((i) => rounded((angles[i] * 180) / Math.PI)),
        deviations: kept.map((i) => rounded(1000 * deviations[i])),
      };
    });
    return { traces };
  }

  machineOf(session: Pick<CircleSession, "machineId">): Promise<MachineWithAxes> {
    return this.needs.machines.withAxes(session.machineId);
  }

  async program(
    planeId: number,
    asked: { readonly system: UnitSystem; readonly dwellWord: DwellWord },
  ): Promise<string> {
    const { session, plane } = await this.plane(planeId);
    const machine = await this.needs.machines.withAxes(session.machineId);
    const config = (id: number) => machine.axes.find((a) => a.id === id)?.config;
    const [first, second] = [config(plane.axisIds[0]), config(plane.axisIds[1])];
    if (!first || !second) throw conflict("An axis of this plane is not there any more.");
    const title = `${machine.nickname}, circle ${plane.plan.letters.join("")}`;
    return programOf(plane.plan, [first, second], { ...asked, title });
  }

  /** How much of a plane is worked out, from 0 to 1; null where nothing is under way. */
  work(planeId: number): { readonly share: number | null } {
    const done = this.working.get(planeId);
    return { share: done ? done[0] : null };
  }

  /** Works a plane out; when another way round came or went meanwhile, once more: the last word is of all of them. */
  private async evaluate(planeId: number): Promise<void> {
    for (;;) {
      const { session, plane } = await this.plane(planeId);
      const of = usedOf(plane);
      const traces = (await this.traces(planeId)).map((t) => t.trace);
      const known = { calibrated: session.bar.calibrated, barU: session.bar.uMm };
      const done = new Float64Array(new SharedArrayBuffer(8));
      if (traces.length > 0) this.working.set(planeId, done);
      const { analysis, why } =
        traces.length === 0
          ? { analysis: null, why: "" }
          : await this.needs.pool
              .run("circle", { traces, setup: setupOf(plane), known, done })
              .finally(() => this.working.delete(planeId));
      const same = await this.needs.db.transaction().execute(async (trx) => {
        const now = (await planesOf(trx, [session.id])).get(session.id)?.find((p) => p.id === planeId);
        if (!now || usedOf(now) !== of) return false;
        const row = { analysis: analysis ? toJson(analysis) : null, why };
        await trx.updateTable("circle_plane").set(row).where("id", "=", planeId).execute();
        return true;
      });
      if (same) return;
    }
  }

  /** Axes whose bearings, nut or screw were renewed within the last weeks. */
  private async fresh(machineId: number): Promise<string[]> {
    const since = new Date(this.needs.clock.now().getTime() - FRESH_DAYS * DAY_MS).toISOString();
    const rows = await this.needs.db
      .selectFrom("job")
      .select("items")
      .where("machine_id", "=", machineId)
      .where("finished_at", ">", since)
      .orderBy("id")
      .execute();
    const letters = rows.flatMap((r) => fromJson(r.items).flatMap((i) => (jobRenews(i.kind) ? [i.letter] : [])));
    return [...new Set(letters)].sort();
  }
}

/** Which ways round a plane is worked out from. */
const usedOf = (plane: CirclePlane): string =>
  plane.passes
    .filter((p) => p.used)
    .map((p) => p.id)
    .join(" ");

function expectOpen(session: CircleSession): void {
  if (session.state !== "open") throw conflict("This session has ended. Begin a new one.", session);
}

function programOf(
  plan: CirclePlan,
  axes: readonly [
    Pick<CircleProgramAxisOf, "travelMm" | "rapidMmMin">,
    Pick<CircleProgramAxisOf, "travelMm" | "rapidMmMin">,
  ],
  { system, dwellWord, title }: { readonly system: UnitSystem; readonly dwellWord: DwellWord; readonly title: string },
): string {
  const of = (i: 0 | 1) => ({ letter: plan.letters[i], travelMm: axes[i].travelMm, rapidMmMin: axes[i].rapidMmMin });
  return circleProgram({ ...plan, axes: [of(0), of(1)], system, dwellWord, title });
}

type CircleProgramAxisOf = Parameters<typeof circleProgram>[0]["axes"][number];
