import {
  agreeOnSquare,
  conformityText,
  footText,
  judgeCircle,
  judgeLevel,
  levelMoved,
  levelsText,
  slopeText,
  squareText,
  stateOfConformity,
  tiltText,
  USUAL_LEVEL_LIMITS,
  type AxisState,
  type CircleLimits,
  type Foot,
  type Slope,
  type UnitSystem,
} from "@iron/core";
import type { Geometry } from "@iron/contract";
import { momentText } from "../shared/times.text";

/** Readings of one pair are joined when they are not further apart than this: a machine settles and is bumped. */
const TOGETHER_DAYS = 30;
const DAY_MS = 86_400_000;

const WAYS = { sweep: "by a square", diagonals: "by diagonals", circle: "by a circle" } as const;

export interface PairView {
  readonly letters: string;
  readonly says: string;
  readonly mark: AxisState;
  readonly word: string;
  /** Where ways that should tell one thing differ; empty where they agree, or there is one. */
  readonly differ: string;
  readonly rows: readonly {
    readonly id: number;
    /** Address of the circle it is of; empty where it is none. */
    readonly circle: string;
    readonly text: string;
    readonly own: string;
    readonly aside: string;
  }[];
}

/** Each pair of axes: what its newest readings say together, and every reading. */
export function pairViews(square: Geometry["square"], limits: CircleLimits, system: UnitSystem): readonly PairView[] {
  const pairs = [...new Set(square.map((s) => s.letters.join("")))];
  return pairs.map((letters) => {
    const own = square.filter((s) => s.letters.join("") === letters);
    const used = own.filter((s) => s.aside === "");
    const last = used.at(-1);
    const near = used.filter((s) => last && Date.parse(last.at) - Date.parse(s.at) <= TOGETHER_DAYS * DAY_MS);
    // Of each way the newest.
    const newest = [...new Map(near.map((s) => [s.way, s])).values()];
    const joined = agreeOnSquare(newest);
    const pair = own[0].letters;
    const judged = joined ? judgeCircle("square", joined, limits) : null;
    return {
      letters: pair.join(" and "),
      says: joined ? squareText(joined, pair, system) : "Every reading of it was set aside.",
      mark: judged ? stateOfConformity(judged) : "unknown",
      word: conformityText(judged),
      differ:
        joined && !joined.agrees
          ? `${newest.map((s) => WAYS[s.way]).join(" and ")} do not agree: more than chance lies between them. A square that was dropped, a circle by a loose bar, a machine that was warm once and cold once. Read again before anything is turned.`
          : "",
      rows: [...own].reverse().map((s) => ({
        id: s.id,
        circle: s.way === "circle" ? `/circles/${s.id}` : "",
        text: `${momentText(s.at)}, ${s.by}, ${WAYS[s.way]}: ${squareText(s, pair, system)}${s.note ? ` ${s.note}` : ""}`,
        own: s.ownError
          ? `The square itself is out by ${squareText(s.ownError, pair, system)
              .replace(/^.* by /, "")
              .replace(/^.*: /, "")}`
          : "",
        aside: s.aside,
      })),
    };
  });
}

export interface LevelsView {
  readonly id: number;
  /** It is known that feet are to be turned. */
  readonly wanted: boolean;
  readonly title: string;
  readonly headline: string;
  readonly mark: AxisState;
  readonly word: string;
  readonly tilts: readonly string[];
  readonly feet: readonly string[];
  readonly said: readonly string[];
  /** Against the time before; empty for the first. */
  readonly since: string;
  readonly drawn: readonly FootDrawn[];
}

export interface FootDrawn {
  readonly name: string;
  /** 0 to 100, from the left and from the front. */
  readonly left: number;
  readonly front: number;
  readonly stays: boolean;
  readonly soft: boolean;
}

/** Nobody turns a foot on what cannot be told. */
const TURN_FIRST =
  "No foot is turned on this: read again with the level turned end for end in each place, or with a finer one.";

const HEADLINES = {
  sound: "It stands level.",
  watch: "Nearly level.",
  act: "It wants levelling.",
  "cannot-tell": "It cannot be told yet whether it stands level.",
} as const;

