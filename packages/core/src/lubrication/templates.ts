import { isGravityAxis, type AxisConfig } from "../machine/axis";
import {
  AXIS_TEMPLATES,
  MACHINE_TEMPLATES,
  TEMPLATE_PROVENANCE,
  type TemplateFits,
  type TemplateRow,
} from "./templates.table";
import type { LubricationPoint } from "./types";

function fits(axis: AxisConfig, { guideway, transmission, counterweight }: TemplateFits): boolean {
  if (guideway && !guideway.includes(axis.guideway)) return false;
  if (transmission && !transmission.includes(axis.transmission)) return false;
  return !counterweight || (isGravityAxis(axis) && axis.counterweight);
}

/** Where the member is brought; whoever reaches under what can fall has it parked low or blocked before. */
function edgeOf(axis: AxisConfig): string {
  const brought = isGravityAxis(axis) ? `park ${axis.letter} low or block it` : `move ${axis.letter} to the near end`;
  return `${brought}, covers back, cloth under`;
}

function pointOf(row: TemplateRow, axis: AxisConfig | null): LubricationPoint {
  const { fits: _, rule, access, place, ...rest } = row;
  const [days, hours, km, leastDays, mostDays] = rule;
  return {
    machineOff: true,
    checks: [],
    ...rest,
    letter: axis?.letter ?? null,
    place: axis ? `${axis.letter} ${place}` : place,
    access: axis && access === "edge" ? edgeOf(axis) : access,
    rule: { days, hours, km, leastDays, mostDays },
    partsNut: false,
    factors: [],
    provenance: TEMPLATE_PROVENANCE,
  };
}

/**
 * Points that an axis has, ready to be changed.
 * @param axis - its configuration
 * @returns one point for each row of the templates that fits it
 * @example axisPoints(defaultAxis("vertical-centre", "X")).map((p) => p.place)[0] // "X rail carriages, four"
 */
export function axisPoints(axis: AxisConfig): readonly LubricationPoint[] {
  return AXIS_TEMPLATES.filter((row) => fits(axis, row.fits ?? {})).map((row) => pointOf(row, axis));
}

/**
 * Points of a machine: those of its axes, then those that every machine has besides.
 * @param axes - configurations of its axes
 * @returns the points
 * @example templatePoints([defaultAxis("vertical-centre", "X")]).length > 3 // true
 */
export function templatePoints(axes: readonly AxisConfig[]): readonly LubricationPoint[] {
  return [...axes.flatMap(axisPoints), ...MACHINE_TEMPLATES.map((row) => pointOf(row, null))];
}
