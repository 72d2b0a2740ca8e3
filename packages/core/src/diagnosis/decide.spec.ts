import { defaultAxis, pricesOf, type AxisConfig } from "../machine/axis";
import { rankTests } from "./decide";
import { isSure, nextTest } from "./next-test";
import { minuteCost, remedyCost } from "./decision-terms";
import { infer } from "./infer";
import type { Report } from "./evidence";
import type { FindingId } from "../measure/findings";
import { learnedFactors, PRIOR_CASES } from "./learn";
import { availability, findingsOf, LOCATE_TESTS, locateTest } from "./tests";
import { SISTER_TERMS, sistersToo } from "../sums/sisters";
import { thirdFault } from "./third-fault";
import { caseVerdict } from "./verdict";
import { unprovenPart } from "./proven";
import { causeById } from "./causes";
import type { Magnitude } from "./components";

const axis = defaultAxis("vertical-centre", "X");
const z = defaultAxis("vertical-centre", "Z");
const report = (finding: FindingId, present = true, source: Report["source"] = "test"): Report => ({
  finding,
  present,
  source,
});
const size = (kind: Magnitude["kind"], um: number): Magnitude => ({ kind, reversalValueMm: um / 1000, uMm: 0.001 });

describe("tests that can be done", () => {
  it("never offers the hand push on a gravity axis, and wants the block before the motor comes off", () => {
    const push = locateTest("hand-push");
    const motor = locateTest("motor-alone");
    if (!push || !motor) throw new Error("missing");
    expect(availability(z, push)).toMatchObject({ possible: false });
    expect(availability(axis, push).possible).toBe(true);
    expect(availability(z, motor).say).toContain("never the spindle nose");
    expect(availability(z, motor).minutes).toBe(motor.minutes + 15);
    expect(availability(axis, motor).say).toBe("");
  });

  // Common practice, no source: a position loop closed over a scale that no longer moves drives the motor on till it trips.
  it("says of an axis that reads a scale that its uncoupled motor would run away, beside the block of one that can fall", () => {
    const motor = locateTest("motor-alone");
    if (!motor) throw new Error("missing");
    expect(availability({ ...axis, feedback: "scale" }, motor).say).toContain("would run away");
    const both = availability({ ...z, feedback: "scale" }, motor).say;
    expect(both).toContain("would run away");
    expect(both).toContain("never the spindle nose");
    for (const other of LOCATE_TESTS.filter((t) => t.id !== "motor-alone"))
      expect(availability({ ...axis, feedback: "scale" }, other).say).not.toContain("run away");
  });

  it("says why for every test that an axis cannot have, and asks each for something", () => {
    const rack = defaultAxis("router", "X");
    for (const test of LOCATE_TESTS) {
      const there = availability(rack, test);
      if (!there.possible) expect(there.say.length).toBeGreaterThan(10);
      expect(test.how.length).toBeGreaterThan(0);
      expect(test.minutes).toBeGreaterThan(0);
    }
    expect(findingsOf(rack, locateTest("fastener-check") ?? LOCATE_TESTS[0])).toEqual(["pinion-turns"]);
  });
});

