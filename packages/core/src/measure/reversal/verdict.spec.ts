import { toMm } from "../../quantity";
import { DEFAULT_LIMITS } from "../../machine/axis";
import {
  evaluateRun,
  lossState,
  lossText,
  plannedExpanded,
  verdictOn,
  whatWouldTell,
  type IndicatorSetup,
  type LossResult,
  type VerdictContext,
} from ".";

import { plan, readAll, setup } from "./readings.testing";

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
  const result = (lost: number, runs = 5, over: Partial<IndicatorSetup> = {}): LossResult => {
    const on = { ...setup, ...over };
    return evaluateRun(
      plan({ runs }),
      readAll(
        plan({ runs }),
        (_, d, run) => (d === "+" ? 0 : lost) + (runs > 1 && run % 2 ? 2e-7 : 0),
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
    expect(unasked.sentences.join(" ")).toContain("the needle counts the other way");
    expect(unasked.next).toContain("turn its sense");
    const known = verdictOn(gained, { ...context, enteredMm: 0.02 });
    expect(known.askSense).toBe(false);
    expect(known.next).toContain("Lower the compensation");
    for (const v of [unasked, known]) expect(v.sentences.join(" ")).not.toContain("may be compensated");
  });

  it("has one state and one word from value and U alone", () => {
    expect(lossState({ reversalValueMm: -0.012, expandedMm: 0.001 }, DEFAULT_LIMITS)).toBe("watch");
    expect(lossText({ reversalValueMm: 0.012, expandedMm: 0.003 }, DEFAULT_LIMITS)).toBe("perhaps watch");
    expect(lossText(null, DEFAULT_LIMITS)).toBe("unknown");
    const r = result(0.012);
    const v = verdictOn(r, context);
    expect(lossText({ reversalValueMm: r.reversalValueMm, expandedMm: r.uncertainty.expanded }, DEFAULT_LIMITS)).toBe(
      v.word,
    );
  });

  it("tells scales and single runs apart", () => {
    expect(words(result(0.001), { feedback: "scale" })).toContain("hunting at the reversal");
    const once = verdictOn(result(0.001, 1), context);
    expect(once.next).toContain("at least three runs");
    expect(once.sentences.join(" ")).toContain("usual scatter");
    expect(plannedExpanded(plan({ runs: 1 }), setup)).toBeGreaterThan(plannedExpanded(plan(), setup));
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
    expect(verdictOn(fine, { ...context, resolutionMm: 0.002 }).word).not.toBe("cannot tell");
    expect(whatWouldTell(result(0.0251), { limitMm: 0.025, resolutionMm: 0.001 }).code).toBe("at-limit");
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
    expect(r.reversalValueMm).toBeCloseTo((0.1 / (40 * Math.PI)) * 10, 9);
  });

  it("holds a place against what the program commanded, not against what it rounded", () => {
    const p = plan({
      kind: "travel-profile",
      targetsMm: [50, 151.3, 252.1, 348.7, 449.9],
      keepsZero: true,
    });
    const commanded = { system: "inch" as const, decimals: 4 };
    const inch = (mm: number): number => Number((mm / 25.4).toFixed(4)) * 25.4;
    const perfect = readAll(p, (place) => inch(p.targetsMm[place]) - inch(p.targetsMm[0]), 1e-6);
    const seen = evaluateRun(p, perfect, { ...setup, commanded }) as LossResult;
    expect(seen.iso?.systematic).toBeCloseTo(0, 9);
    const unaware = evaluateRun(p, perfect, setup) as LossResult;
    expect(unaware.iso?.systematic).toBeGreaterThan(0.0005);
  });

  it("finds a single nut with clearance normal: a few ten-thousandths to half a thousandth of an inch (common practice, no source)", () => {
    for (const inches of [0.0002, 0.0003, 0.0005]) {
      const state = lossState({ reversalValueMm: toMm(inches, "in"), expandedMm: 0.001 }, DEFAULT_LIMITS);
      expect(state).not.toBe("act");
    }
  });
});
