import type { RecordedStep } from "./progress";

/** What a step’s finding tells a case: the test it amounts to, and its answers, by their names there. */
export interface JobEvidence {
  readonly test: string;
  readonly answers: Readonly<Record<string, boolean>>;
}

interface EvidenceRow {
  readonly kinds: readonly string[];
  readonly test: string;
  /** By what was found. */
  readonly found: Readonly<Record<string, Readonly<Record<string, boolean>>>>;
}

// prettier-ignore
const ROWS: readonly EvidenceRow[] = [
  { kinds: ["hub-ease", "tighten:hub-screw"], test: "fastener-check", found: { tight: { "coupling-turns": false }, loose: { "coupling-turns": true }, stripped: { "coupling-turns": true } } },
  { kinds: ["try-end"], test: "fastener-check", found: { tight: { "retainer-turns": false, "housing-turns": false }, loose: { "retainer-turns": true } } },
  { kinds: ["housing-ease", "housing-loosen"], test: "fastener-check", found: { tight: { "housing-turns": false }, loose: { "housing-turns": true } } },
  { kinds: ["bracket-loose", "nut-ease"], test: "fastener-check", found: { tight: { "bracket-turns": false }, loose: { "bracket-turns": true } } },
  { kinds: ["pinion-set"], test: "fastener-check", found: { tight: { "pinion-turns": false }, loose: { "pinion-turns": true } } },
  { kinds: ["finger-feel"], test: "finger-feel", found: { rough: { "rough-finger": true }, rusty: { "rough-finger": true }, smooth: { "rough-finger": false } } },
  { kinds: ["back-drive"], test: "back-drive", found: { winds: { "back-drives": true }, stays: { "back-drives": false } } },
];

/**
 * What a signed step says to the case it belongs to; null where it says nothing. A nut built with
 * clearance winds down when it is healthy: that is no evidence.
 * @param recorded - a step with how it was signed
 * @returns the evidence, or null
 * @example evidenceOf({ step: { id: "note-home", kind: "note-home", finds: [] }, signed: { found: null } }) // null
 */
export function evidenceOf(recorded: RecordedStep): JobEvidence | null {
  const { step, signed } = recorded;
  const row = ROWS.find((r) => r.kinds.includes(step.kind));
  const answers = signed.found === null ? undefined : row?.found[signed.found];
  if (!row || !answers) return null;
  const find = step.finds.find((f) => f.id === signed.found);
  if (step.kind === "back-drive" && signed.found === "winds" && !find?.offers) return null;
  return { test: row.test, answers };
}
