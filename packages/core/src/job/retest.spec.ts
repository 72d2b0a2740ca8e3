import { judgeRetest, type JobFigure } from "./retest";

const before: JobFigure = { reversalValueMm: 0.027, expandedMm: 0.001, runId: 1 };

describe("judging a retest", () => {
  const limits = { leaveMm: 0.01, repairMm: 0.025 };
  const judge = (reversalValueMm: number, expandedMm = 0.001, was: JobFigure | null = before) =>
    judgeRetest(was, { reversalValueMm, expandedMm, runId: null }, { limits, system: "metric" });

  it.each([
    ["below what can be left", 0.009, 0.001, true, "it can be left"],
    ["perhaps above what can be left", 0.0105, 0.001, true, "look again in a week"],
    ["with the repair limit inside its U", 0.0251, 0.001, false, "this retest cannot tell"],
    ["likelier good, but not shown to be", 0.0245, 0.001, false, "cannot tell"],
    ["above the repair limit", 0.0265, 0.001, false, "find which link still moves"],
    ["between them, and smaller than both U can tell", 0.02, 0.001, true, "look again in a week"],
  ])("%s", (_, lost, u, passes, words) => {
    const judged = judge(lost, u);
    expect(judged.passes).toBe(passes);
    expect(judged.message).toContain(words);
  });

  it("worse than before never passes, however small; the sign of a loss does not count", () => {
    const small: JobFigure = { reversalValueMm: 0.002, expandedMm: 0.0005, runId: 1 };
    expect(judge(0.006, 0.0005, small)).toMatchObject({ passes: false });
    expect(judge(-0.006).passes).toBe(true);
    expect(judge(-0.03).passes).toBe(false);
  });

  it("between them, with a U that hides the gain, it does not pass", () => {
    const was: JobFigure = { reversalValueMm: 0.022, expandedMm: 0.002, runId: 1 };
    const judged = judge(0.02, 0.002, was);
    expect(judged).toMatchObject({ passes: false, code: "watch" });
    expect(judged.message).toContain("not made it smaller");
  });

  it("typed without saying what it was measured with, it cannot tell and does not pass", () => {
    const typed = judgeRetest(
      before,
      { reversalValueMm: 0.004, expandedMm: null, runId: null },
      { limits, system: "metric" },
    );
    expect(typed).toMatchObject({ passes: false, code: "cannot-tell" });
    expect(typed.message).toContain("uncertainty unknown");
  });

  it("with nothing measured before, only the limits count", () => {
    expect(judge(0.02, 0.001, null).message).toContain("nothing was measured before");
    expect(judge(0.004, 0.001, null).passes).toBe(true);
  });
});
