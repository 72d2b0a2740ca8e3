import { inQuadrature } from "../quantity";

/** One kept measurement in a history. */
export interface HistoryPoint {
  readonly atMs: number;
  readonly lostMm: number;
  readonly expandedMm: number;
}

export interface Comparison {
  readonly changeMm: number;
  readonly expandedMm: number;
  /** The change is larger than its expanded uncertainty. */
  readonly significant: boolean;
}

/** Change from one measurement to a later one; both expanded at k ≈ 2, so they add in quadrature. */
export function compareMeasurements(
  earlier: HistoryPoint,
  later: HistoryPoint,
): Comparison {
  const changeMm = later.lostMm - earlier.lostMm;
  const expandedMm = inQuadrature(earlier.expandedMm, later.expandedMm);
  return { changeMm, expandedMm, significant: Math.abs(changeMm) > expandedMm };
}

export interface Trend {
  /** Growth per 30 days, mm. */
  readonly perMonthMm: number;
  readonly expandedPerMonthMm: number;
  readonly significant: boolean;
  /** When the line reaches the limit; null when it does not within ten years or is not significant. */
  readonly reachesLimitAtMs: number | null;
}

const MONTH_MS = 30 * 86_400_000;
const TEN_YEARS_MS = 3650 * 86_400_000;

/**
 * Weighted straight line through measurements, weights 1/u² (Bevington & Robinson, Data Reduction and
 * Error Analysis, ch. 6; from memory). The slope's uncertainty is enlarged by √(χ²/ν) when the points
 * scatter more than they claim. Needs three measurements.
 */
export function lossTrend(
  points: readonly HistoryPoint[],
  limitMm: number,
): Trend | null {
  if (points.length < 3) return null;
  const origin = points[0].atMs;
  const smallest = 1e-7;
  const rows = points.map((p) => ({
    t: (p.atMs - origin) / MONTH_MS,
    y: p.lostMm,
    w: 1 / Math.max(p.expandedMm / 2, smallest) ** 2,
  }));
  const sum = (f: (r: (typeof rows)[number]) => number): number =>
    rows.reduce((s, r) => s + r.w * f(r), 0);
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
  const scale = Math.max(1, Math.sqrt(chiSquare / (points.length - 2)));
  const expandedPerMonthMm = 2 * scale * Math.sqrt(w / determinant);
  const significant = Math.abs(slope) > expandedPerMonthMm;
  const last = rows[rows.length - 1].t;
  const reach = (limitMm - start) / slope;
  const within =
    significant &&
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
