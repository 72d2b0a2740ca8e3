import { defaultAxis } from "../../machine/axis";
import { checkPlan, SPLIT_TEST_KINDS, TEST_KINDS } from "./plan";
import { usualPlan } from "./usual-plan";

const axisOf = (travelMm: number) => ({ ...defaultAxis("vertical-centre", "X"), travelMm });

describe("what is usual for a test", () => {
  // ISO 230-2:2014, 5.3.2 and 5.3.3 (from memory): up to 2000 mm at least five target positions a metre and five in
  // all, each approached five times from each side.
  it.each([
    [300, 5],
    [1000, 5],
    [1400, 7],
    [2000, 10],
    [6000, 10],
  ])("a profile of %i mm has %i places, five runs each", (travelMm, count) => {
    const plan = usualPlan("travel-profile", { axis: axisOf(travelMm), tickMm: 0.001 });
    expect(plan.targetsMm).toHaveLength(count);
    expect(plan.runs).toBe(5);
  });

  it.each(TEST_KINDS)("%s can be done as it is usual, on short and long axes", (kind) => {
    for (const travelMm of [40, 127, 500, 3200])
      for (const clearMm of [0, 0.01]) {
        const { targetsMm, runs, overTravelMm, ticksOut } = usualPlan(kind, {
          axis: axisOf(travelMm),
          tickMm: 0.001,
          clearMm,
        });
        const plan = {
          kind,
          targetsMm,
          runs,
          overTravelMm,
          tickMm: 0.001,
          ticksOut,
          keepsZero: false,
          ...(kind === "coupling-slip" ? { hubRadiusMm: 20 } : {}),
        };
        expect(() => checkPlan(plan, travelMm)).not.toThrow();
        expect(Math.min(...targetsMm) - overTravelMm).toBeGreaterThanOrEqual(0);
        expect(Math.max(...targetsMm) + overTravelMm).toBeLessThanOrEqual(travelMm);
      }
  });

  it("hands are near where a part is looked at: it goes no further than 10 mm past", () => {
    for (const kind of SPLIT_TEST_KINDS)
      expect(usualPlan(kind, { axis: axisOf(3000), tickMm: 0.001 })).toMatchObject({ overTravelMm: 10, runs: 3 });
    expect(usualPlan("two-sided", { axis: axisOf(3000), tickMm: 0.001 }).overTravelMm).toBe(30);
  });

  it("out and back goes further than the worst loss that is looked for, whatever the step", () => {
    const axis = axisOf(500);
    for (const tickMm of [0.0001, 0.001, 0.00254, 0.01])
      expect(usualPlan("out-and-back", { axis, tickMm }).ticksOut * tickMm).toBeGreaterThanOrEqual(
        4 * axis.limits.repairMm - 1e-12,
      );
  });

  it("takes the place that is wished for; else the middle, to ten millimetres", () => {
    expect(usualPlan("two-sided", { axis: axisOf(760), tickMm: 0.001 }).targetsMm).toEqual([380]);
    expect(usualPlan("two-sided", { axis: axisOf(760), tickMm: 0.001, atMm: 123.4 }).targetsMm).toEqual([123.4]);
    expect(usualPlan("two-sided", { axis: axisOf(8), tickMm: 0.001 }).targetsMm).toEqual([4]);
  });
});
