import fc from "fast-check";
import { jStat } from "jstat";
import { BoundError, studentExceeded, studentQuantile } from ".";

describe("Student’s t", () => {
  it("agrees with jStat, tails and quantiles", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 200, noNaN: true }),
        fc.double({ min: 0.01, max: 30, noNaN: true }),
        (dof, t) => {
          const theirs = 2 * (1 - jStat.studentt.cdf(t, dof));
          expect(Math.abs(studentExceeded(t, dof) - theirs)).toBeLessThan(1e-7);
        },
      ),
    );
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 200, noNaN: true }),
        fc.double({ min: 1e-4, max: 0.5, noNaN: true }),
        (dof, alpha) => {
          const theirs = jStat.studentt.inv(1 - alpha / 2, dof);
          expect(studentQuantile(alpha, dof) / theirs).toBeCloseTo(1, 5);
        },
      ),
    );
  });

  it("has the tabled values (any statistics handbook)", () => {
    expect(studentQuantile(0.05, 1)).toBeCloseTo(12.706, 3);
    expect(studentQuantile(0.05, 4)).toBeCloseTo(2.776, 3);
    expect(studentQuantile(0.01, 10)).toBeCloseTo(3.169, 3);
    expect(studentQuantile(0.05, Infinity)).toBeCloseTo(1.96, 3);
  });

  it("refuses what cannot be, by name", () => {
    expect(() => studentQuantile(0, 5)).toThrow(BoundError);
    expect(() => studentQuantile(0.05, 0.5)).toThrow("degrees of freedom is");
    expect(() => studentExceeded(-1, 5)).toThrow("t is -1");
  });
});
