import * as stats from "simple-statistics";
import { normalNoise } from "../../simulate";
import { partTrend } from ".";

const MONTH = 30 * 86_400_000;

describe("a part from circle to circle", () => {
  it("grows as a general library’s line says (simple-statistics), whatever its unit", () => {
    for (const unit of [1, 1e-6]) {
      const values = [0.01, 0.0142, 0.0179, 0.0221].map((v) => unit * v);
      const line = stats.linearRegression(values.map((v, i) => [i, v]));
      const trend = partTrend(values.map((value, i) => ({ atMs: i * MONTH, value, u: unit * 0.001 })));
      expect(trend && trend.perMonth / unit).toBeCloseTo(line.m / unit, 6);
    }
  });

  it("is told of a steady part in at most 5 of 100 (invented circles)", () => {
    let told = 0;
    for (let n = 0; n < 400; n += 1) {
      const then = [0, 1, 2, 3, 4].map((i) => ({
        atMs: i * MONTH,
        value: 0.01 + 0.0005 * normalNoise(n, i),
        u: 0.001,
      }));
      if (partTrend(then)) told += 1;
    }
    expect(told / 400).toBeLessThanOrEqual(0.05);
    expect(partTrend([{ atMs: 0, value: 1, u: 0.1 }])).toBeNull();
  });
});
