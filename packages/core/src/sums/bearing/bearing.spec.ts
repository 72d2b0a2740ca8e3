import * as fc from "fast-check";
import { defaultAxis, type AxisConfig } from "../../machine/axis";
import { STEEL_E } from "../screw/steel";
import { axialDeflection, preloadLossLimit, preloadOffset, rowForce, setUnderLoad } from "./angular-set";
import {
  clampForce,
  clampForceShort,
  cordDrag,
  greaseFill,
  makeUpSpacer,
  nutPreloadDrag,
  nutTorque,
  pitchDiameter,
  spacerGrind,
  usualSetDrag,
} from "./bearing-nut";

/** A 60° screw-support bearing of common size. */
const row = { balls: 15, ballMm: 7.144, contactDeg: 60 };
const pair = { row, rowsWith: 1, rowsAgainst: 1 };

describe("angular-contact set", () => {
  it("deflects as Hertz’ contact of a ball with its two races says", () => {
    // Brewe and Hamrock’s fits of Hertz’ elliptic contact (published 1977, from memory; within 3 %), for
    // a groove of 0.52 of the ball and rings of some pitch diameter. The handbook’s short form has no
    // conformity and no pitch diameter in it, so it is held to a fifth.
    const approach = (loadN: number, ballMm: number, grooveMm: number, raceMm: number): number => {
      const along = 1 / (2 / ballMm + 1 / raceMm);
      const across = 1 / (2 / ballMm - 1 / grooveMm);
      const [rx, ry] = [Math.min(along, across), Math.max(along, across)];
      const mean = 1 / (1 / rx + 1 / ry);
      const k = 1.0339 * (ry / rx) ** 0.636;
      const second = 1.0003 + (0.5968 * rx) / ry;
      const first = 1.5277 + 0.6023 * Math.log(ry / rx);
      const modulus = STEEL_E / (1 - 0.3 ** 2);
      return first * Math.cbrt((9 / (2 * second * mean)) * (loadN / (Math.PI * k * modulus)) ** 2);
    };
    for (const [balls, ballMm, contactDeg, pitchMm] of [
      [15, 7.144, 60, 46],
      [12, 9.525, 60, 60],
      [14, 7.938, 40, 44],
    ]) {
      const angle = (contactDeg * Math.PI) / 180;
      const force = 2000;
      const q = force / (balls * Math.sin(angle));
      const inner = (pitchMm / Math.cos(angle) - ballMm) / 2;
      const outer = -(pitchMm / Math.cos(angle) + ballMm) / 2;
      const both = approach(q, ballMm, 0.52 * ballMm, inner) + approach(q, ballMm, 0.52 * ballMm, outer);
      const ratio = axialDeflection({ balls, ballMm, contactDeg }, force) / (both / Math.sin(angle));
      expect([contactDeg, ratio > 0.8 && ratio < 1.25, ratio]).toEqual([contactDeg, true, expect.anything()]);
    }
  });

  it("force and deflection are each other’s inverse", () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 50_000, noNaN: true }), (force) => {
        expect(rowForce(row, axialDeflection(row, force)) / force).toBeCloseTo(1, 9);
      }),
    );
  });

  it("a plain pair loses its preload at 2.83 times of it", () => {
    // Bearing handbooks: 2√2 for ball bearings, since force goes with deflection to 1.5.
    expect((preloadLossLimit(pair, 1000) ?? NaN) / 1000).toBeCloseTo(2 * Math.SQRT2, 6);
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
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 5000, noNaN: true }),
        fc.double({ min: 0, max: 9000, noNaN: true }),
        fc.constantFrom([1, 1], [2, 1], [2, 2]),
        (preload, force, [rowsWith, rowsAgainst]) => {
          const at = setUnderLoad({ row, rowsWith, rowsAgainst }, preload, force);
          expect(Math.abs(at.loadedN - at.unloadedN - force)).toBeLessThan(0.01 + 1e-6 * force);
        },
      ),
    );
  });

  it("a triple against one row is stiffer and holds its preload longer", () => {
    const triple = { row, rowsWith: 2, rowsAgainst: 1 };
    const limits = [pair, triple].map((set) => preloadLossLimit(set, 1000) ?? NaN);
    expect(limits[1]).toBeGreaterThan(limits[0]);
    expect(preloadOffset(triple, 1000)).toBeLessThan(preloadOffset(pair, 1000));
  });

  /** Work stored in one row, from force over way in small steps; nothing of the set’s own arithmetic. */
  const stored = (mm: number): number => {
    const steps = 400;
    let work = 0;
    for (let i = 0; i < steps; i += 1) work += (rowForce(row, (mm * (i + 0.5)) / steps) * mm) / steps;
    return work;
  };
  const leastOf = (energy: (x: number) => number, from: number, to: number): number => {
    let [low, high] = [from, to];
    for (let i = 0; i < 90; i += 1) {
      const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
      if (energy(a) < energy(b)) high = b;
      else low = a;
    }
    return (low + high) / 2;
  };

  it.each([
    [1, 1],
    [2, 1],
    [1, 2],
    [2, 2],
    [3, 1],
    [2, "spring"],
  ] as const)("%s rows against %s lie where the stored work is least", (rowsWith, rowsAgainst) => {
    const preload = 500;
    const away = rowsAgainst === "spring" ? 0 : axialDeflection(row, preload / rowsAgainst);
    const here = axialDeflection(row, preload / rowsWith);
    for (const load of [300, 2000, 6000]) {
      const energy = (x: number): number =>
        rowsWith * stored(here + x) -
        load * x +
        (rowsAgainst === "spring" ? -preload * x : rowsAgainst * stored(Math.max(0, away - x)));
      const least = leastOf(energy, 0, 0.05);
      expect(setUnderLoad({ row, rowsWith, rowsAgainst }, preload, load).deflectionMm / least).toBeCloseTo(1, 3);
    }
  });

  it("two in a row against a spring give more than against a bearing, and never go slack", () => {
    const spring = { row, rowsWith: 2, rowsAgainst: "spring" } as const;
    expect(setUnderLoad(spring, 500, 2000).deflectionMm * 1000).toBeCloseTo(3.64, 2);
    expect(setUnderLoad({ ...spring, rowsAgainst: 1 }, 500, 2000).deflectionMm * 1000).toBeCloseTo(2.89, 2);
    expect(preloadLossLimit(spring, 500)).toBeNull();
    expect(setUnderLoad(spring, 500, 50_000)).toMatchObject({
      open: false,
      unloadedN: 500,
    });
  });

  it("closing the offset stores work at the preload’s rate (Castigliano)", () => {
    for (const [rowsWith, rowsAgainst] of [
      [1, 1],
      [2, 1],
      [2, 2],
    ]) {
      // The least work of a gap shared between both sides; its slope is the clamping force.
      const work = (gap: number): number => {
        const share = leastOf((x) => rowsWith * stored(x) + rowsAgainst * stored(gap - x), 0, gap);
        return rowsWith * stored(share) + rowsAgainst * stored(gap - share);
      };
      const gap = preloadOffset({ row, rowsWith, rowsAgainst }, 1000);
      const h = gap / 200;
      expect((work(gap + h) - work(gap - h)) / (2 * h) / 1000).toBeCloseTo(1, 2);
    }
  });

  it("names what is out of bounds", () => {
    expect(() => axialDeflection({ ...row, ballMm: 0 }, 1)).toThrow("ball diameter is 0");
    expect(() => setUnderLoad(pair, -5, 0)).toThrow("preload is -5");
  });
});

