import * as stats from "simple-statistics";
import { compareMeasurements, lossTrend, type HistoryPoint } from ".";

const DAY = 86_400_000;
const at = (day: number, reversalValueMm: number, expandedMm = 0.002): HistoryPoint => ({
  atMs: day * DAY,
  reversalValueMm,
  expandedMm,
});

describe("compareMeasurements", () => {
  it("calls a change one only when it is larger than both uncertainties together", () => {
    expect(compareMeasurements(at(0, 0.01), at(30, 0.012)).significant).toBe(false);
    const real = compareMeasurements(at(0, 0.01), at(30, 0.015));
    expect(real.significant).toBe(true);
    expect(real.expandedMm).toBeCloseTo(Math.SQRT2 * 0.002, 12);
  });
});

describe("lossTrend", () => {
  const points = [at(0, 0.01), at(30, 0.0133), at(60, 0.0158), at(90, 0.0193)];

  it("has the slope of a general library’s line when the weights are equal (simple-statistics)", () => {
    const line = stats.linearRegression(points.map((p) => [p.atMs / DAY / 30, p.reversalValueMm]));
    expect(lossTrend(points, 0.025)?.perMonthMm).toBeCloseTo(line.m, 10);
    const reach = lossTrend(points, 0.025)?.reachesLimitAtMs as number;
    expect(reach / DAY / 30).toBeCloseTo((0.025 - line.b) / line.m, 6);
  });

  it("foretells nothing from noise, from two points or past the limit", () => {
    expect(lossTrend(points.slice(0, 2), 0.025)).toBeNull();
    expect(lossTrend([at(0, 0.01), at(30, 0.0105), at(60, 0.0098)], 0.025)).toMatchObject({
      significant: false,
      reachesLimitAtMs: null,
    });
    expect(lossTrend([at(0, 0.01), at(0, 0.011), at(0, 0.012)], 0.025)).toBeNull();
    expect(lossTrend(points, 0.012)?.reachesLimitAtMs).toBeNull();
  });

  it("trusts precise measurements more", () => {
    const tilted = [at(0, 0.01, 0.0005), at(30, 0.03, 0.05), at(60, 0.012, 0.0005)];
    expect(lossTrend(tilted, 1)?.perMonthMm).toBeCloseTo(0.001, 4);
  });
});
