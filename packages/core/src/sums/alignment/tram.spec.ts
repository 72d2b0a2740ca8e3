import * as fc from "fast-check";
import { SHIMMED, tram, tramBolts, tramShims, TRAM_LIMIT, type Shimmed, type TramReadings } from "./tram";

type Vector = readonly [number, number, number];
type Matrix = readonly [Vector, Vector, Vector];

const sweep = (over: Partial<TramReadings>): TramReadings => ({
  leftMm: 0,
  rightMm: 0,
  farMm: null,
  nearMm: null,
  spanMm: 300,
  depthMm: 300,
  resolutionMm: 0.001,
  ...over,
});

// A spindle in space, worked out apart: whole rotation matrices, no small angles, no slopes.

const apply = (m: Matrix, p: Vector): Vector =>
  m.map((row) => row[0] * p[0] + row[1] * p[1] + row[2] * p[2]) as unknown as Vector;
const times = (a: Matrix, b: Matrix): Matrix =>
  a.map((row) => [0, 1, 2].map((k) => row[0] * b[0][k] + row[1] * b[1][k] + row[2] * b[2][k])) as unknown as Matrix;
const aboutX = (t: number): Matrix => [
  [1, 0, 0],
  [0, Math.cos(t), -Math.sin(t)],
  [0, Math.sin(t), Math.cos(t)],
];
const aboutY = (t: number): Matrix => [
  [Math.cos(t), 0, Math.sin(t)],
  [0, 1, 0],
  [-Math.sin(t), 0, Math.cos(t)],
];

/** What an indicator turned with a spindle reads over the table: how much nearer it stands there. */
function readings(lean: Matrix, spanMm: number): TramReadings {
  const near = (x: number, y: number): number => -apply(lean, [x, y, -400])[2];
  const half = spanMm / 2;
  return sweep({
    leftMm: near(-half, 0),
    rightMm: near(half, 0),
    farMm: near(0, half),
    nearMm: near(0, -half),
    spanMm,
    depthMm: spanMm,
  });
}

/** Direction in which a shim pushes what it is put under, and where its bolt stands in space. */
const FACES: Record<Shimmed, { readonly push: Vector; readonly at: (x: number, y: number) => Vector }> = {
  "column-base": { push: [0, 0, 1], at: (x, y) => [x, y, -900] },
  "gantry-legs": { push: [0, 0, 1], at: (x, y) => [x, y, -600] },
  "hanging-head": { push: [0, 0, -1], at: (x, y) => [x, y, 200] },
  // The face looks towards the operator, far side behind it; rows lie above one another.
  "vertical-flange": { push: [0, -1, 0], at: (x, y) => [x, 150, y] },
};

/** The rotation that a body makes when its bolts are pushed out by shims: found by trying angles. */
function turnedBy(
  shimmed: Shimmed,
  bolts: readonly {
    readonly x: number;
    readonly y: number;
    readonly mm: number;
  }[],
): Matrix {
  const { push, at } = FACES[shimmed];
  const miss = (rx: number, ry: number): number => {
    const turn = times(aboutX(rx), aboutY(ry));
    // Whatever the body shifts by along the push, all bolts share it: only differences count.
    const off = bolts.map((b) => {
      const p = at(b.x, b.y);
      const q = apply(turn, p);
      return push[0] * (q[0] - p[0]) + push[1] * (q[1] - p[1]) + push[2] * (q[2] - p[2]) - b.mm;
    });
    const mean = off.reduce((a, b) => a + b, 0) / off.length;
    return off.reduce((s, o) => s + (o - mean) ** 2, 0);
  };
  let [rx, ry, step] = [0, 0, 1e-3];
  while (step > 1e-10) {
    const around = [
      [0, 0],
      [step, 0],
      [-step, 0],
      [0, step],
      [0, -step],
    ];
    const best = around.reduce((a, b) => (miss(rx + b[0], ry + b[1]) < miss(rx + a[0], ry + a[1]) ? b : a));
    if (best[0] === 0 && best[1] === 0) step /= 2;
    rx += best[0];
    ry += best[1];
  }
  return times(aboutX(rx), aboutY(ry));
}

