/** From and to, in pieces: the one after the last is left out. */
export type Span = readonly [number, number];

/**
 * A ratio of powers in decibels; below a thousand-millionth it is −90.
 * @param ratio - of two powers
 * @returns dB
 * @example decibels(100) // 20
 */
export function decibels(ratio: number): number {
  return 10 * Math.log10(Math.max(ratio, 1e-9));
}

/**
 * A mean square in decibels of full scale: a square wave from −1 to 1 is 0, a sine −3.
 * @param power - mean square, full scale is 1
 * @returns dB, −180 for nothing
 * @example levelDb(0.01) // -20
 */
export function levelDb(power: number): number {
  return decibels(power * 1e9) - 90;
}
