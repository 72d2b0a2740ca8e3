import { requireBound } from "./bound-error";
import { studentQuantile } from "./student-t";

/**
 * Standard uncertainty of a rectangular spread of full width `width`: width / √12.
 * For a display that steps by `width` this is the resolution term.
 * Source: JCGM 100:2008 (GUM) 4.3.7 and F.2.2.1.
 * @param width - full width of the spread, in any unit
 * @returns standard uncertainty in the same unit
 * @example rectangular(0.001) // 0.000288675
 */
export function rectangular(width: number): number {
  requireBound({ width }, width >= 0, "zero or more");
  return width / Math.sqrt(12);
}

/**
 * Root sum of squares of independent standard uncertainties (GUM 5.1.2, unit sensitivities).
 * @param parts - standard uncertainties in one unit
 * @returns their root sum of squares
 * @example inQuadrature(3, 4) // 5
 */
export function inQuadrature(...parts: readonly number[]): number {
  return Math.sqrt(parts.reduce((sum, u) => sum + u * u, 0));
}

/** A standard uncertainty with its degrees of freedom; `Infinity` for one known outright. */
export interface UncertaintyPart {
  readonly u: number;
  readonly dof: number;
}

/**
 * Effective degrees of freedom of a combined standard uncertainty.
 * Source: Welch–Satterthwaite, GUM G.4.1 (G.2b).
 * @param parts - standard uncertainties with their degrees of freedom
 * @returns effective degrees of freedom
 * @example effectiveDof([{ u: 1, dof: 4 }, { u: 1, dof: 4 }]) // 8
 */
export function effectiveDof(parts: readonly UncertaintyPart[]): number {
  const combined = inQuadrature(...parts.map((p) => p.u));
  const denominator = parts.reduce((sum, p) => sum + (Number.isFinite(p.dof) && p.dof > 0 ? p.u ** 4 / p.dof : 0), 0);
  return denominator === 0 ? Infinity : combined ** 4 / denominator;
}

/** 1 − 0.9545, both tails: what k = 2 covers of a normal distribution (GUM 6.3.3 and table G.2). */
export const OUTSIDE_95_45 = 1 - 0.954499736;
const GRID = 256;
let grid: readonly number[] | null = null;

/** ln t at 95.45 % over 1/ν in equal steps from 0 to 1: made once, since t is asked for at every place. */
function logT(): readonly number[] {
  grid ??= Array.from({ length: GRID + 1 }, (_, i) => Math.log(i === 0 ? 2 : studentQuantile(OUTSIDE_95_45, GRID / i)));
  return grid;
}

/**
 * Coverage factor k for 95.45 %: 2 with many degrees of freedom, larger with few.
 * Non-integer degrees are interpolated between whole ones (GUM G.4.1 note and G.6.4 allow it).
 * Source: Student’s t as in GUM table G.2; the table is the test’s outside check.
 * @param dof - effective degrees of freedom, 1 or more, `Infinity` for known outright
 * @returns k, never below 2
 * @throws BoundError below 1
 * @example coverageFactor(4) // 2.87
 */
export function coverageFactor(dof: number): number {
  requireBound({ dof: Number.isNaN(dof) ? NaN : Math.min(dof, 1e9) }, dof >= 1, "1 or more");
  const at = GRID / dof;
  const below = Math.min(GRID - 1, Math.floor(at));
  const table = logT();
  return Math.exp(table[below] + (at - below) * (table[below + 1] - table[below]));
}

/** A value's standard and expanded uncertainty. */
export interface Uncertainty {
  readonly u: number;
  readonly dof: number;
  readonly k: number;
  /** Expanded uncertainty U = k·u, about 95 %. */
  readonly expanded: number;
}

/**
 * Combines independent parts and expands them to about 95 %. Each part is expanded by its own degrees
 * of freedom and the expanded parts are added in quadrature: U² = Σ (t(νᵢ)·uᵢ)². With parts known
 * outright this is k = 2 (GUM 6.2.1), with one part it is Student’s t (GUM G.3). Where a scatter of
 * two or three runs meets a display step, k by the Welch–Satterthwaite formula (GUM G.4.1) covered
 * 90 % only, since a scatter that comes out small by chance also raises its degrees of freedom; so
 * that formula is given as `dof` and decides nothing (coverage bench).
 * @param parts - standard uncertainties with their degrees of freedom
 * @returns u, its effective degrees of freedom, k and U
 * @example expandedUncertainty([{ u: 1, dof: Infinity }]).expanded // 2
 */
export function expandedUncertainty(parts: readonly UncertaintyPart[]): Uncertainty {
  const u = inQuadrature(...parts.map((p) => p.u));
  const dof = effectiveDof(parts);
  const expanded = inQuadrature(...parts.map((p) => coverageFactor(Math.max(1, p.dof)) * p.u));
  return { u, dof, k: u > 0 ? expanded / u : 2, expanded };
}
