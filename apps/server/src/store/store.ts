import { existsSync, readFileSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import { copyOut } from "./copy";
import { DATABASE_FILE, openDatabase, type Db, type OpenOptions } from "./database";
import { openPostgres } from "./postgres";
import { StartError } from "./start-error";

/** In a shop’s folder: the address of its store, where that is on a PostgreSQL server. */
export const STORE_FILE = "store.url";
const OTHERS_MAY_READ = 0o077;

/**
 * The address of a shop’s store on a PostgreSQL server; null where it is a file in the folder, as it usually is.
 * @throws StartError for an address that is none, or whose password others may read
 */
export function storeUrl(folder: string): string | null {
  const file = join(folder, STORE_FILE);
  if (!existsSync(file)) return null;
  const said = readFileSync(file, "utf8").trim();
  const url = URL.canParse(said) ? new URL(said) : null;
  if (!url || !/^postgres(ql)?:$/.test(url.protocol))
    throw new StartError(`${file} holds no address of a store: one line, as postgresql://user@host/database.`);
  if (url.password && process.platform !== "win32" && statSync(file).mode & OTHERS_MAY_READ)
    throw new StartError(`${file} holds a password, and others may read it: chmod 600 ${file}.`);
  return said;
}

/** Opens a shop’s store where its folder says it is, and brings it up to date. @throws StartError in words */
export async function openStore(folder: string, options: OpenOptions = {}): Promise<Db> {
  const url = storeUrl(folder);
  if (!url) return openDatabase(folder, options);
  return openPostgres(url, {
    older: async (first) => {
      const copy = join(folder, `before-${first}-${DATABASE_FILE}`);
      rmSync(copy, { force: true });
      await copyOut(url, copy);
      options.copied?.(copy);
    },
  });
}
