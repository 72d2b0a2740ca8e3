import { dayOf, checkMeter, forecastUsage, type MeterReading, type UsageForecast } from "@iron/core";
import type { MachineMeter, MeterCreate } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { notFound, problem } from "../http/problem-error";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";
import { fromJson } from "../store/columns";
import { instant, type Clock } from "../shop/clock";
import type { LubricationSettingsStore } from "./lubrication-settings";

/** Machines asked for by number at once. */
const AT_ONCE = 400;
const SIMULATED = "simulated machine";

interface KeptReading extends MeterReading {
  readonly id: number;
  readonly machineId: number;
  readonly by: string;
}

/** Hour meters: readings typed, from files or from the simulated machine, and the usage to come. */
export class Meters {
  private readonly known = new Map<number, { readonly key: string; readonly forecast: UsageForecast }>();

  constructor(
    private readonly db: Db,
    private readonly settings: LubricationSettingsStore,
    private readonly clock: Clock,
  ) {}

  /** Usage of every machine, or of one, worked out again only where its meter, its week or the day has changed. */
  async usage(machineId?: number): Promise<ReadonlyMap<number, UsageForecast>> {
    const machines = await this.machines(machineId);
    const { holidays } = await this.settings.get();
    const closed = holidays.map((h) => h.date);
    // By the hour: a forecast leans on how old each reading is.
    const now = `${instant(this.clock).slice(0, 13)} ${closed.join(" ")}`;
    const keyOf = (m: (typeof machines)[number]): string => `${m.metered} ${m.hours_per_week} ${now}`;
    const old = machines.filter((m) => this.known.get(m.id)?.key !== keyOf(m));
    if (old.length > 0) {
      const readings = await this.readings(old.length > AT_ONCE ? undefined : old.map((m) => m.id));
      for (const m of old)
        this.known.set(m.id, {
          key: keyOf(m),
          forecast: this.forecast(m, readings.get(m.id) ?? [], closed),
        });
    }
    return new Map(
      machines.flatMap((m) => {
        const known = this.known.get(m.id);
        return known ? [[m.id, known.forecast]] : [];
      }),
    );
  }

  async list(): Promise<MachineMeter[]> {
    const { machines, readings, closed } = await this.load();
    return machines
      .filter((m) => m.retired_at === null)
      .map((m) => {
        const own = readings.get(m.id) ?? [];
        const { hoursPerDay, expanded, from, notes } = this.forecast(m, own, closed);
        return {
          machineId: m.id,
          nickname: m.nickname,
          bay: m.bay,
          hoursPerDay,
          expanded,
          from,
          notes: [...notes],
          readings: own
            .slice(-6)
            .reverse()
            .map(({ id, at, hours, reset, by }) => ({ id, date: at, hours, reset, by })),
        };
      });
  }

  async add(machineId: number, reading: MeterCreate, who: string): Promise<MachineMeter[]> {
    const { machines, readings } = await this.load();
    if (!machines.some((m) => m.id === machineId)) throw notFound("machine", machineId);
    if (await isKnownKey(this.db, { table: "meter_reading", key: reading.key, owner: machineId })) return this.list();
    this.refuse(readings.get(machineId) ?? [], reading);
    await this.insert(machineId, reading, who);
    return this.list();
  }

  /** The simulated machine’s own meter: what the last one said and its working week since. */
  async read(machineId: number, who: string): Promise<MachineMeter[]> {
    const { machines, readings } = await this.load();
    const machine = machines.find((m) => m.id === machineId);
    if (!machine) throw notFound("machine", machineId);
    const last = (readings.get(machineId) ?? []).at(-1);
    const date = dayOf(this.clock.now());
    const days = last ? (Date.parse(date) - Date.parse(last.at)) / 86_400_000 : 0;
    const hours = Math.round((last?.hours ?? 4000) + (machine.hours_per_week / 7) * days);
    await this.simulatedTravel(machineId);
    return this.add(machineId, { key: randomUUID(), date, hours, reset: false }, who);
  }

