import Database from "better-sqlite3";
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import { DATABASE_FILE } from "./database";
import { holdFolder } from "./folder-lock";
import { copyIn, copyOut } from "./copy";
import { storeUrl } from "./store";
import { causeOf, StartError } from "./start-error";

export const BACKUP_FOLDER = "backups";
const NAME = /^iron-patience-(\d{4}-\d\d-\d\dT\d\d-\d\d-\d\dZ)\.sqlite$/;
const DAY_MS = 86_400_000;
/** Kept: the newest of each of the last days, weeks and months. */
const DAYS = 7;
const WEEKS = 4;
const MONTHS = 12;

export interface Backup {
  readonly path: string;
  readonly at: Date;
  readonly bytes: number;
}

/** What a database of ours holds, to be looked at before it takes the place of another. */
export interface Contents {
  readonly machines: number;
  readonly tests: number;
  readonly visits: number;
  readonly jobs: number;
  readonly cases: number;
  /** When something was last kept; null in an empty shop. */
  readonly lastAt: string | null;
}

/** The backups of a data folder, newest first. */
export function backupsIn(folder: string): readonly Backup[] {
  const place = join(folder, BACKUP_FOLDER);
  if (!existsSync(place)) return [];
  return readdirSync(place)
    .flatMap((name) => {
      const stamp = NAME.exec(name)?.[1];
      if (!stamp) return [];
      const [day, time] = stamp.split("T");
      const at = new Date(`${day}T${time.replaceAll("-", ":")}`);
      const path = join(place, name);
      return [{ path, at, bytes: statSync(path).size }];
    })
    .sort((a, b) => b.at.getTime() - a.at.getTime());
}

/**
 * A copy of a shop’s database by SQLite’s online backup, beside a running server or without one; of a store on a
 * PostgreSQL server, its rows in such a file. It is opened and checked before it counts; a copy that is no good is not left behind.
 * @returns where it lies
 * @throws Error where it cannot be made or does not check
 */
export async function makeBackup(folder: string, now: Date, to?: string): Promise<string> {
  const source = join(folder, DATABASE_FILE);
  const url = storeUrl(folder);
  if (!url && !existsSync(source)) throw new StartError(`There is no ${source} to make a backup of.`);
  const stamp = now.toISOString().slice(0, 19).replaceAll(":", "-");
  const target = to ?? join(folder, BACKUP_FOLDER, `iron-patience-${stamp}Z.sqlite`);
  const unchecked = `${target}.unchecked`;
  mkdirSync(dirname(target), { recursive: true });
  try {
    await (url ? copyOut(url, unchecked) : copyFile(source, unchecked));
    contentsOf(unchecked);
    renameSync(unchecked, target);
  } finally {
    for (const ending of ["", "-wal", "-shm", "-journal"]) rmSync(`${unchecked}${ending}`, { force: true });
  }
  return target;
}

async function copyFile(source: string, target: string): Promise<void> {
  const file = new Database(source, { fileMustExist: true });
  await file.backup(target).finally(() => file.close());
}

/**
 * Opens a file, checks it whole and counts what is in it.
 * @throws StartError for a file that is no whole database of ours
 */
export function contentsOf(path: string): Contents {
  if (!existsSync(path)) throw new StartError(`There is no file ${path}.`);
  let file: Database.Database | null = null;
  try {
    file = new Database(path, { fileMustExist: true });
    // A copy by itself, without a journal beside it.
    file.pragma("journal_mode = DELETE");
    const check = file.pragma("integrity_check", { simple: true });
    if (check !== "ok") throw new Error(String(check));
    const opened = file;
    const count = (table: string): number =>
      (
        opened.prepare(`select count(*) as n from ${table}`).get() as {
          n: number;
        }
      ).n;
    const last = opened
      .prepare(
        "select max(at) as at from (select max(at) as at from reading union all select max(at) from lube_visit union all select max(at) from job_event union all select max(updated_at) from axis)",
      )
      .get() as { at: string | null };
    return {
      machines: count("machine"),
      tests: count("run"),
      visits: count("lube_visit"),
      jobs: count("job"),
      cases: count("case_file"),
      lastAt: last.at,
    };
  } catch (error) {
    throw new StartError(
      `${path} is no whole database of Iron Patience: ${error instanceof Error ? error.message : String(error)}.`,
      { cause: error },
    );
  } finally {
    file?.close();
  }
}

