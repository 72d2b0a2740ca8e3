import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";
import { letBe, mayBeLet } from "./let-be";
import { NO_ONE_THING, SURE } from "./next-test";
import { isSeen } from "./seen";

/**
 * A chance as it is said: never nought, never certain.
 * @param p - 0 to 1
 * @returns words
 * @example percent(0.999) // "over 99 %"
 */
export function percent(p: number): string {
  if (p > 0.995) return "over 99 %";
  if (p < 0.005) return "under 1 %";
  return `${Math.round(100 * p)} %`;
}

/**
 * How sure a chance is said to be.
 * @param p - 0 to 1
 * @param sure - more testing cannot change what is done
 * @returns words
 * @example certainty(0.8, false) // "likely"
 */
export function certainty(p: number, sure: boolean): string {
  if (p >= SURE && sure) return "nearly certain";
  if (p >= 0.75) return "likely";
  return p >= 0.5 ? "more likely than not" : "the best guess so far";
}

/**
 * The verdict in a sentence.
 * @param posterior - what is known so far
 * @param causes - those that are named
 * @param sure - more testing cannot change what is done
 * @returns the sentence
 * @example headlineOf(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] }), [], false)
 * // "Nothing stands out yet: too little is known."
 */
export function headlineOf(posterior: Posterior, causes: readonly Cause[], sure: boolean): string {
  const p = chanceOfAccount(posterior, causes);
  const how = `${certainty(p, sure)}, ${percent(p)}.`;
  const open = p < 0.5;
  const faults = causes.filter((c) => !c.normal);
  const normal = causes.filter((c) => c.normal).map((c) => c.name);
  // Of what nobody looked at it is not said that it is there.
  const seen = causes.filter((c) => c.normal).every((c) => isSeen(posterior, c));
  const said = seen ? "Normal, no fault" : "Perhaps normal, not yet looked at";
  const besides = normal.length ? ` ${said}: ${normal.join("; ")}.` : "";
  if (faults.length === 0 && open)
    return normal.length
      ? `${besides.trim()} Whether anything else is wrong is open.`
      : "Nothing stands out yet: too little is known.";
  if (faults.length === 0)
    return normal.length
      ? `${besides.trim()} That nothing else has to be mended: ${how}`
      : nothingFound(posterior, sure);
  const names = faults.map((c) => c.name).join(" together with ");
  if (faults.every((c) => c.remedy.kind === "refer"))
    return `Not a matter of this axis. ${names}: ${how} Refer it on.${besides}`;
  return `${names}: ${how}${besides}`;
}

/** Where loss, friction and noise were looked at, what is left is spread thin; before that it is only a guess. */
function nothingFound(posterior: Posterior, sure: boolean): string {
  const { causes, marginals, evidence } = posterior;
  const p = letBe(posterior).probability;
  if (!sure) return `Nothing has to be mended: ${certainty(p, sure)}, ${percent(p)}.`;
  const within = causes.some((c, i) => marginals[i] > IMMATERIAL && mayBeLet(evidence, c));
  const loss = within
    ? " What it loses may be left, whichever link it comes of; a large entry in the control’s compensation would hide more."
    : "";
  return `No fault found. That nothing has to be mended: ${certainty(p, sure)}, ${percent(p)}; nothing that would have to be is likelier than ${percent(NO_ONE_THING)}.${loss}`;
}
/** A cause that may be let be and is less likely than this needs no word. */
const IMMATERIAL = 0.02;

/** How sure the account is: as its least sure fault; where it names none, that there is none to mend. */
function chanceOfAccount(posterior: Posterior, named: readonly Cause[]): number {
  const { causes, marginals } = posterior;
  const faults = named.filter((c) => !c.normal);
  return faults.length ? Math.min(...faults.map((c) => marginals[causes.indexOf(c)])) : letBe(posterior).probability;
}
