import Database from "better-sqlite3";
import { sql } from "kysely";
import { mkdtempSync, renameSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import { Client } from "pg";
import { DATABASE_FILE, openDatabase, type Db } from "./database";
import { migrationsUpTo } from "./migrations";
import { NUMBERS_AS_NUMBERS, openPostgres } from "./postgres";
import { StartError } from "./start-error";
import { setTriggersAside } from "./triggers";

// Between a store on a PostgreSQL server and a file: so that a backup is the same file everywhere, and a shop can go
// from the one to the other.

/** Rows that are fetched at once. */
const ROWS = 200;
/** Values in one statement, and bytes of photos and recordings among them. */
const MOST_VALUES = 20_000;
const MOST_BYTES = 4_194_304;

interface Table {
  readonly name: string;
  readonly columns: readonly string[];
  readonly order: string;
  readonly refersTo: readonly string[];
}

/** All tables of a file but the list of what brought it up to date, each after those it refers to. */
function tablesOf(file: Database.Database): readonly Table[] {
  const names = file
    .prepare(
      "select name from sqlite_master where type = 'table' and name not like 'sqlite_%' and name not like 'kysely_%'",
    )
    .pluck()
    .all() as string[];
  const tables = names.map((name): Table => {
    const columns = file.pragma(`table_info(${name})`) as { name: string; pk: number }[];
    const keys = columns.filter((c) => c.pk > 0).sort((a, b) => a.pk - b.pk);
    const refers = file.pragma(`foreign_key_list(${name})`) as { table: string }[];
    return {
      name,
      columns: columns.map((c) => c.name),
      order: (keys.length ? keys : columns).map((c) => `"${c.name}"`).join(", "),
      refersTo: refers.map((r) => r.table),
    };
  });
  const sorted: Table[] = [];
  while (sorted.length < tables.length) {
    const there = new Set(sorted.map((t) => t.name));
    sorted.push(...tables.filter((t) => !there.has(t.name) && t.refersTo.every((r) => there.has(r) || r === t.name)));
  }
  return sorted;
}

const listed = (columns: readonly string[]): string => columns.map((c) => `"${c}"`).join(", ");

/**
 * Copies a store that is on a PostgreSQL server into a file, as it stood at one moment, beside a running server.
 * @param to - where the file is made; there must be none yet
 */
export async function copyOut(url: string, to: string): Promise<void> {
  const beside = mkdtempSync(join(dirname(to), "copying-"));
  const client = new Client({ connectionString: url, types: NUMBERS_AS_NUMBERS });
  client.on("error", () => undefined);
  try {
    await client.connect();
    await client.query("begin isolation level repeatable read read only");
    const { rows } = await client.query<{ name: string }>(
      "select name from kysely_migration order by name desc limit 1",
    );
    await (await openDatabase(beside, { migrations: migrationsUpTo(rows[0].name) })).destroy();
    const file = new Database(join(beside, DATABASE_FILE), { fileMustExist: true });
    try {
      await filled(file, client);
    } finally {
      file.close();
    }
    renameSync(join(beside, DATABASE_FILE), to);
  } finally {
    await client.end().catch(() => undefined);
    rmSync(beside, { recursive: true, force: true });
  }
}

async function filled(file: Database.Database, client: Client): Promise<void> {
  file.pragma("foreign_keys = OFF");
  file.exec("begin");
  const putBack = setTriggersAside(file);
  for (const { name, columns, order } of tablesOf(file)) {
    file.exec(`delete from ${name}`);
    const insert = file.prepare(
      `insert into ${name} (${listed(columns)}) values (${columns.map(() => "?").join(", ")})`,
    );
    await client.query(`declare rows_of cursor for select ${listed(columns)} from ${name} order by ${order}`);
    for (;;) {
      const { rows } = await client.query<Record<string, unknown>>(`fetch ${ROWS} from rows_of`);
      for (const row of rows) insert.run(columns.map((c) => row[c]));
      if (rows.length < ROWS) break;
    }
    await client.query("close rows_of");
  }
  putBack();
  file.exec("commit");
}

/** Puts a file’s rows in the place of all that a store on a PostgreSQL server holds: all of them or none. */
async function copyInto(db: Db, file: Database.Database): Promise<void> {
  const tables = tablesOf(file);
  await db.transaction().execute(async (trx) => {
    const say = (words: string) => sql.raw(words).execute(trx);
    for (const { name } of tables) await say(`alter table ${name} disable trigger user`);
    await say(`truncate ${tables.map((t) => t.name).join(", ")}`);
    for (const table of tables) await copyTable(trx, file, table);
    for (const { name } of tables) await say(`alter table ${name} enable trigger user`);
  });
}

async function copyTable(trx: Db, file: Database.Database, { name, columns, order }: Table): Promise<void> {
  let waiting: unknown[][] = [];
  let bytes = 0;
  const send = async (): Promise<void> => {
    if (!waiting.length) return;
    const rows = sql.join(waiting.map((row) => sql`(${sql.join(row)})`));
    await sql`insert into ${sql.table(name)} (${sql.raw(listed(columns))}) values ${rows}`.execute(trx);
    waiting = [];
    bytes = 0;
  };
  const all = file
    .prepare(`select ${listed(columns)} from ${name} order by ${order}`)
    .raw()
    .iterate();
  for (const row of all as IterableIterator<unknown[]>) {
    waiting.push(row);
    for (const value of row) if (Buffer.isBuffer(value)) bytes += value.length;
    if (waiting.length * columns.length >= MOST_VALUES || bytes >= MOST_BYTES) await send();
  }
  await send();
}

/**
 * Puts what a backup holds in the place of a store on a PostgreSQL server.
 * @param aside - where what was there is copied before, where there was a shop
 * @returns whether something was there
 * @throws StartError while a server works on it, or where a row does not fit
 */
export async function copyIn(
  from: string,
  { url, aside }: { readonly url: string; readonly aside: string },
): Promise<boolean> {
  const beside = mkdtempSync(join(dirname(aside), "arriving-"));
  const db = await openPostgres(url);
  try {
    const was = await db.selectFrom("machine").select("id").limit(1).executeTakeFirst();
    if (was) await copyOut(url, aside);
    // An older backup is brought up to date on the way.
    const source = new Database(from, { fileMustExist: true, readonly: true });
    await source.backup(join(beside, DATABASE_FILE)).finally(() => source.close());
    await (await openDatabase(beside)).destroy();
    const file = new Database(join(beside, DATABASE_FILE), { fileMustExist: true, readonly: true });
    try {
      await copyInto(db, file);
    } catch (error) {
      throw new StartError(
        `It does not fit: ${error instanceof Error ? error.message : String(error)}. Nothing was changed.`,
        {
          cause: error,
        },
      );
    } finally {
      file.close();
    }
    return was !== undefined;
  } finally {
    await db.destroy();
    rmSync(beside, { recursive: true, force: true });
  }
}
