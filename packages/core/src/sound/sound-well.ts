import { FEED_ALIKE } from "./compare-sounds";

/** A recording as it is looked through for the one it is held beside. */
export interface KeptSound {
  readonly id: number;
  /** Instant. */
  readonly at: string;
  readonly feedMmMin: number;
  /** Somebody said that the axis was well in it. */
  readonly well: boolean;
}

/** One that waited on a tablet arrives after others that were made later. */
const madeBefore = (a: KeptSound, b: KeptSound): boolean => a.at < b.at || (a.at === b.at && a.id < b.id);

/**
 * The recording of an axis when it was well that another is held beside: the latest before it at its feed that was kept
 * as such, and none from before somebody worked on the axis, since parts were changed then.
 * @param one - a recording
 * @param all - recordings of its axis of which something can be said, in any order
 * @param works - instants of repairs and adjustments of the axis, in any order
 * @returns the recording; null where there is none
 * @example
 * const well = { id: 1, at: "2026-01-05T08:00:00.000Z", feedMmMin: 5000, well: true };
 * wellBefore({ id: 2, at: "2026-06-05T08:00:00.000Z", feedMmMin: 5000, well: false }, [well], [])?.id // 1
 */
export function wellBefore<S extends KeptSound>(one: KeptSound, all: readonly S[], works: readonly string[]): S | null {
  const worked = works.reduce((last, at) => (at <= one.at && at > last ? at : last), "");
  return all
    .filter((s) => s.well && madeBefore(s, one) && s.at > worked)
    .filter((s) => Math.abs(s.feedMmMin / one.feedMmMin - 1) <= FEED_ALIKE)
    .reduce<S | null>((latest, s) => (latest && madeBefore(s, latest) ? latest : s), null);
}

/** An axis that was recorded is recorded again when so many days have passed: half a year. */
const HALF_YEAR_DAYS = 182;
/** After a repair of an axis that was never recorded it is asked for so many days (common practice, no source). */
const AFTER_WORK_DAYS = 30;
const DAY_MS = 86_400_000;

/** What is known of when an axis was recorded. */
export interface SoundTimes {
  /** Instant of the last recording since somebody last worked on it of which something can be said; null for none. */
  readonly lastAt: string | null;
  /** Instant of the last repair or adjustment; null for none. */
  readonly workedAt: string | null;
  /** It was recorded at least once, whenever. */
  readonly ever: boolean;
}

/**
 * Is a recording of an axis asked for? After work on it, when it is well; and of one that is listened to, twice a year.
 * @param times - when it was recorded and worked on
 * @param now - the moment of looking
 * @returns why; null where none is asked for
 * @example soundDue({ lastAt: "2026-01-05T08:00:00.000Z", workedAt: null, ever: true }, new Date("2026-08-05")) // "half-year"
 */
export function soundDue({ lastAt, workedAt, ever }: SoundTimes, now: Date): "after-work" | "half-year" | null {
  const days = (at: string): number => (now.getTime() - Date.parse(at)) / DAY_MS;
  if (lastAt !== null) return days(lastAt) > HALF_YEAR_DAYS ? "half-year" : null;
  if (workedAt === null) return null;
  return ever || days(workedAt) <= AFTER_WORK_DAYS ? "after-work" : null;
}
