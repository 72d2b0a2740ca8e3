import {
  makeCorrection,
  mayCompensate,
  predictCorrection,
  unevenPlaces,
  usualCorrectionRules,
  type CorrectionRules,
  type KnownLoss,
} from "@iron/core";
import type { CorrectionCreate, CorrectionRecord, Corrections, CorrectionTrial } from "@iron/contract";

const RULES = usualCorrectionRules(500, 50);

/** What a form of a table would send. */
export const tableGiven = (over: Partial<CorrectionRules> = {}): CorrectionCreate => ({
  runId: 8,
  rules: { ...RULES, ...over },
  warmth: { carrierC: 20, referenceC: 20, carrierPerK: 11.5, referencePerK: 8, uK: 0.5 },
  laser: null,
  referenceUPerM: 0.001,
  old: null,
  note: "",
});

/** A table worked out of an axis that is long by so much from end to end. */
export function tableTrial(
  over: Partial<CorrectionRules> = {},
  { longMm = 0.04, losses = [] }: { readonly longMm?: number; readonly losses?: readonly KnownLoss[] } = {},
): CorrectionTrial {
  const given = tableGiven(over);
  const targets = unevenPlaces([15, 485], 50, 10).map((positionMm) => ({
    positionMm,
    up: [0, 0.0004].map((e) => (longMm * positionMm) / 500 + e),
    down: [0, 0.0004].map((e) => (longMm * positionMm) / 500 + e + 0.004),
  }));
  const basis = { ...given, targets, old: null, referenceMm: given.rules.referenceMm };
  const options = { rules: given.rules, perTurnMm: 10, travelMm: 500 };
  const made = makeCorrection(basis, options);
  const limits = { leaveMm: 0.01, repairMm: 0.025 };
  return {
    made,
    prediction: predictCorrection(basis, made.table, options),
    may: mayCompensate(losses, { limits, endFloat: null, enteredMm: 0 }),
  };
}

export function tableRecord(
  over: Partial<CorrectionRecord> = {},
  rules: Partial<CorrectionRules> = {},
): CorrectionRecord {
  return {
    ...tableTrial(rules),
    id: 3,
    axisId: 2,
    machineId: 1,
    version: 1,
    given: tableGiven(rules),
    at: "2026-03-03T08:00:00Z",
    by: "Ama",
    entered: null,
    active: false,
    workedOnAt: null,
    after: [],
    simulated: false,
    ...over,
  };
}

export function tableList(over: Partial<Corrections> = {}): Corrections {
  return {
    profiles: [
      {
        runId: 8,
        at: "2026-03-02T08:00:00Z",
        by: "Ama",
        places: 10,
        runs: 2,
        temperatureC: 21,
        surface: "reference scale",
        activeId: null,
        gapMm: 55,
      },
    ],
    versions: [],
    losses: [],
    simulated: false,
    ...over,
  };
}

/** A version as the list of them shows it. */
export function tableVersion(over: Partial<Corrections["versions"][number]> = {}): Corrections["versions"][number] {
  const { id, version, at, by, entered, active, workedOnAt, made, prediction } = tableRecord();
  return {
    id,
    version,
    at,
    by,
    entered,
    active,
    workedOnAt,
    beforeMm: prediction.before.meanRange,
    afterMm: prediction.after.meanRange,
    note: "",
    table: made.table,
    ...over,
  };
}
