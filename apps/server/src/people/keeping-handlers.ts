import type { Server } from "@iron/contract";
import type { Express, Request } from "express";
import { createHash, randomBytes } from "node:crypto";
import { createReadStream, existsSync, statfsSync, statSync } from "node:fs";
import { join } from "node:path";
import { sql } from "kysely";
import type { Handlers } from "../http/mount";
import { conflict, problem } from "../http/problem-error";
import { calendarFile, type CalendarServices } from "../lubrication/lubrication-handlers";
import { backupsIn, type BackupKeeper } from "../store/backups";
import { DATABASE_FILE, type Db } from "../store/database";
import { isPostgres } from "../store/in-dialect";
import { shopZip } from "../whole/take-out";
import type { ChangeRecord } from "./record";

interface Services extends CalendarServices {
  readonly db: Db;
  readonly record: ChangeRecord;
  readonly version: string;
  readonly folder: string | null;
  /** Null where no backups are kept, as in the demo. */
  readonly backups: BackupKeeper | null;
  /** When this server started. */
  readonly started: string;
}

/** Of an address that is said once: who reads the shop’s file cannot read its calendar. */
const hashOf = (secret: string): string => createHash("sha256").update(secret).digest("base64url");
const SECRET = /^[\w-]{43}$/;

type Names = "record" | "exportRecord" | "server" | "downloadBackup" | "exportShop" | "ownCalendar" | "renewCalendar";

/** What the keeper looks at, and everybody’s own calendar. */
export function keepingHandlersFor(s: Services): Pick<Handlers, Names> {
  return {
    record: ({ query }) => s.record.page(query),
    exportRecord: async ({ query }) => ({ fileName: "record.csv", media: "text/csv", text: s.record.csv(query) }),
    server: () => serverOf(s),
    downloadBackup: async () => {
      const last = s.folder === null ? undefined : backupsIn(s.folder).at(0);
      if (!last) throw problem(404, { title: "Not found", detail: "There is no backup yet." });
      const fileName = `iron-patience-${last.at.toISOString().slice(0, 19).replaceAll(":", "-")}Z.sqlite`;
      return { fileName, media: "application/vnd.sqlite3", text: createReadStream(last.path) };
    },
    exportShop: async () => {
      if (s.folder === null) throw conflict("This server keeps no files of its own to take out.");
      const now = new Date();
      const fileName = `iron-patience-shop-${now.toISOString().slice(0, 10)}.zip`;
      return { fileName, media: "application/zip", text: await shopZip(s.folder, now) };
    },
    ownCalendar: async ({ request }) => ({ has: !!request.person?.calendar_hash }),
    renewCalendar: async ({ request, who }) => {
      const { person } = request;
      if (!person) throw conflict("Nobody signs in here: the calendar stands at an address of its own already.");
      const secret = randomBytes(32).toString("base64url");
      await s.db
        .updateTable("person")
        .set({ calendar_hash: hashOf(secret) })
        .where("id", "=", person.id)
        .execute();
      await s.record.noteAs("A new address of the calendar", { request, who, body: null });
      return { path: `/api/calendars/${secret}` };
    },
  };
}

/** The calendar by its secret address: a calendar program signs in nowhere. */
export function mountCalendars(app: Express, s: Services): void {
  app.get("/api/calendars/:secret", async (request: Request<{ secret: string }>, response) => {
    const { secret } = request.params;
    const person = SECRET.test(secret)
      ? await s.db
          .selectFrom("person")
          .select("id")
          .where("calendar_hash", "=", hashOf(secret))
          .where("retired_at", "is", null)
          .executeTakeFirst()
      : undefined;
    if (!person)
      throw problem(404, { title: "Not found", detail: "There is no calendar at this address, or no more." });
    const { fileName, media, text } = await calendarFile(s);
    response.set("Cache-Control", "private, no-store").attachment(fileName).type(media).send(text);
  });
}

/** How much a file takes with what SQLite keeps beside it, bytes. */
const sizeOf = (path: string): number =>
  ["", "-wal", "-shm"].reduce((sum, ending) => sum + (existsSync(path + ending) ? statSync(path + ending).size : 0), 0);

async function sizeOnPostgres(db: Db): Promise<number> {
  const { rows } = await sql<{ n: number }>`select pg_database_size(current_database()) as n`.execute(db);
  return rows[0].n;
}

async function serverOf({ db, version, folder, started, backups: keeper }: Services): Promise<Server> {
  const of = async (table: "case_photo" | "job_photo" | "lube_photo" | "sound_part"): Promise<number> => {
    const { rows } = await sql<{ n: number | null }>`select sum(length(bytes)) as n from ${sql.table(table)}`.execute(
      db,
    );
    return rows[0]?.n ?? 0;
  };
  const postgres = isPostgres(db);
  const { rows } = await sql<{ v: string }>`
    select ${sql.raw(postgres ? "current_setting('server_version')" : "sqlite_version()")} as v`.execute(db);
  const { rows: done } = await sql<{ name: string }>`
    select name from kysely_migration order by name desc limit 1`.execute(db);
  const backups = keeper && folder !== null ? backupsIn(folder) : null;
  const last = backups?.at(0);
  return {
    version,
    runsOn: [
      { name: "Node", version: process.versions.node },
      { name: postgres ? "PostgreSQL" : "SQLite", version: rows[0].v },
      { name: "OpenSSL", version: process.versions.openssl },
    ],
    store: done[0].name,
    since: started,
    storage: {
      database: postgres ? await sizeOnPostgres(db) : folder === null ? null : sizeOf(join(folder, DATABASE_FILE)),
      backups: backups?.reduce((sum, b) => sum + b.bytes, 0) ?? null,
      photos: (await of("case_photo")) + (await of("job_photo")) + (await of("lube_photo")),
      sounds: await of("sound_part"),
      free: folder === null ? null : freeIn(folder),
    },
    lastBackup: last ? { at: last.at.toISOString(), bytes: last.bytes } : null,
  };
}

function freeIn(folder: string): number {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize;
}
