import { travelPerTurnMm, type AxisConfig } from "../machine/axis";
import type { FindingId } from "../measure/findings";
import type { FeelKind, HandTestPlan, HandTestStep } from "../measure/hand";
import { frictionOf } from "./condition";
import type { PartsCondition } from "./parts-condition";
import { notices } from "./observe";
import type { VirtualAxis } from "./virtual-axis";

/**
 * What hands would find on the parts of a virtual axis, for one step of a test by hand.
 * @param config - configuration
 * @param options - `axis`: the virtual one; `kind`, `plan`, `step`: what is read; `normal`: draws a standard normal
 *   number
 * @returns what is read, in the unit of the step
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * simulateFeel(axis, { axis: axisFromParts(axis, {}, 1), kind: "hand-push", plan: defaultHandTest(axis, "hand-push"), step: handTestSteps(defaultHandTest(axis, "hand-push"))[0], normal: () => 0 }) > 0
 * // true
 */
export function simulateFeel(
  config: AxisConfig,
  {
    axis,
    kind,
    plan,
    step,
    normal,
  }: {
    readonly axis: VirtualAxis;
    readonly kind: FeelKind;
    readonly plan: HandTestPlan;
    readonly step: HandTestStep;
    readonly normal: () => number;
  },
): number {
  const parts = axis.parts ?? {};
  const present = (id: FindingId): boolean => notices(config, { axis, id, normal });
  switch (kind) {
    case "rock":
      return step.group === "pulled" ? -(0.004 + crossPlay(parts)) + 0.0007 * normal() : 0.0007 * normal();
    case "hand-push":
      if (step.group === "ends") return present("short-travel") ? 1 : 0;
      if (step.group === "feel") return present("grit") ? 1 : 0;
      return pullAt(config, parts, step.at) * (1 + 0.04 * normal());
    case "wheel-turn":
      // One eccentric wheel is set wrongly, not all of them.
      if (step.at === 2 && present("wheel-stuck")) return 2;
      return step.at === plan.repeats && present("wheel-free") ? 0 : 1;
    case "motor-alone":
      if (step.group === "sound") return present("motor-noise") ? 2 : 0;
      return present("motor-heavy") ? 1 : 0;
    case "finger-feel":
      return present("rough-finger") ? 2 : step.at === 0 ? 1 : 0;
    case "coast":
      return present("coast-stuck") ? 0 : present("coasts-free") ? 2 : 1;
  }
}

/** Play across the guideway, mm. */
function crossPlay(parts: PartsCondition): number {
  return (parts.wayGapMm ?? 0) + 0.3 * (parts.wheelGapMm ?? 0) + 0.025 * (parts.carriageBroken ?? 0);
}

/** Pull without the motor at a place, N. */
function pullAt(config: AxisConfig, parts: PartsCondition, atMm: number): number {
  const spot = (parts.spotAt ?? 0.5) * config.travelMm;
  const near = Math.abs(atMm - spot) < config.travelMm / 12;
  const extra = (parts.chipsN ?? 0) + (parts.rackSpotN ?? 0) + 90 * (parts.carriageBroken ?? 0);
  const swing = (parts.bendN ?? 0) * Math.sin((2 * Math.PI * atMm) / travelPerTurnMm(config));
  const end = (parts.misalignN ?? 0) * Math.max(0, 1 - atMm / (0.3 * config.travelMm));
  const brakeless = frictionOf({ ...parts, brakeDragN: 0 });
  return brakeless + (near ? extra : 0) + swing + end;
}
