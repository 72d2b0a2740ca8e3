import fc from "fast-check";
import { Matrix, solve } from "ml-matrix";
import {
  airIndex,
  brokenLine,
  checkCorrectionRules,
  correctionAt,
  correctionFromTyped,
  growthU,
  laserPutRight,
  toTwenty,
  typedBlocks,
  typedSlips,
  typedValues,
  usualCorrectionRules,
  type CorrectionRules,
} from ".";

describe("the broken line through what was read", () => {
  it("has the corners that a dense solution of the same normal equations has (ml-matrix)", () => {
    const reading = fc.record({
      part: fc.double({ min: 0, max: 0.9, noNaN: true }),
      mm: fc.double({ min: -0.05, max: 0.05, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.array(reading, { minLength: 4, maxLength: 30 }),
        fc.integer({ min: 3, max: 21 }),
        (read, points) => {
          const stepMm = 500 / (points - 1);
          const atMm = read.map((r, i) => ((i + r.part) * 500) / read.length);
          const row = (of: (n: number) => number): number[] => Array.from({ length: points }, (_, n) => of(n));
          const hats = atMm.map((mm) => row((n) => Math.max(0, 1 - Math.abs(mm / stepMm - n))));
          const bends = Array.from({ length: points - 2 }, (_, i) =>
            row((n) => 1e-3 * (n === i || n === i + 2 ? 1 : n === i + 1 ? -2 : 0)),
          );
          const right = Matrix.columnVector([...read.map((r) => r.mm), ...bends.map(() => 0)]);
          const dense = solve(new Matrix([...hats, ...bends]), right, true).to1DArray();
          const own = brokenLine(
            read.map((r, i) => ({ atMm: atMm[i], valueMm: r.mm })),
            { startMm: 0, stepMm, points },
          );
          own.forEach((v, i) => expect(v).toBeCloseTo(dense[i], 5));
        },
      ),
    );
  });

  it("draws straight on between places that are far apart", () => {
    const corners = { startMm: 0, stepMm: 25, points: 21 };
    const own = brokenLine(
      [0, 250, 500].map((atMm) => ({ atMm, valueMm: atMm / 1e4 })),
      corners,
    );
    own.forEach((v, i) => expect(v).toBeCloseTo((25 * i) / 1e4, 6));
  });
});

describe("numbers as they are typed", () => {
  const rules = fc.record({
    points: fc.integer({ min: 2, max: 40 }),
    sense: fc.constantFrom("added" as const, "taken-away" as const),
    form: fc.constantFrom("whole" as const, "step" as const),
    counted: fc.constantFrom("+" as const, "-" as const),
    ways: fc.constantFrom("one" as const, "two" as const),
  });

  it("come back as the table they were", () => {
    fc.assert(
      fc.property(rules, fc.infiniteStream(fc.integer({ min: -99, max: 99 })), (some, stream) => {
        const take = (): number[] => Array.from({ length: some.points }, () => stream.next().value as number);
        const all: CorrectionRules = { ...usualCorrectionRules(500), ...some };
        const table = { rules: all, up: take(), down: some.ways === "two" ? take() : null };
        const typed = { up: typedValues(table, "+"), down: table.down ? typedValues(table, "-") : null };
        expect(correctionFromTyped(all, typed)).toEqual(table);
      }),
    );
  });

  it("steps add up to the whole values, point by point", () => {
    const whole = usualCorrectionRules(500);
    const up = Array.from({ length: 21 }, (_, i) => (i * i) % 17);
    const steps = typedValues({ rules: { ...whole, form: "step" }, up, down: null }, "+");
    let sum = 0;
    steps.forEach((s, i) => {
      sum += s;
      expect(sum).toBe(up[i]);
    });
  });

  it("refuses what is no table, with value and bound", () => {
    const rules3 = { ...usualCorrectionRules(500), points: 3 };
    expect(() => correctionFromTyped(rules3, { up: [0, 1], down: null })).toThrow(
      "number of values is 2: it must be 3, one for each point",
    );
    expect(() => correctionFromTyped(rules3, { up: [0, 1.5, 2], down: null })).toThrow(
      "value is 1.5: it must be a whole number",
    );
    expect(() => checkCorrectionRules({ ...rules3, stepMm: 900 }, 500)).toThrow(
      "step is 900: it must be from 1 to 500 mm",
    );
    expect(() => checkCorrectionRules({ ...rules3, points: 60 }, 500)).toThrow(
      "last point is 1475: it must be at most 525 mm",
    );
  });

  it("is held beyond its ends", () => {
    const table = { rules: { ...usualCorrectionRules(500), points: 3 }, up: [1, 4, 6], down: [2, 2, 2] };
    expect(correctionAt(table, -30, "+")).toBeCloseTo(0.001, 12);
    expect(correctionAt(table, 400, "+")).toBeCloseTo(0.006, 12);
    expect(correctionAt(table, 40, "-")).toBeCloseTo(0.002, 12);
  });
});

describe("a typing sheet read back", () => {
  const sheet = [3, 5, 8, 9, 12, 11, 7, 4, 2, 0, -3, -5];
  const put = (at: number, ...values: number[]): number[] => [
    ...sheet.slice(0, at),
    ...values,
    ...sheet.slice(at + values.length),
  ];

  it("agrees, or says what slipped", () => {
    expect(typedSlips(sheet, sheet)).toEqual([]);
    expect(typedSlips(sheet, put(4, 21))).toEqual([{ code: "differs", point: 5, wanted: 12, got: 21 }]);
    expect(typedSlips(sheet, put(5, 7, 11))).toEqual([{ code: "swapped", point: 6 }]);
    expect(
      typedSlips(
        sheet,
        sheet.map((v) => -v),
      ),
    ).toEqual([{ code: "all-turned-round" }]);
    expect(typedSlips(sheet, [...sheet.slice(0, 2), ...sheet.slice(3)])).toEqual([
      { code: "shifted", point: 3, by: -1 },
    ]);
    expect(typedSlips(sheet, [...sheet.slice(0, 2), 99, ...sheet.slice(2)])).toEqual([
      { code: "shifted", point: 3, by: 1 },
    ]);
    expect(typedSlips(sheet, sheet.slice(0, 11))).toEqual([{ code: "missing", wanted: 12, got: 11 }]);
  });

  it("every other set of numbers is told from the sheet", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -20, max: 20 }), { maxLength: 15 }), (got) => {
        expect(typedSlips(sheet, got).length === 0).toBe(JSON.stringify(got) === JSON.stringify(sheet));
      }),
    );
    expect(typedBlocks(sheet).map((b) => [b.from, b.to, b.sum])).toEqual([
      [1, 10, 61],
      [11, 12, -8],
    ]);
  });
});

