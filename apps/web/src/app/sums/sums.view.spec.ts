import { startValues, sumById, SUMS, type Sum } from "@iron/core";
import { bearingDrawing, sumDrawing } from "./drawings";
import { answerOf, readInputs, shownField, sumChart, sumGroups, unitText } from "./sums.view";

const critical = sumById("critical-speed") as Sum;
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

describe("sums as they are shown", () => {
  it("are found by name, question or group", () => {
    expect(sumGroups("").flatMap((g) => g.sums)).toHaveLength(SUMS.length);
    expect(sumGroups("whirl").flatMap((g) => g.sums.map((s) => s.id))).toEqual(["critical-speed"]);
    expect(sumGroups("nothing like it")).toEqual([]);
  });

  it("read what was typed in the reader’s units; the rest keeps its value", () => {
    const base = startValues(critical, null);
    const { values, errors } = readInputs(critical, { base, typed: { free: "30", ends: "3" }, system: "inch" });
    expect(errors).toEqual({});
    expect(values["free"]).toBeCloseTo(762, 9);
    expect(values["ends"]).toBe(3);
    expect(values["root"]).toBe(base["root"]);
  });

  it("say what cannot be with value and bound, and give no answer then", () => {
    const base = startValues(critical, null);
    const inputs = readInputs(critical, { base, typed: { free: "0", root: "abc" }, system: "metric" });
    expect(inputs.errors["free"]).toBe("Free length 0 mm cannot be: it is above 0 mm and up to 30000 mm.");
    expect(inputs.errors["root"]).toBe("“abc” is not a number.");
    expect(answerOf(critical, inputs, "metric")).toEqual({
      answer: null,
      error: "One of the values cannot be: see beside it.",
    });
    const spacer = sumById("make-up") as Sum;
    const shallow = readInputs(spacer, { base: startValues(spacer, null), typed: { depth: "20" }, system: "metric" });
    expect(answerOf(spacer, shallow, "metric").error).toContain("seat depth is 20: it must be more than");
  });

  it("show values with few digits and units that fit the system", () => {
    expect(shownField("length", 25.4, "inch")).toBe("1");
    expect(unitText("torque", "inch")).toBe(", lbf·ft");
    expect(unitText("number", "metric")).toBe("");
  });

  it("draw the present curve solid, the proposed one dashed, with the place that matters", () => {
    const sum = sumById("preload") as Sum;
    const curve = sum.compute(startValues(sum, null), "metric").curve;
    if (!curve) throw new Error("no curve");
    const chart = sumChart([curve, curve], "metric", ink);
    expect(chart.data.datasets.map((d) => d.label)).toEqual(["present", "proposed"]);
    expect(JSON.stringify(chart.options)).toContain("far side slack");
  });

  it("draw every arrangement with a row for each bearing, and every sum with something", () => {
    expect(bearingDrawing(0).dashed).toHaveLength(2);
    expect(bearingDrawing(5).dashed).toHaveLength(4);
    // Back to back and face to face lean opposite ways.
    expect(bearingDrawing(0).dashed).not.toEqual(bearingDrawing(1).dashed);
    for (const sum of SUMS) expect(sumDrawing(sum.drawing, { set: 0 }).paths.length).toBeGreaterThan(1);
  });
});
