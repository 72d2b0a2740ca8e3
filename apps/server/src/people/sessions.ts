import type { SessionRecord } from "@iron/contract";
import { notFound } from "../http/problem-error";
import { instant, type Clock } from "../shop/clock";
import type { Db } from "../store/database";
import { LONGEST_MS } from "./session-store";

/** Who is signed in where. */
export class Sessions {
  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
  ) {}

  async list(own: number | null): Promise<SessionRecord[]> {
    const rows = await this.db
      .selectFrom("session")
      .innerJoin("person", "person.id", "session.person_id")
      .select([
        "session.id",
        "person.name",
        "session.address",
        "session.device",
        "session.since",
        "session.last_seen as lastSeen",
      ])
      .where("session.ended_at", "is", null)
      .where("session.since", ">", new Date(this.clock.now().getTime() - LONGEST_MS).toISOString())
      .orderBy("session.last_seen", "desc")
      .execute();
    return rows.map((row) => ({ ...row, own: row.id === own }));
  }

  /** Ends it; whose it was. */
  async end(id: number): Promise<number> {
    const row = await this.db.selectFrom("session").select("person_id").where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("session", id);
    await this.db
      .updateTable("session")
      .set({ ended_at: instant(this.clock) })
      .where("id", "=", id)
      .where("ended_at", "is", null)
      .execute();
    return row.person_id;
  }
}
