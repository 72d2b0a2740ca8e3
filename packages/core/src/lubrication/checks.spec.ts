import { linearRegression } from "simple-statistics";
import { checkFigure, checkTrend, parseCheck } from "./checks";

describe("a check as it is written", () => {
  it("has a name, perhaps a unit with bounds, and a word for when somebody has to act", () => {
    expect(parseCheck("brush length [mm, at least 6]: worn to the mark")).toEqual({
      name: "brush length",
      unit: "mm",
      least: 6,
      most: null,
      act: "worn to the mark",
    });
    expect(parseCheck("regulator [bar, 5.5 to 6.5]")).toMatchObject({ unit: "bar", least: 5.5, most: 6.5, act: "" });
    expect(parseCheck("noise [dB, at most 70]")).toMatchObject({ least: null, most: 70 });
    expect(parseCheck("level [% of full]: low")).toMatchObject({ unit: "% of full", least: null, most: null });
    expect(parseCheck("wipers whole")).toEqual({ name: "wipers whole", unit: null, least: null, most: null, act: "" });
    // What is no unit with bounds is left as it was written.
    expect(parseCheck("belt [the long one, under the guard]: frayed").name).toBe(
      "belt [the long one, under the guard]",
    );
    expect(parseCheck("[mm]").name).toBe("[mm]");
  });

  it("its figure is fine, near its bound or beyond it", () => {
    const brush = parseCheck("brush length [mm, at least 6]");
    expect([5.9, 6.3, 9].map((x) => checkFigure(brush, x))).toEqual(["act", "watch", "fine"]);
    const air = parseCheck("regulator [bar, 5 to 7]");
    expect([4.9, 5.1, 6, 6.9, 7.1].map((x) => checkFigure(air, x))).toEqual(["act", "watch", "fine", "watch", "act"]);
    expect(checkFigure(parseCheck("regulator [bar]"), 3)).toBeNull();
  });

  it("when it comes to its bound is the line of a general library (simple-statistics) carried on", () => {
    const brush = parseCheck("brush length [mm, at least 6]");
    const at = (day: number): string => new Date(Date.UTC(2026, 0, 1 + day)).toISOString();
    const points: [number, number][] = [
      [0, 14.9],
      [30, 13.1],
      [61, 11.2],
      [92, 9.0],
    ];
    const { m, b } = linearRegression(points);
    const days = checkTrend(
      brush,
      points.map(([day, figure]) => ({ at: at(day), figure })),
    );
    expect(days).toBeCloseTo((6 - b) / m - 92, 6);
  });

  it("nothing is foretold of two readings, of scatter, or of a figure that goes the other way", () => {
    const brush = parseCheck("brush length [mm, at least 6]");
    const read = (figures: readonly number[]) =>
      figures.map((figure, i) => ({ at: new Date(Date.UTC(2026, 0, 1 + 30 * i)).toISOString(), figure }));
    expect(checkTrend(brush, read([14, 12]))).toBeNull();
    expect(checkTrend(brush, read([12, 14, 12, 14]))).toBeNull();
    expect(checkTrend(brush, read([10, 12, 14]))).toBeNull();
    expect(checkTrend(brush, read([8, 7, 5]))).toBe(0);
  });
});
