import { toMm } from "../quantity";
import { DEFAULT_LIMITS } from "../axis";
import {
  dialReading,
  evaluateRun,
  lossState,
  nextStep,
  resolutionWarning,
  stepsOf,
  tickCountLoss,
  verdictOn,
  worseRegion,
  type IndicatorSetup,
  type LossResult,
  type Reading,
  type TestPlan,
  type VerdictContext,
} from ".";

const plan = (over: Partial<TestPlan> = {}): TestPlan => ({
  kind: "two-sided",
  targetsMm: [180],
  runs: 5,
  overTravelMm: 30,
  tickMm: 0.001,
  ticksOut: 50,
  keepsZero: false,
  ...over,
});
const setup: IndicatorSetup = { resolutionMm: 0.001, tipAngleDeg: 0, sense: 1 };

/** Readings for every step of a plan, from what the indicator shows at each. */
function readAll(
  p: TestPlan,
  shows: (place: number, direction: "+" | "-", run: number) => number,
  widthMm = 0.001,
): Reading[] {
  return stepsOf(p).map((s) => ({
    step: s.index,
    value: s.action === "zero" ? 0 : shows(s.target, s.direction, s.run),
    widthMm,
    state: "kept",
  }));
}

describe("two-sided approach", () => {
  it("gives the loss with display and scatter in quadrature (GUM)", () => {
    const up = [0.0004, -0.0002, 0.0001, 0, 0.0002];
    const down = [0.0266, 0.0279, 0.0275, 0.0269, 0.0271];
    const r = evaluateRun(
      plan(),
      readAll(plan(), (_, d, run) => (d === "+" ? up : down)[run - 1]),
      setup,
    ) as LossResult;
    expect(r.lostMm).toBeCloseTo(0.0271, 10);
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
    expect(r.uncertainty.expanded / half).toBeCloseTo(2 / Math.sqrt(6), 6);
    expect(r.repeatabilityUnknown).toBe(true);
    expect(resolutionWarning(half, DEFAULT_LIMITS, "inch")).toContain(
      "too coarse",
    );
    expect(resolutionWarning(0.001, DEFAULT_LIMITS, "metric")).toBeNull();
  });

  it("applies the tip angle and the sense of the needle", () => {
    const tilted = { ...setup, tipAngleDeg: 30, sense: -1 as const };
    const r = evaluateRun(
      plan({ runs: 2 }),
      readAll(plan({ runs: 2 }), (_, d) => (d === "+" ? 0 : -0.02)),
      tilted,
    ) as LossResult;
    expect(r.lostMm).toBeCloseTo(0.02 * 0.8660254, 8);
  });

  it("leaves spoilt and discarded readings out and asks for the step again", () => {
    const p = plan({ runs: 2 });
    const all = readAll(p, (_, d) => (d === "+" ? 0 : 0.02));
    const spoilt = all.map((r) =>
      r.step === 2 ? { ...r, value: 9, state: "spoilt" as const } : r,
    );
    expect(nextStep(stepsOf(p), spoilt)).toMatchObject({
      index: 2,
      direction: "-",
      run: 1,
    });
    expect((evaluateRun(p, spoilt, setup) as LossResult).lostMm).toBeCloseTo(
      0.02,
      12,
    );
    expect(nextStep(stepsOf(p), all)).toBeUndefined();
    expect(evaluateRun(p, all.slice(0, 2), setup)).toBeNull();
  });

  it("points an outlier out and keeps it in", () => {
    const values = [0.02, 0.0201, 0.0199, 0.02, 0.031];
    const r = evaluateRun(
      plan(),
      readAll(plan(), (_, d, run) =>
        d === "+" ? run * 1e-5 : values[run - 1],
      ),
      setup,
    ) as LossResult;
    expect(r.outliers).toHaveLength(1);
    expect(r.outliers[0]).toMatchObject({
      deviationMm: 0.031,
      test: "Grubbs, two-sided 5 %",
    });
    expect(r.places[0].down).toContain(0.031);
  });
});