describe("the next test", () => {
  it("looks at what is free first: fasteners before anything is opened", () => {
    const p = infer({ axis, reports: [report("rumble", true, "symptom")], magnitudes: [size("whole-chain", 27)] });
    const order = nextTest(p).ranked.map((r) => r.test);
    expect(nextTest(p).next?.test.free).toBe(true);
    const fasteners = order.findIndex((t) => t.id === "fastener-check");
    expect(order.slice(0, fasteners).every((t) => t.free)).toBe(true);
    expect(nextTest(p).ranked[fasteners].splits.length).toBeGreaterThan(0);
  });

  it("begins at the control when nothing moves and there is no alarm", () => {
    const p = infer({ axis, reports: [report("no-motion", true, "symptom")], magnitudes: [] });
    expect(nextTest(p).next?.test.id).toBe("control-check");
  });

  it("splits bearings from nut by the end float once the fasteners are tight", () => {
    const tight = (["retainer-turns", "housing-turns", "bracket-turns", "coupling-turns"] as const).map((f) =>
      report(f, false),
    );
    const p = infer({
      axis,
      reports: [report("lost-motion", true, "symptom"), ...tight],
      magnitudes: [size("whole-chain", 27)],
    });
    const ranked = rankTests(p, {
      once: new Set(["fastener-check", "control-check", "look-over"]),
      done: new Set(["fastener-check", "control-check", "look-over"]),
    });
    expect(ranked.slice(0, 5).map((r) => r.test.id)).toContain("end-float");
  });

  it("stops when it is sure, and never values a test below nothing", () => {
    const p = infer({
      axis,
      reports: [
        report("rough-finger"),
        report("rumble"),
        report("retainer-turns", false),
        report("housing-turns", false),
      ],
      magnitudes: [size("whole-chain", 27), size("end-float", 25)],
    });
    expect(isSure(p)).toBe(true);
    expect(nextTest(p)).toMatchObject({ next: null, stop: "sure" });
    for (const r of rankTests(p)) expect(r.value).toBeGreaterThanOrEqual(0);
  });

  it("costs what the axis’ own costs make it", () => {
    const cause = causeById("end-bearing-worn");
    if (!cause) throw new Error("missing");
    expect(minuteCost(axis, 90)).toBeCloseTo(1.5 * axis.costs.downtimePerHour, 9);
    expect(remedyCost(axis, cause)).toBeCloseTo((255 / 60) * axis.costs.downtimePerHour + pricesOf(axis).bearingSet, 9);
    const dear: AxisConfig = { ...axis, costs: { ...axis.costs, downtimePerHour: 800 } };
    expect(remedyCost(dear, cause)).toBeGreaterThan(remedyCost(axis, cause));
  });
});

