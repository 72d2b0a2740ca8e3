import { defaultAxis, type TestPlan } from "@iron/core";
import type { Axis, Run, RunSetup, UsualPointsInput } from "@iron/contract";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pino, type Logger } from "pino";
import supertest from "supertest";
import { createApp, type App } from "../app";
import type { Clock } from "../shop/clock";
import type { Db } from "../store/database";
import type { WorkPool } from "../threads/pool";
import { testStore } from "./test-store";

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

/** The whole server on an empty or demo database in a temporary folder, simulated machines at once. */
export async function testApp(
  options: {
    simulate?: boolean;
    webFolder?: string;
    host?: string;
    names?: readonly string[];
    pool?: WorkPool;
    demo?: boolean;
    /** Which store, where it must be one of them; the suite’s when left out. */
    store?: "file" | "postgres";
    clock?: Clock;
    tls?: "own" | "proxy";
    setUpCode?: string;
    simulationSpeed?: number;
    log?: Logger;
  } = {},
): Promise<TestApp> {
  const folder = mkdtempSync(join(tmpdir(), "iron-"));
  const store = await testStore(folder, options);
  const { db } = store;
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
    ...(options.clock ? { clock: options.clock } : {}),
    ...(options.pool ? { pool: options.pool } : {}),
  });
  return {
    api: supertest.agent(app.express).set("x-working-as", "Rowan") as TestApp["api"],
    db,
    app,
    folder,
    close: async () => {
      await app.close();
      await store.close();
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
