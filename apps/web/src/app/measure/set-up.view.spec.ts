import * as fc from "fast-check";
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
  version: 1,
  retiredAt: null,
};

describe("setting a test up", () => {
  it("starts from what is usual and is right", () => {
    for (const kind of ["tick-count", "out-and-back", "two-sided", "travel-profile"] as const) {
      for (const system of ["metric", "inch"] as const) {
        const draft = usualSetUp(kind, { axis: config, system });
        const check = checkSetUp(draft, { kind, axis: config, indicator, tipAngleDeg: 12, system });
        expect([...check.errors]).toEqual([]);
        expect(check.plan?.kind).toBe(kind);
      }
    }
  });

  it("warns before, not after: coarse displays and steep tips", () => {
    const draft = usualSetUp("two-sided", { axis: config, system: "metric" });
    const coarse = { ...indicator, resolutionMm: 0.0127 };
    expect(
      checkSetUp(draft, {
        kind: "two-sided",
        axis: config,
        indicator: coarse,
        tipAngleDeg: 12,
        system: "metric",
      }).warnings.join(),
    ).toContain("too coarse");
    expect(
      checkSetUp(draft, {
        kind: "two-sided",
        axis: config,
        indicator,
        tipAngleDeg: 20,
        system: "metric",
      }).warnings.join(),
    ).toContain("A tip at 20° is steep");
    const bad = checkSetUp(
      { ...draft, places: "5", runs: "x" },
      { kind: "two-sided", axis: config, indicator, tipAngleDeg: 12, system: "metric" },
    );
    expect(bad.errors.get("runs")).toBe("“x” is not a number.");
    expect(bad.plan).toBeNull();
  });

  it("says where the block must stand when the steps out are more than the indicator follows", () => {
    const draft = { ...usualSetUp("out-and-back", { axis: config, system: "metric" }), tick: "0.01", ticksOut: "60" };
    const warned = (rangeMm: number): string =>
      checkSetUp(draft, {
        kind: "out-and-back",
        axis: config,
        indicator: { ...indicator, rangeMm },
        tipAngleDeg: 12,
        system: "metric",
      }).warnings.join();
    expect(warned(0.8)).toContain("60 steps out are 0.6 mm, more than the 0.4 mm this indicator follows either way.");
    expect(warned(0.8)).toContain("going up takes the block off the tip");
    expect(warned(10)).not.toContain("steps out are");
  });

  it("keeps the zero only with an indicator that reaches over all places", () => {
    const draft = usualSetUp("travel-profile", { axis: config, system: "metric" });
    const scale = { ...indicator, rangeMm: 6000 };
    expect(
      checkSetUp(draft, { kind: "travel-profile", axis: config, indicator: scale, tipAngleDeg: 12, system: "metric" })
        .plan?.keepsZero,
    ).toBe(true);
    expect(
      checkSetUp(draft, { kind: "travel-profile", axis: config, indicator, tipAngleDeg: 12, system: "metric" }).plan
        ?.keepsZero,
    ).toBe(false);
  });
});

describe("what is proposed", () => {
  it("passes its own check on any axis, in both units", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 25, max: 12_000, noNaN: true }),
        fc.constantFrom("metric" as const, "inch" as const),
        fc.constantFrom(
          "tick-count" as const,
          "out-and-back" as const,
          "two-sided" as const,
          "travel-profile" as const,
        ),
        (travelMm, system, kind) => {
          const axis = { ...config, travelMm };
          const draft = usualSetUp(kind, { axis, system });
          const check = checkSetUp(draft, { kind, axis, indicator, tipAngleDeg: 12, system });
          expect([...check.errors.values()]).toEqual([]);
          expect(check.plan).not.toBeNull();
        },
      ),
    );
  });

  it("slip is asked for the radius it is read at, and nothing is said of its width before", () => {
    const draft = usualSetUp("coupling-slip", { axis: config, system: "metric" });
    const check = (hubRadius: string) =>
      checkSetUp(
        { ...draft, hubRadius },
        {
          kind: "coupling-slip",
          axis: config,
          indicator: { ...indicator, resolutionMm: 0.05 },
          tipAngleDeg: 12,
          system: "metric",
        },
      );
    for (const typed of ["", "thick", "0", "-4"]) {
      expect(check(typed).errors.has("hubRadius")).toBe(true);
      expect(check(typed).warnings).toEqual([]);
    }
    expect(check("20").errors.size).toBe(0);
    expect(check("20").plan?.circumference?.radiusMm).toBe(20);
  });

  it.each(["0", "-2", "1e9", "2.5"])("%s runs are refused, not tripped over", (runs) => {
    const draft = {
      ...usualSetUp("two-sided", { axis: config, system: "metric" }),
      runs,
    };
    expect(
      checkSetUp(draft, { kind: "two-sided", axis: config, indicator, tipAngleDeg: 12, system: "metric" }).errors.has(
        "runs",
      ),
    ).toBe(true);
  });
});

it("a set-up that was typed is only said in the other units, never lost", () => {
  const draft = {
    places: "100; abc; 254",
    runs: "3",
    overTravel: "25.4",
    tick: "0.01",
    ticksOut: "50",
    hubRadius: "",
  };
  const inch = inOtherUnits(draft, "metric", "inch");
  expect(inch).toMatchObject({ places: "3.93701; abc; 10", overTravel: "1", runs: "3" });
  expect(inOtherUnits(inch, "inch", "metric").places).toBe("100.0001; abc; 254");
});
