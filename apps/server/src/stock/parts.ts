import { spareAdvice, sparesOf, type SparePlace, type SpareTerms } from "@iron/core";
import {
  writePartsCsv,
  type OrderState,
  type PartOrder,
  type PartOrderCreate,
  type PartRecord,
  type Parts,
  type PartTerms,
} from "@iron/contract";
import type { Selectable } from "kysely";
import { changedMeanwhile, conflict, notFound } from "../http/problem-error";
import type { Lubrication } from "../lubrication/lubrication";
import type { Meters } from "../lubrication/meters";
import type { Machines } from "../machine/machines";
import { instant, type Clock } from "../shop/clock";
import type { ShopSettings } from "../shop/shop";
import { fromJson } from "../store/columns";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";
import type { Tables } from "../store/tables";
import { whyHeld } from "./why-held.text";

const DAY_MS = 86_400_000;
/** Orders that came or were dropped are told so long. */
const TOLD_DAYS = 90;
/** What nobody said of a part that no axis is known to have. */
const UNKNOWN: SpareTerms = { price: 0, leadDays: 7, waitDays: 2, least: 0 };

type Terms = Selectable<Tables["part_terms"]>;

/** A part with everything that takes it. */
interface Wanted {
  readonly usual: SpareTerms;
  readonly axes: string[];
  readonly places: SparePlace[];
}

/** Spare parts of the shop: how many to hold, what is there, what is ordered. */
export class PartStock {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly meters: Meters;
      readonly lubrication: Lubrication;
      readonly shop: ShopSettings;
      readonly clock: Clock;
    },
  ) {}

  async list(): Promise<Parts> {
    const { db, clock, shop } = this.needs;
    const orders = await this.orders();
    const moves = await db.selectFrom("part_move").selectAll().orderBy("id").execute();
    const own = new Map(
      (await db.selectFrom("part_terms").selectAll().orderBy("part").execute()).map((t) => [t.part, t]),
    );
    const wanted = await this.wanted();
    const names = new Set([...wanted.keys(), ...own.keys(), ...moves.map((m) => m.part), ...orders.map((o) => o.part)]);
    const { currency } = await shop.get();
    const parts = [...names]
      .sort((a, b) => a.localeCompare(b))
      .map((part) =>
        partOf(part, {
          wanted: wanted.get(part),
          own: own.get(part),
          moves: moves.filter((m) => m.part === part),
          orders: orders.filter((o) => o.part === part),
          currency,
        }),
      );
    const since = clock.now().getTime() - TOLD_DAYS * DAY_MS;
    const open = (o: PartOrder): boolean => o.state === "wanted" || o.state === "ordered";
    return {
      parts,
      orders: [...orders.filter(open), ...orders.filter((o) => !open(o) && Date.parse(o.movedAt) > since).reverse()],
      currency,
    };
  }

  async setTerms({ part, version, price, leadDays, waitDays, least }: PartTerms): Promise<Parts> {
    const values = { version: version + 1, price, lead_days: leadDays, wait_days: waitDays, least };
    await this.needs.db.transaction().execute(async (trx) => {
      const now = await trx.selectFrom("part_terms").selectAll().where("part", "=", part).executeTakeFirst();
      if ((now?.version ?? 0) !== version) throw changedMeanwhile("part", now ? termsOf(now) : null);
      await trx
        .insertInto("part_terms")
        .values({ part, ...values })
        .onConflict((on) => on.column("part").doUpdateSet(values))
        .execute();
    });
    return this.list();
  }

  async count(move: { key: string; part: string; kind: "count" | "out"; count: number }, who: string): Promise<Parts> {
    const { db, clock } = this.needs;
    const known = await db.selectFrom("part_move").select("part").where("key", "=", move.key).executeTakeFirst();
    if (known && known.part !== move.part)
      throw conflict("This was sent before, and kept for something else. Nothing was kept here: enter it anew.");
    await db
      .insertInto("part_move")
      .values({ ...move, at: instant(clock), by: who })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    return this.list();
  }

  async order({ machineId, pointId, ...order }: PartOrderCreate, who: string): Promise<Parts> {
    const { db, clock, lubrication, machines } = this.needs;
    const machine = pointId === null ? machineId : (await lubrication.get(pointId)).machineId;
    if (machine !== null) await machines.machine(machine);
    const known = await db.selectFrom("part_order").selectAll().where("key", "=", order.key).executeTakeFirst();
    if (known && (known.part !== order.part || known.count !== order.count))
      throw conflict("This was sent before, and kept for something else. Nothing was kept here: enter it anew.");
    await db
      .insertInto("part_order")
      .values({ ...order, machine_id: machine, point_id: pointId, at: instant(clock), by: who })
      .onConflict((on) => on.column("key").doNothing())
      .execute();
    return this.list();
  }

  async moveOrder(id: number, move: { key: string; state: OrderState }, who: string): Promise<Parts> {
    const { db, clock } = this.needs;
    const there = await db.selectFrom("part_order").select("id").where("id", "=", id).executeTakeFirst();
    if (!there) throw notFound("order", id);
    if (!(await isKnownKey(db, { table: "part_order_move", key: move.key, owner: id })))
      await db
        .insertInto("part_order_move")
        .values({ ...move, order_id: id, at: instant(clock), by: who })
        .onConflict((on) => on.column("key").doNothing())
        .execute();
    return this.list();
  }

  async csv(): Promise<{ fileName: string; media: string; text: string }> {
    return { fileName: "parts.csv", media: "text/csv", text: writePartsCsv(await this.list()) };
  }

  private async orders(): Promise<PartOrder[]> {
    const { db } = this.needs;
    const rows = await db
      .selectFrom("part_order")
      .leftJoin("machine", "machine.id", "part_order.machine_id")
      .selectAll("part_order")
      .select("machine.nickname")
      .orderBy("part_order.id")
      .execute();
    const moves = await db.selectFrom("part_order_move").selectAll().orderBy("id").execute();
    const last = new Map(moves.map((m) => [m.order_id, m]));
    return rows.map((o) => {
      const move = last.get(o.id);
      return {
        id: o.id,
        part: o.part,
        count: o.count,
        why: o.why,
        machineId: o.machine_id,
        nickname: o.nickname ?? "",
        pointId: o.point_id,
        state: move?.state ?? "wanted",
        at: o.at,
        by: o.by,
        movedAt: move?.at ?? o.at,
        movedBy: move?.by ?? o.by,
      };
    });
  }

  /** Every part that some axis in use has, with all places where it wears. */
  private async wanted(): Promise<ReadonlyMap<string, Wanted>> {
    const { db, meters, clock } = this.needs;
    const usages = await meters.usage();
    const renewed = await this.renewed();
    const rows = await db
      .selectFrom("axis")
      .innerJoin("machine", "machine.id", "axis.machine_id")
      .select(["axis.id", "axis.config", "machine.id as machineId", "machine.nickname"])
      .where("axis.retired_at", "is", null)
      .where("machine.retired_at", "is", null)
      .orderBy("machine.nickname")
      .orderBy("axis.id")
      .execute();
    const parts = new Map<string, Wanted>();
    for (const row of rows) {
      const config = fromJson(row.config);
      const hoursPerDay = usages.get(row.machineId)?.hoursPerDay ?? 0;
      for (const { kind, name, price } of sparesOf(config)) {
        const there = parts.get(name) ?? {
          usual: { price, leadDays: kind.leadDays, waitDays: kind.waitDays, least: 0 },
          axes: [],
          places: [],
        };
        parts.set(name, there);
        const since = kind.jobs.flatMap((job) => renewed.get(`${row.id} ${job}`) ?? []).sort();
        const last = since.at(-1);
        there.axes.push(`${row.nickname} ${config.letter}`);
        there.places.push({
          life: kind.life,
          count: kind.count,
          ageHours:
            last === undefined ? null : (Math.max(0, clock.now().getTime() - Date.parse(last)) / DAY_MS) * hoursPerDay,
          hoursPerDay,
          dayCost: hoursPerDay * config.costs.downtimePerHour,
        });
      }
    }
    return parts;
  }

  /** When a kind of job was last finished on an axis. */
  private async renewed(): Promise<ReadonlyMap<string, string>> {
    const rows = await this.needs.db
      .selectFrom("job")
      .select(["axes", "items", "finished_at"])
      .where("finished_at", "is not", null)
      .orderBy("finished_at")
      .execute();
    return new Map(
      rows.flatMap((job) => {
        const axes = new Map(fromJson(job.axes).map((a) => [a.letter, a.axisId]));
        return fromJson(job.items).map(({ letter, kind }): [string, string] => [
          `${axes.get(letter) ?? 0} ${kind}`,
          job.finished_at ?? "",
        ]);
      }),
    );
  }
}

