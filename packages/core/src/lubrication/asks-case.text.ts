import type { CaseCause } from "./asks-case";

const WORDS: Readonly<Record<Exclude<CaseCause["code"], "line" | "check">, (at: string) => string>> = {
  metal: () => "Metal glitter or chips in the grease.",
  friction: () => "More friction than the time before.",
  blocked: (at) => `Blocked${at}: nothing gets through.`,
  "dry-twice": (at) => `Dry twice running${at}.`,
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
  return WORDS[cause.code]("at" in cause && cause.at.length ? ` at ${cause.at.join(", ")}` : "");
}
