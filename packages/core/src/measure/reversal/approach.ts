/** The way the last movement went: towards plus or towards minus. */
export type Direction = "+" | "-";

/** What is remembered of the movements of an axis, from its commanded positions. */
export interface ApproachTrack {
  readonly positionMm: number;
  readonly lastDirection: Direction | null;
  /** Where the last stroke began: the place of the last reversal. */
  readonly strokeStartMm: number;
}

/**
 * The track of an axis that has not moved yet.
 * @param positionMm - where it stands, mm
 * @returns the track
 * @example startTrack(100).lastDirection // null
 */
export function startTrack(positionMm: number): ApproachTrack {
  return { positionMm, lastDirection: null, strokeStartMm: positionMm };
}

/**
 * Takes the next commanded position in. Steps below `noiseMm` are not movements.
 * @param track - so far
 * @param positionMm - next commanded position, mm
 * @param noiseMm - less than this is no movement
 * @returns the track
 * @example followTrack(startTrack(100), 101).lastDirection // "+"
 */
export function followTrack(track: ApproachTrack, positionMm: number, noiseMm = 1e-7): ApproachTrack {
  const moved = positionMm - track.positionMm;
  if (Math.abs(moved) <= noiseMm) return track;
  const direction: Direction = moved > 0 ? "+" : "-";
  const turned = direction !== track.lastDirection;
  return {
    positionMm,
    lastDirection: direction,
    strokeStartMm: turned ? track.positionMm : track.strokeStartMm,
  };
}

/** What an approach should have been. */
export interface WantedApproach {
  readonly targetMm: number;
  readonly direction: Direction;
  /** The stroke before the target must be at least this long, or slack may be left in. */
  readonly minRunUpMm: number;
  readonly toleranceMm: number;
}

export type ApproachJudgement =
  | { readonly kind: "good" }
  | { readonly kind: "not-at-target"; readonly missingMm: number }
  | { readonly kind: "overshot"; readonly byMm: number }
  | { readonly kind: "wrong-side" }
  | { readonly kind: "short-run-up"; readonly runUpMm: number };

/**
 * A direction as a sign.
 * @param direction - “+” or “-”
 * @returns 1 or −1
 * @example signOf("-") // -1
 */
export function signOf(direction: Direction): 1 | -1 {
  return direction === "+" ? 1 : -1;
}

/**
 * Judges the last approach. A target that was passed before stopping spoils the reading, whether the
 * axis still stands beyond it or was jogged back: the slack was then taken up from the other side by
 * an amount nobody knows, so no correction can mend it.
 * @param track - how the axis came
 * @param wanted - place, direction, run-up and tolerance, mm
 * @returns good, or what is wrong with it and by how much
 * @example
 * judgeApproach(followTrack(startTrack(95), 100), { targetMm: 100, direction: "+", minRunUpMm: 2, toleranceMm: 0.0006 }).kind
 * // "good"
 */
export function judgeApproach(track: ApproachTrack, wanted: WantedApproach): ApproachJudgement {
  const { targetMm, direction, toleranceMm, minRunUpMm } = wanted;
  const sign = signOf(direction);
  const beyond = (track.positionMm - targetMm) * sign;
  const stroke = Math.abs(track.positionMm - track.strokeStartMm);
  if (Math.abs(beyond) > toleranceMm) {
    const startedBefore = (targetMm - track.strokeStartMm) * sign > toleranceMm;
    if (beyond > 0 && track.lastDirection === direction && startedBefore && beyond < minRunUpMm) {
      return { kind: "overshot", byMm: beyond };
    }
    return { kind: "not-at-target", missingMm: targetMm - track.positionMm };
  }
  if (track.lastDirection !== direction) {
    const cameBack = (track.strokeStartMm - targetMm) * sign > 0 && stroke < minRunUpMm;
    return cameBack ? { kind: "overshot", byMm: stroke } : { kind: "wrong-side" };
  }
  if (stroke < minRunUpMm - toleranceMm) return { kind: "short-run-up", runUpMm: stroke };
  return { kind: "good" };
}
