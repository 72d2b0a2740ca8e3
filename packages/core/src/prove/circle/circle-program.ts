import { BoundError, fromMm, positionUnit, requireBound, type UnitSystem } from "../../quantity";
import { commentText, dwellBlock, type DwellWord } from "../../measure/program";
import type { CircleDirection } from "./circle-trace";
import type { CirclePlan } from "./usual-circle";

/** An axis of the plane, as a program writes it. */
export interface CircleProgramAxis {
  readonly letter: string;
  readonly travelMm: number;
  readonly rapidMmMin: number;
}

export interface CircleProgram extends Omit<CirclePlan, "letters"> {
  /** In the order of the standard planes: X and Y, Z and X, Y and Z. */
  readonly axes: readonly [CircleProgramAxis, CircleProgramAxis];
  readonly dwellWord: DwellWord;
  readonly system: UnitSystem;
  readonly title: string;
}

/** ISO 6983-1 (from memory): plane, and the words of the centre, by its two axes in their order. */
const PLANES: Readonly<Partial<Record<string, { readonly word: string; readonly centre: readonly [string, string] }>>> =
  {
    XY: { word: "G17", centre: ["I", "J"] },
    ZX: { word: "G18", centre: ["K", "I"] },
    YZ: { word: "G19", centre: ["J", "K"] },
  };
/** Longest arc in one block, degrees: no control has to guess which way round a half turn is meant. */
const PIECE = 90;
const RADIUS_MM = [10, 600] as const;

function checked(asked: CircleProgram): void {
  const { axes, radiusMm, feedMmMin, spanDeg, overrunDeg, leadMm, dwellS } = asked;
  const [low, high] = RADIUS_MM;
  requireBound({ radius: radiusMm }, radiusMm >= low && radiusMm <= high, `from ${low} to ${high} mm`);
  const rapid = Math.min(...axes.map((a) => a.rapidMmMin));
  requireBound(
    { feed: feedMmMin },
    feedMmMin >= 1 && feedMmMin <= rapid,
    `from 1 up to the rapid feed of ${rapid} mm/min`,
  );
  requireBound({ "degrees of data": spanDeg }, spanDeg >= 90 && spanDeg <= 360, "from 90 to 360°");
  requireBound({ "degrees of overrun": overrunDeg }, overrunDeg >= 5 && overrunDeg <= 180, "from 5 to 180°");
  requireBound({ "run in": leadMm }, leadMm >= 0.5 && leadMm <= 5, "from 0.5 to 5 mm");
  requireBound({ dwell: dwellS }, dwellS >= 0.5 && dwellS <= 60, "from 0.5 to 60 s");
  axes.forEach((axis, i) => {
    const reach = reachOf(asked, i);
    const [from, to] = reach.map((mm) => asked.centreMm[i] + mm);
    const text = `within the travel of ${axis.letter}, from 0 to ${axis.travelMm} mm`;
    requireBound({ [`lowest place of ${axis.letter}`]: from }, from >= 0, text);
    requireBound({ [`highest place of ${axis.letter}`]: to }, to <= axis.travelMm, text);
  });
}

/** How far an axis goes from the centre, both ways, the run in from outside with it. */
function reachOf({ radiusMm, leadMm, startDeg, spanDeg, overrunDeg }: CircleProgram, axis: number): [number, number] {
  const from = startDeg - overrunDeg;
  const to = startDeg + spanDeg + overrunDeg;
  const angles = [from, to];
  for (let quarter = Math.ceil(from / 90) * 90; quarter <= to; quarter += 90) angles.push(quarter);
  const places = angles.map((deg) => {
    const turn = (deg * Math.PI) / 180;
    const outside = deg === from || deg === to ? radiusMm + leadMm : radiusMm;
    return outside * (axis === 0 ? Math.cos(turn) : Math.sin(turn));
  });
  return [Math.min(...places), Math.max(...places)];
}

