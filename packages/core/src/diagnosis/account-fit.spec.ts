import { fcnnlsVector } from "ml-fcnnls";
import { CholeskyDecomposition, Matrix } from "ml-matrix";
import { accountFit, misfit } from "./account-fit";
import { causeById } from "./causes";
import { slackModel, type Magnitude } from "./components";
import { fitOf } from "./share-mixture";
import { isSure, nextTest } from "./next-test";
import { axis, found, magnitude, whole } from "./evidence.testing";
import { infer } from "./infer";
import type { Cause } from "./knowledge";
import { lossLedger } from "./ledger";
import { MAGNITUDES } from "./slack";
import { caseVerdict } from "./verdict";
import { chanceOf } from "../coverage/rate-case";

const cause = (id: string): Cause => causeById(id) as Cause;
const model = slackModel(axis);
const still = (["retainer", "housing", "bracket", "coupling"] as const).map((f) => found(`${f}-turns`, false));

describe("whether sizes fit an account", () => {
  it("is non-negative least squares of the whitened sizes (ml-fcnnls on ml-matrix’s Cholesky factor)", () => {
    const luck = chanceOf(5);
    for (let trial = 0; trial < 60; trial += 1) {
      const sizes = MAGNITUDES.map((kind) => magnitude(kind, 60 * luck.uniform() - 8, 0.5 + 2 * luck.uniform()));
      const causes = trial % 2 ? [cause("retainer-loose"), cause("nut-worn")] : [cause("housing-loose")];
      const fit = fitOf(model, sizes);
      const weights = new Matrix(fit.inverse.map((r) => [...r]));
      const even = Matrix.add(weights, weights.transpose()).mul(0.5);
      const white = new CholeskyDecomposition(even).lowerTriangularMatrix.transpose();
      const columns = causes.map((c) =>
        sizes.map((m) => model.rowOf(m.kind)[model.slacks.indexOf(c.share?.slack ?? "windup")]),
      );
      const a = white.mmul(new Matrix(columns).transpose());
      const b = white.mmul(Matrix.columnVector([...fit.residual]));
      const x = fcnnlsVector(a, b.to1DArray()).K.to1DArray();
      const left = Matrix.sub(b, a.mmul(Matrix.columnVector(x))).to1DArray();
      const theirs = left.reduce((s, v) => s + v * v, 0);
      expect(accountFit(fit, causes).chiSquared).toBeCloseTo(theirs, 4);
    }
  });

  it("calls sizes of a right account misfitting in no more than its rate", () => {
    const luck = chanceOf(9);
    const causes = [cause("retainer-loose")];
    let alarms = 0;
    const trials = 4000;
    for (let trial = 0; trial < trials; trial += 1) {
      const lost = model.slacks.map((_, i) => model.baseMean[i] + Math.sqrt(model.baseVariance[i]) * luck.normal());
      lost[model.slacks.indexOf("bearings")] += 0.005 * 20 ** luck.uniform();
      const sizes = MAGNITUDES.map((kind): Magnitude => {
        const reads = model.rowOf(kind).reduce((s, part, i) => s + part * lost[i], 0) + 0.001 * luck.normal();
        return { kind, reversalValueMm: reads, uMm: 0.001 };
      });
      if (accountFit(fitOf(model, sizes), causes).chance < 0.05) alarms += 1;
    }
    // 5 % of 4000, give or take four standard deviations of a count.
    expect(alarms / trials).toBeGreaterThan(0.05 - 4 * Math.sqrt((0.05 * 0.95) / trials));
    expect(alarms / trials).toBeLessThan(0.05 + 4 * Math.sqrt((0.05 * 0.95) / trials));
  });

  it("what cannot be together is never sure, and the size that does not fit is named and repeated", () => {
    const cases: readonly (readonly [readonly Magnitude[], Magnitude["kind"]])[] = [
      [[magnitude("end-float", -20)], "end-float"],
      [[whole(30), magnitude("end-float", 5), magnitude("housing-shift", 30)], "end-float"],
      [[whole(24), magnitude("end-float", 23), magnitude("end-float", 8)], "end-float"],
    ];
    for (const [magnitudes, kind] of cases) {
      const p = infer({ axis, reports: still, magnitudes });
      expect(misfit(p)?.size.kind).toBe(kind);
      expect(isSure(p)).toBe(false);
      const verdict = caseVerdict(p, { done: new Set() });
      expect([verdict.fits, verdict.proven, verdict.onlyLikely, verdict.ruledOut]).toEqual([false, [], [], []]);
      // One voice: what the headline asks for is what is next, and what the ledger asks for.
      expect(verdict.headline).toMatch(/^What was measured does not fit together: read the end float again first/);
      expect(lossLedger(axis, magnitudes).repeat[0] ?? kind).toBe(kind);
      expect(nextTest(p, { once: new Set(["fastener-check"]) }).next?.test.magnitude).toBe(kind);
    }
  });

  it("a loss that nobody found at any link is not called compensation by what is left over", () => {
    const links = (["end-float", "nut-flank", "bracket-shift", "coupling-slip", "housing-shift"] as const).map((k) =>
      magnitude(k, 0.3),
    );
    const none = Array.from({ length: 3 }, () => found("comp-differs", false));
    const p = infer({ axis, reports: [...still, ...none], magnitudes: [whole(40), ...links] });
    expect(isSure(p)).toBe(false);
  });

  it("a compensation may hide of the whole what a part loses: no contradiction, and not sure before it was looked up", () => {
    const flank = magnitude("nut-flank", 55);
    const sizes = [whole(12), flank, magnitude("bracket-shift", 0.3)];
    const p = infer({ axis, reports: still, magnitudes: sizes });
    // Read once it may as well be misread; two minutes at the control come before it is set up again.
    expect(misfit(p)?.size.kind).toBe("nut-flank");
    expect(nextTest(p, { once: new Set(["fastener-check"]) }).next?.test.id).toBe("comp-look");
    expect(nextTest(p, { once: new Set(["fastener-check", "comp-look"]) }).next?.test.id).toBe("nut-flank");
    const again = infer({
      axis,
      reports: still,
      magnitudes: sizes.map((m) => ({ ...m, confirmed: m.kind !== "bracket-shift" })),
    });
    expect(again.causes.filter((_, i) => again.marginals[i] > 0.9).map((c) => c.id)).toContain("control-comp");
    expect(misfit(again)).toBeNull();
    expect(isSure(again)).toBe(false);
    expect(nextTest(again, { once: new Set(["fastener-check"]) }).next?.test.id).toBe("comp-look");
  });

  it("a needle that counts the other way is no compensation: parts that gain are read again, and nothing is named", () => {
    const turned = infer({
      axis,
      reports: still,
      magnitudes: [whole(-12), magnitude("end-float", -5), magnitude("housing-shift", -34)],
    });
    expect(misfit(turned)).not.toBeNull();
    const verdict = caseVerdict(turned, { done: new Set() });
    expect(verdict.proven).toEqual([]);
    expect(verdict.headline).toMatch(/^What was measured does not fit together/);
    expect(lossLedger(axis, turned.evidence.magnitudes).contradictions.join()).toContain("counts the other way");
  });

  it("sizes that agree fit, whatever their size", () => {
    for (const um of [5, 40, 600])
      expect(
        misfit(infer({ axis, reports: [], magnitudes: [whole(um + 3), magnitude("coupling-slip", um)] })),
      ).toBeNull();
  });
});
