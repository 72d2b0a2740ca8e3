import type { Shop, ShopUpdate } from "@iron/contract";
import { changedMeanwhile } from "../http/problem-error";
import type { Db } from "../store/database";

const DEFAULTS = {
  name: "Our shop",
  currency: "EUR",
  people: '["Technician"]',
  demo: "false",
  "shop-version": "0",
};

/** The shop's own settings. */
export class ShopSettings {
  constructor(private readonly db: Db) {}

  async get(db: Db = this.db): Promise<Shop> {
    const rows = await db.selectFrom("setting").selectAll().execute();
    const people = await db
      .selectFrom("person")
      .select("name")
      .where("retired_at", "is", null)
      .orderBy("name")
      .execute();
    const kept = {
      ...DEFAULTS,
      ...Object.fromEntries(rows.map((r) => [r.key, r.value])),
    };
    return {
      name: kept.name,
      currency: kept.currency,
      people: people.length ? people.map((p) => p.name) : (JSON.parse(kept.people) as string[]),
      demo: kept.demo === "true",
      version: Number(kept["shop-version"]),
    };
  }

  /** What a person changes, from the version they saw. */
  async update({ version, ...values }: ShopUpdate): Promise<Shop> {
    return this.db.transaction().execute(async (trx) => {
      const there = await this.get(trx);
      if (there.version !== version) throw changedMeanwhile("shop", there);
      await write(trx, { ...values, "shop-version": version + 1 });
      return this.get(trx);
    });
  }

  /** What the shop begins with. */
  async set(values: Partial<Omit<Shop, "version">>): Promise<Shop> {
    await this.db.transaction().execute((trx) => write(trx, values));
    return this.get();
  }
}

async function write(trx: Db, values: object): Promise<void> {
  for (const [key, value] of Object.entries(values)) {
    const text = typeof value === "string" ? value : JSON.stringify(value);
    await trx
      .insertInto("setting")
      .values({ key, value: text })
      .onConflict((c) => c.column("key").doUpdateSet({ value: text }))
      .execute();
  }
}
