import { CAUSES, defaultAxis, FINDINGS, type AxisConfig, loadFindings } from "@iron/core";
import type { Diagnosis, LedgerView } from "@iron/contract";
import { chainView } from "../chain/chain-strip";
import { STATIONS } from "../machine/axis/work-line";
import {
  causesOf,
  lastLoss,
  ledgerRows,
  likelyViews,
  parseCrest,
  percentText,
  symptomGroups,
  testQuestions,
} from "./case.view";
import { GLYPHS } from "./glyphs";
import { loadParts, type LoadTraceView } from "./load-trace.view";

const x = defaultAxis("vertical-centre", "X");
const z = defaultAxis("vertical-centre", "Z");

describe("the questions of station Ask", () => {
  const ids = (axis: AxisConfig): string[] => symptomGroups(axis).flatMap((g) => g.symptoms.map((s) => s.id));

  it("begin with what may be no mechanical fault, each asked once", () => {
    expect(symptomGroups(z)[0].title).toBe("Not a mechanical fault?");
    expect(symptomGroups(z)[0].symptoms[0].text).toBe("Will not move, no alarm");
    expect(new Set(ids(z)).size).toBe(ids(z).length);
  });

  it("leave out what the axis cannot have", () => {
    expect(ids(x)).not.toContain("click-descent");
    expect(ids(z)).toContain("click-descent");
    expect(ids(x)).toContain("carriage-click");
    expect(ids({ ...x, guideway: "box" })).not.toContain("carriage-click");
    expect(ids(x)).not.toContain("recut");
  });

  it("have shapes only for findings that are asked", () => {
    const asked = FINDINGS.filter((f) => f.asked).map((f) => f.id as string);
    for (const id of Object.keys(GLYPHS)) expect(asked).toContain(id);
  });
});

describe("words and figures of a case", () => {
  it("say probabilities no more exactly than they are known", () => {
    expect([0.999, 0.58, 0.002].map(percentText)).toEqual(["> 99 %", "58 %", "< 1 %"]);
  });

  it("put no fault among the causes where it belongs", () => {
    const leading = [
      {
        cause: { id: "nut-worn", name: "Nut", link: "nut", remedy: "replace", minutes: 360, method: "" },
        probability: 0.3,
        speaksFor: [],
        speaksAgainst: [],
      },
    ];
    const views = likelyViews({ leading, noFault: 0.6 } as unknown as Diagnosis);
    expect(views.map((v) => [v.name, v.percent])).toEqual([
      ["Nothing to mend", "60 %"],
      ["Nut", "30 %"],
    ]);
    expect(views[1].remedy).toBe("replace, 360 min");
  });

  it("offer as found only causes the axis can have", () => {
    const ids = causesOf(x).map((c) => c.id);
    expect(ids).toContain("end-bearing-worn");
    expect(ids).not.toContain("pinion-loose");
    expect(ids.length).toBeLessThan(CAUSES.length);
  });
});

describe("crest readings as typed", () => {
  const lines = [0, 100, 200, 300, 400].map((p) => `${p}; 0,01; ${0.002 * p}`);

  it("are read with points or commas, in the user’s units", () => {
    const { planes, error } = parseCrest(lines.join("\n"), "metric");
    expect(error).toBe("");
    expect(planes).toHaveLength(2);
    expect(planes[1][4]).toEqual({ positionMm: 400, readingMm: 0.8 });
    expect(parseCrest("1 0.001\n2 0.001\n3 0.001\n4 0.001\n5 0.002", "inch").planes[0][0].positionMm).toBeCloseTo(
      25.4,
      9,
    );
  });

  it("name the line that is wrong and say how many are wanted", () => {
    expect(parseCrest("0; 0.1\nx; 2", "metric").error).toContain("Line 2, “x; 2”");
    expect(parseCrest("0; 0.1", "metric").error).toContain("1 places are too few");
  });
});

