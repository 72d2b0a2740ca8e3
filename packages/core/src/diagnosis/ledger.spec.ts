import fc from "fast-check";
import { jStat } from "jstat";
import { fcnnlsVector } from "ml-fcnnls";
import { Matrix, solve } from "ml-matrix";
import { defaultAxis, type AxisConfig } from "../machine/axis";
import { nonNegativeLeastSquares, normalEquations, solveLinear } from "../quantity/nnls";
import { chiSquaredExceeded } from "../quantity";
import { lossLedger } from "./ledger";
import type { Magnitude } from "./components";

const axis = defaultAxis("vertical-centre", "X");
const size = (kind: Magnitude["kind"], um: number, u = 1): Magnitude => ({
  kind,
  reversalValueMm: um / 1000,
  uMm: u / 1000,
});

describe("least squares against general libraries", () => {
  const problem = fc
    .integer({ min: 2, max: 4 })
    .chain((n) =>
      fc.record({
        rows: fc.array(fc.array(fc.double({ min: 0, max: 2, noNaN: true }), { minLength: n, maxLength: n }), {
          minLength: n + 2,
          maxLength: n + 5,
        }),
        truth: fc.array(fc.double({ min: -2, max: 3, noNaN: true }), { minLength: n, maxLength: n }),
      }),
    )
    .map(({ rows, truth }) => ({
      // Each unknown is measured once by itself: the determinant is at least 1, however the rest falls.
      rows: [...truth.map((_, i) => truth.map((__, j) => (i === j ? 1 : 0))), ...rows],
      truth,
    }));

  it("solves linear systems as ml-matrix does", () => {
    fc.assert(
      fc.property(problem, ({ rows, truth }) => {
        const ones = rows.map(() => 1);
        const values = rows.map((r) => r.reduce((s, a, i) => s + a * truth[i], 0));
        const { matrix, right } = normalEquations(rows, values, ones);
        const theirs = solve(new Matrix(matrix), Matrix.columnVector(right)).to1DArray();
        const ours = solveLinear(matrix, right);
        expect(ours).not.toBeNull();
        ours?.forEach((v, i) => expect(v).toBeCloseTo(theirs[i], 6));
      }),
    );
  });

  it("finds the non-negative solution of ml-fcnnls", () => {
    fc.assert(
      fc.property(problem, ({ rows, truth }) => {
        const values = rows.map((r, k) => r.reduce((s, a, i) => s + a * truth[i], 0) + 0.1 * Math.sin(k));
        const ours = nonNegativeLeastSquares(
          rows,
          values,
          rows.map(() => 1),
        ).solution;
        const theirs = fcnnlsVector(new Matrix(rows), values).K.to1DArray();
        const misfit = (x: readonly number[]): number =>
          rows.reduce((s, r, k) => s + (values[k] - r.reduce((t, a, i) => t + a * x[i], 0)) ** 2, 0);
        expect(ours.every((v) => v >= 0)).toBe(true);
        expect(misfit(ours)).toBeLessThanOrEqual(misfit(theirs) * (1 + 1e-6) + 1e-9);
      }),
    );
  });

  it("has the χ² tail of a statistics library (jstat)", () => {
    for (const dof of [1, 2, 3, 5, 10, 30])
      for (const x of [0.1, 1, 3.84, 7, 15, 40])
        expect(chiSquaredExceeded(x, dof)).toBeCloseTo(1 - jStat.chisquare.cdf(x, dof), 8);
    expect(chiSquaredExceeded(3.841, 1)).toBeCloseTo(0.05, 4);
    expect(() => chiSquaredExceeded(-1, 1)).toThrow("chi squared is -1");
    expect(() => nonNegativeLeastSquares([[1]], [1], [0])).toThrow("weight is 0: it must be above 0");
  });
});

