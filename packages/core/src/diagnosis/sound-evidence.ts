import type { Evidence, SoundHeard } from "./evidence";
import type { Cause } from "./knowledge";
import { SLIGHT_SHOWS, type Account } from "./reports";
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

/**
 * What a recording is most like, in words.
 * @param heard - the recording
 * @returns a clause
 * @example soundSaid({ chances: { sound: 0.1, "end-bearing": 0.9 } }) // "recorded, it sounds like worn bearings of the screw"
 */
export function soundSaid({ chances }: SoundHeard): string {
  const most = Object.entries(chances).reduce((a, b) => (b[1] > a[1] ? b : a));
  const row = SOUND_KIND_ROWS.find((r) => r.id === most[0]);
  if (most[1] < CLEAR) return "recorded, it is not clear what it sounds like";
  return row ? `recorded, it sounds like ${row.like}` : "recorded, it sounds like an axis with nothing wrong";
}
