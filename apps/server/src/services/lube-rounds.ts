import { dayAfter, dayOf, planChanges, planRounds, planWhenDue, type LeftOutWhy, type PlanDay, type PlannedPoint, type VisitNeed } from "@iron/core"; // prettier-ignore
import type { Horizon, KeepSettings, LubeHoldCreate, LubePointRecord, Rounds } from "@iron/contract"; // prettier-ignore
import { problem } from "../http/problem-error";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";
import { fromJson, toJson } from "../store/tables";
import { instant, type Clock } from "./clock";
import { minutesOn, shutOn, type KeepSettingsStore } from "./keep-settings";
import type { Lubrication } from "./lubrication";

const DAY_MS = 86_400_000;
const HORIZON_DAYS = 14;
const HORIZON_WEEKS = 26;

const LEFT_OUT_WORDS: Record<LeftOutWhy, string> = {
  "nobody-there": "nobody is there on any of these days",
  "never-stopped": "the machine may not be stopped on any of these days",
};

/** The rounds of the next two weeks: planned, held by hand, and what each planning changed. */
export class LubeRounds {
  constructor(
    private readonly db: Db,
    private readonly lube: Lubrication,
    private readonly settings: KeepSettingsStore,
    private readonly clock: Clock,
  ) {}

  /**
   * The plan as it stands; what has changed since is planned anew and the rest keeps its day.
   * @param afresh plan everything anew
   */
  async rounds(afresh = false): Promise<Rounds> {
    const settings = await this.settings.get();
    const machine = await this.machinesInUse();
    const all = (await this.lube.all()).filter(
      (p) => !p.retired && machine.has(p.machineId),
    );
    const points = all;
    const dates = this.dates(HORIZON_DAYS);
    const days = dates.map((date): PlanDay => ({ minutes: minutesOn(settings, date), shut: shutOn(settings, date) })); // prettier-ignore
    const due = points.filter((p) => dueDayOf(p, dates[0]) <= HORIZON_DAYS);
    const needs = due.map((p) => needOf(p, dates[0], machine.get(p.machineId)?.bay ?? "")); // prettier-ignore
    const pinned = new Map(due.flatMap((p): [string, number][] => {
      const day = p.hold?.kind === "pin" ? dates.indexOf(p.hold.date) : -1;
      return day >= 0 ? [[String(p.id), day]] : [];
    })); // prettier-ignore
    const before = await this.lastPlan();
    const was = new Map((before?.plan ?? []).map((p) => [p.id, p]));
    const keep = due.map((p, i) => {
      const old = was.get(p.id);
      const day = old?.date ? dates.indexOf(old.date) : -1;
      const same = old !== undefined && old.dueOn === p.dueOn && old.intervalDays === p.intervalDays && old.visits === p.visits && old.held === (p.hold?.words ?? ""); // prettier-ignore
      const open = day >= 0 && days[day].minutes > 0 && !days[day].shut?.has(needs[i].machine); // prettier-ignore
      return !afresh && same && open ? day : -1;
    });
    const plan = planRounds(needs, days, { pinned, keep, tries: 4000 });
    const after: PlannedPoint[] = due.map((p, i) => ({
      id: p.id,
      place: p.place,
      nickname: machine.get(p.machineId)?.nickname ?? "",
      date: plan.dayOf[i] >= 0 ? dates[plan.dayOf[i]] : null,
      dueOn: p.dueOn,
      intervalDays: p.intervalDays,
      visits: p.visits,
      held: p.hold?.words ?? "",
    }));
    const { changes, changedAt } = await this.keepPlan(before, after, points, dates[0]); // prettier-ignore
    const nameOf = (p: LubePointRecord): string =>
      `${machine.get(p.machineId)?.nickname ?? ""}, ${p.place}`;
    const unplanned = plan.leftOut.map(({ visit, why }) => ({
      id: due[visit].id,
      name: nameOf(due[visit]),
      why: LEFT_OUT_WORDS[why],
    }));
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
          date,
          minutes: here.reduce((s, p) => s + p.minutes, 0),
          available: days[d].minutes,
          stops: stops.sort((a, b) => a.bay.localeCompare(b.bay, "en", { numeric: true })), // prettier-ignore
        };
      }),
      late: due.filter((p) => p.lateDays > 0 && p.hold?.kind !== "skip").length,
      points: points.length,
      changes: [...changes],
      changedAt,
      unplanned,
      against: plain > 0 ? plan.cost / plain : 1,
    };
  }

  /** Rises with every plan that was kept. */
  async sequence(): Promise<number> {
    const row = await this.db.selectFrom("lube_plan").select((q) => q.fn.max("id").as("last")).executeTakeFirst(); // prettier-ignore
    return Number(row?.last ?? 0);
  }

  async hold(pointId: number, hold: LubeHoldCreate, who: string): Promise<Rounds> {
    const point = await this.lube.get(pointId);
    if (await isKnownKey(this.db, "lube_hold", hold.key, pointId)) return this.rounds();
    const settings = await this.settings.get();
    if (hold.kind === "pin") refusePin(settings, point, hold.date ?? "", this.dates(HORIZON_DAYS));
    if (hold.kind === "skip" && (hold.date ?? "") <= this.dates(1)[0])
      throw problem(422, "Not valid", `${hold.date ?? ""} is not after today: name the day till which it is left out.`);
    await this.db
      .insertInto("lube_hold")
      .values({ ...hold, point_id: pointId, at: instant(this.clock), by: who })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    return this.rounds();
  } // prettier-ignore

  /** What the half-year plan is made from. */
  async horizon(): Promise<Horizon> {
    const settings = await this.settings.get();
    const machine = await this.machinesInUse();
    const points = (await this.lube.all()).filter((p) => !p.retired && machine.has(p.machineId)); // prettier-ignore
    const dates = this.dates(HORIZON_WEEKS * 7);
    const weeks = Array.from({ length: HORIZON_WEEKS }, (_, w) => {
      const own = dates.slice(7 * w, 7 * w + 7);
      const open = own.filter((d) => minutesOn(settings, d) > 0);
      // A machine is shut for a week when no day of it has both people and leave to stop.
      const shut = settings.windows.map((x) => x.machineId).filter((id) => open.every((d) => shutOn(settings, d).has(id))); // prettier-ignore
      return { from: own[0], minutes: own.reduce((s, d) => s + minutesOn(settings, d), 0), shut }; // prettier-ignore
    });
    return {
      weeks,
      points: points.map((p) => {
        const { dueDay, intervalDays, minutes, weight } = needOf(
          p,
          dates[0],
          "",
        );
        return { id: p.id, machine: p.machineId, bay: machine.get(p.machineId)?.bay ?? "", minutes, weight, dueDay, intervalDays }; // prettier-ignore
      }),
    };
  }

  private async keepPlan(
    before: { plan: readonly PlannedPoint[]; changes: Rounds["changes"]; at: string } | null, // prettier-ignore
    after: readonly PlannedPoint[],
    points: readonly LubePointRecord[],
    today: string,
  ): Promise<{ changes: Rounds["changes"]; changedAt: string | null }> {
    // A point that was visited or put off falls out of the two weeks: it is said so, not lost.
    const planned = new Set(after.map((p) => p.id));
    const gone = (before?.plan ?? []).flatMap((old): PlannedPoint[] => {
      const now = points.find((p) => p.id === old.id);
      return now && !planned.has(old.id) && old.date !== null
        ? [{ ...old, date: null, dueOn: now.dueOn, intervalDays: now.intervalDays, visits: now.visits, held: now.hold?.words ?? "" }] // prettier-ignore
        : [];
    });
    const full = [...after, ...gone];
    const changes = before ? planChanges(before.plan, full, today, (d) => d) : []; // prettier-ignore
    const same = before !== null && JSON.stringify(before.plan) === JSON.stringify(full); // prettier-ignore
    if (same) return { changes: before.changes, changedAt: before.changes.length ? before.at : null }; // prettier-ignore
    const at = instant(this.clock);
    const told = changes.length ? changes : (before?.changes ?? []);
    await this.db.insertInto("lube_plan").values({ at, plan: toJson(full), changes: toJson([...told]) }).execute(); // prettier-ignore
    // Only the last plans are of use.
    await this.db.deleteFrom("lube_plan").where("id", "not in", (q) => q.selectFrom("lube_plan").select("id").orderBy("id", "desc").limit(20)).execute(); // prettier-ignore
    return { changes: [...told], changedAt: told.length ? at : null };
  }

  private async lastPlan() {
    const row = await this.db.selectFrom("lube_plan").selectAll().orderBy("id", "desc").limit(1).executeTakeFirst(); // prettier-ignore
    return row ? { plan: fromJson(row.plan), changes: [...fromJson(row.changes)], at: row.at } : null; // prettier-ignore
  }

  private async machinesInUse() {
    const rows = await this.db.selectFrom("machine").select(["id", "nickname", "bay"]).where("retired_at", "is", null).execute(); // prettier-ignore
    return new Map(rows.map((m) => [m.id, m]));
  }

  private dates(count: number): string[] {
    const today = dayOf(this.clock.now());
    return Array.from({ length: count }, (_, i) => dayAfter(today, i));
  }
}

/** Days from today on which a point is due; one left out is due when that ends, a pinned one on its day. */
function dueDayOf(point: LubePointRecord, today: string): number {
  // Whole days: the same shop has the same plan all day long.
  return (Date.parse(point.hold?.date ?? point.dueOn) - Date.parse(today)) / DAY_MS; // prettier-ignore
}

function needOf(point: LubePointRecord, today: string, bay: string): VisitNeed {
  return {
    id: String(point.id),
    machine: point.machineId,
    bay,
    minutes: point.minutes,
    weight: point.weight,
    dueDay: dueDayOf(point, today),
    intervalDays: point.intervalDays,
  };
}

function refusePin(
  settings: KeepSettings,
  point: LubePointRecord,
  date: string,
  dates: readonly string[],
): void {
  const no = (why: string): never => {
    throw problem(422, "Not valid", `${point.place} cannot be put on ${date}: ${why}`); // prettier-ignore
  };
  if (!dates.includes(date)) no(`the plan runs from ${dates[0]} to ${dates[dates.length - 1]}.`); // prettier-ignore
  if (minutesOn(settings, date) === 0) no("nobody is there on that day.");
  if (shutOn(settings, date).has(point.machineId)) no("the machine may not be stopped on that weekday."); // prettier-ignore
}
