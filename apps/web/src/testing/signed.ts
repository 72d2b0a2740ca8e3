import type { PlannedStep, SignedStep } from "@iron/core";

/** A step signed with nothing found, typed or taken over. */
export function newSign(step: PlannedStep): SignedStep {
  return {
    step: step.id,
    found: null,
    words: "",
    reading: null,
    reason: "",
    kept: null,
    change: "",
    holdBy: "",
    figure: null,
  };
}
