import type { CircleFinding, CircleKind } from "./circle-findings";
import { joinPlanes, type PlaneFound } from "./circle-joint";

const finding = (kind: CircleKind, letter: string | null, value: number, u: number): CircleFinding => ({
  kind,
  letter,
  axis: letter === null ? null : 0,
  value,
  u,
  onCircleMm: 0,
  ends: null,
  parts: [],
  with: [],
  without: { gMm: [], gBothMm: null, hMm: null },
});
const plane = (a: string, b: string, findings: readonly CircleFinding[], feedMmMin = 1000): PlaneFound => ({
  plane: a + b,
  axes: [a, b],
  feedMmMin,
  findings,
});
const scales = { X: 12e-6, Y: -3e-6, Z: -9e-6 };
const three = (off = 0): PlaneFound[] =>
  (
    [
      ["X", "Y"],
      ["Z", "X"],
      ["Y", "Z"],
    ] as const
  ).map(([a, b], i) => plane(a, b, [finding("mismatch", null, scales[a] - scales[b] + (i === 0 ? off : 0), 2e-6)]));

describe("planes joined", () => {
  it("the same axis in two planes is their mean by what each knows, as GUM’s weighted mean has it", () => {
    const { findings, tests } = joinPlanes([
      plane("X", "Y", [finding("lost", "X", 0.01, 0.001), finding("lost", "Y", 0.004, 0.001)]),
      plane("Z", "X", [finding("lost", "X", 0.012, 0.002), finding("lost", "Z", 0.02, 0.001)]),
    ]);
    expect(findings).toHaveLength(1);
    expect(findings[0]).toMatchObject({ kind: "lost", letter: "X", value: expect.closeTo(0.0104, 6) as number });
    expect(findings[0].u).toBeCloseTo(0.001 * Math.sqrt(4 / 5), 7);
    // χ² = (Δ)²/(u₁² + u₂²) of two readings of one thing: 0.002² over 0.0005² + 0.001².
    expect(tests[0]).toMatchObject({ chiSquared: expect.closeTo(3.2, 6) as number, dof: 1, agrees: true });
  });

  it("planes that do not agree are said, and U is as much wider", () => {
    const { findings, tests } = joinPlanes([
      plane("X", "Y", [finding("lost", "X", 0.01, 0.001)]),
      plane("Z", "X", [finding("lost", "X", 0.02, 0.001)]),
    ]);
    expect(tests[0].agrees).toBe(false);
    expect(findings[0].u).toBeGreaterThan(0.005);
  });

  it("scales of three planes close; each axis is told against the mean of the three", () => {
    const { findings, tests } = joinPlanes(three());
    expect(findings.map((f) => [f.letter, f.value])).toEqual([
      ["X", expect.closeTo(12e-6, 9)],
      ["Y", expect.closeTo(-3e-6, 9)],
      ["Z", expect.closeTo(-9e-6, 9)],
    ]);
    expect(tests).toEqual([expect.objectContaining({ kind: "mismatch", letter: null, dof: 1, agrees: true })]);
    expect(joinPlanes(three(20e-6)).tests[0].agrees).toBe(false);
  });

  it("a plane that cannot tell a scale from its radius does not join in", () => {
    const arc = three().map((p, i) =>
      i === 0 ? p : { ...p, findings: p.findings.map((f) => ({ ...f, with: ["radius"] })) },
    );
    expect(joinPlanes(arc).tests).toEqual([]);
  });

  it("how late servos are is joined at one feed only", () => {
    const servo = (feed: number): PlaneFound[] =>
      three().map((p, i) => ({
        ...p,
        feedMmMin: i === 0 ? feed : 1000,
        findings: [finding("servo", null, [0.001, -0.002, 0.001][i], 0.0002)],
      }));
    expect(joinPlanes(servo(1000)).findings.map((f) => f.kind)).toEqual(["servo", "servo", "servo"]);
    expect(joinPlanes(servo(2000)).findings).toEqual([]);
  });
});