describe("the verdict", () => {
  it("never condemns a screw or nut that nothing has proven", () => {
    const guess = infer({
      axis,
      reports: [report("howl", true, "symptom"), report("lost-motion", true, "symptom")],
      magnitudes: [size("whole-chain", 24)],
    });
    const verdict = caseVerdict(guess, { done: new Set() });
    const dear = verdict.options.filter((o) => o.cause?.remedy.costClass === 3 && o.cause.provenBy);
    expect(dear.length).toBeGreaterThan(0);
    for (const option of dear) expect(option.unless).toContain("Not proven");
    const proven = infer({
      axis,
      reports: [report("profile-middle"), report("howl")],
      magnitudes: [size("whole-chain", 24), size("nut-flank", 22)],
    });
    expect(unprovenPart(proven)).toBeNull();
  });

  it("says what is proven, what speaks for it, and what nobody looked at", () => {
    const p = infer({
      axis,
      reports: [{ ...report("retainer-turns"), ref: "result 7" }, report("rumble", true, "symptom")],
      magnitudes: [size("whole-chain", 27), size("end-float", 24)],
    });
    const verdict = caseVerdict(p, { done: new Set(["fastener-check"]) });
    expect(verdict.headline).toMatch(/^Bearing retainer or nut loose: (nearly certain|likely), 9\d %/);
    expect(verdict.leading[0].speaksFor.map((e) => e.ref)).toContain("result 7");
    expect(verdict.proven.join(" ")).toContain("The screw end floats 24.0 µm");
    expect(verdict.notLookedAt).toContain("Nut flank");
    expect(verdict.notLookedAt).not.toContain("Fastener check");
    expect(verdict.options[0].message).toContain("tighten the retainer");
    expect(verdict.options.find((o) => o.message.startsWith("Compensate"))?.unless).toContain("finer test first");
    const over = infer({
      axis,
      reports: [],
      magnitudes: [size("whole-chain", 60)],
    });
    expect(
      caseVerdict(over, { done: new Set() }).options.find((o) => o.message.startsWith("Compensate"))?.unless,
    ).toContain("mechanics first");
  });

  it("warns of what it cannot explain and of tests that contradict each other", () => {
    const p = infer({
      axis,
      reports: [report("retainer-turns"), report("retainer-turns", false), report("tram-off")],
      magnitudes: [size("whole-chain", 27), size("end-float", 25)],
    });
    const { warnings } = caseVerdict(p, { done: new Set() });
    expect(warnings.join(" ")).toContain("by tests: bearing retainer");
  });

  it("says when three faults are needed, and does not when one is enough", () => {
    const slack = [
      size("whole-chain", 75),
      size("end-float", 25),
      size("coupling-slip", 24),
      size("bracket-shift", 24),
    ];
    const looked = [report("retainer-turns"), report("coupling-turns"), report("bracket-turns")];
    const evidence = infer({ axis, reports: looked, magnitudes: slack });
    const three = thirdFault(evidence);
    expect(three?.probability).toBeGreaterThan(0.9);
    expect(three?.causes.map((c) => c.id).sort()).toEqual(["bracket-loose", "coupling-screw", "retainer-loose"]);
    const verdict = caseVerdict(evidence, { done: new Set() });
    expect(verdict.warnings.join()).toContain("three do");
    expect(verdict.headline).toMatch(/^Three faults together: /);
    expect(verdict.sure).toBe(false);
    const one = thirdFault(infer({ axis, reports: [report("retainer-turns")], magnitudes: [] }));
    expect(one?.probability).toBeLessThan(0.1);
  });

  it("computes whether the sisters are cheaper now", () => {
    const sister = {
      letter: "Y",
      bearingSet: 350,
      downtimePerHour: 80,
      loss: { reversalValueMm: 0.004, expandedMm: 0.002 },
      limits: { leaveMm: 0.01, repairMm: 0.025 },
    };
    const [young] = sistersToo([{ ...sister, ageYears: 2 }]);
    const [old] = sistersToo([{ ...sister, ageYears: 22, downtimePerHour: 400 }]);
    expect(young.worth).toBe(false);
    expect(old.laterCost).toBeGreaterThan(young.laterCost);
    expect(old.worth).toBe(true);
    const [worn] = sistersToo([
      { ...sister, ageYears: null, loss: { reversalValueMm: 0.04, expandedMm: 0.005 }, downtimePerHour: 400 },
    ]);
    expect(worn.worth).toBe(true);
    expect(worn.assumes).toEqual(["age taken as 10 years", "over its limit when last measured"]);
    // 40 µm known to 20 holds the limit of 25: that is no finding, and only its age speaks.
    const [wide] = sistersToo([{ ...sister, ageYears: 2, loss: { reversalValueMm: 0.04, expandedMm: 0.02 } }]);
    expect(wide.goes).toBe(young.goes);
    expect(wide.assumes.join()).toContain("cannot tell");
  });
});

describe("chance that a bearing goes", () => {
  it("is a number at any age, also far past its life", () => {
    const sister = {
      letter: "Y",
      bearingSet: 350,
      downtimePerHour: 80,
      loss: null,
      limits: { leaveMm: 0.01, repairMm: 0.025 },
    };
    for (const [ageYears, scaleYears, shape] of [
      [80, 1, 10],
      [80, 14, 2.5],
      [0, 100, 0.5],
    ]) {
      const [advice] = sistersToo([{ ...sister, ageYears }], { ...SISTER_TERMS, scaleYears, shape });
      expect(advice.goes).toBeGreaterThan(0);
      expect(advice.goes).toBeLessThanOrEqual(1);
    }
  });
});

describe("learning from closed cases", () => {
  const one = { found: ["nut-worn"], expected: { "nut-worn": 0.05, "end-bearing-worn": 0.2 } };

  it("no single case can swing a prior, many can, and none moves nothing", () => {
    expect(learnedFactors([])).toEqual({});
    const single = learnedFactors([one]);
    expect(single["nut-worn"]).toBeLessThan(1 + 1 / PRIOR_CASES + 1e-9);
    expect(single["end-bearing-worn"]).toBeGreaterThan(1 - 1 / PRIOR_CASES);
    const many = learnedFactors(Array.from({ length: 30 }, () => one));
    expect(many["nut-worn"]).toBeGreaterThan(2.5);
    expect(many["end-bearing-worn"]).toBeLessThan(0.75);
  });
});
