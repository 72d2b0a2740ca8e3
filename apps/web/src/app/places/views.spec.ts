import {
  defaultAxis,
  MACHINE_KIND_WORDS,
  stepsOf,
  type TestPlan,
} from "@iron/core";
import type {
  Floor,
  FloorAxis,
  History,
  IndicatorRecord,
  Run,
  RunSummary,
} from "@iron/contract";
import { chainView } from "../chain/chain-strip";
import { ageWords, countWords, dayWords } from "../shared/words";
import { differences, numberFrom, numberText } from "./axis/config-fields";
import { floorView } from "./floor/floor.view";
import { comparisonSentence, trendSentence } from "./history/history.view";
import { checkSetUp, usualSetUp } from "./measure/set-up.view";
import { dialEntry, typedEntry } from "./run/entry.view";
import { profileSeries, resultView } from "./run/result.view";
import { inOtherUnits } from "./measure/set-up.view";
import { liveText, runView } from "./run/run.view";

const config = defaultAxis("vertical-centre", "Z");
const NOW = new Date("2026-03-03T12:00:00Z");
const indicator: IndicatorRecord = {
  id: 1,
  name: "Lever",
  kind: "lever",
  resolutionMm: 0.001,
  unit: "mm",
  tipAngleDeg: 12,
  rangeMm: 0.8,
  retiredAt: null,
};
const plan: TestPlan = {
  kind: "two-sided",
  targetsMm: [180],
  runs: 2,
  overTravelMm: 30,
  tickMm: 0.001,
  ticksOut: 50,
  keepsZero: false,
};

function runWith(values: readonly number[], over: Partial<Run> = {}): Run {
  const at = "2026-03-03T07:40:00.000Z";
  return {
    id: 1,
    axisId: 3,
    plan,
    setup: {
      indicator,
      tipAngleDeg: 0,
      sense: 1,
      surface: "gauge block",
      temperatureC: 19,
      note: "",
    },
    state: values.length === 5 ? "finished" : "running",
    startedAt: at,
    finishedAt: null,
    by: "Ilse",
    imported: false,
    readings: values.map((value, step) => ({
      id: step + 1,
      step,
      value,
      widthMm: 0.001,
      entered: "",
      source: "typed",
      state: "kept",
      reason: "",
      judgement: null,
      at,
      by: "Ilse",
    })),
    ...over,
  };
}

it("a set-up that was typed is only said in the other units, never lost", () => {
  const draft = { places: "100; abc; 254", runs: "3", overTravel: "25.4", tick: "0.01", ticksOut: "50", tipAngle: "12", temperature: "" }; // prettier-ignore
  const inch = inOtherUnits(draft, "metric", "inch");
  expect(inch).toMatchObject({ places: "3.93701; abc; 10", overTravel: "1", runs: "3", tipAngle: "12" }); // prettier-ignore
  expect(inOtherUnits(inch, "inch", "metric").places).toBe("100.0001; abc; 254"); // prettier-ignore
});

describe("a spoilt reading", () => {
  it("is explained in the reader’s units, whatever units it was found in", () => {
    const run = runWith([0, 0.001]);
    const spoilt: Run = {
      ...run,
      readings: run.readings.map((r) =>
        r.step === 1
          ? {
              ...r,
              state: "spoilt",
              reason: "Passed 180.000 mm by 0.010 mm",
              judgement: { kind: "overshot", byMm: 0.01 },
            }
          : r,
      ),
    };
    const config = defaultAxis("vertical-centre", "X");
    expect(runView(spoilt, config, "inch").asides[0].text).toContain(
      "by 0.0004 in",
    );
    expect(runView(spoilt, config, "metric").asides[0].text).toContain(
      "by 0.010 mm",
    );
  });
});

