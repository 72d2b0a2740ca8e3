import { checkCircle } from "./circle-checks";
import { bothWays, evenPlane, SETUP } from "./circle-virtual.testing";

/** Turns round with a loss and a spike, leans, and its seat is off the centre: as machines do. */
const traces = bothWays(
  evenPlane({
    square: 30e-6,
    stick: [
      { mm: 0.004, tauS: 0.1 },
      { mm: 0.003, tauS: 0.1 },
    ],
  }),
  { samples: 1200 },
);

describe("what the readings say against how they were taken", () => {
  it("as they were taken they raise no doubt", () => {
    expect(checkCircle(traces, SETUP)).toEqual([]);
  });

  it("a start that was noted elsewhere is found by where the axes turn round", () => {
    const wrong = traces.map((t) => ({ ...t, angles: t.angles.map((a) => a - (30 * Math.PI) / 180) }));
    expect(checkCircle(wrong, SETUP)).toEqual([{ code: "other-start", deg: 30 }]);
  });

  it("a program begun twice the same way round is found by what both share", () => {
    const second = traces[1];
    const ends = second.angles[0] + second.angles[second.angles.length - 1];
    const wrong = [traces[0], { ...second, direction: 1 as const, angles: second.angles.map((a) => ends - a) }];
    expect(checkCircle(wrong, SETUP)).toEqual([{ code: "other-direction", trace: 1 }]);
  });

  it("readings that are even say nothing", () => {
    const even = traces.map((t) => ({ ...t, deviations: t.deviations.map(() => 0) }));
    expect(checkCircle(even, SETUP)).toEqual([]);
    expect(checkCircle([], SETUP)).toEqual([]);
  });
});
