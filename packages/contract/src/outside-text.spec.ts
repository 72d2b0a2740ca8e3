import * as fc from "fast-check";
import { guardFormula, parseDecimal, parseReadingsCsv } from ".";
import { column, number, readTable, text, writeTable } from "./wire/csv-table";
import { parseLoadCsv } from "./diagnosis/load-csv";

describe("text from outside", () => {
  it("a cell of 100,000 digits is no number, and is not quoted whole", () => {
    const endless = "1".repeat(100_000);
    expect(parseDecimal(`${endless}x`)).toBeUndefined();
    expect(parseDecimal(endless)).toBeUndefined();
    const { errors } = readTable(`hours\n${endless}x`, {
      hours: column("hours", number(0, 10)),
    });
    expect(errors).toHaveLength(1);
    expect(errors[0].message.length).toBeLessThan(100);
  });

  it("reads what it always read", () => {
    for (const [typed, value] of [
      ["1", 1],
      ["1.", 1],
      [".5", 0.5],
      ["−0,25", -0.25],
      ["+2.5e-3", 0.0025],
    ] as const)
      expect(parseDecimal(typed)).toBe(value);
    for (const none of ["", ".", "1.2.3", "1,2,3", "e5", "1e", "0x10", "١"]) expect(parseDecimal(none)).toBeUndefined();
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (x) => {
        // What is typed has no −0: String(-0) is "0".
        expect(parseDecimal(String(x))).toBe(x === 0 ? 0 : x);
      }),
    );
  });

  it("names that every object has are cells like any other", () => {
    for (const name of ["constructor", "__proto__", "toString", "valueOf"]) {
      const load = parseLoadCsv(`position_mm;direction;load_percent\n1;${name};2`);
      expect(load.samples).toEqual([]);
      expect(load.errors[0].message).toContain(`“${name}”`);
      const readings = parseReadingsCsv(`place_mm;approach;run;reading_mm\n1;${name};1;0.1`);
      expect(readings.rows).toEqual([]);
      expect(readings.errors.map((e) => e.column)).toEqual(["approach"]);
      expect(parseReadingsCsv(`${name};approach;run;reading_mm\n1;+;1;0.1`).errors[0].column).toBe("place_mm");
    }
  });

  it("what a spreadsheet would compute is text, full-width signs too, and comes back as it was", () => {
    for (const sign of ["=", "+", "-", "@", "＝", "＋", "－", "＠"]) {
      const cell = `${sign}1+1`;
      expect(guardFormula(cell)).toBe(`'${cell}`);
      const file = writeTable(["note"], [[cell]]);
      expect(file).toContain(`'${sign}`);
      const back = readTable(file, { note: column("note", text(20)) });
      expect(back.rows[0].value.note).toBe(cell);
    }
  });
});
