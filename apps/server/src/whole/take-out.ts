import Database from "better-sqlite3";
import Papa from "papaparse";
import { mkdtempSync, rmSync } from "node:fs";
import { join } from "node:path";
import { Readable } from "node:stream";
import { ZipFile } from "yazl";
import { makeBackup } from "../store/backups";
import { DATABASE_FILE } from "../store/database";

/** The name of the form, in the manifest; its version rises when what is in it is laid out otherwise. */
export const FORM = "iron-patience-shop";
export const FORM_VERSION = 1;
/** Rows that are read and written at once. */
const CHUNK = 500;

/** What stays on the machine it is on: who is signed in, and what the server makes anew by itself. */
const LEFT_BEHIND = ["session", "session_seal", "asked_again", "sign_in_failure", "axis_summary"];
/** Ways in go with nobody: people come, their PINs do not. */
const BLANKED: Readonly<Record<string, readonly string[]>> = { person: ["secret", "calendar_hash"] };
const OWN_SETTINGS: Readonly<Record<string, string>> = { setting: "key <> 'session-secret'" };

export interface Column {
  readonly name: string;
  readonly type: string;
  readonly required: boolean;
  /** Its place in the primary key, from 1; 0: not of it. */
  readonly key: number;
  /** “machine.id”; absent where it refers to nothing. */
  readonly refersTo?: string;
}

export interface TableForm {
  readonly name: string;
  readonly rows: number;
  readonly columns: readonly Column[];
}

/** What stands first in the file: by it a reader knows the rest. */
export interface Manifest {
  readonly form: typeof FORM;
  readonly version: number;
  /** The last change of the store’s form that its tables have. */
  readonly store: string;
  readonly takenOutAt: string;
  readonly tables: readonly TableForm[];
}

/** Stands in a row for bytes: in which file they are, and where in it. */
export interface InFile {
  readonly $file: string;
  readonly from: number;
  readonly bytes: number;
}

/** The tables of a shop’s file, with their columns as the store declares them. */
export function tablesOf(db: Database.Database): TableForm[] {
  const names = db
    .prepare("select name from sqlite_master where type = 'table' and name not like 'sqlite_%' order by name")
    .pluck()
    .all() as string[];
  return names
    .filter((name) => !name.startsWith("kysely_") && !LEFT_BEHIND.includes(name))
    .map((name) => {
      const refers = db.pragma(`foreign_key_list(${name})`) as { from: string; table: string; to: string | null }[];
      const columns = db.pragma(`table_xinfo(${name})`) as {
        readonly name: string;
        readonly type: string;
        readonly notnull: number;
        readonly pk: number;
        readonly hidden: number;
      }[];
      return {
        name,
        rows: db
          .prepare(`select count(*) from ${name} where ${OWN_SETTINGS[name] ?? "true"}`)
          .pluck()
          .get() as number,
        columns: columns
          .filter((c) => c.hidden === 0)
          .map((c) => {
            const to = refers.find((r) => r.from === c.name);
            return {
              ...{ name: c.name, type: c.type.toLowerCase(), required: c.notnull === 1 || c.pk > 0, key: c.pk },
              ...(to ? { refersTo: `${to.table}.${to.to ?? "id"}` } : {}),
            };
          }),
      };
    });
}

type Row = Record<string, unknown>;

/** All rows of a table in the order of its key, some at once. */
function* rowsOf(db: Database.Database, table: TableForm): Generator<Row[]> {
  const keys = table.columns.filter((c) => c.key > 0).sort((a, b) => a.key - b.key);
  const order = keys.length ? keys.map((k) => `"${k.name}"`).join(", ") : "rowid";
  const columns = table.columns.map((c) => `"${c.name}"`).join(", ");
  const where = OWN_SETTINGS[table.name] ?? "true";
  let chunk: Row[] = [];
  for (const row of db.prepare(`select ${columns} from ${table.name} where ${where} order by ${order}`).iterate()) {
    chunk.push(row as Row);
    if (chunk.length < CHUNK) continue;
    yield chunk;
    chunk = [];
  }
  if (chunk.length) yield chunk;
}

const ENDINGS: Readonly<Record<string, string>> = { "image/jpeg": "jpg", "image/png": "png" };

/** A row as it is written: bytes stand in files of their own, a recording whole. */
function written(table: TableForm, row: Row): Row {
  const blanked = BLANKED[table.name] ?? [];
  return Object.fromEntries(
    Object.entries(row).map(([name, value]) => {
      if (blanked.includes(name)) return [name, null];
      if (!Buffer.isBuffer(value)) return [name, value];
      const inFile: InFile = { $file: fileOf(table, row), from: Number(row["from_byte"] ?? 0), bytes: value.length };
      return [name, inFile];
    }),
  );
}

