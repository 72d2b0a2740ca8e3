import { trueReversal } from "@iron/core";
import type { Floor, Run } from "@iron/contract";
import { testApp, startRun, type TestApp } from "../testing/test-app";
import { resultOf } from "../measure/readings";
import { fromJson } from "../store/columns";
import { seedDemo } from "./seed";

describe("the demo shop", () => {
  let t: TestApp;

  beforeAll(async () => {
    t = await testApp();
    await seedDemo(t.db, new Date("2026-03-03T09:00:00Z"));
  });
  afterAll(() => t.close());

  it("is measured axis by axis: each hidden loss is found within its U, but for a few of the many", async () => {
    const floor = (await t.api.get("/api/floor")).body as Floor;
    const axes = floor.machines.flatMap((m) => m.axes);
    expect(axes.length).toBeGreaterThan(20);
    const misses: string[] = [];
    for (const axis of axes) {
      const model = await t.db
        .selectFrom("virtual_axis")
        .select("model")
        .where("axis_id", "=", axis.id)
        .executeTakeFirstOrThrow()
        .then((row) => fromJson(row.model));
      const at = Math.round(model.travelMm / 20) * 10;
      const over = Math.min(30, Math.floor(model.travelMm / 10));
      const run = await startRun(t, axis.id, {
        plan: {
          targetsMm: [at],
          runs: 5,
          overTravelMm: over,
        },
      });
      await t.api
        .post(`/api/axes/${axis.id}/device/program`)
        .send({ runId: run.id, feedMmMin: 1000, dwellS: 2 })
        .expect(200);
      const done = (await t.api.get(`/api/runs/${run.id}`)).body as Run;
      expect(done.state).toBe("finished");
      const result = resultOf(done);
      if (!result) throw new Error(`no result on axis ${axis.id}`);
      const truth = trueReversal(model, at);
      if (Math.abs(result.reversalValueMm - truth) > result.uncertainty.expanded)
        misses.push(
          `${axis.letter} ${axis.id}: ${result.reversalValueMm} ± ${result.uncertainty.expanded}, truly ${truth}`,
        );
    }
    // U covers about 95 %: one or two of two dozen may lie outside by chance.
    if (misses.length > 2) throw new Error(misses.join("\n"));
    expect(misses.length).toBeLessThanOrEqual(2);
  });
});
