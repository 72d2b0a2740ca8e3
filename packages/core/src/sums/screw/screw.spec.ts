import * as fc from "fast-check";
import { FIXINGS } from "../../machine/axis";
import { BEAM_EIGENVALUES, bucklingLoad, criticalSpeed, dnValue } from "./critical-speed";
import { screwLife } from "./life";
import { backDriveTorque, driveTorque } from "./torque";
import { inSeries, pretension, screwStiffness, thermalGrowth } from "./stiffness";
import { STEEL_E } from "./steel";

const span = { rootMm: 28, freeLengthMm: 1000 };

describe("critical speed", () => {
  // Euler–Bernoulli frequency equations of a beam (any textbook on vibration).
  const equations = {
    "fixed-free": (x: number) => Math.cos(x) * Math.cosh(x) + 1,
    "supported-supported": (x: number) => Math.sin(x),
    "fixed-supported": (x: number) => Math.tan(x) - Math.tanh(x),
    "fixed-fixed": (x: number) => Math.cos(x) * Math.cosh(x) - 1,
  };
  it.each(FIXINGS)("takes the first eigenvalue of %s", (fixings) => {
    const beta = BEAM_EIGENVALUES[fixings];
    expect(Math.abs(equations[fixings](beta))).toBeLessThan(1e-3);
    for (let x = 0.5; x < beta - 0.02; x += 0.005) {
      const [a, b] = [equations[fixings](x), equations[fixings](x + 0.005)];
      const pole = fixings === "fixed-supported" && Math.abs(x - Math.PI / 2) < 0.01;
      if (!pole) expect(a * b).toBeGreaterThan(0);
    }
  });

  // Factors of ball-screw catalogues: f·d/L²·10⁷ with a margin of 0.8.
  it.each([
    ["fixed-free", 3.4],
    ["supported-supported", 9.7],
    ["fixed-supported", 15.1],
    ["fixed-fixed", 21.9],
  ] as const)("has the catalogue factor of %s: %d", (fixings, factor) => {
    const ours = criticalSpeed({ ...span, fixings });
    expect(ours / ((factor * 28 * 1e7) / 1e6)).toBeCloseTo(1, 1);
    expect(Math.round((ours / 280) * 10) / 10).toBeCloseTo(factor, 0);
  });

  it("names value and bound", () => {
    expect(() => criticalSpeed({ ...span, freeLengthMm: 0, fixings: "fixed-fixed" })).toThrow(
      "free length is 0: it must be above 0 mm",
    );
  });
});

describe("buckling, life and DN", () => {
  it("is Euler’s load with half in hand", () => {
    // Euler 1744 for a pinned column: π²EI/L².
    const inertia = (Math.PI * 28 ** 4) / 64;
    const pinned = (Math.PI ** 2 * STEEL_E * inertia) / 1e6;
    const load = (fixings: (typeof FIXINGS)[number]): number => bucklingLoad({ ...span, fixings }) / pinned;
    expect(load("supported-supported")).toBeCloseTo(0.5, 9);
    expect(load("fixed-free")).toBeCloseTo(0.125, 9);
    expect(load("fixed-supported")).toBeCloseTo(1.025, 9);
    expect(load("fixed-fixed")).toBeCloseTo(2, 9);
  });

  it("a screw at its rating lives a million turns, at half of it eight (ISO 3408-5)", () => {
    const duty = (forceN: number) => [{ forceN, speedPerMin: 1000, share: 1 }];
    expect(screwLife(20_000, duty(20_000)).revolutions).toBeCloseTo(1e6, 0);
    expect(screwLife(20_000, duty(10_000)).revolutions).toBeCloseTo(8e6, 0);
    expect(screwLife(20_000, duty(10_000)).hours).toBeCloseTo(8e6 / 60_000, 6);
  });

  it("weighs a duty by turns and by the cube of force", () => {
    // Worked by hand: ((3³·100·0.5 + 1³·300·0.5)/(100·0.5 + 300·0.5))^⅓ kN
    const { meanForceN, meanSpeedPerMin } = screwLife(20_000, [
      { forceN: 3000, speedPerMin: 100, share: 0.5 },
      { forceN: 1000, speedPerMin: 300, share: 0.5 },
    ]);
    expect(meanForceN).toBeCloseTo(1000 * Math.cbrt((27 * 50 + 150) / 200), 6);
    expect(meanSpeedPerMin).toBeCloseTo(200, 9);
    expect(() => screwLife(0, [])).toThrow("dynamic load rating is 0");
    expect(dnValue(32, 2000)).toBe(64_000);
  });
});

describe("torque", () => {
  it("5 kN on a 10 mm lead at 0.9 takes 8.84 N·m", () => {
    // Common worked example of ball-screw catalogues.
    expect(driveTorque({ forceN: 5000, leadMm: 10, efficiency: 0.9 })).toBeCloseTo(8.84, 2);
  });

  it("a ball screw drives back, a plain thread at 0.45 holds by itself", () => {
    // Common practice, no source: threads up to half efficiency do not run back.
    const load = { forceN: 5000, leadMm: 10 };
    expect(backDriveTorque({ ...load, efficiency: 0.9 })).toBeGreaterThan(5);
    expect(backDriveTorque({ ...load, efficiency: 0.45 })).toBeLessThan(0);
    expect(backDriveTorque({ ...load, efficiency: 0.5 })).toBeCloseTo(0, 9);
  });
});

describe("back-drive", () => {
  it("is the wedge of the thread with its friction angle the other way", () => {
    // Statics of the inclined plane (any textbook): up tan(β + φ), down tan(β − φ).
    for (const [betaDeg, phiDeg] of [
      [5.7, 0.45],
      [11, 0.5],
      [5, 5],
      [4, 6],
    ]) {
      const [beta, phi] = [(betaDeg * Math.PI) / 180, (phiDeg * Math.PI) / 180];
      const efficiency = Math.tan(beta) / Math.tan(beta + phi);
      const down = 5000 * Math.tan(beta - phi);
      const formula =
        ((backDriveTorque({ forceN: 5000, leadMm: 10, efficiency }) * 2 * Math.PI * 1000) / 10) * Math.tan(beta);
      expect(Math.abs(formula - down)).toBeLessThan(0.03 * 5000 * Math.tan(beta + phi));
    }
  });
});

describe("stiffness and growth", () => {
  const screw = { rootMm: 28, lengthMm: 1000, bothEndsFixed: true };
  const ea = (STEEL_E * Math.PI * 28 ** 2) / 4;

  it("is softest in the middle with both ends fixed: 4EA/L", () => {
    expect(screwStiffness(screw, 500)).toBeCloseTo((4 * ea) / 1000, 3);
    expect(screwStiffness({ ...screw, bothEndsFixed: false }, 1000)).toBeCloseTo(ea / 1000, 3);
    fc.assert(
      fc.property(fc.double({ min: 1, max: 999, noNaN: true }), (x) => {
        expect(screwStiffness(screw, x)).toBeGreaterThanOrEqual((4 * ea) / 1000 - 1e-6);
      }),
    );
  });

  it("two equal springs in a row are half as stiff", () => {
    expect(inSeries([200_000, 200_000])).toBeCloseTo(100_000, 6);
  });

  it("grows 58.5 µm on 1 m at 5 K, and the pretension undoes just that", () => {
    // Ball-screw catalogues: 11.7 µm/m·K.
    expect(thermalGrowth(1000, 5)).toBeCloseTo(0.0585, 9);
    const stretched = pretension(28, 5) / (ea / 1000);
    expect(stretched).toBeCloseTo(thermalGrowth(1000, 5), 9);
  });
});
