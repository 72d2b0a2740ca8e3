import { coverageFactor, requireBound, studentQuantile } from "../../quantity";

/** Friction at a setting of the adjuster: turns in from where it began; load in % or pull in N. */
export interface GibPoint {
  readonly turns: number;
  readonly friction: number;
}

/**
 * What a curve over the turns of the adjuster is. `knee`: a floor, then a climb. `flat`: no change at
 * all yet. `steady`: it changes from the first setting to the last, as when it climbed before the
 * first one, or drifts while it is read; then it has no knee, however well one could be drawn.
 */
export type GibShape = "knee" | "flat" | "steady";

export interface GibKnee {
  readonly shape: GibShape;
  /** Turns at which friction begins to climb; means something for a knee only. */
  readonly kneeTurns: number;
  /** Where the knee lies with about 95 % confidence, turns. */
  readonly betweenTurns: readonly [number, number];
  readonly floor: number;
  /** Rise for each turn past the knee, or over all of a steady curve. */
  readonly risePerTurn: number;
  /** Is there a knee at all? */
  readonly reached: boolean;
  readonly deviation: number;
}

interface Fitted {
  readonly knee: number;
  readonly floor: number;
  readonly rise: number;
  readonly squares: number;
}

function squaresOf(points: readonly GibPoint[], at: (turns: number) => number): number {
  let squares = 0;
  for (const p of points) squares += (p.friction - at(p.turns)) ** 2;
  return squares;
}

function fitAt(points: readonly GibPoint[], knee: number): Fitted {
  const { start, slope, squares } = straight(points, knee);
  if (slope > 0) return { knee, floor: start, rise: slope, squares };
  const floor = mean(points);
  return { knee, floor, rise: 0, squares: squaresOf(points, () => floor) };
}

/** A floor wants so many settings, and a climb so many, before either is believed. */
const FLOOR_SETTINGS = 3;
const CLIMB_SETTINGS = 2;
/** Chance of a knee in a curve that has none: flat, or steady (both tails, coverage bench). */
const NO_KNEE = 0.012;
/** Chance of calling a flat curve steady. */
const NO_SLOPE = 0.03;

/**
 * Knee of a friction curve: a flat floor, then a straight climb, by two-segment least squares, held
 * against a flat line and against a straight one. The interval is where the fit is not significantly
 * worse (likelihood ratio, Student’s t). A steady drift or a flat curve is said to have a knee in at
 * most 5 % of cases; a knee that climbs by ten of its scatters is found in more than 90 % (coverage
 * bench). Beyond the knee there is hardly any stiffness to gain and wear climbs (common practice, no
 * source).
 * @param points - settings and readings, at least five
 * @returns shape of the curve, the knee in turns and its interval
 * @throws BoundError with fewer than five settings
 * @example gibKnee([0, 1, 2, 3, 4, 5, 6].map((turns) => ({ turns, friction: 10 + Math.max(0, turns - 3) * 8 }))).kneeTurns // 3
 */
export function gibKnee(points: readonly GibPoint[]): GibKnee {
  requireBound({ "number of settings": points.length }, points.length >= 5, "at least 5");
  const sorted = [...points].sort((a, b) => a.turns - b.turns);
  const first = sorted[0].turns;
  const last = sorted[sorted.length - 1].turns;
  requireBound({ "range of settings": last - first }, last > first, "above 0 turns");
  const tries = 400;
  const grid = Array.from({ length: tries }, (_, i) => fitAt(sorted, first + ((last - first) * i) / tries));
  const enough = grid.filter(
    (f) =>
      sorted.filter((p) => p.turns <= f.knee + 1e-9).length >= FLOOR_SETTINGS &&
      sorted.filter((p) => p.turns > f.knee + 1e-9).length >= CLIMB_SETTINGS,
  );
  const best = (enough.length ? enough : grid).reduce((a, b) => (b.squares < a.squares ? b : a));
  const dof = Math.max(1, sorted.length - 3);
  const noise = Math.max(best.squares, 1e-12 * squaresOf(sorted, () => 0));
  const allowed = noise * (1 + coverageFactor(dof) ** 2 / dof);
  const near = grid.filter((f) => f.squares <= allowed);
  const shape = shapeOf(sorted, best, noise / dof);
  const { slope } = straight(sorted);
  return {
    shape,
    kneeTurns: best.knee,
    betweenTurns: [Math.min(...near.map((f) => f.knee)), Math.max(...near.map((f) => f.knee))],
    floor: best.floor,
    risePerTurn: shape === "steady" ? slope : best.rise,
    reached: shape === "knee",
    deviation: Math.sqrt(best.squares / dof),
  };
}

