/** Which way round: from the first axis of the plane towards the second, or back. */
export type CircleDirection = 1 | -1;

/**
 * One way round a circle as it was read. Angles count from the positive first axis towards the positive second and stand in
 * the order they were passed; deviations are measured radius less nominal.
 */
export interface CircleTrace {
  readonly direction: CircleDirection;
  /** rad. */
  readonly angles: Float64Array;
  /** mm. */
  readonly deviations: Float64Array;
}

/** An axis of the plane, as far as a circle shows it. */
export interface CircleAxis {
  readonly letter: string;
  /** Travel for a turn of its screw, mm; null where none turns or it is not known. */
  readonly perTurnMm: number | null;
}

/** What was commanded. */
export interface CircleSetup {
  readonly radiusMm: number;
  readonly feedMmMin: number;
  /** First and second axis of the plane. */
  readonly axes: readonly [CircleAxis, CircleAxis];
  /** Centre in machine coordinates, mm: where along its screw each axis works. */
  readonly centreMm: readonly [number, number];
}

const TURN = 2 * Math.PI;
/** What may lack of a circle and it still counts as full, rad: readings every ten degrees are one. */
const GAP = (12 / 180) * Math.PI;

/**
 * An angle within one turn.
 * @param angle - rad
 * @returns from 0 up to 2π, rad
 * @example turned(-Math.PI / 2) // 4.712
 */
export function turned(angle: number): number {
  const rest = angle % TURN;
  return rest < 0 ? rest + TURN : rest;
}

/**
 * Does a trace go all the way round? Radius and centre can be told from scale and square on a full circle only.
 * @param trace - as it was read
 * @returns whether its largest gap is under twelve degrees
 * @example isFullCircle({ direction: 1, angles: Float64Array.of(0, 1), deviations: Float64Array.of(0, 0) }) // false
 */
export function isFullCircle({ angles }: CircleTrace): boolean {
  if (angles.length < 12) return false;
  const sorted = Float64Array.from(angles, turned).sort();
  let gap = sorted[0] + TURN - sorted[sorted.length - 1];
  for (let i = 1; i < sorted.length; i += 1) gap = Math.max(gap, sorted[i] - sorted[i - 1]);
  return gap < GAP;
}
