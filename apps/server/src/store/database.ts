import Database from "better-sqlite3";
import {
  Kysely,
  Migrator,
  SqliteAdapter,
  SqliteDialect,
  SqliteDriver,
  type DatabaseConnection,
  type Driver,
  type DialectAdapter,
} from "kysely";
import { existsSync, mkdirSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import { MIGRATIONS } from "./migrations";
import { startFailure, StartError } from "./start-error";
import type { Tables } from "./tables";

export type Db = Kysely<Tables>;
export const DATABASE_FILE = "iron-patience.sqlite";

/** SQLite undoes changes of tables like any other; Kysely has to be told before it puts them in a transaction. */
class AllOrNothing extends SqliteAdapter {
  override get supportsTransactionalDdl(): boolean {
    return true;
  }
}

/**
 * A full or failing disk makes SQLite undo a transaction by itself. Kysely then asks for it once more,
 * and what that answers must not hide why it failed.
 */
class OnceUndone extends SqliteDriver {
  constructor(private readonly file: Database.Database) {
    super({ database: file });
  }

  override async rollbackTransaction(connection: DatabaseConnection): Promise<void> {
    if (this.file.inTransaction) await super.rollbackTransaction(connection);
  }
}

class AllOrNothingDialect extends SqliteDialect {
  constructor(private readonly file: Database.Database) {
    super({ database: file });
  }

  override createDriver(): Driver {
    return new OnceUndone(this.file);
  }

  override createAdapter(): DialectAdapter {
    return new AllOrNothing();
  }
}

export interface OpenOptions {
  /** Instead of ours: for tests of what a migration leaves behind. */
  readonly migrations?: typeof MIGRATIONS;
  /** Told of the copy made before an older database is brought up to date. */
  readonly copied?: (path: string) => void;
  /** The file may not grow above this many pages: a full disk without one. */
  readonly mostPages?: number;
}

/**
 * Opens the shop's database in `folder`, making both if absent, and brings it up to date: all of it or
 * nothing, with a copy made before. WAL keeps readers from waiting; foreign keys are on; what was
 * acknowledged is on the disk, also when the power goes.
 * @throws StartError that names path, cause and remedy
 */
export async function openDatabase(folder: string, options: OpenOptions = {}): Promise<Db> {
  const path = join(folder, DATABASE_FILE);
  let db: Db | null = null;
  try {
    mkdirSync(folder, { recursive: true });
    const existed = existsSync(path) && statSync(path).size > 0;
    const file = openFile(path, options.mostPages);
    db = new Kysely<Tables>({
      dialect: new AllOrNothingDialect(file),
    });
    const migrations = options.migrations ?? MIGRATIONS;
    const waiting = pending(file, migrations, path);
    if (waiting.length && existed) {
      const copy = join(folder, `before-${waiting[0]}-${DATABASE_FILE}`);
      rmSync(copy, { force: true });
      await file.backup(copy);
      options.copied?.(copy);
    }
    const migrator = new Migrator({
      db,
      provider: { getMigrations: async () => migrations },
    });
    const { error } = await migrator.migrateToLatest();
    if (error) throw error as Error;
    return db;
  } catch (error) {
    await db?.destroy().catch(() => undefined);
    throw error instanceof StartError ? error : startFailure(path, error);
  }
}

function openFile(path: string, mostPages?: number): Database.Database {
  const file = new Database(path);
  file.pragma("journal_mode = WAL");
  file.pragma("synchronous = FULL");
  file.pragma("foreign_keys = ON");
  file.pragma("busy_timeout = 5000");
  if (mostPages !== undefined) file.pragma(`max_page_count = ${mostPages}`);
  return file;
}

/** Migrations that are still to run. @throws StartError for a file of a newer version */
function pending(file: Database.Database, migrations: typeof MIGRATIONS, path: string): readonly string[] {
  const known = Object.keys(migrations).sort();
  const table = file.prepare("select 1 from sqlite_master where name = 'kysely_migration'").get();
  const done = table
    ? (file.prepare("select name from kysely_migration").all() as {
        name: string;
      }[])
    : [];
  const newer = done.find(({ name }) => !known.includes(name));
  if (newer)
    throw new StartError(
      `${path} was written by a newer version of Iron Patience (${newer.name}). Start that version, or restore a backup from before it: npm run restore -- FILE.`,
    );
  return known.filter((name) => !done.some((d) => d.name === name));
}
