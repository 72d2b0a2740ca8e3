/**
 * Monte-Carlo cases: how often a ± holds the truth, how often a sentence speaks without cause, and
 * whether it speaks when it should. Data are drawn with a known truth by formulae of their own, never
 * by an analysis’ own.
 */
export type RateKind = "coverage" | "false alarm" | "power";

export interface RateCase {
  readonly id: string;
  readonly kind: RateKind;
  /** What stands on a screen. */
  readonly what: string;
  /** Sample size and circumstances, in words. */
  readonly with: string;
  /** Why coverage may be above 98 %: what dominates. */
  readonly dominated?: string;
  /** Trials of the full form. */
  readonly trials: number;
  /** Trials of the quick form, where one is dear; else {@link QUICK_TRIALS}. */
  readonly quick?: number;
  /** One trial: true when U held the truth, or the sentence spoke. */
  readonly draw: (chance: Chance) => boolean;
}

/** Draws with a seed of its own: the same case gives the same figure on every machine. */
export interface Chance {
  readonly uniform: () => number;
  readonly normal: () => number;
  /** From `from` to `to`. */
  readonly between: (from: number, to: number) => number;
}

/**
 * Chance from a fixed seed: the same seed draws the same numbers.
 * @param seed - any whole number
 * @returns uniform and standard normal draws
 * @example chanceOf(7).uniform() === chanceOf(7).uniform() // true
 */
export function chanceOf(seed: number): Chance {
  let state = seed >>> 0;
  // Mulberry32: small, fast and good enough for counting.
  const uniform = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  let spare: number | null = null;
  const normal = (): number => {
    if (spare !== null) {
      const kept = spare;
      spare = null;
      return kept;
    }
    const radius = Math.sqrt(-2 * Math.log(1 - uniform()));
    const angle = 2 * Math.PI * uniform();
    spare = radius * Math.sin(angle);
    return radius * Math.cos(angle);
  };
  return { uniform, normal, between: (a, b) => a + (b - a) * uniform() };
}

/**
 * What a rate must lie between.
 * @param one - the case
 * @returns least and greatest rate that are taken
 * @example boundsOf({ kind: "coverage" }) // [ 0.93, 0.98 ]
 */
export function boundsOf(one: RateCase): readonly [number, number] {
  switch (one.kind) {
    case "coverage":
      return [0.93, one.dominated ? 1 : 0.98];
    case "false alarm":
      return [0, 0.05];
    case "power":
      return [0.9, 1];
  }
}

export interface RateFigure {
  readonly case: RateCase;
  readonly rate: number;
  readonly trials: number;
  readonly within: boolean;
}

function seedOf(id: string): number {
  let hash = 2_166_136_261;
  for (const letter of id)
    hash = Math.imul(hash ^ letter.charCodeAt(0), 16_777_619);
  return hash >>> 0;
}

const QUICK_TRIALS = 200;

/**
 * Counts a case.
 * @param one - the case, with what is drawn
 * @param form - the quick form runs fewer trials, and its bounds are widened by three standard deviations of the
 *   count
 * @returns the rate, how many trials it rests on, and whether it lies within its bounds
 * @example rateOf({ id: "sure", kind: "power", trials: 100, draw: () => true }, "full").rate // 1
 */
export function rateOf(one: RateCase, form: "full" | "quick"): RateFigure {
  const quick = form === "quick";
  const trials = quick ? (one.quick ?? QUICK_TRIALS) : one.trials;
  const chance = chanceOf(seedOf(one.id));
  let hits = 0;
  for (let i = 0; i < trials; i += 1) if (one.draw(chance)) hits += 1;
  const rate = hits / trials;
  const [low, high] = boundsOf(one);
  const slack = (p: number): number =>
    quick ? 3 * Math.sqrt((p * (1 - p)) / trials) : 0;
  const within =
    rate >= low - slack(low) && rate <= high + slack(Math.min(high, 0.999));
  return { case: one, rate, trials, within };
}
