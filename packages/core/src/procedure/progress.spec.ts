import { defaultAxis } from "../axis";
import { DEFAULT_OPTIONS } from "./job-kinds";
import { planJob, type PlannedStep } from "./planner";
import { jobProgress, judgeRetest, readingWithin, refuseOrder, refuseSign, type JobEvent, type JobFigure, type SignedStep, type SignRules } from "./progress"; // prettier-ignore
import type { JobKindId } from "./types";

const box = {
  ...defaultAxis("vertical-centre", "X"),
  guideway: "box" as const,
};
const before: JobFigure = { lostMm: 0.027, expandedMm: 0.001, runId: 1 };
const rules: SignRules = { before: () => before, limits: () => ({ leaveMm: 0.01, repairMm: 0.025 }), system: "metric" }; // prettier-ignore
const planOf = (kind: JobKindId) => planJob({ axes: [{ letter: "X", config: box }], items: [{ letter: "X", kind }], options: DEFAULT_OPTIONS }); // prettier-ignore
/** A signature that is as it should be. */
const good = (step: PlannedStep, over: Partial<SignedStep> = {}): SignedStep => ({
  step: step.id, found: step.finds.at(0)?.id ?? null, kept: step.keep && step.closes ? "as it was" : null, change: "",
  reading: step.reading ? (step.reading.from ?? 0) : null, figure: step.retest === "chain" ? { lostMm: 0.004, expandedMm: 0.001, runId: null } : null,
  holdBy: step.hold ? "Ama" : "", reason: "", words: "", ...over,
}) as SignedStep; // prettier-ignore

/** A job worked up to the first step that is as asked. */
function at(kind: JobKindId, want: (step: PlannedStep) => boolean) {
  const plan = planOf(kind);
  const i = plan.steps.findIndex(want);
  if (i < 0) throw new Error("no such step");
  const events = plan.steps.slice(0, i).map((s): JobEvent => ({ kind: "sign", ...good(s) })); // prettier-ignore
  const progress = jobProgress(plan, events);
  const refuse = (over: Partial<SignedStep> = {}): string => refuseSign(progress, good(plan.steps[i], over), rules); // prettier-ignore
  return { plan, progress, step: plan.steps[i], refuse };
}

describe("signing a step", () => {
  it("every step of every sheet takes a signature in the sheet’s own order, and none before its turn", () => {
    for (const kind of ["fixed-bearings", "screw", "gib", "coupling", "home-switch"] as const) {
      const plan = planOf(kind);
      const events: JobEvent[] = [];
      for (const step of plan.steps) {
        const progress = jobProgress(plan, events);
        expect(refuseSign(progress, good(step), rules)).toBe("");
        const last = plan.steps[plan.steps.length - 1];
        if (step !== last) expect(refuseSign(progress, good(last), rules)).toContain("cannot be signed yet");
        events.push({ kind: "sign", ...good(step) });
        expect(refuseSign(jobProgress(plan, events), good(step), rules)).toBe("That step is signed already.");
      }
      expect(jobProgress(plan, events).finished).toBe(true);
    }
  }); // prettier-ignore

  it("a hold wants a name, a find its answer, what was kept its state, a change its words", () => {
    expect(at("fixed-bearings", (s) => !!s.hold).refuse({ holdBy: "  " })).toContain("say by first name who vouches"); // prettier-ignore
    expect(at("fixed-bearings", (s) => s.finds.length > 0).refuse({ found: null })).toContain("Say what was found"); // prettier-ignore
    const kept = at("fixed-bearings", (s) => !!s.keep && !!s.closes);
    expect(kept.refuse({ kept: null })).toContain(`Say how the ${kept.step.keep} went back`); // prettier-ignore
    expect(kept.refuse({ kept: "changed" })).toContain("Say what was changed");
    expect(kept.refuse({ kept: "changed", change: "0.05 less" })).toBe("");
  });

  it("a failed chain retest is accepted by reason and name only", () => {
    const retest = at("fixed-bearings", (s) => s.retest === "chain");
    const figure = { lostMm: 0.031, expandedMm: 0.001, runId: null };
    expect(retest.refuse({ figure: null })).toContain("has no figure yet");
    expect(retest.refuse({ figure })).toContain("The retest does not pass.");
    expect(retest.refuse({ figure, reason: "roughing only" })).toBe("A deviation is accepted by name."); // prettier-ignore
    expect(retest.refuse({ figure, reason: "roughing only", holdBy: "Ama" })).toBe(""); // prettier-ignore
  });

  it("so is a reading of any other retest that is out of its bounds", () => {
    const retest = at("gib", (s) => s.retest === "travel");
    expect(retest.refuse({ reading: null })).toBe("Highest load less lowest is missing."); // prettier-ignore
    expect(retest.refuse({ reading: 8 })).toBe("");
    expect(retest.refuse({ reading: 8.1 })).toContain("Highest load less lowest 8.1 % is out of bounds: it should be from 0.0 % up to 8.0 %."); // prettier-ignore
    expect(retest.refuse({ reading: 8.1, reason: "old ways" })).toBe("A deviation is accepted by name."); // prettier-ignore
    expect(retest.refuse({ reading: 8.1, reason: "old ways", holdBy: "Ama" })).toBe(""); // prettier-ignore
    expect([7.9, 8, 8.1, -0.1].map((v) => readingWithin(retest.step, v))).toEqual([true, true, false, false]); // prettier-ignore
  });

  it("an order that breaks a need is refused in words, the sheet’s own is not", () => {
    const { plan, progress } = at("fixed-bearings", (s) => s.id === planOf("fixed-bearings").steps[0].id); // prettier-ignore
    const own = plan.steps.map((s) => s.id);
    expect(refuseOrder(progress, own)).toEqual([]);
    expect(refuseOrder(progress, [...own].reverse()).length).toBeGreaterThan(0);
    expect(refuseOrder(progress, own.slice(1)).length).toBeGreaterThan(0);
  });
});

describe("judging a retest", () => {
  const limits = { leaveMm: 0.01, repairMm: 0.025 };
  const judge = (lostMm: number, expandedMm = 0.001, was: JobFigure | null = before) => judgeRetest(was, { lostMm, expandedMm, runId: null }, limits, "metric"); // prettier-ignore

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
    expect(judged.words).toContain(words);
  }); // prettier-ignore

  it("worse than before never passes, however small; the sign of a loss does not count", () => {
    const small: JobFigure = { lostMm: 0.002, expandedMm: 0.0005, runId: 1 };
    expect(judge(0.006, 0.0005, small)).toMatchObject({ passes: false });
    expect(judge(-0.006).passes).toBe(true);
    expect(judge(-0.03).passes).toBe(false);
  });

  it("between them, with a U that hides the gain, it does not pass", () => {
    const was: JobFigure = { lostMm: 0.022, expandedMm: 0.002, runId: 1 };
    const judged = judge(0.02, 0.002, was);
    expect(judged).toMatchObject({ passes: false, code: "watch" });
    expect(judged.words).toContain("not made it smaller");
  });

  it("typed without saying what it was measured with, it cannot tell and does not pass", () => {
    const typed = judgeRetest(
      before,
      { lostMm: 0.004, expandedMm: null, runId: null },
      limits,
      "metric",
    );
    expect(typed).toMatchObject({ passes: false, code: "cannot-tell" });
    expect(typed.words).toContain("uncertainty unknown");
  });

  it("with nothing measured before, only the limits count", () => {
    expect(judge(0.02, 0.001, null).words).toContain("nothing was measured before");
    expect(judge(0.004, 0.001, null).passes).toBe(true);
  }); // prettier-ignore
});
