import { sql } from "kysely";
import type { Db } from "./database";

/** What is due or late is told by the minute. */
const MINUTE_MS = 60_000;

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
    const key = await this.key();
    if (this.kept?.key !== key) {
      const answer = this.work();
      this.kept = { key, answer };
      answer.catch(() => {
        if (this.kept?.answer === answer) this.kept = null;
      });
    }
    return this.kept.answer;
  }

  private async key(): Promise<string> {
    const own = await sql<{ n: number }>`select total_changes() as n`.execute(this.db);
    // Rows that another connection has written.
    const others = await sql<{
      data_version: number;
    }>`pragma data_version`.execute(this.db);
    return `${own.rows[0].n} ${others.rows[0].data_version} ${Math.floor(Date.now() / MINUTE_MS)}`;
  }
}
