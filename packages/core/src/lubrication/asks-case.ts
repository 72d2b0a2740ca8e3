import { centralAdvice } from "./central";
import type { PlaceFound } from "./places";
import type { FoundState } from "./types";

/** What the last visit to a point told. */
export interface VisitTold {
  readonly glitter: boolean;
  readonly friction: boolean;
  /** Checks that somebody has to act on, as “belt: cracked”. */
  readonly acts?: readonly string[];
  /** Outlets of a central line, nearest first; null where nobody looked. */
  readonly outlets: readonly { readonly name: string; readonly wet: boolean | null }[];
  /** Places seen to one by one, at this visit and at the one before; empty where nobody told them apart. */
  readonly places?: { readonly last: readonly PlaceFound[]; readonly before: readonly PlaceFound[] };
}

/** Why a finding at a point is the start of a case. */
export type CaseCause =
  | { readonly code: "metal" | "friction" }
  /** At the places named, where they were told apart. */
  | { readonly code: "blocked" | "dry-twice"; readonly at: readonly string[] }
  | { readonly code: "check"; readonly acts: readonly string[] }
  | { readonly code: "line"; readonly says: string; readonly look: readonly string[] };

/**
 * Whether what was found at a point asks for more than lubricant.
 * Source: metal in the grease, a blocked way and a point dry twice running are looked into (common practice, no
 * source).
 * @param found - states found, the oldest first
 * @param told - what the last visit told; null before the first
 * @returns the strongest reason; null when lubricant is all it wants
 * @example asksCase(["dry", "dry"], null) // { code: "dry-twice", at: [] }
 */
export function asksCase(found: readonly FoundState[], told: VisitTold | null): CaseCause | null {
  if (told?.glitter) return { code: "metal" };
  if (told?.friction) return { code: "friction" };
  if (told?.acts?.length) return { code: "check", acts: told.acts };
  const central = centralAdvice(told?.outlets ?? []);
  if (central.repair) return { code: "line", says: central.says, look: central.look };
  const { last, before } = told?.places ?? { last: [], before: [] };
  if (found.at(-1) === "blocked") return { code: "blocked", at: placesOf(last, "blocked") };
  if (found.at(-2) !== "dry") return null;
  const dry = placesOf(last, "dry");
  // Two carriages that were dry in turn are not one that was dry twice.
  const twice = before.length ? dry.filter((name) => placesOf(before, "dry").includes(name)) : dry;
  return twice.length || (last.length === 0 && found.at(-1) === "dry") ? { code: "dry-twice", at: twice } : null;
}

function placesOf(places: readonly PlaceFound[], state: FoundState): readonly string[] {
  return places.filter((p) => p.found === state).map((p) => p.name);
}
