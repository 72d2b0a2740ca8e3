import fc from "fast-check";
import * as stats from "simple-statistics";
import { evaluatePositioning, evaluateTarget, missingForStandard, tipAngleFactor, type TargetReadings } from ".";

/**
 * The tables of ISO 230-2's own worked example are not known to us by heart, so none is quoted.
 * These three targets are worked by hand from the definitions of ISO 230-2:2014 clause 3, µm.
 */
const byHand: TargetReadings[] = [
  { positionMm: 100, up: [1, 2, 3], down: [5, 6, 7] },
  { positionMm: 200, up: [-1, 0, 1], down: [3, 3, 3] },
  { positionMm: 300, up: [2, 4, 6], down: [9, 10, 11] },
];

describe("ISO 230-2:2014 quantities", () => {
  it("come out as worked by hand from the definitions", () => {
    const e = evaluatePositioning(byHand);
    expect(e.targets.map((t) => t.reversal)).toEqual([-4, -3, -6]);
    expect(e.reversalValue).toBe(6);
    expect(e.meanReversalValue).toBeCloseTo(-13 / 3, 12);
    expect(e.targets.map((t) => t.repeatability)).toEqual([8, 5, 12]);
    expect([e.repeatabilityUp, e.repeatabilityDown, e.repeatability]).toEqual([8, 4, 12]);
    expect([e.systematicUp, e.systematicDown, e.systematic]).toEqual([4, 7, 10]);
    expect(e.meanRange).toBe(7 - 1.5);
    // A↑: highest 4 + 2·2, lowest 0 − 2·1; A↓: highest 10 + 2·1, lowest 3; A: 12 − (−2)
    expect([e.accuracyUp, e.accuracyDown, e.accuracy]).toEqual([10, 9, 14]);
  });

  const deviation = fc.double({ min: -100, max: 100, noNaN: true });
  const targets = fc.array(
    fc.record({
      positionMm: fc.double({ min: 0, max: 2000, noNaN: true }),
      up: fc.array(deviation, { minLength: 2, maxLength: 10 }),
      down: fc.array(deviation, { minLength: 2, maxLength: 10 }),
    }),
    { minLength: 1, maxLength: 20 },
  );

  it("agree with means and deviations of a general statistics library (simple-statistics)", () => {
    fc.assert(
      fc.property(targets, (readings) => {
        const e = evaluatePositioning(readings);
        const m = readings.map((t) => ({
          u: stats.mean(t.up),
          d: stats.mean(t.down),
          su: stats.sampleStandardDeviation(t.up),
          sd: stats.sampleStandardDeviation(t.down),
        }));
        expect(e.reversalValue).toBeCloseTo(stats.max(m.map((t) => Math.abs(t.u - t.d))), 8);
        expect(e.meanReversalValue).toBeCloseTo(stats.mean(m.map((t) => t.u - t.d)), 8);
        expect(e.repeatability).toBeCloseTo(
          stats.max(m.map((t) => Math.max(2 * t.su + 2 * t.sd + Math.abs(t.u - t.d), 4 * t.su, 4 * t.sd))),
          8,
        );
        const all = m.flatMap((t) => [t.u, t.d]);
        expect(e.systematic).toBeCloseTo(stats.max(all) - stats.min(all), 8);
        const mids = m.map((t) => (t.u + t.d) / 2);
        expect(e.meanRange).toBeCloseTo(stats.max(mids) - stats.min(mids), 8);
        const highs = m.flatMap((t) => [t.u + 2 * t.su, t.d + 2 * t.sd]);
        const lows = m.flatMap((t) => [t.u - 2 * t.su, t.d - 2 * t.sd]);
        expect(e.accuracy).toBeCloseTo(stats.max(highs) - stats.min(lows), 8);
      }),
    );
  });

  it("keep the standard’s order: B ≤ R ≤ A and E ≤ A", () => {
    fc.assert(
      fc.property(targets, (readings) => {
        const e = evaluatePositioning(readings);
        expect(e.reversalValue).toBeLessThanOrEqual(e.repeatability + 1e-9);
        expect(e.repeatability).toBeLessThanOrEqual(e.accuracy + 1e-9);
        expect(e.systematic).toBeLessThanOrEqual(e.accuracy + 1e-9);
      }),
    );
  });

  it("leave s unknown after one run", () => {
    expect(evaluateTarget({ positionMm: 0, up: [1], down: [2] }).sUp).toBeNaN();
    expect(() => evaluatePositioning([])).toThrow("number of targets is 0");
  });
});

describe("missingForStandard", () => {
  const five = Array.from({ length: 5 }, (_, i) => ({
    positionMm: i * 100,
    up: [1, 1, 1, 1, 1],
    down: [1, 1, 1, 1, 1],
  }));

  it("wants five targets a metre, five runs each way and one reference", () => {
    expect(missingForStandard(five, true)).toEqual([]);
    expect(missingForStandard(five.slice(1), true)).toEqual(["5 targets (there are 4)"]);
    expect(missingForStandard([...five.slice(0, 4), { ...five[4], positionMm: 1600 }], true)).toEqual([
      "8 targets (there are 5)",
    ]);
    expect(missingForStandard([...five.slice(0, 4), { ...five[4], up: [1, 1, 1] }], true)[0]).toContain(
      "the least is 3",
    );
    expect(missingForStandard(five, false)[0]).toContain("set to zero anew at each place");
  });
});

describe("tipAngleFactor", () => {
  it("is the published correction table", () => {
    const table: [number, number][] = [
      [10, 0.985],
      [20, 0.94],
      [30, 0.866],
      [45, 0.707],
    ];
    for (const [angle, factor] of table) expect(tipAngleFactor(angle)).toBeCloseTo(factor, 3);
    expect(tipAngleFactor(0)).toBe(1);
    expect(() => tipAngleFactor(85)).toThrow("tip angle is 85: it must be from 0° to below 80°");
  });
});
