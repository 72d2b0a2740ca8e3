import { conformity, type ConformityLimits, type JudgedValue } from "../quantity";

export interface Sister {
  readonly letter: string;
  /** Null where nobody knows: {@link ASSUMED_AGE_YEARS} is taken, and said. */
  readonly ageYears: number | null;
  /** Last measured loss with its U; null when never measured. */
  readonly loss: JudgedValue | null;
  readonly limits: ConformityLimits;
  readonly bearingSet: number;
  readonly downtimePerHour: number;
}

export interface SisterAdvice {
  readonly letter: string;
  readonly nowCost: number;
  readonly laterCost: number;
  /** Chance that its end bearings go within the horizon. */
  readonly goes: number;
  readonly worth: boolean;
  readonly assumes: readonly string[];
}

/** What the sum hangs on; each can be set otherwise by who reads it. */
export interface SisterTerms {
  readonly jobMinutes: number;
  /** Access, isolation and retest set-up shared with the job at hand. */
  readonly sharedMinutes: number;
  /** Standing before anybody is there, when it fails by itself. */
  readonly unplannedMinutes: number;
  readonly horizonYears: number;
  /** Bearing life as a Weibull: shape, and years at which 63 % have gone. */
  readonly shape: number;
  readonly scaleYears: number;
}

/** Common practice, no source. */
export const SISTER_TERMS: SisterTerms = {
  jobMinutes: 240,
  sharedMinutes: 110,
  unplannedMinutes: 120,
  horizonYears: 2,
  shape: 2.5,
  scaleYears: 14,
};
export const ASSUMED_AGE_YEARS = 10;
/** A sister over its limit is taken to go within the horizon with at least this chance. */
const OVER_LIMIT = 0.6;

/**
 * Should the sisters’ end bearings be renewed in the same stop? Now: a set and the shorter job, since
 * access is shared. Later: the chance that they go within the horizon, by age and by what was last
 * measured on them, times the whole job unplanned.
 * @param sisters - the other axes, with the age and last loss of their bearings
 * @param terms - minutes, horizon and life assumed
 * @returns what each would cost now and later
 * @example sistersToo([]).length // 0
 */
export function sistersToo(sisters: readonly Sister[], terms: SisterTerms = SISTER_TERMS): readonly SisterAdvice[] {
  return sisters.map((sister): SisterAdvice => {
    const { letter, bearingSet, downtimePerHour, loss, limits } = sister;
    const assumes: string[] = [];
    if (sister.ageYears === null) assumes.push(`age taken as ${ASSUMED_AGE_YEARS} years`);
    if (loss === null) assumes.push("never measured");
    const age = sister.ageYears ?? ASSUMED_AGE_YEARS;
    // One exponential of a difference: two of them are 0/0 far past the scale.
    const spent = (years: number): number => (years / terms.scaleYears) ** terms.shape;
    const byAge = -Math.expm1(spent(age) - spent(age + terms.horizonYears));
    const judged = loss && conformity(loss, limits);
    const over = judged?.code === "act";
    if (over) assumes.push("over its limit when last measured");
    if (judged?.code === "cannot-tell")
      assumes.push("its last test cannot tell on which side of the limit it lies; by its age alone");
    const goes = over ? Math.max(byAge, OVER_LIMIT) : byAge;
    const hour = downtimePerHour / 60;
    const nowCost = bearingSet + (terms.jobMinutes - terms.sharedMinutes) * hour;
    const laterCost = goes * (bearingSet + (terms.jobMinutes + terms.unplannedMinutes) * hour);
    return { letter, nowCost, laterCost, goes, worth: nowCost < laterCost, assumes };
  });
}
