import { usualCorrectionRules } from "@iron/core";
import type { CorrectionCreate } from "@iron/contract";

/** A table of Heron X, as its form would send it. */
export const tableBody = (runId: number): CorrectionCreate => ({
  runId,
  rules: usualCorrectionRules(2000, 100),
  warmth: { carrierC: 20, referenceC: 20, carrierPerK: 8, referencePerK: 8, uK: 1 },
  laser: null,
  referenceUPerM: 0.001,
  old: null,
  note: "",
});
