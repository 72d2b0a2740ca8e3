import { chiSquaredExceeded, coverageFactor, inQuadrature, mean, rectangular, requireBound } from "../../quantity";

/** Out of square of two axes: how far the second leans towards the first, mm for a mm, with U. Positive: less than 90° between their plus sides. */
export interface SquareValue {
  readonly value: number;
  readonly u: number;
}

/** Readings along a leg of a square: place along the axis that moves, and what was read, mm. */
export interface LegReading {
  readonly atMm: number;
  readonly mm: number;
}

/** A square on the table, one leg set along the first axis, the other swept along the second (ISO 230-1:2012, 10.3, from memory). */
export interface SquareSweep {
  /** Along the first axis on its leg: what was left when it was set; empty where it read the same at both ends. */
  readonly setting: readonly LegReading[];
  readonly sweep: readonly LegReading[];
  /** The square laid over on its other face, the same leg pointing the same way; empty where that was not done. */
  readonly flippedSetting: readonly LegReading[];
  readonly flipped: readonly LegReading[];
  /** Expanded uncertainty of the square itself, mm for a mm, by its certificate. */
  readonly squareU: number;
  /** Full width of what the indicator shows, mm. */
  readonly resolutionMm: number;
}

export interface SquareSwept extends SquareValue {
  /** Error of the square itself, where it was flipped. */
  readonly ownError: SquareValue | null;
}

/** Slope of readings against place, with its standard uncertainty. */
function slope(readings: readonly LegReading[], resolutionMm: number): { readonly m: number; readonly u: number } {
  const centre = mean(readings.map((r) => r.atMm));
  const level = mean(readings.map((r) => r.mm));
  const spread = readings.reduce((sum, r) => sum + (r.atMm - centre) ** 2, 0);
  requireBound({ "length swept": spread }, spread > 0, "above 0 mm: read at two places at least");
  const m = readings.reduce((sum, r) => sum + (r.atMm - centre) * (r.mm - level), 0) / spread;
  const rest = readings.reduce((sum, r) => sum + (r.mm - level - m * (r.atMm - centre)) ** 2, 0);
  const dof = readings.length - 2;
  const step = rectangular(resolutionMm);
  const s = dof > 0 ? Math.sqrt(rest / dof) * (coverageFactor(dof) / 2) : 0;
  return { m, u: Math.max(s, step) / Math.sqrt(spread) };
}

/**
 * Out of square by a square and an indicator. Flipped, the square’s own error falls out and is told.
 * @param sweep - readings
 * @returns out of square with U, and the square’s own error
 * @throws BoundError with fewer than two places on a leg
 * @example
 * const sweep = [{ atMm: 0, mm: 0 }, { atMm: 300, mm: 0.009 }];
 * squareFromSweep({ setting: [], sweep, flippedSetting: [], flipped: [], squareU: 0, resolutionMm: 0.001 }).value // 0.00003
 */
export function squareFromSweep(sweep: SquareSweep): SquareSwept {
  const { resolutionMm } = sweep;
  const one = (setting: readonly LegReading[], leg: readonly LegReading[]): { m: number; u: number } => {
    requireBound({ "places swept": leg.length }, leg.length >= 2, "at least 2");
    const along = slope(leg, resolutionMm);
    // Turned by what is left of the setting, the leg that is swept turns with it.
    const set = setting.length >= 2 ? slope(setting, resolutionMm) : { m: 0, u: 0 };
    return { m: along.m + set.m, u: Math.hypot(along.u, set.u) };
  };
  const first = one(sweep.setting, sweep.sweep);
  if (sweep.flipped.length < 2) return { value: first.m, u: inQuadrature(2 * first.u, sweep.squareU), ownError: null };
  const second = one(sweep.flippedSetting, sweep.flipped);
  const u = Math.hypot(first.u, second.u);
  return {
    value: (first.m + second.m) / 2,
    u,
    ownError: { value: (first.m - second.m) / 2, u },
  };
}

/** Two diagonals of a rectangle, each measured along its own line: long bar, laser, ball plate. */
export interface Diagonals {
  /** Sides along the first and the second axis, mm. */
  readonly sidesMm: readonly [number, number];
  /** From the corner low in both to the corner high in both, and the other, mm; only their difference matters. */
  readonly diagonalsMm: readonly [number, number];
  /** Expanded uncertainty of the difference of the two, mm. */
  readonly uMm: number;
}

/**
 * Out of square from two diagonals by the law of cosines: sin q = (d₁² − d₂²)/(4·a·b) (ISO 230-6:2002 takes diagonals
 * for a whole machine; from memory).
 * @param measured - sides and diagonals
 * @returns out of square with U
 * @throws BoundError where the diagonals do not belong to these sides
 * @example squareFromDiagonals({ sidesMm: [300, 400], diagonalsMm: [500.012, 500], uMm: 0.002 }).value // 0.000025
 */
export function squareFromDiagonals({ sidesMm: [a, b], diagonalsMm: [d1, d2], uMm }: Diagonals): SquareValue {
  requireBound({ "first side": a }, a >= 10 && a <= 30_000, "from 10 to 30000 mm");
  requireBound({ "second side": b }, b >= 10 && b <= 30_000, "from 10 to 30000 mm");
  const long = Math.hypot(a, b);
  for (const [name, d] of [
    ["first diagonal", d1],
    ["second diagonal", d2],
  ] as const)
    requireBound(
      { [name]: d },
      Math.abs(d - long) <= 0.02 * long,
      `within 2 % of ${long.toFixed(3)} mm, as the sides make it`,
    );
  const value = Math.asin((d1 * d1 - d2 * d2) / (4 * a * b));
  return { value, u: (uMm * long) / (2 * a * b) };
}

export interface SquareAgreement extends SquareValue {
  readonly chiSquared: number;
  readonly dof: number;
  readonly agrees: boolean;
}

/** Ways that differ more than this seldom are said to differ. */
const SELDOM = 0.01;

/**
 * Several ways to one squareness: the mean by what each knows, and whether they agree (χ²).
 * @param values - of the same pair, about the same time
 * @returns the mean with U, wider by as much as they differ; null without any
 * @example agreeOnSquare([{ value: 3e-5, u: 1e-5 }, { value: 4e-5, u: 1e-5 }])?.value // 0.000035
 */
export function agreeOnSquare(values: readonly SquareValue[]): SquareAgreement | null {
  if (values.length === 0) return null;
  const weight = values.reduce((sum, v) => sum + 1 / v.u ** 2, 0);
  const value = values.reduce((sum, v) => sum + v.value / v.u ** 2, 0) / weight;
  const chiSquared = values.reduce((sum, v) => sum + ((v.value - value) / (v.u / 2)) ** 2, 0);
  const dof = values.length - 1;
  const agrees = dof === 0 || chiSquaredExceeded(chiSquared, dof) >= SELDOM;
  const u = (agrees ? 1 : Math.sqrt(Math.max(1, chiSquared / dof))) / Math.sqrt(weight);
  return { value, u, chiSquared, dof, agrees };
}
