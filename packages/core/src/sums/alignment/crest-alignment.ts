import { requireBound } from "../../quantity";
import { crestFit, type CrestReadings, type WithU } from "./crest-fit";
import { shimStack, SHIM_STOCK_MM, type ShimStack } from "./shim-stack";

export interface ScrewSupports {
  /** Places along the travel, mm; may lie outside it. */
  readonly fixedMm: number;
  readonly farMm: number;
  readonly bracketMm: number;
  readonly leadMm: number;
}

export const DATUMS = ["fixed", "far", "bracket"] as const;
export type Datum = (typeof DATUMS)[number];

/** How a support makes its move. Nothing can be shimmed downwards. */
export type MoveWay =
  | { readonly code: "stays" }
  | { readonly code: "raise"; readonly shims: ShimStack }
  /** It would have to come down: shims under it come out, or the others rise to it. */
  | { readonly code: "lower" }
  /** Beside the screw: shifted in its bolt holes against a stop or an indicator. */
  | { readonly code: "shift" };

export interface SupportMove {
  readonly support: Datum;
  readonly plane: string;
  /** Plus: towards the tip, minus: away from it; mm. */
  readonly moveMm: number;
  /** Expanded uncertainty, about 95 %, mm. */
  readonly expandedMm: number;
  readonly way: MoveWay;
}

/** By the interval: within, over, or cannot tell. */
export type CrestCode = "within" | "over" | "cannot-tell";

export interface CrestAlignment {
  readonly moves: readonly SupportMove[];
  readonly planes: readonly {
    readonly name: string;
    readonly slopeMmPerM: number;
    readonly expandedMmPerM: number;
    /** Out of line over the screw between its supports, mm. */
    readonly overLength: WithU;
    /** Bow that stands still while the screw turns, mm. */
    readonly bow: WithU;
    readonly code: CrestCode;
  }[];
  /** Half swing that turns with the screw; null where the places cannot show it. */
  readonly turning: (WithU & { readonly shape: "even" | "bent"; readonly code: CrestCode }) | null;
  readonly limitMm: number;
  /** The datum with which no support has to come down; null when this one does it. */
  readonly raiseFrom: Datum | null;
  /** What the shims leave, mm, the largest of all supports that are raised. */
  readonly predictedMm: number;
}

/**
 * How far out of line a screw may be over its length, mm (common practice, no source).
 * @param lengthMm - length of the screw between its supports, mm
 * @returns limit, mm
 * @example crestLimit(1000) // 0.03
 */
export function crestLimit(lengthMm: number): number {
  if (lengthMm <= 500) return 0.02;
  return lengthMm <= 1000 ? 0.03 : 0.05;
}

/** Half swing above which a screw or its journal is bent, mm (common practice, no source). */
export const SWING_LIMIT_MM = 0.015;

/**
 * A magnitude against its limit, by the interval.
 * @param value - magnitude with U, mm
 * @param limitMm - limit, mm
 * @returns what the interval proves
 * @example crestCode({ value: 0.05, expanded: 0.01 }, 0.03) // 'over'
 */
export function crestCode(value: WithU, limitMm: number): CrestCode {
  const size = Math.abs(value.value);
  if (size - value.expanded > limitMm) return "over";
  return size + value.expanded <= limitMm ? "within" : "cannot-tell";
}

export interface CrestOptions {
  readonly supports: ScrewSupports;
  readonly datum: Datum;
  readonly stockMm?: readonly number[];
  /** Display step of the indicator, mm; 0 where it is not known. */
  readonly resolutionMm: number;
}

/**
 * From crest runs in two planes: how the screw lies against the ways, and which support moves by how
 * much which way when one of them is the datum. Heights are shimmed, and only upwards; sideways the
 * support is shifted.
 * Rates of “out of line” and “turns” are in the coverage bench: at most 5 % at the limit, above 90 %
 * at twice the limit with nine places.
 * @param planes - crest readings of one or two planes
 * @param options - where the supports stand, which of them is the datum, shims and the step of the indicator
 * @returns moves of the supports, and how the screw lies
 * @throws BoundError with fewer than five places in a plane
 * @example crestAlignment([{ name: "vertical", points: [0, 100, 200, 300, 400].map((x) => ({ x, y: 0 })) }], { supports: { fixedMm: 0, farMm: 400, bracketMm: 200, leadMm: 10 }, datum: "bracket", resolutionMm: 0.001 }).planes[0].code // 'within'
 */
export function crestAlignment(planes: readonly CrestReadings[], options: CrestOptions): CrestAlignment {
  const { supports, datum, stockMm = SHIM_STOCK_MM, resolutionMm } = options;
  const places = {
    fixed: supports.fixedMm,
    far: supports.farMm,
    bracket: supports.bracketMm,
  };
  const length = Math.abs(places.far - places.fixed);
  requireBound({ "distance of the supports": length }, length > 0, "above 0 mm");
  const fit = crestFit(planes, { leadMm: supports.leadMm, resolutionMm });
  const limitMm = crestLimit(length);
  const moves = fit.planes.flatMap(({ name, slope }) =>
    DATUMS.filter((d) => d !== datum).map((support): SupportMove => {
      const run = places[support] - places[datum];
      const moveMm = -slope.value * run || 0;
      return {
        support,
        plane: name,
        moveMm,
        expandedMm: slope.expanded * Math.abs(run),
        way: wayOf(name, moveMm, stockMm),
      };
    }),
  );
  return {
    moves,
    limitMm,
    planes: fit.planes.map(({ name, slope, bow }) => {
      const overLength = {
        value: Math.abs(slope.value) * length,
        expanded: slope.expanded * length,
      };
      return {
        name,
        slopeMmPerM: 1000 * slope.value,
        expandedMmPerM: 1000 * slope.expanded,
        overLength,
        bow,
        code: crestCode(overLength, limitMm),
      };
    }),
    turning: fit.turning && {
      ...fit.turning,
      code: crestCode(fit.turning, SWING_LIMIT_MM),
    },
    raiseFrom: raiseFrom(fit.planes, places, datum),
    predictedMm: Math.max(0, ...moves.map((m) => (m.way.code === "raise" ? Math.abs(m.way.shims.errorMm) : 0))),
  };
}

/** The first plane is read above the screw: there a move is up or down. */
function isUpright(plane: string): boolean {
  return plane === "0°";
}

/** Less than this is not worth a shim, mm. */
const NOT_WORTH_MM = 0.0125;

function wayOf(plane: string, moveMm: number, stockMm: readonly number[]): MoveWay {
  if (Math.abs(moveMm) < NOT_WORTH_MM) return { code: "stays" };
  if (!isUpright(plane)) return { code: "shift" };
  return moveMm > 0 ? { code: "raise", shims: shimStack(Math.min(10, moveMm), stockMm) } : { code: "lower" };
}

/** The highest support in the upright plane: from it the others only rise. */
function raiseFrom(
  planes: readonly { readonly name: string; readonly slope: WithU }[],
  places: Readonly<Record<Datum, number>>,
  datum: Datum,
): Datum | null {
  const upright = planes.find((p) => isUpright(p.name));
  if (!upright) return null;
  const height = (d: Datum): number => upright.slope.value * places[d];
  const highest = DATUMS.reduce((a, b) => (height(b) > height(a) ? b : a));
  return height(highest) - height(datum) < NOT_WORTH_MM ? null : highest;
}
