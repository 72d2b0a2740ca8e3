import { defaultAxis } from "../../machine/axis";
import { gibKnee } from "../../sums/preload";
import { axisFromParts, simulateHandTestReading, type PartsCondition } from "../../simulate";
import {
  defaultHandTest,
  firmKnee,
  gibChoice,
  GIB_MODES,
  handTestInstruction,
  handTestOpen,
  handTestResult,
  handTestSteps,
  type GibMode,
} from "./index";

const config = defaultAxis("bench-mill", "X");
const thread = { pitchMm: 1.5, taper: 1 / 60 };

/** Reads as a person does: the next step that is still needed, until none is. */
function set(gib: GibMode, parts: PartsCondition) {
  const plan = { ...defaultHandTest(config, "gib-curve"), gib };
  const axis = axisFromParts(config, parts, 1);
  let i = 0;
  const normal = (): number => [0.3, -0.6, 0.2, 0.7, -0.4][(i += 1) % 5];
  const values: (number | null)[] = handTestSteps(plan).map(() => null);
  let taken = 0;
  for (let next = handTestOpen(plan, values).at(0); next; next = handTestOpen(plan, values).at(0)) {
    values[next.index] = simulateHandTestReading(config, { axis, plan, step: next, normal });
    taken += 1;
  }
  const result = handTestResult(config, plan, { values });
  if (result?.kind !== "gib-curve") throw new Error("no result");
  return { taken, of: values.length, gib: result.gib, choice: gibChoice(result.gib, { thread, system: "metric" }) };
}

describe("gib setting by its methods", () => {
  it.each(GIB_MODES)("%s: ends by itself and sets a sound gib near its knee", (mode) => {
    const { choice, taken, of } = set(mode, {});
    expect(taken).toBeLessThanOrEqual(of);
    // The simulated gib begins to drag at 1.6 turns and its rock is gone at 1.45.
    expect(choice.setTurns).toBeGreaterThan(1.3);
    expect(choice.setTurns).toBeLessThan(1.75);
  });

  it("stops asking when the climb is plain, and once it seized and came free", () => {
    expect(set("friction-rock", {}).taken).toBeLessThan(26);
    const seize = set("seize", {});
    expect(seize.taken).toBeLessThan(seize.of - 6);
    expect(seize.gib.seize?.seizedTurns).toBeGreaterThan(2);
    expect(seize.gib.seize?.freeTurns).toBe(1.5);
  });

  it("knows when no setting is both free and firm", () => {
    const { gib } = set("friction-rock", {});
    const { knee, firm } = gib;
    if (!knee || !firm) throw new Error("both are read");
    expect(gibChoice(gib, { thread, system: "metric" }).both).toBe(true);
    const worn = { ...gib, firm: { ...firm, kneeTurns: 2.4, betweenTurns: [2.3, 2.5] as const } };
    const choice = gibChoice(worn, { thread, system: "metric" });
    expect(choice.both).toBe(false);
    expect(choice.says.join(" ")).toContain("drags before the rock is gone");
    expect(choice.setTurns).toBe(knee.kneeTurns);
  });

  it("sets back by 5 µm of clearance: pitch 1.5 mm at 1 in 60 is 0.2 turns, by hand", () => {
    const { gib } = set("friction", {});
    expect((gib.knee?.kneeTurns ?? 0) - (gibChoice(gib, { thread, system: "metric" }).setTurns ?? 0)).toBeCloseTo(
      0.2,
      9,
    );
  });

  it("finds a fall that was put in", () => {
    const fall = Array.from({ length: 12 }, (_, i) => ({
      turns: i * 0.25,
      friction: 0.003 + 0.02 * Math.max(0, 1.3 - i * 0.25),
    }));
    const knee = firmKnee(fall);
    expect(knee.kneeTurns).toBeCloseTo(1.3, 1);
    expect(knee.floor).toBeCloseTo(0.003, 4);
    expect(knee.betweenTurns[0]).toBeLessThanOrEqual(knee.betweenTurns[1]);
  });

  it("has no setting while rock still falls, or friction climbs from the first one", () => {
    const at = (f: (t: number) => number) =>
      Array.from({ length: 9 }, (_, i) => ({
        turns: i * 0.25,
        friction: f(i * 0.25) + 0.0002 * ((i * 7) % 3),
      }));
    const falling = gibChoice(
      {
        method: "rock",
        knee: null,
        firm: firmKnee(at((t) => 0.06 - 0.02 * t)),
        seize: null,
      },
      { thread, system: "metric" },
    );
    expect(falling.setTurns).toBeNull();
    expect(falling.says.join(" ")).toContain("still falls at the last setting");
    const climbing = gibChoice(
      {
        method: "friction",
        knee: gibKnee(at((t) => 8 + 14 * t)),
        firm: null,
        seize: null,
      },
      { thread, system: "metric" },
    );
    expect(climbing.setTurns).toBeNull();
    expect(climbing.says.join(" ")).toContain("begin looser");
  });

  it("says so when rock does not change with the gib", () => {
    const flat = Array.from({ length: 8 }, (_, i) => ({ turns: i * 0.25, friction: 0.03 + (i % 2) * 0.001 }));
    const choice = gibChoice(
      { method: "rock", knee: null, firm: firmKnee(flat), seize: null },
      { thread, system: "metric" },
    );
    expect(choice.setTurns).toBeNull();
    expect(choice.says.join(" ")).toContain("comes from elsewhere");
  });

  it("has words for each step of each method", () => {
    for (const gib of GIB_MODES) {
      const plan = { ...defaultHandTest(config, "gib-curve"), gib };
      for (const step of handTestSteps(plan)) expect(handTestInstruction(plan, step, "inch")).toMatch(/turns in/);
    }
  });
});
