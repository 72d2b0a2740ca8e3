import { virtualPass } from "../../simulate";
import { readPass, type BarPass } from "./bar-pass";
import { fitCircle } from "./circle-fit";
import { bothWays, evenPlane, QUIET, SETUP } from "./circle-virtual.testing";

const COMMAND = { radiusMm: 150, feedMmMin: 3000, startDeg: 0, spanDeg: 360, overrunDeg: 45, leadMm: 1.5 };
const plane = evenPlane({ square: 40e-6 });
const sent = (over: object = {}): BarPass => ({
  direction: 1,
  rateHz: 200,
  lost: [],
  values: virtualPass(plane, QUIET, {
    ...COMMAND,
    centreMm: [300, 200],
    direction: 1,
    dwellS: 1,
    rateHz: 200,
    rangeMm: 1,
    seed: 3,
    ...over,
  }),
});
const good = sent();
const withNaN = (from: number, to: number): Float64Array => good.values.map((v, i) => (i >= from && i < to ? NaN : v));

describe("what a bar sent, as a circle", () => {
  it("the same machine read by the clock and read by its angles is taken apart into the same", () => {
    const back = { ...sent({ direction: -1, seed: 4 }), direction: -1 as const };
    const read = [readPass(good, COMMAND), readPass(back, COMMAND)];
    expect(read.map((r) => r.troubles)).toEqual([[], []]);
    const setup = { ...SETUP, feedMmMin: COMMAND.feedMmMin };
    const byClock = fitCircle(
      read.flatMap((r) => (r.trace ? [r.trace] : [])),
      setup,
    );
    const byAngle = fitCircle(bothWays(plane, { setup }), setup);
    for (const id of ["square", "lost-1", "lost-2", "mismatch"] as const) {
      const [a, b] = [byClock, byAngle].map((fit) => fit.parts.find((p) => p.id === id));
      expect([id, Math.abs((a?.value ?? NaN) - (b?.value ?? NaN)) < (a?.u ?? 0) + (b?.u ?? 0) + 2e-6]).toEqual([
        id,
        true,
      ]);
    }
    expect(byClock.parts.find((p) => p.id === "square")?.value).toBeCloseTo(40e-6, 5);
  });

  it("a bar that falls off is said with how far it had come, and its pass is not used", () => {
    const fallen = readPass(sent({ fallsAtS: 12 }), COMMAND);
    expect(fallen.trace).toBeNull();
    // Twelve seconds less the stand and the run in, at 3000 mm/min round 150 mm, less the overrun.
    const deg = ((12 - 1 - 1.5 / 50) * 50 * 180) / (Math.PI * 150) - 45;
    expect(fallen.troubles).toEqual([{ code: "fell-off", afterDeg: expect.closeTo(deg, 0) as number }]);
  });

  it("one that was never put on, and one that was read too short, are said", () => {
    expect(readPass({ ...good, values: good.values.map(() => NaN) }, COMMAND).troubles).toEqual([{ code: "no-start" }]);
    const short = readPass({ ...good, values: good.values.slice(0, 3000) }, COMMAND);
    expect([short.trace, short.troubles]).toEqual([null, [{ code: "no-end" }]]);
  });

  it("a feed that was not at 100 % is found; the circle stands all the same", () => {
    const slow = readPass(sent({ override: 0.8 }), COMMAND);
    expect(slow.troubles).toEqual([{ code: "other-feed", factor: expect.closeTo(0.8, 2) as number }]);
    expect(slow.trace?.angles.length).toBeGreaterThan(1000);
  });

  it("samples that never came leave a hole that is said, and nothing is put in its place", () => {
    const holed = readPass({ ...good, values: withNaN(2000, 2060), lost: [{ from: 2000, count: 60 }] }, COMMAND);
    expect(holed.troubles).toEqual([
      {
        code: "gap",
        fromDeg: expect.any(Number) as number,
        deg: expect.closeTo((61 * 50 * 180) / (200 * Math.PI * 150), 1) as number,
      },
    ]);
    const [whole, less] = [readPass(good, COMMAND).trace, holed.trace];
    expect((whole?.angles.length ?? 0) - (less?.angles.length ?? 0)).toBe(60);
  });

  it("samples lost where it ran out are no fall", () => {
    const end = good.values.findLastIndex((v) => Math.abs(v) < 0.1);
    const cut = readPass(
      { ...good, values: withNaN(end - 2, end + 20), lost: [{ from: end - 2, count: 22 }] },
      COMMAND,
    );
    expect(cut.troubles).toEqual([]);
    expect(cut.trace).not.toBeNull();
  });

  it("a rate that cannot show the run in is refused by name", () => {
    expect(() => readPass({ ...good, rateHz: 5 }, COMMAND)).toThrow(
      "samples a second is 5: it must be from 50 to 10000 Hz",
    );
  });
});
