import { normalEquations, solveLinear } from "../../quantity/nnls";
import { expandedUncertainty, rectangular, requireBound, type UncertaintyPart } from "../../quantity";
import type { FitPoint } from "./line-fit";

/** One of the two planes of a crest run: 0° is up on the screw, 90° to the side. */
export interface CrestReadings {
  readonly name: string;
  /** Place along the travel, mm, and what the tip read, mm: plus is the screw coming at the tip. */
  readonly points: readonly FitPoint[];
}

export interface CrestFitOptions {
  readonly leadMm: number;
  /** Display step of the indicator, mm; 0 where it is not known. */
  readonly resolutionMm: number;
}

/** A value with its expanded uncertainty, about 95 %. */
export interface WithU {
  readonly value: number;
  readonly expanded: number;
}

export interface CrestPlaneFit {
  readonly name: string;
  /** Tilt of the screw against the ways, mm per mm. */
  readonly slope: WithU;
  /** Sag or curve that stands still while the screw turns: height of the bow over the places, mm. */
  readonly bow: WithU;
}

export interface CrestFit {
  readonly planes: readonly CrestPlaneFit[];
  /**
   * Half swing that turns with the screw, mm: the same all along (a journal or coupling off centre) or
   * growing to the middle (a bent screw). Null where the places meet the screw at one phase only, or
   * are too few.
   */
  readonly turning: (WithU & { readonly shape: "even" | "bent" }) | null;
  readonly deviationMm: number;
  readonly dof: number;
}

/** Below this share of spread the places see one phase of the screw only. */
const LEAST_PHASES = 0.15;
/** Readings in all from which two shapes of a swing are held against each other. */
const FOR_SHAPES = 13;
type Shape = "even" | "bent" | null;

/**
 * Takes crest readings apart: in each plane a tilt and a bow that stand still, and in both planes
 * together a swing once per turn of the screw, a quarter of a turn apart from plane to plane. A bent
 * screw turns its bend; a sag does not turn.
 * @param planes - one or two planes, at least five places each
 * @param options - lead of the screw and step of the indicator, mm
 * @returns tilt, bow and swing, each with U on Student’s t by the degrees of freedom that are left;
 * coverage at five and at nine places in the coverage bench
 * @throws BoundError with fewer than five places in a plane, or all at one
 * @example crestFit([{ name: "vertical", points: [0, 105, 210, 315, 420].map((x) => ({ x, y: x / 1000 })) }], { leadMm: 10, resolutionMm: 0.001 }).planes[0].slope.value // 0.001
 */
export function crestFit(planes: readonly CrestReadings[], options: CrestFitOptions): CrestFit {
  for (const { points } of planes) {
    requireBound({ "places in a plane": points.length }, points.length >= 5, "at least 5");
  }
  const xs = planes.flatMap((p) => p.points.map((q) => q.x));
  const [low, high] = [Math.min(...xs), Math.max(...xs)];
  requireBound({ "spread of the places": high - low }, high > low, "above 0");
  const frame = { low, span: high - low, leadMm: options.leadMm };
  const separable = phasesSeen(xs, options.leadMm);
  // Choosing between shapes uses up what few places have left over.
  const choice: Shape[] = xs.length >= FOR_SHAPES ? ["even", "bent"] : ["even"];
  const shapes = separable ? choice : [null];
  const tries = shapes.flatMap((shape) => {
    const solved = solve(planes, { frame, shape });
    return solved ? [solved] : [];
  });
  // Too few readings for a swing besides: tilt and bow alone, then the tilt alone.
  if (tries.length === 0) {
    const plain = solve(planes, { frame, shape: null }) ?? solve(planes, { frame, shape: null, bows: false });
    requireBound({ "spread of the places": 0 }, plain !== null, "enough for a line");
    return fitOf(planes, { frame, solved: plain as Solved, options });
  }
  const best = tries.reduce((a, b) => (b.squares < a.squares ? b : a));
  return fitOf(planes, { frame, solved: best, options });
}

interface Frame {
  readonly low: number;
  readonly span: number;
  readonly leadMm: number;
}

