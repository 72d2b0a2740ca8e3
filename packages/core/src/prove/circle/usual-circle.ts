import { isGravityAxis, type AxisConfig } from "../../machine/axis";
import type { UnitSystem } from "../../quantity";
import type { CircleDirection } from "./circle-trace";

/** A plane as a session sets it up, its axes named by their letters in the order of the standard planes. */
export interface CirclePlan {
  readonly letters: readonly [string, string];
  readonly centreMm: readonly [number, number];
  readonly radiusMm: number;
  readonly feedMmMin: number;
  /** Where the data begin, degrees from the positive first axis towards the second. */
  readonly startDeg: number;
  /** Data, degrees: 360, or less where the table or the column is in the way. */
  readonly spanDeg: number;
  /** Run in before the data, and out after them, degrees on the circle. */
  readonly overrunDeg: number;
  /** Straight run in to the circle from outside, mm: the bar shows it as a step, which says where the circle begins. */
  readonly leadMm: number;
  /** Which way round first; the other follows. */
  readonly first: CircleDirection;
  readonly dwellS: number;
}

/** Planes that a control turns circles in, ISO 6983-1 (from memory). */
const PLANES = [
  ["X", "Y"],
  ["Z", "X"],
  ["Y", "Z"],
] as const;
const INCH = 25.4;
/** Bars are made for these, mm (common practice, no source). */
export const USUAL_RADII: Readonly<Record<UnitSystem, readonly number[]>> = {
  metric: [50, 100, 150, 300],
  inch: [2 * INCH, 4 * INCH, 6 * INCH, 12 * INCH],
};
/** A larger bar is not begun with, mm. */
const FIRST_MOST = 6 * INCH;
/** Where everybody begins, mm/min (common practice, no source). */
export const USUAL_FEED: Readonly<Record<UnitSystem, number>> = { metric: 1000, inch: 40 * INCH };
/** What a number that somebody types is round in, mm: a centre, and a radius that no bar is made for. */
const ROUND: Readonly<Record<UnitSystem, { readonly centre: number; readonly radius: number }>> = {
  metric: { centre: 1, radius: 5 },
  inch: { centre: INCH / 2, radius: INCH / 4 },
};
/** What must be left of the travel at either side, mm. */
const MARGIN = 5;

/**
 * Planes of a machine that a circle can be taken in, as they are usually begun: the largest usual bar up to 150 mm or 6 in
 * that fits in the middle of both travels, 1000 mm/min or 40 in/min; upright planes as an arc of 220°, of which 180° are
 * data.
 * @param axes - axes of the machine
 * @param system - units that the numbers are round in
 * @returns the planes; none where fewer than two of X, Y and Z are long enough
 * @example usualCircles([defaultAxis("vertical-centre", "X"), defaultAxis("vertical-centre", "Y")])[0].letters // ["X", "Y"]
 */
export function usualCircles(
  axes: readonly Pick<AxisConfig, "letter" | "travelMm" | "rapidMmMin" | "orientation" | "slantDeg">[],
  system: UnitSystem = "metric",
): readonly CirclePlan[] {
  const round = ROUND[system];
  const centre = (travelMm: number): number => round.centre * Math.round(travelMm / 2 / round.centre);
  return PLANES.flatMap(([a, b]) => {
    const [first, second] = [a, b].map((letter) => axes.find((axis) => axis.letter === letter));
    if (!first || !second) return [];
    const leadMm = 1.5;
    const centreMm = [centre(first.travelMm), centre(second.travelMm)] as const;
    const to = [first, second].flatMap((axis, i) => [centreMm[i], axis.travelMm - centreMm[i]]);
    const room = Math.min(...to) - leadMm - MARGIN;
    const radiusMm =
      USUAL_RADII[system].findLast((r) => r <= Math.min(room, FIRST_MOST)) ??
      Math.floor(room / round.radius) * round.radius;
    if (radiusMm < 10) return [];
    const upright = isGravityAxis(first) || isGravityAxis(second);
    return [
      {
        letters: [a, b] as const,
        centreMm,
        radiusMm,
        feedMmMin: Math.min(USUAL_FEED[system], first.rapidMmMin, second.rapidMmMin),
        // The upper half, where the table is out of the way: whichever of the two goes up.
        startDeg: upright && isGravityAxis(first) ? -90 : 0,
        spanDeg: upright ? 180 : 360,
        overrunDeg: upright ? 20 : 45,
        leadMm,
        first: 1 as const,
        dwellS: 3,
      },
    ];
  });
}
