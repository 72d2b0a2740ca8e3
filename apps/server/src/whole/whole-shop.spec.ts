import Database from "better-sqlite3";
import { strToU8, unzipSync, zipSync, type Unzipped } from "fflate";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buffer } from "node:stream/consumers";
import Papa from "papaparse";
import sharp from "sharp";
import { DATABASE_FILE, openDatabase } from "../store/database";
import { holdFolder } from "../store/folder-lock";
import { testApp, newAxis, type TestApp } from "../testing/test-app";
import { peopleApp, signedIn } from "../testing/test-people";
import { recordSound } from "../testing/test-sound";
import { bringIn } from "./bring-in";
import { shopZip, tablesOf, type Manifest } from "./take-out";

const NOW = new Date("2026-03-02T08:00:00Z");
const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

/** Everything in a shop’s file that goes along, as text. */
function heldIn(folder: string): Record<string, string[]> {
  const db = new Database(join(folder, DATABASE_FILE), { readonly: true });
  try {
    return Object.fromEntries(
      tablesOf(db).map(({ name }) => [
        name,
        (db.prepare(`select * from ${name}`).all() as Record<string, unknown>[])
          .filter((row) => row["key"] !== "session-secret")
          .map((row) => JSON.stringify({ ...row, secret: null, calendar_hash: null }))
          .sort(),
      ]),
    );
  } finally {
    db.close();
  }
}

