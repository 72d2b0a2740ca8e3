import { causeById, finding, locateTest, type FindingId } from "@iron/core";
import { guardFormula, type Diagnosis, type Case } from "@iron/contract";
import Papa from "papaparse";
import type { FileAnswer } from "../http/mount";

interface Line {
  readonly by: string;
  /** Letter of the axis it is told or measured of; empty for the case as a whole. */
  readonly axis: string;
  readonly source: string;
  readonly what: string;
  readonly answer: string;
}

/** What is known of one axis of a case. */
export interface AxisDiagnosis {
  readonly letter: string;
  readonly diagnosis: Diagnosis;
}

const line = (at: string, { by, axis, source, what, answer }: Line): Record<string, string> => ({
  at,
  by: guardFormula(by),
  axis,
  source,
  what: guardFormula(what),
  answer: guardFormula(answer),
});

const textOf = (id: string): string => finding(id as FindingId).text;
const yesNo = (present: boolean): string => (present ? "yes" : "no");

/** A line for each piece of evidence on one axis, and for what it speaks for. */
function linesOf(file: Case, { letter: axis, diagnosis }: AxisDiagnosis): Record<string, string>[] {
  const told = file.told[diagnosis.axisId]?.answers ?? {};
  const results = file.results.filter((r) => r.axisId === diagnosis.axisId);
  return [
    ...Object.entries(told).map(([id, present]) => {
      const source = finding(id as FindingId).asked ? "symptom" : "in the hand";
      return line(file.openedAt, { by: file.by, axis, source, what: textOf(id), answer: yesNo(present) });
    }),
    ...results.flatMap((r) => {
      const source = `${locateTest(r.test)?.name ?? r.test}${r.withdrawn ? ", taken back" : ""}`;
      return Object.entries(r.answers).map(([id, present]) =>
        line(r.at, { by: r.by, axis, source, what: textOf(id), answer: yesNo(present) }),
      );
    }),
    ...diagnosis.measured.map((m) =>
      line(m.at, {
        by: "",
        axis,
        source: locateTest(m.kind)?.name ?? m.kind,
        what: "lost_mm",
        answer: `${m.reversalValueMm.toFixed(5)} +/- ${m.expandedMm.toFixed(5)}`,
      }),
    ),
    // What was measured and does not fit together names nothing.
    ...(diagnosis.fits ? diagnosis.leading : []).map((l) =>
      line("", { by: "", axis, source: "likely", what: l.cause.name, answer: l.probability.toFixed(4) }),
    ),
  ];
}

/** A case as a file: JSON with everything, CSV with a line for each piece of evidence, axis by axis. */
export function caseFile(file: Case, axes: readonly AxisDiagnosis[], format: "csv" | "json"): FileAnswer {
  const name = `case-${file.id}`;
  if (format === "json") {
    const text = JSON.stringify({ case: file, diagnoses: axes.map((a) => a.diagnosis) }, null, 2);
    return { fileName: `${name}.json`, media: "application/json", text };
  }
  const { closed } = file;
  const found = closed?.found.map((id) => causeById(id)?.name ?? id).join("; ") || "nothing wrong";
  const rows = [
    ...axes.flatMap((axis) => linesOf(file, axis)),
    ...(closed
      ? [line(closed.at, { by: closed.by, axis: "", source: "found", what: closed.words, answer: found })]
      : []),
  ];
  return {
    fileName: `${name}.csv`,
    media: "text/csv",
    text: Papa.unparse(rows, { newline: "\n" }),
  };
}
