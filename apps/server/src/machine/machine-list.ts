import {
  dayAfter,
  dayOf,
  defaultAxis,
  minutesOn,
  noonOf,
  templatePoints,
  usualSetUp,
  type AxisConfig,
  type LubricationPoint,
  type UnitSystem,
} from "@iron/core";
import { readMachineCsv, type MachineListAnswer, type MachineRow } from "@iron/contract";
import { randomUUID } from "node:crypto";
import type { LubricationSettingsStore } from "../lubrication/lubrication-settings";
import { instant, type Clock } from "../shop/clock";
import { toJson } from "../store/columns";
import type { Db } from "../store/database";
import { settleAxes } from "./axis-summary";

const MOST_ERRORS = 500;
/** Rows written at once. */
const AT_ONCE = 200;
const FIRST_DAYS = 28;

interface Asked {
  readonly text: string;
  readonly preview: boolean;
  readonly leaveOut: readonly string[];
  readonly units: UnitSystem;
}

/** A machine of the list as it would be made. */
interface Ready {
  readonly line: number;
  readonly row: MachineRow;
  readonly configs: readonly AxisConfig[];
  readonly points: readonly LubricationPoint[];
  readonly there: boolean;
}

/** A whole shop from a list: machines, their axes and their usual points, all at once or not at all. */
export class MachineList {
  constructor(
    private readonly needs: { readonly db: Db; readonly settings: LubricationSettingsStore; readonly clock: Clock },
  ) {}

  async read(asked: Asked, who: string): Promise<MachineListAnswer> {
    const { db, clock } = this.needs;
    const { rows, errors } = readMachineCsv(asked.text);
    const today = dayOf(clock.now());
    const wrong = [...errors, ...rows.flatMap(({ line, value }) => notYet(line, value, today)), ...twice(rows)];
    const bad = new Set(wrong.map((e) => e.line));
    const good = rows.filter((r) => !bad.has(r.line));
    const kept = await db
      .selectFrom("machine")
      .select("nickname")
      .where("retired_at", "is", null)
      .orderBy("id")
      .execute();
    const names = new Set(kept.map((m) => m.nickname.toLowerCase()));
    const ready = good.map(({ line, value }) => readyOf(line, value, { units: asked.units, names }));
    const wanted = ready.filter((r) => !r.there && !asked.leaveOut.includes(r.row.machine.nickname));
    const ids = asked.preview ? [] : await this.make(wanted, who);
    return {
      machines: ready.map(({ line, row, points, there }) => ({
        line,
        nickname: row.machine.nickname,
        bay: row.machine.bay,
        kind: row.machine.kind,
        letters: [...row.letters],
        points: points.length,
        minutes: points.reduce((s, p) => s + p.minutes, 0),
        lastDone: row.lastDone,
        there,
      })),
      errors: wrong.sort((a, b) => a.line - b.line).slice(0, MOST_ERRORS),
      ids,
      firstWeeks: {
        // What nobody is known to have seen to is due within the first weeks.
        minutes: wanted.flatMap((r) => (r.row.lastDone === null ? r.points : [])).reduce((s, p) => s + p.minutes, 0),
        available: await this.minutesAhead(today),
      },
    };
  }

  /** Off the floor again, all of them; their records stay. */
  async back(ids: readonly number[]): Promise<{ retired: number }> {
    const { db, clock } = this.needs;
    const done = await db
      .updateTable("machine")
      .set({ retired_at: instant(clock) })
      .where("id", "in", [...ids])
      .where("retired_at", "is", null)
      .executeTakeFirst();
    return { retired: Number(done.numUpdatedRows) };
  }

  private async minutesAhead(today: string): Promise<number> {
    const settings = await this.needs.settings.get();
    return Array.from({ length: FIRST_DAYS }, (_, i) => minutesOn(settings, dayAfter(today, i))).reduce(
      (a, b) => a + b,
      0,
    );
  }

  private make(wanted: readonly Ready[], who: string): Promise<number[]> {
    const { db, clock } = this.needs;
    const at = instant(clock);
    return db.transaction().execute(async (trx) => {
      const ids: number[] = [];
      const points: {
        machine_id: number;
        point: ReturnType<typeof toJson<LubricationPoint>>;
        since: string;
        last_known: 0 | 1;
      }[] = [];
      const axes: number[] = [];
      for (const { row, configs, points: own } of wanted) {
        const { hoursPerWeek, ...machine } = row.machine;
        const { id } = await trx
          .insertInto("machine")
          .values({ ...machine, hours_per_week: hoursPerWeek, version: 1, retired_at: null })
          .returning("id")
          .executeTakeFirstOrThrow();
        ids.push(id);
        for (const config of configs) {
          const axis = await trx
            .insertInto("axis")
            .values({
              machine_id: id,
              config: toJson(config),
              version: 1,
              updated_at: at,
              updated_by: who,
              retired_at: null,
            })
            .returning("id")
            .executeTakeFirstOrThrow();
          axes.push(axis.id);
        }
        const since = row.lastDone === null ? at : noonOf(row.lastDone).toISOString();
        const last_known = row.lastDone === null ? 0 : 1;
        for (const point of own) points.push({ machine_id: id, point: toJson(point), since, last_known });
        if (row.meterHours !== null) await this.readMeter(trx, id, { hours: row.meterHours, at, by: who });
      }
      for (let from = 0; from < points.length; from += AT_ONCE)
        await trx
          .insertInto("lube_point")
          .values(points.slice(from, from + AT_ONCE))
          .execute();
      for (let from = 0; from < axes.length; from += AT_ONCE) await settleAxes(trx, axes.slice(from, from + AT_ONCE));
      return ids;
    });
  }

  private async readMeter(
    trx: Db,
    machine_id: number,
    reading: { readonly hours: number; readonly at: string; readonly by: string },
  ): Promise<void> {
    const date = dayOf(this.needs.clock.now());
    await trx
      .insertInto("meter_reading")
      .values({ key: randomUUID(), machine_id, date, reset: 0, ...reading })
      .execute();
  }
}

type Wrong = MachineListAnswer["errors"];

function notYet(line: number, { lastDone }: MachineRow, today: string): Wrong {
  if (lastDone === null || lastDone <= today) return [];
  return [{ line, column: "last_lubricated", message: `${lastDone} is still to come: today is ${today}.` }];
}

/** A name that a line before has. */
function twice(rows: readonly { readonly line: number; readonly value: MachineRow }[]): Wrong {
  const first = new Map<string, number>();
  return rows.flatMap(({ line, value: { machine } }) => {
    const name = machine.nickname.toLowerCase();
    const there = first.get(name);
    if (there === undefined) first.set(name, line);
    return there === undefined
      ? []
      : [{ line, column: "machine", message: `${machine.nickname} is in line ${there} already.` }];
  });
}

function readyOf(
  line: number,
  row: MachineRow,
  { units, names }: { readonly units: UnitSystem; readonly names: ReadonlySet<string> },
): Ready {
  const { kind, nickname } = row.machine;
  const configs = row.letters.map((letter) => defaultAxis(kind, letter, units));
  const usual = usualSetUp(kind, configs);
  const { central, carriages, nuts } = row;
  const setUp = {
    ...usual,
    central: central ?? usual.central,
    carriages: carriages ?? usual.carriages,
    nuts: nuts ?? usual.nuts,
  };
  // What holds a member is asked of its axis whenever a point is told.
  const points = templatePoints(configs, { kind, setUp }).map((p) => ({ ...p, heldBy: null }));
  return { line, row, configs, points, there: names.has(nickname.toLowerCase()) };
}
