import { defaultAxis, defaultHandTest, handTestResult, handTestSteps, type HandTestKind } from "@iron/core";
import type { HandTest } from "@iron/contract";
import { nextHandTestStep, handTestAsResult, handTestRows, handTestSays, handTestValues } from "./hand-test.view";
import { handTestChart, handTestDrawn } from "./hand-test-chart";

const config = defaultAxis("bench-mill", "Z");
const ink = {
  ink: "#000",
  graphite: "#555",
  rule: "#ccc",
  sheet: "#fff",
  blue: "#00f",
  copper: "#a50",
  brass: "#860",
  oxide: "#900",
};
const handTest = (kind: HandTestKind, values: readonly (number | null)[]): HandTest => ({
  id: 1,
  axisId: 2,
  plan: defaultHandTest(config, kind),
  state: "running",
  startedAt: "2026-03-03T07:40:00Z",
  by: "Ilse",
  points: values.map((value, step) => ({
    step,
    value,
    source: "typed" as const,
    at: "2026-03-03T07:41:00Z",
    by: "Ilse",
  })),
});

function says(kind: HandTestKind, of: (at: number, group: string) => number) {
  // The span of a sweep is asked, never guessed.
  const plan = {
    ...defaultHandTest(config, kind),
    ...(kind === "tram" ? { spanMm: 300 } : {}),
  };
  const values = handTestSteps(plan).map((s) => of(s.at, s.group));
  const result = handTestResult(config, plan, { values });
  if (!result) throw new Error("no result");
  return {
    words: handTestSays(result, { config, system: "metric" }).join(" "),
    kept: handTestAsResult(handTest(kind, values), result),
  };
}

describe("a row of readings as it is shown", () => {
  it("the last reading of a step counts, a null takes it back", () => {
    const s = handTest("home-repeat", [0.001, 0.002, null]);
    expect(handTestValues(s).slice(0, 3)).toEqual([0.001, 0.002, null]);
    expect(nextHandTestStep(s)?.index).toBe(2);
    const rows = handTestRows(s, "metric");
    expect(rows[0]).toEqual({ step: 0, what: "homing 1", value: "+1.0 µm", needless: false, now: false });
    expect(rows[2].now).toBe(true);
    expect(handTestRows(s, "inch")[1].value).toBe("+0.79 tenths");
  });

  it("a sloping screw is out of line, kept in the case as such", () => {
    const { words, kept } = says("crest-run", (at, group) => (group === "0°" ? 4e-4 * at : 0));
    expect(words).toMatch(/^Out of line: .* at 0° over the screw/);
    expect(kept?.answers).toEqual({ "crest-slope": true, "crest-turn": false });
    expect(kept?.data?.kind).toBe("crest-run");
    expect(says("crest-run", () => 0.001).kept?.answers["crest-slope"]).toBe(false);
  });

  it("says the knee of a gib, or that there is none yet", () => {
    expect(
      says("gib-curve", (at, group) =>
        group === "rock" ? 0.004 + 0.02 * Math.max(0, 1.2 - at) : 5 + 14 * Math.max(0, at - 1.5),
      ).words,
    ).toMatch(/begins to climb at 1\.5.* Rock falls no further from 1\.2.* Free and firm/);
    const flat = says("gib-curve", (at) => 5 + 0.01 * ((at * 4) % 3));
    expect(flat.words).toContain("No knee of friction yet");
    expect(flat.kept).toBeNull();
  });

  it("tells a turn’s jump of home from scatter, and square from not", () => {
    const jump = says("home-repeat", (at) => (at % 2 ? 0 : config.screw.leadMm));
    expect(jump.words).toContain("jumps by a whole turn");
    expect(jump.kept?.answers).toEqual({ "home-varies": false, "home-turn": true });
    expect(says("tram", (_, g) => (g === "right" ? 0.09 : 0)).kept?.answers).toEqual({ "tram-off": true });
    expect(says("tram", () => 0).words).toContain("Square within");
  });

  it("a test told in words shows its words, and says what it leaves open", () => {
    const told = handTest("coast", [1, 2, null]);
    expect(
      handTestRows(told, "metric")
        .slice(0, 3)
        .map((r) => `${r.what}: ${r.value}`),
    ).toEqual(["forwards 1: spins a little, then rests", "forwards 2: runs on by itself", "forwards 3: "]);
    const { kept } = says("coast", () => 2);
    expect(kept).toMatchObject({
      test: "coast",
      answers: { "coasts-free": true },
      data: { kind: "series", seriesId: 1 },
    });
    expect(says("coast", (at) => at % 3).kept?.answers).toEqual({});
  });

  it("draws crests as discs and diamonds, a gib curve with its knee, nothing for the rest", () => {
    const crest = handTest("crest-run", [0, 0.01, 0.02]);
    expect(handTestChart(crest, { result: null, system: "metric", ink }).data.datasets).toHaveLength(2);
    expect(handTestDrawn(handTest("tram", [0]).plan)).toBe(false);
    const gib = handTest("gib-curve", [5, 0.02]);
    expect(gib.plan.gib).toBe("friction-rock");
    const both = handTestChart(gib, { result: null, system: "metric", ink });
    expect(both.data.datasets.map((d) => d.label)).toEqual(["friction", "rock"]);
    // Load in % at the left, rock in µm at the right.
    expect(both.data.datasets[1].data).toEqual([{ x: 0, y: 20 }]);
    expect(Object.keys(both.options?.scales ?? {})).toEqual(["x", "y", "y2"]);
  });
});
