import { keeperTrouble, type People as PeopleAnswer, type Person, type PersonEdit, type Role } from "@iron/contract";
import type { Selectable } from "kysely";
import { changedMeanwhile, conflict, notFound, problem } from "../http/problem-error";
import { instant, type Clock } from "../shop/clock";
import type { Db } from "../store/database";
import type { PeopleTables } from "../store/people-tables";
import { LockOut } from "./lockout";
import { givenPin, isSecret, keepSecret } from "./secrets";

export type PersonRow = Selectable<PeopleTables["person"]>;
/** Who does something at the door, and from where. */
export interface Doer {
  readonly by: string;
  readonly address: string;
}

const QUIET_KEY = "quiet-minutes";
const USUAL_QUIET = 10;

/** People who sign in, what they may, and what they are let in by. */
export class People {
  readonly lockOut: LockOut;
  /** Tries are looked at one after the other: a flood of them overtakes no lock-out, and leaves the other threads to readings. */
  private last: Promise<unknown> = Promise.resolve();
  private opened: Promise<"open" | "set-up" | "people"> | null = null;

  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
    /** Reached from this machine only. */
    private readonly alone: boolean,
  ) {
    this.lockOut = new LockOut(db, clock);
  }

  /** On the loopback one person needs no door; on a network nobody enters before somebody keeps it. */
  door(): Promise<"open" | "set-up" | "people"> {
    return (this.opened ??= this.doorNow());
  }

  private async doorNow(): Promise<"open" | "set-up" | "people"> {
    const rows = await this.active();
    if (this.alone) return rows.length > 1 ? "people" : "open";
    return rows.some((r) => r.role === "keeper" && r.secret) ? "people" : "set-up";
  }

  active(db: Db = this.db): Promise<PersonRow[]> {
    return db.selectFrom("person").selectAll().where("retired_at", "is", null).orderBy("name").execute();
  }

  async find(id: number): Promise<PersonRow | null> {
    const row = await this.db
      .selectFrom("person")
      .selectAll()
      .where("id", "=", id)
      .where("retired_at", "is", null)
      .executeTakeFirst();
    return row ?? null;
  }

  async all(): Promise<PeopleAnswer> {
    const rows = await this.db.selectFrom("person").selectAll().orderBy("name").execute();
    const now = instant(this.clock);
    const locked = await this.db
      .selectFrom("sign_in_failure")
      .select(["person_id", "locked_until"])
      .where("locked_until", ">", now)
      .execute();
    return {
      people: rows.map((row) => personOf(row, latest(locked.filter((l) => l.person_id === row.id)))),
      quietMinutes: await this.quietMinutes(),
    };
  }

  async quietMinutes(): Promise<number> {
    const row = await this.db.selectFrom("setting").select("value").where("key", "=", QUIET_KEY).executeTakeFirst();
    return Number(row?.value ?? USUAL_QUIET);
  }

  async setQuiet(minutes: number): Promise<void> {
    const value = String(minutes);
    await this.db
      .insertInto("setting")
      .values({ key: QUIET_KEY, value })
      .onConflict((c) => c.column("key").doUpdateSet({ value }))
      .execute();
  }

  /** Looks at a try. @throws ProblemError 429 while there is to wait, 401 where it is wrong */
  prove(personId: number, secret: string, address: string): Promise<PersonRow> {
    const work = async (): Promise<PersonRow> => {
      const row = await this.find(personId);
      const until = row ? await this.lockOut.until(row.id, address) : null;
      if (row && until) throw this.waits(row.name, until);
      const right = await isSecret(secret, row?.secret ?? null);
      if (row && right) {
        await this.lockOut.forget(row.id, address);
        return row;
      }
      if (!row) throw problem(401, { title: "Not let in", detail: "That is nobody’s PIN." });
      const left = await this.lockOut.failed(row.id, address);
      await this.note({ id: row.id, what: "wrong PIN" }, { by: row.name, address });
      const now = await this.lockOut.until(row.id, address);
      if (now) throw this.waits(row.name, now);
      const tries = left === 1 ? "One try is left" : `${left} tries are left`;
      throw problem(401, {
        title: "Not let in",
        detail: `That is not ${row.name}’s PIN. ${tries}, then it waits.`,
      });
    };
    const now = this.last.then(work, work);
    this.last = now.catch(() => undefined);
    return now;
  }

  private waits(name: string, until: Date): Error {
    const seconds = Math.ceil((until.getTime() - this.clock.now().getTime()) / 1000);
    const long = seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`;
    return problem(429, {
      title: "Too many tries",
      detail: `Too many wrong tries for ${name}. Try again in ${long}, or have the keeper give a new PIN.`,
    });
  }

  /** Adds somebody. The first keeps the door, by a passphrase of their own; whoever gets none is given a PIN. */
  async add(
    edit: PersonEdit,
    secret: string | null,
    doer: Doer,
  ): Promise<{ readonly row: PersonRow; readonly given: string | null }> {
    const there = await this.active();
    if (there.length === 0 && edit.role !== "keeper")
      throw refused("role", "The first person keeps the system: choose keeper, somebody has to let the others in.");
    if (there.length === 0 && secret === null) throw refused("secret", "The keeper chooses a passphrase.");
    if (secret !== null) refuseWeak(edit.role, secret);
    const given = secret === null ? givenPin() : null;
    const kept = await keepSecret(secret ?? given ?? "");
    const row = await this.db.transaction().execute(async (trx) => {
      await this.refuseTaken(trx, edit, null);
      const { id } = await trx
        .insertInto("person")
        .values({
          ...edit,
          ...{ secret: kept, given: given === null ? 0 : 1, version: 0, retired_at: null, last_seen: null },
        })
        .returning("id")
        .executeTakeFirstOrThrow();
      await this.note({ id, what: `added as ${edit.role}` }, doer, trx);
      return trx.selectFrom("person").selectAll().where("id", "=", id).executeTakeFirstOrThrow();
    });
    this.opened = null;
    return { row, given };
  }

  async update(
    id: number,
    { version, retired, ...edit }: PersonEdit & { readonly version: number; readonly retired: boolean },
    doer: Doer,
  ): Promise<Person> {
    const row = await this.db.transaction().execute(async (trx) => {
      const was = await trx.selectFrom("person").selectAll().where("id", "=", id).executeTakeFirst();
      if (!was) throw notFound("person", id);
      if (was.version !== version) throw changedMeanwhile("person", personOf(was, null));
      if (was.name !== edit.name && was.last_seen)
        throw refused("name", `Records carry the name ${was.name}: retire it and add a new one.`);
      await this.refuseTaken(trx, edit, id);
      const others = (await this.active(trx)).filter((r) => r.id !== id && r.role === "keeper" && r.secret);
      const keeps = !retired && edit.role === "keeper";
      if (was.role === "keeper" && !keeps && !others.length)
        throw conflict(`${was.name} is the only keeper: make somebody else one first.`);
      await trx
        .updateTable("person")
        .set({
          ...edit,
          ...{ version: version + 1, retired_at: retired ? (was.retired_at ?? instant(this.clock)) : null },
          // A PIN that was good enough before is none for a keeper.
          ...(edit.role === "keeper" && was.role !== "keeper" ? { given: 1 } : {}),
        })
        .where("id", "=", id)
        .execute();
      if (retired) await this.endSessions(id, trx);
      const said = [
        ...(was.role === edit.role ? [] : [`made ${edit.role}, was ${was.role}`]),
        ...(was.name === edit.name && was.sign === edit.sign ? [] : [`called ${edit.name}, ${edit.sign}`]),
        ...((was.retired_at !== null) === retired ? [] : [retired ? "retired" : "called back"]),
      ];
      await this.note({ id, what: said.join("; ") || "kept as it was" }, doer, trx);
      return trx.selectFrom("person").selectAll().where("id", "=", id).executeTakeFirstOrThrow();
    });
    this.opened = null;
    return personOf(row, null);
  }

  /** A PIN to begin with: what was before opens nothing any more. */
  async give(id: number, doer: Doer): Promise<string> {
    const row = await this.find(id);
    if (!row) throw notFound("person", id);
    const given = givenPin();
    await this.setSecret(row, { secret: given, given: true }, doer);
    await this.lockOut.forget(id);
    return given;
  }

  /** One’s own. */
  async choose(row: PersonRow, secret: string, doer: Doer): Promise<void> {
    refuseWeak(row.role, secret, "wanted");
    await this.setSecret(row, { secret, given: false }, doer);
  }

  private async setSecret(
    { id }: PersonRow,
    { secret, given }: { readonly secret: string; readonly given: boolean },
    doer: Doer,
  ): Promise<void> {
    const kept = await keepSecret(secret);
    await this.db.transaction().execute(async (trx) => {
      await trx
        .updateTable("person")
        .set({ secret: kept, given: given ? 1 : 0 })
        .where("id", "=", id)
        .execute();
      await this.endSessions(id, trx);
      await this.note({ id, what: given ? "was given a new PIN" : "chose a new PIN" }, doer, trx);
    });
    this.opened = null;
  }

  async endSessions(personId: number, db: Db = this.db): Promise<void> {
    await db
      .updateTable("session")
      .set({ ended_at: instant(this.clock) })
      .where("person_id", "=", personId)
      .where("ended_at", "is", null)
      .execute();
  }

  async seen(id: number): Promise<void> {
    await this.db
      .updateTable("person")
      .set({ last_seen: instant(this.clock) })
      .where("id", "=", id)
      .execute();
  }

  async note(
    of: { readonly id: number | null; readonly what: string },
    { by, address }: Doer,
    db: Db = this.db,
  ): Promise<void> {
    await db
      .insertInto("door_event")
      .values({ at: instant(this.clock), person_id: of.id, what: of.what, by, address })
      .execute();
  }

  private async refuseTaken(db: Db, { name, sign }: PersonEdit, id: number | null): Promise<void> {
    const rows = await db.selectFrom("person").selectAll().orderBy("id").execute();
    const same = (a: string, b: string): boolean => a.localeCompare(b, undefined, { sensitivity: "accent" }) === 0;
    const others = rows.filter((r) => r.id !== id);
    if (others.some((r) => same(r.name, name)))
      throw refused("name", `There is or was somebody called ${name}: records could not tell the two apart.`);
    const signed = others.find((r) => r.retired_at === null && same(r.sign, sign));
    if (signed) throw refused("sign", `${signed.name} signs ${signed.sign}: take another sign.`);
  }
}

/** Somebody keeps the system: who else comes is let in by them. */
export async function hasKeeper(db: Db): Promise<boolean> {
  const row = await db
    .selectFrom("person")
    .select("id")
    .where("retired_at", "is", null)
    .where("role", "=", "keeper")
    .where("secret", "is not", null)
    .executeTakeFirst();
  return row !== undefined;
}

const latest = (rows: readonly { readonly locked_until: string | null }[]): string | null =>
  rows
    .map((r) => r.locked_until)
    .sort()
    .at(-1) ?? null;

export function personOf(row: PersonRow, lockedUntil: string | null): Person {
  return {
    ...{ id: row.id, name: row.name, sign: row.sign, role: row.role, lockedUntil },
    secret: row.secret === null ? "none" : row.given ? "given" : "own",
    ...{ retiredAt: row.retired_at, lastSeen: row.last_seen, version: row.version },
  };
}

function refuseWeak(role: Role, secret: string, path = "secret"): void {
  const trouble = role === "keeper" ? keeperTrouble(secret) : "";
  if (trouble) throw refused(path, trouble);
}

function refused(path: string, message: string): Error {
  return problem(422, { title: "Not valid", detail: message, errors: [{ path, message }] });
}
