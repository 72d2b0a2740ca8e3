import Database from "better-sqlite3";
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { hostname } from "node:os";
import { join } from "node:path";
import { StartError } from "./start-error";

const LOCK_FILE = "server.lock";
const HOLDER_FILE = "server.json";

export interface FolderLock {
  /** Says more of who holds it. */
  say(what: string): void;
  release(): void;
}

/**
 * Holds a data folder for one server. The lock is one of SQLite’s on a small file of its own: the
 * operating system lets it go with the process, so that a killed server never bars a start.
 * @throws StartError that says who holds it
 */
export function holdFolder(folder: string, what: string): FolderLock {
  mkdirSync(folder, { recursive: true });
  const file = new Database(join(folder, LOCK_FILE), { timeout: 0 });
  try {
    file.exec("begin exclusive");
  } catch (error) {
    file.close();
    if ((error as { code?: string }).code !== "SQLITE_BUSY") throw error;
    throw new StartError(
      `${folder} is in use by ${holderOf(folder)}. Two servers on one folder keep things twice: stop that one first, or name another folder with --data.`,
    );
  }
  const since = new Date().toISOString();
  const say = (who: string): void => {
    const holder = `${who}, process ${process.pid} on ${hostname()}, since ${since}`;
    writeFileSync(join(folder, HOLDER_FILE), JSON.stringify({ holder }));
  };
  say(what);
  return {
    say,
    release: () => {
      rmSync(join(folder, HOLDER_FILE), { force: true });
      file.close();
    },
  };
}

function holderOf(folder: string): string {
  try {
    const { holder } = JSON.parse(readFileSync(join(folder, HOLDER_FILE), "utf8")) as { holder: string };
    return holder;
  } catch {
    return "another server";
  }
}
