import {
  asksCase,
  caseCauseText,
  dayOf,
  dryChance,
  firstDueDays,
  intervalDays,
  isOverGreased,
  learnInterval,
  USUAL_PRIMING,
  waitingCost,
  type FoundState,
  type HeldBy,
  type IntervalDays,
  type IntervalMethod,
  type Learnt,
  type LubricationPoint,
  type PlaceFound,
  type Usage,
  type VisitFinding,
  type VisitTold,
} from "@iron/core";
import type { LubricationPointRecord } from "@iron/contract";
import type { Selectable } from "kysely";
import type { AxisMoves } from "./feeds";
import { actText, answeredOf, answersIn } from "./point-answers";
import type { Db } from "../store/database";
import { fromJson, toJson } from "../store/columns";
import type { Tables } from "../store/tables";

const DAY_MS = 86_400_000;
/** Points asked for by number at once. */
const AT_ONCE = 400;

export type Visit = Selectable<Tables["lube_visit"]>;
type Hold = Selectable<Tables["lube_hold"]>;
type Photos = LubricationPointRecord["photos"];

/** All of a point that only a change of it changes; what time and use make of it is {@link timingOf}. */
export interface PointFacts {
  readonly id: number;
  readonly changed: number;
  readonly version: number;
  readonly machineId: number;
  readonly point: LubricationPoint;
  readonly retired: boolean;
  readonly visits: readonly Visit[];
  readonly found: readonly FoundState[];
  readonly learnt: Learnt;
  /** Counted from the last visit, from when it was last seen to before that, or from when the point was begun. */
  readonly fromMs: number;
  /** Nobody is known to have seen to it. */
  readonly neverSeen: boolean;
  readonly hold: LubricationPointRecord["hold"];
  readonly photos: Photos;
  readonly answered: LubricationPointRecord["answered"];
}

/** What the shop does with its machines now. */
export interface Use {
  readonly usage: Usage;
  /** Relative spread of the usage. */
  readonly spread: number;
  readonly method: IntervalMethod;
  readonly nowMs: number;
  /** What holds the member of the point’s axis when the machine is off, where the point says nothing else. */
  readonly heldBy: HeldBy | null;
  /** What an hour of standing costs, and what is renewed when a link is ruined. */
  readonly hour: number;
  readonly parts: AxisMoves["parts"];
  /** What a stroke of the shop’s weighed gun gives, g; null where nobody has weighed one. */
  readonly gunStrokeG: number | null;
  /** The job that parts the nut of the point’s axis; null where there is none. */
  readonly greaseJob: AxisMoves["greaseJob"] | null;
}

export interface Timing {
  readonly interval: IntervalDays;
  readonly dueMs: number;
  readonly lateDays: number;
}

/**
 * The facts of points, read again only for those whose stamp has risen: triggers raise it in the
 * transaction of whatever changes them, so that nobody has to say so here.
 */
export class PointMemory {
  private readonly known = new Map<number, PointFacts>();
  private all: {
    readonly sum: string;
    readonly facts: readonly PointFacts[];
  } | null = null;

  constructor(private readonly db: Db) {}

  /** In the order of their numbers: all, those of a machine, or one. */
  async facts(of: { readonly id?: number; readonly machineId?: number } = {}): Promise<readonly PointFacts[]> {
    // Stamps only rise: the same sum over as many points, and nothing has changed.
    const whole = of.id === undefined && of.machineId === undefined;
    const sum = whole ? await this.sum() : "";
    if (whole && sum === this.all?.sum) return this.all.facts;
    const stamps = await this.db
      .selectFrom("lube_point")
      .select(["id", "changed"])
      .$if(of.id !== undefined, (q) => q.where("id", "=", of.id ?? 0))
      .$if(of.machineId !== undefined, (q) => q.where("machine_id", "=", of.machineId ?? 0))
      .orderBy("id")
      .execute();
    const old = stamps.filter((s) => this.known.get(s.id)?.changed !== s.changed).map((s) => s.id);
    for (let from = 0; from < old.length; from += AT_ONCE) {
      // After a big file thousands are read again: others are answered in between.
      if (from > 0) await new Promise((others) => setImmediate(others));
      await this.read(old.slice(from, from + AT_ONCE));
    }
    const facts = stamps.flatMap((s) => this.known.get(s.id) ?? []);
    if (whole) this.all = { sum, facts };
    return facts;
  }

