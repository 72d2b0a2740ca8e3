import { calibrateGun } from "@iron/core";
import { parseByTodaysNames, type LubricationSettings, type LubricationSettingsEdit } from "@iron/contract";
import { conflict } from "../http/problem-error";
import type { Db } from "../store/database";

/** Minutes for lubrication on a working day, and what a stroke gives, until the shop says otherwise (common practice, no source). */
const USUAL: LubricationSettingsEdit = {
  version: 0,
  minutesByWeekday: [90, 90, 90, 90, 90, 0, 0],
  holidays: [],
  method: "all",
  windows: [],
  travel: [],
  bays: [],
  guns: [],
};
const USUAL_STROKE_G = 0.8;
const KEY = "keep";

/** How the shop keeps its machines: minutes, holidays, windows, method, guns. */
export class LubricationSettingsStore {
  constructor(private readonly db: Db) {}

  async get(): Promise<LubricationSettings> {
    const row = await this.db.selectFrom("setting").select("value").where("key", "=", KEY).executeTakeFirst();
    const kept = row ? { ...USUAL, ...(parseByTodaysNames(row.value) as LubricationSettingsEdit) } : USUAL;
    const gunFigures = kept.guns.map((g) => ({ name: g.name, ...calibrateGun(g.weighings) }));
    return {
      ...kept,
      gunFigures,
      gramsPerStroke: gunFigures.at(0)?.gramsPerStroke ?? USUAL_STROKE_G,
    };
  }

  async set(edit: LubricationSettingsEdit): Promise<LubricationSettings> {
    for (const gun of edit.guns) calibrateGun(gun.weighings);
    const now = await this.get();
    if (edit.version !== now.version)
      throw conflict("Somebody else has changed this meanwhile. Both are shown; keep again to take yours.", now);
    const value = JSON.stringify({ ...edit, version: now.version + 1 });
    await this.db
      .insertInto("setting")
      .values({ key: KEY, value })
      .onConflict((c) => c.column("key").doUpdateSet({ value }))
      .execute();
    return this.get();
  }
}
