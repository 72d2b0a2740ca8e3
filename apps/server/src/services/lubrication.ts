import {
  intervalDays,
  learnInterval,
  planRounds,
  planWhenDue,
  templatePoints,
  type FoundState,
  type LubePoint,
  type PlanDay,
  type Usage,
  type VisitNeed,
} from "@iron/core";
import type { LubePointRecord, LubeVisitCreate, Rounds } from "@iron/contract";
import type { Selectable } from "kysely";
import { notFound } from "../http/problem-error";
import type { Db } from "../store/database";
import { fromJson, toJson, type Tables } from "../store/tables";
import { instant, type Clock } from "./clock";
import type { Machines } from "./machines";

const DAY_MS = 86_400_000;
const HORIZON_DAYS = 14;
/** Minutes for lubrication on a working day, until the shop says otherwise (common practice, no source). */
const MINUTES_A_DAY = 90;
/** Mean feed of an axis while its machine works, part of rapid (common practice, no source). */
const FEED_PART = 0.05;

type Visit = Selectable<Tables["lube_visit"]>;

/** Lubrication points, what is found at them, and the rounds that follow. */
export class Lubrication {
  constructor(
    private readonly db: Db,
    private readonly machines: Machines,
    private readonly clock: Clock,
  ) {}

  async ofMachine(machineId: number): Promise<LubePointRecord[]> {
    await this.machines.withAxes(machineId);
    return (await this.all()).filter((p) => p.machineId === machineId);
  }

  /** Adds the usual points of a machine; those already there by place stay as they are. */
  async addUsual(machineId: number): Promise<LubePointRecord[]> {
    const machine = await this.machines.withAxes(machineId);
    const axes = machine.axes.filter((a) => !a.retiredAt).map((a) => a.config);
    const there = new Set(
      (await this.ofMachine(machineId)).map((p) => p.place),
    );
    const rows = templatePoints(axes)
      .filter((p) => !there.has(p.place))
      .map((p) => ({ machine_id: machineId, point: toJson(p), since: instant(this.clock) })); // prettier-ignore
    if (rows.length) await this.db.insertInto("lube_point").values(rows).execute(); // prettier-ignore
    return this.ofMachine(machineId);
  }

  async update(id: number, point: LubePoint): Promise<LubePointRecord> {
    await this.get(id);
    await this.db.updateTable("lube_point").set({ point: toJson(point) }).where("id", "=", id).execute(); // prettier-ignore
    return this.get(id);
  }

  async visit(
    id: number,
    visit: LubeVisitCreate,
    who: string,
  ): Promise<LubePointRecord> {
    await this.get(id);
    await this.db
      .insertInto("lube_visit")
      .values({
        key: visit.key,
        point_id: id,
        found: visit.found,
        dose: visit.dose,
        glitter: visit.glitter ? 1 : 0,
        words: visit.words,
        at: instant(this.clock),
        by: who,
      })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    return this.get(id);
  }

  async rounds(): Promise<Rounds> {
    const points = (await this.all()).filter((p) => !p.partsNut);
    const rows = await this.db.selectFrom("machine").select(["id", "nickname", "bay"]).where("retired_at", "is", null).execute(); // prettier-ignore
    const machine = new Map(rows.map((m) => [m.id, m]));
    const due = points.filter((p) => machine.has(p.machineId) && p.lateDays > -HORIZON_DAYS); // prettier-ignore
    const needs = due.map((p): VisitNeed => ({
      id: String(p.id),
      machine: p.machineId,
      bay: machine.get(p.machineId)?.bay ?? "",
      minutes: p.minutes,
      weight: p.weight,
      dueDay: -p.lateDays,
      intervalDays: p.intervalDays,
    }));
    const today = Date.parse(`${this.clock.now().toISOString().slice(0, 10)}T12:00:00Z`); // prettier-ignore
    const dates = Array.from({ length: HORIZON_DAYS }, (_, i) => new Date(today + i * DAY_MS)); // prettier-ignore
    const days: PlanDay[] = dates.map((d) => ({ minutes: [0, 6].includes(d.getUTCDay()) ? 0 : MINUTES_A_DAY })); // prettier-ignore
    const plan = planRounds(needs, days, { tries: 4000 });
    const plain = planWhenDue(needs, days).cost;
    return {
      days: dates.map((date, d) => {
        const here = due.filter((_, i) => plan.dayOf[i] === d);
        const ids = [...new Set(here.map((p) => p.machineId))];
        const stops = ids.map((id) => ({
          machineId: id,
          nickname: machine.get(id)?.nickname ?? "",
          bay: machine.get(id)?.bay ?? "",
          points: here.filter((p) => p.machineId === id),
        }));
        return {
          date: date.toISOString().slice(0, 10),
          minutes: here.reduce((s, p) => s + p.minutes, 0),
          available: days[d].minutes,
          stops: stops.sort((a, b) => a.bay.localeCompare(b.bay, "en", { numeric: true })), // prettier-ignore
        };
      }),
      late: due.filter((p) => p.lateDays > 0).length,
      points: points.length,
      against: plain > 0 ? plan.cost / plain : 1,
    };
  }

