import type { AxisConfig } from "../axis";
import type { Cause, SlackId } from "./knowledge";
import { baselineOf, seenBy, slacksOf, type MagnitudeKind } from "./slack";

/** A measured size with its standard uncertainty, mm. */
export interface Magnitude {
  readonly kind: MagnitudeKind;
  readonly lostMm: number;
  readonly uMm: number;
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

/** A share's spread as Gaussians evenly spaced in its logarithm, each as wide as its spacing. */
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

/** Takes one measurement in: the usual update of a Gaussian, and the likelihood it had. */
export function measure(
  component: Component,
  row: readonly number[],
  lostMm: number,
  uMm: number,
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
  const miss = lostMm - predicted;
  component.logWeight -=
    0.5 * (Math.log(2 * Math.PI * spread) + (miss * miss) / spread);
  for (let i = 0; i < n; i += 1) {
    const gain = v[i] / spread;
    mean[i] += gain * miss;
    for (let k = 0; k < n; k += 1) covariance[i * n + k] -= gain * v[k];
  }
}

/** The mixture over the slacks for a set of causes, with all measurements taken in. */
export function componentsFor(
  model: SlackModel,
  causes: readonly Cause[],
  magnitudes: readonly Magnitude[],
  nodesEach: number,
): Component[] {
  const n = model.slacks.length;
  let starts: { shares: readonly (readonly [number, Node])[]; log: number }[] =
    [{ shares: [], log: 0 }];
  for (const cause of causes) {
    const slack = cause.share ? model.slacks.indexOf(cause.share.slack) : -1;
    if (slack < 0) continue;
    const nodes = shareNodes(cause, nodesEach);
    starts = starts.flatMap((s) =>
      nodes.map((node) => ({
        shares: [...s.shares, [slack, node] as const],
        log: s.log - Math.log(nodes.length),
      })),
    );
  }
  return starts.map(({ shares, log }) => {
    const mean = Float64Array.from(model.baseMean);
    const covariance = new Float64Array(n * n);
    for (let i = 0; i < n; i += 1)
      covariance[i * n + i] = model.baseVariance[i];
    for (const [slack, node] of shares) {
      mean[slack] += node.mm;
      covariance[slack * n + slack] += node.variance;
    }
    const component: Component = { logWeight: log, mean, covariance };
    for (const m of magnitudes)
      measure(component, model.rowOf(m.kind), m.lostMm, m.uMm);
    return component;
  });
}

/** Log of the summed weights. */
export function logSum(logs: readonly number[]): number {
  const most = Math.max(...logs);
  if (most === -Infinity) return -Infinity;
  return most + Math.log(logs.reduce((sum, l) => sum + Math.exp(l - most), 0));
}

/** Mean and variance of what a test would read under a component, before its own uncertainty. */
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
