import { isSplitTest, profileShape, type FindingId, type PlaceResult, type TestKind } from "../measure";
import type { LossLimits } from "../machine/axis";
import type { MagnitudeKind } from "./slack";

/** Measurements up to a month before a case was opened belong to it (common practice, no source). */
const FRESH_DAYS = 30;
const DAY_MS = 86_400_000;
/** From this chance on a cause is taken for the one that is worked on. */
const PROBABLE = 0.5;

/**
 * From when on what was measured on an axis counts: since somebody last worked on it, and for a case not from long
 * before it was opened.
 *
 * @param lastWorkAt - instant of the last repair or adjustment; null where there was none
 * @param caseOpenedAt - instant at which the case was opened; null outside a case
 * @returns an instant; null where everything counts
 * @example
 * countsSince("2026-03-01T10:00:00.000Z", null) // "2026-03-01T10:00:00.000Z"
 */
export function countsSince(lastWorkAt: string | null, caseOpenedAt: string | null): string | null {
  const fresh = caseOpenedAt && new Date(Date.parse(caseOpenedAt) - FRESH_DAYS * DAY_MS).toISOString();
  if (!fresh) return lastWorkAt;
  return lastWorkAt !== null && lastWorkAt > fresh ? lastWorkAt : fresh;
}

/**
 * Which part of the lost motion a test sees.
 *
 * @param kind - the test
 * @returns the part, or the whole chain
 * @example
 * magnitudeOf("two-sided") // "whole-chain"
 */
export function magnitudeOf(kind: TestKind): MagnitudeKind {
  return isSplitTest(kind) ? kind : "whole-chain";
}

/**
 * The tests that count: a later one of the same part replaces an older one, since parts wear and readings are repeated
 * to be better. A travel profile and a test at one place both see the whole chain: the later of the two counts.
 *
 * @param tests - tests of one axis, the oldest first
 * @returns one for each part, in order of their first
 * @example
 * latestOfEach([{ kind: "two-sided" }, { kind: "travel-profile" }]) // [{ kind: "travel-profile" }]
 */
export function latestOfEach<T extends { readonly kind: TestKind }>(tests: readonly T[]): T[] {
  const last = new Map<string, T>();
  for (const test of tests) last.set(test.kind === "travel-profile" ? test.kind : magnitudeOf(test.kind), test);
  const [profile, whole] = [last.get("travel-profile"), last.get("whole-chain")];
  if (profile && whole) last.delete(tests.indexOf(profile) > tests.indexOf(whole) ? "whole-chain" : "travel-profile");
  return [...last.values()];
}

/**
 * Was the last test of a part read before, and found the same within both their U?
 *
 * @param tests - tests of one axis, the oldest first, with their U
 * @param last - the one that counts
 * @returns whether an earlier one of the same kind agrees with it
 * @example
 * const last = { kind: "end-float", lostMm: 0.02, expandedMm: 0.002 };
 * isConfirmed([{ ...last, lostMm: 0.021 }, last], last) // true
 */
export function isConfirmed<
  T extends { readonly kind: TestKind; readonly lostMm: number; readonly expandedMm: number },
>(tests: readonly T[], last: T): boolean {
  return tests.some(
    (t) =>
      t !== last &&
      t.kind === last.kind &&
      Math.abs(t.lostMm - last.lostMm) <= Math.hypot(t.expandedMm, last.expandedMm),
  );
}

/**
 * Does a travel profile show the wear of a screw, more loss in the middle of the travel?
 *
 * @param places - what the profile found at each place
 * @param limits - limits of the axis, mm
 * @returns present or not; null for one that could not have seen a loss that matters
 * @example
 * middleOfProfile([], { leaveMm: 0.01 }) // null
 */
export function middleOfProfile(
  places: readonly PlaceResult[],
  limits: Pick<LossLimits, "leaveMm">,
): Readonly<Partial<Record<FindingId, boolean>>> | null {
  const shape = profileShape(places);
  if (!shape || (shape.code === "even" && shape.seesMm > limits.leaveMm)) return null;
  return { "profile-middle": shape.code === "worse" && shape.where === "middle" };
}

/**
 * The cause that the next step is for, if one is likelier than not.
 *
 * @param leading - causes with their probabilities, the likeliest first
 * @returns the first that is; nothing where none is
 * @example
 * probable([{ probability: 0.4 }]) // undefined
 */
export function probable<T extends { readonly probability: number }>(leading: readonly T[]): T | undefined {
  return leading.find((l) => l.probability > PROBABLE);
}

/**
 * Are the other axes’ end bearings a question in this stop? Where worn ones are likelier than not here.
 *
 * @param chance - probability of worn end bearings, 0 to 1
 * @returns whether to reckon it
 * @example
 * asksSisters(0.3) // false
 */
export function asksSisters(chance: number): boolean {
  return chance >= PROBABLE;
}
