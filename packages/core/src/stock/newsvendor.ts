import { requireBound } from "../quantity";

/**
 * Chances of 0, 1, 2 … parts being wanted, each place with a chance of its own (Poisson binomial), by adding one place
 * after the other.
 * Source: Barlow and Heidtmann, “Computing k-out-of-n system reliability”, 1984, from memory.
 * @param chances - of each place
 * @returns chance of each number, from none to all
 * @example wantedCounts([0.5, 0.5]) // [0.25, 0.5, 0.25]
 */
export function wantedCounts(chances: readonly number[]): readonly number[] {
  const counts = [1];
  for (const p of chances) {
    requireBound({ chance: p }, p >= 0 && p <= 1, "from 0 to 1");
    counts.push(0);
    for (let k = counts.length - 1; k >= 0; k -= 1) counts[k] = counts[k] * (1 - p) + (k > 0 ? counts[k - 1] * p : 0);
  }
  return counts;
}

/**
 * How many to hold: the fewest with which all that is wanted is there in as many cases as the cost of one missing is of
 * the cost of one missing and one too many together (newsvendor, critical ratio).
 * Source: Arrow, Harris and Marschak, “Optimal inventory policy”, 1951, from memory.
 * @param counts - chance of each number wanted until an order comes
 * @param costs - `missing`: what one costs that is wanted and not there; `idle`: what one costs that lies there meanwhile
 * @returns how many
 * @throws BoundError for costs that are not above 0
 * @example holdCount([0.25, 0.5, 0.25], { missing: 3, idle: 1 }) // 1
 */
export function holdCount(
  counts: readonly number[],
  { missing, idle }: { readonly missing: number; readonly idle: number },
): number {
  requireBound({ "cost of one missing": missing }, missing >= 0, "0 or more");
  requireBound({ "cost of one lying there": idle }, idle > 0, "above 0");
  const ratio = missing / (missing + idle);
  let sum = 0;
  for (let k = 0; k < counts.length; k += 1) {
    sum += counts[k];
    if (sum >= ratio - 1e-12) return k;
  }
  return counts.length - 1;
}
