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

/** What the angles of a trace alone say: it is asked for every part that is taken out of the deviations again. */
export interface Around {
  readonly cos: Float64Array;
  readonly sin: Float64Array;
  /** Readings by their angle within one turn. */
  readonly order: Uint32Array;
  /** Those angles, rad, from the smallest. */
  readonly at: Float64Array;
}

const known = new WeakMap<Float64Array, Around>();

/**
 * What the angles of a trace say, worked out once for as long as they are kept.
 * @param trace - as it was read; its angles are not changed afterwards
 * @returns cosines, sines, and the order by angle
 * @example aroundOf({ angles: Float64Array.of(3, 1) }).order[0] // 1
 */
export function aroundOf({ angles }: Pick<CircleTrace, "angles">): Around {
  let around = known.get(angles);
  if (!around) {
    const within = angles.map(turned);
    const order = orderOf(within);
    const at = Float64Array.from(order, (i) => within[i]);
    around = { cos: angles.map(Math.cos), sin: angles.map(Math.sin), order, at };
    known.set(angles, around);
  }
  return around;
}

/** Indices by value; a round that was passed once is only turned to its beginning. */
function orderOf(within: Float64Array): Uint32Array {
  const count = within.length;
  const order = Uint32Array.from({ length: count }, (_, i) => i);
  let [ups, downs, begin] = [0, 0, 0];
  for (let i = 1; i < count; i += 1)
    if (within[i] >= within[i - 1]) ups += 1;
    else downs += 1;
  const way = ups >= downs ? 1 : -1;
  let seams = 0;
  for (let i = 1; i < count; i += 1)
    if (way * (within[i] - within[i - 1]) < 0) {
      seams += 1;
      begin = i;
    }
  // The first must come behind the last, where the seam is not at its ends.
  const closes = seams === 0 || (seams === 1 && way * (within[0] - within[count - 1]) >= 0);
  if (!closes) return order.sort((a, b) => within[a] - within[b]);
  const turnedTo = order.map((i) => (i + begin) % count);
  return way === 1 ? turnedTo : turnedTo.reverse();
}

/**
 * Does a trace go all the way round? Radius and centre can be told from scale and square on a full circle only.
 * @param trace - as it was read
 * @returns whether its largest gap is under twelve degrees
 * @example isFullCircle({ direction: 1, angles: Float64Array.of(0, 1), deviations: Float64Array.of(0, 0) }) // false
 */
export function isFullCircle({ angles }: CircleTrace): boolean {
  if (angles.length < 12) return false;
  const { at: sorted } = aroundOf({ angles });
  let gap = sorted[0] + TURN - sorted[sorted.length - 1];
  for (let i = 1; i < sorted.length; i += 1) gap = Math.max(gap, sorted[i] - sorted[i - 1]);
  return gap < GAP;
}
