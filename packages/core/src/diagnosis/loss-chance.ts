import type { AxisConfig } from "../machine/axis";
import type { Component, SlackModel } from "./components";
import { normalCdf } from "./normal";

/**
 * Chance that the slacks together are more than what can be left, under a mixture.
 * @param axis - configuration
 * @param model - slacks of the axis
 * @param components - the mixture
 * @returns 0 to 1
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * const model = slackModel(axis);
 * const loose = { logWeight: 0, mean: model.baseMean.map((m) => m + 0.02), covariance: new Float64Array(64).fill(1e-9) };
 * chanceOfLoss(axis, model, [loose]) > 0.99 // true
 */
export function chanceOfLoss(axis: AxisConfig, model: SlackModel, components: readonly Component[]): number {
  const n = model.slacks.length;
  const most = Math.max(...components.map((c) => c.logWeight));
  let weight = 0;
  let above = 0;
  for (const c of components) {
    const w = Math.exp(c.logWeight - most);
    if (w < 1e-6) continue;
    let mean = 0;
    let variance = 0;
    for (let i = 0; i < n; i += 1) {
      mean += c.mean[i];
      for (let k = 0; k < n; k += 1) variance += c.covariance[i * n + k];
    }
    weight += w;
    above += w * normalCdf((mean - axis.limits.leaveMm) / Math.sqrt(variance));
  }
  return above / weight;
}
