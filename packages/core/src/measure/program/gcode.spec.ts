import { parseLine } from "gcode-parser";
import { commandedMm, profileTargets, stepsOf, type TestPlan } from "../reversal";
import { commandedAs, gcodeProgram, needsLift, programMoves, wordError, type GcodeOptions } from ".";

const options = (over: Partial<GcodeOptions> = {}): GcodeOptions => ({
  letter: "X",
  feedMmMin: 1000,
  dwellS: 3,
  lift: { way: "axis", letter: "Z", travelMm: 400, clearMm: 20, readMm: 5 },
  zeroBy: "stop",
  system: "metric",
  title: "Test (one)",
  travelMm: 500,
  rapidMmMin: 20000,
  dwellWord: "P-seconds",
  ...over,
});
const plan = (over: Partial<TestPlan> = {}): TestPlan => ({
  kind: "travel-profile",
  targetsMm: profileTargets(500, { count: 6, overTravelMm: 25, perTurnMm: 10 }),
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
    const stopped = words.get("M") === 0 && line.includes("zero");
    if (g === 4 || stopped) walked.stops.push({ at, from });
  }
  return { ...walked, unitMm };
}

describe("gcodeProgram, walked with an independent parser", () => {
  const cases: [string, TestPlan, GcodeOptions][] = [
    ["place by place, mm", plan(), options()],
    ["one reference scale, mm", plan({ keepsZero: true }), options({ lift: { way: "none" } })],
    ["inch", plan(), options({ system: "inch" })],
    ["two-sided with clearance", plan({ kind: "two-sided", targetsMm: [180] }), options()],
  ];

  it.each(cases)("stops on each target from the wanted side and never passes it: %s", (_, p, o) => {
    const text = gcodeProgram(p, o);
    const walked = walk(text);
    const steps = stepsOf(p);
    const grain = o.system === "inch" ? 0.00127 : 0.0005;
    expect(walked.unitMm).toBe(o.system === "inch" ? 25.4 : 1);
    expect(walked.stops).toHaveLength(steps.length);
    steps.forEach((step, i) => {
      expect(Math.abs(walked.stops[i].at - step.targetMm)).toBeLessThanOrEqual(grain);
      expect(walked.stops[i].from).toBe(step.direction);
    });
    for (const at of walked.path) {
      expect(at).toBeGreaterThanOrEqual(-grain);
      expect(at).toBeLessThanOrEqual(o.travelMm + grain);
    }
  });

  it("leaves the run-up before every approach that turns round", () => {
    const { path, stops } = walk(gcodeProgram(plan({ kind: "two-sided", targetsMm: [180] }), options()));
    expect(stops.map((s) => s.from).join("")).toBe("++-+-+-+-+-");
    expect(path.slice(0, 4)).toEqual([155, 180, 155, 180]);
    expect(path).toContain(205);
  });

  it("lifts the tip before going past and sets it down to read", () => {
    const walked = walk(gcodeProgram(plan({ kind: "two-sided", targetsMm: [180], runs: 1 }), options()));
    // Up before each approach, down to read, and off at the end.
    expect(walked.clearance).toEqual([20, 5, 20, 5, 20, 5, 20]);
  });

  it("writes plain blocks: absolute, units, dwell in the control’s way, comments that cannot break out", () => {
    const text = gcodeProgram(plan(), options({ title: "a) G0 X999 (\nM99", dwellWord: "P-milliseconds" }));
    expect(text).toContain("\n(a  G0 X999   M99)\n");
    expect(text).toContain("G4 P3000");
    expect(gcodeProgram(plan(), options({ dwellWord: "X-seconds" }))).toContain("G4 X3.0");
    expect(text.startsWith("%\n")).toBe(true);
    expect(text.endsWith("M30\n%\n")).toBe(true);
    expect(gcodeProgram(plan(), options({ title: "at 100 %" })).match(/%/g)).toHaveLength(2);
  });

  it("refuses what leaves the travel or the drive, naming value and bound", () => {
    expect(() => gcodeProgram(plan({ targetsMm: [10, 200] }), options())).toThrow(
      "place is 10: it must be from 25 to 475 mm",
    );
    expect(() => gcodeProgram(plan(), options({ feedMmMin: 90_000 }))).toThrow(
      "feed is 90000: it must be from 1 up to the rapid feed of 20000 mm/min",
    );
    expect(() => gcodeProgram(plan(), options({ dwellS: 0 }))).toThrow("dwell is 0: it must be from 0.5 to 60 s");
    expect(() =>
      gcodeProgram(
        plan(),
        options({
          lift: {
            way: "axis",
            letter: "Z",
            travelMm: 400,
            clearMm: 5,
            readMm: 5,
          },
        }),
      ),
    ).toThrow("clearance is 5");
  });

  it("never writes a feed of zero, and says the feed is per minute", () => {
    expect(() => gcodeProgram(plan(), options({ feedMmMin: 0.4 }))).toThrow("feed is 0.4: it must be from 1");
    for (const system of ["metric", "inch"] as const) {
      const text = gcodeProgram(plan(), options({ feedMmMin: 1, system }));
      const feeds = [...text.matchAll(/ F([\d.]+)/g)].map((m) => Number(m[1]));
      expect(Math.min(...feeds)).toBeGreaterThan(0);
      expect(text).toContain("G94");
    }
  });

  it("never lifts the tip with the axis that is tested, nor goes past without lifting", () => {
    expect(() =>
      gcodeProgram(
        plan(),
        options({
          lift: {
            way: "axis",
            letter: "X",
            travelMm: 400,
            clearMm: 20,
            readMm: 5,
          },
        }),
      ),
    ).toThrow("the tip cannot be lifted by X");
    expect(() => gcodeProgram(plan(), options({ lift: { way: "none" } }))).toThrow("driven into the tip");
    expect(needsLift({ kind: "end-float", keepsZero: false })).toBe(false);
  });

  it("commands places that are evaluated as commanded: a perfect machine shows no deviation", () => {
    const p = plan({ keepsZero: true });
    for (const inchDecimals of [4, 5] as const) {
      const o = options({
        lift: { way: "none" },
        system: "inch",
        inchDecimals,
      });
      const { stops } = walk(gcodeProgram(p, o));
      stepsOf(p).forEach((step, i) => {
        const commanded = commandedMm(step.targetMm, commandedAs(o));
        expect(Math.abs(stops[i].at - commanded)).toBeLessThan(1e-9);
      });
    }
  });

  it("can be taken up at any step", () => {
    const all = programMoves(plan(), options({ zeroBy: "dwell" }));
    const rest = programMoves(plan(), options({ zeroBy: "dwell" }), 14);
    expect(rest.filter((m) => m.kind === "dwell")).toEqual(all.filter((m) => m.kind === "dwell").slice(14));
  });
});

