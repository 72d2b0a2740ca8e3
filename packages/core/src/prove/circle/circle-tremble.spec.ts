import { analyseCircle } from "./circle-analysis";
import { circleFindings } from "./circle-findings";
import { fitCircle } from "./circle-fit";
import { trembleOf } from "./circle-tremble";
import { bothWays, evenPlane, SETUP } from "./circle-virtual.testing";

const taken = (over: Parameters<typeof evenPlane>[0]) => {
  const traces = bothWays(evenPlane(over), { samples: 3000 });
  const fit = fitCircle(traces, SETUP);
  return { traces, fit, tremble: trembleOf(traces, fit.rest, SETUP), findings: circleFindings(fit, SETUP) };
};

describe("what trembles in a circle", () => {
  it("is told of the axis that does it, by its turns; the other is clean", () => {
    const { tremble } = taken({ shake: [null, { mm: 0.002, waveMm: 10 / 6.3 }] });
    const [first] = tremble.lines;
    expect(first).toMatchObject({ by: "order", letter: "Y", perTurn: expect.closeTo(6.3, 1) as number });
    expect(first.mm).toBeCloseTo(0.002, 3);
    // A sine of 0.002 mm, its waves of unlike height: 0.0014 and a little more.
    expect(tremble.rmsMm[1]).toBeGreaterThan(0.0012);
    expect(tremble.rmsMm[1]).toBeLessThan(0.0019);
    expect(tremble.rmsMm[0]).toBeLessThan(0.0004);
    expect([45, 90, 225, 270]).toContain(tremble.most?.fromDeg);
  });

  it("what goes by the clock is told in Hz, and a quiet machine has no line", () => {
    const { traces } = taken({});
    const perRad = SETUP.radiusMm / (SETUP.feedMmMin / 60);
    const rest = traces.map(({ angles, direction }) =>
      angles.map((a) => 0.001 * Math.sin(2 * Math.PI * 12.5 * direction * (a - angles[0]) * perRad)),
    );
    const [line] = trembleOf(traces, rest, SETUP).lines;
    expect(line).toMatchObject({ by: "hz", hz: expect.closeTo(12.5, 1) as number });
    expect(
      trembleOf(
        traces,
        traces.map((t) => t.angles.map(() => 0)),
        SETUP,
      ).lines,
    ).toEqual([]);
  });

  it("the part that makes most of the circle leads, and what is left without it is said", () => {
    const { findings, fit } = taken({ square: 90e-6 });
    expect(findings[0]).toMatchObject({ kind: "square", axis: null, with: [] });
    expect(findings[0].onCircleMm).toBeCloseTo(90e-6 * 150, 4);
    expect(findings[0].without.gBothMm).toBe(fit.without(["square"]).gBoth);
    const lost = findings.find((f) => f.kind === "lost" && f.letter === "X");
    expect(lost?.ends?.differ).toBe(false);
  });
});

describe("a circle worked out", () => {
  it("tells how far it is, onwards to its end", () => {
    const told: number[] = [];
    analyseCircle(bothWays(evenPlane(), { samples: 600 }), SETUP, {
      calibrated: false,
      barU: 0.0005,
      told: (share) => told.push(share),
    });
    expect(told).toEqual([...told].sort((a, b) => a - b));
    expect([told.length > 2, told.at(-1)]).toEqual([true, 1]);
  });
});