describe("tram", () => {
  it("0.001 in over 6 in is 0.050 mm over 300 mm, and at the limit of fine", () => {
    // Common practice, no source.
    const at = tram(sweep({ rightMm: 0.0254, spanMm: 152.4 }));
    expect(at.slopes[0].per300Mm).toBeCloseTo(0.05, 9);
    expect(at.slopes[0].per6InMm).toBeCloseTo(0.0254, 9);
    expect(TRAM_LIMIT * 300).toBeCloseTo(0.05, 12);
    // Two thou over six inches is out; over the 300 mm that nobody swept it would pass as square.
    expect(tram(sweep({ rightMm: 0.0508, spanMm: 152.4 })).code).toBe("out");
    expect(tram(sweep({ rightMm: 0.03 })).code).toBe("square");
    expect(tram(sweep({ rightMm: 0.05 })).code).toBe("cannot-tell");
    expect(() => tram(sweep({ spanMm: 0 }))).toThrow("span is 0");
  });

  it("says which side stands nearer, both ways", () => {
    const { slopes } = tram(sweep({ rightMm: 0.06, farMm: 0.05, nearMm: 0.02 }));
    expect(slopes.map((s) => s.nearer)).toEqual(["right", "far"]);
  });

  it("a column is shimmed at the foot on the side that stands too near (common practice, no source)", () => {
    const { slopes } = tram(sweep({ rightMm: 0.06 }));
    const of = (shimmed: Shimmed): Record<string, number> =>
      Object.fromEntries(
        tramShims(slopes, {
          shimmed,
          supports: tramBolts(shimmed, 240, 300),
        }).bolts.map((b) => [b.name, b.wantedMm]),
      );
    const column = of("column-base");
    expect(column["right far"] - column["left far"]).toBeCloseTo((0.06 / 300) * 240, 12);
    expect(column["left far"]).toBeCloseTo(0, 12);
    // A head hanging under a ram: the opposite side.
    const hanging = of("hanging-head");
    expect(hanging["left far"] - hanging["right far"]).toBeCloseTo((0.06 / 300) * 240, 12);
  });

  it("on an upright face the nod is shimmed behind the other row, the lean is turned out (common practice, no source)", () => {
    const { slopes } = tram(sweep({ rightMm: 0.04, farMm: 0, nearMm: 0.06 }));
    const { bolts, turnRad, predicted } = tramShims(slopes, {
      shimmed: "vertical-flange",
      supports: tramBolts("vertical-flange", 200, 250),
    });
    const wanted = Object.fromEntries(bolts.map((b) => [b.name, b.wantedMm]));
    expect(wanted["left bottom"]).toBeCloseTo((0.06 / 300) * 250, 12);
    expect(wanted["left top"]).toBeCloseTo(0, 12);
    expect(turnRad).toBeCloseTo(0.04 / 300, 12);
    expect(predicted[0].perSpanMm).toBeCloseTo(0.04, 12);
  });

  it("shims in, every spindle in space sweeps flat, whatever is shimmed (rotation matrices, worked out apart)", () => {
    const tilt = fc.double({ min: -4e-4, max: 4e-4, noNaN: true });
    fc.assert(
      fc.property(tilt, tilt, fc.constantFrom(...SHIMMED), (rx, ry, shimmed) => {
        const upright = shimmed === "vertical-flange";
        // A lean on an upright face is turned out first.
        const lean = times(aboutX(rx), aboutY(upright ? 0 : ry));
        const before = readings(lean, 240);
        const supports = tramBolts(shimmed, 220, 280);
        const { bolts } = tramShims(tram(before).slopes, {
          shimmed,
          supports,
        });
        const put = supports.map((s, i) => ({
          x: s.x,
          y: s.y,
          mm: bolts[i].wantedMm,
        }));
        const after = tram(readings(times(turnedBy(shimmed, put), lean), 240));
        for (const s of after.slopes) expect(Math.abs(s.per300Mm)).toBeLessThan(0.0005);
      }),
      { numRuns: 40 },
    );
  });

  it("what it predicts for shims from stock is what the sweep then reads", () => {
    const before = readings(times(aboutX(3e-4), aboutY(-2.3e-4)), 300);
    for (const shimmed of ["column-base", "gantry-legs", "hanging-head"] as const) {
      const supports = tramBolts(shimmed, 240, 300);
      const said = tramShims(tram(before).slopes, { shimmed, supports });
      const put = supports.map((s, i) => ({
        x: s.x,
        y: s.y,
        mm: said.bolts[i].shims.sumMm,
      }));
      const lean = times(aboutX(3e-4), aboutY(-2.3e-4));
      const after = tram(readings(times(turnedBy(shimmed, put), lean), 300));
      after.slopes.forEach((s, i) => expect(Math.abs(s.perSpanMm - said.predicted[i].perSpanMm)).toBeLessThan(0.0005));
    }
  });

  it("names bolts that cannot be", () => {
    expect(() => tramBolts("column-base", 0, 300)).toThrow("bolts apart across is 0");
    expect(tramBolts("vertical-flange", 200, 250).map((b) => b.name)).toEqual([
      "left top",
      "right top",
      "left bottom",
      "right bottom",
    ]);
  });
});
