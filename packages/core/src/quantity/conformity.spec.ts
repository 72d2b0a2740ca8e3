import fc from "fast-check";
import { conformity, conformityText, stateOfConformity, tooWideFor } from ".";

const limits = { leaveMm: 0.01, repairMm: 0.025 };
const of = (reversalValueMm: number, expandedMm: number | null) => conformity({ reversalValueMm, expandedMm }, limits);

describe("the decision rule", () => {
  it("proves nothing with an interval that holds the limit (ISO 14253-1)", () => {
    // The standard’s three zones: proven inside, proven outside, and the zone of uncertainty between.
    expect(of(0.006, 0.003).code).toBe("sound");
    expect(of(0.03, 0.004).code).toBe("act");
    expect(of(0.024, 0.002)).toMatchObject({
      code: "cannot-tell",
      because: "holds-limit",
      likelier: "under",
    });
    expect(of(0.026, 0.002)).toMatchObject({ likelier: "over" });
  });

  it("says watch between the limits, perhaps where it reaches under what can be left", () => {
    expect(of(0.015, 0.002)).toMatchObject({ code: "watch", perhaps: false });
    expect(of(0.011, 0.002)).toMatchObject({ code: "watch", perhaps: true });
    expect(of(0.009, 0.002)).toMatchObject({ code: "watch", perhaps: true });
  });

  it("lets a coarse reading clear nothing", () => {
    expect(of(0, 0.04).code).toBe("cannot-tell");
    expect(of(0.015, 0.14).code).toBe("cannot-tell");
    expect(of(0.012, null)).toMatchObject({
      code: "cannot-tell",
      because: "uncertainty-unknown",
    });
  });

  it("takes a value at a limit as at it, not over it, in any unit", () => {
    const thou = { leaveMm: 0.0127, repairMm: 0.0254 };
    expect(conformity({ reversalValueMm: 25.4e-3, expandedMm: 0 }, thou).code).toBe("watch");
    expect(conformity({ reversalValueMm: 0.0005 * 25.4, expandedMm: 0 }, thou).code).toBe("sound");
  });

  it("judges the magnitude, gives one code to each interval, and never eases as a loss grows", () => {
    const rank = { sound: 0, watch: 1, "cannot-tell": 2, act: 3 } as const;
    fc.assert(
      fc.property(
        fc.double({ min: -0.1, max: 0.1, noNaN: true }),
        fc.double({ min: 0, max: 0.05, noNaN: true }),
        fc.double({ min: 0, max: 0.02, noNaN: true }),
        (lost, U, more) => {
          const judged = of(lost, U);
          expect(of(-lost, U)).toEqual(judged);
          expect(judged.fromMm).toBeLessThanOrEqual(judged.toMm);
          const larger = of(Math.abs(lost) + more, U);
          expect(rank[larger.code]).toBeGreaterThanOrEqual(rank[judged.code]);
          if (judged.code === "sound") expect(Math.abs(lost) + U).toBeLessThanOrEqual(0.01 + 1e-8);
          if (judged.code === "act") expect(Math.abs(lost) - U).toBeGreaterThan(0.025);
        },
      ),
    );
  });

  it("has one word and one drawn state for each", () => {
    const words = [of(0.005, 0.001), of(0.011, 0.002), of(0.02, 0.002), of(0.04, 0.002), of(0.025, 0.002), null].map(
      conformityText,
    );
    expect(words).toEqual(["sound", "perhaps watch", "watch", "act", "cannot tell", "unknown"]);
    expect(stateOfConformity(of(0.025, 0.002))).toBe("unknown");
    expect(stateOfConformity(of(0.02, 0.002))).toBe("watch");
  });

  it("warns of a test whose U is above a quarter of the nearer limit", () => {
    expect(tooWideFor(0.0082, limits)).toEqual({ wide: true, limitMm: 0.01 });
    expect(tooWideFor(0.0025, limits).wide).toBe(false);
    expect(tooWideFor(0.006, limits, 0.03)).toEqual({
      wide: false,
      limitMm: 0.025,
    });
  });

  it("names what is wrong with its numbers", () => {
    expect(() => of(NaN, 0.001)).toThrow("loss is NaN");
    expect(() => of(0.01, -1)).toThrow("U is -1");
    expect(() => conformity({ reversalValueMm: 0, expandedMm: 0 }, { leaveMm: 0.02, repairMm: 0.01 })).toThrow(
      "repair is 0.01: it must be above 0.02 mm",
    );
  });
});
