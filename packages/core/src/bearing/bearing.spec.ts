import * as fc from "fast-check";
import { axialDeflection, preloadLossLimit, preloadOffset, rowForce, setUnderLoad } from "./angular-set"; // prettier-ignore
import { clampForce, clampForceShort, cordDrag, greaseFill, makeUpSpacer, nutPreloadDrag, nutTorque, pitchDiameter, spacerGrind } from "./bearing-nut"; // prettier-ignore

/** A 60° screw-support bearing of common size. */
const row = { balls: 15, ballMm: 7.144, contactDeg: 60 };
const pair = { row, rowsWith: 1, rowsAgainst: 1 };

describe("angular-contact set", () => {
  it("deflects by the handbook formula (Hertz, from memory)", () => {
    const q = 2000 / (15 * Math.sin(Math.PI / 3));
    const byHand = (0.00044 / Math.sin(Math.PI / 3)) * Math.cbrt(q ** 2 / 7.144); // prettier-ignore
    expect(axialDeflection(row, 2000)).toBeCloseTo(byHand, 12);
  });

  it("force and deflection are each other’s inverse", () => {
    fc.assert(fc.property(fc.double({ min: 1, max: 50_000, noNaN: true }), (force) => {
      expect(rowForce(row, axialDeflection(row, force)) / force).toBeCloseTo(1, 9);
    })); // prettier-ignore
  });

  it("a plain pair loses its preload at 2.83 times of it", () => {
    // Bearing handbooks: 2√2 for ball bearings, since force goes with deflection to 1.5.
    expect(preloadLossLimit(pair, 1000) / 1000).toBeCloseTo(2 * Math.SQRT2, 6);
    expect(setUnderLoad(pair, 1000, 2800).open).toBe(false);
    expect(setUnderLoad(pair, 1000, 2900).open).toBe(true);
  });

  it("is about twice as stiff as one row while both carry", () => {
    // Common practice, no source: preload about doubles the stiffness at small loads.
    const moved = setUnderLoad(pair, 2000, 100).deflectionMm;
    const alone = axialDeflection(row, 2100) - axialDeflection(row, 2000);
    expect(alone / moved).toBeGreaterThan(1.9);
    expect(alone / moved).toBeLessThan(2.1);
  });

  it("what one side gains less what the other loses is the load", () => {
    fc.assert(fc.property(
      fc.double({ min: 10, max: 5000, noNaN: true }),
      fc.double({ min: 0, max: 9000, noNaN: true }),
      fc.constantFrom([1, 1], [2, 1], [2, 2]),
      (preload, force, [rowsWith, rowsAgainst]) => {
        const at = setUnderLoad({ row, rowsWith, rowsAgainst }, preload, force);
        expect(Math.abs(at.loadedN - at.unloadedN - force)).toBeLessThan(0.01 + 1e-6 * force);
      },
    )); // prettier-ignore
  });

  it("a triple against one row is stiffer and holds its preload longer", () => {
    const triple = { row, rowsWith: 2, rowsAgainst: 1 };
    expect(preloadLossLimit(triple, 1000)).toBeGreaterThan(preloadLossLimit(pair, 1000)); // prettier-ignore
    expect(preloadOffset(triple, 1000)).toBeLessThan(preloadOffset(pair, 1000));
  });

  it("names what is out of bounds", () => {
    expect(() => axialDeflection({ ...row, ballMm: 0 }, 1)).toThrow("ball diameter is 0"); // prettier-ignore
    expect(() => setUnderLoad(pair, -5, 0)).toThrow("preload is -5");
  });
});

describe("bearing nut", () => {
  const m10 = { diameterMm: 10, pitchMm: 1.5, threadFriction: 0.12, faceFriction: 0.12, faceRadiusMm: 6.25 }; // prettier-ignore

  it("an M10 bolt at 46 N·m and μ 0.12 clamps about 26 kN", () => {
    // Bolt tables after VDI 2230 (8.8, μ = 0.12: 46 N·m and about 27 kN, from memory).
    expect(clampForce(m10, 46) / 1000).toBeGreaterThan(25);
    expect(clampForce(m10, 46) / 1000).toBeLessThan(29);
  });

  it("has the pitch diameter of the thread tables", () => {
    // ISO 724: M10 9.026, M20×1.5 19.026.
    expect(pitchDiameter(10, 1.5)).toBeCloseTo(9.026, 3);
    expect(pitchDiameter(20, 1.5)).toBeCloseTo(19.026, 3);
  });

  it("torque and force are each other’s inverse, and the short form is near", () => {
    fc.assert(fc.property(fc.double({ min: 0.1, max: 500, noNaN: true }), (torque) => {
      expect(nutTorque(m10, clampForce(m10, torque)) / torque).toBeCloseTo(1, 9);
    })); // prettier-ignore
    const ratio = clampForceShort(10, 46, 0.17) / clampForce(m10, 46);
    expect(ratio).toBeGreaterThan(0.9);
    expect(ratio).toBeLessThan(1.1);
  });

  it("a pinch screw at 7 lbf·ft is light", () => {
    // Common practice, no source: around 7 lbf·ft (9.5 N·m) for a small pinch screw.
    const m6 = { diameterMm: 6, pitchMm: 1, threadFriction: 0.14, faceFriction: 0.14, faceRadiusMm: 4 }; // prettier-ignore
    expect(clampForce(m6, 9.49)).toBeLessThan(11_000);
  });

  it("drag, spacers and grease", () => {
    expect(cordDrag(4, 20)).toBeCloseTo(0.08, 12);
    // JIS B 1192 by hand (from memory): tan β = 10/(π·32).
    expect(nutPreloadDrag({ preloadN: 1000, leadMm: 10, ballCircleMm: 32 })).toBeCloseTo((0.05 / Math.sqrt(10 / (Math.PI * 32)) * 1000 * 10) / (2 * Math.PI) / 1000, 9); // prettier-ignore
    expect(spacerGrind(0.01, 0.018)).toEqual({ ring: "inner", byMm: expect.closeTo(0.008, 9) }); // prettier-ignore
    expect(spacerGrind(0.02, 0.018)).toEqual({ ring: "outer", byMm: expect.closeTo(0.002, 9) }); // prettier-ignore
    expect(spacerGrind(0.018, 0.018).ring).toBe("none");
    expect(makeUpSpacer(42.35, [15, 15])).toBeCloseTo(12.35, 9);
    expect(() => makeUpSpacer(29, [15, 15])).toThrow("seat depth is 29");
    // Bearing handbooks: G = 0.005·D·B, a 62 × 15 bearing takes about 4.7 g.
    expect(greaseFill(62, 15)).toBeCloseTo(4.65, 9);
  });
});
