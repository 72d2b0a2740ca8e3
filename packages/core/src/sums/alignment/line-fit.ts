import { normalEquations, solveLinear } from "../../quantity/nnls";
import { BoundError } from "../../quantity";

export interface FitPoint {
  readonly x: number;
  readonly y: number;
}

export interface LineFit {
  readonly offset: number;
  readonly slope: number;
  readonly uSlope: number;
  /** Standard uncertainty of the line at a place. */
  readonly uAt: (x: number) => number;
  readonly residuals: readonly number[];
  /** Standard deviation of the residuals, n − 2 degrees of freedom. */
  readonly deviation: number;
}

/**
 * Straight line by least squares.
 * @param points - places and readings, at least three
 * @returns offset and slope, their uncertainty and what is left over
 * @throws BoundError with fewer than three places or all at one
 * @example lineFit([{ x: 0, y: 1 }, { x: 1, y: 3 }, { x: 2, y: 5 }]).slope // 2
 */
export function lineFit(points: readonly FitPoint[]): LineFit {
  if (points.length < 3) throw new BoundError("number of places", points.length, "at least 3");
  const rows = points.map((p) => [1, p.x]);
  const { matrix, right } = normalEquations(
    rows,
    points.map((p) => p.y),
    points.map(() => 1),
  );
  const solved = solveLinear(matrix, right);
  const centre = points.reduce((s, p) => s + p.x, 0) / points.length;
  const spread = points.reduce((s, p) => s + (p.x - centre) ** 2, 0);
  if (!solved || !(spread > 0)) throw new BoundError("spread of the places", spread, "above 0");
  const [offset, slope] = solved;
  const residuals = points.map((p) => p.y - offset - slope * p.x);
  const squares = residuals.reduce((s, r) => s + r * r, 0);
  const deviation = Math.sqrt(squares / (points.length - 2));
  return {
    offset,
    slope,
    uSlope: deviation / Math.sqrt(spread),
    uAt: (x) => deviation * Math.sqrt(1 / points.length + (x - centre) ** 2 / spread),
    residuals,
    deviation,
  };
}
