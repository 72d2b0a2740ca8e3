import { fromMm, positionUnit, type UnitSystem } from "../../quantity";
import { checkPlan, type CommandedAs, type TestPlan } from "../reversal";
import { commentText, dwellBlock, type DwellWord } from "./blocks";
import { checkProgram, needsLift, programMoves, type ProgramMove, type ProgramOptions } from "./moves";

export interface GcodeOptions extends ProgramOptions {
  readonly system: UnitSystem;
  readonly title: string;
  readonly travelMm: number;
  readonly rapidMmMin: number;
  readonly dwellWord: DwellWord;
  /** Decimals of an inch program: five where the control takes them, else four. */
  readonly inchDecimals?: 4 | 5;
}

/**
 * How a program of these options writes its places: the test is evaluated against that.
 * @param options - units and decimals of the program
 * @returns units and decimals of its places
 * @example commandedAs({ system: "inch" }) // { system: "inch", decimals: 4 }
 */
export function commandedAs(options: Pick<GcodeOptions, "system" | "inchDecimals">): CommandedAs {
  const { system, inchDecimals = 4 } = options;
  return { system, decimals: system === "metric" ? 3 : inchDecimals };
}

/** A tip is set down on a block no faster than this, mm/min. */
const SET_DOWN_MM_MIN = 200;

/**
 * A test program as plain text: G0, G1, G4 and M0, absolute, feed per minute, millimetres or inches
 * (ISO 6983-1 words). The program moves one axis, and a second one that lifts the tip.
 * @param plan - of the test
 * @param options - letters, feed, dwell, lift, units, title
 * @returns the program, a block a line
 * @throws BoundError naming the value and the bound when a place leaves the travel, the tip would be run into, or the
 *   tested axis is asked to lift
 * @example
 * const plan = { kind: "two-sided", targetsMm: [250], runs: 2, overTravelMm: 5, tickMm: 0.01, ticksOut: 0, keepsZero: false };
 * const how = { letter: "X", feedMmMin: 1000, dwellS: 5, lift: { way: "axis", letter: "Z", travelMm: 460, clearMm: 50, readMm: 10 }, zeroBy: "stop" };
 * const text = gcodeProgram(plan, { ...how, system: "metric", title: "X", travelMm: 500, rapidMmMin: 20000, dwellWord: "P-seconds" });
 * text.includes("G21") // true
 */
export function gcodeProgram(plan: TestPlan, options: GcodeOptions): string {
  checkPlan(plan, options.travelMm);
  checkProgram(plan, options, options.rapidMmMin);
  const unit = positionUnit(options.system);
  const { decimals } = commandedAs(options);
  const length = (mm: number): string => fromMm(mm, unit).toFixed(decimals);
  // Three decimals at most, never F0: feeds below 1 mm/min are refused.
  const feedWord = (mmMin: number): string => String(Number(fromMm(mmMin, unit).toFixed(3)));
  const { letter, lift } = options;
  const lifter = lift.way === "axis" ? lift.letter : "";
  const slow = feedWord(Math.min(options.feedMmMin, SET_DOWN_MM_MIN));
  const block = (move: ProgramMove): string => {
    switch (move.kind) {
      case "rapid":
        return `G0 ${letter}${length(move.toMm)} (${commentText(move.note)})`;
      case "feed":
        return `G1 ${letter}${length(move.toMm)} F${feedWord(options.feedMmMin)} (${commentText(move.note)})`;
      case "clear":
        return `G0 ${lifter}${length(move.toMm)} (tip clear)`;
      case "set-down":
        return `G1 ${lifter}${length(move.toMm)} F${slow} (tip down)`;
      case "dwell":
        return `${dwellBlock(move.seconds, options.dwellWord)} (${commentText(move.note)})`;
      case "stop":
        return `M0 (${commentText(move.note)})`;
    }
  };
  const lines = [
    "%",
    `(${commentText(options.title)})`,
    "(Check the offsets, the travel limits and the clearance by hand first.)",
    "(Tool and coolant off. Hands out. First pass at reduced override.)",
    ...(needsLift(plan) ? ["(The block is chamfered; the tip is lifted before going past.)"] : []),
    `${unit === "mm" ? "G21" : "G20"} (${unit === "mm" ? "millimetres" : "inches"})`,
    "G90 (absolute)",
    "G94 (feed per minute)",
    ...programMoves(plan, options).map(block),
    "M30",
    "%",
  ];
  return `${lines.join("\n")}\n`;
}
