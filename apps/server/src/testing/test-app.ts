import { defaultAxis, type TestPlan } from "@iron/core";
import type { Axis, Run, RunSetup, UsualPointsInput } from "@iron/contract";
import { sql } from "kysely";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pino, type Logger } from "pino";
import supertest from "supertest";
import { createApp, type App } from "../app";
import { seedDemo } from "../demo/seed";
import { DATABASE_FILE, openDatabase, type Db } from "../store/database";
import type { WorkPool } from "../threads/pool";

export interface TestApp {
  readonly api: ReturnType<typeof supertest>;
  readonly db: Db;
  readonly app: App;
  readonly folder: string;
  close(): Promise<void>;
}

export const SETUP: RunSetup = {
  indicator: {
    name: "Digital",
    kind: "digital",
    resolutionMm: 0.001,
    unit: "mm",
    tipAngleDeg: 0,
    rangeMm: 10,
  },
  tipAngleDeg: 0,
  sense: 1,
  surface: "gauge block",
  temperatureC: 20,
  note: "",
};

export const TWO_SIDED: TestPlan = {
  kind: "two-sided",
  targetsMm: [180],
  runs: 3,
  overTravelMm: 20,
  tickMm: 0.001,
  ticksOut: 50,
  keepsZero: false,
};

const made = new Map<boolean, Promise<Buffer>>();
/** A database brought up to date, or filled with the demo shop, once for all tests of a file, to be copied. */
function shopFile(demo: boolean): Promise<Buffer> {
  const known = made.get(demo);
  if (known) return known;
  const file = (async () => {
    const folder = mkdtempSync(join(tmpdir(), "iron-empty-"));
    const db = await openDatabase(folder);
    await sql`pragma synchronous = off`.execute(db);
    if (demo) await seedDemo(db, new Date());
    await sql`pragma wal_checkpoint(truncate)`.execute(db);
    await db.destroy();
    const bytes = readFileSync(join(folder, DATABASE_FILE));
    rmSync(folder, { recursive: true });
    return bytes;
  })();
  made.set(demo, file);
  return file;
}

/** The whole server on an empty or demo database in a temporary folder, simulated machines at once. */
export async function testApp(
  options: {
    simulate?: boolean;
    webFolder?: string;
    host?: string;
    names?: readonly string[];
    pool?: WorkPool;
    demo?: boolean;
    tls?: "own" | "proxy";
    setUpCode?: string;
    simulationSpeed?: number;
    log?: Logger;
  } = {},
): Promise<TestApp> {
  const folder = mkdtempSync(join(tmpdir(), "iron-"));
  writeFileSync(join(folder, DATABASE_FILE), await shopFile(options.demo ?? false));
  const db = await openDatabase(folder);
  // Whether a power cut loses anything is tested elsewhere, on servers of their own; here nobody waits for a disk.
  await sql`pragma synchronous = off`.execute(db);
  const app = createApp({
    db,
    folder,
    log: options.log ?? pino({ level: process.env["LOG_LEVEL"] ?? "silent" }),
    version: "test",
    host: options.host ?? "127.0.0.1",
    names: options.names ?? [],
    tls: options.tls ?? null,
    setUpCode: options.setUpCode ?? null,
    webFolder: options.webFolder ?? null,
    simulate: options.simulate ?? true,
    simulationSpeed: options.simulationSpeed ?? Infinity,
    simulationSeed: 1,
    checkAnswers: true,
    ...(options.pool ? { pool: options.pool } : {}),
  });
  return {
    api: supertest.agent(app.express).set("x-working-as", "Rowan") as TestApp["api"],
    db,
    app,
    folder,
    close: async () => {
      await app.close();
      await db.destroy();
      rmSync(folder, { recursive: true });
    },
  };
}

export async function newAxis(t: TestApp, letter = "X"): Promise<Axis> {
  const machine = {
    nickname: "Wren",
    bay: "1",
    kind: "vertical-centre",
    hoursPerWeek: 40,
    note: "",
    letters: [],
  };
  const made = await t.api.post("/api/machines").send(machine).expect(201);
  const config = defaultAxis("vertical-centre", letter);
  const axis = await t.api.post(`/api/machines/${made.body.id}/axes`).send({ config }).expect(201);
  return axis.body as Axis;
}

export async function startRun(
  t: TestApp,
  axisId: number,
  { plan = {}, setup = {} }: { readonly plan?: Partial<TestPlan>; readonly setup?: Partial<RunSetup> } = {},
): Promise<Run> {
  const answer = await t.api
    .post(`/api/axes/${axisId}/runs`)
    .set("x-working-as", "Ilse")
    .send({ plan: { ...TWO_SIDED, ...plan }, setup: { ...SETUP, ...setup } })
    .expect(201);
  return answer.body as Run;
}

/** How a machine is usually lubricated, and nobody knows since when. */
export const USUAL = {
  setUp: { central: "none", carriages: "nipple", nuts: "nipple", board: false },
  factors: [],
  lastDone: null,
} satisfies UsualPointsInput;
