import type { AxisConfig } from "../machine/axis";
import { SOUND_FRICTION_N, soundFrictionN } from "./sound-friction";
import type { PartsCondition } from "./parts-condition";

/** Draws a number from 0 to 1. */
export type Uniform = () => number;

type Make = (u: Uniform, axis: AxisConfig) => PartsCondition;

/** Between two numbers, evenly in the logarithm. */
function logBetween(u: Uniform, least: number, most: number): number {
  return least * (most / least) ** u();
}
function between(u: Uniform, least: number, most: number): number {
  return least + (most - least) * u();
}

/**
 * What a fault does to the parts, with a size drawn from what is met in shops. Ranges are
 * plausible, invented for practice and for the benchmark; they were set before it was first run.
 */
export const FAULTS: Readonly<Record<string, Make>> = {
  "control-override": () => ({ overrideZero: 1 }),
  "control-interlock": () => ({ interlockOpen: 1 }),
  "control-waiting": () => ({ waiting: 1 }),
  "control-comp": (u) => ({ compensationMm: (u() < 0.5 ? -1 : 1) * logBetween(u, 0.01, 0.045) }),
  "travel-scale": () => ({ travelWrong: 1 }),
  "refer-display": () => ({ displayDead: 1 }),
  "normal-regen": () => ({ regenClick: 1 }),
  "normal-dragbrake": (u) => ({ dragBrakeN: between(u, 150, 300) }),
  "normal-running-in": (u) => ({ freshParts: between(u, 0.7, 1) }),
  "refer-spindle-sensor": () => ({ spindleSensor: 1 }),
  "motor-bearing": (u) => ({ motorPitting: between(u, 0.35, 1) }),
  "brake-drags": (u) => ({ brakeDragN: between(u, 90, 260) }),
  "stepper-stall": (u) => ({ stallMargin: between(u, 0.5, 1) }),
  "coupling-screw": (u) => ({ couplingSlipMm: logBetween(u, 0.012, 0.25) }),
  "coupling-insert": (u) => ({ springMm: logBetween(u, 0.009, 0.06) }),
  "coupling-eccentric": (u) => ({ couplingOffN: between(u, 50, 160) }),
  "belt-slack": (u) => ({ springMm: logBetween(u, 0.01, 0.08) }),
  "retainer-loose": (u) => ({ retainerGapMm: logBetween(u, 0.009, 0.08) }),
  "nut-preload-lost": (u) => ({ lockNutGapMm: logBetween(u, 0.008, 0.05) }),
  "end-bearing-worn": (u) => ({ bearingPitting: between(u, 0.35, 1), bearingGapMm: logBetween(u, 0.008, 0.05) }),
  "end-bearing-overtight": (u) => ({ bearingOverN: between(u, 250, 600) }),
  "housing-loose": (u) => ({ housingSlipMm: logBetween(u, 0.009, 0.07) }),
  "support-bearing": (u) => ({ supportPitting: between(u, 0.45, 1) }),
  "screw-worn-middle": (u) => ({ screwWearMm: logBetween(u, 0.01, 0.05), spotAt: between(u, 0.4, 0.6) }),
  "screw-bent": (u) => ({ bendN: between(u, 55, 170) }),
  "screw-misaligned": (u) => ({ misalignN: between(u, 90, 350) }),
  "nut-worn": (u) => ({ nutGapMm: logBetween(u, 0.012, 0.07) }),
  "nut-clearance": () => ({}),
  "nut-dirty": (u) => ({ nutDirt: between(u, 0.45, 1) }),
  "nut-returns": (u) => ({ nutReturns: between(u, 0.4, 1) }),
  "bracket-loose": (u) => ({ bracketSlipMm: logBetween(u, 0.015, 0.25) }),
  "antibacklash-tight": (u) => ({ nutSqueezeN: between(u, 130, 320) }),
  "antibacklash-worn": (u) => ({ nutGapMm: logBetween(u, 0.06, 0.19) }),
  "flange-loose": (u) => ({ flangeSlipMm: logBetween(u, 0.015, 0.18) }),
  "screw-clamp-loose": (u) => ({ clampSlipMm: logBetween(u, 0.015, 0.25) }),
  "racks-out-of-step": (u) => ({ rackStepMm: between(u, 1, 6) }),
  "rack-spot": (u) => ({ rackSpotN: between(u, 90, 300), spotAt: between(u, 0.2, 0.8) }),
  "pinion-loose": (u) => ({ couplingSlipMm: logBetween(u, 0.05, 0.4) }),
  "pinion-worn": (u) => ({ meshWearMm: logBetween(u, 0.06, 0.25) }),
  "gib-tight": (u) => ({ gibTightN: between(u, 130, 380) }),
  "gib-loose": (u) => ({ wayGapMm: between(u, 0.028, 0.09) }),
  "way-dry": (u) => ({ dryness: between(u, 0.5, 1) }),
  "carriage-failed": (u) => ({ carriageBroken: between(u, 0.5, 1), spotAt: between(u, 0.2, 0.8) }),
  "wheel-tight": (u) => ({ wheelTightN: between(u, 90, 260) }),
  "wheel-loose": (u) => ({ wheelGapMm: between(u, 0.08, 0.4) }),
  "cage-crept": (u) => ({ cageShiftMm: between(u, 4, 20) }),
  "counterweight-out": (u) => ({ counterOffN: between(u, 90, 260) }),
  "chips-in-way": (u) => ({ chipsN: between(u, 90, 260), spotAt: between(u, 0.15, 0.85) }),
  "home-switch": (u) => ({ homeScatterMm: between(u, 0.018, 0.1) }),
  "home-marker-near": () => ({ markerNear: 1 }),
  "tram-out": (u) => ({ tramMm: between(u, 0.035, 0.15) }),
  "scale-head": (u) => ({ scaleDirt: between(u, 0.45, 1) }),
};

