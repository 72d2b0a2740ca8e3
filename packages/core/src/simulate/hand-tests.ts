import { frictionOf } from "./condition";
import { leanOf } from "./shim";
import { CREST_PLANES, isFeelKind, type HandTestPlan, type HandTestStep } from "../measure/hand";
import { travelPerTurnMm, type AxisConfig } from "../machine/axis";
import { crestReading, FULL_LOAD_N } from "./trace";
import { simulateFeel } from "./feel";
import type { VirtualAxis } from "./virtual-axis";

/** Turns in at which a sound gib begins to bite; a gib that was tight already bites sooner. */
const SOUND_KNEE_TURNS = 1.6;
const CLIFF_N_PER_TURN = 420;

/**
 * What the simulated machine shows for a step of a series, in the units the core keeps.
 * @param config - configuration
 * @param options - `axis`: the virtual one; `plan`, `step`: what is read; `normal`: draws a standard normal number
 * @returns the reading
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * simulateHandTestReading(axis, { axis: axisFromParts(axis, {}, 1), plan: defaultHandTest(axis, "home-repeat"), step: handTestSteps(defaultHandTest(axis, "home-repeat"))[0], normal: () => 0 })
 * // 0
 */
export function simulateHandTestReading(
  config: AxisConfig,
  {
    axis,
    plan,
    step,
    normal,
  }: {
    readonly axis: VirtualAxis;
    readonly plan: HandTestPlan;
    readonly step: HandTestStep;
    readonly normal: () => number;
  },
): number {
  const parts = axis.parts ?? {};
  if (isFeelKind(plan.kind)) return simulateFeel(config, { axis, kind: plan.kind, plan, step, normal });
  switch (plan.kind) {
    case "crest-run": {
      const plane = CREST_PLANES.findIndex((p) => p === step.group);
      const zero = crestReading(axis, { plane, positionMm: plan.places[0], normal: () => 0 });
      return crestReading(axis, { plane, positionMm: step.at, normal }) - zero;
    }
    case "gib-curve":
      return simulateGib(axis, { plan, step, normal });
    case "tram": {
      const lean = leanOf(parts);
      const across = lean.x * plan.spanMm;
      const depth = lean.y * plan.depthMm;
      const at = { left: 0, right: across, far: across / 2 + depth / 2, near: across / 2 - depth / 2 }[step.group] ?? 0;
      return at + 0.0012 * normal();
    }
    case "home-repeat": {
      const jump = parts.markerNear && step.at % 3 === 0 ? travelPerTurnMm(config) : 0;
      return jump + ((parts.homeScatterMm ?? 0) / 2 + 0.0008) * normal();
    }
  }
}

/** Slack across the way that a turn of the adjuster takes up, mm (pitch 1.5 mm, taper 1 in 60). */
const SLACK_PER_TURN_MM = 1.5 / 60;
/** Swing that bending leaves when the gib is firm, mm. */
const BENDING_MM = 0.004;

function simulateGib(
  axis: VirtualAxis,
  { plan, step, normal }: { readonly plan: HandTestPlan; readonly step: HandTestStep; readonly normal: () => number },
): number {
  const parts = axis.parts ?? {};
  const tight = parts.gibTightN ?? 0;
  const knee = SOUND_KNEE_TURNS - tight / 900 + (parts.wayGapMm ?? 0) * 12;
  const slack = SLACK_PER_TURN_MM * Math.max(0, knee - 0.15 - step.at);
  if (step.group === "rock") return Math.abs(BENDING_MM + slack + 0.0008 * normal());
  if (step.group === "lost motion") return Math.abs(BENDING_MM + 0.4 * slack + 0.0008 * normal());
  const over = Math.max(0, step.at - knee);
  if (plan.gib === "seize") return over <= 0.05 ? 0 : over < 0.8 ? 1 : 2;
  const floorN = frictionOf({ ...parts, gibTightN: 0 });
  const n = floorN + CLIFF_N_PER_TURN * over;
  return plan.friction === "pull" ? n + 3 * normal() : (100 * n) / FULL_LOAD_N + 0.15 * normal();
}
