import { defaultAxis, templatePoints } from "@iron/core";
import Database from "better-sqlite3";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { quantileSorted } from "simple-statistics";
import { DATABASE_FILE, openDatabase } from "../apps/server/src/store/database";
import { Served } from "./served";

const MACHINES = 200;
const AXES = ["X", "Y", "Z"];
const TESTS_EACH = 50;
const POINTS_EACH = 40;
const VISITS_EACH = 8;
const READINGS_ONE_AXIS = 200_000;

const at = (days: number): string => new Date(Date.now() - days * 86_400_000).toISOString();

const PLAN = JSON.stringify({
  kind: "two-sided",
  targetsMm: [180],
  runs: 3,
  overTravelMm: 20,
  tickMm: 0.001,
  ticksOut: 50,
  keepsZero: false,
});
const SETUP = JSON.stringify({
  indicator: { name: "Digital", kind: "digital", resolutionMm: 0.001, unit: "mm", tipAngleDeg: 0, rangeMm: 10 },
  tipAngleDeg: 0,
  sense: 1,
  surface: "block",
  temperatureC: 20,
  note: "",
});

function insertsOf(file: Database.Database) {
  const machine = file.prepare(
    "insert into machine (nickname, bay, kind, hours_per_week, note, version) values (?, ?, 'vertical-centre', 60, '', 1)",
  );
  const axis = file.prepare(
    "insert into axis (machine_id, config, version, updated_at, updated_by) values (?, ?, 1, ?, 'bench')",
  );
  const run = file.prepare(
    "insert into run (axis_id, kind, plan, setup, state, started_at, finished_at, by, lost_mm, expanded_mm, place_mm) values (?, 'two-sided', ?, ?, 'finished', ?, ?, 'bench', ?, 0.001, 180)",
  );
  const reading = file.prepare(
    "insert into reading (run_id, step, value, width_mm, entered, source, spoilt, reason, at, by) values (?, ?, 0.01, 0.001, '', 'program', 0, '', ?, 'bench')",
  );
  const point = file.prepare("insert into lube_point (machine_id, point, since) values (?, ?, ?)");
  const visit = file.prepare(
    "insert into lube_visit (key, point_id, found, dose, glitter, words, at, by) values (?, ?, ?, 1, 0, '', ?, 'bench')",
  );
  const meter = file.prepare(
    "insert into meter_reading (key, machine_id, date, hours, reset, at, by) values (?, ?, ?, ?, 0, ?, 'bench')",
  );
  return { machine, axis, run, reading, point, visit, meter };
}

/** A big shop, written past the services: they are not what is measured here. */
export async function fill(folder: string): Promise<void> {
  await (await openDatabase(folder)).destroy();
  const file = new Database(join(folder, DATABASE_FILE));
  const { machine, axis, run, reading, point, visit, meter } = insertsOf(file);
  const configs = AXES.map((letter) => defaultAxis("vertical-centre", letter));
  const usual = templatePoints(configs, { kind: "vertical-centre" });
  file.transaction(() => {
    for (let m = 0; m < MACHINES; m += 1) {
      const { lastInsertRowid: id } = machine.run(`Wren ${m}`, String(Math.floor(m / 6)));
      for (const [a, config] of configs.entries()) {
        const { lastInsertRowid: axisId } = axis.run(id, JSON.stringify(config), at(400));
        for (let t = 0; t < TESTS_EACH; t += 1)
          run.run(
            axisId,
            PLAN,
            SETUP,
            at(7 * (TESTS_EACH - t)),
            at(7 * (TESTS_EACH - t)),
            0.01 + 0.0001 * t + 0.001 * a,
          );
      }
      for (let p = 0; p < POINTS_EACH; p += 1) {
        const own = usual[p % usual.length];
        const { lastInsertRowid: pointId } = point.run(
          id,
          JSON.stringify({ ...own, place: `${own.place} ${p}` }),
          at(400),
        );
        for (let v = 0; v < VISITS_EACH; v += 1)
          visit.run(
            `v ${m} ${p} ${v}`,
            pointId,
            ["right", "dry", "right", "flooded"][(p + v) % 4],
            at(91 * (VISITS_EACH - v - 1) + (p % 88)),
          );
      }
      for (let r = 0; r < 25; r += 1)
        meter.run(`m ${m} ${r}`, id, at(14 * (25 - r)).slice(0, 10), 4000 + 100 * r, at(14 * (25 - r)));
    }
    const { lastInsertRowid: last } = axis.run(1, JSON.stringify(defaultAxis("vertical-centre", "U")), at(400));
    for (let r = 0; r < READINGS_ONE_AXIS / 50; r += 1) {
      const { lastInsertRowid: runId } = run.run(last, PLAN, SETUP, at(r / 24), at(r / 24), 0.01);
      for (let i = 0; i < 50; i += 1) reading.run(runId, i, at(r / 24));
    }
  })();
  file.close();
}

