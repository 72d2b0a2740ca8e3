import { usualCorrectionRules, type Correction } from "@iron/core";
import { correctionCsv, parseTypedTable } from "./correction-csv";

describe("a table as a file", () => {
  const rules = { ...usualCorrectionRules(100, 25), counted: "-" as const };
  const table: Correction = { rules, up: [0, 3, 5, 8, 9], down: null };

  it("has a row a point in the order of the control, and is read back as it was", () => {
    const text = correctionCsv(table);
    expect(text.split("\r\n").slice(0, 3)).toEqual(["point,place_mm,value", "1,100,9", "2,75,8"]);
    expect(parseTypedTable(text)).toEqual({ up: [9, 8, 5, 3, 0], down: null, errors: [] });
    const two = { rules: { ...rules, ways: "two" as const }, up: table.up, down: [1, 1, 1, 1, 1] };
    expect(parseTypedTable(correctionCsv(two)).down).toEqual([1, 1, 1, 1, 1]);
  });

  it("numbers alone will do, one a line; a decimal comma or a word is told by its line", () => {
    expect(parseTypedTable("0\n-3\n\n7\n")).toEqual({ up: [0, -3, 7], down: null, errors: [] });
    expect(parseTypedTable("0\nzwei\n7").errors).toEqual([
      { line: 2, column: "value", message: "“zwei” is not a number." },
    ]);
    expect(parseTypedTable("point;wert\n1;2").errors[0].message).toContain("There must be a column value");
    expect(parseTypedTable("1\n".repeat(2001)).errors[0].message).toBe(
      "There are 2001 rows; at most 2000 can be read.",
    );
  });
});
