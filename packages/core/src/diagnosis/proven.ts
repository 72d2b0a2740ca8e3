import type { AxisConfig } from "../machine/axis";
import { bestHypothesis } from "./best-hypothesis";
import type { Magnitude } from "./components";
import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";
import { baselineOf, seenBy } from "./slack";
import type { TestId } from "./tests";

/** Probability at which a screw or nut may be condemned, once something has proven the link. */
const CONDEMN = 0.9;

/**
 * A screw or nut that is named but not yet proven: it must not be bought.
 * @param posterior - what is known so far
 * @returns the cause; null where none is named
 * @example unprovenPart(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })) // null
 */
export function unprovenPart(posterior: Posterior): Cause | null {
  const { causes } = bestHypothesis(posterior);
  for (const cause of causes) {
    if (cause.remedy.costClass !== 3 || !cause.provenBy) continue;
    if (!mayCondemn(posterior, cause)) return cause;
  }
  return null;
}

/**
 * Has a test shown what proves a screw or nut, however likely it is all in all?
 * @param posterior - what is known so far
 * @param cause - the part
 * @returns whether one has
 * @example
 * const posterior = infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] });
 * isProven(posterior, causeById("nut-worn")) // false
 */
export function isProven(posterior: Posterior, cause: Cause): boolean {
  const { reports, magnitudes, axis } = posterior.evidence;
  return proofsOn(axis, cause).some((proof) =>
    proof === "nut-flank"
      ? flankIsTheNuts(axis, magnitudes)
      : reports.some((r) => r.finding === proof && r.present && r.source === "test"),
  );
}

/** What proves it on this axis: a nut built with clearance winds down when it is sound, and without balls none howl. */
function proofsOn(axis: AxisConfig, cause: Cause): NonNullable<Cause["provenBy"]> {
  return (cause.provenBy ?? []).filter((proof) => {
    if (proof === "back-drives") return axis.nut !== "single-clearance";
    return proof !== "howl" || axis.transmission !== "plain-screw";
  });
}

const PROOF_TEXT: Partial<Record<NonNullable<Cause["provenBy"]>[number], string>> = {
  "nut-flank": "the nut flank with the bracket’s own shift taken off",
  "flank-middle": "the flank at two places",
  "profile-middle": "a travel profile",
  "crest-turn": "a crest run",
  "back-drives": "a back-drive in the job",
};

/**
 * What would prove a screw or nut, of what can be done on this axis.
 * @param axis - configuration
 * @param cause - the part
 * @returns tests in words, joined by “or”
 * @example provenOnlyBy(defaultAxis("vertical-centre", "X"), causeById("screw-bent")) // "a crest run"
 */
export function provenOnlyBy(axis: AxisConfig, cause: Cause): string {
  const falls = axis.orientation !== "horizontal";
  const can = proofsOn(axis, cause).filter((proof) => {
    if (proof === "profile-middle") return seenBy(axis, "whole-chain").length > 0;
    if (proof === "back-drives") return falls;
    // Where the nut turns, its bearings stand in every flank reading at one place.
    if (proof === "nut-flank") return axis.transmission !== "rotating-nut";
    return true;
  });
  return can.flatMap((proof) => PROOF_TEXT[proof] ?? []).join(", or ");
}

/** Tests that show a proof that is a finding. */
const SHOWN_BY: Partial<Record<NonNullable<Cause["provenBy"]>[number], TestId>> = {
  "flank-middle": "flank-twice",
  "profile-middle": "whole-twice",
  "crest-turn": "crest-run",
};

/**
 * What is still to be measured before the screw or nut that is named may be bought.
 * @param posterior - what is known so far
 * @returns tests, the one that proves it on its own first; none where no part is named, or it is proven
 * @example testsOfProof(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })) // []
 */
export function testsOfProof(posterior: Posterior): readonly TestId[] {
  const part = unprovenPart(posterior);
  if (!part || isProven(posterior, part)) return [];
  const { axis, magnitudes } = posterior.evidence;
  return proofsOn(axis, part).flatMap((proof) => {
    if (proof !== "nut-flank") return SHOWN_BY[proof] ?? [];
    const besides = seenBy(axis, "nut-flank").filter((s) => s !== "nut" && s !== "wear");
    // Where something else than the bracket stands in the flank’s reading it proves nothing.
    if (besides.some((s) => s !== "bracket")) return [];
    const sizes: readonly TestId[] = besides.length ? ["nut-flank", "bracket-shift"] : ["nut-flank"];
    return sizes.filter((id) => !magnitudes.some((m) => m.kind === id));
  });
}

/**
 * What a flank reading leaves for nut and thread once what moves with them is taken off: the bracket, measured by
 * itself. Where the nut turns, nothing tells its own bearings from it.
 */
function flankIsTheNuts(axis: AxisConfig, magnitudes: readonly Magnitude[]): boolean {
  const latest = (kind: Magnitude["kind"]): Magnitude | undefined => magnitudes.findLast((m) => m.kind === kind);
  const flank = latest("nut-flank");
  const besides = seenBy(axis, "nut-flank").filter((s) => s !== "nut" && s !== "wear");
  const bracket = besides.includes("bracket") ? latest("bracket-shift") : undefined;
  if (!flank || besides.some((s) => s !== "bracket" || !bracket)) return false;
  // A nut has its play from new: only what is beyond that is wear.
  const sound = baselineOf(axis, "nut");
  const left = flank.reversalValueMm - Math.max(0, bracket?.reversalValueMm ?? 0) - sound.meanMm;
  return left - 2 * Math.hypot(flank.uMm, bracket?.uMm ?? 0, sound.sdMm) > axis.limits.leaveMm / 3;
}

/**
 * Whether a screw or nut may be bought on this: probable enough, and seen by what proves it.
 * @param posterior - what is known so far
 * @param cause - one of its causes
 * @returns false while it is only likely
 * @example
 * const posterior = infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] });
 * mayCondemn(posterior, causeById("nut-worn")) // false
 */
export function mayCondemn(posterior: Posterior, cause: Cause): boolean {
  return posterior.marginals[posterior.causes.indexOf(cause)] >= CONDEMN && isProven(posterior, cause);
}
