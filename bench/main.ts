import {
  auditSheet,
  DEFAULT_OPTIONS,
  defaultAxis,
  evaluatePositioning,
  infer,
  jobsFor,
  kitOf,
  stateAfter,
  planJob,
  rankTests,
  type JobPlan,
} from "@iron/core";
import Database from "better-sqlite3";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import * as stats from "simple-statistics";
import { systemClock } from "../apps/server/src/shop/clock";
import { Machines } from "../apps/server/src/machine/machines";
import { RunHistory } from "../apps/server/src/measure/run-history";
import { benchCircle, circleMachines } from "./circle";
import { benchCoverage } from "./coverage";
import { benchDiagnosis } from "./diagnosis";
import { benchListen } from "./listen";
import { benchRounds } from "./rounds";
import { benchServer } from "./server";
import { benchSheets } from "./sheets";
import { benchSound } from "./sound";
import { writeLearnedSound } from "./learn-sound";
import { benchWeb } from "./web";
import { openDatabase } from "../apps/server/src/store/database";

/** Middle of several timings, ms; the first calls warm up. */
async function timed(work: () => unknown, times = 15): Promise<number> {
  for (let i = 0; i < 3; i += 1) await work();
  const all: number[] = [];
  for (let i = 0; i < times; i += 1) {
    const start = performance.now();
    await work();
    all.push(performance.now() - start);
  }
  return stats.median(all);
}

function report(
  what: string,
  { ours, reference, name }: { readonly ours: number; readonly reference: number; readonly name: string },
): void {
  const ratio = (ours / reference).toFixed(2);
  console.log(`${what}: ${ours.toFixed(2)} ms, ${name} ${reference.toFixed(2)} ms, ratio ${ratio}`);
}

async function profile(): Promise<void> {
  const run = (): number[] => Array.from({ length: 10 }, () => Math.random() * 0.03);
  const targets = Array.from({ length: 1000 }, (_, i) => ({
    positionMm: i,
    up: run(),
    down: run(),
  }));
  const ours = await timed(() => evaluatePositioning(targets));
  const reference = await timed(() => {
    const m = targets.map((t) => ({
      u: stats.mean(t.up),
      d: stats.mean(t.down),
      su: stats.sampleStandardDeviation(t.up),
      sd: stats.sampleStandardDeviation(t.down),
    }));
    const b = m.map((t) => t.u - t.d);
    const means = m.flatMap((t) => [t.u, t.d]);
    const middles = m.map((t) => (t.u + t.d) / 2);
    const extremes = m.flatMap((t) => [t.u + 2 * t.su, t.u - 2 * t.su, t.d + 2 * t.sd, t.d - 2 * t.sd]);
    return [
      stats.max(b.map(Math.abs)),
      stats.mean(b),
      stats.extent(means),
      stats.extent(middles),
      stats.extent(extremes),
    ];
  });
  report("profile of 1000 targets × 10 runs × 2 directions", { ours, reference, name: "simple-statistics" });
}

const RUNS = 4000;
const READINGS_EACH = 50;

async function history(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "iron-bench-"));
  const db = await openDatabase(folder);
  const machines = new Machines(db, systemClock);
  const edit = {
    nickname: "Wren",
    bay: "1",
    kind: "lathe" as const,
    hoursPerWeek: 40,
    note: "",
  };
  const { axes } = await machines.create(edit, [defaultAxis("lathe", "X")], "bench");
  const file = new Database(join(folder, "iron-patience.sqlite"));
  const addRun = file.prepare(
    "insert into run (axis_id, kind, plan, setup, state, started_at, finished_at, by, lost_mm, expanded_mm, place_mm) values (?, 'two-sided', '{}', '{}', 'finished', ?, ?, 'bench', 0.01, 0.001, 180)",
  );
  const addReading = file.prepare(
    "insert into reading (run_id, step, value, width_mm, entered, source, spoilt, reason, at, by) values (?, ?, 0.01, 0.001, '', 'program', 0, '', ?, 'bench')",
  );
  file.transaction(() => {
    for (let r = 0; r < RUNS; r += 1) {
      const at = new Date(1.7e12 + r * 1e7).toISOString();
      const { lastInsertRowid } = addRun.run(axes[0].id, at, at);
      for (let i = 0; i < READINGS_EACH; i += 1) addReading.run(lastInsertRowid, i, at);
    }
  })();
  const bare = file.prepare(
    "select id, kind, state, started_at, finished_at, by, lost_mm, expanded_mm, place_mm, import_hash, (select count(*) from reading where run_id = run.id) n from run where axis_id = ? order by started_at",
  );
  const ours = await timed(() => new RunHistory(db).summaries(axes[0].id));
  const reference = await timed(() => bare.all(axes[0].id));
  report(`history of an axis, ${RUNS} tests, ${RUNS * READINGS_EACH} readings`, {
    ours,
    reference,
    name: "bare SQLite query",
  });
  file.close();
  await db.destroy();
  rmSync(folder, { recursive: true });
}

