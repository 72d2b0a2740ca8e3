import { defaultAxis, type AxisConfig, type UnitSystem } from "@iron/core";
import type { Axis, Machine, MachineEdit, MachineWithAxes } from "@iron/contract";
import type { Selectable } from "kysely";
import { changedMeanwhile, conflict, notFound } from "../http/problem-error";
import type { Db } from "../store/database";
import { fromJson, toJson } from "../store/columns";
import type { Tables } from "../store/tables";
import { settleAxes } from "./axis-summary";
import { instant, type Clock } from "../shop/clock";

export function machineOf(row: Selectable<Tables["machine"]>): Machine {
  const { hours_per_week, retired_at, metered: _, ...rest } = row;
  return { ...rest, hoursPerWeek: hours_per_week, retiredAt: retired_at };
}

export function axisOf(row: Selectable<Tables["axis"]>): Axis {
  return {
    id: row.id,
    machineId: row.machine_id,
    config: fromJson(row.config),
    version: row.version,
    updatedAt: row.updated_at,
    updatedBy: row.updated_by,
    retiredAt: row.retired_at,
  };
}

function rowOf(edit: MachineEdit) {
  const { nickname, bay, kind, note } = edit;
  return { nickname, bay, kind, note, hours_per_week: edit.hoursPerWeek };
}

/** Machines and their axes: made, changed with an eye on who else changes, retired, never deleted. */
export class Machines {
  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
  ) {}

  async machine(id: number): Promise<Machine> {
    const row = await this.db.selectFrom("machine").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("machine", id);
    return machineOf(row);
  }

  async withAxes(id: number): Promise<MachineWithAxes> {
    const machine = await this.machine(id);
    const rows = await this.db.selectFrom("axis").selectAll().where("machine_id", "=", id).orderBy("id").execute();
    return { ...machine, axes: rows.map(axisOf) };
  }

  async create(edit: MachineEdit, configs: readonly AxisConfig[], who: string): Promise<MachineWithAxes> {
    const id = await this.db.transaction().execute(async (trx) => {
      const row = { ...rowOf(edit), version: 1, retired_at: null };
      const machine = await trx.insertInto("machine").values(row).returning("id").executeTakeFirstOrThrow();
      for (const config of configs) await this.insertAxis(trx, { machineId: machine.id, config, who });
      return machine.id;
    });
    return this.withAxes(id);
  }

  createWithDefaults(
    edit: MachineEdit,
    letters: readonly string[],
    { who, units = "metric" }: { readonly who: string; readonly units?: UnitSystem },
  ): Promise<MachineWithAxes> {
    return this.create(
      edit,
      letters.map((l) => defaultAxis(edit.kind, l, units)),
      who,
    );
  }

  async duplicate(id: number, who: string): Promise<MachineWithAxes> {
    const original = await this.withAxes(id);
    const configs = original.axes.filter((a) => !a.retiredAt).map((a) => a.config);
    return this.create({ ...original, nickname: `${original.nickname} (copy)`.slice(0, 40) }, configs, who);
  }

  async update(id: number, version: number, edit: MachineEdit): Promise<Machine> {
    const changed = await this.db
      .updateTable("machine")
      .set({ ...rowOf(edit), version: version + 1 })
      .where("id", "=", id)
      .where("version", "=", version)
      .executeTakeFirst();
    const current = await this.machine(id);
    if (changed.numUpdatedRows === 0n) {
      throw changedMeanwhile("machine", current);
    }
    return current;
  }

  async setRetired(id: number, retired: boolean): Promise<Machine> {
    await this.db
      .updateTable("machine")
      .set({ retired_at: retired ? instant(this.clock) : null })
      .where("id", "=", id)
      .execute();
    return this.machine(id);
  }

  async axis(id: number): Promise<Axis> {
    const row = await this.db.selectFrom("axis").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("axis", id);
    return axisOf(row);
  }

  async createAxis(machineId: number, config: AxisConfig, who: string): Promise<Axis> {
    await this.machine(machineId);
    return this.axis(await this.insertAxis(this.db, { machineId, config, who }));
  }

  async duplicateAxis(id: number, who: string): Promise<Axis> {
    const { machineId, config } = await this.axis(id);
    const { axes } = await this.withAxes(machineId);
    const taken = new Set(axes.map((a) => a.config.letter));
    const base = config.letter.charAt(0);
    const free = ["X", "Y", "Z", "U", "V", "W", ...Array.from({ length: 8 }, (_, i) => `${base}${i + 2}`)];
    const letter = free.find((l) => !taken.has(l)) ?? base;
    return this.createAxis(machineId, { ...config, letter }, who);
  }

  async updateAxis(
    id: number,
    { version, config, who }: { readonly version: number; readonly config: AxisConfig; readonly who: string },
  ): Promise<Axis> {
    const changed = await this.db.transaction().execute(async (trx) => {
      const done = await trx
        .updateTable("axis")
        .set({
          config: toJson(config),
          version: version + 1,
          updated_at: instant(this.clock),
          updated_by: who,
        })
        .where("id", "=", id)
        .where("version", "=", version)
        .executeTakeFirst();
      if (done.numUpdatedRows > 0n) await settleAxes(trx, [id]);
      return done;
    });
    const current = await this.axis(id);
    if (changed.numUpdatedRows === 0n) {
      throw conflict(`${current.updatedBy} changed this axis while you did. Both versions are here; choose.`, current);
    }
    return current;
  }

  async setAxisRetired(id: number, retired: boolean): Promise<Axis> {
    await this.db
      .updateTable("axis")
      .set({ retired_at: retired ? instant(this.clock) : null })
      .where("id", "=", id)
      .execute();
    return this.axis(id);
  }

  private async insertAxis(
    db: Db,
    { machineId, config, who }: { readonly machineId: number; readonly config: AxisConfig; readonly who: string },
  ): Promise<number> {
    const row = {
      machine_id: machineId,
      config: toJson(config),
      version: 1,
      updated_at: instant(this.clock),
      updated_by: who,
      retired_at: null,
    };
    const { id } = await db.insertInto("axis").values(row).returning("id").executeTakeFirstOrThrow();
    await settleAxes(db, [id]);
    return id;
  }
}
