import { dayOf, doseGrams, stockForecast } from "@iron/core";
import type { LubricantEdit, LubricantRecord } from "@iron/contract";
import { changedMeanwhile, conflict, notFound } from "../http/problem-error";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";
import { fromJson, toJson } from "../store/columns";
import { instant, type Clock } from "../shop/clock";
import type { LubricationSettingsStore } from "./lubrication-settings";
import { renameLubricant, type Lubrication } from "./lubrication";

const DAY_MS = 86_400_000;

/** Lubricants of the shop: what they are, what is there, when to order. */
export class Lubricants {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly lubrication: Lubrication;
      readonly settings: LubricationSettingsStore;
      readonly clock: Clock;
    },
  ) {}

  async list(): Promise<LubricantRecord[]> {
    const rows = await this.needs.db.selectFrom("lubricant").selectAll().orderBy("name").execute();
    const moves = await this.needs.db.selectFrom("lube_stock").selectAll().orderBy("id").execute();
    const { gramsPerStroke } = await this.needs.settings.get();
    const points = (await this.needs.lubrication.all()).filter((p) => !p.retired);
    const visits = await this.needs.lubrication.given();
    const now = this.needs.clock.now().getTime();
    return rows.map((row) => {
      const spec = fromJson(row.spec);
      const own = points.filter((p) => p.lubricant === row.name);
      const units = new Map(own.map((p) => [p.id, p.doseUnit]));
      const mine = moves.filter((m) => m.lubricant_id === row.id);
      const count = mine.findLast((m) => m.kind === "count");
      const since = count?.at ?? mine.at(0)?.at ?? null;
      const came = mine.filter((m) => m.kind === "in" && (!count || m.id > count.id));
      // What was given since the count has gone out of the container.
      const went =
        since === null
          ? 0
          : visits
              .filter((v) => v.at > since && units.has(v.pointId))
              .reduce((s, v) => s + doseGrams(v.dose, units.get(v.pointId) ?? "grams", gramsPerStroke), 0);
      const stockG = Math.max(0, (count?.grams ?? 0) + came.reduce((s, m) => s + m.grams, 0) - went);
      const uses = own.map((p) => ({
        grams: doseGrams(p.dose, p.doseUnit, gramsPerStroke),
        intervalDays: Math.max(1, p.intervalDays),
      }));
      const f = stockForecast({ stockG, uses, leadDays: spec.leadDays, reserveG: spec.reserveG });
      return {
        ...spec,
        id: row.id,
        version: row.version,
        points: own.length,
        stockG,
        countedAt: count?.at ?? null,
        gramsPerDay: f.gramsPerDay,
        daysLeft: f.daysLeft,
        // Never before today: late is now.
        orderBy: f.orderInDays === null ? null : dayOf(now + Math.max(0, Math.min(f.orderInDays, 36_500)) * DAY_MS),
      };
    });
  }

  async create(edit: LubricantEdit): Promise<LubricantRecord[]> {
    await this.refuseName(edit.name, null);
    await this.needs.db
      .insertInto("lubricant")
      .values({ name: edit.name, spec: toJson(edit) })
      .execute();
    return this.list();
  }

  /** A changed name goes along to the points that have it. */
  async update(id: number, version: number, edit: LubricantEdit): Promise<LubricantRecord[]> {
    await this.needs.db.transaction().execute(async (trx) => {
      const row = await this.find(id, trx);
      if (row.version !== version)
        throw changedMeanwhile("lubricant", {
          ...fromJson(row.spec),
          version: row.version,
        });
      await this.refuseName(edit.name, id, trx);
      await trx
        .updateTable("lubricant")
        .set({ name: edit.name, spec: toJson(edit), version: version + 1 })
        .where("id", "=", id)
        .execute();
      if (row.name !== edit.name) await renameLubricant(trx, row.name, edit.name);
    });
    return this.list();
  }

  async move(
    id: number,
    move: { key: string; kind: "count" | "in"; grams: number },
    who: string,
  ): Promise<LubricantRecord[]> {
    await this.find(id);
    if (await isKnownKey(this.needs.db, { table: "lube_stock", key: move.key, owner: id })) return this.list();
    await this.needs.db
      .insertInto("lube_stock")
      .values({ ...move, lubricant_id: id, at: instant(this.needs.clock), by: who })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    return this.list();
  }

  private async find(id: number, db: Db = this.needs.db) {
    const row = await db.selectFrom("lubricant").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("lubricant", id);
    return row;
  }

  private async refuseName(name: string, id: number | null, db: Db = this.needs.db): Promise<void> {
    const other = await db.selectFrom("lubricant").select("id").where("name", "=", name).executeTakeFirst();
    if (other && other.id !== id) throw conflict(`There is a lubricant “${name}” already.`);
  }
}