describe("floorView", () => {
  const axis = (letter: string, lostMm: number | null): FloorAxis => ({
    id: letter.charCodeAt(0),
    letter,
    leaveMm: 0.01,
    repairMm: 0.025,
    feedback: "encoder",
    last:
      lostMm === null
        ? null
        : {
            runId: 1,
            lostMm,
            expandedMm: 0.001,
            at: "2026-02-10T12:00:00.000Z",
          },
    trend: null,
    openRunId: null,
  });
  const machine = (
    id: number,
    nickname: string,
    axes: FloorAxis[],
  ): Floor["machines"][number] => ({
    id,
    nickname,
    bay: String(id),
    kind: "lathe",
    hoursPerWeek: 40,
    note: "",
    version: 1,
    retiredAt: null,
    axes,
  });
  const floor: Floor = {
    machines: [
      machine(1, "Curlew", [axis("X", 0.004)]),
      machine(2, "Knot", [axis("X", null)]),
      machine(3, "Bittern", [axis("X", 0.009), axis("Z", 0.027)]),
    ],
    retired: [],
  };

  it("puts first what needs attention and says it", () => {
    const view = floorView(floor, MACHINE_KIND_WORDS, "metric", "", NOW);
    expect(view.heading).toBe("One machine wants you");
    expect(view.machines.map((m) => m.nickname)).toEqual([
      "Bittern",
      "Knot",
      "Curlew",
    ]);
    expect(view.machines[0].says).toBe(
      "Z loses 27.0 µm at reversal, over its limit.",
    );
    expect(view.machines[0].axes.map((a) => a.state)).toEqual(["sound", "act"]);
    expect(view.machines[1].axes[0]).toMatchObject({
      state: "unknown",
      value: "?",
    });
    expect(view.machines[0].axes[1].age).toBe("3 w");
  });

  it("finds by nickname, bay and kind, in either unit", () => {
    expect(
      floorView(floor, MACHINE_KIND_WORDS, "inch", "bay 3", NOW).machines,
    ).toHaveLength(1);
    expect(
      floorView(floor, MACHINE_KIND_WORDS, "inch", "zebra", NOW).heading,
    ).toBe("No machines found for “zebra”");
    expect(
      floorView(floor, MACHINE_KIND_WORDS, "inch", "", NOW).machines[0].says,
    ).toContain("10.6 tenths");
  });
});

describe("a guided run", () => {
  it("names the step, the count and what is read, and ends", () => {
    const view = runView(runWith([0, 0.001, 0.027]), config, "metric");
    expect(view.stepName).toBe("Run 2 of 2, approach from below");
    expect([view.done, view.all]).toEqual([2, 4]);
    expect(view.rows.map((r) => r.cells.map((c) => c.text))).toEqual([
      ["+1.0", ""],
      ["+27.0", ""],
    ]);
    expect(view.rows[0].cells[1].now).toBe(true);
    expect(view.last?.value).toBe(0.027);
    const done = runView(
      runWith([0, 0, 0.027, 0.001, 0.028]),
      config,
      "metric",
    );
    expect(done.step).toBeNull();
    expect(done.rows[1].mean).toBe("+27.5");
  });

  it("shows the display’s own digits with the sign", () => {
    expect(liveText(0.0258, 0.0001, "metric")).toBe("+0.0258");
    expect(liveText(-0.002, 0.001, "metric")).toBe("−0.002");
    expect(liveText(null, 0.001, "metric")).toBe("no contact");
    expect(liveText(0.0127, 0.0127, "inch")).toBe("+0.0005");
  });

  it("gives headline, verdict and chart once both sides are read", () => {
    const run = runWith([0, 0, 0.027, 0.001, 0.028]);
    expect(resultView(runWith([0, 0]), config, "metric")).toBeNull();
    const view = resultView(run, config, "metric");
    expect(view?.headline).toMatch(/^2[67](\.\d)?$|^27$/);
    expect(view?.state).toBe("act");
    if (!view) throw new Error("no result");
    const series = profileSeries(view.result, config, "metric");
    expect(series.down.map((p) => p.y)).toEqual([27, 28]);
    expect(series.limit[0].y).toBeCloseTo(25.5, 9);
  });

  it("reads what is typed and refuses what cannot be", () => {
    const step = stepsOf(plan)[1];
    expect(typedEntry("0,012", step, "mm", 0.001, 10, false)).toMatchObject({
      ok: true,
      reading: { value: 0.012 },
    });
    expect(typedEntry(".0005", step, "in", 0.0127, 10, false)).toMatchObject({
      reading: { value: 0.0127 },
    });
    expect(typedEntry("12", step, "mm", 0.001, 0.8, false)).toMatchObject({
      ok: false,
      wrong: expect.stringContaining("reaches over 0.8 mm"),
    });
    expect(dialEntry("2", 0.625, true, step, 0.01, 10, false)).toMatchObject({
      reading: { value: -0.02625, widthMm: 0.0025 },
    });
    expect(dialEntry("2.5", 0, false, step, 0.01, 10, false).ok).toBe(false);
  });
});

