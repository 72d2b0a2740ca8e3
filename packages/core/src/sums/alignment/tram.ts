import { expandedUncertainty, rectangular, requireBound } from "../../quantity";
import { levellingLifts, shimStack, SHIM_STOCK_MM, type ShimStack, type Support } from "./shim-stack";
import { normalEquations, solveLinear } from "../../quantity/nnls";

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
  /** Step of the indicator, mm. */
  readonly resolutionMm: number;
}

export const TRAM_DATUMS = ["bare table", "vice or fixture"] as const;
/** Fine at 0.001 in over 6 in, 0.050 mm over 300 mm (common practice, no source). */
export const TRAM_LIMIT = 0.05 / 300;
/** What one swept reading scatters by besides the display, mm (common practice, no source). */
const SWEEP_SCATTER_MM = 0.002;

/** What the shims go under, or behind. */
export const SHIMMED = ["column-base", "gantry-legs", "vertical-flange", "hanging-head"] as const;
export type Shimmed = (typeof SHIMMED)[number];
export const SHIMMED_TEXT: Record<Shimmed, { readonly name: string; readonly rows: readonly [string, string] }> = {
  "column-base": { name: "the column, on its base", rows: ["far", "near"] },
  "gantry-legs": { name: "the gantry, on its legs", rows: ["far", "near"] },
  "vertical-flange": {
    name: "head or cartridge, on an upright face",
    rows: ["top", "bottom"],
  },
  "hanging-head": {
    name: "the head, hanging under a ram",
    rows: ["far", "near"],
  },
};

export interface TramSlope {
  readonly direction: "across" | "in depth";
  /** Rise of the surface against the sweep, mm per mm. */
  readonly slope: number;
  /** Expanded uncertainty of the slope, about 95 %. */
  readonly expandedSlope: number;
  readonly perSpanMm: number;
  readonly per300Mm: number;
  /** The same over 6 in, mm. */
  readonly per6InMm: number;
  /** By the interval: square, out, or cannot tell. */
  readonly code: "square" | "out" | "cannot-tell";
  /** Which side stands nearer. */
  readonly nearer: string;
}

export interface TramShims {
  readonly shimmed: Shimmed;
  readonly bolts: readonly {
    readonly name: string;
    readonly wantedMm: number;
    readonly shims: ShimStack;
  }[];
  /** Lean that no shim on this face takes out: the part is turned on its face, rad. */
  readonly turnRad: number;
  /** What the sweep would read with these shims in, over the spans that were read, mm. */
  readonly predicted: readonly {
    readonly direction: TramSlope["direction"];
    readonly perSpanMm: number;
    readonly per300Mm: number;
  }[];
}

export interface TramResult {
  readonly slopes: readonly TramSlope[];
  readonly code: "square" | "out" | "cannot-tell";
}

/**
 * Squareness of a spindle to the table from a sweep: the slopes across and in depth, with U from the
 * display and the usual scatter of a swept reading.
 * False alarms of “out” at the limit are at most 5 %, power at twice the limit above 90 % (coverage
 * bench, 0.01 mm dial over 300 mm).
 * @param readings - the swept readings and their spans, mm
 * @returns the slopes and what they prove
 * @throws BoundError for spans that are not above 0
 * @example tram({ leftMm: 0, rightMm: 0.06, farMm: null, nearMm: null, spanMm: 300, depthMm: null, resolutionMm: 0.001 }).code // 'out'
 */
export function tram(readings: TramReadings): TramResult {
  const { leftMm, rightMm, farMm, nearMm, spanMm, depthMm } = readings;
  requireBound({ span: spanMm }, spanMm > 0, "above 0 mm");
  const step = rectangular(readings.resolutionMm);
  const { expanded } = expandedUncertainty(
    [step, step, SWEEP_SCATTER_MM, SWEEP_SCATTER_MM].map((u) => ({
      u,
      dof: Infinity,
    })),
  );
  const slopes = [slopeOf("across", { slope: (rightMm - leftMm) / spanMm, spanMm, expandedMm: expanded })];
  if (farMm !== null && nearMm !== null) {
    const depth = depthMm ?? spanMm;
    requireBound({ depth }, depth > 0, "above 0 mm");
    slopes.push(slopeOf("in depth", { slope: (farMm - nearMm) / depth, spanMm: depth, expandedMm: expanded }));
  }
  const has = (code: TramSlope["code"]): boolean => slopes.some((s) => s.code === code);
  return {
    slopes,
    code: has("out") ? "out" : has("cannot-tell") ? "cannot-tell" : "square",
  };
}

