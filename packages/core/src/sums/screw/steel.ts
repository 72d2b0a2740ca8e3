/** Young’s modulus of bearing and screw steel, N/mm² (handbook value, from memory). */
export const STEEL_E = 206_000;
/** Density of steel, kg/mm³ (handbook value, from memory). */
export const STEEL_DENSITY = 7.85e-6;
/** Expansion of steel, 1/K, as ball-screw catalogues take it: 58.5 µm on 1 m at 5 K. */
export const STEEL_ALPHA = 11.7e-6;

/**
 * Cross-section of a screw at its root, mm².
 * @param rootMm - root diameter, mm
 * @returns area, mm²
 * @example rootArea(28) // 615.75
 */
export function rootArea(rootMm: number): number {
  return (Math.PI * rootMm ** 2) / 4;
}