describe("setting a test up", () => {
  it("starts from what is usual and is right", () => {
    for (const kind of [
      "tick-count",
      "out-and-back",
      "two-sided",
      "travel-profile",
    ] as const) {
      for (const system of ["metric", "inch"] as const) {
        const draft = usualSetUp(kind, config, indicator, system);
        const check = checkSetUp(draft, kind, config, indicator, system);
        expect([...check.errors]).toEqual([]);
        expect(check.plan?.kind).toBe(kind);
      }
    }
  });

  it("warns before, not after: coarse displays and steep tips", () => {
    const draft = usualSetUp("two-sided", config, indicator, "metric");
    const coarse = { ...indicator, resolutionMm: 0.0127 };
    expect(
      checkSetUp(draft, "two-sided", config, coarse, "metric").warnings.join(),
    ).toContain("too coarse");
    expect(
      checkSetUp(
        { ...draft, tipAngle: "20" },
        "two-sided",
        config,
        indicator,
        "metric",
      ).warnings.join(),
    ).toContain("A tip at 20° is steep");
    const bad = checkSetUp(
      { ...draft, places: "5", runs: "x" },
      "two-sided",
      config,
      indicator,
      "metric",
    );
    expect(bad.errors.get("runs")).toBe("“x” is not a number.");
    expect(bad.plan).toBeNull();
  });

  it("keeps the zero only with an indicator that reaches over all places", () => {
    const draft = usualSetUp("travel-profile", config, indicator, "metric");
    const scale = { ...indicator, rangeMm: 6000 };
    expect(
      checkSetUp(draft, "travel-profile", config, scale, "metric").plan
        ?.keepsZero,
    ).toBe(true);
    expect(
      checkSetUp(draft, "travel-profile", config, indicator, "metric").plan
        ?.keepsZero,
    ).toBe(false);
  });
});

describe("the chain, the axis form, the history and words", () => {
  it("draws what nobody looked at as unknown", () => {
    const links = chainView(
      config,
      { lostMm: 0.027, expandedMm: 0.002, at: NOW.toISOString() },
      "metric",
      NOW,
    );
    expect(links.find((l) => l.id === "screw")).toMatchObject({
      known: false,
      state: "unknown",
    });
    expect(links.find((l) => l.id === "member")).toMatchObject({
      state: "act",
      value: "27.0 ±2.0 µm lost",
    });
  });

  it("keeps numbers through units and lists differences", () => {
    expect(numberText(0.025, "limits.repairMm", "metric")).toBe("25");
    expect(numberFrom("1", "travelMm", "inch")).toBe(25.4);
    expect(numberFrom("abc", "travelMm", "metric")).toBeNaN();
    expect(
      differences(
        { ...config, travelMm: 640 },
        { ...config, travelMm: 650 },
        "metric",
      ),
    ).toEqual([
      { path: "travelMm", label: "Travel", mine: "640 mm", theirs: "650 mm" },
    ]);
  });

  it("tells a real change from a seeming one, and a trend", () => {
    const run = (id: number, month: number, lostMm: number): RunSummary => ({
      id,
      kind: "two-sided",
      state: "finished",
      at: `2026-0${month}-01T12:00:00.000Z`,
      by: "Ama",
      lostMm,
      expandedMm: 0.001,
      placeMm: 180,
      readings: 11,
      imported: false,
    });
    const history: History = {
      runs: [run(1, 1, 0.01), run(2, 2, 0.0105), run(3, 3, 0.016)],
      events: [],
    };
    expect(comparisonSentence(history, 1, 2, "metric")).toContain(
      "within the uncertainty",
    );
    expect(comparisonSentence(history, 1, 3, "metric")).toContain(
      "so it is real",
    );
    expect(comparisonSentence(history, 1, 1, "metric")).toBe(
      "Choose two different measurements.",
    );
    expect(
      trendSentence(
        { ...history, runs: history.runs.slice(1) },
        "all",
        config,
        "metric",
      ),
    ).toContain("needs three");
  });

  it("says days, ages and counts as people do", () => {
    expect(dayWords("2026-03-03T12:00:00", NOW)).toBe("Tue 3 Mar");
    expect(dayWords("2024-03-03T12:00:00", NOW)).toBe("Sun 3 Mar 2024");
    expect(ageWords("2026-03-03T08:00:00Z", NOW)).toBe("today");
    expect(ageWords("2025-03-03T08:00:00Z", NOW)).toBe("12 mo");
    expect(countWords(4, "machine", "machines")).toBe("Four machines");
  });
});