  private async sum(): Promise<string> {
    const { count, sum } = await this.db
      .selectFrom("lube_point")
      .select((eb) => [eb.fn.countAll<number>().as("count"), eb.fn.sum<number | null>("changed").as("sum")])
      .executeTakeFirstOrThrow();
    return `${count} ${sum ?? 0}`;
  }

  private async read(ids: readonly number[]): Promise<void> {
    const rows = await this.db.selectFrom("lube_point").selectAll().where("id", "in", ids).orderBy("id").execute();
    const visits = grouped(
      await this.db.selectFrom("lube_visit").selectAll().where("point_id", "in", ids).orderBy("id").execute(),
    );
    const holds = grouped(
      await this.db.selectFrom("lube_hold").selectAll().where("point_id", "in", ids).orderBy("id").execute(),
    );
    const photos = grouped(
      await this.db
        .selectFrom("lube_photo")
        .select(["id", "point_id", "caption", "shows as of", "at", "by"])
        .where("point_id", "in", ids)
        .orderBy("id")
        .execute(),
    );
    for (const row of rows)
      // Two may read at once: what was read earlier does not come over what was read later.
      if ((this.known.get(row.id)?.changed ?? 0) <= row.changed)
        this.known.set(
          row.id,
          factsOf(row, {
            visits: standing(visits.get(row.id) ?? []),
            hold: holds.get(row.id)?.at(-1),
            photos: (photos.get(row.id) ?? []).map(({ point_id: _, ...photo }) => photo),
          }),
        );
  }
}

/** When a point was begun, or was last seen to before. */
export type Since = Pick<Selectable<Tables["lube_point"]>, "since" | "last_known">;

/** A point that is not kept yet. */
export function newFacts({
  machineId,
  point,
  since,
}: {
  readonly machineId: number;
  readonly point: LubricationPoint;
  readonly since: Since;
}): PointFacts {
  const row = {
    id: 0,
    machine_id: machineId,
    point: toJson(point),
    ...since,
    retired_at: null,
    version: 1,
    changed: 0,
  };
  return factsOf(row, { visits: [], hold: undefined, photos: [] });
}

function factsOf(
  row: Selectable<Tables["lube_point"]>,
  {
    visits,
    hold,
    photos,
  }: { readonly visits: readonly Visit[]; readonly hold: Hold | undefined; readonly photos: Photos },
): PointFacts {
  const point = fromJson(row.point);
  const last = visits.at(-1) ?? null;
  const holds = hold !== undefined && hold.kind !== "free" && (last === null || hold.at > last.at);
  return {
    id: row.id,
    changed: row.changed,
    version: row.version,
    machineId: row.machine_id,
    point,
    retired: row.retired_at !== null,
    visits,
    found: visits.flatMap((v): FoundState[] => (v.found ? [v.found] : [])),
    learnt: learnInterval(
      visits.flatMap((v): VisitFinding[] => (v.found ? [{ found: v.found, taken: takenOf(point, v) }] : [])),
    ),
    fromMs: Date.parse(last?.at ?? row.since),
    neverSeen: last === null && row.last_known === 0,
    hold: holds
      ? {
          kind: hold.kind === "pin" ? "pin" : "skip",
          date: hold.date ?? "",
          message: `${hold.kind === "pin" ? "put there" : "left out"} by ${hold.by}${hold.reason ? `: ${hold.reason}` : ""}`,
        }
      : null,
    photos,
    answered: answeredOf(point, visits),
  };
}

/** When a point is due, as its machine is used. */
export function timingOf(facts: PointFacts, { usage, method, nowMs }: Use): Timing {
  const { point, learnt, fromMs, neverSeen } = facts;
  const interval = intervalDays(point.rule, usage, { factors: point.factors, learnt: learnt.factor, method });
  const days = neverSeen ? firstDueDays(point.weight, interval.days) : interval.days;
  const dueMs = fromMs + days * DAY_MS;
  return { interval, dueMs, lateDays: (nowMs - dueMs) / DAY_MS };
}

export function isOverGreasedAt({ learnt, found }: PointFacts): boolean {
  return isOverGreased(learnt.counts, found.at(-1) ?? null);
}