function fileOf(table: TableForm, row: Row): string {
  if (table.name === "sound_part") return `files/sound/${String(row["sound_id"])}.wav`;
  const key = table.columns
    .filter((c) => c.key > 0)
    .map((c) => String(row[c.name]).replace(/[^\w-]/g, "_"))
    .join("-");
  return `files/${table.name}/${key}.${ENDINGS[String(row["media"])] ?? "bin"}`;
}

function* jsonOf(db: Database.Database, table: TableForm): Generator<string> {
  yield "[";
  let first = true;
  for (const rows of rowsOf(db, table)) {
    const text = rows.map((row) => JSON.stringify(written(table, row))).join(",\n");
    yield `${first ? "\n" : ",\n"}${text}`;
    first = false;
  }
  yield "\n]\n";
}

function* csvOf(db: Database.Database, table: TableForm): Generator<string> {
  const columns = table.columns.map((c) => c.name);
  yield `${Papa.unparse([columns])}\r\n`;
  for (const rows of rowsOf(db, table)) {
    const cells = rows.map((row) => {
      const out = written(table, row);
      return columns.map((c) => (isInFile(out[c]) ? out[c].$file : out[c]));
    });
    yield `${Papa.unparse(cells, { header: false, escapeFormulae: true })}\r\n`;
  }
}

export function isInFile(value: unknown): value is InFile {
  return typeof value === "object" && value !== null && "$file" in value;
}

/** The bytes of a table’s files, in the order in which their rows name them. */
function* filesOf(
  db: Database.Database,
  table: TableForm,
): Generator<{ name: string; bytes: () => Generator<Buffer> }> {
  const blob = table.columns.find((c) => c.type === "blob");
  if (!blob) return;
  const keys = table.columns.filter((c) => c.key > 0).map((c) => c.name);
  const light = table.columns.filter((c) => c.type !== "blob").map((c) => `"${c.name}"`);
  const found = new Map<string, Row[]>();
  for (const row of db.prepare(`select ${light.join(", ")} from ${table.name}`).all() as Row[]) {
    const name = fileOf(table, row);
    found.set(name, [...(found.get(name) ?? []), row]);
  }
  const read = db
    .prepare(`select "${blob.name}" from ${table.name} where ${keys.map((k) => `"${k}" = ?`).join(" and ")}`)
    .pluck();
  for (const [name, rows] of found) {
    const parts = rows.sort((a, b) => Number(a["from_byte"] ?? 0) - Number(b["from_byte"] ?? 0));
    yield {
      name,
      bytes: function* () {
        for (const row of parts) yield read.get(...keys.map((k) => row[k])) as Buffer;
      },
    };
  }
}

/**
 * Everything of the shop in a folder as one zip, beside a running server or without one: of a copy that is made,
 * checked, and deleted at the end.
 */
export async function shopZip(folder: string, now: Date): Promise<Readable> {
  const beside = mkdtempSync(join(folder, "taking-out-"));
  const gone = (): void => rmSync(beside, { recursive: true, force: true });
  try {
    const out = takeOut(await makeBackup(folder, now, join(beside, DATABASE_FILE)), now);
    out.once("close", gone);
    return out;
  } catch (error) {
    gone();
    throw error;
  }
}

/**
 * Everything of a shop as one zip: a manifest, each table as JSON and as CSV, photos and recordings as files.
 * @param file - a copy of the shop’s database that nobody writes to
 * @returns the zip’s bytes; the file is closed at their end
 */
export function takeOut(file: string, now: Date): Readable {
  const db = new Database(file, { readonly: true, fileMustExist: true });
  const zip = new ZipFile();
  const tables = tablesOf(db);
  const store = db.prepare("select name from kysely_migration order by name desc limit 1").pluck().get() as string;
  const manifest: Manifest = {
    ...{ form: FORM, version: FORM_VERSION, store, takenOutAt: now.toISOString(), tables },
  };
  const add = (name: string, parts: () => Iterable<string | Buffer>, compress = true): void => {
    zip.addReadStreamLazy(name, { compress, mtime: now }, (done) => {
      done(null, Readable.from(parts(), { objectMode: false }));
    });
  };
  add("manifest.json", () => [`${JSON.stringify(manifest, null, 2)}\n`]);
  for (const table of tables) {
    add(`tables/${table.name}.json`, () => jsonOf(db, table));
    add(`tables/${table.name}.csv`, () => csvOf(db, table));
    for (const { name, bytes } of filesOf(db, table)) add(name, bytes, name.endsWith(".wav"));
  }
  zip.end();
  const out = zip.outputStream as Readable;
  zip.on("error", (error: Error) => out.destroy(error));
  out.once("close", () => db.close());
  return out;
}
