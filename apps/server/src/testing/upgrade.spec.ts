import { defaultAxis, templatePoints, type AxisConfig } from "@iron/core";
import Database from "better-sqlite3";
import { Kysely, Migrator, SqliteDialect } from "kysely";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openDatabase } from "../store/database";
import { MIGRATIONS } from "../store/migrations";

describe("a database of an earlier version", () => {
  it("is brought forward with every point, visit and photo in it", async () => {
    const folder = mkdtempSync(join(tmpdir(), "iron-old-"));
    const file = new Database(join(folder, "iron-patience.sqlite"));
    const old = new Kysely<unknown>({ dialect: new SqliteDialect({ database: file }) });
    const migrator = new Migrator({ db: old, provider: { getMigrations: async () => MIGRATIONS } });
    expect((await migrator.migrateTo("0006_lubrication")).error).toBeUndefined();
    file.exec(
      `insert into machine (id, nickname, bay, kind, hours_per_week, note) values (1, 'Knot', '8', 'surface-grinder', 40, '')`,
    );
    const point = JSON.stringify(templatePoints([defaultAxis("vertical-centre", "X")], { kind: "vertical-centre" })[0]);
    file
      .prepare(`insert into lube_point (id, machine_id, point, since) values (1, 1, ?, '2026-01-01T00:00:00.000Z')`)
      .run(point);
    file.exec(
      `insert into lube_visit (key, point_id, found, dose, glitter, words, at, by) values ('k', 1, 'dry', 3, 0, '', '2026-02-01T00:00:00.000Z', 'Ama')`,
    );
    file.exec(
      `insert into job (id, machine_id, plan, axes, items, options, title, opened_at, by) values (1, 1, '{}', '[]', '[]', '{}', 'x', '2026-01-01T00:00:00.000Z', 'Ama')`,
    );
    file.exec(
      `insert into job_photo (job_id, step, caption, media, bytes, at, by) values (1, 's', '', 'image/png', x'00', '2026-01-01T00:00:00.000Z', 'Ama')`,
    );
    for (const costs of [
      { downtimePerHour: 80, bearingSet: 350, screw: 3200 },
      { downtimePerHour: 80, bearingSet: 22, screw: 95 },
    ]) {
      const config = JSON.stringify({ ...defaultAxis("engraver", "X"), costs });
      file
        .prepare(
          "insert into axis (machine_id, config, updated_at, updated_by) values (1, ?, '2026-01-01T00:00:00.000Z', 'Ama')",
        )
        .run(config);
    }
    file.exec(
      `insert into case_file (id, machine_id, axis_ids, state, opened_at, by, context, symptoms, evidence, notes)
       values (1, 1, '[2,1]', 'open', '2026-01-01T00:00:00.000Z', 'Ama', '{"crash":true}', '{"rumble":true}', '{"rumble":{"note":"warm","ref":null}}', '')`,
    );
    await old.destroy();
    const db = await openDatabase(folder);
    // What was told of a case stands with the axis it was opened on, and is said of no other.
    const [kept] = await db.selectFrom("case_file").selectAll().execute();
    expect(JSON.parse(kept.told)).toEqual({
      2: { answers: { rumble: true }, evidence: { rumble: { note: "warm", ref: null } }, allTold: false, place: null },
    });
    expect(await db.selectFrom("lube_point").selectAll().execute()).toMatchObject([{ id: 1, retired_at: null }]);
    expect(await db.selectFrom("lube_visit").selectAll().execute()).toMatchObject([
      { found: "dry", friction: 0, outlets: null },
    ]);
    expect(await db.selectFrom("job_photo").select(["step", "key"]).execute()).toEqual([{ step: "s", key: null }]);
    const axes = await db.selectFrom("axis").select("config").execute();
    // Prices that were only proposed are usual from now on; what somebody typed stands.
    const parsed = axes.map(({ config }) => JSON.parse(config) as AxisConfig);
    expect(parsed.map((a) => a.costs)).toEqual([
      { downtimePerHour: 80, bearingSet: null, screw: null },
      { downtimePerHour: 80, bearingSet: 22, screw: 95 },
    ]);
    await db.destroy();
    rmSync(folder, { recursive: true });
  });
});
