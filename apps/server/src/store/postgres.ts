import { Kysely, Migrator, PostgresDialect, sql } from "kysely";
import { Pool, types, type CustomTypesConfig } from "pg";
import type { Db } from "./database";
import { POSTGRES_BEGINNING } from "./in-dialect";
import { MIGRATIONS } from "./migrations";
import { StartError } from "./start-error";
import type { Tables } from "./tables";

/** Numbers come as numbers: ids and counts stay far below 2⁵³. */
const { INT8, NUMERIC } = types.builtins;
const NUMBERS: ReadonlySet<number> = new Set([INT8, NUMERIC]);
export const NUMBERS_AS_NUMBERS: CustomTypesConfig = {
  getTypeParser: (oid: number, format?: "text" | "binary") =>
    NUMBERS.has(oid) ? Number : types.getTypeParser(oid, format as "text"),
};

/** Of “Iron Patience”, so that only one of its servers works on a store at a time. */
const LOCK = 0x1709;
const LOCK_WAIT = "10s";

export interface PostgresOptions {
  /** How long another server’s lock is waited for. */
  readonly lockWait?: string;
  /** Instead of ours: for tests of what a migration leaves behind. */
  readonly migrations?: typeof MIGRATIONS;
  /** Called before an older store is brought up to date, with the first change of its form. */
  readonly older?: (first: string) => Promise<void>;
}

/**
 * Opens a shop’s store on a PostgreSQL server and brings it up to date: all of it or nothing. One connection, as a file
 * has one writer; whoever else holds the store is waited for a moment, then told.
 * @param url - postgresql://user@host/database; the password from there, PGPASSWORD or the user’s .pgpass
 * @throws StartError in words that name no password
 */
export async function openPostgres(url: string, options: PostgresOptions = {}): Promise<Db> {
  const { lockWait = LOCK_WAIT, migrations = MIGRATIONS } = options;
  const pool = new Pool({
    connectionString: url,
    max: 1,
    // Kept: the lock is the connection’s.
    idleTimeoutMillis: 0,
    connectionTimeoutMillis: 10_000,
    keepAlive: true,
    application_name: "iron-patience",
    types: NUMBERS_AS_NUMBERS,
    // Awaited by the pool; one that does not get the lock is given up.
    onConnect: async (client) => {
      // One that breaks while it is used says so by its question’s own error.
      client.on("error", () => undefined);
      await client.query(`set lock_timeout = '${lockWait}'`);
      await client.query(`select pg_advisory_lock(${LOCK})`);
      await client.query("set lock_timeout = 0");
    },
  });
  // One that breaks while nobody uses it is made anew with the next question.
  pool.on("error", () => undefined);
  const db = new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) });
  try {
    const waiting = await pending(db, migrations);
    if (waiting.done && waiting.first !== undefined) await options.older?.(waiting.first);
    for (const statement of POSTGRES_BEGINNING) await sql.raw(statement).execute(db);
    const migrator = new Migrator({ db, provider: { getMigrations: async () => migrations } });
    const { error } = await migrator.migrateToLatest();
    if (error) throw error as Error;
    return db;
  } catch (error) {
    await db.destroy().catch(() => undefined);
    throw error instanceof StartError ? error : failure(url, error);
  }
}

/** What is still to run, and whether anything has. @throws StartError for a store of a newer version */
async function pending(
  db: Db,
  migrations: typeof MIGRATIONS,
): Promise<{ readonly done: boolean; readonly first: string | undefined }> {
  const known = Object.keys(migrations).sort();
  const { rows } = await sql<{ there: string | null }>`select to_regclass('kysely_migration')::text as there`.execute(
    db,
  );
  if (rows[0].there === null) return { done: false, first: known[0] };
  const done = await sql<{ name: string }>`select name from kysely_migration order by name desc`.execute(db);
  const newer = done.rows.find(({ name }) => !known.includes(name));
  if (newer)
    throw new StartError(
      `The store was written by a newer version of Iron Patience (${newer.name}). Start that version, or restore a backup of the database from before it.`,
    );
  const names = new Set(done.rows.map((r) => r.name));
  return { done: names.size > 0, first: known.find((name) => !names.has(name)) };
}

const CAUSES: readonly [code: RegExp, words: string][] = [
  [/^55P03$/, "another server of Iron Patience works on it: stop that one first"],
  [/^28/, "it does not let this user in: look at the user and its password"],
  [/^3D000$/, "there is no such database: make it first, empty"],
  [/^42501$/, "this user may not make tables there: let it own the database"],
  [/^53100$/, "there is no room left on its disk"],
  [
    /^(ECONN|ENOENT|ENOTFOUND|EAI_|ETIMEDOUT|EHOST|08|57P)/,
    "it does not answer: look whether it runs and can be reached",
  ],
];

function failure(url: string, error: unknown): StartError {
  const { code = "" } = error as { code?: string };
  const known = CAUSES.find(([pattern]) => pattern.test(code))?.[1];
  const said = known ?? (error instanceof Error ? error.message : String(error));
  return new StartError(`The store at ${placeOf(url)} cannot be opened: ${said}.`, { cause: error });
}

/** Where a store is, without a password. */
export function placeOf(url: string): string {
  const { protocol, host, pathname } = new URL(url);
  return `${protocol}//${host}${pathname}`;
}
