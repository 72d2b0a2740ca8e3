import { Matrix, pseudoInverse } from "ml-matrix";
import { rectangular, requireBound } from "../../quantity";

/** A foot of a machine, seen from above, mm. */
export interface Foot {
  readonly name: string;
  readonly xMm: number;
  readonly yMm: number;
}

/** A spirit level laid somewhere along X or Y. */
export interface LevelReading {
  readonly along: "X" | "Y";
  readonly xMm: number;
  readonly yMm: number;
  /** What it shows, mm for a metre; positive: the plus end is high. */
  readonly mmPerM: number;
  /** The same with the level turned end for end, signed as the machine stands; null where it was not turned. */
  readonly turnedMmPerM: number | null;
}

export interface LevelsTaken {
  readonly feet: readonly Foot[];
  readonly readings: readonly LevelReading[];
  /** What a division of the vial is, mm for a metre. */
  readonly divisionMmPerM: number;
  /** Name of a foot that hangs or turns freely; null where all carry. */
  readonly soft: string | null;
  /** Travel of a levelling screw for a turn, mm; null where it is not known. */
  readonly pitchMm: number | null;
}

/** A slope with U, mm for a metre. */
export interface Slope {
  readonly value: number;
  readonly u: number;
}

/** What a foot wants. */
export interface FootTurn {
  readonly name: string;
  /** Up, mm; nothing at the foot that stays. */
  readonly raiseMm: number;
  readonly uMm: number;
  readonly turns: number | null;
  readonly soft: boolean;
}

export interface Levels {
  /** In the middle of the feet. */
  readonly tiltX: Slope;
  readonly tiltY: Slope;
  /** How much more it leans along X for each metre along Y; null where the readings cannot tell. */
  readonly twist: Slope | null;
  /** How much its slope changes from one end to the other: what no foot at a corner mends. Null where not told. */
  readonly bow: { readonly X: Slope | null; readonly Y: Slope | null };
  /** Zero error of the level, where it was turned. */
  readonly ownZero: number | null;
  readonly turns: readonly FootTurn[];
}

/** A level that nobody turned may be out by about a division (common practice, no source), standard uncertainty in divisions. */
const UNTURNED_DIVISIONS = 0.6;
/** A vial is read to about a fifth of a division (common practice, no source). */
const READ_DIVISIONS = 0.2;

const COLUMNS = ["tiltX", "tiltY", "twist", "bowX", "bowY"] as const;
type Column = (typeof COLUMNS)[number];

type Place = Pick<Foot, "xMm" | "yMm">;

/** What the readings tell, and the middle of the machine: there its tilt is meant. */
interface Told {
  readonly columns: readonly Column[];
  readonly centre: Place;
}

function centreOf(feet: readonly Foot[]): Place {
  const middle = (of: (f: Foot) => number): number => feet.reduce((sum, f) => sum + of(f), 0) / feet.length;
  return { xMm: middle((f) => f.xMm), yMm: middle((f) => f.yMm) };
}

/** How a reading depends on each: metres from the middle. */
function rowOf({ along, xMm, yMm }: LevelReading, { columns, centre }: Told): number[] {
  const [x, y] = [(xMm - centre.xMm) / 1000, (yMm - centre.yMm) / 1000];
  const own: Record<Column, number> =
    along === "X"
      ? { tiltX: 1, tiltY: 0, twist: y, bowX: x, bowY: 0 }
      : { tiltX: 0, tiltY: 1, twist: x, bowX: 0, bowY: y };
  return columns.map((c) => own[c]);
}

/** Which of them the readings can tell: each column is kept that is not made of those before it. */
function tellable(readings: readonly LevelReading[], centre: Place): readonly Column[] {
  const kept: Column[] = [];
  for (const column of COLUMNS) {
    const tried = [...kept, column];
    const matrix = new Matrix(readings.map((r) => rowOf(r, { columns: tried, centre })));
    if (rank(matrix) === tried.length) kept.push(column);
  }
  return kept;
}

function rank(matrix: Matrix): number {
  const square = matrix.transpose().mmul(matrix);
  // Small enough to be worked out by pivoting; readings stand in metres.
  const rows = square.to2DArray();
  let found = 0;
  for (let c = 0; c < rows.length; c += 1) {
    const pivot = rows
      .slice(found)
      .reduce((best, r, i) => (Math.abs(r[c]) > Math.abs(rows[best][c]) ? found + i : best), found);
    if (Math.abs(rows[pivot][c]) < 1e-6) continue;
    [rows[found], rows[pivot]] = [rows[pivot], rows[found]];
    for (let r = found + 1; r < rows.length; r += 1) {
      const f = rows[r][c] / rows[found][c];
      for (let k = c; k < rows.length; k += 1) rows[r][k] -= f * rows[found][k];
    }
    found += 1;
  }
  return found;
}

/** Readings with the level’s own error taken out where it was turned, and their standard uncertainty. */
function prepared({ readings, divisionMmPerM }: LevelsTaken): {
  readonly mm: readonly number[];
  readonly u: readonly number[];
} {
  const read = READ_DIVISIONS * divisionMmPerM;
  return {
    mm: readings.map((r) => (r.turnedMmPerM === null ? r.mmPerM : (r.mmPerM + r.turnedMmPerM) / 2)),
    u: readings.map((r) =>
      r.turnedMmPerM === null ? read : Math.hypot(read, rectangular(divisionMmPerM / 5)) / Math.SQRT2,
    ),
  };
}

