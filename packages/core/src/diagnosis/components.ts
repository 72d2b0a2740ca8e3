import type { AxisConfig } from "../machine/axis";
import type { Cause, SlackId } from "./knowledge";
import { baselineOf, seenBy, slacksOf, type MagnitudeKind } from "./slack";

/** A measured size with its standard uncertainty, mm. */
export interface Magnitude {
  readonly kind: MagnitudeKind;
  readonly reversalValueMm: number;
  readonly uMm: number;
  /** An id of the caller’s, to find the evidence again. */
  readonly ref?: string;
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
        row = seenBy(axis, kind).map((s) => slacks.indexOf(s));
        rows.set(kind, row);
      }
      return row;
    },
  };
}

interface Node {
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
export function shareNodes(cause: Cause, count: number): readonly Node[] {
  if (!cause.share) return [];
  const [least, most] = cause.share.um;
  const ratio = (most / least) ** (1 / count);
  const nodes: Node[] = [];
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
 * @param options - `row`: which slacks the test adds up, 0 or 1 each; `reversalValueMm`, `uMm`: what it read and its standard
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
  for (const j of row) {
    predicted += mean[j];
    for (let i = 0; i < n; i += 1) v[i] += covariance[i * n + j];
  }
  for (const j of row) spread += v[j];
  const miss = reversalValueMm - predicted;
  component.logWeight -= 0.5 * (Math.log(2 * Math.PI * spread) + (miss * miss) / spread);
  for (let i = 0; i < n; i += 1) {
    const gain = v[i] / spread;
    mean[i] += gain * miss;
    for (let k = 0; k < n; k += 1) covariance[i * n + k] -= gain * v[k];
  }
}

interface Part {
  readonly slack: number;
  readonly node: Node;
}

/** Everything about the measurements that does not depend on the shares. */
export interface Fit {
  readonly model: SlackModel;
  readonly magnitudes: readonly Magnitude[];
  /** Residuals against sound links, and the inverse of their covariance. */
  readonly residual: readonly number[];
  readonly inverse: readonly (readonly number[])[];
  readonly logDet: number;
}

/**
 * Prepares the measured sizes of a case, so that many accounts can be held against them quickly.
 * @param model - slacks of the axis
 * @param magnitudes - what was measured, mm
 * @returns residuals against the sound axis, and the inverse of their covariance
 * @example
 * fitOf(slackModel(defaultAxis("vertical-centre", "X")), [{ kind: "whole-chain", reversalValueMm: 0.01, uMm: 0.001 }]).residual.length
 * // 1
 */
export function fitOf(model: SlackModel, magnitudes: readonly Magnitude[]): Fit {
  const rows = magnitudes.map((m) => model.rowOf(m.kind));
  const covariance = rows.map((a, i) =>
    rows.map(
      (b, k) =>
        a.reduce((sum, s) => sum + (b.includes(s) ? model.baseVariance[s] : 0), 0) +
        (i === k ? magnitudes[i].uMm ** 2 : 0),
    ),
  );
  const { inverse, logDet } = invert(covariance);
  const residual = magnitudes.map((m, i) => m.reversalValueMm - rows[i].reduce((sum, s) => sum + model.baseMean[s], 0));
  return { model, magnitudes, residual, inverse, logDet };
}

/**
 * The mixture over the shares of a set of causes: log weight of each combination of their nodes.
 * The shares add one or two rank-one terms to the measurements' covariance, so that each weight
 * comes from a 2 × 2 system (Woodbury; matrix determinant lemma).
 */
export class ShareMixture {
  readonly log: number;
  private readonly weights: Float64Array;
  private readonly sets: readonly { slack: number; nodes: readonly Node[] }[];
  private built: Component[] | null = null;

  constructor(
    private readonly fit: Fit,
    causes: readonly Cause[],
    nodesEach: number,
  ) {
    this.sets = causes.flatMap((cause) => {
      const slack = cause.share ? fit.model.slacks.indexOf(cause.share.slack) : -1;
      return slack < 0 ? [] : [{ slack, nodes: shareNodes(cause, nodesEach) }];
    });
    const count = this.sets.reduce((n, s) => n * s.nodes.length, 1);
    this.weights = this.weigh(count);
    this.log = logSum(this.weights);
  }

  /** The combinations that matter, with the measurements taken in. */
  get components(): readonly Component[] {
    if (this.built) return this.built;
    const most = Math.max(...this.weights);
    const built: Component[] = [];
    this.weights.forEach((log, index) => {
      if (log - most > LEAST_LOG) built.push(this.component(index, log));
    });
    this.built = built;
    return built;
  }

  private partsOf(index: number): Part[] {
    let rest = index;
    return this.sets.map(({ slack, nodes }) => {
      const node = nodes[rest % nodes.length];
      rest = Math.floor(rest / nodes.length);
      return { slack, node };
    });
  }

