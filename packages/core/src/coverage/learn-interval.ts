import { normalNoise } from "../simulate/noise";
import { learnInterval } from "../lubrication/interval";
import type { FoundState } from "../lubrication/types";

/** How a way of choosing intervals fares on points whose true need nobody knows. */
export interface LearnFigures {
  readonly name: string;
  /** Parts of a point’s visits, mean over the points, from the first visit on. */
  readonly dry: number;
  readonly flooded: number;
  /** The same once settled: in the later half of the years. */
  readonly settledDry: number;
  readonly settledFlooded: number;
  readonly visitsPerYear: number;
  /** Median of interval against true need in the last year, and the part within ±35 % of it. */
  readonly ratio: number;
  readonly near: number;
}

/** Found dry when the interval is this much over the need, flooded when so much under it. */
const DRY_OVER = 1.25;
const FLOODED_UNDER = 0.6;
/** How much what is found scatters from visit to visit. */
const SCATTER = 0.15;

/**
 * What is found at a point of this true need after so many days.
 * @param days - days since it was last lubricated
 * @param needDays - days that the point truly holds
 * @param normal - draws a standard normal number
 * @returns what is found
 * @example foundAfter(30, 90, () => 0) // "flooded"
 */
export function foundAfter(days: number, needDays: number, normal: () => number): FoundState {
  const ratio = (days / needDays) * Math.exp(SCATTER * normal());
  return ratio > DRY_OVER ? "dry" : ratio < FLOODED_UNDER ? "flooded" : "right";
}

/**
 * Points with a hidden true need, lognormal about 90 days, visited over years: by the learning rule,
 * which starts from a quarter, and at fixed monthly, quarterly and half-yearly intervals.
 * @param points - how many
 * @param years - over how long
 * @param seed - the same gives the same
 * @returns visits and dry findings of each way
 * @example simulateLearning(20, 2, 1).length // 4
 */
export function simulateLearning(points: number, years: number, seed: number): readonly LearnFigures[] {
  const draw = source(seed);
  const needs = Array.from({ length: points }, () => 90 * Math.exp(0.7 * draw()));
  const run = (name: string, intervalOf: (found: readonly FoundState[]) => number): LearnFigures => {
    const normal = source(seed + 1);
    const sums = { dry: 0, flooded: 0, settledDry: 0, settledFlooded: 0 };
    let visits = 0;
    const ratios: number[] = [];
    for (const need of needs) {
      const found: FoundState[] = [];
      const late: FoundState[] = [];
      for (let day = 0; day < years * 365;) {
        const every = intervalOf(found);
        day += every;
        const state = foundAfter(every, need, normal);
        found.push(state);
        if (day > (years * 365) / 2) late.push(state);
      }
      const part = (list: readonly FoundState[], what: FoundState): number =>
        list.filter((s) => s === what).length / list.length / points;
      sums.dry += part(found, "dry");
      sums.flooded += part(found, "flooded");
      sums.settledDry += part(late, "dry");
      sums.settledFlooded += part(late, "flooded");
      visits += found.length;
      ratios.push(intervalOf(found) / need);
    }
    ratios.sort((a, b) => a - b);
    return {
      name,
      ...sums,
      visitsPerYear: visits / points / years,
      ratio: ratios[Math.floor(ratios.length / 2)],
      near: ratios.filter((r) => r > 0.65 && r < 1.35).length / ratios.length,
    };
  };
  return [
    run("learning", (found) => 91 * learnInterval(found).factor),
    run("monthly", () => 30),
    run("quarterly", () => 91),
    run("half-yearly", () => 182),
  ];
}

function source(seed: number): () => number {
  let count = 0;
  return () => normalNoise(seed, (count += 1));
}
