import { isGravityAxis, type AxisConfig } from "../machine/axis";
import { virtualAxisOf } from "./default-axis";
import type { PartsCondition } from "./parts-condition";
import { SOUND_FRICTION_N, soundFrictionN } from "./sound-friction";
import type { VirtualAxis } from "./virtual-axis";

/**
 * Guideway friction of the axis as it is, without spots and ends, N.
 * @param c - condition of the parts
 * @returns N
 * @example frictionOf({}) // 120
 */
export function frictionOf(c: PartsCondition): number {
  const sound = c.frictionN ?? SOUND_FRICTION_N;
  return (
    sound * (1 + 0.9 * (c.dryness ?? 0)) +
    (c.gibTightN ?? 0) +
    (c.nutSqueezeN ?? 0) +
    (c.wheelTightN ?? 0) +
    (c.brakeDragN ?? 0) +
    0.4 * (c.bearingOverN ?? 0) +
    (c.dragBrakeN ?? 0) / 2
  );
}

/**
 * The virtual axis that these parts make.
 * @param config - configuration
 * @param given - their condition
 * @param seed - the same gives the same axis
 * @returns the virtual axis
 * @example axisFromParts(defaultAxis("vertical-centre", "X"), { nutGapMm: 0.02 }, 1).travelMm // 500
 */
export function axisFromParts(config: AxisConfig, given: PartsCondition, seed: number): VirtualAxis {
  const parts = { ...given, frictionN: given.frictionN ?? soundFrictionN(config) };
  const rack = config.transmission === "rack";
  const gravity = isGravityAxis(config);
  const bearings = (parts.retainerGapMm ?? 0) + (parts.lockNutGapMm ?? 0) + (parts.bearingGapMm ?? 0);
  const nut = (parts.nutGapMm ?? 0) + (parts.nutNewMm ?? 0) + (parts.flangeSlipMm ?? 0);
  const at = (parts.spotAt ?? 0.5) * config.travelMm;
  const friction = frictionOf(parts);
  const spots = [
    { atMm: at, widthMm: 12, extraN: (parts.chipsN ?? 0) + (parts.rackSpotN ?? 0) + 90 * (parts.carriageBroken ?? 0) },
  ].filter((s) => s.extraN > 0);
  const wear = parts.screwWearMm
    ? { linkId: "nut", centreMm: at, widthMm: config.travelMm / 5, extraMm: parts.screwWearMm }
    : undefined;
  const base = virtualAxisOf(
    config,
    {
      coupling: parts.couplingSlipMm ?? 0,
      endBearings: rack ? (parts.meshWearMm ?? 0) + (parts.meshNewMm ?? 0) : bearings,
      housing: (parts.housingSlipMm ?? 0) + (parts.clampSlipMm ?? 0),
      nut: rack ? 0 : nut,
      bracket: rack ? 0 : (parts.bracketSlipMm ?? 0),
      frictionN: friction,
      loadN: gravity ? (parts.counterOffN ?? 0) + (parts.dragBrakeN ?? 0) / 2 + 20 : 0,
      wear,
    },
    seed,
  );
  const spring = parts.springMm ?? 0;
  return {
    ...base,
    links: base.links.map((link) =>
      link.id === "coupling" && spring > 0 ? { ...link, stiffnessNPerMm: (2 * friction) / spring } : link,
    ),
    enteredMm: parts.compensationMm ?? 0,
    load: {
      perTurnN: (parts.bendN ?? 0) + (parts.couplingOffN ?? 0),
      endRiseN: parts.misalignN ?? 0,
      spots,
    },
    parts,
  };
}
