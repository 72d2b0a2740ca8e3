import { crestAlignment, type CrestAlignment, type CrestReadings } from "../../sums/alignment";

/** Crest readings in one plane: where the member stood and what the tip read, mm. */
export interface CrestPoint {
  readonly positionMm: number;
  readonly readingMm: number;
}

export interface CrestRun {
  readonly alignment: CrestAlignment;
  /** Out of line by more than U and the limit; null where it cannot be told. */
  readonly outOfLine: boolean | null;
  /** Swings with the screw by more than U and the limit; null where it cannot be told. */
  readonly bent: boolean | null;
}

export interface CrestRunOptions {
  readonly leadMm: number;
  /** Screw between its supports, and travel over which the places count, mm. */
  readonly freeLengthMm: number;
  readonly travelMm: number;
  /** Step of the indicator, mm; absent {@link USUAL_CREST_STEP_MM}. */
  readonly resolutionMm?: number;
}

/** Step of a lever indicator whose name nobody noted, mm (common practice, no source). */
export const USUAL_CREST_STEP_MM = 0.002;

/**
 * A crest run as evidence: is the screw out of line with the ways, and does it turn a bend with it?
 * @param planes - readings at 0° and at 90°; at least five places each
 * @param options - lead, free length and travel, mm, and display step
 * @returns how it lies, and what that answers
 * @throws BoundError with fewer than five places in a plane
 * @example
 * const flat = [0, 100, 200, 300, 400].map((positionMm) => ({ positionMm, readingMm: 0 }));
 * crestRun([flat, flat], { leadMm: 10, freeLengthMm: 700, travelMm: 500 }).outOfLine // false
 */
export function crestRun(planes: readonly (readonly CrestPoint[])[], options: CrestRunOptions): CrestRun {
  const { leadMm, freeLengthMm, travelMm } = options;
  const { resolutionMm = USUAL_CREST_STEP_MM } = options;
  const over = Math.max(0, freeLengthMm - travelMm) / 2;
  const readings = planes.map((points, i): CrestReadings => ({
    name: i === 0 ? "0°" : "90°",
    points: points.map((p) => ({ x: p.positionMm, y: p.readingMm })),
  }));
  const alignment = crestAlignment(readings, {
    supports: {
      fixedMm: -over,
      farMm: travelMm + over,
      bracketMm: travelMm / 2,
      leadMm,
    },
    datum: "bracket",
    resolutionMm,
  });
  return { alignment, ...crestAnswers(alignment) };
}

/**
 * What an alignment answers at Locate; null leaves the question open.
 * @param alignment - of {@link crestRun}
 * @returns yes, no, or null
 * @example
 * const flat = [0, 100, 200, 300, 400].map((positionMm) => ({ positionMm, readingMm: 0 }));
 * crestAnswers(crestRun([flat, flat], { leadMm: 10, freeLengthMm: 700, travelMm: 500 }).alignment).bent // null
 */
export function crestAnswers(alignment: CrestAlignment): Pick<CrestRun, "outOfLine" | "bent"> {
  const codes = alignment.planes.map((p) => p.code);
  return {
    outOfLine: codes.includes("over") ? true : codes.every((c) => c === "within") ? false : null,
    bent:
      alignment.turning === null || alignment.turning.code === "cannot-tell" ? null : alignment.turning.code === "over",
  };
}