function slopeOf(
  direction: TramSlope["direction"],
  { slope, spanMm, expandedMm }: { readonly slope: number; readonly spanMm: number; readonly expandedMm: number },
): TramSlope {
  const [plus, minus] = direction === "across" ? ["right", "left"] : ["far", "near"];
  const expandedSlope = expandedMm / spanMm;
  const size = Math.abs(slope);
  const limit = TRAM_LIMIT * (1 + 1e-9);
  return {
    direction,
    slope,
    expandedSlope,
    perSpanMm: slope * spanMm,
    per300Mm: slope * 300,
    per6InMm: slope * 152.4,
    code: size - expandedSlope > limit ? "out" : size + expandedSlope <= limit ? "square" : "cannot-tell",
    nearer: slope > 0 ? plus : slope < 0 ? minus : "neither",
  };
}

/**
 * Four bolts, x to the right; y to the far side, or upwards on an upright face.
 * @param shimmed - what is shimmed
 * @param acrossMm - bolts apart across, mm
 * @param otherMm - rows of bolts apart, mm
 * @returns the four bolts, mm from their middle
 * @example tramBolts("column-base", 200, 100).length // 4
 */
export function tramBolts(shimmed: Shimmed, acrossMm: number, otherMm: number): readonly Support[] {
  requireBound({ "bolts apart across": acrossMm }, acrossMm > 0, "above 0 mm");
  requireBound({ "bolt rows apart": otherMm }, otherMm > 0, "above 0 mm");
  const { rows } = SHIMMED_TEXT[shimmed];
  return ([1, -1] as const).flatMap((y) =>
    ([-1, 1] as const).map((x) => ({
      name: `${x < 0 ? "left" : "right"} ${y > 0 ? rows[0] : rows[1]}`,
      x: (x * acrossMm) / 2,
      y: (y * otherMm) / 2,
    })),
  );
}

/**
 * Which way a shim moves what it is put under, as slopes of the sweep for a rise of the shims of one
 * to the right and one to the far side (or upwards): the rigid body that hangs on the bolts turns by
 * small angles, n·(T + ω × p) = shim, and the table falls away from the sweep by ω. A column that is
 * raised on one side takes the spindle up on that side; a head hanging under a ram is pushed down
 * where it is shimmed; on an upright face only the nod can be shimmed, by the row away from the side
 * that must rise.
 */
const TURNS: Record<Shimmed, { readonly x: number; readonly y: number }> = {
  "column-base": { x: -1, y: -1 },
  "gantry-legs": { x: -1, y: -1 },
  "hanging-head": { x: 1, y: 1 },
  "vertical-flange": { x: 0, y: -1 },
};

/**
 * Shims that bring the spindle square, and what the sweep will read with them in.
 * Source: small rotation of a rigid body; checked against rotation matrices in space.
 * @param slopes - as swept, mm per mm: plus is the right, and the far side, nearer to the spindle
 * @param options - what is shimmed, on which bolts, from which shims in stock, mm
 * @returns shims from stock, the lean they cannot take out, and the predicted sweep
 * @example tramShims(tram({ leftMm: 0, rightMm: 0.06, farMm: 0, nearMm: 0.06, spanMm: 300, depthMm: 300, resolutionMm: 0.001 }).slopes, { shimmed: "column-base", supports: tramBolts("column-base", 400, 300) }).bolts.length // 4
 */
export function tramShims(
  slopes: readonly TramSlope[],
  options: {
    readonly shimmed: Shimmed;
    readonly supports: readonly Support[];
    readonly stockMm?: readonly number[];
  },
): TramShims {
  const { shimmed, supports, stockMm = SHIM_STOCK_MM } = options;
  const slopeIn = (direction: TramSlope["direction"]): number =>
    slopes.find((s) => s.direction === direction)?.slope ?? 0;
  const [across, depth] = [slopeIn("across"), slopeIn("in depth")];
  const turns = TURNS[shimmed];
  // The shims’ own slope that takes the sweep’s away.
  const lifts = levellingLifts(supports, turns.x === 0 ? 0 : across / turns.x, depth / turns.y);
  const bolts = lifts.map(({ name, liftMm }) => ({
    name,
    wantedMm: liftMm,
    shims: shimStack(Math.min(10, liftMm), stockMm),
  }));
  const put = planeOf(
    supports,
    bolts.map((b) => b.shims.sumMm),
  );
  return {
    shimmed,
    bolts,
    turnRad: turns.x === 0 ? across : 0,
    predicted: slopes.map((s) => {
      const left = s.direction === "across" ? s.slope + turns.x * put.x : s.slope + turns.y * put.y;
      const spanMm = s.slope === 0 ? 300 : s.perSpanMm / s.slope;
      return {
        direction: s.direction,
        perSpanMm: left * spanMm,
        per300Mm: left * 300,
      };
    }),
  };
}

/** The plane on which a body comes to rest over shims, by least squares: its two slopes. */
function planeOf(supports: readonly Support[], shimsMm: readonly number[]): { readonly x: number; readonly y: number } {
  const rows = supports.map((s) => [1, s.x, s.y]);
  const { matrix, right } = normalEquations(
    rows,
    shimsMm,
    shimsMm.map(() => 1),
  );
  const [, x, y] = solveLinear(matrix, right) ?? [0, 0, 0];
  return { x, y };
}
