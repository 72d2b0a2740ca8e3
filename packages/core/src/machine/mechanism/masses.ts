import { travelPerTurnMm, type AxisConfig } from "../axis";
import { hasScrew } from "./joints";

/** Steel, kg/mm³ (7,850 kg/m³, as handbooks round it). */
const STEEL_KG_PER_MM3 = 7.85e-6;
/** Up to this one person lifts a part alone (common practice, no source). */
export const ONE_PERSON_KG = 12;
/** From this on a part hangs on lifting gear; below, two people carry it (common practice, no source). */
export const GEAR_KG = 35;
/** Screw of a middling machine, mm; members and motors grow with it. */
const MIDDLING_MM = 40;

/** A mass, and whether somebody noted it or it is only usual for the size. */
export interface Mass {
  readonly kg: number;
  readonly noted: boolean;
}

const sizeOf = (axis: AxisConfig): number =>
  hasScrew(axis) ? axis.screw.nominalMm : Math.max(12, travelPerTurnMm(axis) / 4);

/** Two figures of a rough value: nobody weighs a head to the kilogram. */
function rough(kg: number): number {
  const step = 10 ** (Math.floor(Math.log10(kg)) - 1);
  return Math.round(kg / step) * step;
}

function massOf(noted: number | null, usualKg: number): Mass {
  return noted === null ? { kg: rough(usualKg), noted: false } : { kg: noted, noted: true };
}

/**
 * The screw with its nut: a bar of the mean of nominal and root diameter, the journals taken as a
 * tenth of the free length, the nut as a tube of twice the diameter and three times as long.
 * @param axis - the axis’ configuration
 * @returns kg; 0 without a screw
 * @example screwMass(defaultAxis("vertical-centre", "X")) > 1 // true
 */
export function screwMass(axis: AxisConfig): number {
  if (!hasScrew(axis)) return 0;
  const { nominalMm, rootMm, freeLengthMm } = axis.screw;
  const bar = (Math.PI / 4) * ((nominalMm + rootMm) / 2) ** 2;
  const nut = (Math.PI / 4) * 3 * nominalMm ** 2 * 3 * nominalMm;
  return STEEL_KG_PER_MM3 * (bar * 1.1 * freeLengthMm + nut);
}

/**
 * What the axis carries. Usual: about 450 kg on a screw of 40 mm (common practice, no source).
 * @param axis - the axis’ configuration
 * @returns mass, kg, and whether somebody noted it
 * @example memberMass({ ...defaultAxis("vertical-centre", "X"), mechanics: { ...defaultAxis("vertical-centre", "X").mechanics, memberKg: 300 } }).kg // 300
 */
export function memberMass(axis: AxisConfig): Mass {
  return massOf(axis.mechanics.memberKg, 450 * (sizeOf(axis) / MIDDLING_MM) ** 2.7);
}

/**
 * Motor with its brake. Usual: about 28 kg on a screw of 40 mm (common practice, no source).
 * @param axis - the axis’ configuration
 * @returns mass, kg, and whether somebody noted it
 * @example motorMass({ ...defaultAxis("vertical-centre", "X"), mechanics: { ...defaultAxis("vertical-centre", "X").mechanics, motorKg: 12 } }).kg // 12
 */
export function motorMass(axis: AxisConfig): Mass {
  const brake = axis.brake && axis.mechanics.brakeAt === "motor" ? 1 : 0.85;
  return massOf(axis.mechanics.motorKg, 28 * brake * (sizeOf(axis) / MIDDLING_MM) ** 2);
}

/**
 * The housing with its bearings: a block of six screw diameters by four by two, half of it steel.
 * @param axis - the axis’ configuration
 * @returns mass, kg
 * @example housingMass(defaultAxis("vertical-centre", "X")) > 1 // true
 */
export function housingMass(axis: AxisConfig): number {
  return 0.5 * STEEL_KG_PER_MM3 * 48 * sizeOf(axis) ** 3;
}

/**
 * How many people a part wants, and whether it hangs on gear.
 * @param kg - mass, kg
 * @returns people, and whether it hangs on gear
 * @example lifting(80).gear // true
 */
export function lifting(kg: number): {
  readonly people: 1 | 2;
  readonly gear: boolean;
} {
  return { people: kg > ONE_PERSON_KG ? 2 : 1, gear: kg > GEAR_KG };
}
