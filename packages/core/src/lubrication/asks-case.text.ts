import type { CaseCause } from "./asks-case";

const WORDS: Readonly<Record<Exclude<CaseCause["code"], "line" | "check">, string>> = {
  metal: "Metal glitter or chips in the grease.",
  friction: "More friction than the time before.",
  blocked: "Blocked: nothing gets through.",
  "dry-twice": "Dry twice running.",
};

/**
 * Why a point asks for a case, as a sentence; empty when it does not.
 * @param cause - why, or null
 * @returns the sentence
 * @example caseCauseText(null) // ''
 */
export function caseCauseText(cause: CaseCause | null): string {
  if (cause === null) return "";
  if (cause.code === "check") return `To act on: ${cause.acts.join("; ")}.`;
  if (cause.code === "line") return `${cause.says} Look at: ${cause.look.join("; ")}.`;
  const at = "at" in cause && cause.at.length ? `${cause.at.join(", ")}: ` : "";
  return at
    ? `${at}${WORDS[cause.code].replace(/^./, (c) => c.toLowerCase())}`.replace(/^./, (c) => c.toUpperCase())
    : WORDS[cause.code];
}
