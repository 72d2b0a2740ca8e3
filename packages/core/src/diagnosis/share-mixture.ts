import type { Cause } from "./knowledge";
import {
  logSum,
  measure,
  shareNodes,
  type Component,
  type Magnitude,
  type ShareNode,
  type SlackModel,
} from "./components";

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
        a.reduce((sum, part, s) => sum + part * b[s] * model.baseVariance[s], 0) +
        (i === k ? magnitudes[i].uMm ** 2 : 0),
    ),
  );
  const { inverse, logDet } = invert(covariance);
  const residual = magnitudes.map(
    (m, i) => m.reversalValueMm - rows[i].reduce((sum, part, s) => sum + part * model.baseMean[s], 0),
  );
  return { model, magnitudes, residual, inverse, logDet };
}

/**
 * How often a reading is none: the stand slipped, the tip climbed, a figure was written down wrong (common practice, no
 * source). Then it may be anything within {@link ANYTHING_MM}.
 */
export const MISREAD = 0.04;
const ANYTHING_MM = 0.15;

/** The sizes as they may be meant: all of them, or all but one that was misread. */
interface Mode {
  readonly fit: Fit;
  readonly log: number;
}

/**
 * The ways the sizes of a case may be meant: all are right, or one of them was misread and says nothing.
 * @param model - slacks of the axis
 * @param magnitudes - what was measured, mm
 * @returns the sizes that count in each, and its log prior with what the left-out one came to
 * @example
 * modesOf(slackModel(defaultAxis("vertical-centre", "X")), [{ kind: "whole-chain", reversalValueMm: 0.01, uMm: 0.001 }]).length
 * // 2
 */
export function modesOf(model: SlackModel, magnitudes: readonly Magnitude[]): readonly Mode[] {
  const single = magnitudes.filter((m) => !m.confirmed);
  const all = { fit: fitOf(model, magnitudes), log: Math.log(Math.max(0.5, 1 - single.length * MISREAD)) };
  const log = Math.log(MISREAD / ANYTHING_MM);
  return [
    all,
    ...single.map((left) => ({
      fit: fitOf(
        model,
        magnitudes.filter((m) => m !== left),
      ),
      log,
    })),
  ];
}

interface ShareSet {
  readonly slack: number;
  readonly nodes: readonly ShareNode[];
}

/**
 * The mixture over the shares of a set of causes: log weight of each combination of their nodes.
 * The shares add rank-one terms to the measurements' covariance, so that each weight comes from a
 * system as large as there are shares (Woodbury; matrix determinant lemma).
 */
export class ShareMixture {
  readonly log: number;
  private readonly weights: Float64Array;
  /** Which of the modes each combination is likeliest in. */
  private readonly likeliest: Uint8Array;
  private readonly sets: readonly ShareSet[];
  private built: Component[] | null = null;
  private packed: Float64Array | null = null;

