import { EigenvalueDecomposition, Matrix, solve } from "ml-matrix";
import { requireBound } from "../../quantity";
import { aroundOf, isFullCircle, turned, type CircleTrace } from "./circle-trace";

/** The quantities of ISO 230-4:2005, mm; null where this trace cannot give them. */
export interface CircleQuantities {
  /** Circular deviation of each direction, least-squares ring. */
  readonly g: readonly { readonly direction: CircleTrace["direction"]; readonly mm: number }[];
  /** Bidirectional circular deviation, least-squares ring of both. */
  readonly gBoth: number | null;
  /** Circular hysteresis, and where: rad. */
  readonly h: { readonly mm: number; readonly at: number } | null;
  /** Radial deviations from the nominal radius, the centre by least squares. */
  readonly f: { readonly most: number; readonly least: number } | null;
  /** Mean bidirectional radial deviation: least-squares radius of both directions less nominal. */
  readonly d: number | null;
}

interface Ring {
  readonly radius: number;
  readonly x: number;
  readonly y: number;
}

/**
 * The least-squares circle through deviations so small against the radius that its centre shows as cos and sin.
 * @param traces - one direction, or both together
 * @returns radius less nominal, and the centre, mm
 * @throws BoundError with fewer than three readings, or all of them at one place
 * @example
 * const angles = Float64Array.of(0, 2, 4);
 * ringOf([{ direction: 1, angles, deviations: Float64Array.of(1, 1, 1) }]).radius // 1
 */
export function ringOf(traces: readonly CircleTrace[]): Ring {
  const count = traces.reduce((n, t) => n + t.angles.length, 0);
  requireBound({ "number of readings": count }, count >= 3, "at least 3");
  const normal = new Float64Array(9);
  const right = new Float64Array(3);
  const row = new Float64Array(3);
  for (const trace of traces) {
    const { cos, sin } = aroundOf(trace);
    for (let i = 0; i < cos.length; i += 1) {
      row[0] = 1;
      row[1] = cos[i];
      row[2] = sin[i];
      const mm = trace.deviations[i];
      for (let a = 0; a < 3; a += 1) {
        right[a] += row[a] * mm;
        for (let b = 0; b < 3; b += 1) normal[3 * a + b] += row[a] * row[b];
      }
    }
  }
  const matrix = Matrix.from1DArray(3, 3, Array.from(normal));
  const least = Math.min(...new EigenvalueDecomposition(matrix).realEigenvalues);
  requireBound({ "spread of the angles": least }, least > 1e-9 * count, "more than one place on the circle");
  const [radius, x, y] = solve(matrix, Matrix.columnVector(Array.from(right))).to1DArray();
  return { radius, x, y };
}

/** Largest less smallest distance from the centre of a ring. */
function zoneOf(traces: readonly CircleTrace[], ring: Ring): number {
  const { most, least } = radialOf(traces, ring);
  return most - least;
}

/** Readings of a trace by angle, for reading between them. */
function byAngle(trace: CircleTrace): { readonly at: Float64Array; readonly mm: Float64Array } {
  const { at, order } = aroundOf(trace);
  return { at, mm: Float64Array.from(order, (i) => trace.deviations[i]) };
}

/** Between two readings no further apart than this, rad, it is read off the straight line. */
const BETWEEN = (3 / 180) * Math.PI;

/**
 * Circular hysteresis: the largest difference of the two actual paths at one angle, each as it was measured: what both
 * share, the centre among it, falls out.
 * @param forth - one direction
 * @param back - the other
 * @returns mm, and at which angle, rad; null where they have no angle in common
 * @example
 * const at = (mm) => ({ angles: Float64Array.of(0, 0.01), deviations: Float64Array.of(mm, mm) });
 * hysteresisOf({ direction: 1, ...at(0.003) }, { direction: -1, ...at(0) })?.mm // 0.003
 */
export function hysteresisOf(
  forth: CircleTrace,
  back: CircleTrace,
): { readonly mm: number; readonly at: number } | null {
  const [a, b] = [byAngle(forth), byAngle(back)];
  let most: { mm: number; at: number } | null = null;
  let k = 0;
  for (let i = 0; i < a.at.length; i += 1) {
    while (k < b.at.length && b.at[k] < a.at[i]) k += 1;
    // At the seam of the turn the neighbours lie across it.
    const [low, high] = [(k - 1 + b.at.length) % b.at.length, k % b.at.length];
    const wide = turned(b.at[high] - b.at[low]);
    if (wide > BETWEEN) continue;
    const part = wide > 0 ? turned(a.at[i] - b.at[low]) / wide : 0;
    const mm = Math.abs(a.mm[i] - (b.mm[low] + part * (b.mm[high] - b.mm[low])));
    if (most === null || mm > most.mm) most = { mm, at: a.at[i] };
  }
  return most;
}

/**
 * What ISO 230-4:2005 (from memory) names of a circular test. Rings are least-squares rings; without a bar that is soaked
 * and calibrated nothing is said of the radius itself.
 * @param traces - one or both directions
 * @param options - `calibrated`: the length of the bar is known at the temperature it had
 * @returns the quantities
 * @example
 * const angles = Float64Array.from({ length: 360 }, (_, i) => (i * Math.PI) / 180);
 * circleQuantities([{ direction: 1, angles, deviations: angles.map(() => 0.001) }], { calibrated: true }).g[0].mm // 0
 */
export function circleQuantities(
  traces: readonly CircleTrace[],
  { calibrated }: { readonly calibrated: boolean },
): CircleQuantities {
  const g = traces.map((t) => ({ direction: t.direction, mm: zoneOf([t], ringOf([t])) }));
  const forth = traces.find((t) => t.direction === 1);
  const back = traces.find((t) => t.direction === -1);
  const both = forth && back ? [forth, back] : null;
  const full = traces.length > 0 && traces.every(isFullCircle);
  const ring = full ? ringOf(both ?? traces) : null;
  return {
    g,
    gBoth: both && zoneOf(both, ringOf(both)),
    h: forth && back ? hysteresisOf(forth, back) : null,
    f: ring && calibrated ? radialOf(traces, ring) : null,
    d: ring && both && calibrated ? ring.radius : null,
  };
}

function radialOf(traces: readonly CircleTrace[], { x, y }: Ring): { readonly most: number; readonly least: number } {
  let most = -Infinity;
  let least = Infinity;
  for (const trace of traces) {
    const { cos, sin } = aroundOf(trace);
    for (let i = 0; i < cos.length; i += 1) {
      const r = trace.deviations[i] - x * cos[i] - y * sin[i];
      if (r > most) most = r;
      if (r < least) least = r;
    }
  }
  return { most, least };
}
