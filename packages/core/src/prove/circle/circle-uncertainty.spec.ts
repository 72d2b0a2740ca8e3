import { inverse, Matrix } from "ml-matrix";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { uniformFloat64 } from "pure-rand/distribution/uniformFloat64";
import { CircleModel } from "./circle-model";
import { solveFor } from "./circle-solve";
import { SETUP } from "./circle-virtual.testing";
import { partsCovariance } from "./circle-uncertainty";

const SHAPE = { lossMm: [0, 0], spikeMm: [0, 0], decayMm: [2, 2], lagMm: 0 } as const;
const SIGMA = 0.0004;
const READINGS = 1440;
const ROUNDS = 60;

describe("uncertainty of a circle’s parts", () => {
  // Where samples have nothing in common, what neighbours share is nothing: σ² (XᵀX)⁻¹, by ml-matrix.
  it("is that of plain least squares where the readings only tremble by chance", () => {
    const generator = xoroshiro128plus(20_261_128);
    const uniform = (): number => uniformFloat64(generator);
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
    const model = new CircleModel(SETUP, SHAPE, ["lost-1", "lost-2", "spike-1", "spike-2"]);
    const angles = Float64Array.from({ length: READINGS }, (_, i) => (i * 2 * Math.PI) / READINGS);
    const rows = ([1, -1] as const).flatMap((direction) =>
      Array.from(angles, (angle) => {
        const row = new Float64Array(model.parts.length);
        model.fill(row, angle, direction);
        return Array.from(row);
      }),
    );
    // Columns of one size, so that nothing is lost where mm, rad and s stand beside each other.
    const design = new Matrix(rows);
    const scale = model.parts.map((_, k) => 1 / Math.hypot(...design.getColumn(k)));
    const scaled = design.mulRowVector(scale);
    const plain = inverse(scaled.transpose().mmul(scaled));
    const mean = model.parts.map(() => 0);
    for (let round = 0; round < ROUNDS; round += 1) {
      const traces = ([1, -1] as const).map((direction) => ({
        direction,
        angles,
        deviations: angles.map(() => SIGMA * normal()),
      }));
      const solved = solveFor(traces, model);
      const rest = traces.map(({ deviations, direction }) =>
        deviations.map((mm, i) => {
          const row = new Float64Array(model.parts.length);
          model.fill(row, angles[i], direction);
          return row.reduce((left, x, k) => left - x * solved.values[k], mm);
        }),
      );
      const covariance = partsCovariance(traces, solved, { setup: SETUP, shape: SHAPE, rest });
      model.parts.forEach((_, k) => (mean[k] += covariance.get(k, k) / ROUNDS));
    }
    model.parts.forEach((id, k) => {
      const ratio = mean[k] / (SIGMA * SIGMA * plain.get(k, k) * scale[k] * scale[k]);
      expect([id, ratio > 0.88 && ratio < 1.14]).toEqual([id, true]);
    });
  });
});
