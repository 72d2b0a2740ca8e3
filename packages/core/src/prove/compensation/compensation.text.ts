import { formatDeviation, formatPosition, formatSize, formatWithU, type UnitSystem } from "../../quantity";
import type { EnteredAs, ComparedPrediction } from "./compare-prediction";
import type { CorrectionNote } from "./make-correction";
import type { CompensationBar } from "./may-compensate";
import type { SpreadWork } from "./spread-work";
import type { TypedSlip } from "./typed-sums";

/**
 * Why no table is made, or what is doubtful, and what is done first.
 * @param bar - the reason
 * @param system - units
 * @returns a sentence or two
 * @example
 * compensationBarText({ code: "entered-backlash", enteredMm: 0.03, limitMm: 0.025 }, "metric")
 * // "30.0 µm of backlash compensation hide a loss that is over the limit of 25.0 µm. Set it to nothing, find what is loose, then measure again."
 */
export function compensationBarText(bar: CompensationBar, system: UnitSystem): string {
  const dev = (mm: number): string => formatDeviation(mm, { system });
  const place = (mm: number): string => formatSize(mm, system);
  switch (bar.code) {
    case "reversal-over":
      return `It loses ${formatWithU(bar.loss.valueMm, bar.loss.uMm, { system })} when it turns round at ${place(bar.loss.atMm)}; the limit is ${dev(bar.repairMm)}. A table would be laid on play that wears on. Find what is loose first.`;
    case "reversal-cannot-tell":
      return `It loses ${formatWithU(bar.loss.valueMm, bar.loss.uMm, { system })} when it turns round at ${place(bar.loss.atMm)}: the ± holds the limit of ${dev(bar.repairMm)}. More runs would tell whether a table is worth its typing.`;
    case "end-float-over":
      return `The screw floats ${formatWithU(bar.loss.valueMm, bar.loss.uMm, { system })} endways; the limit is ${dev(bar.repairMm)}. It stands somewhere else after each turn round: the end bearings come first.`;
    case "worn-at-a-place":
      return `It loses ${dev(bar.mostMm)} at ${place(bar.atMm)} and ${dev(bar.leastMm)} where it loses least, ± ${dev(bar.uMm)} between the two. More than ${dev(bar.allowedMm)} of difference is wear at a place: a table follows one direction at most, and only until it wears on. Look at screw and nut there.`;
    case "entered-backlash":
      return `${dev(bar.enteredMm)} of backlash compensation hide a loss that is over the limit of ${dev(bar.limitMm)}. Set it to nothing, find what is loose, then measure again.`;
  }
}

/**
 * What is to be known of a table.
 * @param note - the code
 * @param system - units
 * @returns a sentence or two
 * @example correctionNoteText({ code: "ripple-hidden" }, "metric").startsWith("All places lie at one part") // true
 */
export function correctionNoteText(note: CorrectionNote, system: UnitSystem): string {
  const dev = (mm: number): string => formatDeviation(mm, { system });
  const place = (mm: number): string => formatSize(mm, system);
  const metre = system === "metric" ? "a metre" : "40 in";
  const perMetre = (mm: number): number => (system === "metric" ? mm : mm * 1.016);
  switch (note.code) {
    case "too-large":
      return `${dev(note.valueMm)} at ${place(note.atMm)} is more than the ${dev(note.mostMm)} the control takes. An error of that size is no lead error: look at the gear ratio, the lead entered in the control and the scale first.`;
    case "too-steep":
      return `${dev(note.changeMm)} from one point to the next at ${place(note.atMm)} is more than the ${dev(note.mostMm)} the control takes. A jump like that is a misread place or damage: read there again.`;
    case "nothing-proven":
      return `Nowhere is there more to correct than its own ± (${dev(note.largestMm)} at most, ± ${dev(note.uMm)}). Leave the control as it is.`;
    case "held":
      return `${note.points} ${note.points === 1 ? "point lies" : "points lie"} beyond what was read (${place(note.fromMm)} to ${place(note.toMm)}): the last value is held there. It is no measurement.`;
    case "grew":
      return `From the first run to the last it ${note.perMMm > 0 ? "grew" : "shrank"} by ${formatWithU(Math.abs(perMetre(note.perMMm)), perMetre(note.uPerMMm), { system })} over ${metre}: it was not yet at its running warmth. Warm it up and read again, or the table is right for no temperature.`;
    case "ripple-stays":
      return `${formatWithU(note.amplitudeMm, note.uMm, { system })} come back with each turn of the screw, up and down. Points as far apart as these cannot follow that: it was taken out before the table was made, and stays.`;
    case "ripple-hidden":
      return "All places lie at one part of the screw’s turn: what comes back with each turn was not seen, and is in every value of the table as a shift. Take uneven places.";
    case "ripple-fakes":
      return `The places walk through the screw’s turn so slowly that what comes back with each turn looks like a slow error${Number.isFinite(note.waveMm) ? ` of ${place(Math.round(note.waveMm))}` : ""}. The table would follow what is not there. Take uneven places.`;
    case "far-reference":
      return `The nearest place that was read lies ${place(note.nearestMm)} from the reference point. Where the table is nothing there was drawn on, not measured: read near it.`;
    case "one-way":
      return `One table for both directions leaves what is lost when it turns round as it is: ${dev(Math.abs(note.reversalMm))} on average.`;
  }
}

