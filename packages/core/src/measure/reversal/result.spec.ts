import { toMm } from "../../quantity";
import { DEFAULT_LIMITS } from "../../machine/axis";
import {
  dialReading,
  evaluateRun,
  nextStep,
  profileShape,
  scatterOfGroups,
  stepsOf,
  tickCountLoss,
  USUAL_SCATTER_MM,
  widthWarning,
  worseRegion,
  type LossResult,
} from ".";

import { plan, readAll, setup } from "./readings.testing";

describe("two-sided approach", () => {
  it("gives the loss with display and scatter in quadrature (GUM)", () => {
    const up = [0.0004, -0.0002, 0.0001, 0, 0.0002];
    const down = [0.0266, 0.0279, 0.0275, 0.0269, 0.0271];
    const r = evaluateRun(
      plan(),
      readAll(plan(), (_, d, run) => (d === "+" ? up : down)[run - 1]),
      setup,
    ) as LossResult;
    expect(r.reversalValueMm).toBeCloseTo(0.0271, 10);
    const s2 = (v: number[]): number => {
      const m = v.reduce((a, b) => a + b) / 5;
      return v.reduce((a, b) => a + (b - m) ** 2, 0) / 4;
    };
    const u = Math.sqrt(2 * (0.001 ** 2 / 12) + s2(up) / 5 + s2(down) / 5);
    expect(r.uncertainty.u).toBeCloseTo(u, 10);
    expect(r.uncertainty.expanded).toBeGreaterThanOrEqual(2 * u);
    expect(r.repeatabilityUnknown).toBe(false);
  });

  it("cannot tell 0.0005 in on a 0.0005 in dial from zero to twice that (common practice, no source)", () => {
    const half = toMm(0.0005, "in");
    const coarse = { ...setup, resolutionMm: half };
    const r = evaluateRun(
      plan({ runs: 1 }),
      readAll(plan({ runs: 1 }), (_, d) => (d === "+" ? 0 : half), half),
      coarse,
    ) as LossResult;
    expect(r.roundingBoundsMm[0]).toBeCloseTo(0, 12);
    expect(r.roundingBoundsMm[1]).toBeCloseTo(toMm(0.001, "in"), 12);
    expect(r.uncertainty.expanded).toBeGreaterThan((2 * half) / Math.sqrt(6));
    expect(r.repeatabilityUnknown).toBe(true);
    const axis = { limits: DEFAULT_LIMITS };
    expect(widthWarning(plan(), { setup: coarse, axis, options: { system: "inch" } })).toContain(
      "too coarse for the limit of 0.00039 in",
    );
    expect(widthWarning(plan(), { setup, axis, options: { system: "metric" } })).toBeNull();
    // Never repeated: the scatter alone is too much for this limit.
    const once = widthWarning(plan({ runs: 1 }), {
      setup,
      axis,
      options: {
        system: "metric",
      },
    });
    expect(once).toContain("at least three runs");
  });

  it("applies the tip angle and the sense of the needle", () => {
    const tilted = { ...setup, tipAngleDeg: 30, sense: -1 as const };
    const r = evaluateRun(
      plan({ runs: 2 }),
      readAll(plan({ runs: 2 }), (_, d) => (d === "+" ? 0 : -0.02)),
      tilted,
    ) as LossResult;
    expect(r.reversalValueMm).toBeCloseTo(0.02 * 0.8660254, 8);
  });

  it("leaves spoilt and discarded readings out and asks for the step again", () => {
    const p = plan({ runs: 2 });
    const all = readAll(p, (_, d) => (d === "+" ? 0 : 0.02));
    const spoilt = all.map((r) => (r.step === 2 ? { ...r, value: 9, state: "spoilt" as const } : r));
    expect(nextStep(stepsOf(p), spoilt)).toMatchObject({
      index: 2,
      direction: "-",
      run: 1,
    });
    expect((evaluateRun(p, spoilt, setup) as LossResult).reversalValueMm).toBeCloseTo(0.02, 12);
    expect(nextStep(stepsOf(p), all)).toBeUndefined();
    expect(evaluateRun(p, all.slice(0, 2), setup)).toBeNull();
  });

  it("points an outlier out and keeps it in", () => {
    const values = [0.02, 0.0201, 0.0199, 0.02, 0.031];
    const r = evaluateRun(
      plan(),
      readAll(plan(), (_, d, run) => (d === "+" ? run * 1e-5 : values[run - 1])),
      setup,
    ) as LossResult;
    expect(r.outliers).toHaveLength(1);
    expect(r.outliers[0]).toMatchObject({
      deviationMm: 0.031,
      test: "Grubbs, two-sided, 5 % over the whole test",
    });
    expect(r.places[0].down).toContain(0.031);
  });
});

