import { defaultAxis } from "@iron/core";
import type { IndicatorRecord } from "@iron/contract";
import { checkSetUp, inOtherUnits, usualSetUp } from "./set-up.view";

const config = defaultAxis("vertical-centre", "Z");
const indicator: IndicatorRecord = {
  id: 1,
  name: "Lever",
  kind: "lever",
  resolutionMm: 0.001,
  unit: "mm",
  tipAngleDeg: 12,
  rangeMm: 0.8,
  retiredAt: null,
};

describe("setting a test up", () => {
  it("starts from what is usual and is right", () => {
    for (const kind of [
      "tick-count",
      "out-and-back",
      "two-sided",
      "travel-profile",
    ] as const) {
      for (const system of ["metric", "inch"] as const) {
        const draft = usualSetUp(kind, config, indicator, system);
        const check = checkSetUp(draft, kind, config, indicator, system);
        expect([...check.errors]).toEqual([]);
        expect(check.plan?.kind).toBe(kind);
      }
    }
  });

  it("warns before, not after: coarse displays and steep tips", () => {
    const draft = usualSetUp("two-sided", config, indicator, "metric");
    const coarse = { ...indicator, resolutionMm: 0.0127 };
    expect(
      checkSetUp(draft, "two-sided", config, coarse, "metric").warnings.join(),
    ).toContain("too coarse");
    expect(
      checkSetUp(
        { ...draft, tipAngle: "20" },
        "two-sided",
        config,
        indicator,
        "metric",
      ).warnings.join(),
    ).toContain("A tip at 20° is steep");
    const bad = checkSetUp(
      { ...draft, places: "5", runs: "x" },
      "two-sided",
      config,
      indicator,
      "metric",
    );
    expect(bad.errors.get("runs")).toBe("“x” is not a number.");
    expect(bad.plan).toBeNull();
  });

  it("keeps the zero only with an indicator that reaches over all places", () => {
    const draft = usualSetUp("travel-profile", config, indicator, "metric");
    const scale = { ...indicator, rangeMm: 6000 };
    expect(
      checkSetUp(draft, "travel-profile", config, scale, "metric").plan
        ?.keepsZero,
    ).toBe(true);
    expect(
      checkSetUp(draft, "travel-profile", config, indicator, "metric").plan
        ?.keepsZero,
    ).toBe(false);
  });
});

it("a set-up that was typed is only said in the other units, never lost", () => {
  const draft = { places: "100; abc; 254", runs: "3", overTravel: "25.4", tick: "0.01", ticksOut: "50", tipAngle: "12", hubRadius: "", temperature: "" }; // prettier-ignore
  const inch = inOtherUnits(draft, "metric", "inch");
  expect(inch).toMatchObject({ places: "3.93701; abc; 10", overTravel: "1", runs: "3", tipAngle: "12" }); // prettier-ignore
  expect(inOtherUnits(inch, "inch", "metric").places).toBe("100.0001; abc; 254"); // prettier-ignore
});
