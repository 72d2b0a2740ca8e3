import { causeById, finding, locateTest, type FindingId } from "@iron/core";
import { guardFormula, type Diagnosis, type Case } from "@iron/contract";
import Papa from "papaparse";
import type { FileAnswer } from "../http/mount";

interface Line {
  readonly by: string;
  readonly source: string;
  readonly what: string;
  readonly answer: string;
}

const line = (at: string, { by, source, what, answer }: Line): Record<string, string> => ({
  at,
  by: guardFormula(by),
  source,
  what: guardFormula(what),
  answer: guardFormula(answer),
});

/** A case as a file: JSON with everything, CSV with a line for each piece of evidence. */
export function caseFile(file: Case, diagnosis: Diagnosis, format: "csv" | "json"): FileAnswer {
  const name = `case-${file.id}`;
  if (format === "json") {
    const text = JSON.stringify({ case: file, diagnosis }, null, 2);
    return { fileName: `${name}.json`, media: "application/json", text };
  }
  const textOf = (id: string): string => finding(id as FindingId).text;
  const rows = [
    ...Object.entries(file.told).flatMap(([axisId, { answers }]) =>
      Object.entries(answers).map(([id, present]) => {
        const source = finding(id as FindingId).asked ? "symptom" : "in the hand";
        return line(file.openedAt, {
          by: file.by,
          source: file.axisIds.length > 1 ? `${source}, axis ${axisId}` : source,
          what: textOf(id),
          answer: present ? "yes" : "no",
        });
      }),
    ),
    ...file.results.flatMap((r) =>
      Object.entries(r.answers).map(([id, present]) =>
        line(r.at, {
          by: r.by,
          source: `${locateTest(r.test)?.name ?? r.test}${r.withdrawn ? ", taken back" : ""}`,
          what: textOf(id),
          answer: present ? "yes" : "no",
        }),
      ),
    ),
    ...diagnosis.measured.map((m) =>
      line(m.at, {
        by: "",
        source: locateTest(m.kind)?.name ?? m.kind,
        what: "lost_mm",
        answer: `${m.reversalValueMm.toFixed(5)} +/- ${m.expandedMm.toFixed(5)}`,
      }),
    ),
    // What was measured and does not fit together names nothing.
    ...(diagnosis.fits ? diagnosis.leading : []).map((l) =>
      line("", { by: "", source: "likely", what: l.cause.name, answer: l.probability.toFixed(4) }),
    ),
    ...(file.closed
      ? [
          line(file.closed.at, {
            by: file.closed.by,
            source: "found",
            what: file.closed.words,
            answer: file.closed.found.map((id) => causeById(id)?.name ?? id).join("; ") || "nothing wrong",
          }),
        ]
      : []),
  ];
  return {
    fileName: `${name}.csv`,
    media: "text/csv",
    text: Papa.unparse(rows, { newline: "\n" }),
  };
}