interface Solved {
  readonly shape: Shape;
  readonly bows: boolean;
  readonly x: readonly number[];
  readonly inverse: readonly (readonly number[])[];
  readonly squares: number;
  readonly dof: number;
}

/** Do the places meet the screw at phases that tell a swing from a height? */
function phasesSeen(xs: readonly number[], leadMm: number): boolean {
  const turns = xs.map((x) => (2 * Math.PI * x) / leadMm);
  const mean = (f: (t: number) => number): number => turns.reduce((s, t) => s + f(t), 0) / turns.length;
  const spread = (f: (t: number) => number): number => mean((t) => f(t) ** 2) - mean(f) ** 2;
  return Math.min(spread(Math.cos), spread(Math.sin)) >= LEAST_PHASES;
}

/** One reading’s row: tilt and bow of its own plane, the swing that both share. */
function rowOf(
  plane: number,
  {
    count,
    x,
    frame: { low, span, leadMm },
    shape,
    bows,
  }: {
    readonly count: number;
    readonly x: number;
    readonly frame: Frame;
    readonly shape: Shape;
    readonly bows: boolean;
  },
): number[] {
  const at = (2 * (x - low)) / span - 1;
  const own = bows ? [1, at, at * at - 1 / 3] : [1, at];
  const row = Array.from({ length: count }, (_, k) => (k === plane ? own : own.map(() => 0))).flat();
  if (shape === null) return row;
  const turn = (2 * Math.PI * x) / leadMm - (plane * Math.PI) / 2;
  const grows = shape === "bent" ? Math.cos((Math.PI * at) / 2) : 1;
  return [...row, grows * Math.cos(turn), grows * Math.sin(turn)];
}

function solve(
  planes: readonly CrestReadings[],
  { frame, shape, bows = true }: { readonly frame: Frame; readonly shape: Shape; readonly bows?: boolean },
): Solved | null {
  const rows: number[][] = [];
  const values: number[] = [];
  planes.forEach(({ points }, plane) => {
    for (const { x, y } of points) {
      rows.push(rowOf(plane, { count: planes.length, x, frame, shape, bows }));
      values.push(y);
    }
  });
  const dof = values.length - rows[0].length;
  if (dof < 1) return null;
  const { matrix, right } = normalEquations(
    rows,
    values,
    values.map(() => 1),
  );
  const x = solveLinear(matrix, right);
  if (!x) return null;
  const inverse = matrix.map((_, c) =>
    solveLinear(
      matrix,
      matrix.map((__, i) => (i === c ? 1 : 0)),
    ),
  );
  if (inverse.some((column) => column === null)) return null;
  const squares = rows.reduce((s, row, i) => s + (values[i] - row.reduce((t, r, k) => t + r * x[k], 0)) ** 2, 0);
  return { shape, bows, x, inverse: inverse as number[][], squares, dof };
}

function fitOf(
  planes: readonly CrestReadings[],
  { frame, solved, options }: { readonly frame: Frame; readonly solved: Solved; readonly options: CrestFitOptions },
): CrestFit {
  const { x, inverse, squares, dof, shape, bows } = solved;
  const s = Math.sqrt(squares / dof);
  const step = rectangular(options.resolutionMm);
  const expandedOf = (i: number): number => {
    const lever = Math.sqrt(Math.max(0, inverse[i][i]));
    const parts: UncertaintyPart[] = [
      { u: s * lever, dof },
      { u: step * lever, dof: Infinity },
    ];
    return expandedUncertainty(parts).expanded;
  };
  const each = bows ? 3 : 2;
  const perMm = 2 / frame.span;
  const swing = planes.length * each;
  return {
    planes: planes.map(({ name }, k) => ({
      name,
      slope: {
        value: x[k * each + 1] * perMm,
        expanded: expandedOf(k * each + 1) * perMm,
      },
      bow: bows
        ? // From the chord through both ends to the middle.
          { value: -x[k * each + 2], expanded: expandedOf(k * each + 2) }
        : { value: 0, expanded: Infinity },
    })),
    turning:
      shape === null
        ? null
        : {
            shape,
            value: Math.hypot(x[swing], x[swing + 1]),
            expanded: Math.max(expandedOf(swing), expandedOf(swing + 1)),
          },
    deviationMm: s,
    dof,
  };
}
