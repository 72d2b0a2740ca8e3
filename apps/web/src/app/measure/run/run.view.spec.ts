import { defaultAxis, stepsOf, type TestPlan } from "@iron/core";
import type { IndicatorRecord, Run } from "@iron/contract";
import { dialEntry, typedEntry } from "./entry.view";
import { profileSeries, resultView } from "./result.view";
import { inOtherUnits } from "../set-up.view";
import { liveText, runView } from "./run.view";

const config = defaultAxis("vertical-centre", "Z");
const indicator: IndicatorRecord = {
  id: 1,
  name: "Lever",
  kind: "lever",
  resolutionMm: 0.001,
  unit: "mm",
  tipAngleDeg: 12,
  rangeMm: 0.8,
  version: 1,
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
    reason: "",
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
  const draft = {
    places: "100; abc; 254",
    runs: "3",
    overTravel: "25.4",
    tick: "0.01",
    ticksOut: "50",
    tipAngle: "12",
    hubRadius: "",
    temperature: "",
  };
  const inch = inOtherUnits(draft, "metric", "inch");
  expect(inch).toMatchObject({ places: "3.93701; abc; 10", overTravel: "1", runs: "3", tipAngle: "12" });
  expect(inOtherUnits(inch, "inch", "metric").places).toBe("100.0001; abc; 254");
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
    expect(runView(spoilt, config, "inch").asides[0].text).toContain("by 0.0004 in");
    expect(runView(spoilt, config, "metric").asides[0].text).toContain("by 0.010 mm");
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
    const done = runView(runWith([0, 0, 0.027, 0.001, 0.028]), config, "metric");
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
    expect(resultView(runWith([0, 0]), config, "metric")).toBeNull();
    // Two runs of 26.5 ± 3 µm hold the limit of 25 µm: nobody can tell, and the page says so.
    const near = resultView(runWith([0, 0, 0.027, 0.001, 0.028]), config, "metric");
    expect([near?.state, near?.verdict.word]).toEqual(["unknown", "cannot tell"]);
    const run = runWith([0, 0, 0.037, 0.001, 0.038]);
    const view = resultView(run, config, "metric");
    expect(view?.headline).toMatch(/^3[67](\.\d)?$/);
    expect(view?.state).toBe("act");
    if (!view) throw new Error("no result");
    const series = profileSeries(view.result, config, "metric");
    expect(series.down.map((p) => p.y)).toEqual([37, 38]);
    expect(series.limit[0].y).toBeCloseTo(25.5, 9);
  });

  it("reads what is typed and refuses what cannot be", () => {
    const step = stepsOf(plan)[1];
    expect(typedEntry("0,012", { step, unit: "mm", resolutionMm: 0.001, rangeMm: 10, spoilt: false })).toMatchObject({
      ok: true,
      reading: { value: 0.012 },
    });
    expect(typedEntry(".0005", { step, unit: "in", resolutionMm: 0.0127, rangeMm: 10, spoilt: false })).toMatchObject({
      reading: { value: 0.0127 },
    });
    expect(typedEntry("12", { step, unit: "mm", resolutionMm: 0.001, rangeMm: 0.8, spoilt: false })).toMatchObject({
      ok: false,
      error: expect.stringContaining("reaches over 0.8 mm"),
    });
    expect(
      dialEntry("2", { fraction: 0.625, negative: true, step, divisionMm: 0.01, rangeMm: 10, spoilt: false }),
    ).toMatchObject({
      reading: { value: -0.02625, widthMm: 0.0025 },
    });
    expect(
      dialEntry("2.5", { fraction: 0, negative: false, step, divisionMm: 0.01, rangeMm: 10, spoilt: false }).ok,
    ).toBe(false);
  });
});
