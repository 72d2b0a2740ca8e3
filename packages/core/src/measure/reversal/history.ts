import { coverageFactor, inQuadrature } from "../../quantity";

/** One kept measurement in a history. */
export interface HistoryPoint {
  readonly atMs: number;
  readonly reversalValueMm: number;
  readonly expandedMm: number;
}

export interface Comparison {
  readonly changeMm: number;
  readonly expandedMm: number;
  /** The change is larger than its expanded uncertainty. */
  readonly significant: boolean;
}

/**
 * Change from one measurement to a later one. Both come expanded to about 95 %, so they add in
 * quadrature; an unchanged axis is called changed in at most 5 % of cases (coverage bench).
 * @param earlier - the first one, mm
 * @param later - the second one, mm
 * @returns the change with U, mm, and whether it is more than chance
 * @example
 * compareMeasurements({ atMs: 0, reversalValueMm: 0.01, expandedMm: 0.003 }, { atMs: 1, reversalValueMm: 0.02, expandedMm: 0.004 }).expandedMm
 * // 0.005
 */
export function compareMeasurements(earlier: HistoryPoint, later: HistoryPoint): Comparison {
  const changeMm = later.reversalValueMm - earlier.reversalValueMm;
  const expandedMm = inQuadrature(earlier.expandedMm, later.expandedMm);
  return { changeMm, expandedMm, significant: Math.abs(changeMm) > expandedMm };
}

export interface Trend {
  /** Growth per 30 days, mm. */
  readonly perMonthMm: number;
  readonly expandedPerMonthMm: number;
  readonly significant: boolean;
  /**
   * When the line reaches the limit; null when it does not within ten years, is not significant, or
   * hangs on fewer than {@link DATE_POINTS} measurements.
   */
  readonly reachesLimitAtMs: number | null;
}

const MONTH_MS = 30 * 86_400_000;
const TEN_YEARS_MS = 3650 * 86_400_000;
/** Fewer measurements than this give no date: one degree of freedom dates nothing. */
export const DATE_POINTS = 4;

/**
 * Weighted straight line through measurements, weights 1/u² (Bevington & Robinson, Data Reduction and
 * Error Analysis, ch. 6; from memory). The slope’s uncertainty is the larger of what the measurements
 * claim and what they scatter about the line, expanded on Student’s t by the n − 2 degrees of freedom
 * that the scatter is known by: sessions differ by more than one session’s U can hold (another day,
 * another set-up). A steady axis is called growing or shrinking in at most 5 % of cases, also where
 * sessions scatter three times what they claim; measured in the coverage bench.
 * @param points - measurements, mm and ms
 * @param limitMm - limit it may reach, mm
 * @returns slope with U, mm a month, and when the limit is reached; null for fewer than three
 * @example lossTrend([], 0.03) // null
 */
export function lossTrend(points: readonly HistoryPoint[], limitMm: number): Trend | null {
  if (points.length < 3) return null;
  const origin = points[0].atMs;
  const smallest = 1e-7;
  const rows = points.map((p) => ({
    t: (p.atMs - origin) / MONTH_MS,
    y: p.reversalValueMm,
    w: 1 / Math.max(p.expandedMm / 2, smallest) ** 2,
  }));
  const sum = (f: (r: (typeof rows)[number]) => number): number => rows.reduce((s, r) => s + r.w * f(r), 0);
  const [w, wt, wy, wtt, wty] = [
    sum(() => 1),
    sum((r) => r.t),
    sum((r) => r.y),
    sum((r) => r.t * r.t),
    sum((r) => r.t * r.y),
  ];
  const determinant = w * wtt - wt * wt;
  if (!(determinant > 1e-12 * w * wtt)) return null;
  const slope = (w * wty - wt * wy) / determinant;
  const start = (wtt * wy - wt * wty) / determinant;
  const chiSquare = sum((r) => (r.y - start - slope * r.t) ** 2);
  const dof = points.length - 2;
  const scale = Math.max(1, Math.sqrt(chiSquare / dof));
  const expandedPerMonthMm = coverageFactor(dof) * scale * Math.sqrt(w / determinant);
  const significant = Math.abs(slope) > expandedPerMonthMm;
  const last = Math.max(...rows.map((r) => r.t));
  const reach = (limitMm - start) / slope;
  const within =
    significant &&
    points.length >= DATE_POINTS &&
    slope > 0 &&
    reach > last &&
    (reach - last) * MONTH_MS < TEN_YEARS_MS;
  return {
    perMonthMm: slope,
    expandedPerMonthMm,
    significant,
    reachesLimitAtMs: within ? origin + reach * MONTH_MS : null,
  };
}
