import { defaultAxis, type AxisConfig } from "../../machine/axis";
import { axisFromParts, simulateHandTestReading, type PartsCondition } from "../../simulate";
import {
  checkHandTest,
  defaultHandTest,
  feelResult,
  FEEL_KINDS,
  handTestAnswers,
  handTestGrades,
  handTestInstruction,
  handTestOpen,
  handTestQuantity,
  handTestRefusal,
  handTestResult,
  handTestSetup,
  handTestSteps,
  type FeelKind,
  type HandTestOptions,
} from "./index";

const lathe = defaultAxis("lathe", "X");
const router = defaultAxis("router", "X");
/** A small, repeatable scatter with no run of the same sign. */
function scatter(): () => number {
  let i = 0;
  return () => [0.4, -0.7, 0.1, 0.9, -0.5, -0.2][(i += 1) % 6];
}

function done(config: AxisConfig, kind: FeelKind, parts: PartsCondition, options: HandTestOptions = {}) {
  const plan = defaultHandTest(config, kind);
  const axis = axisFromParts(config, parts, 1);
  const normal = scatter();
  const values = handTestSteps(plan).map((s) => simulateHandTestReading(config, { axis, plan, step: s, normal }));
  const result = handTestResult(config, plan, { values, ...options });
  if (!result || !("hand" in result)) throw new Error("no result");
  return { ...result.hand, test: handTestAnswers(result)?.test, open: handTestOpen(plan, values) };
}

/** Nothing noted of this axis; what such members usually want. */
const pull = { usualN: null, kindN: [15, 120] as const };