describe("bearing nut", () => {
  const m10 = { diameterMm: 10, pitchMm: 1.5, threadFriction: 0.12, faceFriction: 0.12, faceRadiusMm: 6.25 };

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
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 500, noNaN: true }), (torque) => {
        expect(nutTorque(m10, clampForce(m10, torque)) / torque).toBeCloseTo(1, 9);
      }),
    );
    const ratio = clampForceShort(10, 46, 0.17) / clampForce(m10, 46);
    expect(ratio).toBeGreaterThan(0.9);
    expect(ratio).toBeLessThan(1.1);
  });

  it("a pinch screw at 7 lbf·ft is light", () => {
    // Common practice, no source: around 7 lbf·ft (9.5 N·m) for a small pinch screw.
    const m6 = { diameterMm: 6, pitchMm: 1, threadFriction: 0.14, faceFriction: 0.14, faceRadiusMm: 4 };
    expect(clampForce(m6, 9.49)).toBeLessThan(11_000);
  });

  it("a cord pulled on a radius is a torque", () => {
    // Statics: 1 kgf on a radius of 100 mm is 0.0981 N·m · 10 (standard gravity, CGPM 1901).
    expect(cordDrag(9.80665, 100)).toBeCloseTo(0.980665, 9);
    expect(() => cordDrag(1, 0)).toThrow("radius is 0");
  });

  it("a preloaded nut drags as rolling friction on its helix would", () => {
    // Statics of the wedge: two nuts pressed on each other drag F·r·(tan(β + φ) − tan(β − φ)); the φ that
    // the standard’s formula (JIS B 1192, from memory) means is that of rolling, μ 0.003 to 0.015
    // (bearing handbooks, from memory).
    for (const [leadMm, ballCircleMm] of [
      [5, 20],
      [10, 32],
      [10, 40],
      [20, 40],
    ]) {
      const drag = nutPreloadDrag({ preloadN: 1000, leadMm, ballCircleMm });
      const beta = Math.atan(leadMm / (Math.PI * ballCircleMm));
      const wedge = (mu: number): number =>
        (1000 * (ballCircleMm / 2) * (Math.tan(beta + Math.atan(mu)) - Math.tan(beta - Math.atan(mu)))) / 1000;
      expect(drag).toBeGreaterThan(wedge(0.003));
      expect(drag).toBeLessThan(wedge(0.015));
    }
  });

  it.each(["back-to-back", "face-to-face"] as const)("the ground spacer of a pair %s leaves the wanted gap", (pair) => {
    // Rings laid out by their faces: what a micrometer would find after grinding.
    const gapOf = (inner: number, outer: number, standIn: number): number =>
      pair === "back-to-back" ? outer + standIn - inner : inner + standIn - outer;
    fc.assert(
      fc.property(
        fc.double({ min: -0.02, max: 0.05, noNaN: true }),
        fc.double({ min: 0, max: 0.05, noNaN: true }),
        (standIn, wanted) => {
          const width = 20;
          const { ring, byMm } = spacerGrind(gapOf(width, width, standIn), wanted, pair);
          const left = gapOf(width - (ring === "inner" ? byMm : 0), width - (ring === "outer" ? byMm : 0), standIn);
          expect(byMm).toBeGreaterThanOrEqual(0);
          expect(Math.abs(left - wanted)).toBeLessThan(0.00051);
        },
      ),
    );
  });

  it("more preload takes the inner spacer back to back and the outer one face to face", () => {
    // Bearing handbooks, from memory.
    expect(spacerGrind(0.01, 0.018, "back-to-back")).toEqual({
      ring: "inner",
      byMm: expect.closeTo(0.008, 9),
    });
    expect(spacerGrind(0.01, 0.018, "face-to-face").ring).toBe("outer");
    expect(spacerGrind(0.02, 0.018, "back-to-back").ring).toBe("outer");
    expect(spacerGrind(0.018, 0.018, "face-to-face").ring).toBe("none");
    expect(makeUpSpacer(42.35, [15, 15])).toBeCloseTo(12.35, 9);
    expect(() => makeUpSpacer(29, [15, 15])).toThrow("seat depth is 29");
  });

  it("fills a fifth to six tenths of a bearing’s free space", () => {
    // Sizes and masses of the 62 and 63 series (ISO 15, masses of bearing tables from memory); free space
    // is the ring of metal it could be less the metal it is; a third to a half is usual for its fill.
    for (const [d, D, B, grams] of [
      [25, 52, 15, 130],
      [40, 90, 23, 630],
      [60, 130, 31, 1700],
    ]) {
      const free = (Math.PI / 4) * B * (D * D - d * d) * 1e-3 - grams / 7.8;
      const share = greaseFill(D, B) / 0.9 / free;
      expect([d, share > 0.2 && share < 0.6]).toEqual([d, true]);
    }
  });
});