describe("the ledger as rows", () => {
  const ledger: LedgerView = {
    lines: [
      {
        slacks: ["bearings", "housing"],
        name: "End bearings and housing",
        shareMm: 0.0198,
        expandedMm: 0.0016,
        boundsMm: [0.018, 0.0214],
        from: ["end-float"],
        computed: false,
      },
      {
        slacks: ["windup"],
        name: "Wind-up",
        shareMm: 0.0019,
        expandedMm: 0.0007,
        boundsMm: [0.001, 0.003],
        from: [],
        computed: true,
      },
      {
        slacks: ["bracket"],
        name: "Nut bracket",
        shareMm: null,
        expandedMm: null,
        boundsMm: [0, 0.0053],
        from: [],
        computed: false,
      },
    ],
    total: { reversalValueMm: 0.027, expandedMm: 0.002 },
    rest: { mm: 0.0053, expandedMm: 0.003, significant: true },
    consistency: null,
    contradictions: [],
  };

  it("show shares with their uncertainty, and bounds for what nobody looked at", () => {
    const rows = ledgerRows(ledger, "metric");
    expect(rows.map((r) => [r.share, r.plusMinus])).toEqual([
      ["19.8", "± 1.6"],
      ["1.90", "± 0.70"],
      ["0 … 5.3", ""],
    ]);
    expect(rows[0].from).toBe("screw end float");
    expect(rows[2]).toMatchObject({ known: false, from: "not looked at: between" });
    expect(ledgerRows(ledger, "inch")[0].share).toMatch(/^7\.8/);
    const open = ledgerRows({ ...ledger, total: null, lines: [{ ...ledger.lines[2], boundsMm: [0, null] }] }, "metric");
    expect(open[0]).toMatchObject({ share: "?", from: "not looked at" });
  });

  it("reach the drawn chain: a link that was looked at is drawn through, with its share", () => {
    const at = "2026-03-03T08:00:00.000Z";
    const shares = [
      {
        link: "end-bearings" as const,
        shareMm: 0.0198,
        expandedMm: 0.0016,
        boundsMm: [0, 1] as [number, number],
        lookedAt: at,
      },
      {
        link: "nut" as const,
        shareMm: null,
        expandedMm: null,
        boundsMm: [0, 0.005] as [number, number],
        lookedAt: null,
      },
    ];
    const links = chainView(x, null, { system: "metric", now: new Date("2026-03-03T09:00:00Z"), shares });
    const link = (id: string) => links.find((l) => l.id === id);
    expect(link("end-bearings")).toMatchObject({
      known: true,
      value: "19.8 ± 1.6 µm",
      looked: "today",
      state: "watch",
    });
    expect(link("nut")).toMatchObject({ known: false, value: "not looked at" });
  });
});

describe("a load trace in words", () => {
  const quiet = { value: 0, u: 0.05, real: false };
  const view = (over: object): LoadTraceView => ({
    samples: [],
    unit: "%",
    analysis: {
      friction: { value: 5, u: 0.05, real: true },
      gravity: quiet,
      lowEnd: quiet,
      highEnd: quiet,
      perTurn: quiet,
      stretches: [],
      alike: false,
      meter: "signed",
      askMeter: false,
      frictionOrGravity: false,
      spots: [],
      scatter: 0.2,
      fitted: [],
      cutOff: 10,
      ...over,
    },
  });

  it("answers what it can see and leaves the rest to a person", () => {
    expect(loadFindings(view({}))).toMatchObject({ "tight-all": false, "tight-end": false, "tight-spot": false });
    expect(loadFindings(view({ highEnd: { value: 4, u: 0.1, real: true } }))["tight-end"]).toBe(true);
    expect(loadFindings(view({ friction: { value: 9, u: 0.1, real: true } }))["tight-all"]).toBe(true);
    expect(loadFindings({ ...view({}), unit: "A" })["tight-all"]).toBeUndefined();
    expect("short-travel" in loadFindings(view({}))).toBe(false);
  });

  it("says of each part what it points to", () => {
    const parts = loadParts(view({ spots: [{ fromMm: 100, toMm: 120, peakMm: 111, extra: 3 }] }), "metric");
    expect(parts[0].value).toBe("+5.00 ± 0.10 %");
    expect(parts.at(-1)).toMatchObject({ name: "Spot at 111 mm", points: "chips or damage there; a rack high spot" });
    expect(parts[3].points).toBe("nothing out of the ordinary");
  });
});

it("only stations that are there can be gone to", () => {
  expect(STATIONS.filter((s) => s.path).map((s) => s.name)).toEqual([
    "Ask",
    "Measure",
    "Locate",
    "Fix",
    "Set",
    "Prove",
    "Keep",
  ]);
});

describe("how an axis stood when it was last tested", () => {
  const at = (reversalValueMm: number, expandedMm: number, day: number, kind = "two-sided") =>
    ({
      runId: day,
      jobId: null,
      circleId: null,
      kind,
      reversalValueMm,
      expandedMm,
      at: `2026-03-0${day}T08:00:00Z`,
    }) as Diagnosis["measured"][number];
  const last = (measured: Diagnosis["measured"]) => lastLoss({ measured }, x, "metric");

  it("is the word of its last whole test, and a test of a part is none", () => {
    const circle = { ...at(0.002, 0.001, 2), runId: null, circleId: 4 };
    expect(last([circle])?.message).toContain("lost by the last circle");
    const limit = x.limits.repairMm;
    expect(last([at(2 * limit, 0.002, 1), at(0.002, 0.001, 2)])?.word).toBe("sound");
    expect(last([at(2 * limit, 0.002, 3), at(0.002, 0.001, 2)])?.word).toBe("act");
    expect(last([at(limit, 0.01, 1)])).toMatchObject({
      state: "unknown",
      word: "cannot tell",
    });
    expect(last([at(0.02, 0.001, 1, "nut-flank")])).toBeNull();
    expect(last([at(0.002, 0.001, 1)])?.message).toMatch(
      /^2\.0 ± 1\.0 µm lost when last tested, .*; can be left up to 10 µm, repaired above 25 µm\.$/,
    );
  });

  it("ask what a test answers, in its words", () => {
    expect(testQuestions(x, "rock").map((q) => q.text)).toEqual(["Member rocks by hand"]);
    expect(testQuestions(x, "nothing")).toEqual([]);
  });
});
