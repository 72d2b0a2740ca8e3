import { BoundError } from "../quantity";

export interface ProgramTravel {
  /** How long one pass of the program takes, without tool changes and waits, min. */
  readonly minutes: number;
  /** Way that each axis goes back and forth in it, mm. */
  readonly travelMm: Readonly<Record<string, number>>;
  /** What was passed over, in words. */
  readonly notes: readonly string[];
}

const AXES = ["X", "Y", "Z", "U", "V", "W"] as const;
const INCH = 25.4;
/** Straight pieces that an arc is summed from. */
const PIECES = 90;

interface Pose {
  readonly at: Readonly<Record<string, number>>;
}

/**
 * What a part program makes each axis travel: G0 to G3, G90 and G91, G20 and G21, arcs by centre or
 * radius in the planes G17 to G19, feed per minute (G94), per turn of the spindle (G95 with S) or as the
 * inverse of a move's minutes (G93) (words of ISO 6983-1). Cycles, subprograms, variables and constant
 * cutting speed (G96) are passed over and said.
 * @param text - the program
 * @param rapidMmMin - speed of G0, mm/min
 * @returns minutes, mm of each axis, and what was passed over
 * @throws BoundError when nothing in the text moves
 * @example programTravel("G21 G90 G94\nG1 X100 F1000", 15000).travelMm.X // 100
 */
export function programTravel(text: string, rapidMmMin: number): ProgramTravel {
  const reader = new ProgramReader(rapidMmMin);
  for (const line of text.split(/\r?\n/)) reader.read(line);
  if (Object.keys(reader.travelMm).length === 0)
    throw new BoundError("number of moves", 0, "at least 1: nothing in this program moves an axis");
  return { minutes: reader.seconds / 60, travelMm: reader.travelMm, notes: [...reader.notes] };
}

/** A straight piece of way of one axis, mm in the program’s own zero. */
export interface Stroke {
  readonly fromMm: number;
  readonly toMm: number;
}

/**
 * The ways that one axis goes in a part program, in order; what comes before its first known place is left out. Reads the
 * same words as {@link programTravel}.
 * @param text - the program
 * @param letter - of the axis
 * @returns its strokes, mm from the program’s zero
 * @throws BoundError when nothing moves the axis from a known place
 * @example programStrokes("G21 G90\nG0 X10\nG1 X60 F500", "X") // [{ fromMm: 10, toMm: 60 }]
 */
export function programStrokes(text: string, letter: string): readonly Stroke[] {
  const strokes: Stroke[] = [];
  const reader = new ProgramReader(0, (axis, stroke) => {
    if (axis === letter && stroke.fromMm !== stroke.toMm) strokes.push(stroke);
  });
  for (const line of text.split(/\r?\n/)) reader.read(line);
  if (strokes.length === 0)
    throw new BoundError(`number of moves of ${letter}`, 0, "at least 1: nothing in this program moves it");
  return strokes;
}

type Word = readonly [letter: string, value: number];

/** Follows a program line by line, with what holds from line to line. */
class ProgramReader {
  readonly travelMm: Record<string, number> = {};
  readonly notes = new Set<string>();
  seconds = 0;
  private at: Pose["at"] = {};
  private motion = 0;
  private absolute = true;
  private scale = 1;
  private feed = 0;
  private plane = "XY";
  private feedMode = 94;
  private turns = 0;
  /** Constant cutting speed. */
  private surface = false;

  constructor(
    private readonly rapidMmMin: number,
    private readonly tell: (axis: string, stroke: Stroke) => void = () => undefined,
  ) {}

