import type { IndicatorEdit, IndicatorRecord } from "@iron/contract";
import type { Selectable } from "kysely";
import { changedMeanwhile, notFound } from "../http/problem-error";
import type { Db } from "../store/database";
import type { Tables } from "../store/tables";
import { instant, type Clock } from "../shop/clock";

function indicatorOf(row: Selectable<Tables["indicator"]>): IndicatorRecord {
  const { id, name, kind, unit, version } = row;
  return {
    id,
    name,
    kind,
    unit,
    version,
    resolutionMm: row.resolution_mm,
    tipAngleDeg: row.tip_angle_deg,
    rangeMm: row.range_mm,
    hysteresisMm: row.hysteresis_mm,
    calibrationMm: row.calibration_mm,
    retiredAt: row.retired_at,
  };
}

function rowOf(edit: IndicatorEdit) {
  const { name, kind, unit } = edit;
  return {
    name,
    kind,
    unit,
    resolution_mm: edit.resolutionMm,
    tip_angle_deg: edit.tipAngleDeg,
    range_mm: edit.rangeMm,
    hysteresis_mm: edit.hysteresisMm ?? null,
    calibration_mm: edit.calibrationMm ?? null,
  };
}

/** The shop's indicators. A run keeps its own copy, so changing one leaves old readings as they were. */
export class Indicators {
  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
  ) {}

  async all(): Promise<IndicatorRecord[]> {
    const rows = await this.db.selectFrom("indicator").selectAll().orderBy("id").execute();
    return rows.map(indicatorOf);
  }

  async one(id: number): Promise<IndicatorRecord> {
    const row = await this.db.selectFrom("indicator").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("indicator", id);
    return indicatorOf(row);
  }

  async create(edit: IndicatorEdit): Promise<IndicatorRecord> {
    const row = { ...rowOf(edit), retired_at: null };
    const { id } = await this.db.insertInto("indicator").values(row).returning("id").executeTakeFirstOrThrow();
    return this.one(id);
  }

  async update(id: number, version: number, edit: IndicatorEdit): Promise<IndicatorRecord> {
    const changed = await this.db
      .updateTable("indicator")
      .set({ ...rowOf(edit), version: version + 1 })
      .where("id", "=", id)
      .where("version", "=", version)
      .executeTakeFirst();
    const now = await this.one(id);
    if (changed.numUpdatedRows === 0n) throw changedMeanwhile("indicator", now);
    return now;
  }

  async setRetired(id: number, retired: boolean): Promise<IndicatorRecord> {
    await this.db
      .updateTable("indicator")
      .set({ retired_at: retired ? instant(this.clock) : null })
      .where("id", "=", id)
      .execute();
    return this.one(id);
  }
}