/** What the newest levels say, against those before. */
export function levelsView(levels: Geometry["levels"], system: UnitSystem): LevelsView | null {
  const used = levels.filter((l) => l.aside === "");
  const [before, one] = [used.at(-2), used.at(-1)];
  if (!one) return null;
  const { result, taken } = one;
  const slopes: readonly (readonly [string, Slope | null])[] = [
    ["along X", result.tiltX],
    ["along Y", result.tiltY],
    ["twist", result.twist],
  ];
  const judged = slopes.flatMap(([, slope]) => (slope ? [judgeLevel(slope, USUAL_LEVEL_LIMITS)] : []));
  const ORDER = { act: 3, "cannot-tell": 2, watch: 1, sound: 0 } as const;
  const worst = [...judged].sort((a, b) => ORDER[b.code] - ORDER[a.code])[0];
  const wanted = worst.code === "act" || worst.code === "watch";
  return {
    id: one.id,
    wanted,
    title: `${momentText(one.at)}, ${one.by}${one.note ? `: ${one.note}` : ""}`,
    headline: HEADLINES[worst.code],
    mark: stateOfConformity(worst),
    word: conformityText(worst),
    tilts: [tiltText(result.tiltX, "X", system), tiltText(result.tiltY, "Y", system)],
    feet: wanted ? result.turns.map((f) => footText(f, system)) : worst.code === "cannot-tell" ? [TURN_FIRST] : [],
    said: levelsText(result, system),
    since: before ? movedText(before, one, system) : "",
    drawn: drawnFeet(taken.feet, result.turns).map((f) => ({ ...f, stays: f.stays || !wanted })),
  };
}

type Record = Geometry["levels"][number];

function movedText(before: Record, one: Record, system: UnitSystem): string {
  const parts = (["tiltX", "tiltY", "twist"] as const).flatMap((key) => {
    const [a, b] = [before.result[key], one.result[key]];
    if (!a || !b) return [];
    const { by, u, moved } = levelMoved(a, b);
    const name = { tiltX: "along X", tiltY: "along Y", twist: "in twist" }[key];
    return moved ? [`${name} by ${slopeText({ value: by, u }, system)}`] : [];
  });
  const when = momentText(before.at);
  return parts.length > 0
    ? `Since ${when} it has moved: ${parts.join(", ")}.`
    : `Since ${when} it has not moved by more than chance.`;
}

function drawnFeet(feet: readonly Foot[], turns: Record["result"]["turns"]): readonly FootDrawn[] {
  const span = (of: (f: Foot) => number) => {
    const all = feet.map(of);
    const low = Math.min(...all);
    return { low, size: Math.max(...all) - low || 1 };
  };
  const [x, y] = [span((f) => f.xMm), span((f) => f.yMm)];
  return feet.map((f, i) => ({
    name: f.name,
    left: (100 * (f.xMm - x.low)) / x.size,
    front: (100 * (f.yMm - y.low)) / y.size,
    stays: turns[i].raiseMm <= turns[i].uMm,
    soft: turns[i].soft,
  }));
}

/** A bed of middling size, and what its places are rounded to: as a tape is read, mm. */
const BED = { metric: [1600, 900, 10], inch: [60 * 25.4, 36 * 25.4, 25.4] } as const;

/** Levels as they are usually begun: four feet at the corners, the level laid in the four middles of the sides. */
export function usualLevels(system: UnitSystem) {
  const [x, y, step] = BED[system];
  const round = (mm: number): number => Number((Math.round(mm / step) * step).toFixed(4));
  const at = (along: "X" | "Y", xMm: number, yMm: number) => ({ along, xMm: round(xMm), yMm: round(yMm) });
  return {
    feet: [
      { name: "1", xMm: 0, yMm: 0 },
      { name: "2", xMm: x, yMm: 0 },
      { name: "3", xMm: x, yMm: y },
      { name: "4", xMm: 0, yMm: y },
    ],
    places: [at("X", x / 2, y / 6), at("X", x / 2, (5 * y) / 6), at("Y", x / 6, y / 2), at("Y", (5 * x) / 6, y / 2)],
  };
}