const termsOf = (t: Terms): PartTerms => ({
  part: t.part,
  version: t.version,
  price: t.price,
  leadDays: t.lead_days,
  waitDays: t.wait_days,
  least: t.least,
});

function partOf(
  part: string,
  {
    wanted,
    own,
    moves,
    orders,
    currency,
  }: {
    readonly wanted: Wanted | undefined;
    readonly own: Terms | undefined;
    readonly moves: readonly Selectable<Tables["part_move"]>[];
    readonly orders: readonly PartOrder[];
    readonly currency: string;
  },
): PartRecord {
  const terms: PartTerms = own ? termsOf(own) : { part, version: 0, ...(wanted?.usual ?? UNKNOWN) };
  const places = wanted?.places ?? [];
  const advice = spareAdvice(places, terms);
  const counted = moves.findLast((m) => m.kind === "count");
  const stock = shelfOf(moves, orders);
  const onOrder = orders.filter((o) => o.state === "wanted" || o.state === "ordered").reduce((s, o) => s + o.count, 0);
  return {
    part,
    axes: wanted?.axes ?? [],
    built: places.reduce((s, p) => s + p.count, 0),
    perYear: advice.perYear,
    hold: advice.hold,
    stock,
    countedAt: counted?.at ?? null,
    onOrder,
    order: Math.max(0, advice.hold - stock - onOrder),
    shortChance: advice.shortChance,
    why: places.length ? whyHeld(advice, { terms, currency }) : "",
    terms,
    usual: own === undefined,
  };
}

/**
 * What lies on the shelf: a count is what was there, what came is put to it, what was taken goes off. Nobody takes from an
 * empty shelf: it held more than was known, and owes nothing for that.
 */
function shelfOf(moves: readonly Selectable<Tables["part_move"]>[], orders: readonly PartOrder[]): number {
  const came = orders
    .filter((o) => o.state === "came")
    .map(({ movedAt, count }) => ({ at: movedAt, then: (n: number) => n + count }));
  const hands = moves.map(({ at, kind, count }) => ({
    at,
    then: (n: number) => (kind === "count" ? count : Math.max(0, n - count)),
  }));
  // What came in the very instant of a count was counted with it.
  const events = [...came, ...hands].sort((x, y) => (x.at < y.at ? -1 : x.at > y.at ? 1 : 0));
  return events.reduce((n, e) => e.then(n), 0);
}
