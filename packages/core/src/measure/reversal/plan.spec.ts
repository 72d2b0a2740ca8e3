import fc from "fast-check";
import { defaultAxis } from "../../machine/axis";
import {
  approachSentence,
  CHAIN_TEST_KINDS,
  checkPlan,
  profileTargets,
  setupSentences,
  stepInstruction,
  stepsOf,
  wantedApproach,
  type TestPlan,
} from ".";

const plan = (over: Partial<TestPlan> = {}): TestPlan => ({
  kind: "two-sided",
  targetsMm: [180],
  runs: 3,
  overTravelMm: 30,
  tickMm: 0.001,
  ticksOut: 50,
  keepsZero: false,
  ...over,
});
const short = (p: TestPlan): string =>
  stepsOf(p)
    .map((s) => `${s.action[0]}${s.target}${s.direction}`)
    .join(" ");

describe("stepsOf", () => {
  it("alternates approaches at one place", () => {
    expect(short(plan())).toBe("z0+ r0+ r0- r0+ r0- r0+ r0-");
    expect(short(plan({ kind: "out-and-back", runs: 2 }))).toBe("z0+ r0- z0+ r0-");
    expect(short(plan({ kind: "tick-count", runs: 2 }))).toBe("z0+ c0- z0+ c0-");
  });

  it("finishes each place before the next with a short-reach indicator, and passes to and fro with a reference scale (ISO 230-2 standard test cycle)", () => {
    const profile = plan({
      kind: "travel-profile",
      targetsMm: [50, 150],
      runs: 2,
    });
    expect(short(profile)).toBe("z0+ r0+ r0- r0+ r0- z1+ r1+ r1- r1+ r1-");
    expect(short({ ...profile, keepsZero: true })).toBe("z0+ r0+ r1+ r1- r0- r0+ r1+ r1- r0-");
  });

  it("asks a full run-up of an out-and-back and half the over-travel elsewhere", () => {
    const back = plan({ kind: "out-and-back", tickMm: 0.01 });
    expect(wantedApproach(back, stepsOf(back)[1]).minRunUpMm).toBeCloseTo(0.5, 12);
    expect(wantedApproach(plan(), stepsOf(plan())[1]).minRunUpMm).toBe(15);
  });
});

describe("checkPlan", () => {
  it("names value and bound", () => {
    expect(() => checkPlan(plan({ targetsMm: [10] }), 400)).toThrow(
      "place is 10: it must be from 30 to 370 mm, so that the 30 mm over-travel stays inside the travel of 0 to 400 mm",
    );
    expect(() => checkPlan(plan({ runs: 0 }), 400)).toThrow("runs is 0: it must be a whole number from 1 to 50");
    expect(() => checkPlan(plan({ targetsMm: [100, 200] }), 400)).toThrow(
      "number of places is 2: it must be exactly 1",
    );
    expect(() => checkPlan(plan({ kind: "travel-profile", targetsMm: [200, 100] }), 400)).toThrow(
      "place is 100: it must be in ascending order",
    );
    expect(() => checkPlan(plan({ kind: "out-and-back", ticksOut: 1 }), 400)).toThrow("steps out is 1");
    expect(() => checkPlan(plan(), 400)).not.toThrow();
  });

  it("accepts the places proposed for any travel, over-travel and turn", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 4, max: 30_000, noNaN: true }),
        fc.integer({ min: 2, max: 25 }),
        fc.double({ min: 0.01, max: 0.45, noNaN: true }),
        fc.double({ min: 1, max: 300, noNaN: true }),
        (travel, count, part, perTurn) => {
          const overTravelMm = part * travel;
          const targetsMm = profileTargets(travel, { count, overTravelMm, perTurnMm: perTurn });
          expect(targetsMm).toHaveLength(count);
          expect(() => checkPlan(plan({ kind: "travel-profile", targetsMm, overTravelMm }), travel)).not.toThrow();
        },
      ),
    );
    expect(() => profileTargets(10, { count: 5, overTravelMm: 6, perTurnMm: 5 })).toThrow(
      "over-travel is 6: it must be above 0 and below half the travel of 10 mm",
    );
  });
});

describe("words of a run", () => {
  const vertical = defaultAxis("vertical-centre", "Z");
  const steps = stepsOf(plan());

  it("says which way to move, in the words of the axis", () => {
    expect(stepInstruction(vertical, { plan: plan(), step: steps[2], system: "metric" })).toBe(
      "Lift the tip off. Jog up past 180.000 mm by 30 mm, then come down to 180.000 mm and stop. Do not pass it. Set the tip down and read.",
    );
    expect(
      stepInstruction({ ...vertical, orientation: "horizontal" }, { plan: plan(), step: steps[1], system: "inch" }),
    ).toContain("Jog towards minus past 7.0866 in by 1.1811 in");
    expect(
      stepInstruction(vertical, {
        plan: plan({ kind: "tick-count" }),
        step: stepsOf(plan({ kind: "tick-count" }))[1],
        system: "metric",
      }),
    ).toContain("one step of 0.001 mm at a time");
  });

  it.each(CHAIN_TEST_KINDS)("of a %s never drives past the place with the tip on", (kind) => {
    // A block clamped at the place stands in the way of the tip on one of its sides (trade fact, no source).
    const of = plan({ kind, ...(kind === "travel-profile" ? { targetsMm: [60, 120, 180, 240, 300] } : {}) });
    const passing = stepsOf(of)
      .map((step) => stepInstruction(vertical, { plan: of, step, system: "metric" }))
      .filter((words) => words.includes(" past "));
    expect(passing.length).toBeGreaterThan(0);
    for (const words of passing) expect(words).toMatch(/^Lift the tip off\. .* Set the tip down and /);
    expect(setupSentences(vertical, of, "metric").join(" ")).toContain("lift the tip off before every pass");
  });

  it("warns of gravity and says why an overshoot cannot be corrected", () => {
    expect(setupSentences(vertical, plan(), "metric").join(" ")).toContain("This axis can fall");
    const said = approachSentence(
      { kind: "overshot", byMm: 0.006 },
      { step: steps[2], axis: vertical, system: "metric" },
    );
    expect(said).toContain("Passed 180.000 mm by 0.006 mm");
    expect(said).toContain("that cannot be corrected");
    expect(approachSentence({ kind: "good" }, { step: steps[2], axis: vertical, system: "metric" })).toBeUndefined();
    expect(approachSentence({ kind: "wrong-side" }, { step: steps[2], axis: vertical, system: "metric" })).toContain(
      "came from below; this reading wants from above",
    );
  });
});
