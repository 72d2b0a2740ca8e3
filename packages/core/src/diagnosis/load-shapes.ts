/** A stretch of extra friction along the travel: where it lies, as parts of the span from 0 to 1. */
export interface LoadShape {
  readonly kind: "low" | "high" | "broad" | "spot";
  readonly from: number;
  readonly to: number;
  /** Height along the travel, 0 to 1. */
  readonly at: (part: number) => number;
}

export interface ShapeSample {
  readonly part: number;
  readonly sign: 1 | -1;
  readonly turn: number;
  readonly load: number;
}

const END_PARTS = [0.15, 0.2, 0.25, 0.3, 1 / 3, 0.4, 0.5];
/** Half widths of a broad stretch; what is narrower is a spot and found by itself. */
const BROAD = [0.08, 0.11, 0.15, 0.2, 0.26];
const NARROW = [0.02, 0.04];

function candidates(): readonly LoadShape[] {
  const list: LoadShape[] = [];
  for (const end of END_PARTS) {
    list.push({
      kind: "low",
      from: 0,
      to: end,
      at: (p) => Math.max(0, (end - p) / end),
    });
    list.push({
      kind: "high",
      from: 1 - end,
      to: 1,
      at: (p) => Math.max(0, (p - 1 + end) / end),
    });
  }
  for (let centre = 0.05; centre < 0.96; centre += 0.025)
    for (const half of [...BROAD, ...NARROW]) {
      const broad = half >= BROAD[0];
      // What reaches an end is an end rise; a broad stretch lies inside.
      if (broad && (centre - half < 0.03 || centre + half > 0.97)) continue;
      const kind = broad ? "broad" : "spot";
      const place = { kind, from: centre - half, to: centre + half } as const;
      list.push({ ...place, at: (p) => round((p - centre) / half) });
      if (broad) list.push({ ...place, at: (p) => plateau((p - centre) / half) });
    }
  return list;
}

/** A hump that rises and falls evenly. */
function round(x: number): number {
  return Math.abs(x) < 1 ? (1 + Math.cos(Math.PI * x)) / 2 : 0;
}

/** A stretch that is tight all along, with short flanks. */
function plateau(x: number): number {
  const edge = (1 - Math.abs(x)) / 0.2;
  return Math.max(0, Math.min(1, edge));
}

const ALL = candidates();
const MOST_SHAPES = 5;
/** How much the criterion must fall before another shape is believed (10 is “very strong”, Kass & Raftery 1995). */
const BELIEVED = 10;

interface Fit {
  readonly shapes: readonly LoadShape[];
  readonly criterion: number;
}

/**
 * Rows of the parts that are always there: friction, gravity, a ripple once per turn.
 * @param s - a sample: place as part of the travel, direction, phase of the screw's turn
 * @param ripple - the ripple once per turn is fitted too
 * @returns a row of the least-squares system
 * @example baseRow({ part: 0.5, sign: 1, turn: 0, load: 10 }, false) // [ 1, 1 ]
 */
export function baseRow(s: ShapeSample, ripple: boolean): number[] {
  const base = [s.sign, 1];
  return ripple ? [...base, s.sign * Math.sin(s.turn), s.sign * Math.cos(s.turn)] : base;
}

/**
 * Which shapes of unknown place and width account for a trace: one after the other is added while the
 * Bayesian information criterion falls clearly, least squares throughout.
 * @param samples - load along the travel, both ways
 * @param options - `ripple`: fit one per turn; `forbidden`: kinds that may not be used, to see what the next best
 *   account is; `scatterFloor`: least scatter taken, in load
 * @returns the shapes, and the criterion they reach
 * @example
 * const level = Array.from({ length: 80 }, (_, i) => ({ part: (i % 40) / 39, sign: i < 40 ? 1 : -1, turn: 0, load: i < 40 ? 10 : -10 }));
 * findShapes(level, { ripple: false, scatterFloor: 0.1 }).shapes // []
 */
export function findShapes(
  samples: readonly ShapeSample[],
  options: {
    readonly ripple: boolean;
    readonly forbidden?: readonly LoadShape["kind"][];
    readonly scatterFloor: number;
  },
): Fit {
  const { ripple, forbidden = [], scatterFloor } = options;
  const n = samples.length;
  const base = samples.map((s) => baseRow(s, ripple));
  const left = columnOf(samples, (s) => s.load);
  const columns = ALL.filter((c) => !forbidden.includes(c.kind)).map((shape) => {
    const own = shapeColumn(samples, shape);
    return { shape, own, size: dot(own, own) };
  });
  // Everything is kept at right angles to what is in the account already (Gram–Schmidt), so that a
  // column’s gain is read off without fitting anew.
  const take = (direction: Float64Array): Float64Array | null => {
    const length = Math.sqrt(dot(direction, direction));
    if (length < 1e-9) return null;
    const unit = direction.map((v) => v / length);
    takeAway(left, unit);
    for (const c of columns) takeAway(c.own, unit);
    return unit;
  };
  const taken: Float64Array[] = [];
  for (let k = 0; k < base[0].length; k += 1) {
    const column = columnOf(base, (row) => row[k]);
    for (const unit of taken) takeAway(column, unit);
    const unit = take(column);
    if (unit) taken.push(unit);
  }
  const shapes: LoadShape[] = [];
  const criterionOf = (squares: number, more: number): number =>
    n * Math.log(Math.max(squares / n, scatterFloor ** 2)) +
    // A place and a width go with each height.
    Math.log(n) * (base[0].length + 3 * more);
  let criterion = criterionOf(dot(left, left), 0);
  while (shapes.length < MOST_SHAPES) {
    const squares = dot(left, left);
    let best = -1;
    let most = 0;
    columns.forEach((c, i) => {
      const gain = gainOf(c.own, c.size, left);
      if (gain > most) [best, most] = [i, gain];
    });
    if (best < 0) break;
    const after = criterionOf(squares - most, shapes.length + 1);
    if (criterion - after < BELIEVED) break;
    shapes.push(columns[best].shape);
    take(columns[best].own.slice());
    criterion = after;
  }
  return { shapes, criterion };
}

/** The height of a shape at each sample, signed as friction is; nothing outside its stretch. */
function shapeColumn(samples: readonly ShapeSample[], { from, to, at }: LoadShape): Float64Array {
  const column = new Float64Array(samples.length);
  for (let i = 0; i < samples.length; i += 1) {
    const { part, sign } = samples[i];
    if (part >= from && part <= to) column[i] = sign * at(part);
  }
  return column;
}

/** A plain loop: hundreds of columns are made for each trace, and Float64Array.from walks an iterator. */
function columnOf<T>(rows: readonly T[], value: (row: T) => number): Float64Array {
  const column = new Float64Array(rows.length);
  for (let i = 0; i < rows.length; i += 1) column[i] = value(rows[i]);
  return column;
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i] * b[i];
  return sum;
}

/** Takes away from a column what lies along a unit column, in place. */
function takeAway(column: Float64Array, unit: Float64Array): void {
  const along = dot(column, unit);
  if (along === 0) return;
  for (let i = 0; i < column.length; i += 1) column[i] -= along * unit[i];
}

/**
 * How much the squares fall when a column is added. Extra friction only: a stretch that is easier than
 * the rest is no tight place.
 */
function gainOf(own: Float64Array, size: number, left: Float64Array): number {
  const rest = dot(own, own);
  if (rest < 1e-3 * size || rest === 0) return 0;
  const along = dot(own, left);
  return along > 0 ? (along * along) / rest : 0;
}
