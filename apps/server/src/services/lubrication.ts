import {
  dayOf,
  noonOf,
  centralAdvice,
  intervalDays,
  isOverGreased,
  learnInterval,
  templatePoints,
  type VisitFinding,
  type FoundState,
  type IntervalSchool,
  type LubePoint,
  type Usage,
} from "@iron/core";
import type { LubePointRecord, LubeVisitCreate } from "@iron/contract";
import type { Selectable } from "kysely";
import {
  changedMeanwhile,
  conflict,
  notFound,
  problem,
} from "../http/problem-error";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";
import { fromJson, toJson, type Tables } from "../store/tables";
import { instant, type Clock } from "./clock";
import type { KeepSettingsStore } from "./keep-settings";
import type { Machines } from "./machines";
import type { Meters } from "./meters";

const DAY_MS = 86_400_000;
/** Mean feed of an axis while its machine works, part of rapid (common practice, no source). */
const FEED_PART = 0.05;

/** Two people on one round: a point done so recently is not done again, ms. */
const JUST_DONE_MS = 12 * 3_600_000;

type Visit = Selectable<Tables["lube_visit"]>;
type Hold = Selectable<Tables["lube_hold"]>;

/** Lubrication points, what is found at them, and the rounds that follow. */
export class Lubrication {
  constructor(
    private readonly db: Db,
    private readonly machines: Machines,
    private readonly meters: Meters,
    private readonly settings: KeepSettingsStore,
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

  /** Bounds that the maker gave are moved only under a name. */
  async update(
    id: number,
    version: number,
    edit: LubePoint,
    who: string,
  ): Promise<LubePointRecord> {
    const old = await this.get(id);
    if (old.version !== version) throw changedMeanwhile("point", old);
    const moved = old.rule.leastDays !== edit.rule.leastDays || old.rule.mostDays !== edit.rule.mostDays; // prettier-ignore
    const said = `bounds ${edit.rule.leastDays} to ${edit.rule.mostDays} days by ${who}, ${dayOf(this.clock.now())}`; // prettier-ignore
    const point = moved ? { ...edit, provenance: `${edit.provenance}; ${said}`.slice(-200) } : edit; // prettier-ignore
    const changed = await this.db
      .updateTable("lube_point")
      .set({ point: toJson(point), version: version + 1 })
      .where("id", "=", id)
      .where("version", "=", version)
      .executeTakeFirst();
    const now = await this.get(id);
    if (changed.numUpdatedRows === 0n) throw changedMeanwhile("point", now);
    return now;
  }

  async create(machineId: number, point: LubePoint): Promise<LubePointRecord> {
    const there = await this.ofMachine(machineId);
    if (there.some((p) => p.place === point.place && !p.retired)) throw conflict(`This machine has a point “${point.place}” already.`);
    const { id } = await this.db.insertInto("lube_point").values({ machine_id: machineId, point: toJson(point), since: instant(this.clock) }).returning("id").executeTakeFirstOrThrow();
    return this.get(id);
  } // prettier-ignore

  async addPhoto(
    pointId: number,
    photo: { key: string; caption: string; media: "image/jpeg" | "image/png"; bytes: Buffer }, // prettier-ignore
    who: string,
  ): Promise<LubePointRecord> {
    await this.get(pointId);
    if (await isKnownKey(this.db, "lube_photo", photo.key, pointId))
      return this.get(pointId);
    await this.db.insertInto("lube_photo").values({ ...photo, point_id: pointId, at: instant(this.clock), by: who }).onConflict((on) => on.column("key").doNothing()).execute(); // prettier-ignore
    return this.get(pointId);
  }

  async photo(id: number): Promise<{ media: string; bytes: Buffer }> {
    const row = await this.db.selectFrom("lube_photo").select(["media", "bytes"]).where("id", "=", id).executeTakeFirst(); // prettier-ignore
    if (!row) throw notFound("photo", id);
    return row;
  }

  async retire(id: number, retired: boolean): Promise<LubePointRecord> {
    await this.get(id);
    await this.db.updateTable("lube_point").set({ retired_at: retired ? instant(this.clock) : null }).where("id", "=", id).execute(); // prettier-ignore
    return this.get(id);
  }

  /** Keeps what was found and given; somebody else’s visit just before is told and nothing is kept twice. */
  async visit(
    id: number,
    visit: LubeVisitCreate,
    who: string,
  ): Promise<LubePointRecord> {
    await this.get(id);
    if (await isKnownKey(this.db, "lube_visit", visit.key, id))
      return this.get(id);
    const now = this.clock.now();
    const last = (await this.visitsOf(id)).at(-1);
    if (visit.date !== null && visit.date > dayOf(now))
      throw problem(422, "Not valid", `Work of ${visit.date} is still to come: today is ${dayOf(now)}.`); // prettier-ignore
    const at = visit.date === null || visit.date === dayOf(now) ? instant(this.clock) : noonOf(visit.date).toISOString(); // prettier-ignore
    if (last && visit.found !== null && at < last.at)
      throw conflict(`This point was visited since, on ${dayOf(last.at)} by ${last.by}. Take that back first.`); // prettier-ignore
    if (last && visit.found !== null && !visit.again && last.by !== who && Date.parse(at) - Date.parse(last.at) < JUST_DONE_MS) // prettier-ignore
      throw conflict(`${last.by} has done this point already: found ${last.found ?? ""}. Nothing was kept twice.`, await this.get(id)); // prettier-ignore
    await this.db
      .insertInto("lube_visit")
      .values({
        key: visit.key,
        point_id: id,
        found: visit.found,
        dose: visit.dose,
        glitter: visit.glitter ? 1 : 0,
        friction: visit.friction ? 1 : 0,
        outlets: visit.outlets.length ? toJson(visit.outlets) : null,
        words: visit.words,
        at,
        by: who,
      })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    return this.get(id);
  }

  private async visitsOf(id: number): Promise<readonly Visit[]> {
    return kept(await this.db.selectFrom("lube_visit").selectAll().where("point_id", "=", id).orderBy("id").execute()); // prettier-ignore
  }

  /** Doses of all visits that stand. */
  async given(): Promise<readonly { readonly pointId: number; readonly dose: number; readonly at: string }[]> {
    const rows = await this.db.selectFrom("lube_visit").selectAll().orderBy("id").execute();
    return [...grouped(rows).values()].flatMap(kept).map((v) => ({ pointId: v.point_id, dose: v.dose, at: v.at }));
  } // prettier-ignore

  /** Visits that stand, for a file. */
  async work(): Promise<readonly Visit[]> {
    const rows = await this.db.selectFrom("lube_visit").selectAll().orderBy("id").execute(); // prettier-ignore
    return [...grouped(rows).values()].flatMap(kept).sort((a, b) => a.at.localeCompare(b.at)); // prettier-ignore
  }

  /** What each machine’s points say on the floor: the longest forgotten, else the over-greased. */
  async notes(): Promise<ReadonlyMap<number, string>> {
    const notes = new Map<number, string>();
    const points = (await this.all()).filter((p) => !p.retired);
    for (const p of points) {
      if (p.overGreased)
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

  /** Every point of machines in use, or one, with what is due. */
  async all(id?: number): Promise<LubePointRecord[]> {
    const rows = await this.db
      .selectFrom("lube_point")
      .innerJoin("machine", "machine.id", "lube_point.machine_id")
      .selectAll("lube_point")
      .$if(id !== undefined, (q) => q.where("lube_point.id", "=", id ?? 0))
      .orderBy("lube_point.id")
      .execute();
    const visits = grouped(await this.db.selectFrom("lube_visit").selectAll().$if(id !== undefined, (q) => q.where("point_id", "=", id ?? 0)).orderBy("id").execute()); // prettier-ignore
    const holds = grouped(await this.db.selectFrom("lube_hold").selectAll().$if(id !== undefined, (q) => q.where("point_id", "=", id ?? 0)).orderBy("id").execute()); // prettier-ignore
    const photos = grouped(await this.db.selectFrom("lube_photo").select(["id", "point_id", "caption", "at", "by"]).$if(id !== undefined, (q) => q.where("point_id", "=", id ?? 0)).orderBy("id").execute()); // prettier-ignore
    const feeds = await this.feeds();
    const usages = await this.meters.usage();
    const { school, travel } = await this.settings.get();
    const programs = new Map(travel.map((x) => [`${x.machineId} ${x.letter}`, x.kmPerHour])); // prettier-ignore
    const now = this.clock.now().getTime();
    return rows.map((row) => {
      const point = fromJson(row.point);
      const rapid = feeds.get(`${row.machine_id} ${point.letter ?? ""}`) ?? 0;
      const forecast = usages.get(row.machine_id);
      const hoursPerDay = forecast?.hoursPerDay ?? 0;
      const relative = hoursPerDay > 0 ? (forecast?.expanded ?? 0) / hoursPerDay : 0; // prettier-ignore
      const program = programs.get(`${row.machine_id} ${point.letter ?? ""}`);
      const usage: Usage = { hoursPerDay, kmPerDay: hoursPerDay * (program ?? (60 * rapid * FEED_PART) / 1e6) }; // prettier-ignore
      const pictures = (photos.get(row.id) ?? []).map(({ point_id: _, ...photo }) => photo); // prettier-ignore
      const record = recordOf(row, point, usage, kept(visits.get(row.id) ?? []), holds.get(row.id)?.at(-1), school, relative, now); // prettier-ignore
      return { ...record, photos: pictures };
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

/** A lubricant’s new name goes to the points that have it: a change of theirs like any other. */
export async function renameLubricant(
  trx: Db,
  from: string,
  to: string,
): Promise<void> {
  const rows = await trx.selectFrom("lube_point").selectAll().execute();
  for (const { id, point: kept, version } of rows) {
    const point = fromJson(kept);
    if (point.lubricant !== from) continue;
    await trx
      .updateTable("lube_point")
      .set({
        point: toJson({ ...point, lubricant: to }),
        version: version + 1,
      })
      .where("id", "=", id)
      .execute();
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

function grouped<T extends { point_id: number }>(rows: readonly T[]): ReadonlyMap<number, T[]> {
  const map = new Map<number, T[]>();
  for (const row of rows) {
    const there = map.get(row.point_id);
    if (there) there.push(row);
    else map.set(row.point_id, [row]);
  }
  return map;
} // prettier-ignore

function recordOf(
  row: Pick<Selectable<Tables["lube_point"]>, "id" | "machine_id" | "since" | "retired_at" | "version">, // prettier-ignore
  point: LubePoint,
  usage: Usage,
  visits: readonly Visit[],
  hold: Hold | undefined,
  school: IntervalSchool,
  usageSpread: number,
  nowMs: number,
): Omit<LubePointRecord, "photos"> {
  const found = visits.flatMap((v): FoundState[] => (v.found ? [v.found] : []));
  const learnt = learnInterval(visits.flatMap((v): VisitFinding[] => v.found ? [{ found: v.found, taken: takenOf(point, v) }] : [])); // prettier-ignore
  const interval = intervalDays(point.rule, usage, point.factors, learnt.factor, school); // prettier-ignore
  const plain = intervalDays(point.rule, usage, point.factors, 1, school);
  const last = visits.at(-1) ?? null;
  const from = Date.parse(last?.at ?? row.since);
  const dueMs = from + interval.days * DAY_MS;
  const holds = hold !== undefined && hold.kind !== "free" && (last === null || hold.at > last.at); // prettier-ignore
  return {
    ...point,
    factors: [...point.factors],
    outlets: [...(point.outlets ?? [])],
    qualified: point.qualified ?? false,
    id: row.id,
    version: row.version,
    machineId: row.machine_id,
    lastAt: last?.at ?? null,
    lastFound: last?.found ?? null,
    intervalDays: Math.round(interval.days),
    by: interval.by,
    held: interval.held,
    unlearntDays: Math.round(plain.days),
    learnt: learnt.words,
    overGreased: isOverGreased(learnt.counts, last?.found ?? null),
    dueOn: dayOf(dueMs),
    dueSpreadDays: interval.by === "calendar" || interval.held ? 0 : interval.days * usageSpread, // prettier-ignore
    lateDays: (nowMs - dueMs) / DAY_MS,
    asksCase: asksCase(point, found, last),
    visits: visits.length,
    hold: holds ? { kind: hold.kind === "pin" ? "pin" : "skip", date: hold.date ?? "", words: `${hold.kind === "pin" ? "put there" : "left out"} by ${hold.by}${hold.reason ? `: ${hold.reason}` : ""}` } : null, // prettier-ignore
    retired: row.retired_at !== null,
  };
}

/** What a point took against its dose; null for a wipe, a look, and a visit that gave nothing. */
function takenOf(point: LubePoint, visit: Visit): number | null {
  return point.dose > 0 && point.doseUnit !== "wipe" && visit.dose > 0
    ? visit.dose / point.dose
    : null;
}

/** When a finding at a point is the start of a case, in words; empty when it is not. */
function asksCase(point: LubePoint, found: readonly FoundState[], last: Visit | null): string {
  if (last?.glitter) return "Metal glitter or chips in the grease.";
  if (last?.friction) return "More friction than the time before.";
  const outlets = last?.outlets ? fromJson(last.outlets) : [];
  const central = centralAdvice((point.outlets ?? []).map((name, i) => ({ name, wet: outlets[i] ?? null })));
  if (central.repair) return `${central.says} Look at: ${central.look.join("; ")}.`;
  if (found.at(-1) === "blocked") return "Blocked: nothing gets through.";
  if (found.at(-1) === "dry" && found.at(-2) === "dry") return "Dry twice running.";
  return "";
} // prettier-ignore
