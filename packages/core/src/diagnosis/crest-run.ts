import { normalEquations, solveLinear } from "../lostmotion/nnls";
import { BoundError } from "../quantity";

/** Crest readings in one plane: where the member stood and what the tip read, mm. */
export interface CrestPoint {
  readonly positionMm: number;
  readonly readingMm: number;
}

export interface CrestPlane {
  readonly slopeMmPerM: number;
  readonly uSlopeMmPerM: number;
  readonly offsetMm: number;
  /** What is left over: bend and swing, mm from least to most. */
  readonly residualMm: number;
}

export interface CrestRun {
  readonly planes: readonly CrestPlane[];
  /** Out of line by more than its uncertainty and the usual limit. */
  readonly outOfLine: boolean;
  readonly bent: boolean;
}

/** Out of line above this, mm per m; bent above this, mm (common practice, no source). */
export const CREST_LIMITS = { slopeMmPerM: 0.05, residualMm: 0.03 } as const;

/**
 * Line fit of a crest run in each plane: slope says how far the screw runs out of line with the
 * ways, the residual how much it is bent.
 * @throws BoundError with fewer than five places in a plane
 */
export function crestRun(planes: readonly (readonly CrestPoint[])[]): CrestRun {
  const fitted = planes.map((points): CrestPlane => {
    if (points.length < 5)
      throw new BoundError("places in a plane", points.length, "at least 5");
    const rows = points.map((p) => [1, p.positionMm]);
    const values = points.map((p) => p.readingMm);
    const ones = points.map(() => 1);
    const { matrix, right } = normalEquations(rows, values, ones);
    const solved = solveLinear(matrix, right);
    if (!solved)
      throw new BoundError("places", points.length, "spread over the travel");
    const residuals = points.map(
      (p) => p.readingMm - solved[0] - solved[1] * p.positionMm,
    );
    const s = Math.sqrt(
      residuals.reduce((sum, r) => sum + r * r, 0) / (points.length - 2),
    );
    const centre =
      points.reduce((sum, p) => sum + p.positionMm, 0) / points.length;
    const spread = points.reduce(
      (sum, p) => sum + (p.positionMm - centre) ** 2,
      0,
    );
    return {
      offsetMm: solved[0],
      slopeMmPerM: 1000 * solved[1],
      uSlopeMmPerM: (1000 * s) / Math.sqrt(spread),
      residualMm: Math.max(...residuals) - Math.min(...residuals),
    };
  });
  return {
    planes: fitted,
    outOfLine: fitted.some(
      (p) =>
        Math.abs(p.slopeMmPerM) > CREST_LIMITS.slopeMmPerM &&
        Math.abs(p.slopeMmPerM) > 2 * p.uSlopeMmPerM,
    ),
    bent: fitted.some((p) => p.residualMm > CREST_LIMITS.residualMm),
  };
}
