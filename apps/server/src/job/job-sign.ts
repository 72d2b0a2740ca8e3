import type { PlannedStep } from "@iron/core";
import type { JobAct } from "@iron/contract";
import { randomUUID } from "node:crypto";

export type Sign = Extract<JobAct, { kind: "sign" }>;

/** What a technician would say at a step where all is well. */
export function plainSign(step: PlannedStep, over: Partial<Sign> = {}): Sign {
  const { reading } = step;
  return {
    kind: "sign",
    key: randomUUID(),
    step: step.id,
    system: "metric",
    found: step.finds[0]?.id ?? null,
    words: "",
    reason: "",
    change: "",
    reading: reading && !reading.optional ? ((reading.from ?? 0) + (reading.to ?? 1)) / 2 : null,
    kept: step.keeps ? "as it was" : null,
    holdBy: step.hold ? "Ilse" : "",
    figure: step.retest === "chain" ? { reversalValueMm: 0.006, expandedMm: 0.001, runId: null } : null,
    ...over,
  };
}