  read(raw: string): void {
    const line = withoutComments(raw).toUpperCase();
    if (/[#[\]]/.test(line)) this.notes.add("Variables are not followed.");
    const words = [...line.matchAll(/([A-Z])\s*([-+]?\d*\.?\d+)/g)].map((m): Word => [m[1], Number(m[2])]);
    const value = (letter: string): number | undefined => words.find(([w]) => w === letter)?.[1];
    for (const [letter, number] of words) {
      if (letter === "M" && (number === 98 || number === 99)) this.notes.add("Subprograms are not followed.");
      if (letter === "G") this.prepare(number);
    }
    // After the G words, wherever they stand: G93 is no length, so inches do not scale it.
    const [f, spindle] = [value("F"), value("S")];
    if (f !== undefined) this.feed = this.feedMode === 93 ? f : f * this.scale;
    if (spindle !== undefined) this.turns = spindle;
    // A G28 or G4 line names places or times that are no way to go.
    if (words.some(([l, n]) => l === "G" && [4, 10, 28, 30, 52, 92].includes(n))) return;
    const to = this.target(value);
    if (Object.keys(to).length === 0) return;
    if (this.feedMode === 93 && this.motion > 0 && f === undefined) {
      this.feed = 0;
      this.notes.add("A move under G93 without its own F was taken to need no time.");
    }
    this.move(to, value);
  }

  /** A preparatory word, which holds till another of its kind. */
  private prepare(number: number): void {
    if (number >= 0 && number <= 3 && Number.isInteger(number)) this.motion = number;
    else if (number === 90) this.absolute = true;
    else if (number === 91) this.absolute = false;
    else if (number === 20) this.scale = INCH;
    else if (number === 21) this.scale = 1;
    else if (number >= 93 && number <= 95) {
      if (number !== this.feedMode) this.feed = 0; // A feed of another kind means nothing now.
      this.feedMode = number;
    } else if (number === 96 || number === 97) this.surface = number === 96;
    else if (number >= 17 && number <= 19) this.plane = ["XY", "ZX", "YZ"][number - 17];
    else if (number >= 81 && number <= 89) this.notes.add("Fixed cycles are not followed.");
  }

  private target(value: (letter: string) => number | undefined): Record<string, number> {
    const to: Record<string, number> = {};
    for (const axis of AXES) {
      const word = value(axis);
      if (word !== undefined) to[axis] = (this.absolute ? 0 : this.placeOf(axis)) + word * this.scale;
    }
    return to;
  }

  private placeOf(axis: string): number {
    return (this.at as Partial<Pose["at"]>)[axis] ?? 0;
  }

  private move(to: Record<string, number>, value: (letter: string) => number | undefined): void {
    if (this.motion < 2) {
      this.go(to, this.motion === 0);
      return;
    }
    const centre = { i: value("I"), j: value("J"), k: value("K"), r: value("R") };
    for (const piece of arc(this.at, to, {
      plane: this.plane,
      clockwise: this.motion === 2,
      centre,
      scale: this.scale,
    }))
      this.go(piece, false, 1 / PIECES);
  }

  private go(to: Record<string, number>, rapid: boolean, part = 1): void {
    let [length, longest] = [0, 0];
    for (const axis of Object.keys(to)) {
      const way = Math.abs(to[axis] - this.placeOf(axis));
      if (axis in this.at) this.tell(axis, { fromMm: this.placeOf(axis), toMm: to[axis] });
      this.travelMm[axis] = ((this.travelMm as Partial<Record<string, number>>)[axis] ?? 0) + way;
      length += way * way;
      longest = Math.max(longest, way);
    }
    this.at = { ...this.at, ...to };
    if (!rapid) this.seconds += this.takes(Math.sqrt(length), part);
    else if (this.rapidMmMin > 0) this.seconds += (60 * longest) / this.rapidMmMin;
  }

  /** Seconds of a straight piece of this length, or of a part of a whole move under G93. */
  private takes(length: number, part: number): number {
    const { feedMode, feed, turns, surface } = this;
    if (feedMode === 93) return feed > 0 ? (60 / feed) * part : 0;
    if (feedMode === 94) return feed > 0 ? (60 * length) / feed : 0;
    if (feed > 0 && turns > 0 && !surface) return (60 * length) / (feed * turns);
    this.notes.add(
      surface
        ? "Feed per turn at constant cutting speed (G96): those moves were taken to need no time; type the minutes by hand."
        : "Feed per turn without a spindle speed: those moves were taken to need no time; type the minutes by hand.",
    );
    return 0;
  }
}

/** An arc in short straight pieces; the third axis goes along evenly. */
function arc(
  from: Pose["at"],
  to: Record<string, number>,
  {
    plane,
    clockwise,
    centre,
    scale,
  }: {
    readonly plane: string;
    readonly clockwise: boolean;
    readonly centre: { i?: number; j?: number; k?: number; r?: number };
    readonly scale: number;
  },
): Record<string, number>[] {
  const [a, b] = [plane[0], plane[1]];
  const start = (axis: string): number => (from as Partial<typeof from>)[axis] ?? 0;
  const end = (axis: string): number => (to as Partial<typeof to>)[axis] ?? start(axis);
  const offsets: Record<string, number | undefined> = { X: centre.i, Y: centre.j, Z: centre.k };
  let [centreA, centreB] = [start(a) + (offsets[a] ?? 0) * scale, start(b) + (offsets[b] ?? 0) * scale];
  if (centre.r !== undefined) {
    const [da, db] = [end(a) - start(a), end(b) - start(b)];
    const chord = Math.hypot(da, db);
    const r = centre.r * scale;
    const h = Math.sqrt(Math.max(0, r * r - (chord * chord) / 4));
    const side = (clockwise ? -1 : 1) * (r < 0 ? -1 : 1);
    centreA = start(a) + da / 2 - (side * h * db) / (chord || 1);
    centreB = start(b) + db / 2 + (side * h * da) / (chord || 1);
  }
  const radius = Math.hypot(start(a) - centreA, start(b) - centreB);
  const first = Math.atan2(start(b) - centreB, start(a) - centreA);
  let sweep = Math.atan2(end(b) - centreB, end(a) - centreA) - first;
  if (clockwise && sweep >= -1e-9) sweep -= 2 * Math.PI;
  if (!clockwise && sweep <= 1e-9) sweep += 2 * Math.PI;
  const others = Object.keys(to).filter((axis) => axis !== a && axis !== b);
  return Array.from({ length: PIECES }, (_, n) => {
    const part = (n + 1) / PIECES;
    const angle = first + sweep * part;
    const piece: Record<string, number> = {
      [a]: centreA + radius * Math.cos(angle),
      [b]: centreB + radius * Math.sin(angle),
    };
    for (const axis of others) piece[axis] = start(axis) + (end(axis) - start(axis)) * part;
    return piece;
  });
}

/**
 * Kilometres of each axis in an hour of running.
 * @param travel - what a program makes the axes travel
 * @returns km in an hour, by axis
 * @example kmPerHour(programTravel("G21 G90 G94\nG1 X1000 F1000", 15000)).X // 0.06
 */
export function kmPerHour(travel: ProgramTravel): Readonly<Record<string, number>> {
  if (travel.minutes <= 0) throw new BoundError("minutes", travel.minutes, "above 0: the program gives no feed");
  return Object.fromEntries(
    Object.entries(travel.travelMm).map(([axis, mm]) => [axis, (mm / 1e6) * (60 / travel.minutes)]),
  );
}

/** A line of a program without what stands in brackets or behind a semicolon; a bracket never shut stays. */
function withoutComments(line: string): string {
  let kept = "";
  let at = 0;
  for (;;) {
    const [open, semicolon] = [line.indexOf("(", at), line.indexOf(";", at)];
    if (semicolon >= 0 && (open < 0 || semicolon < open)) return kept + line.slice(at, semicolon);
    const shut = open < 0 ? -1 : line.indexOf(")", open);
    if (shut < 0) return kept + line.slice(at);
    kept += line.slice(at, open);
    at = shut + 1;
  }
}
