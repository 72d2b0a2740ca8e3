import { travelPerTurnMm, type AxisConfig } from "../machine/axis";
import { STEEL_E } from "../sums/screw/steel";
import type { ElasticLink } from "./elastic-chain";
import { soundFrictionN } from "./sound-friction";
import type { VirtualAxis } from "./virtual-axis";

/** Screw that the stiffnesses below are for, mm. */
const MIDDLING_MM = 40;

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
 * @param axis - configuration
 * @param hidden - clearances of its links, mm, friction and load
 * @param seed - the same gives the same axis
 * @returns the virtual axis
 * @example virtualAxisOf(defaultAxis("vertical-centre", "X"), { nut: 0.02 }, 1).links.length // 6
 */
export function virtualAxisOf(axis: AxisConfig, hidden: HiddenCondition, seed: number): VirtualAxis {
  const { screw } = axis;
  const area = (Math.PI / 4) * screw.rootMm ** 2;
  const screwStiffness = axis.transmission === "rack" ? 4e4 : (STEEL_E * area) / (screw.freeLengthMm / 2);
  const link = (
    id: string,
    {
      deadBandMm,
      stiffnessNPerMm,
      frictionN,
    }: { readonly deadBandMm: number; readonly stiffnessNPerMm: number; readonly frictionN: number },
  ): ElasticLink => ({
    id,
    deadBandMm,
    stiffnessNPerMm,
    frictionN,
    loadN: 0,
  });
  const rack = axis.transmission === "rack";
  // Bearings, nut and bracket are as stout as the screw that they go with.
  const stout = rack ? 1 : Math.max(1, (screw.nominalMm / MIDDLING_MM) ** 2);
  return {
    links: [
      link("coupling", { deadBandMm: hidden.coupling ?? 0, stiffnessNPerMm: 4e5 * stout, frictionN: 4 }),
      link(rack ? "pinion" : "end-bearings", {
        deadBandMm: hidden.endBearings ?? 0,
        stiffnessNPerMm: 3e5 * stout,
        frictionN: 8,
      }),
      ...(rack
        ? []
        : [link("housing", { deadBandMm: hidden.housing ?? 0, stiffnessNPerMm: 2e6 * stout, frictionN: 0 })]),
      link(rack ? "rack" : "screw", { deadBandMm: 0, stiffnessNPerMm: screwStiffness, frictionN: 4 }),
      link("nut", { deadBandMm: hidden.nut ?? 0, stiffnessNPerMm: 3e5 * stout, frictionN: 10 }),
      {
        ...link("bracket", {
          deadBandMm: hidden.bracket ?? 0,
          stiffnessNPerMm: 8e5 * stout,
          frictionN: hidden.frictionN ?? soundFrictionN(axis),
        }),
        loadN: hidden.loadN ?? 0,
      },
    ],
    travelMm: axis.travelMm,
    turningNut: axis.transmission === "rotating-nut",
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

/**
 * An ordinary axis for practice: small clearances, nothing wrong.
 * @param axis - configuration
 * @param seed - the same gives the same axis
 * @returns the virtual axis
 * @example defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1).feedback // "encoder"
 */
export function defaultVirtualAxis(axis: AxisConfig, seed: number): VirtualAxis {
  const clearance = axis.nut === "single-clearance" ? 0.008 : axis.nut === "anti-backlash" ? 0.03 : 0.0005;
  return virtualAxisOf(axis, { nut: clearance, endBearings: 0.0005 }, seed);
}
