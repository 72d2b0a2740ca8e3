import type { Magnitude } from "./components";
import { defaultAxis, type AxisConfig } from "../machine/axis";
import { axis, found, magnitude, says, whole } from "./evidence.testing";
import { symptomsOf } from "./asked";
import { infer } from "./infer";
import type { Evidence } from "./evidence";
import { nextTest } from "./next-test";
import { impliedBy, pointless } from "./pointless";
import { isSure } from "./next-test";
import { testsOfProof, unprovenPart } from "./proven";
import { availability, LOCATE_TESTS, locateTest, type TestId } from "./tests";
import { caseVerdict } from "./verdict";
import { openSymptoms } from "./seen";
import { contradictoryFindings, unexplained } from "./unexplained";
import { chance } from "./evidence.testing";

const z = defaultAxis("vertical-centre", "Z");
const evidence = (rest: Partial<Evidence>): Evidence => ({ axis, reports: [], magnitudes: [], ...rest });
const next = (rest: Partial<Evidence>, once: readonly TestId[] = []): TestId | undefined =>
  nextTest(infer(evidence(rest)), { once: new Set(once) }).next?.test.id;

describe("what a mechanic would not do (common practice, no source)", () => {
  it("looks at the knobs when nothing moves, and not of an axis that was heard to run or has just been measured", () => {
    expect(next({ reports: [says("no-motion")] })).toBe("control-check");
    for (const rest of [
      { reports: [says("rumble")] },
      { magnitudes: [whole(4)] },
      { reports: [says("no-motion", false)] },
    ]) {
      expect(pointless(evidence(rest), "control-check")).toMatch(/^The axis moves on command/);
      expect(nextTest(infer(evidence(rest))).ranked.map((r) => r.test.id)).not.toContain("control-check");
      expect(impliedBy(evidence(rest))[0]).toMatchObject({ finding: "no-motion", present: false });
    }
    expect(pointless(evidence({ reports: [says("rumble"), says("stops-in-program")] }), "control-check")).toBeNull();
  });

  it("an override at zero stops the axis dead, or in the middle of a program: seen, it is the cause of both", () => {
    for (const told of ["no-motion", "stops-in-program"] as const) {
      const p = infer(evidence({ reports: [says(told), found("override-zero"), found("listed-waiting", false)] }));
      expect(chance(p, "control-override")).toBeGreaterThan(0.95);
    }
  });

  it("drives nothing that does not move, and opens nothing while a look from outside is worth anything", () => {
    const still = nextTest(infer(evidence({ reports: [says("no-motion")] }))).ranked.map((r) => r.test.id);
    for (const id of ["whole-chain", "load-trace", "sound-comparison", "home-again"]) expect(still).not.toContain(id);
    const { next: first, ranked } = nextTest(infer(evidence({ reports: [says("grit"), says("tight-spot")] })));
    expect(ranked.some((r) => r.test.opens)).toBe(true);
    expect(first?.test.opens ?? false).toBe(false);
  });

  it("compares a noise only where there is an axis to compare it with", () => {
    expect(pointless(evidence({ sister: false }), "sound-comparison")).toContain("No other axis");
    expect(pointless(evidence({}), "sound-comparison")).toBeNull();
  });

  it("reads no load of a stepper, and turns its screw by hand instead, on gear where it can fall", () => {
    const stepper: AxisConfig = { ...axis, motor: "stepper", feedback: "open-loop" };
    const upright: AxisConfig = { ...stepper, orientation: "vertical" };
    const test = (id: string) => locateTest(id) ?? LOCATE_TESTS[0];
    expect(availability(stepper, test("load-trace"))).toMatchObject({ possible: false });
    expect(availability(stepper, test("screw-by-hand"))).toMatchObject({ possible: true, say: "" });
    expect(availability(upright, test("screw-by-hand")).say).toContain("lifting gear");
    expect(availability(axis, test("screw-by-hand")).possible).toBe(false);
  });

  it("whoever turns an override up is told that the axis moves at once, and opens nothing without isolating", () => {
    const text = (id: TestId): string => (locateTest(id)?.how ?? []).join(" ");
    expect(text("control-check")).toMatch(/moves at once.*guard closed, hands out/);
    for (const t of LOCATE_TESTS.filter((x) => x.opens || /by hand|cloth/.test(x.tools + x.how.join(" "))))
      if (t.id !== "in-hand" && t.id !== "back-drive")
        expect([t.id, /isolated?\b/i.test(t.how.join(" "))]).toEqual([t.id, true]);
    // What holds an upright axis is not taken off it to feel a carriage.
    expect(text("carriages-unloaded")).toContain("Its drive stays on");
    const both: AxisConfig = { ...axis, screw: { ...axis.screw, fixings: "fixed-fixed" } };
    expect(availability(both, locateTest("end-watch") ?? LOCATE_TESTS[0]).possible).toBe(false);
    expect(symptomsOf(both)).not.toContain("end-walks");
  });

  it("repeats a test only where it may come out otherwise", () => {
    const twice = { reports: [found("rocks"), says("chatter", false)], magnitudes: [whole(3)] };
    // All that speaks for the gib is one yes: it is looked at again before a gib is touched.
    const box: AxisConfig = { ...axis, guideway: "box" };
    expect(next({ ...twice, axis: box }, ["rock", "whole-chain", "look-over", "comp-look", "fastener-check"])).toBe(
      "rock",
    );
    const done = LOCATE_TESTS.map((t) => t.id);
    expect(nextTest(infer(evidence({ reports: [found("dry", false)] })), { once: new Set(done) }).next).toBeNull();
    expect(contradictoryFindings([found("dry"), found("dry", false), found("rocks")])).toEqual(["dry"]);
  });

  it("says what else is worth doing while the indicator stands there", () => {
    const reports = [
      says("rumble"),
      says("lost-motion"),
      found("retainer-turns", false),
      found("housing-turns", false),
    ];
    const step = nextTest(infer(evidence({ reports, magnitudes: [whole(30)] })), {
      once: new Set(["fastener-check", "whole-chain", "look-over", "sound-comparison", "recording"]),
    });
    expect(step.next?.test.id).toBe("end-float");
    expect(step.together?.test.id).toBe("housing-shift");
    expect(step.together?.minutes).toBeLessThan(step.ranked.find((r) => r.test.id === "housing-shift")?.minutes ?? 0);
  });
});

