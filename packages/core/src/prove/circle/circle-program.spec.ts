import { parseLine } from "gcode-parser";
import { defaultAxis } from "../../machine/axis";
import { circleProgram, type CircleProgram } from "./circle-program";
import { usualCircles } from "./usual-circle";

const asked = (over: Partial<CircleProgram> = {}): CircleProgram => ({
  axes: [
    { letter: "X", travelMm: 500, rapidMmMin: 20_000 },
    { letter: "Y", travelMm: 400, rapidMmMin: 20_000 },
  ],
  centreMm: [250, 200],
  radiusMm: 150,
  feedMmMin: 1000,
  startDeg: 0,
  spanDeg: 360,
  overrunDeg: 45,
  leadMm: 1.5,
  first: 1,
  dwellS: 2,
  dwellWord: "P-seconds",
  system: "metric",
  title: "Circle",
  ...over,
});

interface Arc {
  /** Radius where it begins and where it ends, mm. */
  readonly radii: readonly [number, number];
  /** Degrees from the first axis towards the second. */
  readonly swept: number;
  readonly feed: number;
}

/** Walks a program with an independent parser (gcode-parser): its arcs, and every place on the way, mm. */
function walk(text: string, [a, b]: readonly [string, string], [i, j]: readonly [string, string]) {
  let unit = NaN;
  let at: readonly [number, number] | null = null;
  const arcs: Arc[] = [];
  const path: (readonly [number, number])[] = [];
  for (const line of text.split("\n")) {
    const words = new Map(parseLine(line).words);
    const g = words.get("G");
    if (g === 21) unit = 1;
    if (g === 20) unit = 25.4;
    if (g === undefined || g > 3) continue;
    expect(g).not.toBe(0);
    const mm = (word: string): number => unit * (words.get(word) ?? NaN);
    const to = [mm(a), mm(b)] as const;
    if (g >= 2 && at) {
      const centre = [at[0] + mm(i), at[1] + mm(j)] as const;
      const [from, end] = [at, to].map(([x, y]) => Math.atan2(y - centre[1], x - centre[0]));
      const turn = ((end - from) * 180) / Math.PI;
      // Counterclockwise seen from the third axis is G3.
      const swept = g === 3 ? (turn + 360) % 360 : -((360 - turn) % 360);
      arcs.push({
        radii: [Math.hypot(at[0] - centre[0], at[1] - centre[1]), Math.hypot(to[0] - centre[0], to[1] - centre[1])],
        swept,
        feed: mm("F"),
      });
      for (let k = 1; k <= 40; k += 1) {
        const angle = from + ((swept * Math.PI) / 180) * (k / 40);
        const r = arcs[arcs.length - 1].radii[0];
        path.push([centre[0] + r * Math.cos(angle), centre[1] + r * Math.sin(angle)]);
      }
    }
    at = to;
    path.push(to);
  }
  return { arcs, path };
}