describe("tests by hand", () => {
  const flat = { ...lathe, orientation: "horizontal" as const, guideway: "v-wheel" as const };
  it.each(FEEL_KINDS)("%s: each step has words, and a quantity or grades, never both", (kind) => {
    const plan = defaultHandTest(flat, kind);
    expect(handTestRefusal(flat, kind)).toBe("");
    expect(() => checkHandTest(plan, flat)).not.toThrow();
    expect(handTestSetup(flat, plan)[0]).toContain("Isolate");
    for (const step of handTestSteps(plan)) {
      expect(handTestInstruction(plan, step, "metric").length).toBeGreaterThan(20);
      const told = handTestGrades(plan, step.group).length > 1;
      expect(handTestQuantity(plan, step.group) === null).toBe(told);
    }
    expect(handTestResult(flat, plan, { values: [] })).toBeNull();
  });

  it.each([
    ["rock", { wayGapMm: 0.06 }, "rocks", lathe],
    ["hand-push", { rackSpotN: 260, spotAt: 0.5 }, "tight-spot", router],
    ["hand-push", { cageShiftMm: 6 }, "short-travel", lathe],
    ["hand-push", { nutDirt: 1 }, "grit", lathe],
    ["wheel-turn", { wheelTightN: 130 }, "wheel-stuck", flat],
    ["wheel-turn", { wheelGapMm: 0.2 }, "wheel-free", flat],
    ["motor-alone", { motorPitting: 0.9 }, "motor-noise", lathe],
    ["motor-alone", { brakeDragN: 160 }, "motor-heavy", lathe],
    ["finger-feel", { bearingPitting: 0.9 }, "rough-finger", lathe],
    ["coast", { bearingGapMm: 0.04 }, "coasts-free", lathe],
    ["coast", { bearingOverN: 500 }, "coast-stuck", lathe],
  ] as const)("%s with %j finds that it %s", (kind, parts, id, config) => {
    const bad = done(config, kind, parts);
    expect(bad.answers[id]).toBe(true);
    expect(bad.test).toBe(kind);
    expect(bad.open).toEqual([]);
    expect(done(config, kind, {}).answers[id]).toBe(false);
  });

  it("tight everywhere is said against what is usual on the axis, or when it is high for such a member", () => {
    const tight = { gibTightN: 100 };
    const unknown = done(lathe, "hand-push", tight);
    expect(unknown.answers["tight-all"]).toBe(true);
    expect(unknown.remarks.join(" ")).toContain("High for such a member");
    const some = done(lathe, "hand-push", { frictionN: 40 });
    expect(some.answers["tight-all"]).toBeUndefined();
    expect(some.remarks.join(" ")).toContain("what is usual");
    const told = done(lathe, "hand-push", tight, { usualN: 120 });
    expect(told.answers["tight-all"]).toBe(true);
    expect(told.headline).toContain("tight over the whole travel");
    expect(done(lathe, "hand-push", {}, { usualN: 120 }).answers["tight-all"]).toBe(false);
  });

  it("400 N everywhere is not put down to the drive while nobody knows what is usual", () => {
    const plan = defaultHandTest(lathe, "hand-push");
    const heavy = handTestSteps(plan)
      .filter((s) => s.group === "out" || s.group === "back")
      .map((s) => ({ ...s, value: 400 + (s.index % 3) }));
    const said = feelResult("hand-push", { plan, reads: heavy, pull });
    expect(said?.headline).not.toContain("motor or drive");
    expect(said?.answers["tight-all"]).toBe(true);
    const light = heavy.map((r) => ({ ...r, value: r.value / 5 }));
    expect(feelResult("hand-push", { plan, reads: light, pull })?.headline).not.toContain("motor or drive");
    expect(feelResult("hand-push", { plan, reads: light, pull: { ...pull, usualN: 80 } })?.headline).toContain(
      "motor or drive",
    );
  });

  it("a motor that makes another noise, or ran at one speed only, is not called quiet", () => {
    const plan = defaultHandTest(lathe, "motor-alone");
    const sounds = (grades: readonly number[]) =>
      feelResult("motor-alone", {
        plan,
        reads: handTestSteps(plan)
          .filter((s) => s.group === "sound")
          .slice(0, grades.length)
          .map((s, i) => ({ ...s, value: grades[i] })),
        pull,
      });
    expect(sounds([0, 1, 0])?.answers["motor-noise"]).toBeUndefined();
    expect(sounds([0, 1, 0])?.headline).toContain("stays open");
    expect(sounds([0])?.answers["motor-noise"]).toBeUndefined();
    expect(sounds([0, 0, 0])?.answers["motor-noise"]).toBe(false);
    expect(sounds([0, 2, 1])?.answers["motor-noise"]).toBe(true);
  });

  it("a spot that shows one way only is taken as the hand’s", () => {
    const plan = defaultHandTest(lathe, "hand-push");
    const reads = handTestSteps(plan)
      .filter((s) => s.group === "out" || s.group === "back")
      .map((s) => ({ ...s, value: s.group === "out" && s.at === plan.places[2] ? 260 : 120 + (s.index % 3) }));
    const result = feelResult("hand-push", { plan, reads, pull });
    expect(result?.answers["tight-spot"]).toBe(false);
    expect(result?.remarks.join(" ")).toContain("not both ways");
  });

  it("rock near its limit is left open, play in one place is the way’s", () => {
    const plan = { ...defaultHandTest(lathe, "rock"), places: [10, 60, 110] };
    const play = (mm: readonly number[]) =>
      feelResult("rock", {
        plan,
        reads: handTestSteps(plan).map((s) => ({
          ...s,
          value: s.group === "pulled" ? -mm[plan.places.indexOf(s.at)] : s.group === "pushed" ? 0.001 : -0.001,
        })),
        pull,
      });
    expect(play([0.02, 0.021, 0.02])?.answers).toEqual({});
    expect(play([0.01, 0.06, 0.012])?.remarks.join(" ")).toContain("worn there");
    expect(play([0.055, 0.06, 0.058])?.remarks.join(" ")).toContain("same everywhere");
    // Two pushes differ by 0.002 at each of three places: s = 0.002/√2, k(3) = 3.31, U = k·s·√1.5, by hand.
    // The display adds 0.002/√12 for the pull, and half its square for the mean of two pushes.
    const display = (2 * 0.002 * Math.sqrt(1.5)) / Math.sqrt(12);
    expect(play([0.06, 0.06, 0.06])?.figures[0].expanded).toBeCloseTo(Math.hypot(0.00573, display), 4);
  });

  it("flicks that disagree leave the preload open", () => {
    const plan = defaultHandTest(lathe, "coast");
    const flicks = (values: readonly number[]) =>
      feelResult("coast", { plan, reads: handTestSteps(plan).map((s) => ({ ...s, value: values[s.index] })), pull });
    expect(flicks([0, 2, 1, 1, 1, 1])?.answers).toEqual({});
    expect(flicks([1, 1, 1, 1, 0, 1])?.answers).toEqual({ "coasts-free": false, "coast-stuck": false });
    expect(flicks([2, 2, 2, 2, 1, 2])?.answers["coasts-free"]).toBe(true);
  });

  it("is refused where it is not safe or not there, and out of bounds by name", () => {
    const z = defaultAxis("vertical-centre", "Z");
    expect(handTestRefusal(z, "hand-push")).toContain("Never on an axis that can fall");
    expect(handTestRefusal(lathe, "wheel-turn")).toContain("does not have");
    expect(handTestSetup(z, defaultHandTest(z, "motor-alone")).join(" ")).toContain("never the spindle nose");
    const scaled = { ...z, feedback: "scale" as const };
    expect(handTestSetup(scaled, defaultHandTest(scaled, "motor-alone")).join(" ")).toContain("would run away");
    expect(handTestSetup(z, defaultHandTest(z, "rock")).join(" ")).toContain("can fall");
    expect(() => checkHandTest({ ...defaultHandTest(router, "wheel-turn"), repeats: 1 }, router)).toThrow(
      "number of wheels is 1",
    );
    expect(() => checkHandTest({ ...defaultHandTest(lathe, "rock"), places: [1, 1e5] }, lathe)).toThrow(
      "place is 100000",
    );
    expect(() => checkHandTest({ ...defaultHandTest(lathe, "coast"), repeats: 40 }, lathe)).toThrow(
      "flicks each way is 40",
    );
  });
});
