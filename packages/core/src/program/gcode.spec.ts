import { parseLine } from "gcode-parser";
import { profileTargets, stepsOf, type TestPlan } from "../lostmotion";
import { gcodeProgram, programMoves, type GcodeOptions } from ".";

const options = (over: Partial<GcodeOptions> = {}): GcodeOptions => ({
  letter: "X",
  feedMmMin: 1000,
  dwellS: 3,
  clearance: null,
  system: "metric",
  title: "Test (one)",
  travelMm: 500,
  rapidMmMin: 20000,
  dwellWord: "P-seconds",
  ...over,
});
const plan = (over: Partial<TestPlan> = {}): TestPlan => ({
  kind: "travel-profile",
  targetsMm: profileTargets(500, 6, 25, 10),
  runs: 5,
  overTravelMm: 25,
  tickMm: 0.001,
  ticksOut: 50,
  keepsZero: false,
  ...over,
});

interface Walked {
  readonly stops: { readonly at: number; readonly from: "+" | "-" }[];
  readonly path: number[];
  readonly unitMm: number;
  readonly clearance: number[];
}

/** Reads a program with an independent parser (gcode-parser) and walks its moves, modal words kept. */
function walk(text: string): Walked {
  let unitMm = NaN;
  let absolute = false;
  let at = NaN;
  let from: "+" | "-" = "+";
  const walked = {
    stops: [] as Walked["stops"],
    path: [] as number[],
    clearance: [] as number[],
  };
  for (const line of text.split("\n")) {
    const words = new Map(parseLine(line).words);
    const g = words.get("G");
    if (g === 21) unitMm = 1;
    if (g === 20) unitMm = 25.4;
    if (g === 90) absolute = true;
    if (g === 0 || g === 1) {
      expect(absolute).toBe(true);
      const x = words.get("X");
      if (x !== undefined) {
        const to = x * unitMm;
        if (to !== at && !Number.isNaN(at)) from = to > at ? "+" : "-";
        at = to;
        walked.path.push(at);
      }
      const z = words.get("Z");
      if (z !== undefined) walked.clearance.push(z * unitMm);
      if (g === 1) expect(Math.max(words.get("F") ?? 0)).toBeGreaterThan(0);
    }
    if (g === 4) walked.stops.push({ at, from });
  }
  return { ...walked, unitMm };
}

describe("gcodeProgram, walked with an independent parser", () => {
  const cases: [string, TestPlan, GcodeOptions][] = [
    ["place by place, mm", plan(), options()],
    ["one reference scale, mm", plan({ keepsZero: true }), options()],
    ["inch", plan(), options({ system: "inch" })],
    [
      "two-sided with clearance",
      plan({ kind: "two-sided", targetsMm: [180] }),
      options({ clearance: { letter: "Z", clearMm: 20, readMm: 5 } }),
    ],
  ];

  it.each(cases)(
    "stops on each target from the wanted side and never passes it: %s",
    (_, p, o) => {
      const text = gcodeProgram(p, o);
      const walked = walk(text);
      const steps = stepsOf(p);
      const grain = o.system === "inch" ? 0.00127 : 0.0005;
      expect(walked.unitMm).toBe(o.system === "inch" ? 25.4 : 1);
      expect(walked.stops).toHaveLength(steps.length);
      steps.forEach((step, i) => {
        expect(
          Math.abs(walked.stops[i].at - step.targetMm),
        ).toBeLessThanOrEqual(grain);
        expect(walked.stops[i].from).toBe(step.direction);
      });
      for (const at of walked.path) {
        expect(at).toBeGreaterThanOrEqual(-grain);
        expect(at).toBeLessThanOrEqual(o.travelMm + grain);
      }
    },
  );

  it("leaves the run-up before every approach that turns round", () => {
    const { path, stops } = walk(
      gcodeProgram(plan({ kind: "two-sided", targetsMm: [180] }), options()),
    );
    expect(stops.map((s) => s.from).join("")).toBe("++-+-+-+-+-");
    expect(path.slice(0, 4)).toEqual([155, 180, 155, 180]);
    expect(path).toContain(205);
  });

  it("lifts the tip before going past and sets it down to read", () => {
    const walked = walk(
      gcodeProgram(
        plan({ kind: "two-sided", targetsMm: [180], runs: 1 }),
        options({ clearance: { letter: "Z", clearMm: 20, readMm: 5 } }),
      ),
    );
    expect(walked.clearance).toEqual([20, 5, 20, 5, 20, 5]);
  });

  it("writes plain blocks: absolute, units, dwell in the control’s way, comments that cannot break out", () => {
    const text = gcodeProgram(
      plan(),
      options({ title: "a) G0 X999 (\nM99", dwellWord: "P-milliseconds" }),
    );
    expect(text).toContain("\n(a  G0 X999   M99)\n");
    expect(text).toContain("G4 P3000");
    expect(gcodeProgram(plan(), options({ dwellWord: "X-seconds" }))).toContain(
      "G4 X3.0",
    );
    expect(text.startsWith("%\n")).toBe(true);
    expect(text.endsWith("M30\n%\n")).toBe(true);
  });

  it("refuses what leaves the travel or the drive, naming value and bound", () => {
    expect(() =>
      gcodeProgram(plan({ targetsMm: [10, 200] }), options()),
    ).toThrow("place is 10: it must be from 25 to 475 mm");
    expect(() => gcodeProgram(plan(), options({ feedMmMin: 90_000 }))).toThrow(
      "feed is 90000: it must be above 0 and up to the rapid feed of 20000 mm/min",
    );
    expect(() => gcodeProgram(plan(), options({ dwellS: 0 }))).toThrow(
      "dwell is 0: it must be from 0.5 to 60 s",
    );
    expect(() =>
      gcodeProgram(
        plan(),
        options({ clearance: { letter: "Z", clearMm: 5, readMm: 5 } }),
      ),
    ).toThrow("clearance is 5");
  });

  it("can be taken up at any step", () => {
    const all = programMoves(plan(), options());
    const rest = programMoves(plan(), options(), 14);
    expect(rest.filter((m) => m.kind === "dwell")).toEqual(
      all.filter((m) => m.kind === "dwell").slice(14),
    );
  });
});
