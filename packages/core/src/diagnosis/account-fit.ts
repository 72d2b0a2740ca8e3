import { chiSquaredExceeded } from "../quantity";
import { bestHypothesis } from "./best-hypothesis";
import { type Magnitude } from "./components";
import { fitOf, type Fit } from "./share-mixture";
import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";
import { lossLedger } from "./ledger";
import { thirdFault } from "./third-fault";

/** How well measured sizes fit an account of the case. */
export interface AccountFit {
  /** Weighted squares that are left when each share is what fits best. */
  readonly chiSquared: number;
  /** Sizes less shares that were free. */
  readonly dof: number;
  /** Chance of as much or more when the account is right; 1 where nothing is left to test. */
  readonly chance: number;
}

/** Sums over the inverse covariance of the sizes: residual with itself, with each share, shares with each other. */
interface Forms {
  readonly rr: number;
  readonly r: readonly number[];
  readonly g: readonly (readonly number[])[];
}

function formsOf(fit: Fit, causes: readonly Cause[]): Forms {
  const columns = causes.map((c) => {
    const slack = c.share ? fit.model.slacks.indexOf(c.share.slack) : -1;
    return fit.magnitudes.map((m) => (slack < 0 ? 0 : fit.model.rowOf(m.kind)[slack]));
  });
  const form = (a: readonly number[], b: readonly number[]): number =>
    a.reduce((sum, x, i) => sum + x * b.reduce((s, y, k) => s + fit.inverse[i][k] * y, 0), 0);
  return {
    rr: form(fit.residual, fit.residual),
    r: columns.map((c) => form(c, fit.residual)),
    g: columns.map((a) => columns.map((b) => form(a, b))),
  };
}

/** Smallest χ² over shares that may not be below zero, save one that can be either way; with how many were free. */
function leastSquares({ rr, r, g }: Forms, bothWays: readonly boolean[]): { chiSquared: number; free: number } {
  let best = { chiSquared: rr, free: 0 };
  const better = (chiSquared: number, free: number): void => {
    if (chiSquared < best.chiSquared) best = { chiSquared, free };
  };
  const may = (i: number, x: number): boolean => bothWays[i] || x > 0;
  r.forEach((ri, i) => {
    const x = g[i][i] > 0 ? ri / g[i][i] : 0;
    if (x !== 0 && may(i, x)) better(rr - x * ri, 1);
  });
  if (r.length < 2) return best;
  const det = g[0][0] * g[1][1] - g[0][1] ** 2;
  // Two shares of one slack, or seen by the same tests alone, are one.
  if (det <= 1e-9 * g[0][0] * g[1][1]) return best;
  const x = (r[0] * g[1][1] - r[1] * g[0][1]) / det;
  const y = (r[1] * g[0][0] - r[0] * g[0][1]) / det;
  if (may(0, x) && may(1, y)) better(rr - x * r[0] - y * r[1], 2);
  return best;
}

/**
 * Do the measured sizes fit what an account says of them? Each share is free, so that nothing is asked of how large it
 * usually is: only whether tests that see it agree, and tests that do not see it find what sound parts lose.
 * Source: generalised least squares with a χ² test of its residuals, as JCGM 100 (GUM) uses for consistency.
 * @param fit - the sizes, prepared
 * @param causes - of the account, two at most
 * @returns χ², its degrees of freedom and its chance
 * @example
 * const model = slackModel(defaultAxis("vertical-centre", "X"));
 * const sizes = [{ kind: "end-float", reversalValueMm: -0.02, uMm: 0.001 }];
 * accountFit(fitOf(model, sizes), []).chance < 0.001 // true
 */
export function accountFit(fit: Fit, causes: readonly Cause[]): AccountFit {
  const sharing = causes.filter((c) => c.share);
  const { chiSquared, free } = leastSquares(
    formsOf(fit, sharing),
    sharing.map((c) => c.share?.bothWays === true),
  );
  const dof = fit.magnitudes.length - free;
  return { chiSquared, dof, chance: dof > 0 ? chiSquaredExceeded(Math.max(0, chiSquared), dof) : 1 };
}

/** Below this chance the sizes are said not to fit the account. */
export const FITS = 0.005;

/** A part reads below zero by more than its scatter, in standard uncertainties. */
const GAINS = 3;

/** A size that does not fit, and whether the ledger says so already. */
export interface Misfit {
  readonly size: Magnitude;
  readonly inLedger: boolean;
}

/**
 * The size that does not fit: the one the ledger asks to be read again, or else the one without which the rest fits
 * the most likely account best.
 * @param posterior - what is known so far
 * @returns it; null where all fit together
 * @example misfit(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })) // null
 */
export function misfit(posterior: Posterior): Misfit | null {
  const { magnitudes, axis } = posterior.evidence;
  if (magnitudes.length === 0) return null;
  const { causes } = bestHypothesis(posterior);
  const { model } = posterior;
  const together = accountFit(fitOf(model, magnitudes), causes).chance >= FITS;
  // A compensation entered in the control may take off the whole what its parts lose: the ledger cannot know of it.
  const gains = magnitudes.some((m) => m.kind !== "whole-chain" && m.reversalValueMm < -GAINS * m.uMm);
  // But no compensation makes a part gain: there the needle counts the other way.
  const entered = !gains && causes.some((c) => c.share?.slack === "entered");
  const ledger = lossLedger(axis, magnitudes);
  const inLedger = !entered && ledger.contradictions.length > 0;
  // Parts that agree among themselves and are too much for two faults may be three.
  if (!inLedger && (together || (thirdFault(posterior)?.probability ?? 0) > 0.5)) return null;
  const asked = inLedger && magnitudes.findLast((m) => m.kind === ledger.repeat[0]);
  if (asked) return { size: asked, inLedger };
  const without = (left: Magnitude): number =>
    accountFit(
      fitOf(
        model,
        magnitudes.filter((m) => m !== left),
      ),
      causes,
    ).chiSquared;
  // The later of two that fit alike badly is the one whose set-up may still stand.
  const size = [...magnitudes].reverse().reduce((worst, m) => (without(m) < without(worst) - 1e-9 ? m : worst));
  return { size, inLedger };
}