/**
 * What a sound axis of this make has from new: its nut's clearance, its mesh.
 * @param u - draws a number from 0 to 1
 * @param axis - configuration
 * @returns condition of the parts
 * @example soundParts(() => 0.5, defaultAxis("vertical-centre", "X")).nutNewMm // 0.00075
 */
export function soundParts(u: Uniform, axis: AxisConfig): PartsCondition {
  const nutNewMm =
    axis.nut === "anti-backlash"
      ? between(u, 0.012, 0.045)
      : axis.nut === "single-clearance"
        ? between(u, 0.003, 0.012)
        : between(u, 0, 0.0015);
  return {
    nutNewMm,
    meshNewMm: between(u, 0.03, 0.065),
    bearingGapMm: axis.bearings === "deep-groove-pair" ? between(u, 0.0005, 0.005) : 0,
    frictionN: (soundFrictionN(axis) / SOUND_FRICTION_N) * between(u, 90, 150),
    dryness: between(u, 0, 0.15),
  };
}

/** Forces that grow with the weight of the member and of its screw. */
const OF_WEIGHT: readonly string[] = [
  "couplingOffN",
  "bendN",
  "misalignN",
  "nutSqueezeN",
  "rackSpotN",
  "gibTightN",
  "wheelTightN",
  "counterOffN",
  "chipsN",
  "dragBrakeN",
] satisfies readonly (keyof PartsCondition)[];

/**
 * Puts faults on top of sound parts; gaps and forces of two faults add up.
 * @param sound - condition of the parts before
 * @param options - `faults`: ids of causes; `u`: draws a number from 0 to 1; `axis`: configuration
 * @returns condition of the parts with them
 * @example
 * withFaults({}, { faults: ["nut-worn"], u: () => 0.5, axis: defaultAxis("vertical-centre", "X") }).nutGapMm > 0.005
 * // true
 */
export function withFaults(
  sound: PartsCondition,
  { faults, u, axis }: { readonly faults: readonly string[]; readonly u: Uniform; readonly axis: AxisConfig },
): PartsCondition {
  const parts: Record<string, number> = { ...sound };
  const heavier = soundFrictionN(axis) / SOUND_FRICTION_N;
  for (const id of faults) {
    const made = FAULTS[id]?.(u, axis) ?? {};
    for (const [key, value] of Object.entries(made as Record<string, number>)) {
      if (key === "spotAt") parts[key] = value;
      else if (key === "dryness") parts[key] = Math.max(parts[key] ?? 0, value);
      else parts[key] = (parts[key] ?? 0) + value * (OF_WEIGHT.includes(key) ? heavier : 1);
    }
  }
  return parts;
}
