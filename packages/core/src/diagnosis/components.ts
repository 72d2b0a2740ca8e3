import type { AxisConfig } from "../machine/axis";
import type { Cause, SlackId } from "./knowledge";
import { baselineOf, seenParts, slacksOf, type MagnitudeKind } from "./slack";

/** A measured size with its standard uncertainty, mm. */
export interface Magnitude {
  readonly kind: MagnitudeKind;
  readonly reversalValueMm: number;
  readonly uMm: number;
  /** An id of the caller’s, to find the evidence again. */
  readonly ref?: string;
  /** Read again, set up anew, and the same within its U: it was not misread. */
  readonly confirmed?: boolean;
}

/** One Gaussian of a mixture over the slacks: what they are likely to be, given the measurements. */
export interface Component {
  /** Log of prior weight times likelihood of the measurements. */
  logWeight: number;
  readonly mean: Float64Array;
  readonly covariance: Float64Array;
}

export interface SlackModel {
  readonly slacks: readonly SlackId[];
  readonly baseMean: Float64Array;
  readonly baseVariance: Float64Array;
  /** How much of each slack is in a test’s reading: 1, 0, or a part of the wind-up. */
  readonly rowOf: (kind: MagnitudeKind) => readonly number[];
}

/**
 * What is known of an axis' slacks before anything is measured: Gaussians of what sound links lose, and which of them
 * each test adds up.
 * @param axis - configuration
 * @returns the slacks in the order of the chain, mean and variance, mm and mm²
 * @example slackModel(defaultAxis("vertical-centre", "X")).slacks.length // 8
 */
export function slackModel(axis: AxisConfig): SlackModel {
  const slacks = slacksOf(axis);
  const base = slacks.map((s) => baselineOf(axis, s));
  const rows = new Map<MagnitudeKind, readonly number[]>();
  return {
    slacks,
    baseMean: Float64Array.from(base, (b) => b.meanMm),
    baseVariance: Float64Array.from(base, (b) => b.sdMm ** 2),
    rowOf: (kind) => {
      let row = rows.get(kind);
      if (!row) {
        row = seenParts(axis, kind);
        rows.set(kind, row);
      }
      return row;
    },
  };
}

/** One Gaussian of a share. */
export interface ShareNode {
  readonly mm: number;
  readonly variance: number;
}

/**
 * A share's spread as Gaussians evenly spaced in its logarithm, each as wide as its spacing.
 * @param cause - a cause with a share of the loss; none without one
 * @param count - how many Gaussians
 * @returns mean and variance of each, mm and mm²
 * @example shareNodes(causeById("nut-worn"), 8).length // 8
 */
export function shareNodes(cause: Cause, count: number): readonly ShareNode[] {
  if (!cause.share) return [];
  const [least, most] = cause.share.um;
  const ratio = (most / least) ** (1 / count);
  const nodes: ShareNode[] = [];
  for (let i = 0; i < count; i += 1) {
    const low = (least / 1000) * ratio ** i;
    const mm = low * Math.sqrt(ratio);
    const sd = (low * (ratio - 1)) / 2;
    nodes.push({ mm, variance: sd * sd });
    if (cause.share.bothWays) nodes.push({ mm: -mm, variance: sd * sd });
  }
  return nodes;
}

/**
 * Takes one measurement in: the usual update of a Gaussian, and the likelihood it had.
 * @param component - the Gaussian, changed
 * @param options - `row`: how much of each slack is in the reading; `reversalValueMm`, `uMm`: what it read and its standard
 *   uncertainty, mm
 * @example
 * measure({ logWeight: 0, mean: new Float64Array([0]), covariance: new Float64Array([1]) }, { row: [1], reversalValueMm: 0.01, uMm: 0.001 })
 * // undefined
 */
export function measure(
  component: Component,
  {
    row,
    reversalValueMm,
    uMm,
  }: { readonly row: readonly number[]; readonly reversalValueMm: number; readonly uMm: number },
): void {
  const { mean, covariance } = component;
  const n = mean.length;
  const v = new Float64Array(n);
  let predicted = 0;
  let spread = uMm * uMm;
  for (let j = 0; j < n; j += 1) {
    const part = row[j];
    if (part === 0) continue;
    predicted += part * mean[j];
    for (let i = 0; i < n; i += 1) v[i] += part * covariance[i * n + j];
  }
  for (let j = 0; j < n; j += 1) spread += row[j] * v[j];
  const miss = reversalValueMm - predicted;
  component.logWeight -= 0.5 * (Math.log(2 * Math.PI * spread) + (miss * miss) / spread);
  for (let i = 0; i < n; i += 1) {
    const gain = v[i] / spread;
    mean[i] += gain * miss;
    for (let k = 0; k < n; k += 1) covariance[i * n + k] -= gain * v[k];
  }
}

/**
 * Log of the summed weights.
 * @param logs - natural logarithms of weights
 * @returns natural logarithm of the weights' sum; −Infinity of none
 * @example logSum([Math.log(1), Math.log(2)]) // 1.099
 */
export function logSum(logs: Iterable<number>): number {
  let most = -Infinity;
  for (const l of logs) most = Math.max(most, l);
  if (most === -Infinity) return -Infinity;
  let sum = 0;
  for (const l of logs) sum += Math.exp(l - most);
  return most + Math.log(sum);
}

/**
 * Mean and variance of what a test would read under a component, before its own uncertainty.
 * @param component - Gaussian of the slacks
 * @param row - how much of each slack is in the reading
 * @param seen - which of them are in it at all, where that is known already
 * @returns mm and mm²
 * @example
 * predict({ logWeight: 0, mean: new Float64Array([0.01, 0.02]), covariance: new Float64Array([1, 0, 0, 4]) }, [1, 1])
 * // { mean: 0.03, variance: 5 }
 */
export function predict(
  component: Component,
  row: readonly number[],
  seen: readonly number[] = row.flatMap((part, i) => (part === 0 ? [] : [i])),
): { readonly mean: number; readonly variance: number } {
  const n = component.mean.length;
  let mean = 0;
  let variance = 0;
  for (const i of seen) {
    mean += row[i] * component.mean[i];
    for (const j of seen) variance += row[i] * row[j] * component.covariance[i * n + j];
  }
  return { mean, variance };
}
