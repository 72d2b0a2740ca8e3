import * as fc from "fast-check";
import highsLoader from "highs";
import { linearRegression } from "simple-statistics";
import { lineFit } from "./line-fit";
import { levellingLifts, shimStack, SHIM_STOCK_MM } from "./shim-stack";

const bolts = [
  { name: "a", x: -120, y: 150 },
  { name: "b", x: 120, y: 150 },
  { name: "c", x: -120, y: -150 },
  { name: "d", x: 120, y: -150 },
];

describe("line fit", () => {
  it("is the regression of simple-statistics", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -0.5, max: 0.5, noNaN: true }), { minLength: 5, maxLength: 30 }), (ys) => {
        const points = ys.map((y, i) => ({ x: 13 * i + (i % 3), y }));
        const theirs = linearRegression(points.map((p) => [p.x, p.y]));
        const ours = lineFit(points);
        expect(ours.slope).toBeCloseTo(theirs.m, 9);
        expect(ours.offset).toBeCloseTo(theirs.b, 9);
      }),
    );
  });

  it("says what is missing", () => {
    expect(() => lineFit([{ x: 1, y: 1 }])).toThrow("number of places is 1");
    expect(() => lineFit([1, 2, 3].map((y) => ({ x: 5, y })))).toThrow("spread of the places");
  });
});

describe("shims", () => {
  it("takes the fewest pieces that come close enough", () => {
    expect(shimStack(0.3).pieces).toEqual([0.25, 0.05]);
    expect(shimStack(0.5).pieces).toEqual([0.5]);
    expect(shimStack(0).pieces).toEqual([]);
    expect(shimStack(0.01).pieces).toEqual([]);
    expect(() => shimStack(-0.1)).toThrow("shim thickness is -0.1");
    expect(() => shimStack(0.1, [])).toThrow("sizes in stock");
  });

  it("no combination of fewer pieces is close enough (all tried)", () => {
    const all = (k: number): number[] => (k === 0 ? [0] : all(k - 1).flatMap((s) => SHIM_STOCK_MM.map((p) => s + p)));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 900 }), (um) => {
        const { pieces, errorMm } = shimStack(um / 1000);
        expect(Math.abs(errorMm)).toBeLessThanOrEqual(0.0125 + 1e-9);
        for (let k = 0; k < Math.min(pieces.length, 4); k += 1)
          expect(Math.min(...all(k).map((s) => Math.abs(s - um / 1000)))).toBeGreaterThan(0.0125);
      }),
      { numRuns: 60 },
    );
  });

  it("the lifts are the smallest that level, by a linear programme (HiGHS)", async () => {
    const highs = await highsLoader();
    const slopes = [
      [1e-4, 0],
      [-2e-4, 1e-4],
      [3e-4, 3e-4],
      [0, -5e-5],
    ];
    for (const [sx, sy] of slopes) {
      // Lifts l ≥ 0 and a free height h: l_i + s·p_i = h for all, smallest sum.
      const rows = bolts.map((b, i) => `r${i}: l${i} - h = ${-(sx * b.x + sy * b.y)}`);
      const lp = `Minimize\n obj: l0 + l1 + l2 + l3\nSubject To\n ${rows.join("\n ")}\nBounds\n h free\nEnd`;
      const theirs = highs.solve(lp).ObjectiveValue;
      const ours = levellingLifts(bolts, sx, sy).reduce((s, l) => s + l.liftMm, 0);
      expect(ours).toBeCloseTo(theirs, 9);
    }
  });
});
