import Database from "better-sqlite3";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  BACKUP_FOLDER,
  backupsIn,
  contentsOf,
  keepBackups,
  keptOf,
  makeBackup,
  restoreBackup,
  thinOut,
  type Backup,
} from "../store/backups";
import { DATABASE_FILE, openDatabase } from "../store/database";
import { holdFolder } from "../store/folder-lock";
import { newAxis, testApp } from "./test-app";

const at = (iso: string): Date => new Date(iso);
const one = (iso: string): Backup => ({ path: iso, at: at(iso), bytes: 1 });

describe("backups", () => {
  const folder = mkdtempSync(join(tmpdir(), "iron-backup-"));
  afterAll(() => rmSync(folder, { recursive: true }));

  it("beside a running server it holds everything that was acknowledged; restored elsewhere it shows the same", async () => {
    const t = await testApp();
    const axis = await newAxis(t);
    for (let i = 0; i < 50; i += 1) {
      await t.api
        .post(`/api/axes/${axis.id}/events`)
        .send({
          kind: "note",
          text: `note ${i}`,
          at: "2026-03-01T08:00:00.000Z",
        })
        .expect(201);
    }
    // Copying the file alone, as people do, would miss what still lies in its journal.
    const path = await makeBackup(t.folder, at("2026-03-02T06:00:00Z"));
    expect(readdirSync(join(t.folder, BACKUP_FOLDER))).toEqual(["iron-patience-2026-03-02T06-00-00Z.sqlite"]);
    expect(contentsOf(path)).toMatchObject({ machines: 1, tests: 0 });
    const fresh = join(folder, "fresh");
    expect(await restoreBackup(path, fresh, new Date())).toBeNull();
    const db = await openDatabase(fresh);
    expect(await db.selectFrom("axis_event").select("text").orderBy("id").execute()).toEqual(
      Array.from({ length: 50 }, (_, i) => ({ text: `note ${i}` })),
    );
    await db.destroy();
    await t.close();
  });

  it("a restore keeps what was there aside, and is refused while a server holds the folder", async () => {
    const [from, to] = [join(folder, "from"), join(folder, "to")];
    const fill = async (into: string, name: string): Promise<void> => {
      const db = await openDatabase(into);
      await db.insertInto("setting").values({ key: "whose", value: name }).execute();
      await db.destroy();
    };
    await fill(from, "backup");
    await fill(to, "present");
    const whose = (path: string): unknown => {
      const file = new Database(path, { readonly: true });
      const row = file.prepare("select value from setting where key = 'whose'").get();
      file.close();
      return row;
    };
    const backup = await makeBackup(from, new Date(), join(folder, "b.sqlite"));
    const lock = holdFolder(to, "the server on port 8417");
    await expect(restoreBackup(backup, to, new Date())).rejects.toThrow(/in use by the server on port 8417/);
    expect(whose(join(to, DATABASE_FILE))).toEqual({ value: "present" });
    lock.release();
    const aside = await restoreBackup(backup, to, new Date());
    expect(whose(join(to, DATABASE_FILE))).toEqual({ value: "backup" });
    expect(whose(aside ?? "")).toEqual({ value: "present" });
  });

  it("what is no whole database of ours is refused, and nothing is touched", async () => {
    const place = join(folder, "odd");
    await (await openDatabase(place)).destroy();
    const before = readFileSync(join(place, DATABASE_FILE));
    const whole = await makeBackup(place, new Date(), join(folder, "w.sqlite"));
    const torn = join(folder, "torn.sqlite");
    const bytes = readFileSync(whole);
    bytes.fill(0x41, 8192, 16_384);
    writeFileSync(torn, bytes);
    const other = join(folder, "other.sqlite");
    new Database(other).exec("create table song (name text)").close();
    writeFileSync(join(folder, "text.sqlite"), "only words ".repeat(2000));
    for (const bad of [torn, other, join(folder, "text.sqlite"), join(folder, "none")])
      await expect(restoreBackup(bad, place, new Date())).rejects.toThrow(/no whole database|There is no file/);
    expect(readFileSync(join(place, DATABASE_FILE)).equals(before)).toBe(true);
    expect(existsSync(join(place, `${DATABASE_FILE}.arriving`))).toBe(false);
  });

  it("a try that fails is told by its cause, without a path of the server; the next that can be made clears it", async () => {
    const place = join(folder, "kept");
    const told: string[] = [];
    const keeper = keepBackups(place, (words) => told.push(words));
    const until = async (count: number): Promise<void> => {
      while (told.length < count) await new Promise((done) => setImmediate(done));
    };
    await until(1);
    expect(keeper.state()).toMatchObject({ lastAt: null, count: 0 });
    expect(keeper.state().error).toMatch(/log says why/);
    expect(keeper.state().error).not.toContain(folder);
    keeper.stop();
    await (await openDatabase(place)).destroy();
    const again = keepBackups(place, (words) => told.push(words));
    await until(2);
    expect(told[1]).toContain("backup made");
    expect(again.state()).toMatchObject({ count: 1, error: "" });
    again.stop();
  });

  it("seven days, four weeks and twelve months are kept, the newest of each, and nothing else is touched", () => {
    const now = at("2026-11-26T12:00:00Z");
    const daily = Array.from({ length: 500 }, (_, i) => one(new Date(now.getTime() - i * 86_400_000).toISOString()));
    const days = [...keptOf(daily, now)].map((b) => b.path.slice(0, 10)).sort();
    expect(days.slice(-7)).toEqual([
      "2026-11-20",
      "2026-11-21",
      "2026-11-22",
      "2026-11-23",
      "2026-11-24",
      "2026-11-25",
      "2026-11-26",
    ]);
    for (const week of ["2026-11-19", "2026-11-12", "2026-11-05"]) expect(days).toContain(week);
    for (const month of ["2026-10-31", "2026-02-28", "2025-12-31"]) expect(days).toContain(month);
    expect(days).not.toContain("2025-11-30");
    expect(days.length).toBeLessThanOrEqual(23);
    // A shop that was closed for months loses none of what it has.
    const seldom = ["2026-11-01", "2026-06-01", "2026-05-01"].map((d) => one(`${d}T06:00:00.000Z`));
    expect(keptOf(seldom, now).size).toBe(3);

    const place = join(folder, "thin", BACKUP_FOLDER);
    mkdirSync(place, { recursive: true });
    for (let hour = 10; hour < 20; hour += 1)
      writeFileSync(join(place, `iron-patience-2026-11-26T${hour}-00-00Z.sqlite`), "x");
    writeFileSync(join(place, "my own copy.sqlite"), "x");
    thinOut(join(folder, "thin"), at("2026-11-26T23:00:00Z"));
    expect(readdirSync(place).sort()).toEqual(["iron-patience-2026-11-26T19-00-00Z.sqlite", "my own copy.sqlite"]);
    expect(backupsIn(join(folder, "thin"))).toHaveLength(1);
  });
});
