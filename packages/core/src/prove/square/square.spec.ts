import fc from "fast-check";
import { normalNoise } from "../../simulate";
import {
  agreeOnSquare,
  footText,
  judgeLevel,
  levelMoved,
  levelsText,
  readLevels,
  squareFromDiagonals,
  squareFromSweep,
  squareText,
  tiltText,
  turnsText,
  USUAL_LEVEL_LIMITS,
  type Foot,
  type LegReading,
  type LevelReading,
} from ".";

describe("out of square", () => {
  const angle = fc.double({ min: -3e-4, max: 3e-4, noNaN: true });

  it("by a square: whatever the square, its setting and the machine, flipping tells both (points turned in the plane)", () => {
    fc.assert(
      fc.property(angle, angle, angle, angle, (q, own, set, set2) => {
        // The tool goes along X, and along Y which leans by q. The square is turned by `set`, its corner is 90° + own.
        const along = (turn: number): LegReading[] => [0, 100, 200].map((x) => ({ atMm: x, mm: -Math.tan(turn) * x }));
        const up = (turn: number, corner: number): LegReading[] =>
          [0, 150, 300].map((y) => ({ atMm: y, mm: Math.tan(q) * y + Math.tan(turn + corner) * y }));
        const swept = squareFromSweep({
          setting: along(set),
          sweep: up(set, own),
          flippedSetting: along(set2),
          flipped: up(set2, -own),
          squareU: 0,
          resolutionMm: 0.001,
        });
        expect(swept.value).toBeCloseTo(q, 8);
        expect(swept.ownError?.value).toBeCloseTo(own, 8);
      }),
    );
  });

  it("unflipped, what the square does not know of itself is in the ±", () => {
    const sweep = [0, 150, 300].map((atMm) => ({ atMm, mm: 3e-5 * atMm }));
    const bare = { setting: [], sweep, flippedSetting: [], flipped: [], resolutionMm: 0.001 };
    expect(squareFromSweep({ ...bare, squareU: 1e-5 }).u).toBeGreaterThan(1e-5);
    expect(squareFromSweep({ ...bare, squareU: 0 }).u).toBeLessThan(1e-5);
    expect(() => squareFromSweep({ ...bare, sweep: sweep.slice(0, 1), squareU: 0 })).toThrow(
      "places swept is 1: it must be at least 2",
    );
  });

  it("its ± holds in 93 of 100 (invented readings)", () => {
    let held = 0;
    for (let n = 0; n < 300; n += 1) {
      const read = (own: number, k: number): LegReading[] =>
        [0, 75, 150, 225, 300].map((atMm, i) => ({
          atMm,
          mm: (4e-5 + own) * atMm + 0.0008 * normalNoise(n, 10 * k + i),
        }));
      const { value, u } = squareFromSweep({
        setting: [],
        sweep: read(2e-5, 0),
        flippedSetting: [],
        flipped: read(-2e-5, 1),
        squareU: 0,
        resolutionMm: 0.001,
      });
      if (Math.abs(value - 4e-5) <= u) held += 1;
    }
    expect(held / 300).toBeGreaterThan(0.93);
  });

  it("by diagonals: corners of a leaning rectangle, measured between their places", () => {
    fc.assert(
      fc.property(
        angle,
        fc.double({ min: 50, max: 900, noNaN: true }),
        fc.double({ min: 50, max: 900, noNaN: true }),
        (q, a, b) => {
          const corner = (i: number, j: number): readonly [number, number] => [
            i * a + j * b * Math.sin(q),
            j * b * Math.cos(q),
          ];
          const between = (p: readonly [number, number], r: readonly [number, number]): number =>
            Math.hypot(p[0] - r[0], p[1] - r[1]);
          const diagonalsMm = [between(corner(0, 0), corner(1, 1)), between(corner(1, 0), corner(0, 1))] as const;
          expect(squareFromDiagonals({ sidesMm: [a, b], diagonalsMm, uMm: 0 }).value).toBeCloseTo(q, 9);
        },
      ),
    );
    expect(() => squareFromDiagonals({ sidesMm: [300, 400], diagonalsMm: [560, 500], uMm: 0 })).toThrow(
      "first diagonal is 560: it must be within 2 % of 500.000 mm",
    );
  });

  it("ways that agree are joined by what each knows; one that does not is said and widens it (GUM, weighted mean)", () => {
    expect(agreeOnSquare([])).toBeNull();
    const joined = agreeOnSquare([
      { value: 3e-5, u: 4e-6 },
      { value: 3.3e-5, u: 1.2e-5 },
    ]);
    expect(joined).toMatchObject({ agrees: true, dof: 1, value: expect.closeTo(3.03e-5, 7) as number });
    const apart = agreeOnSquare([
      { value: 3e-5, u: 4e-6 },
      { value: 9e-5, u: 4e-6 },
    ]);
    expect(apart?.agrees).toBe(false);
    expect(apart?.u).toBeGreaterThan(2e-5);
    expect(squareText({ value: -3e-5, u: 5e-6 }, ["X", "Z"], "inch")).toBe(
      "Z leans towards X minus by 3.60 ± 0.60 tenths over 12 in.",
    );
  });
});