function checkTaken({ feet, readings, divisionMmPerM, pitchMm }: LevelsTaken): void {
  requireBound({ "number of feet": feet.length }, feet.length >= 3 && feet.length <= 24, "from 3 to 24");
  requireBound({ "number of readings": readings.length }, readings.length >= 2, "at least 2: one along each direction");
  requireBound(
    { "division of the level": divisionMmPerM },
    divisionMmPerM > 0 && divisionMmPerM <= 1,
    "above 0 and up to 1 mm/m",
  );
  if (pitchMm !== null)
    requireBound({ "pitch of a foot": pitchMm }, pitchMm > 0 && pitchMm <= 10, "above 0 and up to 10 mm");
  for (const along of ["X", "Y"] as const) {
    const count = readings.filter((r) => r.along === along).length;
    requireBound({ [`readings along ${along}`]: count }, count >= 1, "at least 1");
  }
}

/**
 * How a machine stands by a spirit level laid in several places, and which foot is to be turned by how much. Tilt is
 * mended as of a rigid body; twist as of a bed that lies on its feet; a bow along it is mended by no foot at a corner.
 * The highest wanted foot stays and the others come up, so that none is let down under load. A soft foot carries nothing:
 * then nothing is said of twist, and it is brought up last until it carries (common practice, no source).
 * @param taken - feet, readings, level
 * @returns slopes with U, and what each foot wants
 * @throws BoundError where feet or readings are too few
 * @example
 * const feet = [[0, 0], [1000, 0], [1000, 600], [0, 600]].map(([xMm, yMm], i) => ({ name: `${i + 1}`, xMm, yMm }));
 * const read = (along) => ({ along, xMm: 500, yMm: 300, mmPerM: along === "X" ? 0.1 : 0, turnedMmPerM: along === "X" ? 0.1 : 0 });
 * const taken = { feet, readings: [read("X"), read("Y")], divisionMmPerM: 0.02, soft: null, pitchMm: 1.5 };
 * readLevels(taken).turns[0].raiseMm // 0.1
 */
export function readLevels(taken: LevelsTaken): Levels {
  checkTaken(taken);
  const { feet, readings, soft, pitchMm } = taken;
  const { mm, u } = prepared(taken);
  const centre = centreOf(feet);
  const columns = tellable(readings, centre);
  const design = new Matrix(readings.map((r, i) => rowOf(r, { columns, centre }).map((v) => v / u[i])));
  const inverse = pseudoInverse(design);
  const values = inverse.mmul(Matrix.columnVector(mm.map((v, i) => v / u[i])));
  const left = Matrix.sub(Matrix.columnVector(mm.map((v, i) => v / u[i])), design.mmul(values));
  const dof = readings.length - columns.length;
  const chi = dof > 0 ? left.transpose().mmul(left).get(0, 0) / dof : 0;
  // Readings that do not fit a bed so bent widen what is said of it, by as much as they differ (the Birge ratio).
  const wide = Math.sqrt(Math.max(1, chi));
  // A level that nobody turned is out by the same in all its places.
  const common = inverse.mmul(
    Matrix.columnVector(
      readings.map((r, i) => (r.turnedMmPerM === null ? (UNTURNED_DIVISIONS * taken.divisionMmPerM) / u[i] : 0)),
    ),
  );
  const covariance = Matrix.add(inverse.mmul(inverse.transpose()).mul(wide * wide), common.mmul(common.transpose()));
  const slope = (column: Column): Slope | null => {
    const i = columns.indexOf(column);
    return i < 0 ? null : { value: values.get(i, 0), u: 2 * Math.sqrt(Math.max(0, covariance.get(i, i))) };
  };
  const twist = soft === null ? slope("twist") : null;
  const heights = feet.map(({ xMm, yMm }) => {
    // Height of the bed at a foot, by what feet can mend.
    const place = { xMm: xMm - centre.xMm, yMm: yMm - centre.yMm };
    const row = columns.map((c) => heightOf(c, place, soft === null));
    return { height: row.reduce((sum, h, i) => sum + h * values.get(i, 0), 0), row };
  });
  const top = heights.reduce((best, h) => (h.height > best.height ? h : best));
  const turns = feet.map(({ name }, i): FootTurn => {
    const row = new Matrix([heights[i].row.map((h, c) => h - top.row[c])]);
    const raiseMm = top.height - heights[i].height;
    const uMm = 2 * Math.sqrt(Math.max(0, row.mmul(covariance).mmul(row.transpose()).get(0, 0)));
    return { name, raiseMm, uMm, turns: pitchMm === null ? null : raiseMm / pitchMm, soft: name === soft };
  });
  const turned = readings.filter((r) => r.turnedMmPerM !== null);
  return {
    tiltX: slope("tiltX") as Slope,
    tiltY: slope("tiltY") as Slope,
    twist,
    bow: { X: slope("bowX"), Y: slope("bowY") },
    ownZero:
      turned.length > 0
        ? turned.reduce((sum, r) => sum + (r.mmPerM - (r.turnedMmPerM as number)) / 2, 0) / turned.length
        : null,
    turns,
  };
}

/** What a unit of each does to the height of the bed at a place from the middle, mm. */
function heightOf(column: Column, { xMm, yMm }: Place, twistToo: boolean): number {
  const [x, y] = [xMm / 1000, yMm / 1000];
  switch (column) {
    case "tiltX":
      return x;
    case "tiltY":
      return y;
    case "twist":
      return twistToo ? x * y : 0;
    case "bowX":
    case "bowY":
      return 0;
  }
}
