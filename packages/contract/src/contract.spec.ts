import { defaultAxis, MACHINE_KINDS } from "@iron/core";
import {
  ADDRESSES,
  axisConfigSchema,
  guardFormula,
  machineEditSchema,
  openApiDocument,
  OPERATIONS,
  parseDecimal,
  parseReadingsCsv,
  planOfRows,
  shopUpdateSchema,
  writeReadingsCsv,
  type Run,
} from ".";

const messages = (result: {
  success: boolean;
  error?: { issues: { path: PropertyKey[]; message: string }[] };
}): string[] => (result.error?.issues ?? []).map((i) => `${i.path.join(".")}: ${i.message}`);

describe("axis configuration", () => {
  const good = defaultAxis("vertical-centre", "X");

  it("accepts the defaults of every kind", () => {
    for (const kind of MACHINE_KINDS) {
      for (const letter of ["X", "Y", "Z"])
        expect(messages(axisConfigSchema.safeParse(defaultAxis(kind, letter)))).toEqual([]);
    }
  });

  it("says in words what a value cannot be, at its path", () => {
    const bad = {
      ...good,
      letter: "xx",
      screw: { ...good.screw, leadMm: 0, rootMm: 40 },
    };
    expect(messages(axisConfigSchema.safeParse(bad))).toEqual([
      "letter: The letter must be one capital, perhaps with a digit: X, Y, Z, W, X2.",
      "screw.leadMm: Lead 0 mm cannot be: a screw moves the table by its lead each turn. Typical: 4 to 20 mm.",
    ]);
    const root = { ...good, screw: { ...good.screw, rootMm: 40 } };
    expect(messages(axisConfigSchema.safeParse(root))[0]).toContain("Root diameter 40 mm cannot be");
    expect(messages(axisConfigSchema.safeParse({ ...root, transmission: "rack" }))).toEqual([]);
  });

  it("wants who and why with limits of the axis’ own", () => {
    const own = {
      ...good,
      limits: { leaveMm: 0.03, repairMm: 0.02, setBy: "", why: "" },
    };
    const said = messages(axisConfigSchema.safeParse(own));
    expect(said.map((m) => m.split(":")[0])).toEqual(["limits.repairMm", "limits.why", "limits.setBy"]);
  });

  it("checks machines and the shop the same way", () => {
    const machine = {
      nickname: " ",
      bay: "4",
      kind: "lathe",
      hoursPerWeek: 200,
      note: "",
    };
    expect(messages(machineEditSchema.safeParse(machine))).toEqual([
      "nickname: Nickname is empty: say at least a word.",
      "hoursPerWeek: Working hours per week 200 h cannot be: a week has 168 hours. The most taken here is 168 h. Typical: 20 to 120 h.",
    ]);
    expect(shopUpdateSchema.safeParse({ name: "A", currency: "euro", people: [] }).success).toBe(false);
  });
});