const FEET: readonly Foot[] = [
  { name: "1", xMm: 0, yMm: 0 },
  { name: "2", xMm: 2000, yMm: 0 },
  { name: "3", xMm: 2000, yMm: 1200 },
  { name: "4", xMm: 0, yMm: 1200 },
];
const PLACES = [
  ["X", 1000, 100],
  ["X", 1000, 1100],
  ["Y", 200, 600],
  ["Y", 1800, 600],
] as const;
const taken = { feet: FEET, divisionMmPerM: 0.02, soft: null, pitchMm: 1.5 };

/** Slope of a bed that lies bilinear on four feet, at a place: differences over a millimetre. */
function slopeOn(heights: readonly number[], along: "X" | "Y", x: number, y: number): number {
  const z = (u: number, v: number): number => {
    const [s, t] = [u / 2000, v / 1200];
    return heights[0] * (1 - s) * (1 - t) + heights[1] * s * (1 - t) + heights[2] * s * t + heights[3] * (1 - s) * t;
  };
  return 1000 * (along === "X" ? z(x + 0.5, y) - z(x - 0.5, y) : z(x, y + 0.5) - z(x, y - 0.5));
}

const readOn = (heights: readonly number[], own = 0): LevelReading[] =>
  PLACES.map(([along, xMm, yMm]) => {
    const s = slopeOn(heights, along, xMm, yMm);
    return { along, xMm, yMm, mmPerM: s + own, turnedMmPerM: s - own };
  });