/** Which of some backups are kept: seven days, four weeks, twelve months, the newest of each. */
export function keptOf(backups: readonly Backup[], now: Date): ReadonlySet<Backup> {
  const kept = new Set<Backup>(backups.slice(0, 1));
  const newest = (groupOf: (at: Date) => string, most: number): void => {
    const seen = new Set<string>();
    for (const backup of backups) {
      const group = groupOf(backup.at);
      if (seen.has(group) || seen.size >= most) continue;
      seen.add(group);
      kept.add(backup);
    }
  };
  newest((at) => at.toISOString().slice(0, 10), DAYS);
  newest((at) => String(Math.floor((now.getTime() - at.getTime()) / (7 * DAY_MS))), WEEKS);
  newest((at) => at.toISOString().slice(0, 7), MONTHS);
  return kept;
}

/** Deletes the backups that are no longer kept; nothing else in their folder is touched. */
export function thinOut(folder: string, now: Date): void {
  const backups = backupsIn(folder);
  const kept = keptOf(backups, now);
  for (const backup of backups) if (!kept.has(backup)) rmSync(backup.path, { force: true });
}

/**
 * Puts a backup in the place of a shop’s database. What was there is kept aside. Refused while a server
 * holds the folder.
 * @returns where the database that was there lies now; null where there was none
 */
export async function restoreBackup(from: string, folder: string, now: Date): Promise<string | null> {
  contentsOf(from);
  const lock = holdFolder(folder, "a restore");
  try {
    const path = join(folder, DATABASE_FILE);
    const before = join(
      folder,
      `before-restore-${now.toISOString().slice(0, 19).replaceAll(":", "-")}Z-${DATABASE_FILE}`,
    );
    const url = storeUrl(folder);
    if (url) return (await copyIn(from, { url, aside: before })) ? before : null;
    const aside = existsSync(path) ? before : null;
    const arriving = `${path}.arriving`;
    const source = new Database(from, { fileMustExist: true, readonly: true });
    try {
      await source.backup(arriving);
    } finally {
      source.close();
    }
    contentsOf(arriving);
    if (aside) {
      // Whole, with what its journal still holds.
      const present = new Database(path);
      present.pragma("wal_checkpoint(TRUNCATE)");
      present.close();
      renameSync(path, aside);
    }
    for (const ending of ["-wal", "-shm"]) rmSync(`${path}${ending}`, { force: true });
    renameSync(arriving, path);
    return aside;
  } finally {
    lock.release();
  }
}

/** How the backups of a folder stand. */
export interface BackupState {
  readonly lastAt: string | null;
  readonly count: number;
  /** Why the last one that was due was not made; empty where it was. */
  readonly error: string;
}

export interface BackupKeeper {
  state(): BackupState;
  stop(): void;
}

const LOOK_MS = 3_600_000;

/** Makes a backup a day while the server runs, and thins them out. */
export function keepBackups(folder: string, told: (message: string, error?: unknown) => void): BackupKeeper {
  let lastError = "";
  let busy = false;
  const look = async (): Promise<void> => {
    const last = backupsIn(folder).at(0);
    if (busy || (last && Date.now() - last.at.getTime() < DAY_MS)) return;
    busy = true;
    try {
      told(`backup made: ${await makeBackup(folder, new Date())}`);
      thinOut(folder, new Date());
      lastError = "";
    } catch (error) {
      lastError = causeOf(error);
      told("no backup could be made", error);
    } finally {
      busy = false;
    }
  };
  void look();
  const timer = setInterval(() => void look(), LOOK_MS);
  timer.unref();
  return {
    state: () => {
      const backups = backupsIn(folder);
      return {
        lastAt: backups.at(0)?.at.toISOString() ?? null,
        count: backups.length,
        error: lastError,
      };
    },
    stop: () => clearInterval(timer),
  };
}