describe("readings CSV", () => {
  const header = "place_mm,approach,run,reading_mm\n";

  it("reads commas, semicolons with decimal commas, and inches", () => {
    const comma = parseReadingsCsv(`${header}100,+,1,0.001\n100,-,1,0.021\n`);
    const semicolon = parseReadingsCsv("place_mm;approach;run;reading_um\n100,0;up;1;1,0\n100,0;down;1;21,0\n");
    expect(semicolon.rows.map((r) => r.readingMm)).toEqual(comma.rows.map((r) => r.readingMm));
    expect(semicolon.delimiter).toBe(";");
    const inch = parseReadingsCsv("\uFEFFplace_in,approach,run,reading_thou\n4,+,1,1\n");
    expect(inch.rows[0]).toMatchObject({ placeMm: 101.6, readingMm: 0.0254 });
  });

  it("names a wrong row by line and column and keeps the good ones", () => {
    const { rows, errors } = parseReadingsCsv(
      `${header}100,+,1,0.001\n100,x,1,abc\n\n100,-,0,\n100,+,1,0.002\n100,-,1,0,021\n`,
    );
    expect(rows).toHaveLength(1);
    expect(errors.map((e) => [e.line, e.column])).toEqual([
      [3, "reading_mm"],
      [3, "approach"],
      [5, "reading_mm"],
      [5, "run"],
      [6, "run"],
      [7, ""],
    ]);
    expect(errors[0].message).toBe("“abc” is not a number.");
    expect(errors[4].message).toBe("Run 1 from this side at this place is already on line 2.");
    expect(errors[5].message).toContain("decimal comma");
  });

  it("says which column is missing, and when there is nothing", () => {
    expect(parseReadingsCsv("a,b\n1,2").errors.map((e) => e.column)).toEqual([
      "place_mm",
      "reading_mm",
      "approach",
      "run",
    ]);
    expect(parseReadingsCsv(header).errors[0].message).toContain("no reading below");
    expect(parseReadingsCsv("").rows).toEqual([]);
  });

  it("takes decimals in both ways and nothing else", () => {
    expect([parseDecimal("0,5"), parseDecimal(" −.5"), parseDecimal("1e-3")]).toEqual([0.5, -0.5, 0.001]);
    for (const bad of ["", "1.2.3", "1,000.5", "NaN", "Infinity", "0x10"]) expect(parseDecimal(bad)).toBeUndefined();
  });

  it("makes a plan of the rows and reads its own file back", () => {
    const rows = parseReadingsCsv(`${header}100,+,1,0.001\n100,-,1,0.021\n300,+,1,0.002\n300,-,2,0.022`).rows;
    const plan = planOfRows(rows, true, 20);
    expect(plan).toMatchObject({
      kind: "travel-profile",
      targetsMm: [100, 300],
      runs: 2,
      keepsZero: true,
    });
    expect(planOfRows(rows.slice(0, 2), true, 20)).toMatchObject({
      kind: "two-sided",
      keepsZero: false,
    });
    const at = "2026-03-03T07:40:00.000Z";
    const reading = (step: number, value: number) => ({
      id: step,
      step,
      value,
      widthMm: 0.001,
      entered: "",
      source: "typed" as const,
      state: "kept" as const,
      reason: "",
      judgement: null,
      at,
      by: "=Ilse",
    });
    const run = {
      id: 1,
      axisId: 1,
      plan,
      state: "finished",
      startedAt: at,
      finishedAt: at,
      by: "Ilse",
      imported: false,
      readings: [reading(0, 0), reading(1, 0.001), reading(2, 200.002)],
    } as unknown as Run;
    for (const system of ["metric", "inch"] as const) {
      const text = writeReadingsCsv(run, system);
      expect(text).toContain("'=Ilse");
      const back = parseReadingsCsv(text);
      expect(back.errors).toEqual([]);
      expect(back.rows.map((r) => r.placeMm)).toEqual([100, 300]);
      expect(back.rows[1].readingMm).toBeCloseTo(0.002, 5);
    }
    expect(guardFormula("plain")).toBe("plain");
  });
});

describe("OpenAPI document", () => {
  it("lists every operation with its schemas", () => {
    const document = openApiDocument("1.2.3") as {
      openapi: string;
      paths: Record<string, Record<string, { operationId: string }>>;
    };
    expect(document.openapi).toBe("3.1.0");
    const ids = Object.values(document.paths).flatMap((p) => Object.values(p).map((o) => o.operationId));
    expect(ids.sort()).toEqual([...Object.keys(OPERATIONS), "deviceStream"].sort());
    expect(JSON.stringify(document)).toContain("a screw moves the table by its lead each turn");
  });
});

describe("operations", () => {
  it("each address has one operation and each operation one address; no two are alike", () => {
    expect(Object.keys(OPERATIONS).sort()).toEqual(Object.keys(ADDRESSES).sort());
    const seen = Object.values(OPERATIONS).map((o) => `${o.method} ${o.path.replace(/:\w+/g, ":")}`);
    expect(new Set(seen).size).toBe(seen.length);
    for (const [name, o] of Object.entries(OPERATIONS)) {
      const held = [...o.path.matchAll(/:(\w+)/g)].map((m) => m[1]);
      expect([name, Object.keys(o.params.shape)]).toEqual([name, held]);
    }
  });
});
