import { defaultAxis } from "../machine/axis";
import { planJob } from "./planner";
import { jobProgress, recordOf, refuseOrder, stepBlocked, type JobEvent, type SignedStep } from "./progress";
import { doneText } from "./record";
import type { JobFigure } from "./retest";
import { readingWithin, refuseSign, type SignRules } from "./signing";
import { DEFAULT_OPTIONS, type JobKindId, type PlannedStep } from "./step-kind";

const box = {
  ...defaultAxis("vertical-centre", "X"),
  guideway: "box" as const,
};
const before: JobFigure = { reversalValueMm: 0.027, expandedMm: 0.001, runId: 1 };
const rules: SignRules = {
  before: () => before,
  limits: () => ({ leaveMm: 0.01, repairMm: 0.025 }),
  system: "metric",
};
const planOf = (kind: JobKindId) =>
  planJob({
    axes: [{ letter: "X", config: box }],
    items: [{ letter: "X", kind }],
    options: DEFAULT_OPTIONS,
  });
/** A signature that is as it should be. */
const good = (step: PlannedStep, over: Partial<SignedStep> = {}): SignedStep =>
  ({
    step: step.id,
    found: step.finds.at(0)?.id ?? null,
    kept: step.keeps ? "as it was" : null,
    change: "",
    reading: step.reading ? (step.reading.from ?? 0) : null,
    figure: step.retest === "chain" ? { reversalValueMm: 0.004, expandedMm: 0.001, runId: null } : null,
    holdBy: step.hold ? "Ama" : "",
    reason: "",
    words: "",
    ...over,
  }) as SignedStep;

/** A job worked up to the first step that is as asked. */
function at(kind: JobKindId, want: (step: PlannedStep) => boolean) {
  const plan = planOf(kind);
  const i = plan.steps.findIndex(want);
  if (i < 0) throw new Error("no such step");
  const events = plan.steps.slice(0, i).map((s): JobEvent => ({ kind: "sign", ...good(s) }));
  const progress = jobProgress(plan, events);
  const refuse = (over: Partial<SignedStep> = {}): string =>
    refuseSign(progress, good(plan.steps[i], over), rules)?.message ?? "";
  return { plan, progress, step: plan.steps[i], refuse };
}

describe("signing a step", () => {
  it("every step of every sheet takes a signature in the sheet’s own order, and none before its turn", () => {
    for (const kind of ["fixed-bearings", "screw", "gib", "coupling", "home-switch"] as const) {
      const plan = planOf(kind);
      const events: JobEvent[] = [];
      for (const step of plan.steps) {
        const progress = jobProgress(plan, events);
        expect(refuseSign(progress, good(step), rules)).toBeNull();
        const last = plan.steps[plan.steps.length - 1];
        if (step !== last) expect(refuseSign(progress, good(last), rules)?.message).toContain("cannot be signed yet");
        events.push({ kind: "sign", ...good(step) });
        expect(refuseSign(jobProgress(plan, events), good(step), rules)?.message).toBe("That step is signed already.");
      }
      expect(jobProgress(plan, events).finished).toBe(true);
    }
  });

  it("a hold wants a name, a find its answer, what was kept its state, a change its words", () => {
    expect(at("fixed-bearings", (s) => !!s.hold).refuse({ holdBy: "  " })).toContain("say by first name who vouches");
    expect(at("fixed-bearings", (s) => s.finds.length > 0).refuse({ found: null })).toContain("Say what was found");
    const kept = at("fixed-bearings", (s) => s.keeps !== null);
    expect(kept.refuse({ kept: null })).toContain(`Say how the ${kept.step.keeps} went back`);
    expect(kept.refuse({ kept: "changed" })).toContain("Say what was changed");
    expect(kept.refuse({ kept: "changed", change: "0.05 less" })).toBe("");
  });

  it("a failed chain retest is accepted by reason and name only", () => {
    const retest = at("fixed-bearings", (s) => s.retest === "chain");
    const figure = { reversalValueMm: 0.031, expandedMm: 0.001, runId: null };
    expect(retest.refuse({ figure: null })).toContain("has no figure yet");
    expect(retest.refuse({ figure })).toContain("The retest does not pass.");
    expect(retest.refuse({ figure, reason: "roughing only" })).toBe("A deviation is accepted by name.");
    expect(retest.refuse({ figure, reason: "roughing only", holdBy: "Ama" })).toBe("");
  });

  it("so is a reading of any other retest that is out of its bounds", () => {
    const retest = at("gib", (s) => s.retest === "travel-load");
    expect(retest.refuse({ reading: null })).toBe("Highest load less lowest is missing.");
    expect(retest.refuse({ reading: 8 })).toBe("");
    expect(retest.refuse({ reading: 8.1 })).toContain(
      "Highest load less lowest 8.1 % is out of bounds: it should be from 0.0 % up to 8.0 %.",
    );
    expect(retest.refuse({ reading: 8.1, reason: "old ways" })).toBe("A deviation is accepted by name.");
    expect(retest.refuse({ reading: 8.1, reason: "old ways", holdBy: "Ama" })).toBe("");
    expect([7.9, 8, 8.1, -0.1].map((v) => readingWithin(retest.step, v))).toEqual([true, true, false, false]);
  });

  it("a job that asks for a circle is held until one passes, or somebody accepts it by name and reason", () => {
    const ask = (kind: JobKindId, circle?: boolean) =>
      planJob({
        axes: [{ letter: "X", config: box }],
        items: [{ letter: "X", kind }],
        options: { ...DEFAULT_OPTIONS, circle },
      });
    for (const kind of ["fixed-bearings", "gib", "screw"] as const) {
      const asked = ask(kind, true).steps.filter((s) => s.retest === "circle");
      expect([kind, asked.map((s) => s.phase)]).toEqual([kind, ["prove"]]);
      expect(ask(kind).steps.filter((s) => s.retest === "circle")).toEqual([]);
    }
    const plan = ask("fixed-bearings", true);
    const i = plan.steps.findIndex((s) => s.retest === "circle");
    const progress = jobProgress(
      plan,
      plan.steps.slice(0, i).map((s): JobEvent => ({ kind: "sign", ...good(s) })),
    );
    const refuse = (over: Partial<SignedStep>): string =>
      refuseSign(progress, good(plan.steps[i], over), rules)?.message ?? "";
    const circle = (value: number): SignedStep["circle"] => ({
      sessionId: 3,
      at: "2026-03-04T08:00:00Z",
      plane: ["X", "Y"],
      feedMmMin: 1000,
      found: [{ kind: "lost", letter: "X", value, u: 0.0005, leave: 0.01, repair: 0.025 }],
      before: null,
      fresh: true,
      square: false,
    });
    expect(refuse({})).toBe("The retest has no circle yet: take one at Prove, both ways round.");
    expect(refuse({ circle: circle(0.004) })).toBe("");
    expect(refuse({ circle: circle(0.04) })).toContain("The retest does not pass. Circle XY");
    expect(refuse({ circle: circle(0.04), reason: "roughing only" })).toBe("A deviation is accepted by name.");
    expect(refuse({ circle: circle(0.04), reason: "roughing only", holdBy: "Ama" })).toBe("");
  });

  it("an order that breaks a need is refused in words, the sheet’s own is not", () => {
    const { plan, progress } = at("fixed-bearings", (s) => s.id === planOf("fixed-bearings").steps[0].id);
    const own = plan.steps.map((s) => s.id);
    expect(refuseOrder(progress, own)).toEqual([]);
    expect(refuseOrder(progress, [...own].reverse()).length).toBeGreaterThan(0);
    expect(refuseOrder(progress, own.slice(1)).length).toBeGreaterThan(0);
  });
});