/** A point as it is told. */
export function recordOf(facts: PointFacts, use: Use): LubricationPointRecord {
  const { point, learnt, visits, found } = facts;
  const { interval, dueMs, lateDays } = timingOf(facts, use);
  const plain = intervalDays(point.rule, use.usage, { factors: point.factors, learnt: 1, method: use.method });
  const last = visits.at(-1) ?? null;
  const ageDays = (use.nowMs - facts.fromMs) / DAY_MS;
  const dry = dryChance({ ageDays, intervalDays: interval.days, neverSeen: facts.neverSeen, found });
  const harm = { hour: use.hour, parts: use.parts(point.link) };
  return {
    // Named one by one: thousands are told at once, and spread over each other they take fifty times as long.
    place: point.place,
    letter: point.letter,
    link: point.link,
    way: point.way,
    lubricant: point.lubricant,
    dose: point.dose,
    doseUnit: point.doseUnit,
    minutes: point.minutes,
    access: point.access,
    machineOff: point.machineOff,
    heldBy: point.heldBy ?? use.heldBy,
    partsNut: point.partsNut,
    qualified: point.qualified ?? false,
    outlets: point.outlets ?? [],
    priming: point.priming ?? USUAL_PRIMING,
    checks: point.checks,
    rule: point.rule,
    factors: point.factors,
    weight: point.weight,
    provenance: point.provenance,
    id: facts.id,
    version: facts.version,
    machineId: facts.machineId,
    lastAt: last?.at ?? null,
    lastFound: last?.found ?? null,
    intervalDays: Math.round(interval.days),
    by: interval.by,
    held: interval.held,
    unlearntDays: Math.round(plain.days),
    learnt: learnt.message,
    overGreased: isOverGreasedAt(facts),
    dueOn: dayOf(dueMs),
    risk: { dry, week: waitingCost(point.weight, { harm, dry, days: 7 }) },
    job: point.partsNut ? (use.greaseJob?.() ?? null) : null,
    neverSeen: facts.neverSeen,
    answered: [...facts.answered],
    dueSpreadDays: facts.neverSeen || interval.by === "calendar" || interval.held ? 0 : interval.days * use.spread,
    lateDays,
    asksCase: caseCauseText(asksCase(found, toldBy(point, visits))),
    places: placesOf(last),
    gunStrokeG: use.gunStrokeG,
    visits: visits.length,
    hold: facts.hold,
    retired: facts.retired,
    photos: [...facts.photos],
  };
}

/** Visits that count: a null takes the one before it back. */
export function standing(visits: readonly Visit[]): readonly Visit[] {
  const stack: Visit[] = [];
  for (const v of visits) {
    if (v.found === null) stack.pop();
    else stack.push(v);
  }
  return stack;
}

function grouped<T extends { point_id: number }>(rows: readonly T[]): ReadonlyMap<number, T[]> {
  const map = new Map<number, T[]>();
  for (const row of rows) {
    const there = map.get(row.point_id);
    if (there) there.push(row);
    else map.set(row.point_id, [row]);
  }
  return map;
}

/** What a point took against its dose; null for a wipe, a look, and a visit that gave nothing. */
function takenOf(point: LubricationPoint, visit: Visit): number | null {
  return point.dose > 0 && point.doseUnit !== "wipe" && visit.dose > 0 ? visit.dose / point.dose : null;
}

function placesOf(visit: Visit | null): PlaceFound[] {
  return visit?.places ? [...fromJson(visit.places)] : [];
}

function toldBy(point: LubricationPoint, visits: readonly Visit[]): VisitTold | null {
  const last = visits.at(-1);
  if (!last) return null;
  const wet = last.outlets ? fromJson(last.outlets) : [];
  // Only a central line has what its outlets share; carriages that are greased one by one have not.
  const central = point.way === "central line" ? (point.outlets ?? []) : [];
  const outlets = central.map((name, i) => ({ name, wet: wet[i] ?? null }));
  const acts = answersIn(last)
    .filter((a) => a.answer === "act")
    .map((a) => actText(point, a));
  const places = { last: placesOf(last), before: placesOf(visits.at(-2) ?? null) };
  return { glitter: last.glitter !== 0, friction: last.friction !== 0, outlets, acts, places };
}
