import type { AxisConfig } from "../machine/axis";
import type { Component, SlackModel } from "./components";
import { normalCdf } from "./normal";

/** Chance that the slacks together are more than what can be left, under a mixture. */
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