describe("levels of a machine", () => {
  it("turning the feet by what is said stands it level, whatever it stood like (a bed on four feet, written apart)", () => {
    const height = fc.double({ min: -0.5, max: 0.5, noNaN: true });
    fc.assert(
      fc.property(
        fc.tuple(height, height, height, height),
        fc.double({ min: -0.05, max: 0.05, noNaN: true }),
        (heights, own) => {
          const { turns, ownZero } = readLevels({ ...taken, readings: readOn(heights, own) });
          const after = heights.map((h, i) => h + turns[i].raiseMm);
          for (const [along, x, y] of PLACES) expect(Math.abs(slopeOn(after, along, x, y))).toBeLessThan(1e-6);
          expect(Math.min(...turns.map((t) => t.raiseMm))).toBe(0);
          expect(ownZero).toBeCloseTo(own, 6);
        },
      ),
    );
  });

  it("the feet it names leave less than any others (brute force over a grid)", () => {
    const heights = [0.1, -0.06, 0.02, -0.1];
    const { turns } = readLevels({ ...taken, readings: readOn(heights) });
    const left = (raise: readonly number[]): number =>
      PLACES.reduce(
        (sum, [along, x, y]) =>
          sum +
          slopeOn(
            heights.map((h, i) => h + raise[i]),
            along,
            x,
            y,
          ) **
            2,
        0,
      );
    let best: readonly number[] = [0, 0, 0, 0];
    const steps = Array.from({ length: 12 }, (_, i) => 0.02 * i);
    for (const a of steps)
      for (const b of steps)
        for (const c of steps) for (const d of steps) if (left([a, b, c, d]) < left(best) - 1e-12) best = [a, b, c, d];
    expect(left(turns.map((t) => t.raiseMm))).toBeLessThanOrEqual(left(best) + 1e-9);
    const lowest = Math.min(...best);
    best.forEach((r, i) => expect(turns[i].raiseMm).toBeCloseTo(r - lowest, 6));
  });

  it("a soft foot carries nothing: tilt is mended as of a rigid body on the others, and it comes up last", () => {
    // Tilted only, and foot 3 hangs.
    const tilt = FEET.map(({ xMm, yMm }) => 1e-4 * xMm - 5e-5 * yMm);
    const levels = readLevels({ ...taken, soft: "3", readings: readOn(tilt) });
    expect(levels.twist).toBeNull();
    const after = tilt.map((h, i) => h + levels.turns[i].raiseMm);
    expect(Math.max(...after) - Math.min(...after)).toBeLessThan(1e-9);
    expect(footText(levels.turns[2], "metric")).toContain("Foot 3 hangs");
  });

  it("tilt is that of the middle, and twist is no tilt", () => {
    const { tiltX, tiltY, twist } = readLevels({ ...taken, readings: readOn([0.06, -0.06, 0.06, -0.06]) });
    expect(tiltX.value).toBeCloseTo(0, 9);
    expect(tiltY.value).toBeCloseTo(0, 9);
    // 0.24 mm between the diagonals, over 2 m by 1.2 m.
    expect(twist?.value).toBeCloseTo(0.24 / 2.4, 6);
  });

  it("a bow is told from twist and mended by no foot", () => {
    const bowed = [200, 1000, 1800].flatMap((xMm) =>
      [100, 1100].map((yMm): LevelReading => {
        const s = 0.00004 * (xMm - 1000);
        return { along: "X", xMm, yMm, mmPerM: s, turnedMmPerM: s };
      }),
    );
    const flat = readOn([0, 0, 0, 0]).filter((r) => r.along === "Y");
    const levels = readLevels({ ...taken, readings: [...bowed, ...flat] });
    expect(levels.bow.X?.value).toBeCloseTo(0.04, 6);
    expect(levelsText(levels, "metric").join(" ")).toContain("Along X it is hollow");
    // 0.04 mm/m for a metre are 0.00048 in/ft for a metre: 0.000146 for a foot.
    expect(levelsText(levels, "inch").join(" ")).toMatch(/changes by 0\.000146 ± \S+ in\/ft for each foot/);
  });

  it("its ± holds for what each foot wants in 93 of 100, turned or not (invented readings)", () => {
    for (const turned of [true, false]) {
      let [held, all] = [0, 0];
      for (let n = 0; n < 200; n += 1) {
        const own = 0.012 * normalNoise(n, 90);
        const readings = readOn([0.05, 0, 0.02, -0.03]).map((r, i) => ({
          ...r,
          mmPerM: r.mmPerM + own + 0.004 * normalNoise(n, 2 * i),
          turnedMmPerM: turned ? (r.turnedMmPerM as number) - own + 0.004 * normalNoise(n, 2 * i + 1) : null,
        }));
        const { tiltX, tiltY } = readLevels({ ...taken, readings });
        const truth = readLevels({ ...taken, readings: readOn([0.05, 0, 0.02, -0.03]) });
        all += 2;
        if (Math.abs(tiltX.value - truth.tiltX.value) <= tiltX.u) held += 1;
        if (Math.abs(tiltY.value - truth.tiltY.value) <= tiltY.u) held += 1;
      }
      expect(held / all).toBeGreaterThan(0.93);
    }
  });

  it("refuses what says nothing, with value and bound; says what it can in the words of a spanner", () => {
    const [x] = readOn([0, 0, 0, 0]);
    expect(() => readLevels({ ...taken, readings: [x] })).toThrow("number of readings is 1: it must be at least 2");
    expect(() => readLevels({ ...taken, readings: [x, x] })).toThrow("readings along Y is 0: it must be at least 1");
    expect(() => readLevels({ ...taken, feet: FEET.slice(0, 2), readings: readOn([0, 0, 0, 0]) })).toThrow(
      "number of feet is 2",
    );
    expect([0.05, 0.3, 1, 1.26, 2].map(turnsText)).toEqual([
      "less than 1/8 of a turn",
      "1/4 of a turn",
      "1 turn",
      "1 1/4 turns",
      "2 turns",
    ]);
    expect(tiltText({ value: -0.05, u: 0.01 }, "Y", "inch")).toBe("Y minus is high by 0.00060 ± 0.00012 in/ft.");
    expect(judgeLevel({ value: 0.03, u: 0.002 }, USUAL_LEVEL_LIMITS).code).toBe("watch");
    expect(levelMoved({ value: 0.01, u: 0.02 }, { value: 0.02, u: 0.02 }).moved).toBe(false);
  });
});
