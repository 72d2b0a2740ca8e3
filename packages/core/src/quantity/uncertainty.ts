import { requireBound } from "./bound-error";

/**
 * Standard uncertainty of a rectangular spread of full width `width`: width / √12.
 * For a display that steps by `width` this is the resolution term.
 * Source: JCGM 100:2008 (GUM) 4.3.7 and F.2.2.1.
 * @example rectangular(0.001) // 0.000288675
 */
export function rectangular(width: number): number {
  requireBound("width", width, width >= 0, "zero or more");
  return width / Math.sqrt(12);
}

/** Root sum of squares of independent standard uncertainties (GUM 5.1.2, unit sensitivities). */
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
 */
export function effectiveDof(parts: readonly UncertaintyPart[]): number {
  const combined = inQuadrature(...parts.map((p) => p.u));
  const denominator = parts.reduce(
    (sum, p) =>
      sum + (Number.isFinite(p.dof) && p.dof > 0 ? p.u ** 4 / p.dof : 0),
    0,
  );
  return denominator === 0 ? Infinity : combined ** 4 / denominator;
}

/** t for 95.45 % coverage by degrees of freedom, GUM table G.2 (from memory; checked in the test). */
const T_95_45: readonly (readonly [dof: number, t: number])[] = [
  [1, 13.97], [2, 4.53], [3, 3.31], [4, 2.87], [5, 2.65], [6, 2.52], [7, 2.43], [8, 2.37],
  [9, 2.32], [10, 2.28], [11, 2.25], [12, 2.23], [13, 2.21], [14, 2.2], [15, 2.18], [16, 2.17],
  [17, 2.16], [18, 2.15], [19, 2.14], [20, 2.13], [25, 2.11], [30, 2.09], [35, 2.07], [40, 2.06],
  [45, 2.06], [50, 2.05], [100, 2.025],
]; // prettier-ignore

/**
 * Coverage factor k for 95.45 %: 2 with many degrees of freedom, larger with few.
 * Non-integer degrees are cut down to the next tabled value (GUM G.6.4).
 */
export function coverageFactor(dof: number): number {
  requireBound(
    "dof",
    Number.isNaN(dof) ? NaN : Math.min(dof, 1e9),
    dof >= 1,
    "1 or more",
  );
  if (dof > 100) return 2;
  let k = T_95_45[0][1];
  for (const [tabled, t] of T_95_45) if (dof >= tabled) k = t;
  return k;
}

/** A value's standard and expanded uncertainty. */
export interface Uncertainty {
  readonly u: number;
  readonly dof: number;
  readonly k: number;
  /** Expanded uncertainty U = k·u, about 95 %. */
  readonly expanded: number;
}

/** Combines independent parts and expands them (GUM 6.2.1 and annex G). */
export function expandedUncertainty(
  parts: readonly UncertaintyPart[],
): Uncertainty {
  const u = inQuadrature(...parts.map((p) => p.u));
  const dof = effectiveDof(parts);
  const k = coverageFactor(Math.max(1, dof));
  return { u, dof, k, expanded: k * u };
}
