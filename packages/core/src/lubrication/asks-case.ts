import { centralAdvice } from "./central";
import type { FoundState } from "./types";

/** What the last visit to a point told. */
export interface VisitTold {
  readonly glitter: boolean;
  readonly friction: boolean;
  /** Checks that somebody has to act on, as “belt: cracked”. */
  readonly acts?: readonly string[];
  /** Outlets of a central line, nearest first; null where nobody looked. */
  readonly outlets: readonly { readonly name: string; readonly wet: boolean | null }[];
}

/** Why a finding at a point is the start of a case. */
export type CaseCause =
  | { readonly code: "metal" | "friction" | "blocked" | "dry-twice" }
  | { readonly code: "check"; readonly acts: readonly string[] }
  | { readonly code: "line"; readonly says: string; readonly look: readonly string[] };

/**
 * Whether what was found at a point asks for more than lubricant.
 * Source: metal in the grease, a blocked way and a point dry twice running are looked into (common practice, no
 * source).
 * @param found - states found, the oldest first
 * @param told - what the last visit told; null before the first
 * @returns the strongest reason; null when lubricant is all it wants
 * @example asksCase(["dry", "dry"], null) // { code: "dry-twice" }
 */
export function asksCase(found: readonly FoundState[], told: VisitTold | null): CaseCause | null {
  if (told?.glitter) return { code: "metal" };
  if (told?.friction) return { code: "friction" };
  if (told?.acts?.length) return { code: "check", acts: told.acts };
  const central = centralAdvice(told?.outlets ?? []);
  if (central.repair) return { code: "line", says: central.says, look: central.look };
  if (found.at(-1) === "blocked") return { code: "blocked" };
  return found.at(-1) === "dry" && found.at(-2) === "dry" ? { code: "dry-twice" } : null;
}