let keys = 0;
/** A visit as a tablet sends it. */
function visitBody(): object {
  keys += 1;
  return {
    key: `00000000-0000-4000-8000-${String(keys).padStart(12, "0")}`,
    found: "right",
    dose: 1,
    glitter: false,
    words: "",
  };
}

const ms = (n: number): string => `${n.toFixed(1)} ms`;

async function timed(work: () => Promise<unknown>, times: number): Promise<number[]> {
  const all: number[] = [];
  for (let i = 0; i < times; i += 1) {
    const start = performance.now();
    await work();
    all.push(performance.now() - start);
  }
  return all.sort((a, b) => a - b);
}

/** Alone, then ten clients at once; against the bare query of the same rows. */
async function load(
  served: Served,
  { what, path, bare }: { readonly what: string; readonly path: string; readonly bare: () => unknown },
): Promise<void> {
  const first = await timed(() => served.ask("GET", { path }), 1);
  const alone = await timed(() => served.ask("GET", { path }), 15);
  const fresh: number[] = [];
  for (let i = 0; i < 15; i += 1) {
    await served.send("POST", "/api/lube-points/8000/visits", visitBody());
    await served.ask("GET", { path: "/api/health" });
    fresh.push(...(await timed(() => served.ask("GET", { path }), 1)));
  }
  fresh.sort((a, b) => a - b);
  // Somebody works meanwhile: every answer is made anew.
  let busy = true;
  const writer = (async () => {
    while (busy) {
      await served.send("POST", "/api/lube-points/7999/visits", visitBody());
      await new Promise((go) => setTimeout(go, 100));
    }
  })();
  const ten = (await Promise.all(Array.from({ length: 10 }, () => timed(() => served.ask("GET", { path }), 10))))
    .flat()
    .sort((a, b) => a - b);
  busy = false;
  await writer;
  const reference = await timed(() => Promise.resolve(bare()), 15);
  const [own, ref] = [quantileSorted(alone, 0.5), quantileSorted(reference, 0.5)];
  const { bytes, status } = await served.ask("GET", { path });
  console.log(
    `${what}: first ${ms(first[0])}, alone ${ms(own)}, after a write ${ms(quantileSorted(fresh, 0.5))}, ten clients p50 ${ms(quantileSorted(ten, 0.5))}, p99 ${ms(quantileSorted(ten, 0.99))}; bare SQLite ${ms(ref)}, ratio ${(own / ref).toFixed(1)}; ${status}, ${(bytes / 1e6).toFixed(2)} MB`,
  );
}

/** How long others wait while something big is done. */
async function meanwhile(
  served: Served,
  work: Promise<unknown>,
): Promise<{ tookMs: number; worstMs: number; mostMb: number }> {
  const start = performance.now();
  let done = false;
  let worstMs = 0;
  let mostMb = 0;
  const finished = work.then(() => {
    done = true;
  });
  while (!done) {
    const [one] = await timed(() => served.ask("GET", { path: "/api/health" }), 1);
    worstMs = Math.max(worstMs, one);
    mostMb = Math.max(mostMb, served.memory());
    await new Promise((go) => setTimeout(go, 5));
  }
  await finished;
  return { tookMs: performance.now() - start, worstMs, mostMb };
}

