import * as fc from "fast-check";
import highsLoader from "highs";
import { linearRegression } from "simple-statistics";
import { crestAlignment, crestLimit } from "./crest-alignment";
import { lineFit } from "./line-fit";
import { levellingLifts, shimStack, SHIM_STOCK_MM } from "./shim-stack";
import { tram, TRAM_LIMIT } from "./tram";

const bolts = [
  { name: "a", x: -120, y: 150 },
  { name: "b", x: 120, y: 150 },
  { name: "c", x: -120, y: -150 },
  { name: "d", x: 120, y: -150 },
];

describe("line fit", () => {
  it("is the regression of simple-statistics", () => {
    fc.assert(fc.property(
      fc.array(fc.double({ min: -0.5, max: 0.5, noNaN: true }), { minLength: 5, maxLength: 30 }),
      (ys) => {
        const points = ys.map((y, i) => ({ x: 13 * i + (i % 3), y }));
        const theirs = linearRegression(points.map((p) => [p.x, p.y]));
        const ours = lineFit(points);
        expect(ours.slope).toBeCloseTo(theirs.m, 9);
        expect(ours.offset).toBeCloseTo(theirs.b, 9);
      },
    )); // prettier-ignore
  });

  it("says what is missing", () => {
    expect(() => lineFit([{ x: 1, y: 1 }])).toThrow("number of places is 1");
    expect(() => lineFit([1, 2, 3].map((y) => ({ x: 5, y })))).toThrow("spread of the places"); // prettier-ignore
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
    const all = (k: number): number[] =>
      k === 0
        ? [0]
        : all(k - 1).flatMap((s) => SHIM_STOCK_MM.map((p) => s + p));
    fc.assert(fc.property(fc.integer({ min: 0, max: 900 }), (um) => {
      const { pieces, errorMm } = shimStack(um / 1000);
      expect(Math.abs(errorMm)).toBeLessThanOrEqual(0.0125 + 1e-9);
      for (let k = 0; k < Math.min(pieces.length, 4); k += 1)
        expect(Math.min(...all(k).map((s) => Math.abs(s - um / 1000)))).toBeGreaterThan(0.0125);
    }), { numRuns: 60 }); // prettier-ignore
  });

  it("the lifts are the smallest that level, by a linear programme (HiGHS)", async () => {
    const highs = await highsLoader();
    const slopes = [[1e-4, 0], [-2e-4, 1e-4], [3e-4, 3e-4], [0, -5e-5]]; // prettier-ignore
    for (const [sx, sy] of slopes) {
      // Lifts l ≥ 0 and a free height h: l_i + s·p_i = h for all, smallest sum.
      const rows = bolts.map((b, i) => `r${i}: l${i} - h = ${-(sx * b.x + sy * b.y)}`); // prettier-ignore
      const lp = `Minimize\n obj: l0 + l1 + l2 + l3\nSubject To\n ${rows.join("\n ")}\nBounds\n h free\nEnd`; // prettier-ignore
      const theirs = highs.solve(lp).ObjectiveValue;
      const ours = levellingLifts(bolts, sx, sy).reduce((s, l) => s + l.liftMm, 0); // prettier-ignore
      expect(ours).toBeCloseTo(theirs, 9);
    }
  });
});

describe("crest alignment", () => {
  const supports = { fixedMm: -50, farMm: 550, bracketMm: 250, leadMm: 10 };
  const places = [12, 74, 136, 191, 253, 318, 372, 433, 496];
  const plane = (slope: number, swing = 0) => ({
    name: "0°",
    points: places.map((x) => ({ x, y: 0.1 + slope * x + swing * Math.cos((2 * Math.PI * x) / 10) })), // prettier-ignore
  });

  it("moves the other supports onto the datum’s height", () => {
    const { moves, predictedMm } = crestAlignment([plane(2e-4)], supports, "fixed"); // prettier-ignore
    const far = moves.find((m) => m.support === "far");
    expect(far?.moveMm).toBeCloseTo(-0.12, 9);
    expect(moves.find((m) => m.support === "bracket")?.moveMm).toBeCloseTo(-0.06, 9); // prettier-ignore
    expect(far?.shims.pieces).toEqual([0.1, 0.025]);
    expect(predictedMm).toBeLessThanOrEqual(0.0125);
  });

  it("whichever the datum, the screw ends parallel to the ways", () => {
    fc.assert(fc.property(fc.double({ min: -4e-4, max: 4e-4, noNaN: true }), fc.constantFrom("fixed", "far", "bracket"), (slope, datum) => {
      const { moves } = crestAlignment([plane(slope)], supports, datum as "far");
      const place = { fixed: -50, far: 550, bracket: 250 };
      const after = (["fixed", "far", "bracket"] as const).map((s) => slope * place[s] + (moves.find((m) => m.support === s)?.moveMm ?? 0));
      for (const h of after) expect(h).toBeCloseTo(after[0], 9);
    })); // prettier-ignore
  });

  it("tells a swing once per turn from a slope, and says when it cannot", () => {
    const [seen] = crestAlignment([plane(0, 0.02)], supports, "fixed").planes;
    expect(seen.perTurnMm).toBeCloseTo(0.02, 2);
    expect(seen.bendMm).toBeLessThan(0.01);
    const whole = { name: "0°", points: places.map((_, i) => ({ x: 10 * i, y: 0.02 })) }; // prettier-ignore
    expect(crestAlignment([whole], supports, "fixed").planes[0].perTurnMm).toBeNull(); // prettier-ignore
    expect(crestLimit(600)).toBe(0.03);
  });
});

describe("tram", () => {
  it("0.001 in over 6 in is 0.050 mm over 300 mm, and just fine", () => {
    // Common practice, no source.
    const at = tram({ leftMm: 0, rightMm: 0.0254, farMm: null, nearMm: null, spanMm: 152.4, depthMm: null }, bolts); // prettier-ignore
    expect(at.slopes[0].per300Mm).toBeCloseTo(0.05, 9);
    expect(at.slopes[0].per6InMm).toBeCloseTo(0.0254, 9);
    expect(at.within).toBe(true);
    expect(TRAM_LIMIT * 300).toBeCloseTo(0.05, 12);
  });

  it("shims what it finds, both ways", () => {
    const at = tram({ leftMm: 0, rightMm: 0.06, farMm: 0.05, nearMm: 0.02, spanMm: 300, depthMm: 300 }, bolts); // prettier-ignore
    expect(at.within).toBe(false);
    expect(at.slopes.map((s) => s.nearer)).toEqual(["right", "far"]);
    const lift = Object.fromEntries(at.bolts.map((b) => [b.name, b.liftMm]));
    expect(lift["b"]).toBeCloseTo(0, 12);
    expect(lift["a"] - lift["b"]).toBeCloseTo((0.06 / 300) * 240, 12);
    expect(lift["d"] - lift["b"]).toBeCloseTo((0.03 / 300) * 300, 12);
    expect(() => tram({ leftMm: 0, rightMm: 0, farMm: null, nearMm: null, spanMm: 0, depthMm: null }, bolts)).toThrow("span is 0"); // prettier-ignore
  });
});