describe("the record of a job", () => {
  it("keeps the steps of sheets gone by, and says only what was really renewed", () => {
    const plan = planOf("fixed-bearings");
    const cut = plan.steps.findIndex((s) => s.kind === "retainer-off") + 1;
    const signs = plan.steps.slice(0, cut).map((s): JobEvent => ({ kind: "sign", ...good(s) }));
    const start = jobProgress(plan, signs).state;
    const anew = planJob({
      axes: plan.axes,
      items: [],
      options: DEFAULT_OPTIONS,
      start,
    });
    const events: JobEvent[] = [...signs, { kind: "plan", why: "loose", plan: anew }];
    for (const s of anew.steps) events.push({ kind: "sign", ...good(s) });
    const progress = jobProgress(plan, events);
    expect(progress.finished).toBe(true);
    expect(progress.earlier.map((r) => r.step.id)).toEqual(plan.steps.slice(0, cut).map((s) => s.id));
    expect(recordOf(progress)).toHaveLength(cut + anew.steps.length);
    expect(doneText(recordOf(progress), "X")).not.toContain("renewed");
    expect(doneText(recordOf(progress), "X")).toContain("bearing preload set");
  });

  it("a cut after the ring came off ends with preload, lock and torque", () => {
    const plan = planOf("fixed-bearings");
    const cut = plan.steps.findIndex((s) => s.kind === "retainer-off") + 1;
    const signs = plan.steps.slice(0, cut).map((s): JobEvent => ({ kind: "sign", ...good(s) }));
    const { steps } = planJob({
      axes: plan.axes,
      items: [],
      options: DEFAULT_OPTIONS,
      start: jobProgress(plan, signs).state,
    });
    const kinds = steps.map((s) => s.kind);
    expect(kinds).toEqual(
      expect.arrayContaining(["retainer-on", "set-preload", "motor-on", "coupling-shut", "retest-chain"]),
    );
    for (const never of ["housing-off", "bearing-in", "bearing-out"]) expect(kinds).not.toContain(never);
    expect(steps.find((s) => s.kind === "retainer-on")?.torques.join()).toMatch(/retainer screws.*N·m/);
    expect(steps.flatMap((s) => s.parts)).toEqual([]);
  });

  it("a step cannot be signed in a state that does not allow it, nor a proof before the work", () => {
    const plan = planOf("fixed-bearings");
    const fresh = jobProgress(plan, []);
    const step = (kind: string): PlannedStep => plan.steps.find((s) => s.kind === kind) as PlannedStep;
    expect(stepBlocked(fresh, step("motor-off")).join(" ")).toContain("has hands in with the power on");
    expect(stepBlocked(fresh, step("retest-chain")).join(" ")).toContain("It comes after");
    expect(stepBlocked(fresh, step("sign-off")).join(" ")).toContain("is not signed yet");
    expect(stepBlocked(fresh, plan.steps[0])).toEqual([]);
  });

  it("a smooth bearing does not go straight on to the new set: it asks", () => {
    const feel = at("fixed-bearings", (s) => s.kind === "finger-feel");
    expect(feel.refuse({ found: "smooth" })).toContain("it does not go straight on");
    expect(feel.refuse({ found: "smooth", reason: "apart anyway, renewed" })).toBe("");
    expect(feel.refuse({ found: "rough" })).toBe("");
  });
});
