import { sql } from "kysely";
import { randomUUID } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Client } from "pg";
import { seedDemo } from "../demo/seed";
import { DATABASE_FILE, openDatabase, type Db } from "../store/database";
import { isPostgres } from "../store/in-dialect";
import { openPostgres } from "../store/postgres";
import { openStore, STORE_FILE } from "../store/store";

/** Where the suite’s PostgreSQL server is; without one, every store is a file. */
export const POSTGRES = process.env["IRON_TEST_STORE"] ?? "";

const made = new Map<boolean, Promise<Buffer>>();
/** A database brought up to date, or filled with the demo shop, once for all tests of a file, to be copied. */
function shopFile(demo: boolean): Promise<Buffer> {
  const known = made.get(demo);
  if (known) return known;
  const file = (async () => {
    const folder = mkdtempSync(join(tmpdir(), "iron-empty-"));
    const db = await openDatabase(folder);
    await sql`pragma synchronous = off`.execute(db);
    if (demo) await seedDemo(db, new Date());
    await sql`pragma wal_checkpoint(truncate)`.execute(db);
    await db.destroy();
    const bytes = readFileSync(join(folder, DATABASE_FILE));
    rmSync(folder, { recursive: true });
    return bytes;
  })();
  made.set(demo, file);
  return file;
}

export interface TestStore {
  readonly db: Db;
  close(): Promise<void>;
}

/** A store of the test’s own: an empty shop, or the demo’s. */
export async function testStore(
  folder: string,
  {
    demo = false,
    store = POSTGRES ? "postgres" : "file",
  }: { readonly demo?: boolean; readonly store?: "file" | "postgres" },
): Promise<TestStore> {
  if (store === "postgres") return onPostgres(folder, demo);
  writeFileSync(join(folder, DATABASE_FILE), await shopFile(demo));
  const db = await openDatabase(folder);
  // Whether a power cut loses anything is tested elsewhere, on servers of their own; here nobody waits for a disk.
  await sql`pragma synchronous = off`.execute(db);
  return { db, close: () => db.destroy() };
}

/** The same server’s database of another name. */
export const databaseAt = (name: string): string => POSTGRES.replace(/\/postgres\?/, `/${name}?`);

/** What is said to the server, not to one of its shops. */
export async function sayToPostgres(...statements: readonly string[]): Promise<readonly object[]> {
  const client = new Client(POSTGRES);
  await client.connect();
  try {
    let rows: readonly object[] = [];
    for (const statement of statements) rows = (await client.query<object>(statement)).rows;
    return rows;
  } finally {
    await client.end();
  }
}

/** An empty shop and the demo’s, made once by each of the processes that test. */
async function template(demo: boolean): Promise<string> {
  const name = `${demo ? "demo" : "empty"}_${process.env["JEST_WORKER_ID"] ?? "1"}`;
  const there = await sayToPostgres(`select 1 from pg_database where datname = '${name}'`);
  if (there.length) return name;
  const beginning = nextName();
  await sayToPostgres(`create database ${beginning}`);
  const db = await openPostgres(databaseAt(beginning));
  if (demo) await seedDemo(db, new Date());
  await db.destroy();
  await sayToPostgres(`alter database ${beginning} rename to ${name}`);
  return name;
}

const nextName = (): string => `shop_${randomUUID().replaceAll("-", "")}`;

async function onPostgres(folder: string, demo: boolean): Promise<TestStore> {
  const name = nextName();
  await sayToPostgres(`create database ${name} template ${await template(demo)} strategy file_copy`);
  writeFileSync(join(folder, STORE_FILE), databaseAt(name));
  const db = await openStore(folder);
  return {
    db,
    close: async () => {
      await db.destroy();
      await sayToPostgres(`drop database ${name} with (force)`);
    },
  };
}

/** Rows that were written to a store so far, by whom whatsoever. */
export async function rowsWritten(db: Db): Promise<number> {
  if (!isPostgres(db)) return (await sql<{ n: number }>`select total_changes() as n`.execute(db)).rows[0].n;
  // Counted when a transaction ends, and only now and then unless that is asked.
  await sql`select pg_stat_force_next_flush()`.execute(db);
  const { rows } = await sql<{ n: number }>`
    select coalesce(sum(n_tup_ins + n_tup_upd + n_tup_del), 0) as n from pg_stat_user_tables`.execute(db);
  return rows[0].n;
}
