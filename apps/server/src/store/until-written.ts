import { sql } from "kysely";
import type { Db } from "./database";
import { isPostgres } from "./in-dialect";

/** What is due or late is told by the minute. */
const MINUTE_MS = 60_000;

/** How much was written when somebody looked. */
export interface Stamp {
  readonly own: number;
  /** Moves when another connection writes. */
  readonly others: number | string;
  readonly minute: number;
}

const keyOf = ({ own, others, minute }: Stamp): string => `${own} ${others} ${minute}`;

/**
 * An answer worked out once, for all who ask for it until anything at all is written or the minute is
 * over. Whoever asks sees whatever was acknowledged before: the count of written rows is looked at first,
 * and an answer under way is shared only where it still is the same.
 */
export class UntilWritten<T> {
  private kept: { readonly key: string; readonly answer: Promise<T> } | null = null;

  constructor(
    private readonly db: Db,
    private readonly work: () => Promise<T>,
  ) {}

  async get(): Promise<T> {
    const key = keyOf(await this.stamp());
    if (this.kept?.key !== key) {
      const answer = this.work();
      this.kept = { key, answer };
      answer.catch(() => {
        if (this.kept?.answer === answer) this.kept = null;
      });
    }
    return this.kept.answer;
  }

  /**
   * Takes an answer that was worked out elsewhere, unless somebody has written since.
   * @param since - as it was before the work began
   * @param wrote - rows that the work itself wrote, which its answer heeds
   */
  async hand(since: Stamp, { wrote, answer }: { readonly wrote: number; readonly answer: T }): Promise<void> {
    const key = keyOf(await this.stamp());
    if (key === keyOf({ ...since, own: since.own + wrote })) this.kept = { key, answer: Promise.resolve(answer) };
  }

  async stamp(): Promise<Stamp> {
    const minute = Math.floor(Date.now() / MINUTE_MS);
    if (isPostgres(this.db)) {
      // Which transactions are to be seen: another as soon as anybody has written.
      const seen = await sql<{ now: string }>`select pg_current_snapshot()::text as now`.execute(this.db);
      return { own: 0, others: seen.rows[0].now, minute };
    }
    const own = await sql<{ n: number }>`select total_changes() as n`.execute(this.db);
    // Rows that another connection has written.
    const others = await sql<{
      data_version: number;
    }>`pragma data_version`.execute(this.db);
    return {
      own: own.rows[0].n,
      others: others.rows[0].data_version,
      minute,
    };
  }
}
