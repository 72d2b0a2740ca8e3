/** What was learned from recordings of virtual axes: see `bench/learn-sound.ts`. */
export interface SoundLearned {
  /** Where the numbers come from, and when. */
  readonly provenance: string;
  /** Names of the numbers of a recording, the middle and the spread of each. */
  readonly numbers: readonly (readonly [name: string, mean: number, spread: number])[];
  /** For each kind, and for nothing wrong: a constant, then a weight for each number. */
  readonly weights: Readonly<Record<string, readonly number[]>>;
  /** What the logarithm of a chance is worth on recordings that were not learned from (temperature scaling). */
  readonly temper: number;
}