  /** What each machine’s points say on the floor: the longest forgotten, else the over-greased. */
  async notes(): Promise<ReadonlyMap<number, string>> {
    const notes = new Map<number, string>();
    const points = await this.all();
    for (const p of points) {
      if (p.lastFound === "flooded" && p.learnt.includes("times"))
        notes.set(p.machineId, `${p.place}: ${p.learnt}. Give less, less often.`); // prettier-ignore
    }
    const late = points.filter((p) => p.lateDays > 1).sort((a, b) => a.lateDays - b.lateDays); // prettier-ignore
    for (const p of late)
      notes.set(p.machineId, `${p.place}: lubrication ${Math.floor(p.lateDays)} days late.`); // prettier-ignore
    return notes;
  }

  async get(id: number): Promise<LubePointRecord> {
    const point = (await this.all(id)).find((p) => p.id === id);
    if (!point) throw notFound("lubrication point", id);
    return point;
  }

  private async all(id?: number): Promise<LubePointRecord[]> {
    const rows = await this.db
      .selectFrom("lube_point")
      .innerJoin("machine", "machine.id", "lube_point.machine_id")
      .selectAll("lube_point")
      .select("hours_per_week")
      .$if(id !== undefined, (q) => q.where("lube_point.id", "=", id ?? 0))
      .orderBy("lube_point.id")
      .execute();
    const visits = await this.db
      .selectFrom("lube_visit")
      .selectAll()
      .$if(id !== undefined, (q) => q.where("point_id", "=", id ?? 0))
      .orderBy("id")
      .execute();
    const feeds = await this.feeds();
    const now = this.clock.now().getTime();
    return rows.map((row) => {
      const point = fromJson(row.point);
      const rapid = feeds.get(`${row.machine_id} ${point.letter ?? ""}`) ?? 0;
      const hoursPerDay = row.hours_per_week / 7;
      const usage: Usage = { hoursPerDay, kmPerDay: (hoursPerDay * 60 * rapid * FEED_PART) / 1e6 }; // prettier-ignore
      return recordOf(row, point, usage, kept(visits.filter((v) => v.point_id === row.id)), now); // prettier-ignore
    });
  }

  /** Rapid of each axis, mm/min, by machine and letter. */
  private async feeds(): Promise<ReadonlyMap<string, number>> {
    const rows = await this.db.selectFrom("axis").select(["machine_id", "config"]).where("retired_at", "is", null).execute(); // prettier-ignore
    return new Map(rows.map((r) => {
      const { letter, rapidMmMin } = fromJson(r.config);
      return [`${r.machine_id} ${letter}`, rapidMmMin];
    })); // prettier-ignore
  }
}

/** Visits that count: a null takes the one before it back. */
function kept(visits: readonly Visit[]): readonly Visit[] {
  const stack: Visit[] = [];
  for (const v of visits) {
    if (v.found === null) stack.pop();
    else stack.push(v);
  }
  return stack;
}

function recordOf(
  row: Pick<Selectable<Tables["lube_point"]>, "id" | "machine_id" | "since">,
  point: LubePoint,
  usage: Usage,
  visits: readonly Visit[],
  nowMs: number,
): LubePointRecord {
  const found = visits.flatMap((v): FoundState[] => (v.found ? [v.found] : []));
  const learnt = learnInterval(found);
  const interval = intervalDays(point.rule, usage, point.factors, learnt.factor); // prettier-ignore
  const plain = intervalDays(point.rule, usage, point.factors);
  const last = visits.at(-1) ?? null;
  const from = Date.parse(last?.at ?? row.since);
  const dueMs = from + interval.days * DAY_MS;
  return {
    ...point,
    factors: [...point.factors],
    id: row.id,
    machineId: row.machine_id,
    lastAt: last?.at ?? null,
    lastFound: last?.found ?? null,
    intervalDays: Math.round(interval.days),
    by: interval.by,
    held: interval.held,
    unlearntDays: Math.round(plain.days),
    learnt: learnt.words,
    dueOn: new Date(dueMs).toISOString().slice(0, 10),
    lateDays: (nowMs - dueMs) / DAY_MS,
    asksCase: asksCase(found, last),
  };
}

/** When a finding at a point is the start of a case, in words; empty when it is not. */
function asksCase(found: readonly FoundState[], last: Visit | null): string {
  if (last?.glitter) return "Metal glitter or chips in the grease.";
  if (found.at(-1) === "blocked") return "Blocked: nothing gets through.";
  if (found.at(-1) === "dry" && found.at(-2) === "dry") return "Dry twice running.";
  return "";
} // prettier-ignore