const AS: Readonly<Record<EnteredAs, string>> = {
  "as-made": "as it was made",
  "not-active":
    "as if the table were not active: many controls want a restart, or the axis sent home, before they use it",
  "wrong-sign": "as if its sign were turned round: the error has doubled",
  "counted-from-other-end": "as if its points were counted from the other end",
  "a-step-low": "as if every value stood one point too low",
  "a-step-high": "as if every value stood one point too high",
  "ten-times": "as if its unit were ten times as large as it was reckoned with",
  tenth: "as if its unit were a tenth of what it was reckoned with",
  "old-kept": "as if the old table were still added to it",
};

/**
 * What readings with a new table say.
 * @param compared - against what it promised
 * @param system - units
 * @returns a sentence or two
 * @example comparedText({ as: "as-made", sure: true, off: [], restMm: 0.0012 }, "metric") // "It stands in the control as it was made: 1.2 µm are left on average."
 */
export function comparedText(compared: ComparedPrediction, system: UnitSystem): string {
  const dev = (mm: number): string => formatDeviation(mm, { system });
  const { as, sure, off, restMm } = compared;
  if (as === "as-made") {
    const worst = [...off].sort((a, b) => Math.abs(b.byMm) - Math.abs(a.byMm)).at(0);
    const where = worst
      ? ` At ${formatPosition(worst.positionMm, { system })} it is off by ${formatWithU(worst.byMm, worst.uMm, { system, signed: true })}.`
      : "";
    return `It stands in the control as it was made: ${dev(restMm)} are left on average.${where}`;
  }
  return sure
    ? `It reads ${AS[as]}. Look there first; nothing is run until it is put right.`
    : `It does not read as the table promised (${dev(restMm)} are left on average); nearest is ${AS[as]}. Read the table back from the control, number by number.`;
}

/**
 * What is wrong with a number read back.
 * @param slip - the code
 * @returns a sentence
 * @example typedSlipText({ code: "swapped", point: 3 }) // "Points 3 and 4 have changed places."
 */
export function typedSlipText(slip: TypedSlip): string {
  switch (slip.code) {
    case "missing":
      return `${slip.got} ${slip.got === 1 ? "number was" : "numbers were"} read back; there are ${slip.wanted} points.`;
    case "differs":
      return `Point ${slip.point} is ${slip.got}: it must be ${slip.wanted}.`;
    case "swapped":
      return `Points ${slip.point} and ${slip.point + 1} have changed places.`;
    case "shifted":
      return slip.by === 1
        ? `From point ${slip.point} on everything stands one point too high: a number too many was typed there.`
        : `From point ${slip.point} on everything stands one point too low: a number was left out there.`;
    case "all-turned-round":
      return "Every number has the other sign.";
  }
}

/**
 * What is said of where an axis works.
 * @param spread - of its programs
 * @param options - `travelMm`: of the axis; `system`: units
 * @returns sentences
 * @example
 * spreadWorkText({ bandMm: [0, 300], share: 0.8, narrow: false, shiftsMm: [], relief: 1, worn: null }, { travelMm: 500, system: "metric" })[0]
 * // "80 % of its way lies between 0 mm and 300 mm: that is well spread over the travel of 500 mm."
 */
export function spreadWorkText(
  spread: SpreadWork,
  { travelMm, system }: { readonly travelMm: number; readonly system: UnitSystem },
): readonly string[] {
  const place = (mm: number): string => formatSize(mm, system);
  const { bandMm, share, narrow, shiftsMm, relief, worn } = spread;
  const where = `${Math.round(100 * share)} % of its way lies between ${place(bandMm[0])} and ${place(bandMm[1])}`;
  const said = [
    narrow
      ? `${where}: ${Math.round((100 * (bandMm[1] - bandMm[0])) / travelMm)} % of the travel of ${place(travelMm)}.`
      : `${where}: that is well spread over the travel of ${place(travelMm)}.`,
  ];
  if (shiftsMm.length > 0) {
    const moved = shiftsMm.map((s) => `${place(Math.abs(s))} towards ${s > 0 ? "plus" : "minus"}`);
    said.push(
      `Clamp the work by turns also ${moved.join(", ")}: the hardest worked part of the screw then gets ${Math.round(100 * relief)} % of what it gets now. Move the work offset with the fixture, and see that nothing stands in the way there.`,
    );
  } else if (narrow) said.push("There is no room beside it on the travel: the work cannot be laid elsewhere.");
  if (worn)
    said.push(
      Math.abs(worn.moreMm) <= worn.uMm
        ? `What is lost there is as elsewhere (${formatWithU(worn.moreMm, worn.uMm, { system, signed: true })}): it has not worn at a place yet.`
        : worn.moreMm > 0
          ? `It loses ${formatWithU(worn.moreMm, worn.uMm, { system })} more there than elsewhere: the screw has begun to wear where it works.`
          : `It loses ${formatWithU(-worn.moreMm, worn.uMm, { system })} less there than elsewhere: what wears it lies elsewhere.`,
    );
  return said;
}
