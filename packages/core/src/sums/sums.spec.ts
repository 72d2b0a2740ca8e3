import * as fc from "fast-check";
import { defaultAxis } from "../axis";
import { formatQuantity, fromShown, QUANTITY_KINDS, toShown } from "../quantity"; // prettier-ignore
import { fieldWrong, startValues, sumById, SUMS } from "./index";

const axis = defaultAxis("vertical-centre", "X");
const line = (id: string, label: string, values: Record<string, number> = {}): number => {
  const sum = sumById(id);
  if (!sum) throw new Error(`no sum ${id}`);
  const answer = sum.compute({ ...startValues(sum, null), ...values }, "metric");
  const found = answer.lines.find((l) => l.label === label);
  if (!found) throw new Error(`no line ${label}`);
  return found.value;
}; // prettier-ignore

describe("sums", () => {
  it.each(SUMS.map((s) => [s.id, s] as const))(
    "%s: answers from its own start values, with source and words",
    (_, sum) => {
      for (const values of [startValues(sum, null), startValues(sum, axis)]) {
        for (const field of sum.fields)
        expect([field.id, fieldWrong(field, values[field.id], String)]).toEqual([field.id, ""]); // prettier-ignore
        const answer = sum.compute(values, "metric");
        expect(answer.lines.length).toBeGreaterThan(0);
        expect(answer.says[0].length).toBeGreaterThan(5);
        for (const l of answer.lines)
          expect(Number.isFinite(l.value)).toBe(true);
        for (const p of answer.curve?.points ?? []) expect(Number.isFinite(p.y)).toBe(true); // prettier-ignore
      }
      expect(sum.source.length).toBeGreaterThan(5);
      expect(sum.formula.length).toBeGreaterThan(5);
    },
  );

  it("every quantity survives the way to the shown unit and back, in both systems", () => {
    fc.assert(fc.property(fc.constantFrom(...QUANTITY_KINDS), fc.constantFrom("metric" as const, "inch" as const), fc.double({ min: -1e6, max: 1e6, noNaN: true }), (kind, system, value) => {
      expect(fromShown(kind, toShown(kind, value, system), system)).toBeCloseTo(value, 6);
    })); // prettier-ignore
    // 1 N·m is 0.7376 lbf·ft, 1 lbf is 4.4482 N, 5 K is 9 °F (NIST SP 811, from memory).
    expect(toShown("torque", 1, "inch")).toBeCloseTo(0.7376, 4);
    expect(fromShown("force", 1, "inch")).toBeCloseTo(4.4482, 4);
    expect(toShown("temperature-step", 5, "inch")).toBeCloseTo(9, 9);
    expect(formatQuantity("torque", 9.491, "inch")).toBe("7.00 lbf·ft");
  });

  it("the same answer whichever units the inputs were typed in", () => {
    for (const sum of SUMS) {
      const start = startValues(sum, null);
      const typed = Object.fromEntries(sum.fields.map((f) => [f.id, fromShown(f.quantity, toShown(f.quantity, start[f.id], "inch"), "inch")])); // prettier-ignore
      const [a, b] = [sum.compute(start, "metric"), sum.compute(typed, "inch")];
      a.lines.forEach((l, i) => expect(Math.abs(b.lines[i].value - l.value)).toBeLessThanOrEqual(1e-9 + 1e-6 * Math.abs(l.value))); // prettier-ignore
    }
  });

  it("carries the worked examples of catalogues and practice", () => {
    // Torque example of ball-screw catalogues, 58.5 µm growth, tram 0.001 in / 6 in (common practice).
    expect(line("torque", "Torque to drive it")).toBeCloseTo(8.84, 2);
    expect(line("growth", "Growth")).toBeCloseTo(0.0585, 9);
    expect(line("tram", "Over 300 mm, across", { right: 0.0254, span: 152.4 })).toBeCloseTo(0.05, 9); // prettier-ignore
    expect(line("home-marker", "Fraction of a turn")).toBeCloseTo(0.93, 9);
    expect(line("grease", "Fill")).toBeCloseTo(4.65, 9);
  });

  it("short slow screws may stay free at one end, long fast ones not", () => {
    const says = (over: Record<string, number>): string => {
      const sum = sumById("critical-speed");
      return sum ? sum.compute({ ...startValues(sum, null), ...over }, "metric").says.join(" ") : ""; // prettier-ignore
    };
    expect(says({ free: 300, rapid: 5000 })).toContain("may stay unsupported");
    expect(says({ free: 1500, rapid: 20_000 })).toContain("may not stay unsupported"); // prettier-ignore
  });

  it("names value and bound of what cannot be", () => {
    const sum = sumById("critical-speed");
    const field = sum?.fields[0];
    if (!field) throw new Error("no field");
    expect(fieldWrong(field, 0, (v) => formatQuantity("length", v, "metric"))).toBe("Root diameter 0.000 mm cannot be: it is above 0.000 mm and up to 200.000 mm."); // prettier-ignore
    expect(fieldWrong(field, NaN, String)).toBe("Root diameter must be a number."); // prettier-ignore
  });
});
