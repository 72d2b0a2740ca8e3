import { dayOf, giveText, intervalDays, noonOf, templatePoints, type LubricationPoint } from "@iron/core";
import type { LubricationPointRecord, LubricationVisitCreate, UsualPoint, UsualPoints } from "@iron/contract";
import { changedMeanwhile, conflict, notFound, problem } from "../http/problem-error";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";
import { fromJson, toJson } from "../store/columns";
import { instant, type Clock } from "../shop/clock";
import { Feeds } from "./feeds";
import type { LubricationSettingsStore } from "./lubrication-settings";
import type { Machines } from "../machine/machines";
import type { Meters } from "./meters";
import { usesOf } from "./uses";
import {
  isOverGreasedAt,
  newFacts,
  PointMemory,
  recordOf,
  timingOf,
  type PointFacts,
  type Since,
  type Use,
  type Visit,
} from "./point-facts";

/** Two people on one round: a point done so recently is not done again, ms. */
const JUST_DONE_MS = 12 * 3_600_000;

/** Lubrication points, what is found at them, and the rounds that follow. */
export class Lubrication {
  private readonly memory: PointMemory;
  private readonly feeds: Feeds;

  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly meters: Meters;
      readonly settings: LubricationSettingsStore;
      readonly clock: Clock;
    },
  ) {
    this.memory = new PointMemory(needs.db);
    this.feeds = new Feeds(needs.db);
  }

  async ofMachine(machineId: number): Promise<LubricationPointRecord[]> {
    await this.needs.machines.withAxes(machineId);
    return this.all({ machineId });
  }

  /** The usual points of a machine as they would be made, those that are there already among them. */
  async previewUsual(machineId: number, asked: UsualPoints): Promise<UsualPoint[]> {
    const since = this.sinceOf(asked.lastDone);
    const points = await this.usualPoints(machineId, asked);
    const kept = (await this.ofMachine(machineId)).filter((p) => !p.retired);
    const there = new Set(kept.map((p) => p.place));
    const uses = await usesOf(this.needs, this.feeds, machineId);
    return points.map((point): UsualPoint => {
      const use = uses(machineId, point.letter);
      const { interval, dueMs } = timingOf(newFacts({ machineId, point, since }), use);
      return {
        place: point.place,
        give: giveText({ ...point, gunStrokeG: use.gunStrokeG }),
        intervalDays: Math.round(interval.days),
        plainDays: Math.round(intervalDays(point.rule, use.usage, { method: use.method }).days),
        by: interval.by,
        dueOn: dayOf(dueMs),
        minutes: point.minutes,
        partsNut: point.partsNut,
        there: there.has(point.place),
      };
    });
  }

  /** Adds the usual points of a machine and tells them; those already there by place stay as they are. */
  async addUsual(machineId: number, asked: UsualPoints): Promise<LubricationPointRecord[]> {
    const since = this.sinceOf(asked.lastDone);
    const points = await this.usualPoints(machineId, asked);
    const added = await this.needs.db.transaction().execute(async (trx) => {
      // Read where it is written: two people may add them at once.
      const rows = await trx
        .selectFrom("lube_point")
        .selectAll()
        .where("machine_id", "=", machineId)
        .orderBy("id")
        .execute();
      const there = new Map(rows.map((r) => [fromJson(r.point).place, r]));
      const ids = new Set<number>();
      for (const point of points.filter((p) => !asked.leaveOut.includes(p.place))) {
        const kept = there.get(point.place);
        if (kept && kept.retired_at === null) continue;
        const changed = { point: toJson(point), ...since };
        // One that was kept before, and its visits, come back as it is now.
        const { id } = kept
          ? await trx
              .updateTable("lube_point")
              .set((eb) => ({ ...changed, retired_at: null, version: eb("version", "+", 1) }))
              .where("id", "=", kept.id)
              .returning("id")
              .executeTakeFirstOrThrow()
          : await trx
              .insertInto("lube_point")
              .values({ machine_id: machineId, ...changed })
              .returning("id")
              .executeTakeFirstOrThrow();
        ids.add(id);
      }
      return ids;
    });
    return (await this.ofMachine(machineId)).filter((p) => added.has(p.id));
  }

  private async usualPoints(machineId: number, { setUp, factors }: UsualPoints): Promise<readonly LubricationPoint[]> {
    const machine = await this.needs.machines.withAxes(machineId);
    const axes = machine.axes.filter((a) => !a.retiredAt).map((a) => a.config);
    // What holds a member is asked of its axis whenever a point is told: a brake may be fitted later.
    return templatePoints(axes, { kind: machine.kind, setUp, factors }).map((p) => ({ ...p, heldBy: null }));
  }

  /** From when a point counts, and whether that is when it was last seen to. */
  private sinceOf(lastDone: string | null): Since {
    const now = this.needs.clock.now();
    if (lastDone === null) return { since: instant(this.needs.clock), last_known: 0 };
    if (lastDone > dayOf(now))
      throw problem(422, {
        title: "Not valid",
        detail: `Last done on ${lastDone} is still to come: today is ${dayOf(now)}.`,
      });
    return { since: noonOf(lastDone).toISOString(), last_known: 1 };
  }

  /** Bounds that the maker gave are moved only under a name. */
  async update(
    id: number,
    { version, edit, who }: { readonly version: number; readonly edit: LubricationPoint; readonly who: string },
  ): Promise<LubricationPointRecord> {
    const old = await this.get(id);
    if (old.version !== version) throw changedMeanwhile("point", old);
    const moved = old.rule.leastDays !== edit.rule.leastDays || old.rule.mostDays !== edit.rule.mostDays;
    const said = `bounds ${edit.rule.leastDays} to ${edit.rule.mostDays} days by ${who}, ${dayOf(this.needs.clock.now())}`;
    const point = moved ? { ...edit, provenance: `${edit.provenance}; ${said}`.slice(-200) } : edit;
    const changed = await this.needs.db
      .updateTable("lube_point")
      .set({ point: toJson(point), version: version + 1 })
      .where("id", "=", id)
      .where("version", "=", version)
      .executeTakeFirst();
    const now = await this.get(id);
    if (changed.numUpdatedRows === 0n) throw changedMeanwhile("point", now);
    return now;
  }

  async create(
    machineId: number,
    point: LubricationPoint,
    lastDone: string | null = null,
  ): Promise<LubricationPointRecord> {
    const since = this.sinceOf(lastDone);
    const there = await this.ofMachine(machineId);
    if (there.some((p) => p.place === point.place && !p.retired))
      throw conflict(`This machine has a point “${point.place}” already.`);
    const { id } = await this.needs.db
      .insertInto("lube_point")
      .values({ machine_id: machineId, point: toJson(point), ...since })
      .returning("id")
      .executeTakeFirstOrThrow();
    return this.get(id);
  }

  async addPhoto(
    pointId: number,
    photo: {
      key: string;
      caption: string;
      shows?: string | undefined;
      media: "image/jpeg" | "image/png";
      bytes: Buffer;
    },
    who: string,
  ): Promise<LubricationPointRecord> {
    await this.get(pointId);
    if (await isKnownKey(this.needs.db, { table: "lube_photo", key: photo.key, owner: pointId }))
      return this.get(pointId);
    await this.needs.db
      .insertInto("lube_photo")
      .values({ ...photo, point_id: pointId, at: instant(this.needs.clock), by: who })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    return this.get(pointId);
  }

  async photo(id: number): Promise<{ media: string; bytes: Buffer }> {
    const row = await this.needs.db
      .selectFrom("lube_photo")
      .select(["media", "bytes"])
      .where("id", "=", id)
      .executeTakeFirst();
    if (!row) throw notFound("photo", id);
    return row;
  }

  async retire(id: number, retired: boolean): Promise<LubricationPointRecord> {
    await this.get(id);
    await this.needs.db
      .updateTable("lube_point")
      .set({ retired_at: retired ? instant(this.needs.clock) : null })
      .where("id", "=", id)
      .execute();
    return this.get(id);
  }

  /** Keeps what was found and given; somebody else’s visit just before is told and nothing is kept twice. */
  async visit(id: number, visit: LubricationVisitCreate, who: string): Promise<LubricationPointRecord> {
    await this.get(id);
    if (await isKnownKey(this.needs.db, { table: "lube_visit", key: visit.key, owner: id })) return this.get(id);
    const now = this.needs.clock.now();
    const last = (await this.memory.facts({ id })).at(0)?.visits.at(-1);
    if (visit.found === null && visit.takesBack !== null && last?.key !== visit.takesBack)
      throw conflict(
        last
          ? `The last visit to this point is another, of ${dayOf(last.at)} by ${last.by}: nothing was taken back.`
          : "There is no visit to this point: nothing was taken back.",
      );
    if (visit.date !== null && visit.date > dayOf(now))
      throw problem(422, {
        title: "Not valid",
        detail: `Work of ${visit.date} is still to come: today is ${dayOf(now)}.`,
      });
    const at =
      visit.date === null || visit.date === dayOf(now) ? instant(this.needs.clock) : noonOf(visit.date).toISOString();
    if (last && visit.found !== null && at < last.at)
      throw conflict(`This point was visited since, on ${dayOf(last.at)} by ${last.by}. Take that back first.`);
    if (
      last &&
      visit.found !== null &&
      !visit.again &&
      last.by !== who &&
      Date.parse(at) - Date.parse(last.at) < JUST_DONE_MS
    )
      throw conflict(
        `${last.by} has done this point already: found ${last.found ?? ""}. Nothing was kept twice.`,
        await this.get(id),
      );
    await this.needs.db
      .insertInto("lube_visit")
      .values({
        key: visit.key,
        point_id: id,
        found: visit.found,
        dose: visit.dose,
        glitter: visit.glitter ? 1 : 0,
        friction: visit.friction ? 1 : 0,
        outlets: visit.outlets.length ? toJson(visit.outlets) : null,
        checks: visit.checks.length ? toJson(visit.checks) : null,
        places: visit.places.length ? toJson(visit.places) : null,
        words: visit.words,
        at,
        by: who,
      })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    return this.get(id);
  }

  /** Doses of all visits that stand. */
  async given(): Promise<
    readonly {
      readonly pointId: number;
      readonly dose: number;
      readonly at: string;
    }[]
  > {
    return (await this.memory.facts()).flatMap((f) =>
      f.visits.map((v) => ({ pointId: v.point_id, dose: v.dose, at: v.at })),
    );
  }

  /** Visits that stand, for a file. */
  async work(): Promise<readonly Visit[]> {
    const all = (await this.memory.facts()).flatMap((f) => f.visits);
    return all.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.id - b.id));
  }

  /** What each machine’s points say on the floor: the longest forgotten, else the over-greased. */
  async notes(): Promise<ReadonlyMap<number, string>> {
    const notes = new Map<number, string>();
    const longest = new Map<number, number>();
    for (const { facts, use } of await this.used()) {
      const { machineId, point, learnt } = facts;
      if (facts.retired) continue;
      const { lateDays } = timingOf(facts, use);
      if (lateDays > 1 && lateDays >= (longest.get(machineId) ?? 0)) {
        longest.set(machineId, lateDays);
        notes.set(machineId, `${point.place}: lubrication ${Math.floor(lateDays)} days late.`);
      } else if (!longest.has(machineId) && isOverGreasedAt(facts))
        notes.set(machineId, `${point.place}: ${learnt.message}. Give less, less often.`);
    }
    return notes;
  }

  async get(id: number): Promise<LubricationPointRecord> {
    const point = (await this.all({ id })).at(0);
    if (!point) throw notFound("lubrication point", id);
    return point;
  }

  /** Every point, or those asked for, with what is due. */
  async all(of: { readonly id?: number; readonly machineId?: number } = {}): Promise<LubricationPointRecord[]> {
    return (await this.used(of)).map(({ facts, use }) => recordOf(facts, use));
  }

  /** Points as far as only a change of them changes them. */
  facts(): Promise<readonly PointFacts[]> {
    return this.memory.facts();
  }

  /** Points with how their machine is used, before anything is made of them. */
  async used(
    of: { readonly id?: number; readonly machineId?: number } = {},
  ): Promise<readonly { readonly facts: PointFacts; readonly use: Use }[]> {
    const all = await this.memory.facts(of);
    const machine = of.machineId ?? (of.id === undefined ? undefined : all.at(0)?.machineId);
    const uses = await usesOf(this.needs, this.feeds, machine);
    return all.map((facts) => ({ facts, use: uses(facts.machineId, facts.point.letter) }));
  }
}

/** A lubricant’s new name goes to the points that have it: a change of theirs like any other. */
export async function renameLubricant(trx: Db, from: string, to: string): Promise<void> {
  const rows = await trx.selectFrom("lube_point").selectAll().orderBy("id").execute();
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