  constructor(
    private readonly modes: readonly Mode[],
    causes: readonly Cause[],
    nodesEach: number,
  ) {
    const { slacks } = modes[0].fit.model;
    this.sets = causes.flatMap((cause) => {
      const slack = cause.share ? slacks.indexOf(cause.share.slack) : -1;
      return slack < 0 ? [] : [{ slack, nodes: shareNodes(cause, nodesEach) }];
    });
    const count = this.sets.reduce((n, s) => n * s.nodes.length, 1);
    const each = modes.map(({ fit, log }) => ({ log, weights: weigh(fit, this.sets, count) }));
    this.weights = new Float64Array(count);
    this.likeliest = new Uint8Array(count);
    for (let i = 0; i < count; i += 1) {
      let most = -Infinity;
      for (let m = 0; m < each.length; m += 1) {
        const log = each[m].log + each[m].weights[i];
        if (log > most) [most, this.likeliest[i]] = [log, m];
      }
      let sum = 0;
      for (const { log, weights } of each) sum += Math.exp(log + weights[i] - most);
      this.weights[i] = most + Math.log(sum);
    }
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

  /**
   * What a test would read, before its own uncertainty, under each combination that is worth a prediction.
   * @param row - how much of each slack is in the reading
   * @param visit - weight, mm and mm²
   */
  predict(row: readonly number[], visit: (w: number, mean: number, variance: number) => void): void {
    const { slacks } = this.modes[0].fit.model;
    const n = slacks.length;
    const size = 1 + n + n * n;
    const packed = (this.packed ??= this.pack(n));
    const seen = row.flatMap((part, i) => (part === 0 ? [] : [i]));
    // The covariance is symmetric: each pair once, the others doubled.
    const pairs = seen.flatMap((i, k) => seen.slice(k).map((j) => ({ i, j })));
    const at = Int32Array.from(pairs, ({ i, j }) => 1 + n + i * n + j);
    const by = Float64Array.from(pairs, ({ i, j }) => (i === j ? 1 : 2) * row[i] * row[j]);
    for (let from = 0; from < packed.length; from += size) {
      let mean = 0;
      let variance = 0;
      for (const i of seen) mean += row[i] * packed[from + 1 + i];
      for (let k = 0; k < at.length; k += 1) variance += by[k] * packed[from + at[k]];
      visit(packed[from], mean, variance);
    }
  }

  /** Weight, means and covariance of each combination one after the other: read through thousands of times in a row. */
  private pack(n: number): Float64Array {
    const heavy = this.components.flatMap(({ logWeight, mean, covariance }) => {
      const w = Math.exp(logWeight - this.log);
      return w < HEAVY ? [] : [{ w, mean, covariance }];
    });
    const size = 1 + n + n * n;
    const packed = new Float64Array(heavy.length * size);
    heavy.forEach(({ w, mean, covariance }, i) => {
      packed[i * size] = w;
      packed.set(mean, i * size + 1);
      packed.set(covariance, i * size + 1 + n);
    });
    return packed;
  }

  private component(index: number, logWeight: number): Component {
    const { model, magnitudes } = this.modes[this.likeliest[index]].fit;
    const n = model.slacks.length;
    const mean = new Float64Array(model.baseMean);
    const covariance = new Float64Array(n * n);
    for (let i = 0; i < n; i += 1) covariance[i * n + i] = model.baseVariance[i];
    partsOf(this.sets, index).forEach((node, i) => {
      const { slack } = this.sets[i];
      mean[slack] += node.mm;
      covariance[slack * n + slack] += node.variance;
    });
    const component: Component = { logWeight: 0, mean, covariance };
    for (const m of magnitudes)
      measure(component, { row: model.rowOf(m.kind), reversalValueMm: m.reversalValueMm, uMm: m.uMm });
    component.logWeight = logWeight;
    return component;
  }
}

/** The nodes that a combination is made of, one of each share. */
function partsOf(sets: readonly ShareSet[], index: number): ShareNode[] {
  let rest = index;
  return sets.map(({ nodes }) => {
    const node = nodes[rest % nodes.length];
    rest = Math.floor(rest / nodes.length);
    return node;
  });
}

/** Log weight of each combination under the sizes of one mode. */
function weigh(fit: Fit, sets: readonly ShareSet[], count: number): Float64Array {
  const { residual, inverse, logDet, magnitudes, model } = fit;
  const m = residual.length;
  const weights = new Float64Array(count).fill(-Math.log(count));
  if (m === 0) return weights;
  const columns = sets.map(({ slack }) => magnitudes.map((one) => model.rowOf(one.kind)[slack]));
  const form = (a: readonly number[], b: readonly number[]): number => {
    let sum = 0;
    for (let i = 0; i < m; i += 1) if (a[i] !== 0) for (let k = 0; k < m; k += 1) sum += a[i] * inverse[i][k] * b[k];
    return sum;
  };
  const rr = form(residual, residual);
  const r = columns.map((c) => form(c, residual));
  const g = columns.map((a) => columns.map((b) => form(a, b)));
  const constant = -0.5 * (m * Math.log(2 * Math.PI) + logDet);
  for (let index = 0; index < count; index += 1) {
    const { quadratic, det } = joined({ rr, r, g }, partsOf(sets, index));
    weights[index] += constant - 0.5 * (quadratic + Math.log(det));
  }
  return weights;
}

/** What is left of the squares, and how far the determinant grows, once shares with this mean and variance are there. */
function joined(
  { rr, r, g }: { readonly rr: number; readonly r: readonly number[]; readonly g: readonly (readonly number[])[] },
  parts: readonly ShareNode[],
): { readonly quadratic: number; readonly det: number } {
  const k = parts.length;
  if (k === 0) return { quadratic: rr, det: 1 };
  if (k === 1) {
    const [{ mm: x, variance: p }] = parts;
    const w = r[0] - x * g[0][0];
    const det = 1 + p * g[0][0];
    return { quadratic: rr - 2 * x * r[0] + x * x * g[0][0] - (p * w * w) / det, det };
  }
  if (k === 2) {
    const [{ mm: x, variance: p }, { mm: y, variance: q }] = parts;
    const [[aa, ab], [, bb]] = g;
    const u = r[0] - x * aa - y * ab;
    const v = r[1] - x * ab - y * bb;
    const det = (1 + p * aa) * (1 + q * bb) - p * q * ab * ab;
    const taken = (p * u * u * (1 + q * bb) + q * v * v * (1 + p * aa) - 2 * p * q * ab * u * v) / det;
    return { quadratic: rr - x * (r[0] + u) - y * (r[1] + v) - taken, det };
  }
  // z solves (I + K G) z = K w with K the variances: what of the misfit w the shares’ own spread takes up.
  const w = r.map((ri, i) => ri - parts.reduce((s, { mm }, j) => s + g[i][j] * mm, 0));
  const a = parts.map(({ variance }, i) => [...g[i].map((x, j) => variance * x + (i === j ? 1 : 0)), variance * w[i]]);
  let det = 1;
  for (let i = 0; i < k; i += 1) {
    // I + K G with K and G positive has positive pivots: no exchange of rows is needed.
    det *= a[i][i];
    for (let row = i + 1; row < k; row += 1) {
      const by = a[row][i] / a[i][i];
      for (let c = i; c <= k; c += 1) a[row][c] -= by * a[i][c];
    }
  }
  const z = new Array<number>(k).fill(0);
  for (let i = k - 1; i >= 0; i -= 1) {
    let sum = a[i][k];
    for (let c = i + 1; c < k; c += 1) sum -= a[i][c] * z[c];
    z[i] = sum / a[i][i];
  }
  let quadratic = rr;
  for (let i = 0; i < k; i += 1) quadratic -= parts[i].mm * (r[i] + w[i]) + w[i] * z[i];
  return { quadratic, det };
}

/** Combinations less likely than this against the best one are left out of predictions. */
const LEAST_LOG = Math.log(1e-4);
/** Of all combinations together, what is lighter than this moves no prediction. */
const HEAVY = 1e-3;

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
