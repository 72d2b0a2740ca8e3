import { travelPerTurnMm, type AxisConfig } from "../../machine/axis";
import { isSplitTest, profileTargets, type TestKind } from "./plan";

/** What is usual for a test, in mm; whoever sets it up may change all of it. */
export interface UsualPlan {
  readonly targetsMm: readonly number[];
  readonly runs: number;
  /** How far past a place the axis goes before it comes back. */
  readonly overTravelMm: number;
  readonly ticksOut: number;
}

/** Travel that is looked at five times a metre, mm: beyond it places lie further apart (ISO 230-2:2014, 5.3; from memory). */
const FIVE_A_METRE_UP_TO_MM = 2000;
/** Approaches to each place from each side (ISO 230-2:2014, 5.3; from memory). */
const RUNS = 5;
/** Quick looks and tests of one part: three say whether it is there at all (common practice, no source). */
const QUICK_RUNS = 3;

/**
 * What is usual for a test on an axis: five places a metre and five at least, five runs (ISO 230-2), an over-travel of
 * a tenth of the travel, of 30 mm at most and of 10 mm where a part is looked at with hands near. Out and back goes
 * four times as far as the worst loss that is looked for, or it could not find it.
 *
 * @param kind - the test
 * @param options - `axis`: configuration; `tickMm`: the step it goes by; `clearMm`: how much further places keep from
 *   the ends, where what is shown is rounded; `atMm`: place wished for
 * @returns places, runs, over-travel and steps out
 * @example
 * usualPlan("travel-profile", { axis: { ...defaultAxis("vertical-centre", "X"), travelMm: 1000 }, tickMm: 0.001 }).targetsMm.length // 5
 */
export function usualPlan(
  kind: TestKind,
  {
    axis,
    tickMm,
    clearMm = 0,
    atMm = null,
  }: {
    readonly axis: AxisConfig;
    readonly tickMm: number;
    readonly clearMm?: number;
    readonly atMm?: number | null;
  },
): UsualPlan {
  const { travelMm } = axis;
  const most = isSplitTest(kind) ? 10 : 30;
  const overTravelMm = Math.max(1, Math.min(most, Math.floor(travelMm / 10)));
  const count = Math.max(5, Math.ceil((5 * Math.min(travelMm, FIVE_A_METRE_UP_TO_MM)) / 1000));
  const middleMm = Math.round(travelMm / 20) * 10 || travelMm / 2;
  return {
    targetsMm:
      kind === "travel-profile"
        ? profileTargets(travelMm, { count, overTravelMm: overTravelMm + clearMm, perTurnMm: travelPerTurnMm(axis) })
        : [atMm ?? middleMm],
    runs: kind === "tick-count" || isSplitTest(kind) ? QUICK_RUNS : RUNS,
    overTravelMm,
    ticksOut: Math.max(10, Math.ceil((4 * axis.limits.repairMm) / tickMm)),
  };
}
