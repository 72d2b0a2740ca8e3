import { directionText, type AxisConfig, type UnitSystem } from "@iron/core";

/** What plus and minus are called on this axis. */
export function directionNames(config: AxisConfig): {
  readonly plus: string;
  readonly minus: string;
} {
  return {
    plus: directionText(config, "+").jog,
    minus: directionText(config, "-").jog,
  };
}

const STEPS_MM = [0.01, 0.1, 1, 10, 30];
const STEPS_IN = [0.0001, 0.001, 0.01, 0.1, 1];

/**
 * Jog steps to choose from, mm, ascending: the axis’ own smallest step in millimetres, and round
 * steps of the units that are read.
 */
export function jogSteps(tickMm: number, system: UnitSystem): readonly number[] {
  const round = system === "metric" ? [tickMm, ...STEPS_MM] : STEPS_IN.map((s) => s * 25.4);
  return [...new Set(round)].filter((s) => s >= tickMm * 0.99).sort((a, b) => a - b);
}
