import { checkPlan, stepsOf, type TestPlan, type TestStep } from "@iron/core";
import { planOfRows, type CsvReading, type RunSetup } from "@iron/contract";
import { createHash } from "node:crypto";
import { problem } from "../http/problem-error";
import type { Db } from "../store/database";
import { settleAxes } from "../machine/axis-summary";
import { instant, type Clock } from "../shop/clock";
import type { Machines } from "../machine/machines";
import { summarise } from "./run-summary";
import type { WorkPool } from "../threads/pool";
import { insertReadings, type NewReading } from "./readings";
import type { Runs } from "./runs";

/** Wrong rows that are told one by one. */
const MOST_ERRORS = 500;

/** Readings from files: all or nothing, and the same readings only once. */
export class RunImport {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly runs: Runs;
      readonly clock: Clock;
      readonly pool: WorkPool;
    },
  ) {}

  async importCsv(
    axisId: number,
    {
      text,
      setup,
      keepsZero,
      overTravelMm,
      who,
    }: {
      readonly text: string;
      readonly setup: RunSetup;
      readonly keepsZero: boolean;
      readonly overTravelMm: number;
      readonly who: string;
    },
  ) {
    const axis = await this.needs.machines.axis(axisId);
    const { rows, errors } = await this.needs.pool.run("readReadings", text);
    if (errors.length > 0) {
      throw problem(422, {
        title: "Rows are wrong",
        detail: `${errors.length} rows cannot be read; nothing was kept.`,
        errors: errors.slice(0, MOST_ERRORS).map((e) => ({
          path: `line ${e.line}${e.column ? `, ${e.column}` : ""}`,
          message: e.message,
        })),
      });
    }
    const plan = planOfRows(rows, keepsZero, overTravelMm);
    checkPlan(plan, axis.config.travelMm);
    const hash = createHash("sha256")
      .update(JSON.stringify(rows.map((r) => [r.placeMm, r.approach, r.run, r.readingMm, r.state])))
      .digest("hex");
    return this.needs.db.transaction().execute(async (trx) => {
      const before = await trx
        .selectFrom("run")
        .select("id")
        .where("axis_id", "=", axisId)
        .where("import_hash", "=", hash)
        .executeTakeFirst();
      if (before) return { runId: before.id, duplicate: true, readings: rows.length };
      const runId = await this.needs.runs.insertRun(trx, { axisId, create: { plan, setup }, who, hash });
      const readings = readingsFrom(rows, plan, setup.indicator.resolutionMm);
      await insertReadings(trx, { runId, readings, at: instant(this.needs.clock), who });
      await trx
        .updateTable("run")
        .set({ state: "finished", finished_at: instant(this.needs.clock) })
        .where("id", "=", runId)
        .execute();
      await summarise(trx, await this.needs.runs.run(runId, trx));
      await settleAxes(trx, [axisId]);
      return { runId, duplicate: false, readings: rows.length };
    });
  }
}

/** Each row as the reading of its step; zeros as a test has them. */
function readingsFrom(rows: readonly CsvReading[], plan: TestPlan, widthMm: number): NewReading[] {
  const steps = stepsOf(plan);
  const offset = (placeMm: number): number => (plan.keepsZero ? placeMm - plan.targetsMm[0] : 0);
  const plain = { widthMm, source: "import" as const };
  const byKey = new Map(
    steps.filter((s) => s.action === "read").map((s) => [`${s.targetMm} ${s.direction} ${s.run}`, s]),
  );
  const zeros = steps.filter((s) => s.action === "zero");
  return [
    ...zeros.map((step) => ({ ...plain, step: step.index, value: 0, entered: "", spoilt: false, reason: "" })),
    ...rows.map((row) => {
      const step = byKey.get(`${row.placeMm} ${row.approach} ${row.run}`) as TestStep;
      const aside = row.state !== "kept";
      return {
        ...plain,
        step: step.index,
        value: row.readingMm + offset(row.placeMm),
        entered: `line ${row.line}`,
        spoilt: aside,
        reason: aside ? row.reason || `${row.state} in the file` : "",
      };
    }),
  ];
}