describe("tests that give the loss directly", () => {
  it("reads a tick count as between the last still and the first moving step", () => {
    const noticed = { noticedMm: 0.001, resolutionMm: 0.001 };
    expect(tickCountLoss(2, 0.01, noticed)).toBeCloseTo(0.0245, 12);
    const p = plan({
      kind: "tick-count",
      runs: 3,
      tickMm: 0.01,
      countsStill: true,
    });
    const r = evaluateRun(
      p,
      readAll(p, () => 2),
      setup,
    ) as LossResult;
    // A test from before counted the step that moved the needle as well: the same loss.
    const before = { ...p, countsStill: undefined };
    const old = evaluateRun(
      before,
      readAll(before, () => 3),
      setup,
    );
    expect(old?.reversalValueMm).toBe(r.reversalValueMm);
    expect(r.reversalValueMm).toBeCloseTo(0.0245, 12);
    expect(r.uncertainty.u).toBeCloseTo(Math.hypot(0.01, 0.001) / Math.sqrt(12), 10);
  });

  it("takes the miss of an out-and-back for the loss", () => {
    const p = plan({ kind: "out-and-back", runs: 3 });
    const r = evaluateRun(
      p,
      readAll(p, (_, d, run) => (d === "-" ? 0.02 + run / 1e4 : 0)),
      setup,
    ) as LossResult;
    expect(r.reversalValueMm).toBeCloseTo(0.0202, 12);
    expect(r.places[0].runs).toBe(3);
  });

  it('puts "minus two and a bit over half" at −2⅝ divisions, known to a quarter', () => {
    expect(dialReading({ divisions: 2, fraction: 5 / 8, negative: true, divisionMm: 0.01 })).toEqual({
      valueMm: -0.02625,
      widthMm: 0.0025,
    });
  });
});

describe("travel profile", () => {
  const p = plan({
    kind: "travel-profile",
    targetsMm: [50, 150, 250, 350, 450],
    keepsZero: true,
  });
  const worn = [0.006, 0.008, 0.02, 0.009, 0.006];
  const shows =
    (loss: number[]) =>
    (place: number, d: "+" | "-", run: number): number =>
      place * 100 + (run % 2 ? 2e-4 : -2e-4) + (d === "-" ? loss[place] : 0);

  const shapeOf = (loss: number[]) =>
    profileShape((evaluateRun(p, readAll(p, shows(loss)), setup) as LossResult).places);

  it("finds where it is worse and by how much more than the ends", () => {
    const r = evaluateRun(p, readAll(p, shows(worn)), setup) as LossResult;
    expect(r.governing).toBe(2);
    expect(r.iso?.reversalValue).toBeCloseTo(0.02, 9);
    expect(r.missingForStandard).toEqual([]);
    const region = worseRegion(r.places);
    expect(region).toMatchObject({
      where: "middle",
      peakMm: 250,
      fromMm: 250,
      toMm: 250,
    });
    expect(region?.excessMm).toBeCloseTo(0.014, 9);
  });

  it("calls a flat profile flat, and an end an end", () => {
    expect(shapeOf([0.02, 0.0203, 0.0201, 0.0199, 0.02])?.code).toBe("even");
    expect(shapeOf([0.006, 0.006, 0.006, 0.006, 0.02])).toMatchObject({
      code: "worse",
      where: "upper end",
      peakMm: 450,
    });
  });

  it("judges the signed loss: what compensation has pushed below zero is worn where it is highest", () => {
    // Wear adds slack where the screw works (common practice, no source): there the value is highest.
    expect(shapeOf([-0.015, -0.015, 0, -0.015, -0.015])).toMatchObject({
      code: "worse",
      where: "middle",
      peakMm: 250,
    });
    expect(shapeOf([0.015, 0.015, 0, 0.015, 0.015])).toMatchObject({
      code: "less",
      where: "middle",
    });
    expect(shapeOf([-0.015, -0.015, -0.015, -0.015, -0.015])?.code).toBe("even");
    const least = evaluateRun(p, readAll(p, shows([0.015, 0.015, 0, 0.015, 0.015])), setup) as LossResult;
    expect(worseRegion(least.places)).toBeNull();
  });

  it("is wider about the largest of five that are alike, not about one that stands alone", () => {
    const wider = (loss: number[]): number => {
      const r = evaluateRun(p, readAll(p, shows(loss)), setup) as LossResult;
      return r.uncertainty.expanded / r.places[r.governing].uncertainty.expanded;
    };
    expect(wider(worn)).toBe(1);
    const alike = wider([0.02, 0.0201, 0.0202, 0.0201, 0.02]);
    expect(alike).toBeGreaterThan(1.1);
    expect(alike).toBeLessThan(1.4);
  });

  it("does not call it the standard’s when the zero was set anew at each place", () => {
    const local = { ...p, keepsZero: false };
    const r = evaluateRun(
      local,
      readAll(local, (place, d) => (d === "-" ? worn[place] : 0)),
      setup,
    ) as LossResult;
    expect(r.iso).toBeNull();
    expect(r.missingForStandard).toHaveLength(1);
    expect(r.reversalValueMm).toBeCloseTo(0.02, 12);
  });
});

describe("scatter", () => {
  it("is pooled over the groups, unless one stands out", () => {
    // Pooled variance by hand: (2·1 + 2·4)/4.
    const { of } = scatterOfGroups([
      [1, 2, 3],
      [2, 4, 6],
    ]);
    expect(of[0].s).toBeCloseTo(Math.sqrt(2.5), 12);
    expect(of[0].dof).toBe(4);
    const quiet = [0, 0.1, 0.2, 0.1];
    const many = scatterOfGroups([quiet, quiet, quiet, quiet, quiet, [0, 9, 0, 9]]);
    expect(many.of[5].dof).toBe(3);
    expect(many.of[0].dof).toBe(18);
    expect(scatterOfGroups([[1], [2]])).toEqual({
      of: [
        { s: USUAL_SCATTER_MM, dof: Infinity },
        { s: USUAL_SCATTER_MM, dof: Infinity },
      ],
      usual: true,
    });
  });
});
