import { defaultAxis } from "../../machine/axis";
import { axisFromParts, simulateHandTestReading } from "../../simulate";
import {
  checkHandTest,
  defaultHandTest,
  SETTING_KINDS,
  handTestInstruction,
  handTestRefusal,
  handTestResult,
  handTestSteps,
  type HandTestKind,
} from "./index";

const config = defaultAxis("bench-mill", "Z");
const still = (): number => 0;

function readAll(kind: HandTestKind, parts: Parameters<typeof axisFromParts>[1]) {
  const plan = { ...defaultHandTest(config, kind), spanMm: 300, depthMm: 300 };
  const axis = axisFromParts(config, parts, 1);
  const values = handTestSteps(plan).map((s) =>
    simulateHandTestReading(config, { axis, plan, step: s, normal: still }),
  );
  return handTestResult(config, plan, { values });
}

describe("series of readings", () => {
  it.each(SETTING_KINDS)("%s: a plan that passes its own check, a word for each step", (kind) => {
    const plan = { ...defaultHandTest(config, kind), spanMm: 300 };
    expect(handTestRefusal(config, kind)).toBe("");
    expect(() => checkHandTest(plan, config)).not.toThrow();
    for (const step of handTestSteps(plan)) expect(handTestInstruction(plan, step, "inch").length).toBeGreaterThan(20);
    expect(handTestResult(config, plan, { values: [] })).toBeNull();
  });

  it("a screw out of line is found so, a straight one not", () => {
    const out = readAll("crest-run", { misalignN: 300 });
    expect(out?.kind === "crest-run" && out.alignment.planes[0].slopeMmPerM).toBeCloseTo(0.21, 2);
    const straight = readAll("crest-run", {});
    expect(straight?.kind === "crest-run" && straight.alignment.planes.every((p) => p.code === "within")).toBe(true);
  });

  it("a gib that was tight bites sooner than a loose one", () => {
    const tight = readAll("gib-curve", { gibTightN: 300 });
    const loose = readAll("gib-curve", { wayGapMm: 0.05 });
    if (tight?.kind !== "gib-curve" || loose?.kind !== "gib-curve") throw new Error("no curve");
    expect(tight.gib.knee?.kneeTurns).toBeLessThan((loose.gib.knee?.kneeTurns ?? 0) - 0.5);
  });

  it("a marker too near jumps a turn, a head out of square shows its slope", () => {
    const home = readAll("home-repeat", { markerNear: 1 });
    expect(home?.kind === "home-repeat" && home.home.jumps).toBe(1);
    const out = readAll("tram", { tramMm: 0.09 });
    expect(out?.kind === "tram" && out.tram.code).toBe("out");
  });

  it("refuses what an axis does not have, and plans out of bounds by name", () => {
    expect(handTestRefusal(defaultAxis("router", "X"), "crest-run")).toContain("no turning screw");
    expect(handTestRefusal(defaultAxis("vertical-centre", "X"), "gib-curve")).toContain("no gib");
    expect(() =>
      checkHandTest({ ...defaultHandTest(config, "crest-run"), places: [0, 1, 2, 3, 9999] }, config),
    ).toThrow("place is 9999");
    expect(() => checkHandTest({ ...defaultHandTest(config, "home-repeat"), repeats: 2 }, config)).toThrow(
      "homings is 2",
    );
    expect(() => checkHandTest({ ...defaultHandTest(config, "tram"), spanMm: 5 }, config)).toThrow("span is 5");
    // Nobody can guess a span: it is asked, not taken as 300 mm.
    const unasked = defaultHandTest(config, "tram");
    expect(() => checkHandTest(unasked, config)).toThrow("span is 0");
  });
});
