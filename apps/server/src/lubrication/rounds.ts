import {
  dayAfter,
  dayOf,
  dueDayOf,
  minutesOn,
  needOf,
  planChanges,
  sameNeed,
  shutOn,
  weeksOf,
  type PlanDay,
  type PlannedPoint,
} from "@iron/core";
import type { Horizon, LubricationHoldCreate, Rounds } from "@iron/contract";
import { problem } from "../http/problem-error";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";
import { UntilWritten } from "../store/until-written";
import { fromJson, toJson } from "../store/columns";
import { instant, type Clock } from "../shop/clock";
import { type LubricationSettingsStore } from "./lubrication-settings";
import type { Lubrication } from "./lubrication";
import { recordOf, timingOf } from "./point-facts";
import type { PlanAsked, PlanMade } from "../threads/tasks";
import type { ShopSettings } from "../shop/shop";
import type { WorkPool } from "../threads/pool";
import { tell, type Present, DAY_MS, LEFT_OUT_TEXT, mayPin } from "./rounds-told";

/** A walk is a row of visits: the plan follows when it pauses. */
const SOON_MS = 1_000;
const HORIZON_DAYS = 14;
const HORIZON_WEEKS = 26;

/** The rounds of the next two weeks: planned, held by hand, and what each planning changed. */
export class LubricationRounds {
  private planned: {
    readonly key: string;
    readonly made: Promise<PlanMade>;
  } | null = null;
  private readonly told: UntilWritten<Rounds>;
  private settling: Promise<void> = Promise.resolve();
  private open = false;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly lubrication: Lubrication;
      readonly settings: LubricationSettingsStore;
      readonly clock: Clock;
      readonly pool: WorkPool;
      readonly shop: ShopSettings;
    },
  ) {
    this.told = new UntilWritten(needs.db, async () => this.tell(await this.present(false)));
  }

  /**
   * The plan as it stands; what has changed since is planned anew and the rest keeps its day. Looking
   * keeps nothing: what a change moved is kept with the change, see {@link touched}.
   */
  async rounds(): Promise<Rounds> {
    await this.settled();
    return this.told.get();
  }

  /** Everything planned anew, whatever was planned before. */
  async planAfresh(): Promise<Rounds> {
    return this.tell((await this.keep(true)).present);
  }

  private async tell(present: Present): Promise<Rounds> {
    const { gramsPerStroke, bays } = await this.needs.settings.get();
    const { currency } = await this.needs.shop.get();
    return { ...tell(present, bays), currency, gramsPerStroke };
  }

  /** Something was changed that may move visits: the plan follows soon, and before anybody looks. */
  touched(): void {
    this.open = true;
    this.timer ??= setTimeout(() => {
      this.timer = null;
      // Who looks next is told what failed; here nobody waits.
      this.settled().catch(() => undefined);
    }, SOON_MS).unref();
  }

  /** Waits until the plan has followed whatever was changed. */
  async settled(): Promise<void> {
    if (!this.open) return this.settling;
    this.open = false;
    this.settling = this.settling
      .catch(() => undefined)
      .then(async () => {
        const since = await this.told.stamp();
        const { present, wrote } = await this.keep(false);
        // Who looks next need not have it all made once more.
        await this.told.hand(since, { wrote, answer: await this.tell(present) });
      })
      .catch((error: unknown) => {
        this.open = true;
        throw error;
      });
    return this.settling;
  }

  /** Nothing is left under way. */
  async close(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.open = false;
    await this.settling.catch(() => undefined);
  }

  /** Today’s plan as it is now, and what it changes of the last one that was kept. */
  private async present(afresh: boolean): Promise<Present> {
    const settings = await this.needs.settings.get();
    const machine = await this.machinesInUse();
    const dates = this.dates(HORIZON_DAYS);
    const days = dates.map((date): PlanDay => ({ minutes: minutesOn(settings, date), shut: shutOn(settings, date) }));
    const used = (await this.needs.lubrication.used()).filter(
      ({ facts }) => !facts.retired && machine.has(facts.machineId),
    );
    const last = Date.parse(dates[0]) + (HORIZON_DAYS + 2) * DAY_MS;
    const due = used
      // What is due long after the horizon needs no words; the day itself is looked at next.
      .filter(({ facts, use }) => facts.hold !== null || timingOf(facts, use).dueMs < last)
      .map(({ facts, use }) => recordOf(facts, use))
      .filter((p) => dueDayOf(p, dates[0]) <= HORIZON_DAYS);
    const needs = due.map((p) => needOf(p, dates[0], machine.get(p.machineId)?.bay ?? ""));
    const pinned = new Map(
      due.flatMap((p): [string, number][] => {
        const day = p.hold?.kind === "pin" ? dates.indexOf(p.hold.date) : -1;
        return day >= 0 ? [[String(p.id), day]] : [];
      }),
    );
    const before = await this.lastPlan();
    const was = new Map((before?.plan ?? []).map((p) => [p.id, p]));
    const keep = due.map((p, i) => {
      const old = was.get(p.id);
      const day = old?.date ? dates.indexOf(old.date) : -1;
      const open = day >= 0 && days[day].minutes > 0 && !days[day].shut?.has(needs[i].machine);
      return !afresh && old !== undefined && sameNeed(old, { ...p, held: p.hold?.message ?? "" }) && open ? day : -1;
    });
    // A job is a day of its own. Two digits: what creeps up by the minute is no reason to plan anew.
    const worth = due.map((p) => (p.job ? Infinity : Number((p.risk.week + 0.001 * p.weight).toPrecision(2))));
    const made = await this.plan({ needs, days, pinned, keep, worth });
    const without = new Map(made.leftOut.map(({ visit, why }) => [due[visit].id, LEFT_OUT_TEXT[why]]));
    const after: PlannedPoint[] = due.map((p, i) => ({
      id: p.id,
      place: p.place,
      nickname: machine.get(p.machineId)?.nickname ?? "",
      date: made.dayOf[i] >= 0 ? dates[made.dayOf[i]] : null,
      dueOn: p.dueOn,
      intervalDays: p.intervalDays,
      visits: p.visits,
      held: p.hold?.message ?? "",
    }));
    const planned = new Set(after.map((p) => p.id));
    const now = new Map(used.map((u) => [u.facts.id, u]));
    // A point that was visited or put off falls out of the two weeks: it is said so, not lost.
    const gone = (before?.plan ?? []).flatMap((old): PlannedPoint[] => {
      const there = now.get(old.id);
      if (!there || planned.has(old.id) || old.date === null) return [];
      const { dueOn, intervalDays, visits, hold } = recordOf(there.facts, there.use);
      return [{ ...old, date: null, dueOn, intervalDays, visits, held: hold?.message ?? "" }];
    });
    const full = [...after, ...gone];
    // What fell out was told once: a plan that differs in nothing else is not kept anew.
    const stands = (before?.plan ?? []).filter((old) => planned.has(old.id) || old.date !== null);
    const same = before !== null && JSON.stringify(stands) === JSON.stringify(full);
    const changes =
      before && !same ? [...planChanges(before.plan, full, { today: dates[0], dayText: (d) => d, without })] : [];
    const told = changes.length ? changes : (before?.changes ?? []);
    const at = told.length ? (changes.length ? instant(this.needs.clock) : (before?.at ?? null)) : null;
    return { ...made, due, dates, days, machine, points: used.length, full, same, changes: told, at };
  }

  /** The plan of what is asked, worked out once and away from the thread that answers. */
  private plan(asked: PlanAsked): Promise<PlanMade> {
    const days = asked.days.map((d) => [d.minutes, [...(d.shut ?? [])]]);
    const key = JSON.stringify([asked.needs, days, [...asked.pinned], asked.keep, asked.worth]);
    if (this.planned?.key !== key) {
      const made = this.needs.pool.run("plan", asked);
      this.planned = { key, made };
      made.catch(() => {
        this.planned = null;
      });
    }
    return this.planned.made;
  }

  private async keep(afresh: boolean): Promise<{ readonly present: Present; readonly wrote: number }> {
    const present = await this.present(afresh);
    if (present.same) return { present, wrote: 0 };
    // As it was told: who looks now and who looks later read one time.
    const at = present.at ?? instant(this.needs.clock);
    const gone = await this.needs.db.transaction().execute(async (trx) => {
      await trx
        .insertInto("lube_plan")
        .values({
          at,
          plan: toJson(present.full),
          changes: toJson([...present.changes]),
        })
        .execute();
      // Only the last plans are of use.
      const { numDeletedRows } = await trx
        .deleteFrom("lube_plan")
        .where("id", "not in", (q) => q.selectFrom("lube_plan").select("id").orderBy("id", "desc").limit(20))
        .executeTakeFirstOrThrow();
      return numDeletedRows;
    });
    return { present, wrote: 1 + Number(gone) };
  }

  /** Rises with every plan that was kept. */
  async sequence(): Promise<number> {
    const row = await this.needs.db
      .selectFrom("lube_plan")
      .select((q) => q.fn.max("id").as("last"))
      .executeTakeFirst();
    return Number(row?.last ?? 0);
  }

  async hold(pointId: number, hold: LubricationHoldCreate, who: string): Promise<Rounds> {
    const point = await this.needs.lubrication.get(pointId);
    if (await isKnownKey(this.needs.db, { table: "lube_hold", key: hold.key, owner: pointId })) return this.rounds();
    const settings = await this.needs.settings.get();
    if (hold.kind === "pin") mayPin(settings, { point, date: hold.date ?? "", dates: this.dates(HORIZON_DAYS) });
    if (hold.kind === "skip" && (hold.date ?? "") <= this.dates(1)[0])
      throw problem(422, {
        title: "Not valid",
        detail: `${hold.date ?? ""} is not after today: name the day till which it is left out.`,
      });
    await this.needs.db
      .insertInto("lube_hold")
      .values({ ...hold, point_id: pointId, at: instant(this.needs.clock), by: who })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    this.touched();
    return this.rounds();
  }

  /** What the half-year plan is made from. */
  async horizon(): Promise<Horizon> {
    const settings = await this.needs.settings.get();
    const machine = await this.machinesInUse();
    const points = (await this.needs.lubrication.all()).filter((p) => !p.retired && machine.has(p.machineId));
    const dates = this.dates(HORIZON_WEEKS * 7);
    const weeks = weeksOf(settings, dates).map((w) => ({ ...w, shut: [...w.shut] }));
    return {
      weeks,
      points: points.map((p) => {
        const { dueDay, intervalDays, minutes, weight } = needOf(p, dates[0], "");
        return {
          id: p.id,
          machine: p.machineId,
          bay: machine.get(p.machineId)?.bay ?? "",
          minutes,
          weight,
          dueDay,
          intervalDays,
        };
      }),
    };
  }

  private async lastPlan() {
    const row = await this.needs.db
      .selectFrom("lube_plan")
      .selectAll()
      .orderBy("id", "desc")
      .limit(1)
      .executeTakeFirst();
    return row ? { plan: fromJson(row.plan), changes: [...fromJson(row.changes)], at: row.at } : null;
  }

  private async machinesInUse() {
    const rows = await this.needs.db
      .selectFrom("machine")
      .select(["id", "nickname", "bay"])
      .where("retired_at", "is", null)
      .orderBy("id")
      .execute();
    return new Map(rows.map((m) => [m.id, m]));
  }

  private dates(count: number): string[] {
    const today = dayOf(this.needs.clock.now());
    return Array.from({ length: count }, (_, i) => dayAfter(today, i));
  }
}
