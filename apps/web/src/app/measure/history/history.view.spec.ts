import { defaultAxis } from "@iron/core";
import type { History, RunSummary } from "@iron/contract";
import { chainView } from "../../chain/chain-strip";
import { ageText, countText, dayText } from "../../shared/times.text";
import { differences, numberFrom, numberText } from "../../machine/axis/config-fields";
import { comparisonSentence, historyChartData, historyRows, measuredOf, trendSentence } from "./history.view";

const config = defaultAxis("vertical-centre", "Z");
const NOW = new Date("2026-03-03T12:00:00Z");

describe("the chain, the axis form, the history and words", () => {
  it("draws what nobody looked at as unknown", () => {
    const links = chainView(
      config,
      { reversalValueMm: 0.029, expandedMm: 0.002, at: NOW.toISOString() },
      { system: "metric", now: NOW },
    );
    expect(links.find((l) => l.id === "screw")).toMatchObject({
      known: false,
      state: "unknown",
    });
    expect(links.find((l) => l.id === "member")).toMatchObject({
      state: "act",
      value: "29.0 ± 2.0 µm lost",
    });
  });

  it("keeps numbers through units and lists differences", () => {
    expect(numberText(0.025, "limits.repairMm", "metric")).toBe("25");
    expect(numberFrom("1", "travelMm", "inch")).toBe(25.4);
    expect(numberFrom("abc", "travelMm", "metric")).toBeNaN();
    expect(differences({ ...config, travelMm: 640 }, { ...config, travelMm: 650 }, "metric")).toEqual([
      { path: "travelMm", label: "Travel", mine: "640 mm", theirs: "650 mm" },
    ]);
  });

  it("a retest typed in a job stands among the tests, is compared with them, and opens its job", () => {
    const typed = {
      jobId: 7,
      kind: "two-sided" as const,
      reversalValueMm: 0.004,
      expandedMm: 0.001,
      placeMm: 180,
      at: "2026-02-15T12:00:00.000Z",
      by: "Tomas",
    };
    const test: RunSummary = {
      id: 1,
      kind: "two-sided",
      state: "finished",
      at: "2026-01-01T12:00:00.000Z",
      by: "Ama",
      reversalValueMm: 0.02,
      expandedMm: 0.001,
      placeMm: 180,
      readings: 11,
      imported: false,
      reason: "",
    };
    const history: History = { runs: [test], typed: [typed], events: [] };
    expect(historyRows(history, "all", "metric")).toMatchObject([
      {
        runId: null,
        jobId: 7,
        kind: expect.stringContaining("job 7") as string,
      },
      { runId: 1, jobId: null },
    ]);
    const [first, second] = measuredOf(history, "all").map((m) => m.key);
    expect(comparisonSentence(history, { firstKey: first, secondKey: second, system: "metric" })).toContain(
      "so it is real",
    );
    expect(historyChartData(history, { kind: "all", config, system: "metric" }).points.map((q) => q.y)).toEqual([
      20, 4,
    ]);
  });

  it("tells a real change from a seeming one, and a trend", () => {
    const run = (id: number, month: number, reversalValueMm: number): RunSummary => ({
      id,
      kind: "two-sided",
      state: "finished",
      at: `2026-0${month}-01T12:00:00.000Z`,
      by: "Ama",
      reversalValueMm,
      expandedMm: 0.001,
      placeMm: 180,
      readings: 11,
      imported: false,
      reason: "",
    });
    const history: History = {
      runs: [run(1, 1, 0.01), run(2, 2, 0.0105), run(3, 3, 0.016)],
      typed: [],
      events: [],
    };
    expect(comparisonSentence(history, { firstKey: "run 1", secondKey: "run 2", system: "metric" })).toContain(
      "within the uncertainty",
    );
    expect(comparisonSentence(history, { firstKey: "run 1", secondKey: "run 3", system: "metric" })).toContain(
      "so it is real",
    );
    expect(comparisonSentence(history, { firstKey: "run 1", secondKey: "run 1", system: "metric" })).toBe(
      "Choose two different measurements.",
    );
    expect(
      trendSentence({ ...history, runs: history.runs.slice(1) }, { kind: "all", config, system: "metric" }),
    ).toContain("needs three");
  });

  it("says days, ages and counts as people do", () => {
    expect(dayText("2026-03-03T12:00:00", NOW)).toBe("Tue 3 Mar");
    expect(dayText("2024-03-03T12:00:00", NOW)).toBe("Sun 3 Mar 2024");
    expect(ageText("2026-03-03T08:00:00Z", NOW)).toBe("today");
    expect(ageText("2025-03-03T08:00:00Z", NOW)).toBe("12\u00a0mo");
    expect(countText(4, "machine", "machines")).toBe("Four machines");
  });
});
