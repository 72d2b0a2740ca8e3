import fc from "fast-check";
import { jStat } from "jstat";
import * as stats from "simple-statistics";
import {
  BoundError,
  coverageFactor,
  decimalsFor,
  expandedUncertainty,
  formatDeviation,
  formatLoss,
  formatPosition,
  formatSize,
  formatWithU,
  fromMm,
  grubbsCritical,
  grubbsOutlier,
  LENGTH_UNITS,
  mean,
  rectangular,
  sampleDeviation,
  toMm,
} from ".";

describe("length", () => {
  it("takes the inch as 25.4 mm exactly (1959 agreement, ISO 80000-3)", () => {
    expect(toMm(1, "in")).toBe(25.4);
    expect(toMm(0.0005, "in")).toBeCloseTo(0.0127, 12);
    expect(fromMm(0.0254, "thou")).toBeCloseTo(1, 12);
    expect(fromMm(0.00254, "tenth")).toBeCloseTo(1, 12);
  });

  it("comes back from every unit", () => {
    const length = fc.double({ min: -1e4, max: 1e4, noNaN: true });
    fc.assert(
      fc.property(length, fc.constantFrom(...LENGTH_UNITS), (value, unit) => {
        expect(fromMm(toMm(value, unit), unit)).toBeCloseTo(value, 8);
      }),
    );
  });

  it("refuses what is not a number and names it", () => {
    expect(() => toMm(NaN, "mm")).toThrow(BoundError);
    expect(() => toMm(Infinity, "in")).toThrow("length is Infinity: it must be a finite number");
  });
});

describe("formatting", () => {
  it("shows no more digits than the uncertainty allows (JCGM 100 7.2.6)", () => {
    expect(formatDeviation(0.0271234, { system: "metric", expandedMm: 0.0016 })).toBe("27.1 µm");
    expect(formatDeviation(0.0271234, { system: "metric", expandedMm: 0.0041 })).toBe("27.1 µm");
    expect(formatDeviation(0.0271234, { system: "metric", expandedMm: 0.04 })).toBe("27 µm");
    expect([0.16, 1.6, 3.4, 34, 0.0996, 9.96].map(decimalsFor)).toEqual([2, 1, 1, 0, 2, 0]);
  });

  it("writes signs and units, and never a minus zero", () => {
    expect(formatDeviation(-0.0004, { system: "metric", signed: true })).toBe("−0.4 µm");
    expect(formatDeviation(-0.00001, { system: "metric", signed: true })).toBe("0.0 µm");
    expect(formatDeviation(0.0254, { system: "inch", signed: true })).toBe("+10.0 tenths");
    expect(formatPosition(180, { system: "metric" })).toBe("180.000 mm");
    expect(formatPosition(25.4, { system: "inch" })).toBe("1.0000 in");
    expect(formatSize(30, "metric")).toBe("30 mm");
    expect(formatLoss(0.027, "metric", 0.002)).toBe("0.0270 mm");
    expect(formatLoss(0.027, "inch")).toBe("0.0011 in");
  });

  it("never shows a ± of zero, in millimetres, micrometres, inches or tenths", () => {
    const size = fc.double({ min: 1e-6, max: 0.5, noNaN: true });
    fc.assert(
      fc.property(size, fc.constantFrom("metric" as const, "inch" as const), (U, system) => {
        const texts = [formatDeviation(U, { system, expandedMm: U }), formatLoss(U, system, U)];
        for (const text of texts) {
          // GUM 7.2.6: one significant digit or more is left of the uncertainty itself.
          expect(parseFloat(text)).toBeGreaterThan(0);
        }
        const [value, plusMinus] = formatWithU(0.0271, U, {
          system,
          bare: true,
        }).split(" ± ");
        expect(value.split(".")[1]?.length).toBe(plusMinus.split(".")[1]?.length);
      }),
    );
    expect(formatLoss(0.00004, "inch", 0.00004)).toBe("0.0000016 in");
    expect(formatWithU(0.0271, null, { system: "metric" })).toBe("27.1 µm, uncertainty unknown");
  });
});

describe("uncertainty", () => {
  it("takes a/√12 for a display step (GUM 4.3.7)", () => {
    expect(rectangular(1)).toBeCloseTo(0.288675, 6);
    expect(() => rectangular(-1)).toThrow("width is -1: it must be zero or more");
  });

  it("has the coverage factors of Student’s t at 95.45 % (jstat), as GUM table G.2 prints them", () => {
    for (const dof of [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 15, 20, 25, 30, 50, 100]) {
      const t = jStat.studentt.inv(0.97725, dof);
      expect(Math.abs(coverageFactor(dof) / t - 1)).toBeLessThan(0.003);
    }
    expect(coverageFactor(Infinity)).toBe(2);
    expect(coverageFactor(22.7)).toBeGreaterThan(coverageFactor(23));
    expect(coverageFactor(22.7)).toBeLessThan(coverageFactor(22));
    expect(() => coverageFactor(0.5)).toThrow("dof is 0.5");
  });

  it("reworks the end-gauge example of GUM H.1: u 32 nm, 16 degrees of freedom (from memory)", () => {
    const { u, dof } = expandedUncertainty([
      { u: 25, dof: 18 },
      { u: 9.7, dof: 25.6 },
      { u: 2.9, dof: 50 },
      { u: 16.6, dof: 2 },
    ]);
    expect(u).toBeCloseTo(31.7, 1);
    expect(Math.trunc(dof)).toBe(16);
  });
});

describe("statistics against simple-statistics", () => {
  const runs = fc.array(fc.double({ min: -50, max: 50, noNaN: true }), {
    minLength: 2,
    maxLength: 30,
  });

  it("agrees on mean and sample deviation", () => {
    fc.assert(
      fc.property(runs, (values) => {
        expect(mean(values)).toBeCloseTo(stats.mean(values), 9);
        expect(sampleDeviation(values)).toBeCloseTo(stats.sampleStandardDeviation(values), 9);
      }),
    );
  });

  it("has no deviation of one reading, rather than a deviation of zero", () => {
    expect(sampleDeviation([3])).toBeNaN();
    expect(() => mean([])).toThrow("number of values is 0: it must be at least 1");
  });

  it("recomputes the Grubbs table from Student’s t (jstat)", () => {
    for (let n = 3; n <= 20; n += 1) {
      const t = jStat.studentt.inv(1 - 0.05 / (2 * n), n - 2);
      const critical = ((n - 1) / Math.sqrt(n)) * Math.sqrt((t * t) / (n - 2 + t * t));
      expect(grubbsCritical(n)).toBeCloseTo(critical, 3);
    }
    expect(grubbsCritical(2)).toBeUndefined();
  });

  it("has the Grubbs values that are tabled, past twenty readings too", () => {
    // Grubbs & Beck 1972, two-sided 5 % (one-sided 2.5 %), from memory.
    const tabled = [
      [3, 1.155],
      [5, 1.715],
      [10, 2.29],
      [20, 2.709],
      [30, 2.908],
      [50, 3.128],
    ];
    for (const [n, g] of tabled) expect(grubbsCritical(n)).toBeCloseTo(g, 2);
  });

  it("points at the odd one and never at rounding", () => {
    expect(grubbsOutlier([1, 1.1, 0.9, 1, 9])).toBe(4);
    expect(grubbsOutlier([1, 1.1, 0.9, 1.05, 0.95])).toBeUndefined();
    expect(grubbsOutlier([0, 0, 0, 0, 1], 1)).toBeUndefined();
  });
});