describe("tests that give the loss directly", () => {
  it("reads a tick count as between the last still and the first moving step", () => {
    expect(tickCountLoss(3, 0.01, 0.001, 0.001)).toBeCloseTo(0.0245, 12);
    const p = plan({ kind: "tick-count", runs: 3, tickMm: 0.01 });
    const r = evaluateRun(
      p,
      readAll(p, () => 3),
      setup,
    ) as LossResult;
    expect(r.lostMm).toBeCloseTo(0.0245, 12);
    expect(r.uncertainty.u).toBeCloseTo(
      Math.hypot(0.01, 0.001) / Math.sqrt(12),
      10,
    );
  });

  it("takes the miss of an out-and-back for the loss", () => {
    const p = plan({ kind: "out-and-back", runs: 3 });
    const r = evaluateRun(
      p,
      readAll(p, (_, d, run) => (d === "-" ? 0.02 + run / 1e4 : 0)),
      setup,
    ) as LossResult;
    expect(r.lostMm).toBeCloseTo(0.0202, 12);
    expect(r.places[0].runs).toBe(3);
  });

  it('puts "minus two and a bit over half" at −2⅝ divisions, known to a quarter', () => {
    expect(dialReading(2, 5 / 8, true, 0.01)).toEqual({
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
    const flat = evaluateRun(
      p,
      readAll(p, shows([0.02, 0.0203, 0.0201, 0.0199, 0.02])),
      setup,
    ) as LossResult;
    expect(worseRegion(flat.places)).toBeNull();
    const end = evaluateRun(
      p,
      readAll(p, shows([0.006, 0.006, 0.006, 0.006, 0.02])),
      setup,
    ) as LossResult;
    expect(worseRegion(end.places)).toMatchObject({
      where: "upper end",
      peakMm: 450,
    });
  });

  it("is wider about the largest of five places than about one place", () => {
    const r = evaluateRun(p, readAll(p, shows(worn)), setup) as LossResult;
    expect(
      r.uncertainty.expanded / r.places[2].uncertainty.expanded,
    ).toBeCloseTo(1.3, 1);
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
    expect(r.lostMm).toBeCloseTo(0.02, 12);
  });
});

describe("verdicts", () => {
  const context: VerdictContext = {
    kind: "two-sided",
    memberName: "head",
    letter: "Z",
    limits: DEFAULT_LIMITS,
    feedback: "encoder",
    system: "metric",
  };
  const result = (lost: number, runs = 5): LossResult =>
    evaluateRun(
      plan({ runs }),
      readAll(plan({ runs }), (_, d) => (d === "+" ? 0 : lost)),
      setup,
    ) as LossResult;

  it("says loss, limit and what next, by the limits of common practice (no source): leave to 0.010, repair above 0.025 mm", () => {
    const v = verdictOn(result(0.027), context);
    expect(v.state).toBe("act");
    expect(v.sentences.join(" ")).toContain(
      "The head loses 0.027 mm ± 0.001 mm each time Z turns round at 180 mm.",
    );
    expect(v.sentences.join(" ")).toContain(
      "over this axis’ limit of 0.025 mm, and past what compensation should hide",
    );
    expect(v.nextTest).toBe("travel-profile");
    expect(verdictOn(result(0.018), context)).toMatchObject({ state: "watch" });
    expect(verdictOn(result(0.004), context)).toMatchObject({
      state: "sound",
      nextTest: null,
    });
  });

  it("will not open a machine on a difference smaller than its uncertainty", () => {
    expect(verdictOn(result(0.0254), context).sentences[1]).toContain(
      "less than the uncertainty",
    );
    expect(verdictOn(result(0.0254), context).nextTest).toBe("two-sided");
  });

  it("tells over-compensation, scales and single runs apart", () => {
    expect(verdictOn(result(-0.012), context).next).toContain(
      "Lower the compensation",
    );
    expect(lossState(-0.012, DEFAULT_LIMITS)).toBe("watch");
    expect(
      verdictOn(result(0.001), {
        ...context,
        feedback: "scale",
      }).sentences.join(" "),
    ).toContain("hunting at the reversal");
    expect(verdictOn(result(0.03, 1), context).next).toContain(
      "at least three runs",
    );
  });

  it("finds a single nut with clearance normal: a few ten-thousandths to half a thousandth of an inch (common practice, no source)", () => {
    for (const inches of [0.0002, 0.0003, 0.0005]) {
      const state = lossState(toMm(inches, "in"), DEFAULT_LIMITS);
      expect(state).not.toBe("act");
    }
  });
});
