import type { AxisConfig } from "../machine/axis";
import type { Evidence, SoundHeard } from "./evidence";
import type { Cause } from "./knowledge";
import { SLIGHT_SHOWS, type Account } from "./reports";
import { soundKindsOn } from "./sound-kinds";
import { SOUND_KIND_ROWS } from "./sound-kinds.table";
import type { SoundLearned } from "./sound-learned";
import { SOUND_LEARNED } from "./sound-learned.table";

/**
 * A recording speaks for a cause by this factor at most, and by as much against another: it was learned from virtual
 * axes, and no microphone has yet heard a real one of each (judgement, no source).
 */
export const MOST_A_SOUND_SAYS = 4;

/** From here on it is said what it is most like. */
const CLEAR = 0.5;

const KIND_OF: ReadonlyMap<string, string> = new Map(
  SOUND_KIND_ROWS.flatMap(({ id, causes }) => causes.map((cause) => [cause, id] as const)),
);

/**
 * The kind of sound that a cause makes.
 * @param cause - id
 * @returns the kind; undefined where it makes none of its own
 * @example soundKindOf("end-bearing-worn") // "end-bearing"
 */
export function soundKindOf(cause: string): string | undefined {
  return KIND_OF.get(cause);
}

/** By how much a recording is likelier with each kind than on average, within {@link MOST_A_SOUND_SAYS} either way. */
function factorsOf(chances: Readonly<Record<string, number>>, { temper }: SoundLearned): ReadonlyMap<string, number> {
  const kinds = Object.keys(chances);
  // Before, nothing wrong counted as much as all kinds together.
  const before = (kind: string): number => (kind === "sound" ? 0.5 : 0.5 / (kinds.length - 1));
  const within = (f: number): number => Math.min(MOST_A_SOUND_SAYS, Math.max(1 / MOST_A_SOUND_SAYS, f));
  return new Map(kinds.map((kind) => [kind, within((chances[kind] / before(kind)) ** temper)]));
}

/**
 * What the recording of an axis says of the causes that may be there. What makes no sound of its own sounds as with
 * nothing wrong; of two that both make one it has the mean; what has only begun is heard as little as it shows.
 * @param evidence - of the case
 * @param causes - that the axis can have
 * @returns the factor for an account; 1 for every one where there is no recording
 * @example
 * soundFactor({ sound: undefined }, CAUSES)({ members: [0], slight: false }) // 1
 */
export function soundFactor(
  { sound }: Pick<Evidence, "sound">,
  causes: readonly Cause[],
): (account: Account) => number {
  if (!sound) return () => 1;
  const factors = factorsOf(sound.chances, SOUND_LEARNED);
  const each = causes.map(({ id }) => factors.get(soundKindOf(id) ?? ""));
  const nothing = factors.get("sound") ?? 1;
  return ({ members, slight }) => {
    const heard = members.flatMap((m) => each[m] ?? []);
    if (heard.length === 0) return nothing;
    const mean = heard.reduce((sum, f) => sum + f, 0) / heard.length;
    return slight ? nothing + SLIGHT_SHOWS * (mean - nothing) : mean;
  };
}

/** One way a recording may come out, with its likelihood under each account. */
export interface SoundOutcome {
  /** A kind of sound; “sound” is nothing wrong. */
  readonly kind: string;
  readonly likelihood: Float64Array;
}

/**
 * What a recording that is not made yet may be told as. It is expected to tell no more than it is let say once it is
 * made: the kind that is there is told so many times as often as another as {@link MOST_A_SOUND_SAYS} allows both ways.
 * @param axis - configuration
 * @param causes - that the axis can have
 * @param accounts - hypotheses
 * @returns kinds, with their likelihoods by account; they add up to one in each
 * @example soundOutcomes(defaultAxis("vertical-centre", "X"), [], []).at(0)?.kind // "sound"
 */
export function soundOutcomes(
  axis: AxisConfig,
  causes: readonly Cause[],
  accounts: readonly Account[],
): readonly SoundOutcome[] {
  const kinds: readonly string[] = ["sound", ...soundKindsOn(axis)];
  const each = causes.map(({ id }) => kinds.indexOf(soundKindOf(id) ?? ""));
  const right = MOST_A_SOUND_SAYS ** 2;
  const all = right + kinds.length - 1;
  const told = (k: number, there: readonly number[]): number =>
    there.reduce((sum, i) => sum + (i === k ? right : 1), 0) / (all * there.length);
  const made = accounts.map(({ members }) => members.map((m) => each[m]).filter((i) => i >= 0));
  return kinds.map((kind, k) => ({
    kind,
    likelihood: Float64Array.from(accounts, ({ slight }, n) => {
      const nothing = told(k, [0]);
      if (made[n].length === 0) return nothing;
      const there = told(k, made[n]);
      return slight ? nothing + SLIGHT_SHOWS * (there - nothing) : there;
    }),
  }));
}

/**
 * A kind of sound, in words.
 * @param kind - of {@link soundChances}
 * @returns what it is like
 * @example soundLike("end-bearing") // "worn bearings of the screw"
 */
export function soundLike(kind: string): string {
  return SOUND_KIND_ROWS.find((r) => r.id === kind)?.like ?? "an axis with nothing wrong";
}

/**
 * What a recording is most like, in words.
 * @param heard - the recording
 * @returns a clause
 * @example soundSaid({ chances: { sound: 0.1, "end-bearing": 0.9 } }) // "recorded, it sounds like worn bearings of the screw"
 */
export function soundSaid({ chances }: SoundHeard): string {
  const most = Object.entries(chances).reduce((a, b) => (b[1] > a[1] ? b : a));
  if (most[1] < CLEAR) return "recorded, it is not clear what it sounds like";
  return `recorded, it sounds like ${soundLike(most[0])}`;
}