/**
 * A circular test as plain text (ISO 6983-1 words, from memory): both ways round at one feed, each with a straight run in
 * from outside and an arc before and after the data, a stop before each for the hands that set the bar. Arcs of at most a
 * quarter turn with their centre from where they begin; places are rounded first, so that every arc has one radius.
 * @param asked - axes, centre, radius, feed, data, run in, units
 * @returns the program, a block a line
 * @throws BoundError naming the value and the bound, where the circle would leave the travel among others
 * @example
 * const axes = [{ letter: "X", travelMm: 500, rapidMmMin: 20000 }, { letter: "Y", travelMm: 400, rapidMmMin: 20000 }];
 * const circle = { axes, centreMm: [250, 200], radiusMm: 100, feedMmMin: 1000, startDeg: 0, spanDeg: 360, overrunDeg: 45 };
 * circleProgram({ ...circle, leadMm: 1.5, first: 1, dwellS: 2, dwellWord: "P-seconds", system: "metric", title: "XY" }).includes("G17") // true
 */
export function circleProgram(asked: CircleProgram): string {
  checked(asked);
  const [a, b] = asked.axes.map((axis) => axis.letter);
  const plane = PLANES[`${a}${b}`];
  if (!plane) throw new BoundError(`plane of ${a} and ${b}`, 0, "of X and Y, Z and X, or Y and Z");
  const unit = positionUnit(asked.system);
  const decimals = asked.system === "metric" ? 3 : 4;
  const grain = 10 ** -decimals;
  const rounded = (mm: number): number => Math.round(fromMm(mm, unit) / grain) * grain;
  const word = (value: number): string => (Math.abs(value) < grain / 2 ? 0 : value).toFixed(decimals);
  const centre = asked.centreMm.map(rounded);
  const at = (deg: number, out = 0): readonly [number, number] => {
    const turn = (deg * Math.PI) / 180;
    const [c, s] = [Math.cos(turn), Math.sin(turn)].map((v) => v * (asked.radiusMm + out));
    return [rounded(asked.centreMm[0] + c), rounded(asked.centreMm[1] + s)];
  };
  const feed = `F${Number(fromMm(asked.feedMmMin, unit).toFixed(3))}`;
  const straight = (to: readonly [number, number], note: string): string =>
    `G1 ${a}${word(to[0])} ${b}${word(to[1])} ${feed} (${commentText(note)})`;
  const way = (direction: CircleDirection): string[] => {
    const { startDeg, spanDeg, overrunDeg } = asked;
    const ends = [startDeg - overrunDeg, startDeg + spanDeg + overrunDeg];
    const [from, to] = direction === 1 ? ends : [ends[1], ends[0]];
    const pieces = Math.ceil(Math.abs(to - from) / PIECE);
    const stops = Array.from({ length: pieces + 1 }, (_, i) => from + ((to - from) * i) / pieces);
    const arcs = stops.slice(1).map((deg, i) => {
      const [begin, end] = [at(stops[i]), at(deg)];
      const [i0, i1] = centre.map((c, k) => c - begin[k]);
      return `${direction === 1 ? "G3" : "G2"} ${a}${word(end[0])} ${b}${word(end[1])} ${plane.centre[0]}${word(i0)} ${plane.centre[1]}${word(i1)} ${feed}`;
    });
    const name = direction === 1 ? "counterclockwise" : "clockwise";
    return [
      straight(at(from, asked.leadMm), `to the start, ${name}`),
      `M0 (${commentText("seats clean, bar on, reading begun, hands out")})`,
      dwellBlock(asked.dwellS, asked.dwellWord),
      straight(at(from), "run in"),
      ...arcs,
      straight(at(to, asked.leadMm), "run out"),
      dwellBlock(asked.dwellS, asked.dwellWord),
      `M0 (${commentText("reading ended, bar off")})`,
    ];
  };
  const lines = [
    "%",
    `(${commentText(asked.title)})`,
    "(Spindle locked. Tool and coolant off. Overrides at 100 percent. Hand on the stop.)",
    `(The centre seat stands at ${a}${word(centre[0])} ${b}${word(centre[1])}. First pass without the bar, slowly.)`,
    `${unit === "mm" ? "G21" : "G20"} (${unit === "mm" ? "millimetres" : "inches"})`,
    `${plane.word} (plane ${a}${b})`,
    "G40 (no tool radius)",
    "G90 (absolute)",
    "G94 (feed per minute)",
    `M0 (${commentText("bar off; the way to the start is clear")})`,
    ...way(asked.first),
    ...way(asked.first === 1 ? -1 : 1),
    "M30",
    "%",
  ];
  return `${lines.join("\n")}\n`;
}