describe("a second thing wrong", () => {
  const retainer = [found("retainer-turns"), says("rumble"), says("knock")];
  it("a symptom that the account leaves unexplained keeps it from being sure, and is tested for", () => {
    const sizes = [whole(30), magnitude("end-float", 28)];
    const tried = [found("housing-turns", false)];
    expect(isSure(infer(evidence({ reports: [...retainer, ...tried], magnitudes: sizes })))).toBe(true);
    const more = infer(evidence({ reports: [...retainer, ...tried, says("home-varies")], magnitudes: sizes }));
    expect(unexplained(more).map((r) => r.finding)).toEqual(["home-varies"]);
    expect(isSure(more)).toBe(false);
    expect(
      nextTest(more, { once: new Set(["fastener-check", "whole-chain", "end-float", "look-over", "comp-look"]) }).next
        ?.test.id,
    ).toBe("home-again");
    const denied = infer(
      evidence({ ...more.evidence, reports: [...more.evidence.reports, found("home-varies", false)] }),
    );
    expect(unexplained(denied)).toEqual([]);
  });

  it("a click that nobody imagines and a test does not hear again is looked for where it comes from", () => {
    const y = defaultAxis("vertical-centre", "Y");
    const heard = [...retainer, found("housing-turns", false), says("carriage-click"), found("carriage-click", false)];
    const sizes = [whole(30), magnitude("end-float", 28)];
    const known = infer(evidence({ axis: y, reports: heard, magnitudes: sizes }));
    expect(unexplained(known).map((r) => r.finding)).toEqual(["carriage-click"]);
    expect(openSymptoms(known).flatMap((o) => o.tests)).toContain("carriages-unloaded");
    const unloaded = [...heard, found("carriage-broken", false)];
    const left = openSymptoms(infer(evidence({ axis: y, reports: unloaded, magnitudes: sizes })));
    expect(left.flatMap((o) => o.tests)).not.toContain("carriages-unloaded");
  });

  it("what is normal and nobody looked at is perhaps so, and no more", () => {
    const told = infer(evidence({ axis: z, allTold: true, reports: [says("click-descent"), says("tight-one-way")] }));
    const { headline, normal } = caseVerdict(told, { done: new Set() });
    expect(headline).toMatch(/^Perhaps normal, not yet looked at: /);
    expect(normal.join()).not.toContain("Drag brake");
  });

  it("normal things stand side by side and are no rivals: both are named, and nothing is opened for them", () => {
    const both = infer(
      evidence({
        axis: z,
        allTold: true,
        reports: [says("click-descent"), says("tight-one-way"), found("dragbrake-fitted")],
      }),
    );
    expect(chance(both, "normal-regen")).toBeGreaterThan(0.9);
    expect(chance(both, "normal-dragbrake")).toBeGreaterThan(0.9);
    expect(isSure(both)).toBe(true);
    expect(caseVerdict(both, { done: new Set() }).headline).toMatch(
      /^Normal, no fault: Supply handles regenerated energy; Drag brake does its job\. That nothing else has to be mended: /,
    );
    // Beside a fault they are named too, and take nothing from it.
    const beside = infer(
      evidence({
        axis: z,
        reports: [says("click-descent"), ...retainer, found("housing-turns", false)],
        magnitudes: [magnitude("end-float", 28)],
      }),
    );
    expect(chance(beside, "retainer-loose")).toBeGreaterThan(0.9);
    expect(chance(beside, "normal-regen")).toBeGreaterThan(0.8);
  });
});