/** How long one ranking takes at demo size, against one inference. */
async function ranking(): Promise<void> {
  const axis = defaultAxis("vertical-centre", "X");
  const posterior = infer({
    axis,
    reports: [
      { finding: "rumble", present: true, source: "symptom" },
      { finding: "knock", present: true, source: "symptom" },
    ],
    magnitudes: [
      { kind: "whole-chain", reversalValueMm: 0.027, uMm: 0.001 },
      { kind: "end-float", reversalValueMm: 0.012, uMm: 0.001 },
    ],
  });
  const ours = await timed(() => rankTests(posterior), 40);
  const reference = await timed(() => infer(posterior.evidence), 40);
  report(`next test over ${posterior.hypotheses.length} hypotheses`, { ours, reference, name: "one inference" });
}

/** The largest sheet: every job that fits, on every axis of a machine, against its bare check. */
async function sheets(): Promise<void> {
  const axes = ["X", "Y", "Z"].map((letter) => ({
    letter,
    config: defaultAxis("vertical-centre", letter),
  }));
  const items = axes.flatMap((a) => jobsFor(a.config).map((k) => ({ letter: a.letter, kind: k.id })));
  const plan = (): JobPlan => planJob({ axes, items, options: DEFAULT_OPTIONS });
  const sheet = plan();
  const { steps } = sheet;
  const walk = (): unknown => steps.reduce((s, x) => stateAfter(s, x.axis, x.effects), sheet.start);
  const ours = await timed(plan);
  const audited = await timed(() => auditSheet({ ...sheet, kit: kitOf(sheet) }));
  const reference = await timed(walk);
  const what = `${items.length} jobs on 3 axes, ${steps.length} steps`;
  report(`sheet of ${what}`, { ours, reference, name: "walking it once" });
  report(`audit of ${what}`, { ours: audited, reference, name: "walking it once" });
}

/** `npm run bench` for speed; `npm run bench -- diagnosis [axes] [axes for the oracle]` for judgement, `-- circle [machines]` for a circle taken apart, `-- sound [recordings]` for what is heard of an axis, `-- learn-sound [recordings]` to learn its table anew, `-- listen [axes]` for the minutes that listening first saves, `-- coverage [part of a name]` for how often every ± and sentence holds. */
async function main(): Promise<void> {
  const [what, axes = "2000", oracle = "200"] = process.argv.slice(2);
  if (what === "coverage") {
    process.exitCode = benchCoverage(process.argv[3] ?? "") ? 0 : 1;
    return;
  }
  if (what === "sheets") {
    process.exitCode = benchSheets(Number(process.argv[3] ?? "200000")) ? 0 : 1;
    return;
  }
  if (what === "server") {
    await benchServer();
    return;
  }
  if (what === "web") {
    process.exitCode = (await benchWeb()) ? 0 : 1;
    return;
  }
  if (what === "rounds") {
    await benchRounds();
    return;
  }
  if (what === "circle") {
    process.exitCode = (await benchCircle(Number(process.argv[3] ?? "1000"))) ? 0 : 1;
    return;
  }
  if (what === "circle-machines") {
    circleMachines(Number(axes), Number(oracle));
    return;
  }
  if (what === "sound") {
    benchSound(Number(process.argv[3] ?? "1000"));
    return;
  }
  if (what === "listen") {
    benchListen(Number(process.argv[3] ?? 200));
    return;
  }
  if (what === "learn-sound") {
    await writeLearnedSound(Number(axes));
    return;
  }
  if (what === "diagnosis") {
    benchDiagnosis(Number(axes), Number(oracle));
    return;
  }
  await profile();
  await history();
  await ranking();
  await sheets();
}

void main();
