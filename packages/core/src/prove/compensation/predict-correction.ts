import { evaluatePositioning, missingForStandard, type TargetReadings } from "../../measure/reversal";
import { mean } from "../../quantity";
import { correctionAt, type Correction, type CorrectionRules } from "./correction";
import { correctionOf } from "./make-correction";
import { bareTargets, lengthU, type ProfileBasis } from "./profile-basis";

/** Quantities of ISO 230-2 before and after a table, mm. */
export interface PositioningFigures {
  /** Range of the mean of both directions, M. */
  readonly meanRange: number;
  /** Systematic deviation, E. */
  readonly systematic: number;
  /** Accuracy, A; null where the runs do not tell the scatter. */
  readonly accuracy: number | null;
  /** Reversal value, B. */
  readonly reversal: number;
}

export interface CorrectionPrediction {
  /** At 20 °C with what was active while it was read. */
  readonly before: PositioningFigures;
  /** The same readings with the new table, as if nothing else changed. */
  readonly after: PositioningFigures;
  /** What a run sees that the table was not made from: mean range of a single run, averaged; null with one run. */
  readonly unseenRangeMm: number | null;
  /** Largest error at a place that the table was not made from: what lies between the points. Null with few places. */
  readonly betweenMm: number | null;
  /** Expanded uncertainty of M over the length that was read, mm. */
  readonly uMm: number;
  /** What keeps the names of the standard from being used; empty where nothing does. */
  readonly missing: readonly string[];
  readonly byPlace: readonly {
    readonly positionMm: number;
    readonly beforeUp: number;
    readonly beforeDown: number;
    readonly afterUp: number;
    readonly afterDown: number;
  }[];
}

interface MadeFor {
  readonly rules: CorrectionRules;
  readonly perTurnMm: number;
  readonly travelMm: number;
}

/**
 * Readings of the bare machine with a table’s correction added to each.
 * @param bare - readings by place, mm
 * @param table - added; null for none
 * @returns readings by place, mm
 * @example withCorrection([{ positionMm: 1, up: [0.002], down: [0] }], null)[0].up[0] // 0.002
 */
export function withCorrection(bare: readonly TargetReadings[], table: Correction | null): readonly TargetReadings[] {
  if (!table) return bare;
  return bare.map(({ positionMm, up, down }) => ({
    positionMm,
    up: up.map((v) => v + correctionAt(table, positionMm, "+")),
    down: down.map((v) => v + correctionAt(table, positionMm, "-")),
  }));
}

function figures(targets: readonly TargetReadings[]): PositioningFigures {
  const all = evaluatePositioning(targets);
  const { meanRange, systematic, accuracy, reversalValue } = all;
  return { meanRange, systematic, accuracy: Number.isFinite(accuracy) ? accuracy : null, reversal: reversalValue };
}

/**
 * What a table will do: it is laid, rounded as it will stand in the control, on the readings themselves; and so that this
 * is no flattery, each run is judged by a table made without it, and each place by one made without that place.
 * @param basis - readings and what is known of them
 * @param table - to be entered
 * @param made - rules, travel for a turn and travel, as it was made with
 * @returns figures before and after, mm
 * @example
 * const warmth = { carrierC: 20, referenceC: 20, carrierPerK: 11.5, referencePerK: 11.5, uK: 0 };
 * const targets = [50, 450].map((positionMm) => ({ positionMm, up: [positionMm / 1e4], down: [positionMm / 1e4] }));
 * const basis = { targets, warmth, laser: null, referenceUPerM: 0, old: null, referenceMm: 0 };
 * const made = { rules: usualCorrectionRules(500), perTurnMm: 10, travelMm: 500 };
 * predictCorrection(basis, makeCorrection(basis, made).table, made).after.meanRange.toFixed(3) // "0.000"
 */
export function predictCorrection(basis: ProfileBasis, table: Correction, made: MadeFor): CorrectionPrediction {
  const bare = bareTargets(basis);
  const before = withCorrection(bare, basis.old);
  const after = withCorrection(bare, table);
  const places = bare.map((t) => t.positionMm);
  const ends = [Math.min(...places), Math.max(...places)];
  return {
    before: figures(before),
    after: figures(after),
    unseenRangeMm: unseenRange(basis, made),
    betweenMm: between(basis, made),
    uMm: lengthU({ ...basis, referenceMm: ends[0] }, ends[1]),
    missing: missingForStandard(basis.targets, true),
    byPlace: bare.map(({ positionMm }, i) => ({
      positionMm,
      beforeUp: mean(before[i].up),
      beforeDown: mean(before[i].down),
      afterUp: mean(after[i].up),
      afterDown: mean(after[i].down),
    })),
  };
}

/** Each run against a table that was made from the others. */
function unseenRange(basis: ProfileBasis, made: MadeFor): number | null {
  const runs = Math.min(...basis.targets.flatMap((t) => [t.up.length, t.down.length]));
  if (runs < 2) return null;
  const ranges = Array.from({ length: runs }, (_, run) => {
    const others = basis.targets.map((t) => ({
      ...t,
      up: t.up.filter((_v, i) => i !== run),
      down: t.down.filter((_v, i) => i !== run),
    }));
    const { table } = correctionOf({ ...basis, targets: others }, made);
    const own = basis.targets.map((t) => ({ ...t, up: [t.up[run]], down: [t.down[run]] }));
    const seen = withCorrection(bareTargets({ ...basis, targets: own }), table);
    return figures(seen).meanRange;
  });
  return mean(ranges);
}

/** Each inner place against a table that was made without it. */
function between(basis: ProfileBasis, made: MadeFor): number | null {
  const { targets } = basis;
  if (targets.length < 5) return null;
  const bare = bareTargets(basis);
  let largest = 0;
  for (let i = 1; i + 1 < targets.length; i += 1) {
    const { table } = correctionOf({ ...basis, targets: targets.filter((_, n) => n !== i) }, made);
    const { positionMm, meanUp, meanDown } = bare[i];
    // Against its neighbours, so that where zero lies does not count.
    const left = (n: number): number =>
      (bare[n].meanUp + bare[n].meanDown) / 2 +
      (correctionAt(table, bare[n].positionMm, "+") + correctionAt(table, bare[n].positionMm, "-")) / 2;
    const own =
      (meanUp + meanDown) / 2 + (correctionAt(table, positionMm, "+") + correctionAt(table, positionMm, "-")) / 2;
    largest = Math.max(largest, Math.abs(own - (left(i - 1) + left(i + 1)) / 2));
  }
  return largest;
}
