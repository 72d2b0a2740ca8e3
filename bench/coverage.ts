import { RATE_CASES } from "../packages/core/src/coverage/cases";
import { boundsOf, rateOf } from "../packages/core/src/coverage/rate-case";

const percent = (x: number): string => `${(100 * x).toFixed(1)} %`;

/**
 * Coverage of every ± and rate of every sentence on simulated data with a known truth: one table.
 * @param only a part of a case’s name, to run those alone
 * @returns false when anything lies outside its bounds
 */
export function benchCoverage(only = ""): boolean {
  const cases = RATE_CASES.filter((c) => `${c.id} ${c.what}`.includes(only));
  let out = 0;
  console.log(["", "rate", "bounds", "trials", "kind", "what", "with"].join(" | "));
  for (const one of cases) {
    const { rate, within, trials } = rateOf(one, "full");
    if (!within) out += 1;
    const [low, high] = boundsOf(one);
    const why = one.dominated ? `${one.with} (${one.dominated})` : one.with;
    console.log(
      [
        within ? "ok" : "OUT",
        percent(rate),
        `${percent(low)} to ${percent(high)}`,
        trials,
        one.kind,
        one.what,
        why,
      ].join(" | "),
    );
  }
  console.log(`${cases.length - out} within bounds, ${out} out of bounds`);
  return out === 0 && cases.length > 0;
}