describe("circleProgram, walked with an independent parser", () => {
  const XY = [
    ["X", "Y"],
    ["I", "J"],
  ] as const;

  it.each([
    ["full circle, mm", asked(), 0.0008],
    ["full circle, inch", asked({ system: "inch", radiusMm: 100 }), 0.0019],
    [
      "half a circle from below, clockwise first",
      asked({ startDeg: 0, spanDeg: 180, overrunDeg: 20, first: -1 }),
      0.0008,
    ],
  ] as const)("goes round both ways at one radius and one feed, and never leaves the travel: %s", (_, plan, grain) => {
    const { arcs, path } = walk(circleProgram(plan), ...XY);
    for (const { radii, feed } of arcs) {
      for (const r of radii) expect(Math.abs(r - plan.radiusMm)).toBeLessThan(grain);
      expect(feed).toBeCloseTo(plan.feedMmMin, 1);
    }
    const sum = (all: readonly Arc[]): number => all.reduce((s, one) => s + one.swept, 0);
    const whole = plan.spanDeg + 2 * plan.overrunDeg;
    const [forth, back] = [arcs.filter((one) => one.swept > 0), arcs.filter((one) => one.swept < 0)];
    expect(sum(forth)).toBeCloseTo(whole, 2);
    expect(sum(back)).toBeCloseTo(-whole, 2);
    expect(arcs[0].swept > 0).toBe(plan.first === 1);
    expect(Math.max(...arcs.map((one) => Math.abs(one.swept)))).toBeLessThanOrEqual(90.01);
    for (const [x, y] of path) {
      expect(x).toBeGreaterThanOrEqual(-grain);
      expect(x).toBeLessThanOrEqual(plan.axes[0].travelMm + grain);
      expect(y).toBeGreaterThanOrEqual(-grain);
      expect(y).toBeLessThanOrEqual(plan.axes[1].travelMm + grain);
    }
    // The run in begins outside, never inside, where the bar would be pressed home.
    const far = path.map(([x, y]) => Math.hypot(x - plan.centreMm[0], y - plan.centreMm[1]));
    expect(Math.max(...far)).toBeCloseTo(plan.radiusMm + plan.leadMm, 2);
    expect(Math.min(...far)).toBeGreaterThan(plan.radiusMm - grain);
  });

  it("the vertical planes have their own words: Z to X by G18 with K and I", () => {
    const [x] = asked().axes;
    const zx = asked({ axes: [{ letter: "Z", travelMm: 400, rapidMmMin: 15_000 }, x], centreMm: [200, 250] });
    const text = circleProgram(zx);
    expect(text).toContain("G18");
    const { arcs } = walk(text, ["Z", "X"], ["K", "I"]);
    for (const { radii } of arcs) for (const r of radii) expect(r).toBeCloseTo(150, 2);
    const turned = (): string =>
      circleProgram(asked({ axes: [x, { letter: "Z", travelMm: 400, rapidMmMin: 15_000 }] }));
    expect(turned).toThrow("of X and Y, Z and X, or Y and Z");
  });

  it("stops before hands are needed, moves nothing at rapid, and its comments cannot break out", () => {
    const text = circleProgram(asked({ title: "a) G0 X999 (\nM99" }));
    expect(text).toContain("\n(a  G0 X999   M99)\n");
    expect(text.match(/^M0 /gm)).toHaveLength(5);
    expect(text).not.toMatch(/^G0\b/m);
    expect(text.startsWith("%\n")).toBe(true);
    expect(text.endsWith("M30\n%\n")).toBe(true);
    // Begin and end, and none between: a control would stop reading there.
    expect(text.match(/%/g)).toHaveLength(2);
  });

  it.each([
    [{ centreMm: [140, 200] as const }, "lowest place of X is -10"],
    [
      { centreMm: [250, 260] as const },
      "highest place of Y is 410: it must be within the travel of Y, from 0 to 400 mm",
    ],
    [{ radiusMm: 5 }, "radius is 5: it must be from 10 to 600 mm"],
    [{ feedMmMin: 30_000 }, "feed is 30000: it must be from 1 up to the rapid feed of 20000 mm/min"],
    [{ spanDeg: 30 }, "degrees of data is 30"],
    [{ overrunDeg: 200 }, "degrees of overrun is 200"],
    [{ leadMm: 0 }, "run in is 0"],
    [{ dwellS: 0 }, "dwell is 0"],
  ])("refuses %j by name", (over, says) => {
    expect(() => circleProgram(asked(over as Partial<CircleProgram>))).toThrow(says);
  });

  it("an arc needs room only where it goes: half a circle stands at the edge of the travel", () => {
    const edge = asked({ centreMm: [250, 20], startDeg: 0, spanDeg: 180, overrunDeg: 5 });
    expect(() => circleProgram(edge)).not.toThrow();
    expect(() => circleProgram({ ...edge, spanDeg: 360 })).toThrow("lowest place of Y is -130");
  });

  it("in inches begins with round inches, and still leaves the travel free", () => {
    const axes = ["X", "Y", "Z"].map((letter) => ({ ...defaultAxis("vertical-centre", letter), travelMm: 762 }));
    for (const plan of usualCircles(axes, "inch")) {
      const inches = [...plan.centreMm, plan.radiusMm, plan.feedMmMin].map((mm) => mm / 25.4);
      expect(inches.slice(0, 2)).toEqual([15, 15]);
      expect(inches.slice(2).map((v) => Number(v.toFixed(9)))).toEqual([6, 40]);
    }
    for (const travelMm of [60, 97, 133, 311, 508, 777])
      for (const system of ["metric", "inch"] as const)
        for (const plan of usualCircles(
          axes.map((a) => ({ ...a, travelMm })),
          system,
        ))
          for (const centre of plan.centreMm) {
            const most = plan.radiusMm + plan.leadMm;
            expect(centre - most).toBeGreaterThanOrEqual(5 - 1e-9);
            expect(centre + most).toBeLessThanOrEqual(travelMm - 5 + 1e-9);
          }
  });
});