  private component(index: number, logWeight: number): Component {
    const { model, magnitudes } = this.fit;
    const n = model.slacks.length;
    const mean = Float64Array.from(model.baseMean);
    const covariance = new Float64Array(n * n);
    for (let i = 0; i < n; i += 1) covariance[i * n + i] = model.baseVariance[i];
    for (const { slack, node } of this.partsOf(index)) {
      mean[slack] += node.mm;
      covariance[slack * n + slack] += node.variance;
    }
    const component: Component = { logWeight: 0, mean, covariance };
    for (const m of magnitudes)
      measure(component, { row: model.rowOf(m.kind), reversalValueMm: m.reversalValueMm, uMm: m.uMm });
    component.logWeight = logWeight;
    return component;
  }

  private weigh(count: number): Float64Array {
    const { residual, inverse, logDet, magnitudes, model } = this.fit;
    const m = residual.length;
    const weights = new Float64Array(count).fill(-Math.log(count));
    if (m === 0) return weights;
    const columns = this.sets.map(({ slack }) =>
      magnitudes.map((one) => (model.rowOf(one.kind).includes(slack) ? 1 : 0)),
    );
    const form = (a: readonly number[], b: readonly number[]): number => {
      let sum = 0;
      for (let i = 0; i < m; i += 1) if (a[i] !== 0) for (let k = 0; k < m; k += 1) sum += a[i] * inverse[i][k] * b[k];
      return sum;
    };
    const [a, b] = [columns[0] ?? [], columns[1] ?? []];
    const rr = form(residual, residual);
    const [ar, aa] = this.sets.length > 0 ? [form(a, residual), form(a, a)] : [0, 0];
    const [br, bb, ab] = this.sets.length > 1 ? [form(b, residual), form(b, b), form(a, b)] : [0, 0, 0];
    const constant = -0.5 * (m * Math.log(2 * Math.PI) + logDet);
    const none: readonly Node[] = [{ mm: 0, variance: 0 }];
    const first = this.sets[0]?.nodes ?? none;
    const second = this.sets[1]?.nodes ?? none;
    for (let j = 0; j < second.length; j += 1)
      for (let i = 0; i < first.length; i += 1) {
        const { mm: x, variance: p } = first[i];
        const { mm: y, variance: q } = second[j];
        const quadratic = rr - 2 * (x * ar + y * br) + x * x * aa + 2 * x * y * ab + y * y * bb;
        const u = ar - x * aa - y * ab;
        const v = br - x * ab - y * bb;
        // (I + K G) with K = diag(p, q), G the forms of the columns.
        const det = (1 + p * aa) * (1 + q * bb) - p * q * ab * ab;
        const taken = (p * u * u * (1 + q * bb) + q * v * v * (1 + p * aa) - 2 * p * q * ab * u * v) / det;
        weights[j * first.length + i] += constant - 0.5 * (quadratic - taken + Math.log(det));
      }
    return weights;
  }
}

/** Combinations less likely than this against the best one are left out of predictions. */
const LEAST_LOG = Math.log(1e-4);

/** Inverse and log determinant of a small symmetric positive matrix, by Cholesky. */
function invert(matrix: readonly (readonly number[])[]): {
  inverse: number[][];
  logDet: number;
} {
  const n = matrix.length;
  const l = matrix.map((row) => [...row]);
  let logDet = 0;
  for (let i = 0; i < n; i += 1)
    for (let j = 0; j <= i; j += 1) {
      let sum = matrix[i][j];
      for (let k = 0; k < j; k += 1) sum -= l[i][k] * l[j][k];
      l[i][j] = i === j ? Math.sqrt(sum) : sum / l[j][j];
      if (i === j) logDet += 2 * Math.log(l[i][i]);
    }
  const inverse = matrix.map(() => new Array<number>(n).fill(0));
  for (let c = 0; c < n; c += 1) {
    const x = new Array<number>(n).fill(0);
    for (let i = 0; i < n; i += 1) {
      let sum = i === c ? 1 : 0;
      for (let k = 0; k < i; k += 1) sum -= l[i][k] * x[k];
      x[i] = sum / l[i][i];
    }
    for (let i = n - 1; i >= 0; i -= 1) {
      let sum = x[i];
      for (let k = i + 1; k < n; k += 1) sum -= l[k][i] * inverse[k][c];
      inverse[i][c] = sum / l[i][i];
    }
  }
  return { inverse, logDet };
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
 * @param row - which slacks the test adds up
 * @returns mm and mm²
 * @example
 * predict({ logWeight: 0, mean: new Float64Array([0.01, 0.02]), covariance: new Float64Array([1, 0, 0, 4]) }, [1, 1])
 * // { mean: 0.04, variance: 16 }
 */
export function predict(
  component: Component,
  row: readonly number[],
): { readonly mean: number; readonly variance: number } {
  const n = component.mean.length;
  let mean = 0;
  let variance = 0;
  for (const i of row) {
    mean += component.mean[i];
    for (const j of row) variance += component.covariance[i * n + j];
  }
  return { mean, variance };
}
