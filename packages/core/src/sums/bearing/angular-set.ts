import { requireBound } from "../../quantity";

/** One row of an angular-contact bearing. */
export interface AngularRow {
  readonly balls: number;
  readonly ballMm: number;
  readonly contactDeg: number;
}

/**
 * How many rows take the load one way and how many the other: 1 and 1 is a plain pair. A stack of cup
 * springs against the rows keeps its force whatever the rows give: it is no row.
 */
export interface AngularSet {
  readonly row: AngularRow;
  readonly rowsWith: number;
  readonly rowsAgainst: number | "spring";
}

/**
 * Axial deflection of one row, mm: δ = 0.00044/sin α·(Q²/D_w)^⅓, Q = F/(Z·sin α) in newtons
 * (Hertz, as in bearing handbooks, from memory).
 * @param row - balls, their size in mm and the contact angle in degrees
 * @param forceN - axial force on the row, N, 0 or more
 * @returns deflection, mm
 * @throws BoundError when a size is not above 0
 * @example axialDeflection({ balls: 16, ballMm: 7.144, contactDeg: 60 }, 1000) // 0.0045727
 */
export function axialDeflection(row: AngularRow, forceN: number): number {
  const { balls, ballMm, contactDeg } = row;
  requireBound({ "number of balls": balls }, balls >= 1, "at least 1");
  requireBound({ "ball diameter": ballMm }, ballMm > 0, "above 0 mm");
  requireBound({ "contact angle": contactDeg }, contactDeg > 0 && contactDeg <= 90, "above 0 and up to 90°");
  const sine = Math.sin((contactDeg * Math.PI) / 180);
  const q = Math.max(0, forceN) / (balls * sine);
  return (0.00044 / sine) * Math.cbrt(q ** 2 / ballMm);
}

/**
 * Force that deflects one row by `mm`, the inverse of {@link axialDeflection}; 0 when it is open.
 * @param row - balls, their size in mm and the contact angle in degrees
 * @param mm - deflection, mm
 * @returns axial force, N
 * @example rowForce({ balls: 16, ballMm: 7.144, contactDeg: 60 }, 0) // 0
 */
export function rowForce(row: AngularRow, mm: number): number {
  if (mm <= 0) return 0;
  const sine = Math.sin((row.contactDeg * Math.PI) / 180);
  return row.balls * sine * Math.sqrt(row.ballMm * ((mm * sine) / 0.00044) ** 3);
}

export interface SetUnderLoad {
  readonly deflectionMm: number;
  readonly loadedN: number;
  readonly unloadedN: number;
  /** The rows on the far side carry nothing any more; a spring always does. */
  readonly open: boolean;
}

/**
 * A preloaded set under an outer axial force: rows with and against the force share one movement,
 * and what one side gains the other loses. Against a spring the far side keeps its force, so that the
 * rows carry preload and load together. Preload is the force in each side before the load, N.
 * @param set - a row, and how many stand with and against the force
 * @param preloadN - force in each side before the load, N
 * @param forceN - outer force, N
 * @returns deflection, mm, and the force in either side, N
 * @example setUnderLoad({ row: { balls: 16, ballMm: 7.144, contactDeg: 60 }, rowsWith: 1, rowsAgainst: 1 }, 2000, 1000).open // false
 */
export function setUnderLoad(set: AngularSet, preloadN: number, forceN: number): SetUnderLoad {
  requireBound({ preload: preloadN }, preloadN >= 0, "0 N or more");
  requireBound({ "axial force": forceN }, forceN >= 0, "0 N or more");
  const { row, rowsWith, rowsAgainst } = set;
  const startWith = axialDeflection(row, preloadN / rowsWith);
  if (rowsAgainst === "spring") {
    const loadedN = preloadN + forceN;
    const deflectionMm = axialDeflection(row, loadedN / rowsWith) - startWith;
    return { deflectionMm, loadedN, unloadedN: preloadN, open: false };
  }
  const startAgainst = axialDeflection(row, preloadN / rowsAgainst);
  const sides = (x: number): [number, number] => [
    rowsWith * rowForce(row, startWith + x),
    rowsAgainst * rowForce(row, startAgainst - x),
  ];
  let low = 0;
  let high = axialDeflection(row, (preloadN + forceN) / rowsWith) + 1e-9;
  for (let i = 0; i < 80; i += 1) {
    const middle = (low + high) / 2;
    const [withIt, against] = sides(middle);
    if (withIt - against < forceN) low = middle;
    else high = middle;
  }
  const [loadedN, unloadedN] = sides(high);
  return { deflectionMm: high, loadedN, unloadedN, open: high >= startAgainst };
}

/**
 * Outer force at which the far side goes slack, N. For equal sides it is 2√2 = 2.83 times the
 * preload (bearing handbooks, from memory; follows from F ∝ δ^1.5). A spring never goes slack by a force
 * on its rows: null; pulled the other way, the rows open at the preload itself.
 * @param set - a row, and how many stand with and against the force
 * @param preloadN - force in each side before the load, N
 * @returns outer force, N; null where a spring never lets go
 * @example preloadLossLimit({ row: { balls: 16, ballMm: 7.144, contactDeg: 60 }, rowsWith: 1, rowsAgainst: 1 }, 1000) // 2828.4
 */
export function preloadLossLimit(set: AngularSet, preloadN: number): number | null {
  const { row, rowsWith, rowsAgainst } = set;
  if (rowsAgainst === "spring") return null;
  const open = axialDeflection(row, preloadN / rowsAgainst);
  const start = axialDeflection(row, preloadN / rowsWith);
  return rowsWith * rowForce(row, start + open);
}

/**
 * How much closer the rings come when a set of two sides is clamped to its preload, mm: the gap that the
 * clamping closes. Of rows against a spring only the rows count.
 * @param set - a row, and how many stand with and against
 * @param preloadN - preload, N
 * @returns gap, mm
 * @example preloadOffset({ row: { balls: 16, ballMm: 7.144, contactDeg: 60 }, rowsWith: 1, rowsAgainst: 1 }, 2000) // 0.014517
 */
export function preloadOffset(set: AngularSet, preloadN: number): number {
  const { row, rowsWith, rowsAgainst } = set;
  const own = axialDeflection(row, preloadN / rowsWith);
  return rowsAgainst === "spring" ? own : own + axialDeflection(row, preloadN / rowsAgainst);
}
