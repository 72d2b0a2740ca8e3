import Database from "better-sqlite3";
import { spawnSync } from "node:child_process";
import type { Kysely, KyselyPlugin } from "kysely";
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { DATABASE_FILE, openDatabase } from "../store/database";
import { markDemo } from "../store/demo-mark";
import { holdFolder } from "../store/folder-lock";
import { MIGRATIONS } from "../store/migrations";

const names = Object.keys(MIGRATIONS).sort();
const upTo = (count: number): typeof MIGRATIONS =>
  Object.fromEntries(names.slice(0, count).map((n) => [n, MIGRATIONS[n]]));

describe("starting on a folder", () => {
  let folder = "";
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), "iron-start-"));
  });
  afterEach(() => {
    chmodSync(folder, 0o755);
    rmSync(folder, { recursive: true });
  });
  const path = (): string => join(folder, DATABASE_FILE);

  /** Everything a migration could have changed. */
  const shape = (): unknown => {
    const file = new Database(path(), { readonly: true });
    const tables = file.prepare("select name, sql from sqlite_master order by name").all();
    file.close();
    return tables;
  };

  it.each(names.slice(1).map((name, i) => [name, i + 1] as const))(
    "%s, stopped at any of its writes, leaves the file as it was; the next start finishes it",
    async (_, count) => {
      await (await openDatabase(folder, { migrations: upTo(count) })).destroy();
      const before = shape();
      const full = upTo(count + 1);
      for (let write = 1; ; write += 1) {
        let stopped = false;
        let writes = 0;
        const last = full[names[count]];
        // Its nth statement fails, or what comes after its last: the power goes, or the disk is full.
        const stop = (): void => {
          writes += 1;
          if (writes !== write) return;
          stopped = true;
          throw new Error("stopped here");
        };
        const counting: KyselyPlugin = {
          transformQuery: ({ node }) => {
            stop();
            return node;
          },
          transformResult: async ({ result }) => result,
        };
        const stopping = {
          ...full,
          [names[count]]: {
            up: async (db: Kysely<unknown>): Promise<void> => {
              await last.up(db.withPlugin(counting));
              stop();
            },
          },
        };
        try {
          const db = await openDatabase(folder, { migrations: stopping });
          await db.destroy();
        } catch (error) {
          expect(String(error)).toContain("as it was");
          expect(String(error)).toContain(path());
        }
        if (!stopped) {
          // It was stopped at each of its statements before it got through.
          expect(write - 1).toBe(writes);
          expect(writes).toBeGreaterThan(1);
          break;
        }
        expect(shape()).toEqual(before);
      }
      expect(readdirSync(folder)).toContain(`before-${names[count]}-${DATABASE_FILE}`);
      await (await openDatabase(folder)).destroy();
    },
  );

  it("on a disk without room it says so; once there is room it starts", async () => {
    await expect(openDatabase(folder, { mostPages: 12 })).rejects.toThrow(/no room left.*Make room/);
    await (await openDatabase(folder)).destroy();
  });

  it("a damaged file, one of a newer version and one that is none are named, and kept", async () => {
    writeFileSync(path(), "no database at all, only words ".repeat(200));
    await expect(openDatabase(folder)).rejects.toThrow(/is damaged or is no database of ours.*npm run restore/);
    expect(readFileSync(path(), "utf8")).toContain("only words");
    rmSync(path());
    await (await openDatabase(folder)).destroy();
    const file = new Database(path());
    file.exec("insert into kysely_migration values ('9999_later', '2030-01-01')");
    file.close();
    await expect(openDatabase(folder)).rejects.toThrow(/newer version.*9999_later/);
    expect(existsSync(path())).toBe(true);
  });

  it("what is acknowledged is on the disk: synchronous is full", async () => {
    const db = await openDatabase(folder);
    const { rows } = await db.executeQuery<{ synchronous: number }>({
      query: {
        kind: "RawNode",
        sqlFragments: ["pragma synchronous"],
        parameters: [],
      },
      sql: "pragma synchronous",
      parameters: [],
      queryId: { queryId: "sync" },
    } as never);
    expect(rows).toEqual([{ synchronous: 2 }]);
    await db.destroy();
  });

  it("a second server is refused with who holds the folder; released or killed, the lock bars nothing", () => {
    const first = holdFolder(folder, "the server on port 8417");
    expect(() => holdFolder(folder, "another")).toThrow(/in use by the server on port 8417, process \d+ on .*--data/);
    first.release();
    holdFolder(folder, "another").release();
    // What a killed server leaves behind: both files, and no lock.
    writeFileSync(join(folder, "server.json"), JSON.stringify({ holder: "a server that was killed" }));
    holdFolder(folder, "the next").release();
  });

  it("the demo goes into no shop’s own folder, and its own is known by its mark", async () => {
    await (await openDatabase(folder)).destroy();
    expect(() => markDemo(folder)).toThrow(/shop’s own data.*--data/);
    const fresh = join(folder, "demo");
    markDemo(fresh);
    await (await openDatabase(fresh)).destroy();
    expect(() => markDemo(fresh)).not.toThrow();
    const start = (data: string) =>
      spawnSync(process.execPath, ["scripts/serve.mjs", "--demo", "--fresh", "--data", data, "--port", "99999"], {
        encoding: "utf8",
        timeout: 60_000,
      });
    const refused = start(folder);
    expect(refused.status).toBe(1);
    expect(refused.stderr).toContain("Nothing was deleted");
    expect(existsSync(path())).toBe(true);
  });
});
