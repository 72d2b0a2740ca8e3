import { figureAfter, figureBefore } from "./figures";

const figure = { reversalValueMm: 0.031, expandedMm: 0.002, runId: 7 };
const signed = (step: string, over: { figure?: typeof figure | null; reading?: number | null } = {}) => ({
  step,
  figure: null,
  reading: null,
  ...over,
});

describe("the loss before and after a job", () => {
  const known = { reversalValueMm: 0.02, expandedMm: 0.001, runId: 2 };

  it("before: what was measured at its step, else the last test before the job", () => {
    expect(figureBefore([], "X", known)).toBe(known);
    expect(figureBefore([], "X", null)).toBeNull();
    expect(figureBefore([signed("X:measure-before", { figure })], "X", known)).toBe(figure);
    expect(figureBefore([signed("Z:measure-before", { figure })], "X", known)).toBe(known);
  });

  it("a typed reading counts, and nobody knows how well: its U is not made up", () => {
    expect(figureAfter([signed("X:retest-chain", { reading: -0.004 })], "X")).toEqual({
      reversalValueMm: -0.004,
      expandedMm: null,
      runId: null,
    });
    expect(figureAfter([signed("X:retest-chain", { reading: 0 })], "X")?.reversalValueMm).toBe(0);
  });

  it("a step signed again counts as it was signed last; one signed without a figure has none", () => {
    const steps = [signed("X:retest-chain", { figure }), signed("X:retest-chain", { reading: 0.003 })];
    expect(figureAfter(steps, "X")?.reversalValueMm).toBe(0.003);
    expect(figureAfter([...steps, signed("X:retest-chain")], "X")).toBeNull();
    expect(figureAfter([signed("X:retest-travel-load", { figure })], "X")).toBeNull();
  });
});
