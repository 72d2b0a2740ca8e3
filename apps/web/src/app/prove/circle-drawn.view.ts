import { CIRCLE_PARTS, CircleModel, fromMm, type CirclePart, type UnitSystem } from "@iron/core";
import type { CircleDrawn, CirclePlane } from "@iron/contract";

export interface DrawnTrace {
  readonly direction: 1 | -1;
  /** Degrees from 0 to 360, and deviation in the reader’s small unit; a null breaks the line. */
  readonly points: readonly { readonly x: number; readonly y: number | null }[];
}

/** More than this between two readings is a hole, degrees: a line over it would be invented. */
const HOLE_DEG = 3;

/** Readings by angle, the centre and what is switched off taken out. */
export function drawnTraces(
  drawn: CircleDrawn,
  plane: CirclePlane,
  { off, system }: { readonly off: readonly CirclePart[]; readonly system: UnitSystem },
): readonly DrawnTrace[] {
  const { analysis } = plane;
  const unit = system === "metric" ? "um" : "tenth";
  const letters = plane.plan.letters;
  const setup = {
    radiusMm: plane.plan.radiusMm,
    feedMmMin: plane.plan.feedMmMin,
    centreMm: plane.plan.centreMm as readonly [number, number],
    axes: [
      { letter: letters[0], perTurnMm: plane.perTurnMm[0] },
      { letter: letters[1], perTurnMm: plane.perTurnMm[1] },
    ] as const,
  };
  const told = analysis?.parts.map((p) => p.id) ?? [];
  const model = analysis
    ? new CircleModel(
        setup,
        analysis.shape,
        CIRCLE_PARTS.filter((p) => !told.includes(p)),
      )
    : null;
  const row = new Float64Array(told.length);
  // The centre and the radius are how the bar was set, not what the machine does.
  const out = analysis?.parts.map((p) =>
    p.id === "radius" || p.id.startsWith("centre") || off.includes(p.id) ? p.fitted : 0,
  );
  return drawn.traces.map(({ direction, angles, deviations }) => {
    const points: { x: number; y: number | null }[] = [];
    const usual = Math.abs((angles.at(-1) ?? 0) - (angles[0] ?? 0)) / Math.max(1, angles.length - 1);
    const hole = Math.max(HOLE_DEG, 2.5 * usual);
    angles.forEach((deg, i) => {
      let mm = deviations[i] / 1000;
      if (model && out) {
        model.fill(row, (deg * Math.PI) / 180, direction);
        for (let k = 0; k < row.length; k += 1) mm -= row[k] * out[k];
      }
      const x = ((deg % 360) + 360) % 360;
      const before = points.at(-1);
      // Where the full turn is passed, and where nothing was read, the line is broken.
      if (before && Math.abs(x - before.x) > hole) points.push({ x: before.x, y: null });
      points.push({ x, y: fromMm(mm, unit) });
    });
    return { direction, points };
  });
}

/** What turns round at each quarter. */
export function quarters(letters: readonly string[]): readonly { readonly deg: number; readonly name: string }[] {
  return [0, 90, 180, 270].map((deg, i) => ({ deg, name: `${letters[i % 2]} turns` }));
}
