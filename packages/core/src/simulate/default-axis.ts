import { travelPerTurnMm, type AxisConfig } from "../machine/axis";
import { STEEL_E } from "../sums/screw/steel";
import type { ElasticLink } from "./elastic-chain";
import type { VirtualAxis } from "./virtual-axis";

/** Dead bands and other faults of a virtual axis by link; what is not named is as usual. */
export interface HiddenCondition {
  /** Dead band, mm. */
  readonly coupling?: number;
  readonly endBearings?: number;
  readonly housing?: number;
  readonly nut?: number;
  readonly bracket?: number;
  /** Friction of the guideway, N. */
  readonly frictionN?: number;
  /** Weight that nothing balances, N. More of it than friction hides dead bands. */
  readonly loadN?: number;
  readonly wear?: VirtualAxis["wear"];
  readonly repeatabilityMm?: number;
  readonly driftMm?: number;
}

/**
 * A virtual axis with the stiffness its screw would have (E·A/L in the middle of the travel) and the
 * faults of `hidden`. Other stiffnesses and frictions are plausible, invented for practice.
 */
export function virtualAxisOf(axis: AxisConfig, hidden: HiddenCondition, seed: number): VirtualAxis {
  const { screw } = axis;
  const area = (Math.PI / 4) * screw.rootMm ** 2;
  const screwStiffness = axis.transmission === "rack" ? 4e4 : (STEEL_E * area) / (screw.freeLengthMm / 2);
  const link = (id: string, deadBandMm: number, stiffnessNPerMm: number, frictionN: number): ElasticLink => ({
    id,
    deadBandMm,
    stiffnessNPerMm,
    frictionN,
    loadN: 0,
  });
  const rack = axis.transmission === "rack";
  return {
    links: [
      link("coupling", hidden.coupling ?? 0, 4e5, 4),
      link(rack ? "pinion" : "end-bearings", hidden.endBearings ?? 0, 3e5, 8),
      ...(rack ? [] : [link("housing", hidden.housing ?? 0, 2e6, 0)]),
      link(rack ? "rack" : "screw", 0, screwStiffness, 4),
      link("nut", hidden.nut ?? 0, 3e5, 10),
      {
        ...link("bracket", hidden.bracket ?? 0, 8e5, hidden.frictionN ?? 120),
        loadN: hidden.loadN ?? 0,
      },
    ],
    travelMm: axis.travelMm,
    feedback: axis.feedback,
    repeatabilityMm: hidden.repeatabilityMm ?? 0.0005,
    drift: { totalMm: hidden.driftMm ?? 0.001, tauS: 2400 },
    leadError: {
      amplitudeMm: axis.screw.make === "ground" ? 0.001 : 0.004,
      perTurnMm: travelPerTurnMm(axis),
    },
    pitchErrorMm: axis.screw.make === "ground" ? 0.006 : 0.03,
    wear: hidden.wear,
    seed,
  };
}

/** An ordinary axis for practice: small clearances, nothing wrong. */
export function defaultVirtualAxis(axis: AxisConfig, seed: number): VirtualAxis {
  const clearance = axis.nut === "single-clearance" ? 0.008 : axis.nut === "anti-backlash" ? 0.03 : 0.0005;
  return virtualAxisOf(axis, { nut: clearance, endBearings: 0.0005 }, seed);
}
