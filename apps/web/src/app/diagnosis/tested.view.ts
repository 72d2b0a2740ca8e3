import {
  bothTorques,
  deviationUnit,
  fastenersToTry,
  FINDINGS,
  findingsOf,
  formatDeviation,
  locateTest,
  UNIT_WORD,
} from "@iron/core";
import type { AxisConfig, FindingId, UnitSystem } from "@iron/core";
import type { Case, Diagnosis, ResultData } from "@iron/contract";

type Result = Pick<Case["results"][number], "test" | "answers" | "data" | "note">;

/** What a result said, what it held to be not so, and what nobody looked at: three answers, not two. */
export function resultText(result: Result, axis: AxisConfig): string {
  const test = locateTest(result.test);
  const said = result.data?.kind === "fasteners" ? fastenersText(result.data, axis) : answerText(result, axis);
  return `${test?.name ?? result.test}: ${said}${result.note ? ` ${result.note}` : ""}`;
}

function answerText({ test, answers, data }: Pick<Result, "test" | "answers" | "data">, axis: AxisConfig): string {
  const looked = locateTest(test);
  const asked = looked ? findingsOf(axis, looked) : [];
  const ids = Object.keys(answers) as FindingId[];
  const present = ids.filter((id) => answers[id]);
  const not = ids.filter((id) => answers[id] === false);
  // What readings cannot tell was looked at all the same.
  const open = data ? [] : asked.filter((id) => answers[id] === undefined);
  if (ids.length === 0) return "No answer.";
  // All of it looked for and none of it there needs no list.
  const none = open.length || present.length ? `Not so: ${texts(not)}.` : "Nothing of what it looks for.";
  return sentences([
    present.length && `${capital(texts(present))}.`,
    not.length && (present.length && !open.length ? "" : none),
    open.length && `Not looked at: ${texts(open)}.`,
  ]);
}

function fastenersText(data: Extract<ResultData, { kind: "fasteners" }>, axis: AxisConfig): string {
  const names = (state: string): string[] =>
    data.found
      .filter((f) => f.state === state)
      .map((f) => lower(f.name) + (f.torqueNm === null ? "" : ` at ${bothTorques(f.torqueNm)}`));
  const looked = new Set(data.found.filter((f) => f.state !== "not looked at").map((f) => f.name));
  const open = fastenersToTry(axis).filter((f) => !looked.has(f.name));
  const list = (before: string, all: readonly string[]): string => (all.length ? `${before}: ${all.join("; ")}.` : "");
  return sentences([
    list("Turned", names("turned")),
    list("Missing", names("missing")),
    list("Held", names("tight")),
    list(
      "Not looked at",
      open.map((f) => lower(f.name)),
    ),
  ]);
}

/** What was measured, with its U. */
export function measuredText(one: Diagnosis["measured"][number], system: UnitSystem): string {
  const { kind, circleId, reversalValueMm, expandedMm } = one;
  const size = (mm: number): string => formatDeviation(mm, { system, expandedMm, bare: true });
  const name = circleId === null ? (locateTest(kind)?.name ?? "Whole chain") : `Circle ${circleId}, whole chain`;
  return `${name}: ${size(reversalValueMm)} ± ${size(expandedMm)} ${UNIT_WORD[deviationUnit(system)]}`;
}

/** A record may name what the catalogue no longer has. */
const texts = (ids: readonly FindingId[]): string =>
  ids.map((id) => FINDINGS.find((f) => f.id === id)?.text ?? id).join("; ");
const sentences = (all: readonly (string | false | 0)[]): string => all.filter(Boolean).join(" ");
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