/** Tip and block as they stand on a machine, worked out from the program’s words alone. */
interface Clash {
  readonly line: string;
  readonly pressedMm: number;
}

const PRELOAD_MM = 0.25;
const REACH_MM = 0.8;
const CHAMFER_MM = 0.5;

/**
 * Walks a program and watches tip and block: the block’s face touches the tip when the axis stands on
 * the target, and lies on one side of it (`side`). A tip that is down is pressed in by as much as the
 * axis goes on towards that side; past its reach it breaks. It may only be set down within the chamfer.
 */
function clashes(text: string, targetMm: number, side: 1 | -1): Clash[] {
  const found: Clash[] = [];
  let at = NaN;
  let down = false;
  const pressed = (): number => side * (at - targetMm) + PRELOAD_MM;
  for (const line of text.split("\n")) {
    const words = new Map(parseLine(line).words);
    const x = words.get("X");
    if (x !== undefined) at = x;
    const z = words.get("Z");
    const setDown = z === 5 || line.includes("set the tip down");
    if (setDown && pressed() > PRELOAD_MM + CHAMFER_MM) found.push({ line, pressedMm: pressed() });
    if (setDown) down = true;
    if (z === 20 || line.includes("lift the tip off")) down = false;
    if (down && pressed() > REACH_MM) found.push({ line, pressedMm: pressed() });
  }
  return found;
}

describe("tip and block while a two-sided program runs", () => {
  const p = plan({ kind: "two-sided", targetsMm: [180] });

  it.each([1, -1] as const)("never meet, the block on side %s", (side) => {
    expect(clashes(gcodeProgram(p, options()), 180, side)).toEqual([]);
    const byHand = gcodeProgram(p, options({ lift: { way: "by-hand" } }));
    expect(byHand.match(/^M0/gm)?.length).toBeGreaterThan(20);
    expect(clashes(byHand, 180, side)).toEqual([]);
  });

  it("would meet if nothing were lifted, whichever side the block is on", () => {
    // The check can fail: the same words with the lifts struck out run the block into the tip.
    const struck = gcodeProgram(p, options()).replaceAll(/^G0 Z.*$/gm, "");
    for (const side of [1, -1] as const) {
      const [first] = clashes(struck, 180, side);
      expect(first.pressedMm).toBeGreaterThan(REACH_MM);
    }
  });

  it("an axis with a digit is written as the control wants it, and never as another axis", () => {
    const others = ["X", "Y", "Z"];
    expect(wordError("X", "X", others)).toBe("");
    expect(wordError("X", "Y", others)).toContain("writes axis X as X");
    for (const word of ["Z2=", "U", "W", "C"]) expect(wordError("Z2", word, others)).toBe("");
    for (const word of ["Z", "Z2", "F", "G", "M", "X", "Z3=", ""])
      expect(wordError("Z2", word, others)).toContain("say how the control writes axis Z2");
    const text = gcodeProgram(plan(), options({ letter: "Z2=" }));
    const moves = text.match(/^G[01] .*/gm) ?? [];
    const own = moves.filter((m) => m.includes("Z2="));
    expect(own.length).toBeGreaterThan(20);
    for (const m of own) expect(m).toMatch(/^G[01] Z2=-?\d+\.\d{3}( F\d+)? \(/);
    // What is left moves the axis that lifts, and nothing else.
    for (const m of moves.filter((x) => !x.includes("Z2="))) expect(m).toMatch(/^G[01] Z-?\d/);
  });

  it("an axis that lifts is not sent past its travel", () => {
    for (const [clearMm, readMm] of [
      [-9999, 5],
      [20, 401],
    ])
      expect(() =>
        gcodeProgram(
          plan(),
          options({
            lift: { way: "axis", letter: "Z", travelMm: 400, clearMm, readMm },
          }),
        ),
      ).toThrow("from -400 to 400, the travel of Z");
  });
});
