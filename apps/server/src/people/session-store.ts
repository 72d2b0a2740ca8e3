import { Store, type SessionData as Held } from "express-session";
import { createHash } from "node:crypto";
import type { Clock } from "../shop/clock";
import { fromJson, toJson } from "../store/columns";
import type { Db } from "../store/database";
import type { SessionData } from "../store/people-tables";

/** Who gave the PIN again, and when. */
interface Again {
  readonly name: string;
  readonly at: string;
}

declare module "express-session" {
  interface SessionData {
    personId: number;
    /** Number of its row. */
    rowId?: number;
    address: string;
    device: string;
    again?: Again | undefined;
  }
}

/** A session ends a shift after it began, whatever is done in it, and an hour after the last that was done in it. */
export const LONGEST_MS = 12 * 3_600_000;
const IDLE_MS = 3_600_000;
/** That it is used is noted once a minute: not each reading writes. */
const NOTED_MS = 60_000;

const hashOf = (sid: string): string => createHash("sha256").update(sid).digest("base64");

type Done<T = unknown> = (error?: unknown, value?: T) => void;

/** Sessions in the shop’s database: they outlive a restart, and can be ended from elsewhere. */
export class SessionStore extends Store {
  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
  ) {
    super();
  }

  override get(sid: string, done: Done<Held | null>): void {
    this.told(done, async () => {
      const row = await this.db
        .selectFrom("session")
        .selectAll()
        .where("sid_hash", "=", hashOf(sid))
        .where("ended_at", "is", null)
        .executeTakeFirst();
      const now = this.clock.now().getTime();
      if (!row || now - Date.parse(row.since) > LONGEST_MS || now - Date.parse(row.last_seen) > IDLE_MS) return null;
      const { cookie, ...data } = fromJson(row.data) as SessionData & { readonly cookie: Held["cookie"] };
      return {
        ...data,
        cookie,
        personId: row.person_id,
        rowId: row.id,
        address: row.address,
        device: row.device,
      };
    });
  }

  override set(sid: string, session: Held, done: Done = () => undefined): void {
    this.told(done, async () => {
      const { personId, address, device, csrfToken, again, cookie } = session;
      const [data, at] = [toJson({ csrfToken, again, cookie } as SessionData), this.clock.now().toISOString()];
      await this.db
        .insertInto("session")
        .values({
          ...{ sid_hash: hashOf(sid), person_id: personId, data, address, device },
          ...{ since: at, last_seen: at, ended_at: null },
        })
        .onConflict((c) => c.column("sid_hash").doUpdateSet({ data, last_seen: at }))
        .execute();
    });
  }

  override touch(sid: string, _: Held, done: Done = () => undefined): void {
    this.told(done, async () => {
      const now = this.clock.now();
      await this.db
        .updateTable("session")
        .set({ last_seen: now.toISOString() })
        .where("sid_hash", "=", hashOf(sid))
        .where("last_seen", "<", new Date(now.getTime() - NOTED_MS).toISOString())
        .execute();
    });
  }

  override destroy(sid: string, done: Done = () => undefined): void {
    this.told(done, async () => {
      await this.db
        .updateTable("session")
        .set({ ended_at: this.clock.now().toISOString() })
        .where("sid_hash", "=", hashOf(sid))
        .where("ended_at", "is", null)
        .execute();
    });
  }

  private told<T>(done: Done<T>, work: () => Promise<T>): void {
    work().then(
      (value) => done(null, value),
      (error: unknown) => done(error),
    );
  }
}
