import { isGravityAxis, type AxisConfig } from "../axis";
import { virtualAxisOf } from "./default-axis";
import type { VirtualAxis } from "./virtual-axis";

/**
 * The physical state of the parts of one axis: gaps in mm, forces in N, wear and dirt from 0 to 1.
 * What is not named is sound. Nothing here knows a cause or a test; both follow from the parts.
 */
export interface PartsCondition {
  readonly overrideZero?: number;
  readonly interlockOpen?: number;
  readonly waiting?: number;
  /** Compensation in the control that the axis does not need, mm; positive hides loss. */
  readonly compensationMm?: number;
  readonly regenClick?: number;
  readonly freshParts?: number;
  readonly spindleSensor?: number;
  readonly motorPitting?: number;
  readonly brakeDragN?: number;
  readonly stallMargin?: number;
  readonly couplingSlipMm?: number;
  /** Softness of a worn insert or a slack belt, mm at the reversing force. */
  readonly springMm?: number;
  readonly couplingOffN?: number;
  readonly retainerGapMm?: number;
  readonly lockNutGapMm?: number;
  readonly bearingPitting?: number;
  readonly bearingGapMm?: number;
  readonly bearingOverN?: number;
  readonly housingSlipMm?: number;
  readonly supportPitting?: number;
  readonly screwWearMm?: number;
  readonly bendN?: number;
  readonly misalignN?: number;
  readonly nutGapMm?: number;
  readonly nutDirt?: number;
  readonly nutReturns?: number;
  readonly bracketSlipMm?: number;
  readonly nutSqueezeN?: number;
  readonly rackSpotN?: number;
  readonly meshWearMm?: number;
  readonly gibTightN?: number;
  readonly wayGapMm?: number;
  readonly dryness?: number;
  readonly carriageBroken?: number;
  readonly wheelTightN?: number;
  readonly wheelGapMm?: number;
  readonly cageShiftMm?: number;
  readonly counterOffN?: number;
  readonly dragBrakeN?: number;
  readonly chipsN?: number;
  readonly homeScatterMm?: number;
  readonly markerNear?: number;
  readonly tramMm?: number;
  /** How far shims have turned the spindle, mm per mm: across, and in depth. */
  readonly shimmedX?: number;
  readonly shimmedY?: number;
  readonly scaleDirt?: number;
  /** Clearance that the nut has from new, mm. */
  readonly nutNewMm?: number;
  /** Mesh that rack and pinion have from new, mm. */
  readonly meshNewMm?: number;
  /** Friction of the sound guideway, N. */
  readonly frictionN?: number;
  /** Where a spot, or the worn part of the screw, lies: a fraction of the travel. */
  readonly spotAt?: number;
}

export const SOUND_FRICTION_N = 120;

/** Guideway friction of the axis as it is, without spots and ends, N. */
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

/** The virtual axis that these parts make. */
export function axisFromParts(config: AxisConfig, parts: PartsCondition, seed: number): VirtualAxis {
  const rack = config.transmission === "rack";
  const gravity = isGravityAxis(config);
  const bearings = (parts.retainerGapMm ?? 0) + (parts.lockNutGapMm ?? 0) + (parts.bearingGapMm ?? 0);
  const nut = (parts.nutGapMm ?? 0) + (parts.nutNewMm ?? 0);
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
      housing: parts.housingSlipMm ?? 0,
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
