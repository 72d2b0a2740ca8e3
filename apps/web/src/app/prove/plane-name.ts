import { formatSize, type CirclePlan, type UnitSystem } from "@iron/core";

/** What a plane of a session is called: its letters, and its feed where the session has several. */
export function planeName(
  plan: Pick<CirclePlan, "letters" | "feedMmMin">,
  feeds: readonly number[],
  system: UnitSystem,
): string {
  const letters = plan.letters.join("");
  return new Set(feeds).size > 1 ? `${letters} ${formatSize(plan.feedMmMin, system)}/min` : letters;
}
