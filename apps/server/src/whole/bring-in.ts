import Database from "better-sqlite3";
import { createWriteStream, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import { pipeline } from "node:stream/promises";
import { openPromise, type ZipFile } from "yauzl";
import * as z from "zod";
import { contentsOf, restoreBackup, type Contents } from "../store/backups";
import { DATABASE_FILE, openDatabase } from "../store/database";
import { holdFolder } from "../store/folder-lock";
import { MIGRATIONS, migrationsUpTo } from "../store/migrations";
import { openPostgres } from "../store/postgres";
import { storeUrl } from "../store/store";
import { StartError } from "../store/start-error";
import { setTriggersAside } from "../store/triggers";
import { FORM, FORM_VERSION, isInFile, tablesOf, type TableForm } from "./take-out";

/** Names that a file of ours has: nothing else of a zip is written anywhere. */
const OURS = /^(manifest\.json|tables\/[a-z_]{1,60}\.(json|csv)|files\/[a-z_]{1,60}\/[\w-]{1,120}\.[a-z]{1,4})$/;

const manifestSchema = z.object({
  form: z.literal(FORM),
  version: z.number().int(),
  store: z.string(),
  tables: z.array(
    z.object({
      name: z.string().regex(/^[a-z_]{1,60}$/),
      rows: z.number().int().nonnegative(),
      columns: z.array(z.object({ name: z.string().regex(/^[a-z_]{1,60}$/), type: z.string() })),
    }),
  ),
});
type Came = z.output<typeof manifestSchema>;
const rowsSchema = z.array(
  z.record(
    z.string(),
    z.union([
      z.string(),
      z.number(),
      z.null(),
      z.object({
        $file: z.string().regex(OURS),
        from: z.number().int().nonnegative(),
        bytes: z.number().int().nonnegative(),
      }),
    ]),
  ),
);

/**
 * Puts a shop that was taken out into a folder that holds none: built and checked beside it, and only then put in its
 * place. The folder is as it was when anything is wrong.
 * @throws StartError in words
 */
export async function bringIn(path: string, folder: string, now: Date): Promise<Contents> {
  await refuseFull(folder);
  mkdirSync(folder, { recursive: true });
  const beside = mkdtempSync(join(folder, "bringing-in-"));
  try {
    const files = join(beside, "zip");
    await unpack(path, files);
    const manifest = manifestOf(files);
    const made = join(beside, "shop");
    await (await openDatabase(made, { migrations: migrationsUpTo(manifest.store) })).destroy();
    fill(join(made, DATABASE_FILE), files, manifest);
    // What a newer server keeps otherwise is brought up to date here, as after any upgrade.
    await (await openDatabase(made)).destroy();
    const contents = contentsOf(join(made, DATABASE_FILE));
    await restoreBackup(join(made, DATABASE_FILE), folder, now);
    return contents;
  } finally {
    rmSync(beside, { recursive: true, force: true });
  }
}

async function refuseFull(folder: string): Promise<void> {
  const [file, url] = [join(folder, DATABASE_FILE), storeUrl(folder)];
  if (!url && !existsSync(file)) return;
  const lock = holdFolder(folder, "npm run bring-in");
  try {
    if (url ? await holdsShop(url) : isShop(contentsOf(file)))
      throw new StartError(
        `There is a shop in ${folder} already: one is brought into an empty folder only. Name another with --data.`,
      );
  } finally {
    lock.release();
  }
}

const isShop = (c: Contents): boolean => [c.machines, c.tests, c.jobs, c.cases, c.visits].some((n) => n > 0);

async function holdsShop(url: string): Promise<boolean> {
  const db = await openPostgres(url);
  try {
    return (await db.selectFrom("machine").select("id").limit(1).executeTakeFirst()) !== undefined;
  } finally {
    await db.destroy();
  }
}

/** Writes the zip’s files of ours into a folder. */
async function unpack(path: string, to: string): Promise<void> {
  if (!existsSync(path)) throw new StartError(`There is no file ${path}.`);
  let zip: ZipFile;
  try {
    zip = await openPromise(path);
  } catch (error) {
    throw new StartError(`${path} is no zip file: ${error instanceof Error ? error.message : String(error)}.`, {
      cause: error,
    });
  }
  try {
    for await (const entry of zip.eachEntry()) {
      if (!OURS.test(entry.fileName)) continue;
      const target = join(to, entry.fileName);
      mkdirSync(dirname(target), { recursive: true });
      await pipeline(await zip.openReadStreamPromise(entry), createWriteStream(target));
    }
  } catch (error) {
    throw new StartError(`${path} is damaged: ${error instanceof Error ? error.message : String(error)}.`, {
      cause: error,
    });
  } finally {
    zip.close();
  }
}

function manifestOf(files: string): Came {
  const path = join(files, "manifest.json");
  const read: unknown = existsSync(path) ? parsed(path, "manifest.json") : null;
  const manifest = manifestSchema.safeParse(read);
  if (!manifest.success)
    throw new StartError("That is no shop of Iron Patience that was taken out: its manifest is missing or not ours.");
  const { version, store } = manifest.data;
  if (version > FORM_VERSION || !(store in MIGRATIONS))
    throw new StartError(`It was taken out by a newer version (${store}): bring this server up to date first.`);
  return manifest.data;
}

/** Fills a new database of the same form; what does not fit is told by table. */
function fill(file: string, files: string, manifest: Came): void {
  const db = new Database(file, { fileMustExist: true });
  try {
    db.pragma("foreign_keys = OFF");
    const tables = new Map(tablesOf(db).map((t) => [t.name, t]));
    const missing = manifest.tables.find((t) => !tables.has(t.name));
    if (missing) throw new StartError(`The file has a table that this shop has not: ${missing.name}.`);
    db.transaction(() => {
      const putBack = setTriggersAside(db);
      for (const came of manifest.tables) fillTable(db, files, { came, table: tables.get(came.name) as TableForm });
      putBack();
    })();
    const wrong = db.pragma("foreign_key_check") as { readonly table: string; readonly parent: string }[];
    if (wrong.length)
      throw new StartError(`A row of ${wrong[0].table} refers to one of ${wrong[0].parent} that is not in the file.`);
  } finally {
    db.close();
  }
}

function fillTable(
  db: Database.Database,
  files: string,
  { came, table }: { readonly came: Came["tables"][number]; readonly table: TableForm },
): void {
  const columns = table.columns.map((c) => c.name);
  const others = came.columns.map((c) => c.name).filter((c) => !columns.includes(c));
  if (others.length)
    throw new StartError(`Table ${came.name} has columns that this shop has not: ${others.join(", ")}.`);
  const path = join(files, "tables", `${came.name}.json`);
  if (!existsSync(path)) throw new StartError(`The file names table ${came.name} and does not hold it.`);
  const rows = rowsSchema.safeParse(parsed(path, came.name));
  if (!rows.success)
    throw new StartError(
      `Table ${came.name}: ${rows.error.issues[0].path.join(", ")}: ${rows.error.issues[0].message}`,
    );
  if (rows.data.length !== came.rows)
    throw new StartError(`Table ${came.name} has ${rows.data.length} rows; its manifest says ${came.rows}.`);
  // What a new shop begins with is in the file too, as it was there.
  db.exec(`delete from ${came.name}`);
  const names = came.columns.map((c) => c.name);
  const insert = db.prepare(
    `insert into ${came.name} (${names.map((n) => `"${n}"`).join(", ")}) values (${names.map(() => "?").join(", ")})`,
  );
  rows.data.forEach((row, i) => {
    try {
      insert.run(names.map((name) => valueOf(row[name] ?? null, files)));
    } catch (error) {
      if (error instanceof StartError) throw error;
      throw new StartError(
        `Table ${came.name}, row ${i + 1}: ${error instanceof Error ? error.message : String(error)}.`,
        {
          cause: error,
        },
      );
    }
  });
}

let lastRead: { readonly path: string; readonly bytes: Buffer } | null = null;

function valueOf(value: z.output<typeof rowsSchema>[number][string], files: string): string | number | null | Buffer {
  if (!isInFile(value)) return value;
  const path = join(files, value.$file);
  if (!existsSync(path)) throw new StartError(`The file ${value.$file} is missing.`);
  // The parts of a recording follow each other: it is read once.
  if (lastRead?.path !== path) lastRead = { path, bytes: readFileSync(path) };
  const bytes = lastRead.bytes.subarray(value.from, value.from + value.bytes);
  if (bytes.length !== value.bytes)
    throw new StartError(`The file ${value.$file} is shorter than it was: ${bytes.length} of ${value.bytes} bytes.`);
  return bytes;
}

function parsed(path: string, what: string): unknown {
  try {
    return JSON.parse(readFileSync(path, "utf8"));
  } catch (error) {
    throw new StartError(`${what} is no JSON: ${error instanceof Error ? error.message : String(error)}.`, {
      cause: error,
    });
  }
}
