import fc from "fast-check";
import { programStrokes } from "../../lubrication";
import { spreadWork, spreadWorkText, workAlong } from ".";

describe("where an axis works", () => {
  it("all way is laid down: inside and outside together (property)", () => {
    const mm = fc.double({ min: -300, max: 900, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.record({ fromMm: mm, toMm: mm }), { minLength: 1, maxLength: 20 }), (strokes) => {
        const way = strokes.reduce((sum, s) => sum + Math.abs(s.toMm - s.fromMm), 0);
        fc.pre(way > 1);
        const { wayMm, outside } = workAlong(strokes, { zeroMm: 0, travelMm: 600 });
        expect(wayMm.reduce((a, b) => a + b, 0)).toBeCloseTo(way * (1 - outside), 6);
      }),
    );
  });

  it("the stretch is the shortest that holds four fifths (brute force over all stretches)", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 4, maxLength: 20 }), (wayMm) => {
        const all = wayMm.reduce((a, b) => a + b, 0);
        fc.pre(all > 0);
        const { bandMm } = spreadWork({ wayMm, outside: 0 }, wayMm.length, []);
        let least = Infinity;
        for (let i = 0; i < wayMm.length; i += 1)
          for (let j = i + 1; j <= wayMm.length; j += 1)
            if (wayMm.slice(i, j).reduce((a, b) => a + b, 0) >= 0.8 * all - 1e-9) least = Math.min(least, j - i);
        expect(bandMm[1] - bandMm[0]).toBeCloseTo(least, 9);
      }),
    );
  });

  it("places by turns stay on the travel and lie side by side", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 39 }), fc.integer({ min: 1, max: 30 }), (first, length) => {
        fc.pre(first + length <= 40);
        const wayMm = Array.from({ length: 40 }, (_, i) => (i >= first && i < first + length ? 5 : 0));
        const { shiftsMm, relief } = spreadWork({ wayMm, outside: 0 }, 400, []);
        for (const s of shiftsMm) {
          expect(10 * first + s).toBeGreaterThanOrEqual(-1e-9);
          expect(10 * (first + length) + s).toBeLessThanOrEqual(400 + 1e-9);
        }
        if (40 >= 2 * length && shiftsMm.length > 0) expect(relief).toBeCloseTo(1 / (shiftsMm.length + 1), 9);
        expect(relief).toBeLessThanOrEqual(1);
      }),
    );
  });

  it("a program of short strokes in the middle is told, with what the screw has lost there", () => {
    const text = "G21 G90\nG0 X0 Y0\nG1 X60 F800\n" + "G1 X0\nG1 X60\n".repeat(40);
    const work = workAlong(programStrokes(text, "X"), { zeroMm: 220, travelMm: 500 });
    expect(work.outside).toBe(0);
    const loss = (atMm: number, valueMm: number): { atMm: number; valueMm: number; uMm: number } => ({
      atMm,
      valueMm,
      uMm: 0.001,
    });
    const spread = spreadWork(work, 500, [loss(50, 0.004), loss(250, 0.012), loss(450, 0.004)]);
    expect(spread.narrow).toBe(true);
    expect(spread.bandMm[0]).toBeGreaterThanOrEqual(212);
    expect(spread.bandMm[1]).toBeLessThanOrEqual(288);
    expect(spread.worn?.moreMm).toBeCloseTo(0.008, 9);
    const said = spreadWorkText(spread, { travelMm: 500, system: "metric" }).join(" ");
    expect(said).toContain("towards minus");
    expect(said).toContain("It loses 8.0 ± 1.2 µm more there than elsewhere");
    expect(() => spreadWork(workAlong(programStrokes(text, "X"), { zeroMm: 5000, travelMm: 500 }), 500, [])).toThrow(
      "way on the travel is 0",
    );
  });

  it("strokes begin where the axis is known to stand", () => {
    expect(programStrokes("G90 G21\nG0 X10\nX30\nG91 X-5", "X")).toEqual([
      { fromMm: 10, toMm: 30 },
      { fromMm: 30, toMm: 25 },
    ]);
    expect(() => programStrokes("G90 G21\nG0 X10", "Y")).toThrow("number of moves of Y is 0");
  });
});
