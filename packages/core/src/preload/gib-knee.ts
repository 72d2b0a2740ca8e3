import { normalEquations, solveLinear } from "../lostmotion/nnls";
import { coverageFactor, requireBound } from "../quantity";

/** Friction at a setting of the adjuster: turns in from where it began; load in % or pull in N. */
export interface GibPoint {
  readonly turns: number;
  readonly friction: number;
}

export interface GibKnee {
  /** Turns at which friction begins to climb. */
  readonly kneeTurns: number;
  /** Where the knee lies with about 95 % confidence, turns. */
  readonly betweenTurns: readonly [number, number];
  readonly floor: number;
  /** Rise for each turn past the knee. */
  readonly risePerTurn: number;
  /** Is there a knee at all, or only a floor so far? */
  readonly reached: boolean;
  readonly deviation: number;
}

interface Fitted {
  readonly knee: number;
  readonly floor: number;
  readonly rise: number;
  readonly squares: number;
}

function fitAt(points: readonly GibPoint[], knee: number): Fitted {
  const rows = points.map((p) => [1, Math.max(0, p.turns - knee)]);
  const values = points.map((p) => p.friction);
  const { matrix, right } = normalEquations(rows, values, rows.map(() => 1)); // prettier-ignore
  const solved = solveLinear(matrix, right);
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const [floor, rise] = solved && solved[1] > 0 ? solved : [mean, 0];
  const squares = points.reduce(
    (s, _, i) => s + (values[i] - floor - rise * rows[i][1]) ** 2,
    0,
  );
  return { knee, floor, rise, squares };
}

/**
 * Knee of a friction curve: a flat floor, then a straight climb, by two-segment least squares. The
 * interval is where the fit is not significantly worse (likelihood ratio, Student’s t at 95.45 %).
 * Beyond the knee there is hardly any stiffness to gain and wear climbs (common practice, no source).
 * @throws BoundError with fewer than five settings
 */
export function gibKnee(points: readonly GibPoint[]): GibKnee {
  requireBound("number of settings", points.length, points.length >= 5, "at least 5"); // prettier-ignore
  const sorted = [...points].sort((a, b) => a.turns - b.turns);
  const first = sorted[0].turns;
  const last = sorted[sorted.length - 1].turns;
  requireBound("range of settings", last - first, last > first, "above 0 turns"); // prettier-ignore
  const tries = 400;
  const grid = Array.from({ length: tries }, (_, i) => fitAt(sorted, first + ((last - first) * i) / tries)); // prettier-ignore
  const best = grid.reduce((a, b) => (b.squares < a.squares ? b : a));
  const dof = Math.max(1, sorted.length - 3);
  const t = coverageFactor(dof);
  const noise = Math.max(best.squares, 1e-12);
  const allowed = noise * (1 + t ** 2 / dof);
  const near = grid.filter((f) => f.squares <= allowed);
  const flat = sorted.reduce((s, p) => s + (p.friction - mean(sorted)) ** 2, 0);
  // Without a significant gain over a flat line there is no knee yet (F test, two more parameters).
  const gain = (flat - best.squares) / 2 / (noise / dof);
  return {
    kneeTurns: best.knee,
    betweenTurns: [
      Math.min(...near.map((f) => f.knee)),
      Math.max(...near.map((f) => f.knee)),
    ],
    floor: best.floor,
    risePerTurn: best.rise,
    reached: gain > 6 && best.rise > 0,
    deviation: Math.sqrt(best.squares / dof),
  };
}

function mean(points: readonly GibPoint[]): number {
  return points.reduce((s, p) => s + p.friction, 0) / points.length;
}

/** Clearance that turns of the adjuster make on a taper gib, mm: turns · pitch · taper. */
export function gibClearance(
  turns: number,
  pitchMm: number,
  taper: number,
): number {
  requireBound("pitch", pitchMm, pitchMm > 0, "above 0 mm");
  requireBound("taper", taper, taper > 0 && taper < 0.2, "above 0 and below 0.2"); // prettier-ignore
  return turns * pitchMm * taper;
}

/** Turns that make a clearance, the inverse of {@link gibClearance}. */
export function gibTurns(
  clearanceMm: number,
  pitchMm: number,
  taper: number,
): number {
  return clearanceMm / gibClearance(1, pitchMm, taper);
}

export interface GibAdvice {
  /** Set the adjuster here, turns from where it began. */
  readonly setTurns: number;
  readonly backMm: number;
}

/** Set-back from the knee by a clearance, mm; 0.005 mm is usual (common practice, no source). */
export function gibSetting(
  knee: GibKnee,
  thread: { readonly pitchMm: number; readonly taper: number },
  setBackMm = 0.005,
): GibAdvice {
  const back = gibTurns(setBackMm, thread.pitchMm, thread.taper);
  return { setTurns: knee.kneeTurns - back, backMm: setBackMm };
}
