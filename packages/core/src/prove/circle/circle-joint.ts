import { Matrix, pseudoInverse } from "ml-matrix";
import { chiSquaredExceeded } from "../../quantity";
import { AXIS_KINDS, type CircleFinding, type CircleKind } from "./circle-findings";

/** One plane of a session, taken apart. */
export interface PlaneFound {
  /** Both letters. */
  readonly plane: string;
  readonly axes: readonly [string, string];
  readonly feedMmMin: number;
  readonly findings: readonly CircleFinding[];
}

/** What several planes say of one axis, or of one axis against the others. */
export interface JointFinding {
  readonly kind: CircleKind;
  readonly letter: string;
  /** Of scale and servo: against the mean of the axes. */
  readonly value: number;
  readonly u: number;
  readonly from: readonly { readonly plane: string; readonly value: number; readonly u: number }[];
}

/** Do the planes agree? */
export interface JointTest {
  readonly kind: CircleKind;
  /** Null where it is of all axes together. */
  readonly letter: string | null;
  readonly chiSquared: number;
  readonly dof: number;
  /** How often planes that agree differ so much. */
  readonly p: number;
  readonly agrees: boolean;
}

export interface Joint {
  readonly findings: readonly JointFinding[];
  readonly tests: readonly JointTest[];
}

/** Planes that differ more than this seldom are said to differ. */
const SELDOM = 0.01;

const tested = (
  kind: CircleKind,
  letter: string | null,
  { chiSquared, dof }: { chiSquared: number; dof: number },
): JointTest => {
  const p = chiSquaredExceeded(Math.max(0, chiSquared), dof);
  return { kind, letter, chiSquared, dof, p, agrees: p >= SELDOM };
};

/** Wider by as much as the planes differ more than they should (the Birge ratio). */
const widened = (u: number, { chiSquared, dof, agrees }: JointTest): number =>
  agrees ? u : u * Math.sqrt(Math.max(1, chiSquared / dof));

/** One axis in two planes: the mean, by what each knows. */
function ofAxis(planes: readonly PlaneFound[], kind: CircleKind, letter: string): Joint {
  const from = planes.flatMap((p) => {
    const found = p.findings.find((f) => f.kind === kind && f.letter === letter);
    return found && found.u > 0 ? [{ plane: p.plane, value: found.value, u: found.u }] : [];
  });
  if (from.length < 2) return { findings: [], tests: [] };
  const weight = from.reduce((sum, f) => sum + 1 / f.u ** 2, 0);
  const value = from.reduce((sum, f) => sum + f.value / f.u ** 2, 0) / weight;
  const chiSquared = from.reduce((sum, f) => sum + ((f.value - value) / (f.u / 2)) ** 2, 0);
  const test = tested(kind, letter, { chiSquared, dof: from.length - 1 });
  return { findings: [{ kind, letter, value, u: widened(1 / Math.sqrt(weight), test), from }], tests: [test] };
}

/** Each plane tells a difference of two axes: three planes are one more than three axes need. */
function differences(planes: readonly PlaneFound[], kind: "mismatch" | "servo"): Joint {
  const rows = planes.flatMap((p) => {
    // What a plane cannot tell from another part says nothing to the others.
    const found = p.findings.find((f) => f.kind === kind && f.with.length === 0);
    return found && found.u > 0 ? [{ axes: p.axes, plane: p.plane, value: found.value, u: found.u }] : [];
  });
  const letters = [...new Set(rows.flatMap((r) => r.axes))];
  if (rows.length < 3 || letters.length !== 3) return { findings: [], tests: [] };
  const design = new Matrix(
    rows.map((r) => letters.map((l) => ((l === r.axes[0] ? 1 : l === r.axes[1] ? -1 : 0) * 2) / r.u)),
  );
  const right = Matrix.columnVector(rows.map((r) => (2 * r.value) / r.u));
  // The differences say nothing of the mean: the shortest answer has none.
  const inverse = pseudoInverse(design);
  const values = inverse.mmul(right);
  const covariance = inverse.mmul(inverse.transpose());
  const left = Matrix.sub(right, design.mmul(values));
  const test = tested(kind, null, {
    chiSquared: left.transpose().mmul(left).get(0, 0),
    dof: rows.length - (letters.length - 1),
  });
  return {
    tests: [test],
    findings: letters.map((letter, i) => ({
      kind,
      letter,
      value: values.get(i, 0),
      u: widened(2 * Math.sqrt(Math.max(0, covariance.get(i, i))), test),
      from: rows.flatMap((r) => (r.axes.includes(letter) ? [{ plane: r.plane, value: r.value, u: r.u }] : [])),
    })),
  };
}

/**
 * Joins the planes of a session. What is of one axis must be the same in both planes that show it; scales and servos of
 * three planes must close. Where they do not, it is said, and U grows by as much.
 * @param planes - two or three planes
 * @returns what they say together, and the tests of whether they agree (χ²)
 * @example joinPlanes([]).tests.length // 0
 */
export function joinPlanes(planes: readonly PlaneFound[]): Joint {
  const letters = [...new Set(planes.flatMap((p) => p.axes))];
  const sameFeed = new Set(planes.map((p) => p.feedMmMin)).size === 1;
  const all = [
    ...AXIS_KINDS.flatMap((kind) => letters.map((letter) => ofAxis(planes, kind, letter))),
    differences(planes, "mismatch"),
    // How late a servo is depends on what its control makes of the feed.
    ...(sameFeed ? [differences(planes, "servo")] : []),
  ];
  return { findings: all.flatMap((j) => j.findings), tests: all.flatMap((j) => j.tests) };
}
