import { formatNumber, fromMm, TEST_TEXT, type UnitSystem } from "@iron/core";
import { guardFormula, type Axis, type History, type Run } from "@iron/contract";
import Papa from "papaparse";
import type { FileAnswer } from "../http/mount";

interface HistoryToWrite {
  readonly history: History;
  readonly runs: AsyncIterable<Run>;
  readonly format: "csv" | "json";
  readonly system: UnitSystem;
}

/** History of an axis as a file: CSV has a line a test or event, JSON all readings as well. */
export function historyFile(axis: Axis, { history, runs, format, system }: HistoryToWrite): FileAnswer {
  const name = `axis-${axis.id}-${axis.config.letter}-history`;
  if (format === "json")
    return {
      fileName: `${name}.json`,
      media: "application/json",
      text: jsonOf(axis, history, runs),
    };
  const unit = system === "inch" ? "in" : "mm";
  const length = (mm: number | null): string =>
    mm === null ? "" : formatNumber(fromMm(mm, unit), unit === "mm" ? 5 : 7).replace("−", "-");
  const rows = [
    ...history.runs.map((r) => ({
      at: r.at,
      what: TEST_TEXT[r.kind].name,
      state: r.state,
      [`lost_${unit}`]: length(r.reversalValueMm),
      [`expanded_uncertainty_${unit}`]: length(r.expandedMm),
      [`place_${unit}`]: length(r.placeMm),
      by: guardFormula(r.by),
      text: guardFormula(r.reason),
    })),
    ...history.typed.map((r) => ({
      at: r.at,
      what: TEST_TEXT[r.kind].name,
      state: "typed",
      [`lost_${unit}`]: length(r.reversalValueMm),
      [`expanded_uncertainty_${unit}`]: length(r.expandedMm),
      [`place_${unit}`]: length(r.placeMm),
      by: guardFormula(r.by),
      text: `typed in job ${r.jobId}`,
    })),
    ...history.events.map((e) => ({
      at: e.at,
      what: e.kind,
      state: "",
      [`lost_${unit}`]: "",
      [`expanded_uncertainty_${unit}`]: "",
      [`place_${unit}`]: "",
      by: guardFormula(e.by),
      text: guardFormula(e.text),
    })),
  ].sort((a, b) => a.at.localeCompare(b.at));
  return {
    fileName: `${name}.csv`,
    media: "text/csv",
    text: Papa.unparse(rows, { newline: "\n" }),
  };
}

/** One JSON object, with the tests in it told one after the other, a line each. */
async function* jsonOf(axis: Axis, history: History, runs: AsyncIterable<Run>): AsyncGenerator<string> {
  const head = JSON.stringify({ axis, ...history }, null, 2);
  yield `${head.slice(0, head.lastIndexOf("\n}"))},\n  "tests": [`;
  let between = "\n";
  for await (const run of runs) {
    yield `${between}    ${JSON.stringify(run)}`;
    between = ",\n";
  }
  yield "\n  ]\n}\n";
}
