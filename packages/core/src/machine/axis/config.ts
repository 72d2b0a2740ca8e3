import type { AxisMechanics } from "./mechanics";

/**
 * What an axis is made of: the drive chain from command to table.
 * Lengths in millimetres, feeds in mm/min, angles in degrees where a technician reads them off.
 */
export const ORIENTATIONS = ["horizontal", "vertical", "slanted"] as const;
export const FEEDBACKS = ["encoder", "scale", "open-loop"] as const;
export const MOTORS = ["servo", "stepper"] as const;
export const TRANSMISSIONS = ["direct", "belt", "rack", "rotating-nut", "plain-screw"] as const;
export const COUPLINGS = ["clamp", "insert", "bellows", "disc", "rigid"] as const;
export const FIXINGS = ["fixed-free", "supported-supported", "fixed-supported", "fixed-fixed"] as const;
export const SCREW_MAKES = ["rolled", "ground"] as const;
export const NUTS = ["single-clearance", "single-preloaded", "double", "anti-backlash"] as const;
export const BEARING_SETS = [
  "angular-pair",
  "angular-triple",
  "angular-quad",
  "deep-groove-pair",
  "plain-thrust",
] as const;
export const LOCK_NUTS = ["clamp-nut", "double-nut-tab", "retainer-ring"] as const;
export const GUIDEWAYS = ["box", "dovetail", "rail", "v-wheel", "crossed-roller", "ball-cage"] as const;
export const MEMBERS = ["table", "saddle", "head", "gantry", "carriage", "ram", "quill"] as const;

export type Orientation = (typeof ORIENTATIONS)[number];
export type Feedback = (typeof FEEDBACKS)[number];
export type TransmissionKind = (typeof TRANSMISSIONS)[number];
export type CouplingKind = (typeof COUPLINGS)[number];
export type Guideway = (typeof GUIDEWAYS)[number];
export type Member = (typeof MEMBERS)[number];
export type NutKind = (typeof NUTS)[number];
export type Fixings = (typeof FIXINGS)[number];

export interface ScrewConfig {
  readonly nominalMm: number;
  readonly rootMm: number;
  readonly leadMm: number;
  readonly freeLengthMm: number;
  readonly fixings: Fixings;
  readonly make: (typeof SCREW_MAKES)[number];
}

/** Above `leaveMm` the loss is watched or compensated, above `repairMm` it is repaired first. */
export interface LossLimits {
  readonly leaveMm: number;
  readonly repairMm: number;
  /** Who set them and why; empty for the shop's defaults. */
  readonly setBy: string;
  readonly why: string;
}

export interface AxisConfig {
  readonly letter: string;
  readonly member: Member;
  readonly orientation: Orientation;
  /** Against the horizontal; used when slanted. */
  readonly slantDeg: number;
  readonly travelMm: number;
  readonly rapidMmMin: number;
  /** Smallest step the control can jog. */
  readonly tickMm: number;
  readonly feedback: Feedback;
  readonly motor: (typeof MOTORS)[number];
  readonly brake: boolean;
  readonly counterweight: boolean;
  readonly gasSpring: boolean;
  readonly dragBrake: boolean;
  readonly transmission: TransmissionKind;
  /** Direct drives only. */
  readonly coupling: CouplingKind;
  /** Motor turns per screw, nut or pinion turn. */
  readonly ratio: number;
  /** Rack drives only: pitch diameter. */
  readonly pinionDiameterMm: number;
  /** Not used by rack drives. */
  readonly screw: ScrewConfig;
  readonly nut: NutKind;
  readonly bearings: (typeof BEARING_SETS)[number];
  readonly lockNut: (typeof LOCK_NUTS)[number];
  readonly guideway: Guideway;
  /** What holds, moves and can be reached. */
  readonly mechanics: AxisMechanics;
  readonly limits: LossLimits;
  /** Backlash compensation entered in the control, mm; 0 where none is, or nobody looked. */
  readonly enteredMm: number;
  readonly costs: {
    readonly downtimePerHour: number;
    /** Null: nobody noted it; usual for its size and kind, see pricesOf. */
    readonly bearingSet: number | null;
    readonly screw: number | null;
  };
}

/**
 * Does gravity pull the member along this axis?
 * @param axis - the axis’ configuration
 * @returns whether it does
 * @example isGravityAxis(defaultAxis("vertical-centre", "Z")) // true
 */
export function isGravityAxis(axis: Pick<AxisConfig, "orientation">): boolean {
  return axis.orientation !== "horizontal";
}

/**
 * Millimetres the member moves for one turn of screw, nut or pinion.
 * @param axis - the axis’ configuration
 * @returns travel for a turn, mm
 * @example travelPerTurnMm(defaultAxis("vertical-centre", "X")) // 10
 */
export function travelPerTurnMm(axis: AxisConfig): number {
  return axis.transmission === "rack" ? Math.PI * axis.pinionDiameterMm : axis.screw.leadMm;
}