describe("what one test found and nothing explains", () => {
  const denied = symptomsOf(axis).map((id) => says(id, false));
  const quiet = (["rumble", "rattle", "grit", "groan", "knock"] as const).map((f) => found(f, false));
  const even = (["tight-all", "tight-end", "tight-turn", "tight-spot", "spikes"] as const).map((f) => found(f, false));
  const odd = [...denied, ...even, ...quiet, found("howl")];
  const done: readonly TestId[] = ["whole-chain", "load-trace", "sound-comparison"];

  it("is looked at once more before anything else is asked for its sake", () => {
    const p = infer(evidence({ reports: odd, magnitudes: [whole(3)] }));
    expect(unexplained(p).map((r) => r.finding)).toEqual(["howl"]);
    expect(nextTest(p, { once: new Set(done) }).next?.test.id).toBe("sound-comparison");
    expect(isSure(p)).toBe(false);
  });

  it("and not found then it was a slip: nothing is left open by it", () => {
    const again = infer(evidence({ reports: [...odd, ...quiet, found("howl", false)], magnitudes: [whole(3)] }));
    expect(unexplained(again)).toEqual([]);
    expect(nextTest(again, { once: new Set(done), done: new Set(["sound-comparison"]) }).next?.test.id).not.toBe(
      "sound-comparison",
    );
    // Found, and then found again, it stays.
    const twice = infer(evidence({ reports: [...odd, ...quiet, found("howl")], magnitudes: [whole(3)] }));
    expect(unexplained(twice).length + (twice.noFault < 0.5 ? 1 : 0)).toBeGreaterThan(0);
  });

  it("a screw that turned was tightened: that it holds now takes nothing back", () => {
    const reports = [...denied, found("housing-turns"), found("housing-turns", false)];
    const p = infer(evidence({ reports, magnitudes: [whole(3)] }));
    const named = p.causes.filter((_, i) => p.marginals[i] > 0.5).map((c) => c.id);
    expect(named.includes("housing-loose") || unexplained(p).some((r) => r.finding === "housing-turns")).toBe(true);
  });
});