describe("warmth and air", () => {
  it("air has the index that Ciddor tabled for dry air at 633 nm (Applied Optics 35 (1996) 1566, table 1; from memory)", () => {
    const dry = (celsius: number, hPa: number): number => 1e8 * (airIndex({ celsius, hPa, humidity: 0 }) - 1);
    expect(dry(20, 1000)).toBeCloseTo(26824.4, -0.5);
    expect(dry(20, 800)).toBeCloseTo(21458.0, -0.5);
    expect(dry(10, 1000)).toBeCloseTo(27774.7, -0.5);
    expect(dry(30, 1000)).toBeCloseTo(25937.2, -0.5);
  });

  it("a kelvin is about a millionth, as is 3 hPa; damp air is a little lighter (common practice, no source)", () => {
    const n = (celsius: number, hPa: number, humidity: number): number => airIndex({ celsius, hPa, humidity });
    expect(1e6 * (n(20, 1013, 50) - n(21, 1013, 50))).toBeCloseTo(0.95, 1);
    expect(1e6 * (n(20, 1016, 50) - n(20, 1013, 50))).toBeCloseTo(0.8, 1);
    expect(n(20, 1013, 80)).toBeLessThan(n(20, 1013, 20));
  });

  it("a warm screw reaches far and a warm reference reads short; alike, nothing is left (ISO 1)", () => {
    const warmth = { carrierC: 24, referenceC: 22, carrierPerK: 11.5, referencePerK: 8, uK: 0 };
    // A steel screw of a metre at 24 °C is 46 µm longer; a glass scale at 22 °C shows 16 µm too little of it.
    expect(toTwenty(warmth, 1000)).toBeCloseTo(-0.046 + 0.016, 12);
    expect(toTwenty({ ...warmth, referenceC: 24, referencePerK: 11.5 }, 1000)).toBeCloseTo(0, 12);
    expect(growthU({ ...warmth, carrierC: 20, referenceC: 20, uK: 1 })).toBeCloseTo(1e-6 * Math.hypot(11.5, 8), 12);
    expect(() => toTwenty({ ...warmth, carrierC: 200 }, 10)).toThrow(
      "machine temperature is 200: it must be from -10 to 60 °C",
    );
  });

  it("a laser that reckoned with air too thick shows too much; a dead path moves with the air", () => {
    const air = { celsius: 20, hPa: 1013, humidity: 50 };
    const n = airIndex(air);
    const wrong = { first: air, last: air, reckoned: n - 1e-6, deadPathMm: 0 };
    // Fringes are counted in air; a display that takes the air for thinner takes each for longer.
    expect(laserPutRight(wrong, 1000)).toBeCloseTo(-0.001, 6);
    const warmer = { first: air, last: { ...air, celsius: 22 }, reckoned: null, deadPathMm: 1000 };
    expect(laserPutRight(warmer, 0)).toBeCloseTo(0.00092, 4);
  });
});
