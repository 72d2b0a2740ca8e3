import { fromMm, positionUnit, type UnitSystem } from "../quantity";
import { checkPlan, type TestPlan } from "../lostmotion";
import {
  checkProgram,
  programMoves,
  type ProgramMove,
  type ProgramOptions,
} from "./moves";

export interface GcodeOptions extends ProgramOptions {
  readonly system: UnitSystem;
  readonly title: string;
  readonly travelMm: number;
  readonly rapidMmMin: number;
  /** How the control writes a dwell: P in seconds, P in milliseconds, or X in seconds. */
  readonly dwellWord: "P-seconds" | "P-milliseconds" | "X-seconds";
}

function commentText(text: string): string {
  return text
    .replace(/[()\r\n]/g, " ")
    .replace(/[^\x20-\x7e]/g, "-")
    .slice(0, 70);
}

function dwellBlock(seconds: number, word: GcodeOptions["dwellWord"]): string {
  if (word === "P-milliseconds") return `G4 P${Math.round(seconds * 1000)}`;
  return `G4 ${word === "X-seconds" ? "X" : "P"}${seconds.toFixed(1)}`;
}

/**
 * A test program as plain text: G0, G1 and G4, absolute, millimetres or inches (ISO 6983-1 words).
 * The program moves one axis, and a second one for clearance when asked.
 * @throws BoundError naming the value and the bound when a place leaves the travel
 */
export function gcodeProgram(plan: TestPlan, options: GcodeOptions): string {
  checkPlan(plan, options.travelMm);
  checkProgram(options, options.rapidMmMin);
  const unit = positionUnit(options.system);
  const decimals = unit === "mm" ? 3 : 4;
  const length = (mm: number): string => fromMm(mm, unit).toFixed(decimals);
  const feed = fromMm(options.feedMmMin, unit).toFixed(unit === "mm" ? 0 : 2);
  const { letter, clearance } = options;
  const block = (move: ProgramMove): string => {
    switch (move.kind) {
      case "rapid":
        return `G0 ${letter}${length(move.toMm)} (${commentText(move.note)})`;
      case "feed":
        return `G1 ${letter}${length(move.toMm)} F${feed} (${commentText(move.note)})`;
      case "clear":
        return `G0 ${clearance?.letter}${length(move.toMm)} (tip clear)`;
      case "set-down":
        return `G1 ${clearance?.letter}${length(move.toMm)} F${feed} (tip down)`;
      case "dwell":
        return `${dwellBlock(move.seconds, options.dwellWord)} (${commentText(move.note)})`;
    }
  };
  const lines = [
    "%",
    `(${commentText(options.title)})`,
    "(Check the offsets, the travel limits and the clearance by hand first.)",
    "(Tool and coolant off. Hands out. First pass at reduced override.)",
    `${unit === "mm" ? "G21" : "G20"} (${unit === "mm" ? "millimetres" : "inches"})`,
    "G90 (absolute)",
    ...programMoves(plan, options).map(block),
    "M30",
    "%",
  ];
  return `${lines.join("\n")}\n`;
}
