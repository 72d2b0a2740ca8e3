import { BoundError, requireBound } from "../../quantity";

/** A usual set of shim stock, mm (common practice, no source). */
export const SHIM_STOCK_MM: readonly number[] = [0.025, 0.05, 0.1, 0.15, 0.2, 0.25, 0.5, 1];
const MOST_PIECES = 6;

export interface ShimStack {
  readonly pieces: readonly number[];
  readonly sumMm: number;
  /** Sum less what was wanted, mm. */
  readonly errorMm: number;
}

/**
 * Fewest shims from a stock list whose sum comes within `toleranceMm` of a thickness; if none of up
 * to six pieces does, the nearest sum. Any size may be taken more than once.
 * @param wantedMm - thickness, mm, 0 or more
 * @param stockMm - sizes in stock, mm
 * @param toleranceMm - near enough, mm
 * @returns the pieces, their sum and how far it is off, mm
 * @throws BoundError for a thickness below 0 or an empty list
 * @example shimStack(0.15, [0.05, 0.1]).pieces // [0.1, 0.05]
 */
export function shimStack(
  wantedMm: number,
  stockMm: readonly number[] = SHIM_STOCK_MM,
  toleranceMm = 0.0125,
): ShimStack {
  requireBound({ "shim thickness": wantedMm }, wantedMm >= 0 && wantedMm <= 10, "from 0 to 10 mm");
  const stock = [...new Set(stockMm)].filter((s) => s > 0).sort((a, b) => b - a);
  if (stock.length === 0) throw new BoundError("sizes in stock", 0, "at least one above 0 mm");
  const none: ShimStack = { pieces: [], sumMm: 0, errorMm: -wantedMm };
  const close = (s: ShimStack): boolean => Math.abs(s.errorMm) <= toleranceMm + 1e-9;
  if (close(none)) return none;
  let best = none;
  // Sums reachable with k pieces, each once: thicknesses are whole micrometres.
  let reach = new Map<number, readonly number[]>([[0, []]]);
  for (let k = 1; k <= MOST_PIECES; k += 1) {
    const next = new Map<number, readonly number[]>();
    for (const [sum, pieces] of reach)
      for (const size of stock) {
        const to = sum + Math.round(size * 1000);
        if (to / 1000 - wantedMm > Math.max(toleranceMm, stock[0])) continue;
        if (!next.has(to)) next.set(to, [...pieces, size]);
      }
    for (const [sum, pieces] of next) {
      const stack = { pieces, sumMm: sum / 1000, errorMm: sum / 1000 - wantedMm };
      if (Math.abs(stack.errorMm) < Math.abs(best.errorMm) - 1e-9) best = stack;
    }
    if (close(best)) break;
    reach = next;
  }
  return { ...best, pieces: [...best.pieces].sort((a, b) => b - a) };
}

/** Where a bolt or pad stands, mm, with x to the right and y to the far side. */
export interface Support {
  readonly name: string;
  readonly x: number;
  readonly y: number;
}

/**
 * Smallest non-negative lifts that take out a tilt: the plane through the lifts cancels both slopes,
 * and one support at least gets none. Up to four supports, but any number works.
 * @param supports - the supports, x to the right and y to the far side, mm
 * @param slopeX - rise for each mm to the right; `slopeY` towards the far side
 * @param slopeY - rise for each mm towards the far side
 * @returns lift of each support, mm
 * @example levellingLifts([{ name: "left", x: 0, y: 0 }, { name: "right", x: 100, y: 0 }], -0.001, 0)[1].liftMm // 0.1
 */
export function levellingLifts(
  supports: readonly Support[],
  slopeX: number,
  slopeY: number,
): readonly { readonly name: string; readonly liftMm: number }[] {
  if (supports.length < 2) throw new BoundError("number of supports", supports.length, "at least 2");
  const rise = supports.map((s) => slopeX * s.x + slopeY * s.y);
  const top = Math.max(...rise);
  return supports.map((s, i) => ({ name: s.name, liftMm: top - rise[i] }));
}