/** Which of the three it is: the simplest that the readings do not refuse. */
function shapeOf(sorted: readonly GibPoint[], best: Fitted, variance: number): GibShape {
  const dof = Math.max(1, sorted.length - 3);
  const middle = mean(sorted);
  const flat = squaresOf(sorted, () => middle);
  const line = straight(sorted);
  // A knee may stand anywhere, so that chance finds one more often than at a given place.
  const needed = studentQuantile(NO_KNEE, dof) ** 2;
  const kneeBeats = (squares: number): boolean => (squares - best.squares) / variance > needed;
  if (best.rise > 0 && kneeBeats(flat) && kneeBeats(line.squares)) return "knee";
  const lineDof = Math.max(1, sorted.length - 2);
  const lineVariance = Math.max(line.squares, 1e-12 * flat) / lineDof;
  const steady = (flat - line.squares) / lineVariance > studentQuantile(NO_SLOPE, lineDof) ** 2;
  return steady && flat > 0 ? "steady" : "flat";
}

/** Least squares of a straight line over the turns, or over the turns past `from`. */
function straight(
  points: readonly GibPoint[],
  from = -Infinity,
): { readonly start: number; readonly slope: number; readonly squares: number } {
  const start = from === -Infinity ? 0 : from;
  let [t, y] = [0, 0];
  for (const { turns, friction } of points) {
    t += turns > from ? turns - start : 0;
    y += friction;
  }
  t /= points.length;
  y /= points.length;
  let [spread, both, all] = [0, 0, 0];
  for (const { turns, friction } of points) {
    const off = (turns > from ? turns - start : 0) - t;
    const high = friction - y;
    spread += off * off;
    both += off * high;
    all += high * high;
  }
  const slope = spread > 0 ? both / spread : 0;
  return { start: y - slope * t, slope, squares: Math.max(0, all - slope * both) };
}

function mean(points: readonly GibPoint[]): number {
  return points.reduce((s, p) => s + p.friction, 0) / points.length;
}

/**
 * Clearance that turns of the adjuster make on a taper gib, mm: turns · pitch · taper.
 * @param turns - turns of the adjuster
 * @param pitchMm - its pitch, mm
 * @param taper - taper of the gib, 1/60 for 1 in 60
 * @returns clearance, mm
 * @example gibClearance(2, 1.5, 1 / 60) // 0.05
 */
export function gibClearance(turns: number, pitchMm: number, taper: number): number {
  requireBound({ pitch: pitchMm }, pitchMm > 0, "above 0 mm");
  requireBound({ taper }, taper > 0 && taper < 0.2, "above 0 and below 0.2");
  return turns * pitchMm * taper;
}

/**
 * Turns that make a clearance, the inverse of {@link gibClearance}.
 * @param clearanceMm - clearance, mm
 * @param pitchMm - pitch of the adjuster, mm
 * @param taper - taper of the gib, 1/60 for 1 in 60
 * @returns turns of the adjuster
 * @example gibTurns(0.05, 1.5, 1 / 60) // 2
 */
export function gibTurns(clearanceMm: number, pitchMm: number, taper: number): number {
  return clearanceMm / gibClearance(1, pitchMm, taper);
}
