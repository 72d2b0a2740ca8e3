import { isGravityAxis, type AxisConfig, type MachineKind } from "../machine/axis";
import { heldWhenOff, usualSetUp, type LubricationSetUp } from "./set-up";
import {
  AXIS_TEMPLATES,
  BALL_SCREWS,
  BOARD_CARE,
  MACHINE_TEMPLATES,
  TEMPLATE_PROVENANCE,
  type TemplateFits,
  type TemplateRow,
} from "./templates.table";
import type { FactorId, LubricationPoint } from "./types";

/** Of which machine points are made. */
export interface TemplateMachine {
  readonly kind: MachineKind;
  readonly setUp: LubricationSetUp;
  /** What stretches or shortens the intervals here. */
  readonly factors?: readonly FactorId[];
}

/** A list that is not there fits everything. */
const among = <T>(list: readonly T[] | undefined, one: T): boolean => list === undefined || list.includes(one);

function fitsMachine(fits: TemplateFits, { kind, setUp }: TemplateMachine): boolean {
  return (
    among(fits.kinds, kind) &&
    among(fits.central, setUp.central) &&
    among(fits.carriages, setUp.carriages) &&
    among(fits.nuts, setUp.nuts)
  );
}

function fitsAxis(fits: TemplateFits, axis: AxisConfig): boolean {
  return (
    among(fits.guideway, axis.guideway) &&
    among(fits.transmission, axis.transmission) &&
    among(fits.nut, axis.nut) &&
    (!fits.counterweight || (isGravityAxis(axis) && axis.counterweight))
  );
}

/** What wets, and stands over a board. */
const wets = ({ way, dose, link }: TemplateRow): boolean => link !== null && dose > 0 && way !== "central line";

/** A central system that feeds ball nuts has an outlet more on each axis that has one. */
const feedsNut = (row: TemplateRow, axis: AxisConfig | null, { central }: LubricationSetUp): boolean =>
  row.way === "central line" && central === "ways-and-nuts" && axis !== null && BALL_SCREWS.includes(axis.transmission);

function pointOf(
  row: TemplateRow,
  axis: AxisConfig | null,
  { setUp, factors = [] }: TemplateMachine,
): LubricationPoint {
  const { fits: _, rule, access, place, ...rest } = row;
  const [days, hours, km, leastDays, mostDays] = rule;
  const care = setUp.board && wets(row) ? BOARD_CARE : "";
  return {
    machineOff: true,
    checks: [],
    partsNut: false,
    ...rest,
    ...(feedsNut(row, axis, setUp) ? { outlets: [...(row.outlets ?? []), "nut"] } : {}),
    letter: axis?.letter ?? null,
    place: axis ? `${axis.letter} ${place}` : place,
    access: [access, care].filter(Boolean).join("; "),
    heldBy: axis ? heldWhenOff(axis) : null,
    rule: { days, hours, km, leastDays, mostDays },
    // What surrounds a machine reaches its axes; a tank in its cabinet it does not.
    factors: axis ? factors : [],
    provenance: TEMPLATE_PROVENANCE,
  };
}

/**
 * Points that an axis has, ready to be changed.
 * @param axis - its configuration
 * @param machine - kind of the machine, how it is lubricated and what surrounds it
 * @returns one point for each row of the templates that fits it
 * @example
 * const x = defaultAxis("router", "X");
 * axisPoints(x, { kind: "router", setUp: usualSetUp("router", [x]) }).length > 2 // true
 */
export function axisPoints(axis: AxisConfig, machine: TemplateMachine): readonly LubricationPoint[] {
  return AXIS_TEMPLATES.filter(({ fits = {} }) => fitsAxis(fits, axis) && fitsMachine(fits, machine)).map((row) =>
    pointOf(row, axis, machine),
  );
}

/**
 * Points of a machine: those of its axes, then those that a machine of its kind has besides.
 * @param axes - configurations of its axes
 * @param machine - kind of the machine; how it is lubricated as usual for it, if nothing is said
 * @returns the points
 * @example templatePoints([defaultAxis("vertical-centre", "X")], { kind: "vertical-centre" }).length > 3 // true
 */
export function templatePoints(
  axes: readonly AxisConfig[],
  { kind, setUp = usualSetUp(kind, axes), factors }: Partial<TemplateMachine> & Pick<TemplateMachine, "kind">,
): readonly LubricationPoint[] {
  const machine = { kind, setUp, factors };
  return [
    ...axes.flatMap((axis) => axisPoints(axis, machine)),
    ...MACHINE_TEMPLATES.filter(({ fits = {} }) => fitsMachine(fits, machine)).map((row) =>
      pointOf(row, null, machine),
    ),
  ];
}
