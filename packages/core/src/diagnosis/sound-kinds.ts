import type { AxisConfig } from "../machine/axis";
import { CAUSES } from "./causes";
import { causeFits } from "./knowledge";
import { SOUND_KIND_ROWS } from "./sound-kinds.table";
import type { SoundLearned } from "./sound-learned";
import { SOUND_LEARNED } from "./sound-learned.table";

export type SoundKind = (typeof SOUND_KIND_ROWS)[number]["id"];

/** Further out than this a number says no more. */
const FURTHEST = 4;

/**
 * Kinds of sound that an axis can make.
 * @param axis - configuration
 * @returns their ids
 * @example soundKindsOn(defaultAxis("vertical-centre", "X")).includes("teeth") // false
 */
export function soundKindsOn(axis: AxisConfig): readonly SoundKind[] {
  return SOUND_KIND_ROWS.filter(({ causes }) =>
    causes.some((id) => CAUSES.some((c) => c.id === id && causeFits(axis, c))),
  ).map((row) => row.id);
}

/**
 * How likely each kind of sound is, were it as likely before that nothing is wrong as that one of them is: multinomial
 * logistic regression learned from recordings of virtual axes.
 * @param axis - configuration
 * @param numbers - of {@link soundNumbers}
 * @param learned - the weights; those that ship unless others are tried
 * @returns chances that add up to one; “sound” is nothing wrong
 * @example Object.keys(soundChances(defaultAxis("vertical-centre", "X"), {})).includes("sound") // true
 */
export function soundChances(
  axis: AxisConfig,
  numbers: Readonly<Record<string, number>>,
  learned: SoundLearned = SOUND_LEARNED,
): Readonly<Record<string, number>> {
  const x = learned.numbers.map(([name, mean, spread]) =>
    Math.min(FURTHEST, Math.max(-FURTHEST, ((numbers[name] ?? mean) - mean) / spread)),
  );
  const score = (kind: string): number => {
    const [constant = 0, ...weights] = learned.weights[kind] ?? [];
    return weights.reduce((sum, w, i) => sum + w * x[i], constant);
  };
  const scores = ["sound", ...soundKindsOn(axis)].map((kind) => [kind, score(kind)] as const);
  const most = Math.max(...scores.map(([, s]) => s));
  // Learned with all as likely: nothing wrong counts as much as all that may be.
  const weighed = scores.map(
    ([kind, s]) => [kind, Math.exp(s - most) * (kind === "sound" ? scores.length - 1 : 1)] as const,
  );
  const total = weighed.reduce((sum, [, w]) => sum + w, 0);
  return Object.fromEntries(weighed.map(([kind, w]) => [kind, w / total]));
}
