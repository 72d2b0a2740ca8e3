import { requireBound } from "../quantity";
import { levellingLifts, shimStack, SHIM_STOCK_MM, type ShimStack, type Support } from "./shim-stack"; // prettier-ignore

/** What was read where the indicator swept; plus is the surface nearer to the spindle. */
export interface TramReadings {
  readonly leftMm: number;
  readonly rightMm: number;
  /** Far and near: two more points make it a four-point check. */
  readonly farMm: number | null;
  readonly nearMm: number | null;
  /** Distance between the points across, and between far and near, mm. */
  readonly spanMm: number;
  readonly depthMm: number | null;
}

export const TRAM_DATUMS = ["bare table", "vice or fixture"] as const;
/** Fine at 0.001 in over 6 in, 0.050 mm over 300 mm (common practice, no source). */
export const TRAM_LIMIT = 0.05 / 300;

export interface TramSlope {
  readonly direction: "across" | "in depth";
  /** Rise of the surface against the sweep, mm per mm. */
  readonly slope: number;
  readonly perSpanMm: number;
  readonly per300Mm: number;
  /** The same over 6 in, mm. */
  readonly per6InMm: number;
  readonly within: boolean;
  /** Which side stands nearer. */
  readonly nearer: string;
}

export interface TramResult {
  readonly slopes: readonly TramSlope[];
  readonly bolts: readonly {
    readonly name: string;
    readonly liftMm: number;
    readonly shims: ShimStack;
  }[];
  readonly within: boolean;
}

/**
 * Squareness of a head or column from a sweep: slopes across and in depth, and what goes under which
 * bolt. A nod is shimmed at the foot of the flange when the surface is nearer at the front.
 * @throws BoundError for spans that are not above 0
 */
export function tram(
  readings: TramReadings,
  supports: readonly Support[],
  stockMm: readonly number[] = SHIM_STOCK_MM,
): TramResult {
  const { leftMm, rightMm, farMm, nearMm, spanMm, depthMm } = readings;
  requireBound("span", spanMm, spanMm > 0, "above 0 mm");
  const slopeX = (rightMm - leftMm) / spanMm;
  const slopes = [slopeOf("across", slopeX, spanMm, "right", "left")];
  let slopeY = 0;
  if (farMm !== null && nearMm !== null) {
    const depth = depthMm ?? spanMm;
    requireBound("depth", depth, depth > 0, "above 0 mm");
    slopeY = (farMm - nearMm) / depth;
    slopes.push(slopeOf("in depth", slopeY, depth, "far", "near"));
  }
  const bolts = levellingLifts(supports, slopeX, slopeY).map((b) => ({
    ...b,
    shims: shimStack(Math.min(10, b.liftMm), stockMm),
  }));
  return { slopes, bolts, within: slopes.every((s) => s.within) };
}

function slopeOf(
  direction: TramSlope["direction"],
  slope: number,
  spanMm: number,
  plus: string,
  minus: string,
): TramSlope {
  return {
    direction,
    slope,
    perSpanMm: slope * spanMm,
    per300Mm: slope * 300,
    per6InMm: slope * 152.4,
    within: Math.abs(slope) <= TRAM_LIMIT * (1 + 1e-9),
    nearer: slope > 0 ? plus : slope < 0 ? minus : "neither",
  };
}