describe("usual drag of an end-bearing set", () => {
  const x = defaultAxis("vertical-centre", "X");
  const setOf = (nominalMm: number, bearings: AxisConfig["bearings"]) =>
    usualSetDrag({ bearings, screw: { ...x.screw, nominalMm } });

  it.each([
    // Catalogue starting torques of screw-support bearings, 60°, paired, from memory: bore mm, N·m.
    [22, 17, 0.14],
    [26, 20, 0.14],
    [32, 25, 0.23],
    [38, 30, 0.24],
    [51, 40, 0.28],
    [51, 40, 0.49],
    [64, 50, 0.58],
  ])("a screw of %d mm: the catalogue’s figure for %d mm bore lies in the window", (nominalMm, boreMm, catalogueNm) => {
    const usual = setOf(nominalMm, "angular-pair");
    expect(usual?.boreMm).toBe(boreMm);
    expect(usual?.fromNm).toBeLessThan(catalogueNm);
    expect(usual?.toNm).toBeGreaterThan(catalogueNm);
  });

  it("four carry twice the preload of two (catalogue factor, from memory); a pair adjusted on site has no window", () => {
    const pair = setOf(32, "angular-pair");
    const four = setOf(32, "angular-quad");
    expect((four?.toNm ?? 0) / (pair?.toNm ?? 1)).toBeCloseTo(2, 6);
    expect(setOf(32, "deep-groove-pair")).toBeNull();
    expect(setOf(32, "plain-thrust")).toBeNull();
  });
});