describe("a shop as one zip", () => {
  let t: TestApp;
  let empty: string;
  let zip: string;
  beforeEach(() => {
    empty = mkdtempSync(join(tmpdir(), "iron-in-"));
    zip = join(empty, "shop.zip");
  });
  afterEach(async () => {
    rmSync(empty, { recursive: true, force: true });
    await t.close();
  });
  const out = async (): Promise<Unzipped> => {
    const bytes = await buffer(await shopZip(t.folder, NOW));
    writeFileSync(zip, bytes);
    // Read by another library than the one that writes it.
    return unzipSync(bytes);
  };
  const target = (): string => join(empty, "shop");

  it("goes out and into an empty shop, and is the same there: every row, photo and recording", async () => {
    t = await testApp({ demo: true });
    const axis = await newAxis(t);
    const { id } = await recordSound(t, axis);
    const photo = await sharp({ create: { width: 40, height: 30, channels: 3, background: "#456" } })
      .jpeg()
      .toBuffer();
    const kept = await t.api.post(`/api/machines/${axis.machineId}/cases`).send({ axisIds: [axis.id], answers: {} });
    await t.api.post(`/api/cases/${kept.body.id}/photos`).set("Content-Type", "image/jpeg").send(photo).expect(201);
    const files = await out();
    const contents = await bringIn(zip, target(), NOW);
    expect(contents.machines).toBeGreaterThan(5);
    const [before, after] = [heldIn(t.folder), heldIn(target())];
    expect(Object.keys(before).length).toBeGreaterThan(30);
    expect(before["reading"].length).toBeGreaterThan(100);
    // The server plans the rounds anew by itself, also after the file was made; that table is compared file by file below.
    for (const [name, rows] of Object.entries(before).filter(([n]) => n !== "lube_plan"))
      expect([name, after[name]]).toEqual([name, rows]);
    // And out of there once more it is the same file by file, but for when that was.
    const again = unzipSync(await buffer(await shopZip(target(), NOW)));
    expect(Object.keys(again).sort()).toEqual(Object.keys(files).sort());
    for (const [name, bytes] of Object.entries(files))
      expect([name, Buffer.from(again[name]).equals(bytes)]).toEqual([name, true]);
    // Nothing of the copy stays behind.
    expect(readdirSync(t.folder).filter((f) => f.startsWith("taking-out"))).toEqual([]);
    expect(readdirSync(target()).filter((f) => f.startsWith("bringing-in"))).toEqual([]);
    // A recording is a WAV file as it was sent.
    expect(text(files[`files/sound/${id}.wav`].slice(0, 4))).toBe("RIFF");
    const wav = await t.api
      .get(`/api/sounds/${id}/wav`)
      .buffer(true)
      .parse((r, done) => {
        const parts: Buffer[] = [];
        r.on("data", (part: Buffer) => parts.push(part)).on("end", () => done(null, Buffer.concat(parts)));
      });
    expect(Buffer.from(files[`files/sound/${id}.wav`]).equals(wav.body as Buffer)).toBe(true);
    // The shop that came works: the append-only rules are there again.
    const db = await openDatabase(target());
    await expect(db.deleteFrom("change_event").execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only") as string,
    });
    await db.destroy();
  });

  it("says of itself what it holds; the table of a spreadsheet has the same rows; nobody’s PIN goes along", async () => {
    t = await peopleApp();
    const keeper = await signedIn(t, "keeper");
    await keeper.api.post("/api/me/calendar").send({}).expect(200);
    await t.db.updateTable("person").set({ sign: "=1+1" }).where("name", "=", "Lark").execute();
    const files = await out();
    const manifest = JSON.parse(text(files["manifest.json"])) as Manifest;
    expect(manifest).toMatchObject({ form: "iron-patience-shop", takenOutAt: NOW.toISOString() });
    const person = manifest.tables.find((table) => table.name === "person");
    expect(person?.columns.find((c) => c.name === "id")).toEqual({
      name: "id",
      type: "integer",
      required: true,
      key: 1,
    });
    const axis = manifest.tables.find((table) => table.name === "axis");
    expect(axis?.columns.find((c) => c.name === "machine_id")?.refersTo).toBe("machine.id");
    const rows = JSON.parse(text(files["tables/person.json"])) as Record<string, unknown>[];
    expect(rows.map((r) => [r["name"], r["secret"], r["calendar_hash"]])).toEqual(
      ["Lark", "Teal", "Pipit", "Knott"].map((name) => [name, null, null]),
    );
    const csv = Papa.parse<Record<string, string>>(text(files["tables/person.csv"]), {
      header: true,
      skipEmptyLines: true,
    });
    expect(csv.data.map((r) => r["name"])).toEqual(rows.map((r) => r["name"]));
    expect(csv.data[0]["sign"]).toBe("'=1+1");
    expect(Object.keys(files).some((name) => /tables.(session|sign_in)/.test(name))).toBe(false);
    expect(text(files["tables/setting.json"])).not.toContain("session-secret");
    await bringIn(zip, target(), NOW);
    expect(heldIn(target())["person"]).toEqual(heldIn(t.folder)["person"]);
  });

  it.each([
    ["no zip at all", () => Buffer.from("PK, but no more"), /is no zip file/],
    [
      "another’s zip",
      () => Buffer.from(zipSync({ "readme.txt": strToU8("hello") })),
      /its manifest is missing or not ours/,
    ],
    [
      "a table cut short",
      (z: Unzipped) => changed(z, "tables/machine.json", () => "[]"),
      /Table machine has 0 rows; its manifest says 1/,
    ],
    [
      "a row that cannot be",
      (z: Unzipped) => changed(z, "tables/machine.json", (s) => s.replace('"nickname":"Wren"', '"nickname":null')),
      /Table machine, row 1: .*NOT NULL/,
    ],
    [
      "a row that hangs in the air",
      (z: Unzipped) => changed(z, "tables/axis.json", (s) => s.replace('"machine_id":1', '"machine_id":77')),
      /A row of axis refers to one of machine that is not in the file/,
    ],
    [
      "a file that leads outside",
      (z: Unzipped) =>
        changed(z, "tables/machine.json", (s) =>
          s.replace('"nickname":"Wren"', '"nickname":{"$file":"../../etc/passwd","from":0,"bytes":5}'),
        ),
      /Table machine: 0, nickname/,
    ],
    [
      "a newer server’s",
      (z: Unzipped) => changed(z, "manifest.json", (s) => s.replace(/"store": "[^"]+"/, '"store": "9999_later"')),
      /taken out by a newer version \(9999_later\)/,
    ],
  ])("%s is refused in words, and the folder stays empty", async (_, make, says) => {
    t = await testApp();
    await newAxis(t);
    const files = await out();
    writeFileSync(zip, make(files));
    await expect(bringIn(zip, target(), NOW)).rejects.toThrow(says);
    expect(readdirSync(target())).toEqual([]);
  });

  it("goes into no shop that has machines", async () => {
    t = await testApp();
    await newAxis(t);
    await out();
    await bringIn(zip, target(), NOW);
    const before = readFileSync(join(target(), DATABASE_FILE));
    await expect(bringIn(zip, target(), NOW)).rejects.toThrow(/There is a shop in .* already/);
    expect(readFileSync(join(target(), DATABASE_FILE)).equals(before)).toBe(true);
    const lock = holdFolder(target(), "the server at 127.0.0.1:4300");
    await expect(bringIn(zip, target(), NOW)).rejects.toThrow(/the server at 127.0.0.1:4300/);
    lock.release();
  });
});

function changed(files: Unzipped, name: string, how: (text: string) => string): Buffer {
  const next = how(text(files[name]));
  expect(next).not.toBe(text(files[name]));
  return Buffer.from(zipSync({ ...files, [name]: strToU8(next) }));
}
