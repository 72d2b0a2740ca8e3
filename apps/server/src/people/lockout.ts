import type { Clock } from "../shop/clock";
import type { Db } from "../store/database";

/** Wrong tries in a row from one address before it has to wait, and from anywhere. */
const TRIES = { here: 5, anywhere: 30 } as const;
const FIRST_MS = 30_000;
const LONGEST_MS = 3_600_000;

/** How long one waits after so many wrong tries in a row, ms: twice as long after each, up to an hour. */
export function waitAfter(failed: number, tries: number): number {
  return failed < tries ? 0 : Math.min(LONGEST_MS, FIRST_MS * 2 ** Math.min(20, failed - tries));
}

/** Wrong tries of a person: a lock-out that grows, by address, so that nobody locks another out from elsewhere. */
export class LockOut {
  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
  ) {}

  /** Until when no try from here is looked at; null: one is. */
  async until(personId: number, address: string): Promise<Date | null> {
    const rows = await this.db
      .selectFrom("sign_in_failure")
      .select("locked_until")
      .where("person_id", "=", personId)
      .where("address", "in", [address, ""])
      .execute();
    const latest = Math.max(0, ...rows.map((r) => Date.parse(r.locked_until ?? "") || 0));
    return latest > this.clock.now().getTime() ? new Date(latest) : null;
  }

  /** Notes a wrong try; how many are left from here. */
  async failed(personId: number, address: string): Promise<number> {
    return this.db.transaction().execute(async (trx) => {
      let left = 0;
      for (const [from, tries] of [
        ["", TRIES.anywhere],
        [address, TRIES.here],
      ] as const) {
        const known = await trx
          .selectFrom("sign_in_failure")
          .select("failed")
          .where("person_id", "=", personId)
          .where("address", "=", from)
          .executeTakeFirst();
        const failed = (known?.failed ?? 0) + 1;
        const wait = waitAfter(failed, tries);
        const until = wait ? new Date(this.clock.now().getTime() + wait).toISOString() : null;
        await trx
          .insertInto("sign_in_failure")
          .values({ person_id: personId, address: from, failed, locked_until: until })
          .onConflict((c) => c.columns(["person_id", "address"]).doUpdateSet({ failed, locked_until: until }))
          .execute();
        left = Math.max(0, tries - failed);
      }
      return left;
    });
  }

  /** A right one: what was before is forgotten; all of it where a new PIN was given. */
  async forget(personId: number, address?: string): Promise<void> {
    let rows = this.db.deleteFrom("sign_in_failure").where("person_id", "=", personId);
    if (address !== undefined) rows = rows.where("address", "in", [address, ""]);
    await rows.execute();
  }
}
