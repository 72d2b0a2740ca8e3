import * as fc from "fast-check";
import { defaultAxis } from "../machine/axis";
import { formatQuantity, fromShown, QUANTITY_KINDS, toShown } from "../quantity";
import { fieldError, startValues, sumById, SUMS, type Sum } from "./index";

const axis = defaultAxis("vertical-centre", "X");
/** What a sum begins with, and something typed where it asks. */
const filled = (sum: Sum, of: typeof axis | null = null): Record<string, number> => ({
  ...startValues(sum, of),
  ...Object.fromEntries(sum.fields.filter((f) => f.asked).map((f) => [f.id, f.quantity === "length" ? 250 : 0.012])),
});
const line = (id: string, label: string, values: Record<string, number> = {}): number => {
  const sum = sumById(id);
  if (!sum) throw new Error(`no sum ${id}`);
  const answer = sum.compute({ ...filled(sum), ...values }, "metric");
  const found = answer.lines.find((l) => l.label === label);
  if (!found) throw new Error(`no line ${label}`);
  return found.value;
};

describe("sums", () => {
  it.each(SUMS.map((s) => [s.id, s] as const))(
    "%s: answers from its own start values, with source and words",
    (_, sum) => {
      for (const values of [filled(sum), filled(sum, axis)]) {
        for (const field of sum.fields)
          expect([field.id, fieldError(field, values[field.id], String)]).toEqual([field.id, ""]);
        const answer = sum.compute(values, "metric");
        expect(answer.lines.length).toBeGreaterThan(0);
        expect(answer.says[0].length).toBeGreaterThan(5);
        for (const l of answer.lines) expect(Number.isFinite(l.value)).toBe(true);
        for (const p of answer.curve?.points ?? []) expect(Number.isFinite(p.y)).toBe(true);
      }
      expect(sum.source.length).toBeGreaterThan(5);
      expect(sum.formula.length).toBeGreaterThan(5);
    },
  );

  it("every quantity survives the way to the shown unit and back, in both systems", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...QUANTITY_KINDS),
        fc.constantFrom("metric" as const, "inch" as const),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        (kind, system, value) => {
          expect(fromShown(kind, toShown(kind, value, system), system)).toBeCloseTo(value, 6);
        },
      ),
    );
    // 1 N·m is 0.7376 lbf·ft, 1 lbf is 4.4482 N, 5 K is 9 °F (NIST SP 811, from memory).
    expect(toShown("torque", 1, "inch")).toBeCloseTo(0.7376, 4);
    expect(fromShown("force", 1, "inch")).toBeCloseTo(4.4482, 4);
    expect(toShown("temperature-step", 5, "inch")).toBeCloseTo(9, 9);
    expect(formatQuantity("torque", 9.491, "inch")).toBe("7.00 lbf·ft");
  });

  it("the same answer whichever units the inputs were typed in", () => {
    for (const sum of SUMS) {
      const start = filled(sum);
      const typed = Object.fromEntries(
        sum.fields.map((f) => [f.id, fromShown(f.quantity, toShown(f.quantity, start[f.id], "inch"), "inch")]),
      );
      const [a, b] = [sum.compute(start, "metric"), sum.compute(typed, "inch")];
      a.lines.forEach((l, i) =>
        expect(Math.abs(b.lines[i].value - l.value)).toBeLessThanOrEqual(1e-9 + 1e-6 * Math.abs(l.value)),
      );
    }
  });

  it("carries the worked examples of catalogues and practice", () => {
    // Torque example of ball-screw catalogues, 58.5 µm growth, tram 0.001 in / 6 in (common practice).
    expect(line("torque", "Torque to drive it")).toBeCloseTo(8.84, 2);
    expect(line("growth", "Growth")).toBeCloseTo(0.0585, 9);
    expect(line("tram", "Over 300 mm, across", { left: 0, right: 0.0254, span: 152.4 })).toBeCloseTo(0.05, 9);
    expect(line("home-marker", "Fraction of a turn")).toBeCloseTo(0.93, 9);
    expect(line("grease", "Fill")).toBeCloseTo(4.65, 9);
  });

  it("what is measured begins empty, so that no invented reading is an axis’ own", () => {
    for (const id of ["screw-line", "tram", "spacer"])
      expect([id, sumById(id)?.fields.some((f) => f.asked)]).toEqual([id, true]);
  });

  it("stiffness says what screw, bearings and nut each give, and together they are the whole", () => {
    const part = (label: string): number => line("stiffness", label);
    expect(part("Of it the screw") + part("Of it the bearings") + part("Of it the nut")).toBeCloseTo(
      part("Wind-up at reversal there"),
      12,
    );
    const sum = sumById("stiffness");
    const says = sum?.compute(startValues(sum, null), "metric").says.join(" ");
    expect(says).not.toContain("no bearing or nut");
    expect(says).toContain("Stiffer bearings or a nut with more preload");
  });

  it("a home switch too near is shifted with a direction, and a spacer by its arrangement", () => {
    const says = (id: string, over: Record<string, number>, system: "metric" | "inch" = "metric"): string => {
      const sum = sumById(id);
      return sum ? sum.compute({ ...filled(sum), ...over }, system).says.join(" ") : "";
    };
    expect(says("home-marker", { distance: 9.3, turn: 10 })).toContain("4.300 mm later in the search");
    expect(says("home-marker", { distance: 0.5, turn: 10 })).toContain("4.500 mm earlier in the search");
    expect(says("spacer", { set: 0, gap: 0.01, want: 0.02 })).toContain("Grind the inner spacer");
    expect(says("spacer", { set: 1, gap: 0.01, want: 0.02 })).toContain("Grind the outer spacer");
    expect(says("spacer", { set: 1, gap: 0.01, want: 0.02 }, "inch")).toContain("does not come back");
  });

  it("short slow screws may stay free at one end, long fast ones not", () => {
    const says = (over: Record<string, number>): string => {
      const sum = sumById("critical-speed");
      return sum ? sum.compute({ ...startValues(sum, null), ...over }, "metric").says.join(" ") : "";
    };
    expect(says({ free: 300, rapid: 5000 })).toContain("may stay unsupported");
    expect(says({ free: 1500, rapid: 20_000 })).toContain("may not stay unsupported");
  });

  it("names value and bound of what cannot be", () => {
    const sum = sumById("critical-speed");
    const field = sum?.fields[0];
    if (!field) throw new Error("no field");
    expect(fieldError(field, 0, (v) => formatQuantity("length", v, "metric"))).toBe(
      "Root diameter 0.000 mm cannot be: it is above 0.000 mm and up to 200.000 mm.",
    );
    expect(fieldError(field, NaN, String)).toBe("Root diameter must be a number.");
  });
});
