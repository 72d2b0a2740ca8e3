import { NOTHING_TOLD, type Answers, type Case, type SymptomEvidence, type Told } from "@iron/contract";
import type { FindingId } from "@iron/core";

/** Answers as somebody changes them: null takes one away. */
export type AnswerChange = Partial<Record<FindingId, boolean | null>>;

/** What is sent of a case when it is kept. */
export function editOf({ version, context, told, axisIds, notes }: Case) {
  return { version, context, told, axisIds, notes };
}

/** A case with what was told of one of its axes changed. */
export function withTold(file: Case, axisId: number, change: (told: Told) => Told): Case {
  return { ...file, told: { ...file.told, [axisId]: change(file.told[axisId] ?? NOTHING_TOLD) } };
}

/** Answers with some of them given, changed or taken away. */
export function answered(before: Answers, change: AnswerChange): Answers {
  const all = Object.entries({ ...before, ...change }).filter(([, present]) => present !== null);
  return Object.fromEntries(all) as Answers;
}

/** What stands behind a symptom: a note, a measurement or a result. */
export function withEvidence(
  told: Told,
  finding: FindingId,
  change: Partial<NonNullable<SymptomEvidence[FindingId]>>,
): Told {
  const before = { note: "", ref: null, ...told.evidence[finding] };
  return { ...told, evidence: { ...told.evidence, [finding]: { ...before, ...change } } };
}

/** A case of other axes: what was told of one that is left out goes with it. */
export function withAxes(file: Case, axisIds: readonly number[]): Case {
  const told = Object.entries(file.told).filter(([id]) => axisIds.includes(Number(id)));
  return { ...file, axisIds: [...axisIds], told: Object.fromEntries(told) };
}

/** A case as it came from the server, with what was changed here since and not yet sent. */
export function withUnsent(came: Case, now: Case | null, dirty: boolean): Case {
  if (!dirty || now?.id !== came.id) return came;
  const { context, told, axisIds, notes } = now;
  return { ...came, context, told, axisIds, notes };
}
