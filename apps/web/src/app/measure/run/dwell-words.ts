import type { DwellWord } from "@iron/core";
import type { Choice } from "../../shared/fields";

/** How controls write a dwell. */
export const DWELL_WORDS: readonly Choice<DwellWord>[] = [
  { id: "P-seconds", label: "G4 P, seconds" },
  { id: "P-milliseconds", label: "G4 P, milliseconds" },
  { id: "X-seconds", label: "G4 X, seconds" },
];
