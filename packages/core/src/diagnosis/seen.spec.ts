import { defaultAxis, type AxisConfig } from "../machine/axis";
import { causeById, CAUSES } from "./causes";
import { UNKNOWN_CONTEXT } from "./context";
import { isSure, nextTest } from "./next-test";
import { axis, chance, found, magnitude, says, whole } from "./evidence.testing";
import { infer } from "./infer";
import { causeFits, type Cause } from "./knowledge";
import { isSeen, neededTests, untriedFasteners } from "./seen";
import { caseVerdict } from "./verdict";

const z = defaultAxis("vertical-centre", "Z");
const old = { ...UNKNOWN_CONTEXT, ageYears: 15 };
const cause = (id: string): Cause => causeById(id) as Cause;
const still = (["retainer", "housing", "bracket", "coupling"] as const).map((f) => found(`${f}-turns`, false));

describe("what may be said of a cause (common practice, no source)", () => {
  const told = infer({
    axis: z,
    context: old,
    reports: [says("rumble"), says("lost-motion"), says("knock"), says("howl", false), says("hot-end", false)],
    magnitudes: [],
  });

  it("told symptoms and an age make worn bearings likely at most: nothing is proven, fasteners come first", () => {
    const verdict = caseVerdict(told, { done: new Set() });
    expect(verdict.sure).toBe(false);
    expect(verdict.proven).toEqual([]);
    expect(verdict.headline).not.toContain("nearly certain");
    expect(untriedFasteners(told, cause("end-bearing-worn"))).toEqual(["retainer-turns", "housing-turns"]);
  });

  it("however many say it: 99 % by hearsay is still not sure, and what is next looks at it", () => {
    const few = CAUSES.filter((c) => ["end-bearing-worn", "way-dry"].includes(c.id));
    const p = infer({
      axis: z,
      context: old,
      causes: few,
      reports: [says("rumble"), says("groan", false)],
      magnitudes: [],
    });
    expect(chance(p, "end-bearing-worn")).toBeGreaterThan(0.98);
    expect(isSure(p)).toBe(false);
    expect(caseVerdict(p, { done: new Set() }).headline).toMatch(/^End bearings worn: likely, /);
    expect(nextTest(p).next?.test.id).toBe("fastener-check");
    const tried = infer({ ...p.evidence, reports: [...p.evidence.reports, ...still] });
    expect(neededTests(tried)[0]).toBe("end-float");
    expect(nextTest(tried, { once: new Set(["fastener-check"]) }).next?.test.id).toBe("end-float");
    // Found, and still without a figure of the whole from before it is mended: the retest would have nothing to compare.
    const found22 = infer({ ...tried.evidence, magnitudes: [magnitude("end-float", 22)] });
    expect(neededTests(found22)).toEqual(["whole-chain"]);
    const floats = infer({ ...tried.evidence, magnitudes: [whole(25), magnitude("end-float", 22)] });
    expect(isSeen(floats, cause("end-bearing-worn"))).toBe(true);
    expect(isSure(floats)).toBe(true);
    expect(caseVerdict(floats, { done: new Set() }).proven[0]).toContain("End bearings worn");
  });

  it("a list of fasteners that was not worked through is gone on with before anything is sure", () => {
    const few = CAUSES.filter((c) => ["end-bearing-worn", "way-dry"].includes(c.id));
    const p = infer({
      axis: z,
      causes: few,
      reports: [found("retainer-turns", false), found("rough-finger"), found("dry", false), says("groan", false)],
      magnitudes: [magnitude("end-float", 22)],
    });
    expect(untriedFasteners(p, cause("end-bearing-worn"))).toEqual(["housing-turns"]);
    expect(isSure(p)).toBe(false);
    expect(nextTest(p, { once: new Set(["fastener-check", "end-float"]) }).next?.test.id).toBe("fastener-check");
  });

  it("a test that looked and found nothing has not seen it", () => {
    const p = infer({ axis, reports: still, magnitudes: [whole(20), magnitude("end-float", 0.5)] });
    expect(isSeen(p, cause("end-bearing-worn"))).toBe(false);
    expect(isSeen(p, cause("coupling-screw"))).toBe(false);
  });

  it("an override seen at zero, a supply that clicks only in descent, a table that gains: each is seen directly", () => {
    const zero = infer({ axis, reports: [says("no-motion"), found("override-zero")], magnitudes: [] });
    expect(isSure(zero)).toBe(true);
    // A knob is turned up in two seconds: nobody sets up an indicator first to have a figure from before.
    expect(neededTests(zero)).toEqual([]);
    expect(isSeen(infer({ axis, reports: [says("no-motion")], magnitudes: [] }), cause("control-override"))).toBe(
      false,
    );
    const clicks = infer({ axis: z, reports: [says("click-descent")], magnitudes: [] });
    expect(isSeen(clicks, cause("normal-regen"))).toBe(true);
    expect(isSeen(infer({ axis, reports: [], magnitudes: [whole(-20)] }), cause("control-comp"))).toBe(true);
  });

  it("nothing wrong needs the chain covered: its loss measured and its friction read", () => {
    const quiet = infer({ axis, reports: [says("lost-motion", false)], magnitudes: [], causes: [cause("tram-out")] });
    expect(neededTests(quiet)).toEqual(["whole-chain", "load-trace", "sound-comparison"]);
    const looked = [found("tight-all", false), found("rumble", false)];
    const measured = infer({ axis, reports: looked, magnitudes: [whole(3)], causes: [] });
    expect(neededTests(measured)).toEqual([]);
    const stepper: AxisConfig = { ...axis, motor: "stepper", feedback: "open-loop" };
    expect(neededTests(infer({ axis: stepper, reports: [], magnitudes: [whole(3)], causes: [] }))).toEqual([
      "screw-by-hand",
      "sound-comparison",
    ]);
    // A scale takes slack up before the table is read: the control tells it, or the links are measured one by one.
    const scale: AxisConfig = { ...axis, feedback: "scale" };
    expect(neededTests(infer({ axis: scale, reports: looked, magnitudes: [], causes: [] }))).toEqual([
      "motor-against-scale",
      "end-float",
      "nut-flank",
      "coupling-slip",
    ]);
    const together = [...looked, found("scale-gap", false)];
    expect(neededTests(infer({ axis: scale, reports: together, magnitudes: [], causes: [] }))).toEqual([]);
  });

  it("every cause of every kind of axis can be looked at: a test is named for it, or it is plain to see", () => {
    for (const letter of ["X", "Z"])
      for (const kind of ["vertical-centre", "router", "bench-mill", "lathe"] as const) {
        const config = defaultAxis(kind, letter);
        for (const one of CAUSES.filter((c) => causeFits(config, c) && !c.normal)) {
          const p = infer({ axis: config, reports: [], magnitudes: [], causes: [one] });
          if (isSeen(p, one)) expect([kind, letter, one.id]).toEqual([kind, letter, "no test looks at it"]);
        }
      }
  });
});
