import {
  correctionAt,
  correctionFromTyped,
  pointAt,
  stepsOf,
  targetReadings,
  typedSlips,
  typedSlipText,
  typedValues,
  type Correction,
  type KnownLoss,
  type ProfileBasis,
  type VirtualCorrection,
} from "@iron/core";
import {
  indicatorSetup,
  type CorrectionCreate,
  type CorrectionProfile,
  type CorrectionRecord,
  type Run,
} from "@iron/contract";
import type { Selectable } from "kysely";
import { problem } from "../http/problem-error";
import { resultOf } from "../measure/readings";
import type { Tables } from "../store/tables";

export type CorrectionRow = Selectable<Tables["correction"]>;
export type Entry = Selectable<Tables["correction_entry"]>;

export function stateOf(
  row: CorrectionRow,
  {
    version,
    entries,
    worked,
  }: { readonly version: number; readonly entries: readonly Entry[]; readonly worked: string | null },
): Pick<CorrectionRecord, "id" | "version" | "at" | "by" | "entered" | "active" | "workedOnAt"> {
  const entered = entries.find((e) => e.correction_id === row.id);
  return {
    id: row.id,
    version,
    at: row.at,
    by: row.by,
    entered: entered ? { at: entered.at, by: entered.by, how: entered.how } : null,
    active: entries.at(0)?.correction_id === row.id,
    workedOnAt: worked !== null && worked > row.at ? worked : null,
  };
}

/** The readings of a profile and what is known of them, as the core takes them. */
export function basisOf(run: Run, given: CorrectionCreate): ProfileBasis {
  const { warmth, laser, referenceUPerM, old, rules } = given;
  const readings = run.readings.filter((r) => r.state === "kept");
  const targets = targetReadings(run.plan, { steps: stepsOf(run.plan), readings, setup: indicatorSetup(run.setup) });
  return {
    targets: targets.filter((t) => t.up.length > 0 && t.down.length > 0),
    warmth,
    laser,
    referenceUPerM,
    old: old ? correctionFromTyped(old.rules, old) : null,
    referenceMm: rules.referenceMm,
  };
}

export function lossesOf(run: Run): KnownLoss[] {
  return (resultOf(run)?.places ?? []).map((p) => ({
    atMm: p.positionMm,
    valueMm: p.reversalValueMm,
    uMm: p.uncertainty.expanded,
  }));
}

/** Table that stood in a control at an instant, by what was said of it, the newest first; null for none. */
export function activeAt(entries: readonly Entry[], at: string): number | null {
  return entries.find((e) => e.at <= at)?.correction_id ?? null;
}

export function profileOf(run: Run, activeId: number | null): CorrectionProfile {
  const { targetsMm, runs } = run.plan;
  return {
    runId: run.id,
    at: run.finishedAt ?? run.startedAt,
    by: run.by,
    places: targetsMm.length,
    runs,
    temperatureC: run.setup.temperatureC,
    surface: run.setup.surface,
    activeId,
    gapMm: Math.max(...targetsMm.slice(1).map((mm, i) => mm - targetsMm[i])),
  };
}

export function expectTyped(
  table: Correction,
  got: { readonly up: readonly number[]; readonly down: readonly number[] | null },
) {
  const slips = [
    ...typedSlips(typedValues(table, "+"), got.up).map((s) => ({ path: "up", message: typedSlipText(s) })),
    ...(table.down
      ? typedSlips(typedValues(table, "-"), got.down ?? []).map((s) => ({ path: "down", message: typedSlipText(s) }))
      : []),
  ];
  if (slips.length > 0)
    throw problem(422, {
      title: "Not as on the sheet",
      detail: `What was read back is not what the sheet says. ${slips[0].message}`,
      errors: slips.slice(0, 100),
    });
}

export const asControl = (table: Correction): VirtualCorrection => {
  const values = (direction: "+" | "-"): number[] =>
    table.up.map((_, i) => correctionAt(table, pointAt(table.rules, i), direction));
  const { startMm, stepMm } = table.rules;
  return { startMm, stepMm, upMm: values("+"), downMm: table.down ? values("-") : null };
};
