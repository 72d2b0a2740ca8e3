import { toMm } from "../quantity";
import { DEFAULT_LIMITS } from "../axis";
import {
  dialReading,
  evaluateRun,
  lossState,
  lossWord,
  nextStep,
  plannedExpanded,
  profileShape,
  scatterOfGroups,
  stepsOf,
  tickCountLoss,
  USUAL_SCATTER_MM,
  verdictOn,
  whatWouldTell,
  widthWarning,
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
    expect(r.uncertainty.expanded).toBeGreaterThan((2 * half) / Math.sqrt(6));
    expect(r.repeatabilityUnknown).toBe(true);
    const axis = { limits: DEFAULT_LIMITS };
    expect(widthWarning(plan(), coarse, axis, { system: "inch" })).toContain(
      "too coarse for the limit of 0.00039 in",
    );
    expect(widthWarning(plan(), setup, axis, { system: "metric" })).toBeNull();
    // Never repeated: the scatter alone is too much for this limit.
    const once = widthWarning(plan({ runs: 1 }), setup, axis, {
      system: "metric",
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
    expect(old?.lostMm).toBe(r.lostMm);
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

  const shapeOf = (loss: number[]) =>
    profileShape(
      (evaluateRun(p, readAll(p, shows(loss)), setup) as LossResult).places,
    );

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
    expect(shapeOf([-0.015, -0.015, -0.015, -0.015, -0.015])?.code).toBe(
      "even",
    );
    const least = evaluateRun(
      p,
      readAll(p, shows([0.015, 0.015, 0, 0.015, 0.015])),
      setup,
    ) as LossResult;
    expect(worseRegion(least.places)).toBeNull();
  });

  it("is wider about the largest of five that are alike, not about one that stands alone", () => {
    const wider = (loss: number[]): number => {
      const r = evaluateRun(p, readAll(p, shows(loss)), setup) as LossResult;
      return (
        r.uncertainty.expanded / r.places[r.governing].uncertainty.expanded
      );
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
    expect(r.lostMm).toBeCloseTo(0.02, 12);
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
    const many = scatterOfGroups([
      quiet,
      quiet,
      quiet,
      quiet,
      quiet,
      [0, 9, 0, 9],
    ]);
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

describe("verdicts", () => {
  const context: VerdictContext = {
    kind: "two-sided",
    memberName: "head",
    letter: "Z",
    limits: DEFAULT_LIMITS,
    feedback: "encoder",
    system: "metric",
    resolutionMm: 0.001,
  };
  const result = (
    lost: number,
    runs = 5,
    over: Partial<IndicatorSetup> = {},
  ): LossResult => {
    const on = { ...setup, ...over };
    return evaluateRun(
      plan({ runs }),
      readAll(
        plan({ runs }),
        (_, d, run) =>
          (d === "+" ? 0 : lost) + (runs > 1 && run % 2 ? 2e-7 : 0),
        on.resolutionMm,
      ),
      on,
    ) as LossResult;
  };
  const words = (r: LossResult, over: Partial<VerdictContext> = {}): string =>
    verdictOn(r, { ...context, ...over }).sentences.join(" ");

  it("says loss, limit and what next, by the limits of common practice (no source): leave to 0.010, repair above 0.025 mm", () => {
    const v = verdictOn(result(0.027), context);
    expect(v.state).toBe("act");
    expect(v.sentences.join(" ")).toContain(
      "The head loses 0.02700 mm ± 0.00082 mm each time Z turns round at 180 mm.",
    );
    expect(v.sentences.join(" ")).toContain(
      "over this axis’ limit of 0.025 mm, and past what compensation should hide",
    );
    expect([v.nextTest, v.nextPlace]).toEqual([null, "locate"]);
    expect(verdictOn(result(0.018), context)).toMatchObject({
      state: "watch",
      nextTest: "travel-profile",
    });
    expect(verdictOn(result(0.004), context)).toMatchObject({
      state: "sound",
      nextTest: null,
    });
  });

  it("will not open a machine, nor pass one, on a difference smaller than its uncertainty", () => {
    for (const lost of [0.0254, 0.0246]) {
      const v = verdictOn(result(lost), context);
      expect([v.state, v.word]).toEqual(["unknown", "cannot tell"]);
      expect(v.sentences[1]).toContain("this test cannot tell");
      expect(v.nextTest).toBe("two-sided");
    }
    expect(words(result(0.0246))).toContain("likelier under than over");
  });

  it("lets a coarse dial or two scattered runs clear nothing and compensate nothing", () => {
    const dial = result(0, 5, { resolutionMm: 0.05 });
    const v = verdictOn(dial, { ...context, resolutionMm: 0.05 });
    expect(v.word).toBe("cannot tell");
    expect(v.next).not.toContain("Nothing to do");
    expect(v.sentences.join(" ")).toContain("would tell");
    const p = plan({ runs: 2 });
    const wild = evaluateRun(
      p,
      readAll(p, (_, d, run) => (d === "+" ? 0 : run === 1 ? -0.005 : 0.035)),
      setup,
    ) as LossResult;
    expect(words(wild)).not.toContain("may be compensated");
    const float = verdictOn(result(0.03, 5, { resolutionMm: 0.05 }), {
      ...context,
      kind: "end-float",
      resolutionMm: 0.05,
    });
    expect(float.sentences.join(" ") + float.next).not.toContain("is cleared");
    expect(float.next).toContain("not cleared");
    const cleared = verdictOn(result(0.0002), {
      ...context,
      kind: "end-float",
    });
    expect(cleared.next).toContain("this part is cleared");
  });

  it("asks which way the needle counts before it speaks of a gain", () => {
    const gained = result(-0.018);
    const unasked = verdictOn(gained, context);
    expect(unasked.askSense).toBe(true);
    expect(unasked.sentences.join(" ")).toContain(
      "the needle counts the other way",
    );
    expect(unasked.next).toContain("turn its sense");
    const known = verdictOn(gained, { ...context, enteredMm: 0.02 });
    expect(known.askSense).toBe(false);
    expect(known.next).toContain("Lower the compensation");
    for (const v of [unasked, known])
      expect(v.sentences.join(" ")).not.toContain("may be compensated");
  });

  it("has one state and one word from value and U alone", () => {
    expect(
      lossState({ lostMm: -0.012, expandedMm: 0.001 }, DEFAULT_LIMITS),
    ).toBe("watch");
    expect(lossWord({ lostMm: 0.012, expandedMm: 0.003 }, DEFAULT_LIMITS)).toBe(
      "perhaps watch",
    );
    expect(lossWord(null, DEFAULT_LIMITS)).toBe("unknown");
    const r = result(0.012);
    const v = verdictOn(r, context);
    expect(
      lossWord(
        { lostMm: r.lostMm, expandedMm: r.uncertainty.expanded },
        DEFAULT_LIMITS,
      ),
    ).toBe(v.word);
  });

  it("tells scales and single runs apart", () => {
    expect(words(result(0.001), { feedback: "scale" })).toContain(
      "hunting at the reversal",
    );
    const once = verdictOn(result(0.001, 1), context);
    expect(once.next).toContain("at least three runs");
    expect(once.sentences.join(" ")).toContain("usual scatter");
    expect(plannedExpanded(plan({ runs: 1 }), setup)).toBeGreaterThan(
      plannedExpanded(plan(), setup),
    );
  });

  it("says what would tell: runs where they scatter, a finer indicator where the display hides it", () => {
    const p = plan({ runs: 3 });
    const scattered = evaluateRun(
      p,
      readAll(p, (_, d, run) => (d === "+" ? 0 : 0.021 + 0.004 * (run - 2))),
      setup,
    ) as LossResult;
    const runs = whatWouldTell(scattered, {
      limitMm: 0.025,
      resolutionMm: 0.001,
    });
    expect(runs.code).toBe("runs");
    const coarse = whatWouldTell(result(0.02, 5, { resolutionMm: 0.01 }), {
      limitMm: 0.025,
      resolutionMm: 0.01,
    });
    expect(coarse).toEqual({ code: "finer", resolutionMm: 0.002 });
    // And it does tell: the same value read in those steps decides.
    const fine = result(0.02, 5, { resolutionMm: 0.002 });
    expect(verdictOn(fine, { ...context, resolutionMm: 0.002 }).word).not.toBe(
      "cannot tell",
    );
    expect(
      whatWouldTell(result(0.0251), { limitMm: 0.025, resolutionMm: 0.001 })
        .code,
    ).toBe("at-limit");
  });

  it("counts the indicator’s own hysteresis where the tip stays on, and its errors everywhere", () => {
    const own = { hysteresisMm: 0.003, calibrationMm: 0.002 };
    const two = result(0.02, 5, own).uncertainty.u;
    const bare = result(0.02).uncertainty.u;
    // JCGM 100 4.3.7: ± a counts as a/√3.
    expect(two).toBeCloseTo(Math.hypot(bare, 0.002 / Math.sqrt(3)), 9);
    const p = plan({ kind: "out-and-back", runs: 3 });
    const out = (on: IndicatorSetup): number =>
      (
        evaluateRun(
          p,
          readAll(p, (_, d) => (d === "-" ? 0.02 : 0)),
          on,
        ) as LossResult
      ).uncertainty.u;
    expect(out({ ...setup, ...own })).toBeCloseTo(
      Math.hypot(out(setup), 0.002 / Math.sqrt(3), 0.003 / Math.sqrt(3)),
      9,
    );
  });

  it("reads a slip along a hub’s circumference as table motion by the lead", () => {
    // 0.1 mm along a 40 mm hub is 0.1/125.66 of a turn: 7.96 µm with a lead of 10.
    const p = plan({
      kind: "coupling-slip",
      circumference: { radiusMm: 20, perTurnMm: 10 },
    });
    const r = evaluateRun(
      p,
      readAll(p, (_, d) => (d === "+" ? 0 : 0.1)),
      setup,
    ) as LossResult;
    expect(r.lostMm).toBeCloseTo((0.1 / (40 * Math.PI)) * 10, 9);
  });

  it("holds a place against what the program commanded, not against what it rounded", () => {
    const p = plan({
      kind: "travel-profile",
      targetsMm: [50, 151.3, 252.1, 348.7, 449.9],
      keepsZero: true,
    });
    const commanded = { system: "inch" as const, decimals: 4 };
    const inch = (mm: number): number => Number((mm / 25.4).toFixed(4)) * 25.4;
    const perfect = readAll(
      p,
      (place) => inch(p.targetsMm[place]) - inch(p.targetsMm[0]),
      1e-6,
    );
    const seen = evaluateRun(p, perfect, { ...setup, commanded }) as LossResult;
    expect(seen.iso?.systematic).toBeCloseTo(0, 9);
    const unaware = evaluateRun(p, perfect, setup) as LossResult;
    expect(unaware.iso?.systematic).toBeGreaterThan(0.0005);
  });

  it("finds a single nut with clearance normal: a few ten-thousandths to half a thousandth of an inch (common practice, no source)", () => {
    for (const inches of [0.0002, 0.0003, 0.0005]) {
      const state = lossState(
        { lostMm: toMm(inches, "in"), expandedMm: 0.001 },
        DEFAULT_LIMITS,
      );
      expect(state).not.toBe("act");
    }
  });
});