describe("the loss ledger", () => {
  it("adds up: shares, wind-up and the rest are what the whole chain loses", () => {
    const ledger = lossLedger(axis, [
      size("whole-chain", 27),
      size("end-float", 19.8),
      size("nut-flank", 3.1),
      size("coupling-slip", 0.4),
    ]);
    const shares = ledger.lines.reduce((s, l) => s + (l.shareMm ?? 0), 0);
    expect(shares + (ledger.rest?.mm ?? NaN)).toBeCloseTo(0.027, 9);
    const bearings = ledger.lines.find((l) => l.name === "End bearings and housing");
    expect(bearings?.shareMm).toBeCloseTo(0.0198, 9);
    expect(bearings?.expandedMm).toBeCloseTo(0.002, 9);
    expect(ledger.contradictions).toEqual([]);
  });

  it("gives what nobody looked at its bounds, never a share", () => {
    const ledger = lossLedger(axis, [size("whole-chain", 27), size("end-float", 20)]);
    const bracket = ledger.lines.find((l) => l.slacks[0] === "bracket");
    expect(bracket?.shareMm).toBeNull();
    expect(bracket?.boundsMm[0]).toBe(0);
    expect(bracket?.boundsMm[1]).toBeGreaterThan(0.005);
    expect(bracket?.boundsMm[1]).toBeLessThan(0.012);
  });

  it("tells housing from bearings once the housing has been looked at", () => {
    const ledger = lossLedger(axis, [size("end-float", 20), size("housing-shift", 15)]);
    const share = (slack: string): number | null | undefined =>
      ledger.lines.find((l) => l.slacks[0] === slack)?.shareMm;
    expect(share("housing")).toBeCloseTo(0.015, 6);
    expect(share("bearings")).toBeCloseTo(0.005, 6);
  });

  it("says in words when one link alone is more than the whole", () => {
    const ledger = lossLedger(axis, [size("whole-chain", 12), size("end-float", 25)]);
    expect(ledger.contradictions[0]).toBe(
      "The end float alone, 25.0 µm, is more than the whole, 12.0 µm: one of the two was read wrongly, or something moved between them. Repeat the end float first.",
    );
    const inch = lossLedger(axis, [size("whole-chain", 12), size("end-float", 25)], "inch");
    expect(inch.contradictions[0]).toContain("tenths");
  });

  it("finds repeated tests that disagree by χ², and lets those that agree be", () => {
    const agree = lossLedger(axis, [size("end-float", 20), size("end-float", 21)]);
    expect(agree.consistency?.dof).toBe(1);
    expect(agree.contradictions).toEqual([]);
    const disagree = lossLedger(axis, [size("end-float", 20), size("end-float", 30)]);
    expect(disagree.consistency?.chance).toBeLessThan(1e-6);
    expect(disagree.contradictions[0]).toContain("disagree");
    const housing = lossLedger(axis, [size("end-float", 5), size("housing-shift", 15)]);
    expect(housing.contradictions[0]).toContain("read against the housing");
    expect(housing.lines.map((l) => l.name)).toContain("End bearings");
    // One voice: the same slip makes the housing more than the whole too, and is not told twice.
    const whole = lossLedger(axis, [size("whole-chain", 27), size("end-float", 5), size("housing-shift", 30)]);
    expect(whole.repeat).toEqual(["end-float"]);
  });

  it("a flank reading is nut and bracket together until the bracket is measured by itself", () => {
    const both = lossLedger(axis, [size("whole-chain", 60), size("nut-flank", 55)]);
    expect(both.lines.find((l) => l.slacks.includes("nut"))).toMatchObject({ name: "Nut and bracket" });
    expect(both.lines.filter((l) => l.slacks.includes("bracket"))).toHaveLength(1);
    const turning = lossLedger({ ...axis, transmission: "rotating-nut" }, [size("nut-flank", 30)]);
    expect(turning.lines.find((l) => l.slacks.includes("nut"))?.name).toBe("Nut and its bearings");
    const apart = lossLedger(axis, [size("whole-chain", 60), size("nut-flank", 55), size("bracket-shift", 52)]);
    expect(apart.lines.find((l) => l.slacks.includes("nut"))?.shareMm).toBeCloseTo(0.003, 9);
    expect(apart.lines.find((l) => l.slacks.includes("bracket"))?.shareMm).toBeCloseTo(0.052, 9);
  });

  it("says a reading that its sign makes impossible, instead of a silent nothing", () => {
    const ledger = lossLedger(axis, [size("whole-chain", 20), size("nut-flank", -5)]);
    expect(ledger.lines.find((l) => l.slacks.includes("nut"))?.shareMm).toBe(0);
    expect(ledger.contradictions[0]).toContain("The nut flank reads −5.0 ± 2.0 µm: a part cannot gain");
    expect(lossLedger(axis, [size("nut-flank", -0.5)]).contradictions).toEqual([]);
  });

  it("does not average two wholes that differ beyond their U", () => {
    const ledger = lossLedger(axis, [size("whole-chain", 27), size("whole-chain", 19)]);
    expect(ledger.total?.reversalValueMm).toBeCloseTo(0.019, 9);
    expect(ledger.contradictions.join(" ")).toContain("27.0 ± 2.0 µm and 19.0 ± 2.0 µm");
    const agree = lossLedger(axis, [size("whole-chain", 20), size("whole-chain", 22)]);
    expect(agree.total?.reversalValueMm).toBeCloseTo(0.021, 9);
    expect(agree.contradictions).toEqual([]);
  });

  it("has no whole to add up to on a scale axis", () => {
    const scale: AxisConfig = { ...axis, feedback: "scale" };
    const ledger = lossLedger(scale, [size("whole-chain", 0.3), size("end-float", 15)]);
    expect(ledger.total).toBeNull();
    expect(ledger.lines[1].shareMm).toBeCloseTo(0.015, 9);
  });
});
