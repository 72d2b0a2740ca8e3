import type { Shop } from "@iron/contract";
import type { Db } from "../store/database";

const DEFAULTS = {
  name: "Our shop",
  currency: "EUR",
  people: '["Technician"]',
  demo: "false",
};

/** The shop's own settings. */
export class ShopSettings {
  constructor(private readonly db: Db) {}

  async get(): Promise<Shop> {
    const rows = await this.db.selectFrom("setting").selectAll().execute();
    const kept = {
      ...DEFAULTS,
      ...Object.fromEntries(rows.map((r) => [r.key, r.value])),
    };
    return {
      name: kept.name,
      currency: kept.currency,
      people: JSON.parse(kept.people) as string[],
      demo: kept.demo === "true",
    };
  }

  async set(values: Partial<Shop>): Promise<Shop> {
    await this.db.transaction().execute(async (trx) => {
      for (const [key, value] of Object.entries(values)) {
        const text = typeof value === "string" ? value : JSON.stringify(value);
        await trx
          .insertInto("setting")
          .values({ key, value: text })
          .onConflict((c) => c.column("key").doUpdateSet({ value: text }))
          .execute();
      }
    });
    return this.get();
  }
}
