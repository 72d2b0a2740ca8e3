import { formatDeviation, formatNumber, decimalsFor, fromMm, type UnitSystem } from "../../quantity";
import { overLength } from "../circle/circle.text";
import type { FootTurn, Levels, Slope } from "./levels";
import type { SquareValue } from "./square-value";

/**
 * How two axes stand to each other, in words.
 * @param square - out of square with U
 * @param letters - first and second axis
 * @param system - units
 * @returns a sentence
 * @example squareText({ value: 3e-5, u: 5e-6 }, ["X", "Y"], "metric") // 'Y leans towards X plus by 9.0 ± 1.5 µm over 300 mm.'
 */
export function squareText({ value, u }: SquareValue, letters: readonly [string, string], system: UnitSystem): string {
  const by = overLength(Math.abs(value), u, system);
  if (Math.abs(value) <= u) return `${letters[0]} and ${letters[1]} are square as far as can be told: ${by}.`;
  return `${letters[1]} leans towards ${letters[0]} ${value > 0 ? "plus" : "minus"} by ${by}.`;
}

/**
 * A slope as a shop says it: mm for a metre, or inches for a foot.
 * @param slope - value and U, mm for a metre
 * @param system - units
 * @returns the text, without sign
 * @example slopeText({ value: -0.04, u: 0.008 }, "metric") // '0.0400 ± 0.0080 mm/m'
 */
export function slopeText({ value, u }: Slope, system: UnitSystem): string {
  const per = system === "metric" ? 1 : 12 / 1000;
  const decimals = decimalsFor(u * per);
  const unit = system === "metric" ? "mm/m" : "in/ft";
  return `${formatNumber(Math.abs(value) * per, decimals)} ± ${formatNumber(u * per, decimals)} ${unit}`;
}

/**
 * Which end is high, or that it stands level as far as can be told.
 * @param slope - value and U, mm for a metre
 * @param letter - X or Y
 * @param system - units
 * @returns a sentence
 * @example tiltText({ value: 0.04, u: 0.008 }, "X", "metric") // 'X plus is high by 0.0400 ± 0.0080 mm/m.'
 */
export function tiltText(slope: Slope, letter: string, system: UnitSystem): string {
  const by = slopeText(slope, system);
  if (Math.abs(slope.value) <= slope.u) return `Level along ${letter} as far as can be told: ${by}.`;
  return `${letter} ${slope.value > 0 ? "plus" : "minus"} is high by ${by}.`;
}

/** Parts of a turn as they are said at a spanner. */
const EIGHTHS = ["", "1/8", "1/4", "3/8", "1/2", "5/8", "3/4", "7/8"] as const;

/**
 * A number of turns as it is said at a spanner: whole turns and eighths.
 * @param turns - of the levelling screw
 * @returns the words
 * @example turnsText(1.26) // '1 1/4 turns'
 */
export function turnsText(turns: number): string {
  const eighths = Math.round(turns * 8);
  if (eighths === 0) return "less than 1/8 of a turn";
  const [whole, rest] = [Math.floor(eighths / 8), EIGHTHS[eighths % 8]];
  if (whole === 0) return `${rest} of a turn`;
  return `${whole}${rest ? ` ${rest}` : ""} ${whole === 1 && !rest ? "turn" : "turns"}`;
}

/**
 * What a foot wants, in words.
 * @param turn - of the foot
 * @param system - units
 * @returns a sentence
 * @example
 * footText({ name: "2", raiseMm: 0.1, uMm: 0.02, turns: 0.067, soft: false }, "metric") // 'Foot 2: up 100 ± 20 µm, 1/8 of a turn.'
 */
export function footText({ name, raiseMm, uMm, turns, soft }: FootTurn, system: UnitSystem): string {
  if (soft)
    return `Foot ${name} hangs: leave it till the others are done, then bring it up until it carries and the level has only just begun to move.`;
  if (raiseMm <= uMm)
    return raiseMm < 1e-9
      ? `Foot ${name} stays: it is the highest.`
      : `Foot ${name} stays: what it wants, ${formatDeviation(raiseMm, { system })}, is less than its ±.`;
  const decimals = decimalsFor(fromMm(uMm, system === "metric" ? "um" : "tenth"));
  const dev = (mm: number): string => formatNumber(fromMm(mm, system === "metric" ? "um" : "tenth"), decimals);
  const unit = system === "metric" ? "µm" : "tenths";
  return `Foot ${name}: up ${dev(raiseMm)} ± ${dev(uMm)} ${unit}${turns === null ? "" : `, ${turnsText(turns)}`}.`;
}

/** An own error of a level below this is not seen in its vial, mm/m (common practice, no source). */
const SHOWS = 0.001;

/**
 * What the levels say beside tilt and feet.
 * @param levels - worked out
 * @param system - units
 * @returns sentences
 * @example
 * levelsText({ tiltX: { value: 0, u: 0.01 }, tiltY: { value: 0, u: 0.01 }, twist: null, bow: { X: null, Y: null }, ownZero: null, turns: [] }, "metric")[0]
 * // "The level was not turned end for end: its own error is in every figure, and is in the ±."
 */
export function levelsText(levels: Levels, system: UnitSystem): readonly string[] {
  const { twist, bow, ownZero } = levels;
  // Of a slope how much it changes: for a metre, or for a foot.
  const [part, far] = system === "metric" ? [1, "metre"] : [0.3048, "foot"];
  const changes = ({ value, u }: Slope): string => slopeText({ value: part * value, u: part * u }, system);
  const said: string[] = [];
  if (twist && Math.abs(twist.value) > twist.u)
    said.push(
      `The bed is twisted: along X it leans ${changes(twist)} ${twist.value > 0 ? "more" : "less"} for each ${far} towards Y plus. Twist goes into the ways; it comes out before tilt does.`,
    );
  for (const letter of ["X", "Y"] as const) {
    const one = bow[letter];
    if (one && Math.abs(one.value) > one.u)
      said.push(
        `Along ${letter} it is ${one.value > 0 ? "hollow" : "crowned"}: the slope changes by ${changes(one)} for each ${far}. No foot at a corner mends that; feet in between, or the ways themselves.`,
      );
  }
  said.push(
    ownZero === null
      ? "The level was not turned end for end: its own error is in every figure, and is in the ±."
      : Math.abs(ownZero) < SHOWS
        ? "Turned end for end, the level shows no error of its own."
        : `The level itself is out by ${slopeText({ value: ownZero, u: Math.max(1e-4, Math.abs(ownZero) / 10) }, system).split(" ± ")[0]} ${system === "metric" ? "mm/m" : "in/ft"}; that has been taken out.`,
  );
  return said;
}