describe("nothing wrong", () => {
  it("is provable by a few tests that cover the chain: loss, friction, noise", () => {
    const told = { allTold: true, reports: [says("lost-motion", false), says("rumble", false)] };
    const first = nextTest(infer(evidence(told)));
    // A look in passing may come first; nobody says that the control holds it.
    const looks: readonly TestId[] = ["look-over", "comp-look", "rock"];
    expect(["whole-chain", ...looks]).toContain(first.next?.test.id);
    expect(nextTest(infer(evidence(told)), { once: new Set(looks), done: new Set(looks) }).next?.test.id).toBe(
      "whole-chain",
    );
    const quiet = ["rumble", "howl", "rattle", "grit", "groan", "knock"] as const;
    const even = ["tight-all", "tight-end", "tight-turn", "tight-spot", "spikes", "short-travel"] as const;
    const all = [
      ...told.reports,
      ...[...quiet, ...even].map((f) => found(f, false)),
      found("dry", false),
      found("comp-differs", false),
      found("home-varies", false),
      found("home-turn", false),
      found("far-play", false),
      found("rocks", false),
      found("end-walks", false),
    ];
    // Asked, and said of everything that it is not so.
    const denied = symptomsOf(axis).map((id) => says(id, false));
    const covered = infer(evidence({ reports: [...denied, ...all], magnitudes: [whole(3)] }));
    expect(covered.noFault).toBeGreaterThan(0.7);
    expect(isSure(covered)).toBe(true);
    expect(isSure(infer(evidence({ allTold: true, reports: all })))).toBe(false);
  });

  it("what was not told when nothing else was noticed speaks a little against itself, and less than a no", () => {
    const of = (rest: Partial<Evidence>): number =>
      chance(infer(evidence({ reports: [says("lost-motion")], ...rest })), "end-bearing-worn");
    expect(of({ allTold: true })).toBeLessThan(of({}));
    expect(of({ allTold: true })).toBeGreaterThan(of({ reports: [says("lost-motion"), says("rumble", false)] }));
  });

  it("asks the control of an axis that does not move first, whatever else was told of it (common practice, no source)", () => {
    for (const others of [[], [says("rumble")], [says("tight-all"), says("lost-motion")]]) {
      const known = infer(evidence({ reports: [...others, says("no-motion")] }));
      expect(nextTest(known).next?.test.id).toBe("control-check");
      expect(nextTest(known, { once: new Set(["control-check"]) }).next?.test.id).not.toBe("control-check");
    }
  });
});

describe("a dear part that is named", () => {
  const size = (kind: Magnitude["kind"], um: number): Magnitude => ({ kind, reversalValueMm: um / 1000, uMm: 0.001 });
  // Common practice, no source: no nut is bought before its flank was read and the bracket’s own shift taken off.
  it("is proven before it ends, however likely it is", () => {
    const quiet = (["retainer", "housing", "bracket", "coupling"] as const).map((f) => found(`${f}-turns`, false));
    const reports = [says("howl"), ...quiet];
    const sizes = [size("whole-chain", 27), size("end-float", 0.5), size("coupling-slip", 0.5), size("nut-flank", 25)];
    const known = (magnitudes: readonly Magnitude[]) => infer(evidence({ reports, magnitudes, allTold: true }));
    const before = known(sizes);
    const all = new Set(LOCATE_TESTS.map((t) => t.id as string).filter((id) => id !== "bracket-shift"));
    expect(unprovenPart(before)?.id).toBe("nut-worn");
    expect(testsOfProof(before)).toContain("bracket-shift");
    expect(nextTest(before, { once: all }).next?.test.id).toBe("bracket-shift");
    const after = known([...sizes, size("bracket-shift", 0.4)]);
    expect(testsOfProof(after)).toEqual([]);
    expect(nextTest(after, { once: new Set([...all, "bracket-shift"]) }).next).toBeNull();
  });
});
