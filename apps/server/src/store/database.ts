import Database from "better-sqlite3";
import { Kysely, Migrator, SqliteDialect } from "kysely";
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { MIGRATIONS } from "./migrations";
import type { Tables } from "./tables";

export type Db = Kysely<Tables>;
export const DATABASE_FILE = "iron-patience.sqlite";

/**
 * Opens the shop's database in `folder`, making both if absent, and brings it up to date.
 * WAL keeps readers from waiting; foreign keys are on; a commit survives a killed process.
 */
export async function openDatabase(folder: string): Promise<Db> {
  mkdirSync(folder, { recursive: true });
  const file = new Database(join(folder, DATABASE_FILE));
  file.pragma("journal_mode = WAL");
  file.pragma("synchronous = NORMAL");
  file.pragma("foreign_keys = ON");
  file.pragma("busy_timeout = 5000");
  const db = new Kysely<Tables>({
    dialect: new SqliteDialect({ database: file }),
  });
  const migrator = new Migrator({
    db,
    provider: { getMigrations: async () => MIGRATIONS },
  });
  const { error } = await migrator.migrateToLatest();
  if (error) {
    await db.destroy();
    throw error;
  }
  return db;
}
