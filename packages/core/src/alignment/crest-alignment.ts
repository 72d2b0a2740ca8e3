import { requireBound } from "../quantity";
import { lineFit, type FitPoint } from "./line-fit";
import { shimStack, SHIM_STOCK_MM, type ShimStack } from "./shim-stack";
import { normalEquations, solveLinear } from "../lostmotion/nnls";

/** One of the two planes of a crest run: 0° is up on the screw, 90° to the side. */
export interface CrestReadings {
  readonly name: string;
  /** Place along the travel, mm, and what the tip read, mm: plus is the screw coming at the tip. */
  readonly points: readonly FitPoint[];
}

export interface ScrewSupports {
  /** Places along the travel, mm; may lie outside it. */
  readonly fixedMm: number;
  readonly farMm: number;
  readonly bracketMm: number;
  readonly leadMm: number;
}

export const DATUMS = ["fixed", "far", "bracket"] as const;
export type Datum = (typeof DATUMS)[number];

export interface SupportMove {
  readonly support: "fixed" | "far" | "bracket";
  readonly plane: string;
  /** Plus: towards the tip, minus: away from it; mm. */
  readonly moveMm: number;
  /** Expanded uncertainty, k = 2, mm. */
  readonly expandedMm: number;
  /** Shims that make the move where there are no adjusters. */
  readonly shims: ShimStack;
}

export interface CrestAlignment {
  readonly moves: readonly SupportMove[];
  readonly planes: readonly {
    readonly name: string;
    readonly slopeMmPerM: number;
    readonly expandedMmPerM: number;
    /** Out of line over the screw between its supports, mm. */
    readonly overLengthMm: number;
    /** Bend and scatter left after the line and the turn, mm from least to most. */
    readonly bendMm: number;
    /** Half swing once per turn; null where the places cannot show it. */
    readonly perTurnMm: number | null;
    readonly within: boolean;
  }[];
  readonly limitMm: number;
  /** What the shims leave, mm, the largest of all supports and planes. */
  readonly predictedMm: number;
}

/** How far out of line a screw may be over its length, mm (common practice, no source). */
export function crestLimit(lengthMm: number): number {
  if (lengthMm <= 500) return 0.02;
  return lengthMm <= 1000 ? 0.03 : 0.05;
}

/**
 * From crest runs in two planes: how the screw lies against the ways, and which support moves by how
 * much which way when one of them is the datum. The line is least squares; what it leaves once per
 * lead is a swinging journal, the rest is bend.
 * @throws BoundError with fewer than five places in a plane
 */
export function crestAlignment(
  planes: readonly CrestReadings[],
  supports: ScrewSupports,
  datum: Datum,
  stockMm: readonly number[] = SHIM_STOCK_MM,
): CrestAlignment {
  const { fixedMm, farMm, bracketMm, leadMm } = supports;
  const length = Math.abs(farMm - fixedMm);
  requireBound("distance of the supports", length, length > 0, "above 0 mm");
  const limitMm = crestLimit(length);
  const places = { fixed: fixedMm, far: farMm, bracket: bracketMm };
  const moves: SupportMove[] = [];
  const judged = planes.map(({ name, points }) => {
    requireBound("places in a plane", points.length, points.length >= 5, "at least 5"); // prettier-ignore
    const fit = lineFit(points);
    const at = (x: number): number => fit.offset + fit.slope * x;
    for (const support of DATUMS) {
      if (support === datum) continue;
      const run = places[support] - places[datum];
      const moveMm = -(at(places[support]) - at(places[datum])) || 0;
      moves.push({
        support, plane: name, moveMm,
        expandedMm: 2 * fit.uSlope * Math.abs(run),
        shims: shimStack(Math.min(10, Math.abs(moveMm)), stockMm),
      }); // prettier-ignore
    }
    const overLengthMm = Math.abs(fit.slope) * length;
    const turn = perTurn(points, fit.residuals, leadMm);
    return {
      name,
      slopeMmPerM: 1000 * fit.slope,
      expandedMmPerM: 2000 * fit.uSlope,
      overLengthMm,
      bendMm: span(turn?.left ?? fit.residuals),
      perTurnMm: turn?.amplitude ?? null,
      within: overLengthMm <= limitMm,
    };
  });
  return {
    moves,
    planes: judged,
    limitMm,
    predictedMm: Math.max(0, ...moves.map((m) => Math.abs(m.shims.errorMm))),
  };
}

function span(values: readonly number[]): number {
  return Math.max(...values) - Math.min(...values);
}

/** Once-per-lead share of the residuals; null when all places meet the screw at the same phases. */
function perTurn(
  points: readonly FitPoint[],
  residuals: readonly number[],
  leadMm: number,
): { readonly amplitude: number; readonly left: readonly number[] } | null {
  if (points.length < 8) return null;
  const angle = points.map((p) => (2 * Math.PI * p.x) / leadMm);
  const rows = angle.map((a) => [Math.cos(a), Math.sin(a), 1]);
  const { matrix, right } = normalEquations(rows, residuals, residuals.map(() => 1)); // prettier-ignore
  const [c0, s0] = [matrix[0][0], matrix[1][1]];
  // Places a whole lead apart see one phase only: the turn hides in the offset.
  if (Math.min(c0, s0) < 0.15 * points.length) return null;
  const solved = solveLinear(matrix, right);
  if (!solved) return null;
  return {
    amplitude: Math.hypot(solved[0], solved[1]),
    left: residuals.map((r, i) => r - solved[0] * rows[i][0] - solved[1] * rows[i][1] - solved[2]), // prettier-ignore
  };
}
