import type { AxisConfig } from "./config";

/** A middling machining centre: screw 32 × 750 mm, ground; matched angular-contact pair. */
const MIDDLING = { nominalMm: 32, lengthMm: 750, screw: 3200, bearings: 350 };

const MAKE: Record<AxisConfig["screw"]["make"], number> = {
  ground: 1,
  rolled: 0.25,
};
const SET: Record<AxisConfig["bearings"], number> = {
  "angular-pair": 1,
  "angular-triple": 1.4,
  "angular-quad": 1.8,
  "deep-groove-pair": 0.15,
  "plain-thrust": 0.1,
};

/** What the dear parts of an axis cost, in units of the shop’s currency. */
export interface Prices {
  readonly bearingSet: number;
  readonly screw: number;
}

/** Two figures: a price list is no better known than that. */
function rough(value: number): number {
  const step = 10 ** Math.max(0, Math.floor(Math.log10(value)) - 1);
  return Math.max(5, Math.round(value / step) * step);
}

/**
 * Usual prices of parts by size and kind, in units of the shop’s currency (common practice, no source):
 * tens for the lead screw of an engraver, thousands for a ground screw. Shown as usual, asked for once.
 * @param axis - screw, transmission and bearings of the axis
 * @returns prices, in the shop’s currency
 * @example usualCosts(defaultAxis("vertical-centre", "X")).bearingSet > 0 // true
 */
export function usualCosts(axis: Pick<AxisConfig, "screw" | "transmission" | "bearings">): Prices {
  const { nominalMm, freeLengthMm, make } = axis.screw;
  const size = nominalMm / MIDDLING.nominalMm;
  const length = 0.5 + (0.5 * freeLengthMm) / MIDDLING.lengthMm;
  const kind = axis.transmission === "plain-screw" ? 0.1 : MAKE[make];
  return {
    screw: rough(MIDDLING.screw * kind * size ** 1.6 * length),
    bearingSet: rough(MIDDLING.bearings * SET[axis.bearings] * size ** 1.3),
  };
}

/**
 * What was noted for an axis; what is usual for its size and kind where nobody noted it.
 * @param axis - screw, transmission, bearings and noted prices of the axis
 * @returns prices, in the shop’s currency
 * @example pricesOf({ ...defaultAxis("vertical-centre", "X"), costs: { bearingSet: 300, screw: 900, downtimePerHour: 50 } }).bearingSet // 300
 */
export function pricesOf(axis: Pick<AxisConfig, "screw" | "transmission" | "bearings" | "costs">): Prices {
  const usual = usualCosts(axis);
  return {
    bearingSet: axis.costs.bearingSet ?? usual.bearingSet,
    screw: axis.costs.screw ?? usual.screw,
  };
}
