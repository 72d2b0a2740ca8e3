import type { CircleTrace } from "./circle-trace";

/** Path before and behind each place where an axis turns round in which every short way counts, mm. */
const NEAR_MM = 10;
/** How much of the path readings may be taken together for: near a turn, and elsewhere of a whole way round. */
const FINE_MM = 0.12;
const COARSE = 600;

/**
 * Readings of one way round as groups of neighbours, each as long as nothing happens within it: short where an axis turns
 * round and what friction holds is gone within a millimetre, long where only waves of a whole turn pass.
 * @param trace - one way round, in the order it was passed
 * @param radiusMm - radius of the circle, mm
 * @returns first reading of each group; the readings’ number ends it
 * @example groupsOf({ direction: 1, angles: Float64Array.of(1, 1.1, 1.2), deviations: new Float64Array(3) }, 100).length // 4
 */
export function groupsOf({ angles }: CircleTrace, radiusMm: number): readonly number[] {
  const count = angles.length;
  const apartMm = (Math.abs(angles[count - 1] - angles[0]) * radiusMm) / Math.max(1, count - 1);
  const fine = Math.max(1, Math.floor(FINE_MM / apartMm));
  const coarse = Math.max(fine, Math.floor(count / COARSE));
  const quarter = Math.PI / 2;
  const near = (i: number): boolean =>
    Math.abs(angles[i] - quarter * Math.round(angles[i] / quarter)) * radiusMm < NEAR_MM;
  const edges = [0];
  for (let i = 1; i < count; i += 1) {
    const began = edges[edges.length - 1];
    if (near(i) !== near(began) || i - began >= (near(i) ? fine : coarse)) edges.push(i);
  }
  return [...edges, count];
}

/**
 * Each group of neighbours as one reading, at its middle.
 * @param traces - as they were read
 * @param radiusMm - radius of the circle, mm
 * @returns far fewer readings of a long session; those of a short one as they are
 * @example gathered([{ direction: 1, angles: Float64Array.of(1, 1.1), deviations: Float64Array.of(0, 2) }], 100)[0].deviations.length // 2
 */
export function gathered(traces: readonly CircleTrace[], radiusMm: number): readonly CircleTrace[] {
  return traces.map((trace) => {
    const edges = groupsOf(trace, radiusMm);
    const mean = (values: Float64Array): Float64Array => {
      const all = new Float64Array(edges.length - 1);
      for (let g = 0; g < all.length; g += 1) {
        for (let i = edges[g]; i < edges[g + 1]; i += 1) all[g] += values[i];
        all[g] /= edges[g + 1] - edges[g];
      }
      return all;
    };
    return { ...trace, angles: mean(trace.angles), deviations: mean(trace.deviations) };
  });
}
