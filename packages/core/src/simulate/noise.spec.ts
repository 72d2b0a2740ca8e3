import { normalNoise } from "./noise";

const COUNT = 1200;
const SEQUENCES = 200;
const sequence = (seed: number): number[] => Array.from({ length: COUNT }, (_, i) => normalNoise(seed, i));

describe("noise of the stand-ins", () => {
  // Power of white noise at any wave, of so many sequences: χ² with two degrees of freedom each, its mean 1 ± 1/√N.
  it("is white: the slow waves of a pass are no stronger than chance makes them", () => {
    const power = Array.from({ length: 8 }, () => 0);
    for (let seed = 1; seed <= SEQUENCES; seed += 1) {
      const values = sequence(seed);
      power.forEach((_, k) => {
        let [c, s] = [0, 0];
        values.forEach((v, i) => {
          const turn = (2 * Math.PI * (k + 1) * i) / COUNT;
          c += v * Math.cos(turn);
          s += v * Math.sin(turn);
        });
        power[k] += (c * c + s * s) / COUNT / SEQUENCES;
      });
    }
    for (const one of power) expect(Math.abs(one - 1)).toBeLessThan(4 / Math.sqrt(SEQUENCES));
  });

  it("neighbouring sequences, and numbers after each other, know nothing of one another", () => {
    let [neighbours, next, squares] = [0, 0, 0];
    for (let seed = 1; seed <= SEQUENCES; seed += 1) {
      const [a, b] = [sequence(2 * seed), sequence(2 * seed + 1)];
      a.forEach((v, i) => {
        neighbours += v * b[i];
        squares += v * v;
        if (i > 0) next += v * a[i - 1];
      });
    }
    const all = SEQUENCES * COUNT;
    // A correlation of nothing scatters by 1/√N.
    expect(Math.abs(neighbours / all)).toBeLessThan(4 / Math.sqrt(all));
    expect(Math.abs(next / all)).toBeLessThan(4 / Math.sqrt(all));
    expect(squares / all).toBeCloseTo(1, 1);
  });
});
