import type { UnitSystem } from "../../quantity";
import type { AxisConfig, LossLimits } from "./config";
import type { MachineKind } from "./kinds";
import { BASE_MECHANICS } from "./mechanics";
import { usualMechanics } from "./usual-mechanics";
import { usualLimits } from "./usual-limits";

/**
 * Leave or compensate up to 0.010 mm, repair first above 0.025 mm: common practice, no source.
 */
export const DEFAULT_LIMITS: LossLimits = {
  leaveMm: 0.01,
  repairMm: 0.025,
  setBy: "",
  why: "",
};

const BASE: AxisConfig = {
  letter: "X",
  member: "table",
  orientation: "horizontal",
  slantDeg: 45,
  travelMm: 500,
  rapidMmMin: 20_000,
  tickMm: 0.001,
  feedback: "encoder",
  motor: "servo",
  brake: false,
  counterweight: false,
  gasSpring: false,
  dragBrake: false,
  transmission: "direct",
  coupling: "insert",
  ratio: 1,
  pinionDiameterMm: 40,
  screw: {
    nominalMm: 32,
    rootMm: 28,
    leadMm: 10,
    freeLengthMm: 750,
    fixings: "fixed-supported",
    make: "ground",
  },
  nut: "double",
  bearings: "angular-pair",
  lockNut: "clamp-nut",
  guideway: "rail",
  mechanics: BASE_MECHANICS,
  limits: DEFAULT_LIMITS,
  enteredMm: 0,
  costs: { downtimePerHour: 80, bearingSet: null, screw: null },
};

const ROUTER: Partial<AxisConfig> = {
  travelMm: 2500,
  member: "gantry",
  transmission: "rack",
  rapidMmMin: 30_000,
  tickMm: 0.01,
  ratio: 5,
};

const OF_KIND: Record<MachineKind, Partial<AxisConfig>> = {
  "vertical-centre": {},
  "horizontal-centre": { travelMm: 630 },
  lathe: {
    member: "saddle",
    travelMm: 400,
    orientation: "slanted",
    slantDeg: 45,
    brake: true,
  },
  "horizontal-borer": {
    travelMm: 1600,
    feedback: "scale",
    guideway: "box",
    rapidMmMin: 10_000,
  },
  router: ROUTER,
  "bench-mill": {
    travelMm: 300,
    guideway: "dovetail",
    nut: "single-clearance",
    rapidMmMin: 3000,
    motor: "stepper",
    feedback: "open-loop",
    tickMm: 0.005,
    screw: {
      ...BASE.screw,
      nominalMm: 16,
      rootMm: 13,
      leadMm: 5,
      freeLengthMm: 420,
      make: "rolled",
    },
  },
  engraver: {
    travelMm: 400,
    guideway: "v-wheel",
    transmission: "plain-screw",
    nut: "anti-backlash",
    motor: "stepper",
    feedback: "open-loop",
    rapidMmMin: 3000,
    tickMm: 0.01,
    bearings: "deep-groove-pair",
    screw: {
      ...BASE.screw,
      nominalMm: 8,
      rootMm: 6.5,
      leadMm: 8,
      freeLengthMm: 470,
      make: "rolled",
    },
  },
  "surface-grinder": {
    guideway: "ball-cage",
    travelMm: 200,
    rapidMmMin: 6000,
    member: "table",
  },
  other: {},
};

/**
 * A sensible axis to start from, for a kind of machine and an axis letter. Its limits follow its
 * drive and feedback, in the units that the shop sets limits in.
 * @param kind - kind of the machine
 * @param letter - its letter
 * @param system - units the limits are set in
 * @returns a configuration to be changed
 * @example defaultAxis("vertical-centre", "X").letter // 'X'
 */
export function defaultAxis(kind: MachineKind, letter: string, system: UnitSystem = "metric"): AxisConfig {
  const axis = kindAxis(kind, letter);
  return {
    ...axis,
    mechanics: usualMechanics(kind, axis),
    limits: usualLimits(axis, system),
  };
}

function kindAxis(kind: MachineKind, letter: string): AxisConfig {
  const axis = { ...BASE, ...OF_KIND[kind], letter };
  if (letter === "Y" && kind !== "router") return { ...axis, member: "saddle" };
  if (letter === "Z" && kind === "lathe") {
    return {
      ...axis,
      orientation: "horizontal",
      member: "carriage",
      brake: false,
    };
  }
  if (letter === "Z" && (kind === "vertical-centre" || kind === "bench-mill")) {
    return { ...axis, orientation: "vertical", member: "head", brake: true };
  }
  if (letter === "Z" && (kind === "router" || kind === "engraver")) {
    const screw = {
      ...BASE.screw,
      nominalMm: 16,
      rootMm: 13,
      leadMm: 5,
      freeLengthMm: 260,
    };
    return {
      ...axis,
      orientation: "vertical",
      member: "head",
      travelMm: 150,
      brake: true,
      transmission: "direct",
      screw,
      nut: "single-preloaded",
      ratio: 1,
    };
  }
  return axis;
}
