import { mean, requireBound, sampleDeviation } from "../../quantity";

/** Within this of either end of a turn, home can jump by a whole turn (common practice, no source). */
export const MARKER_MARGIN = 0.2;

export interface MarkerPlace {
  /** Distance from switch trip to marker as a fraction of a turn, 0 to 1. */
  readonly fraction: number;
  readonly safe: boolean;
  /**
   * How much later in the search the switch must trip so that half a turn is left to the same marker,
   * mm; below 0 it must trip earlier. The same marker stays home.
   */
  readonly laterMm: number;
}

/**
 * Where the encoder marker lies after the switch trips; half a turn is best.
 * @param distanceMm - way from the trip to the marker, in the direction of the search
 * @param perTurnMm - travel for a turn of the motor, mm
 * @returns where the marker lies, and how much later the switch must trip, mm
 * @throws BoundError when the travel for a turn is not above 0
 * @example markerPlace(5, 10).fraction // 0.5
 */
export function markerPlace(distanceMm: number, perTurnMm: number): MarkerPlace {
  requireBound({ "travel for a turn": perTurnMm }, perTurnMm > 0, "above 0 mm");
  requireBound({ distance: distanceMm }, distanceMm >= 0, "0 mm or more");
  const fraction = (distanceMm / perTurnMm) % 1;
  return {
    fraction,
    safe: fraction >= MARKER_MARGIN && fraction <= 1 - MARKER_MARGIN,
    laterMm: (fraction - 0.5) * perTurnMm,
  };
}

export interface HomeRepeat {
  readonly meanMm: number;
  readonly deviationMm: number;
  readonly rangeMm: number;
  /** Four sample deviations: what repeats, as unidirectional repeatability in ISO 230-2. */
  readonly repeatMm: number;
  /** Whole turns between the outermost values; above 0 the marker is too near the switch. */
  readonly jumps: number;
}

/**
 * Statistics of homing again and again; whole-turn jumps are told from scatter: called where there is
 * none in under 1 % of cases, found in above 90 % (coverage bench).
 * @param readingsMm - readings at home, mm
 * @param perTurnMm - travel for a turn of the motor, mm
 * @returns mean, scatter and whole-turn jumps
 * @example homeRepeat([0, 0.001, 10.001, 0], 10).jumps // 1
 */
export function homeRepeat(readingsMm: readonly number[], perTurnMm: number): HomeRepeat {
  requireBound({ "number of homings": readingsMm.length }, readingsMm.length >= 3, "at least 3");
  const first = readingsMm[0];
  const turns = readingsMm.map((r) => Math.round((r - first) / perTurnMm));
  const jumps = Math.max(...turns) - Math.min(...turns);
  const within = readingsMm.map((r, i) => r - turns[i] * perTurnMm);
  const s = sampleDeviation(within);
  return {
    meanMm: mean(within),
    deviationMm: s,
    rangeMm: Math.max(...within) - Math.min(...within),
    repeatMm: 4 * s,
    jumps,
  };
}
