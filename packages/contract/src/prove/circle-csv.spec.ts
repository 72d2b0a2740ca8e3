import Papa from "papaparse";
import { circleCsvRows, parseCircleCsv } from "./circle-csv";

const round = (count: number, row: (deg: number) => string, back = false): string[] =>
  Array.from({ length: count }, (_, i) => row(((back ? count - i : i) * 360) / count));
const deviation = (deg: number): number => 3 * Math.sin((2 * deg * Math.PI) / 180);

describe("circles from a file", () => {
  it("reads angles and deviations, told which way round, with a decimal comma too", () => {
    const lines = [
      "angle_deg;deviation_um;direction",
      ...round(90, (d) => `${String(d).replace(".", ",")};${deviation(d).toFixed(2).replace(".", ",")};ccw`),
      ...round(90, (d) => `${d};${deviation(d).toFixed(2)};cw`, true),
    ];
    const { traces, errors } = parseCircleCsv(lines.join("\n"), 100);
    expect(errors).toEqual([]);
    expect(traces.map((t) => [t.direction, t.angles.length])).toEqual([
      [1, 90],
      [-1, 90],
    ]);
    expect(traces[0].deviations[10]).toBeCloseTo(deviation(40) / 1000, 5);
    // Passed in this order, wound on and never jumping.
    expect(traces[1].angles[89]).toBeLessThan(traces[1].angles[0]);
  });

  it("where nobody says which way round it is told by how the angles go", () => {
    const lines = [
      "angle_deg,deviation_mm",
      ...round(40, (d) => `${d},0.001`),
      ...round(40, (d) => `${d},0.002`, true),
    ];
    const { traces } = parseCircleCsv(lines.join("\n"), 100);
    expect(traces.map((t) => t.direction)).toEqual([1, -1]);
    expect(traces[1].deviations.every((v) => v === 0.002)).toBe(true);
  });

  it("and where they go neither way it is asked, not guessed", () => {
    const mixed = round(60, (d) => `${(d * d * 37) % 360},1`);
    const { traces, errors } = parseCircleCsv(["angle_deg,deviation_um", ...mixed].join("\n"), 100);
    expect(traces).toEqual([]);
    expect(errors[0].message).toMatch(/^Which way round was it\?/);
  });

  it("a column that says one way while the angles go the other is asked about", () => {
    const { errors } = parseCircleCsv(
      ["angle_deg,deviation_um,direction", ...round(40, (d) => `${d},1,cw`)].join("\n"),
      100,
    );
    expect(errors).toEqual([
      {
        line: 2,
        column: "direction",
        message: "The angles grow from line 2 on, which is counterclockwise; the column says the other. Which is it?",
      },
    ]);
  });

  it("reads x and y of a gauged circle", () => {
    const at = (deg: number): string => {
      const turn = (deg * Math.PI) / 180;
      return `${(50.004 * Math.cos(turn)).toFixed(6)}\t${(50.004 * Math.sin(turn)).toFixed(6)}`;
    };
    const { traces, errors } = parseCircleCsv(["x_mm\ty_mm", ...round(72, at)].join("\n"), 50);
    expect(errors).toEqual([]);
    expect(traces[0].deviations[30]).toBeCloseTo(0.004, 5);
  });

  it("names what is wrong by line and column, and keeps nothing", () => {
    const lines = ["angle_deg,deviation_um,direction,run", ...round(20, (d) => `${d},1,ccw,1`)];
    lines[3] = "x,1,ccw,1";
    lines[4] = "9,40000,up,0";
    lines[5] = "12,y,ccw,1";
    const { traces, errors } = parseCircleCsv(lines.join("\n"), 100);
    expect(traces).toEqual([]);
    expect(errors.map((e) => `${e.line} ${e.column}: ${e.message}`)).toEqual([
      "4 angle_deg: “x” is not a number.",
      "5 direction: “up” is no direction: write + or -, ccw or cw, G3 or G2.",
      "5 deviation_um: 40.000 mm from a circle of 100 mm radius: is the radius right?",
      "5 run: Run “0” must be a whole number from 1 to 50.",
      "6 deviation_um: “y” is not a number.",
    ]);
    expect(parseCircleCsv("a,b\n1,2", 100).errors[0].message).toContain("angle_deg and deviation_um");
    expect(parseCircleCsv("angle_deg,deviation_um", 100).errors[0].message).toContain("no reading below");
    expect(parseCircleCsv(["angle_deg,deviation_um", "1,1", "2,1"].join("\n"), 100).errors[0].message).toContain(
      "Only 2",
    );
  });

  it("what it writes it reads again, names that look like formulas included", () => {
    const { traces } = parseCircleCsv(
      ["angle_deg,deviation_um", ...round(40, (d) => `${d},${deviation(d)}`)].join("\n"),
      100,
    );
    const text = Papa.unparse([...circleCsvRows("XY", [{ run: 1, by: "=Ama", trace: traces[0] }])]);
    expect(text).toContain("'=Ama");
    const again = parseCircleCsv(text, 100).traces[0];
    expect(again.direction).toBe(1);
    again.deviations.forEach((v, i) => expect(v).toBeCloseTo(traces[0].deviations[i], 6));
  });
});
