import { parseLoadCsv } from "./load-csv";

describe("load trace files", () => {
  it("are read in both units, with commas or points", () => {
    const metric = parseLoadCsv("position_mm;direction;load_percent\n10,5;+;4,2\n10;down;-4\n");
    expect(metric.errors).toEqual([]);
    expect(metric.samples).toEqual([
      { positionMm: 10.5, direction: "+", load: 4.2 },
      { positionMm: 10, direction: "-", load: -4 },
    ]);
    const inch = parseLoadCsv("position_in,direction,load_a\n1,-,0.5\n");
    expect(inch).toMatchObject({ unit: "A", samples: [{ positionMm: 25.4 }] });
  });

  it("that are wrong are named by line and column, and columns that are missing by name", () => {
    const { errors, samples } = parseLoadCsv("position_mm,direction,load_a\n1,+,2\n1,sideways,x\n");
    expect(samples).toHaveLength(1);
    expect(errors.map((e) => [e.line, e.column])).toEqual([
      [3, "load_a"],
      [3, "direction"],
    ]);
    expect(parseLoadCsv("a,b\n1,2\n").errors.map((e) => e.column)).toEqual([
      "position_mm",
      "direction",
      "load_percent",
    ]);
  });
});
