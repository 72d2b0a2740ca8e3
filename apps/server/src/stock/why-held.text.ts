import type { SpareAdvice, SpareTerms } from "@iron/core";

function chanceText(p: number): string {
  if (p < 0.001) return "hardly ever";
  if (p < 0.02) return `in ${Math.max(1, Math.round(1000 * p))} of 1,000 cases`;
  return `in ${Math.round(100 * p)} of 100 cases`;
}

function moneyText(value: number, currency: string): string {
  return new Intl.NumberFormat("en-GB", { style: "currency", currency, maximumFractionDigits: 0 }).format(value);
}

/**
 * Why so many are held, as a person would say it.
 * @param advice - how many, with the chances
 * @param options - `terms`: what was reckoned with; `currency`: the shop’s
 * @returns sentences
 */
export function whyHeld(
  advice: SpareAdvice,
  { terms, currency }: { readonly terms: SpareTerms; readonly currency: string },
): string {
  const { leadDays, waitDays, least, price } = terms;
  const wanted = `While an order takes its ${leadDays} days, one is wanted ${chanceText(advice.wantedChance)}`;
  const wait =
    waitDays > 0 ? `; without one a machine stands ${waitDays} days, ${moneyText(advice.missing, currency)}` : "";
  if (advice.hold === 0)
    return `${wanted}${wait}. That is less than keeping one at ${moneyText(price, currency)} costs: it is ordered when it is wanted.`;
  const short = `With ${advice.hold} there, too few ${chanceText(advice.shortChance)}.`;
  return `${wanted}${wait}. ${short}${advice.hold === least ? " The least that the shop wants." : ""}`;
}