/** Files of 10,000 rows taken in while others ask. */
async function imports(served: Served, file: Database.Database): Promise<void> {
  const day = (n: number): string => at(n).slice(0, 10);
  const rows = Array.from(
    { length: 10_000 },
    (_, r) => `Wren ${r % MACHINES};${day(13 - Math.floor(r / 800))};${6500 + r / 200}`,
  );
  const work = [
    "machine;place;date;found;dose",
    ...Array.from({ length: 10_000 }, (_, r) => {
      const p = (r >> 1) % POINTS_EACH;
      return `Wren ${Math.floor(r / 50)};${
        JSON.parse(
          file
            .prepare("select point from lube_point where id = ?")
            .pluck()
            .get(1 + POINTS_EACH * Math.floor(r / 50) + p) as string,
        ).place as string
      };${day(1 - (r % 2))};right;1`;
    }),
  ].join("\n");
  for (const [what, path, text] of [
    ["meter readings", "/api/meters/import", ["machine;date;hours", ...rows].join("\n")],
    ["work", "/api/lube-visits/import", work],
  ] as const) {
    let answer = "";
    const took = await meanwhile(
      served,
      served.send("POST", path, { text, anyway: true }).then((a) => {
        answer = a.text.slice(0, 120);
      }),
    );
    console.log(
      `import of 10000 rows of ${what}: ${ms(took.tookMs)}, others wait at most ${ms(took.worstMs)}: ${answer}`,
    );
  }
}

export async function benchServer(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "iron-bench-"));
  await fill(folder);
  const served = await Served.start(folder);
  const file = new Database(join(folder, DATABASE_FILE), { readonly: true });
  console.log(
    `${MACHINES} machines × ${AXES.length} axes × ${TESTS_EACH} tests, ${MACHINES * POINTS_EACH} points with ${VISITS_EACH} visits each`,
  );
  await load(served, {
    what: "floor",
    path: "/api/floor",
    bare: () =>
      file
        .prepare(
          "select run.axis_id, lost_mm, expanded_mm, finished_at from run where state = 'finished' order by finished_at",
        )
        .all(),
  });
  await load(served, {
    what: "rounds",
    path: "/api/rounds",
    bare: () =>
      file
        .prepare(
          "select p.id, p.point, max(v.at) from lube_point p left join lube_visit v on v.point_id = p.id group by p.id",
        )
        .all(),
  });
  await load(served, {
    what: "points of a machine",
    path: "/api/machines/100/lube-points",
    bare: () =>
      file
        .prepare(
          "select p.id, p.point, v.found, v.at from lube_point p left join lube_visit v on v.point_id = p.id where p.machine_id = 100",
        )
        .all(),
  });
  let i = 0;
  const visits = await timed(() => served.send("POST", `/api/lube-points/${(i += 1)}/visits`, visitBody()), 60);
  console.log(`keeping a visit: p50 ${ms(quantileSorted(visits, 0.5))}, p99 ${ms(quantileSorted(visits, 0.99))}`);
  const before = served.memory();
  const axisId = MACHINES * AXES.length + 1;
  const exported = await meanwhile(
    served,
    served.ask("GET", { path: `/api/axes/${axisId}/history/export?format=json` }),
  );
  console.log(
    `export of ${READINGS_ONE_AXIS} readings: ${ms(exported.tookMs)}, others wait at most ${ms(exported.worstMs)}, memory ${(exported.mostMb - before).toFixed(0)} MB more at most`,
  );
  await imports(served, file);
  file.close();
  await served.end();
  rmSync(folder, { recursive: true, force: true });
}
