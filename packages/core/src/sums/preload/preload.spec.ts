import * as fc from "fast-check";
import { gibClearance, gibKnee, gibTurns } from "./gib-knee";

const turns = Array.from({ length: 13 }, (_, i) => i * 0.25);
const curve = (knee: number, noise: (i: number) => number = () => 0) =>
  turns.map((t, i) => ({ turns: t, friction: 8 + 14 * Math.max(0, t - knee) + noise(i) }));

describe("gib knee", () => {
  it("finds the knee of a clean curve", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.6, max: 2.2, noNaN: true }), (knee) => {
        const found = gibKnee(curve(knee));
        expect(Math.abs(found.kneeTurns - knee)).toBeLessThan(0.02);
        expect(found.reached).toBe(true);
        expect(found.floor).toBeCloseTo(8, 1);
      }),
      { numRuns: 40 },
    );
  });

  it("its interval holds the true knee in about 95 of 100 noisy curves", () => {
    let held = 0;
    let seed = 7;
    const uniform = (): number => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const normal = (): number => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    for (let i = 0; i < 200; i += 1) {
      const knee = 0.8 + 1.2 * uniform();
      const [low, high] = gibKnee(curve(knee, () => 0.4 * normal())).betweenTurns;
      if (low <= knee + 0.01 && knee <= high + 0.01) held += 1;
    }
    expect(held).toBeGreaterThan(180);
  });

  it("says when there is no knee yet, and wants enough settings", () => {
    const flat = turns.map((t, i) => ({ turns: t, friction: 8 + 0.1 * ((i * 7) % 5) }));
    expect(gibKnee(flat).reached).toBe(false);
    expect(() => gibKnee(flat.slice(0, 4))).toThrow("number of settings is 4");
  });

  it("calls a steady climb steady, not a knee, and a flat one flat", () => {
    const noise = (i: number): number => 0.3 * (((i * 7) % 5) / 2 - 1);
    const steady = turns.map((t, i) => ({
      turns: t,
      friction: 8 + 3 * t + noise(i),
    }));
    expect(gibKnee(steady).shape).toBe("steady");
    expect(gibKnee(turns.map((t) => ({ turns: t, friction: 8 + 3 * t }))).shape).toBe("steady");
    expect(gibKnee(turns.map((t, i) => ({ turns: t, friction: 8 + noise(i) }))).shape).toBe("flat");
    expect(gibKnee(curve(1.5, noise)).shape).toBe("knee");
    expect(gibKnee(turns.map((t) => ({ turns: t, friction: 8 }))).shape).toBe("flat");
  });

  it("turns and clearance of a taper are each other’s inverse", () => {
    // By hand: 1.5 mm pitch on a 1:60 taper moves 0.025 mm a turn.
    expect(gibClearance(1, 1.5, 1 / 60)).toBeCloseTo(0.025, 12);
    expect(gibTurns(gibClearance(0.37, 1, 1 / 50), 1, 1 / 50)).toBeCloseTo(0.37, 12);
    expect(() => gibClearance(1, 0, 0.02)).toThrow("pitch is 0");
  });
});