  /** The stand-in tells the travel of its axes too: each has a mean feed of its own. A program that was given stays. */
  private async simulatedTravel(machineId: number): Promise<void> {
    const rows = await this.db
      .selectFrom("axis")
      .select(["id", "config"])
      .where("machine_id", "=", machineId)
      .where("retired_at", "is", null)
      .orderBy("id")
      .execute();
    const { gramsPerStroke: _, gunFigures: __, ...edit } = await this.settings.get();
    const told = rows.map((r) => {
      const { letter, rapidMmMin } = fromJson(r.config);
      return { machineId, letter, kmPerHour: (60 * rapidMmMin * (0.03 + 0.01 * (r.id % 4))) / 1e6, from: SIMULATED };
    });
    const programs = edit.travel.filter((x) => x.machineId !== machineId || x.from !== SIMULATED);
    const fresh = told.filter((x) => !programs.some((p) => p.machineId === machineId && p.letter === x.letter));
    await this.settings.set({ ...edit, travel: [...programs, ...fresh] });
  }

  async back(readingId: number, who: string): Promise<MachineMeter[]> {
    const row = await this.db.selectFrom("meter_reading").select("id").where("id", "=", readingId).executeTakeFirst();
    if (!row) throw notFound("meter reading", readingId);
    await this.db
      .insertInto("meter_back")
      .values({ reading_id: readingId, at: instant(this.clock), by: who })
      .onConflict((c) => c.doNothing())
      .execute();
    return this.list();
  }

  /** Says what is wrong with a reading against those before and after it; nothing when it may be kept. */
  refuse(own: readonly MeterReading[], reading: Pick<MeterCreate, "date" | "hours" | "reset">): void {
    const today = dayOf(this.clock.now());
    if (reading.date > today)
      throw problem(422, {
        title: "Not valid",
        detail: `A reading of ${reading.date} is still to come: today is ${today}.`,
      });
    const next = { at: reading.date, hours: reading.hours, reset: reading.reset };
    checkMeter(own.filter((r) => r.at <= reading.date).at(-1) ?? null, next);
    const after = own.find((r) => r.at > reading.date);
    if (after && !after.reset) checkMeter(next, after);
  }

  async insert(machineId: number, reading: MeterCreate, who: string): Promise<boolean> {
    const { numInsertedOrUpdatedRows = 0n } = await this.db
      .insertInto("meter_reading")
      .values({
        key: reading.key,
        machine_id: machineId,
        date: reading.date,
        hours: reading.hours,
        reset: reading.reset ? 1 : 0,
        at: instant(this.clock),
        by: who,
      })
      .onConflict((on) => on.column("key").doNothing())
      .executeTakeFirst();
    return numInsertedOrUpdatedRows > 0n;
  }

  private forecast(
    machine: { hours_per_week: number },
    own: readonly MeterReading[],
    closed: readonly string[],
  ): UsageForecast {
    return forecastUsage(own, { hoursPerWeek: machine.hours_per_week, today: instant(this.clock), closed });
  }

  private machines(id?: number) {
    return this.db
      .selectFrom("machine")
      .select(["id", "nickname", "bay", "hours_per_week", "retired_at", "metered"])
      .$if(id !== undefined, (q) => q.where("id", "=", id ?? 0))
      .orderBy("id")
      .execute();
  }

  private async load() {
    const machines = await this.machines();
    const all = await this.readings();
    const { holidays } = await this.settings.get();
    return { machines, readings: all, closed: holidays.map((h) => h.date) };
  }

  /** Readings that stand, by machine, in the order of their days. */
  async readings(ids?: readonly number[]): Promise<ReadonlyMap<number, readonly KeptReading[]>> {
    const rows = await this.db
      .selectFrom("meter_reading")
      .leftJoin("meter_back", "meter_back.reading_id", "meter_reading.id")
      .selectAll("meter_reading")
      .where("meter_back.reading_id", "is", null)
      .$if(ids !== undefined, (q) => q.where("machine_id", "in", ids ?? []))
      .orderBy("date")
      .orderBy("id")
      .execute();
    const map = new Map<number, KeptReading[]>();
    for (const r of rows) {
      const one = {
        id: r.id,
        machineId: r.machine_id,
        at: r.date,
        hours: r.hours,
        reset: r.reset === 1,
        by: r.by,
      };
      const there = map.get(r.machine_id);
      if (there) there.push(one);
      else map.set(r.machine_id, [one]);
    }
    return map;
  }
}
