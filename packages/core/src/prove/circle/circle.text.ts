import { formatDeviation, formatNumber, formatSize, formatWithU, decimalsFor, type UnitSystem } from "../../quantity";
import type { PassTrouble } from "./bar-pass";
import type { CircleDoubt } from "./circle-checks";
import type { CircleFinding, CircleKind } from "./circle-findings";
import type { JointTest } from "./circle-joint";
import type { CircleLead, CircleLimited } from "./circle-limits";
import type { CircleDirection } from "./circle-trace";
import type { TrembleLine } from "./circle-tremble";

/**
 * Which way round, in a word.
 * @param direction - from the first axis towards the second, or back
 * @returns the word
 * @example roundText(1) // 'counterclockwise'
 */
export const roundText = (direction: CircleDirection): string => (direction === 1 ? "counterclockwise" : "clockwise");

/** What a limit is of, in words. */
export const LIMITED_TEXT: Readonly<Record<CircleLimited, string>> = {
  gBoth: "Circular deviation, both ways, G(b)",
  h: "Circular hysteresis, H",
  lost: "Lost when an axis turns round",
  spike: "Spike when an axis turns round",
  ripple: "Ripple once a turn of the screw",
  bow: "Bow of an axis",
  across: "Aside with the direction",
  mismatch: "Scales that differ",
  square: "Out of square",
  servo: "Servos that follow unlike",
  tremble: "Tremble of an axis, RMS",
};

/**
 * A ratio as a shop says it: over 300 mm, or over 12 in.
 * @param ratio - mm for a mm
 * @param u - U of it; null where it is a limit
 * @param system - units
 * @returns the text
 * @example overLength(30e-6, 5e-6, "metric") // '9.0 ± 1.5 µm over 300 mm'
 */
export function overLength(ratio: number, u: number | null, system: UnitSystem): string {
  const mm = system === "metric" ? 300 : 304.8;
  const over = system === "metric" ? "over 300 mm" : "over 12 in";
  if (u !== null) return `${formatWithU(ratio * mm, u * mm, { system })} ${over}`;
  const unit = system === "metric" ? "µm" : "tenths";
  return `${Number(((ratio * mm * 1000) / (system === "metric" ? 1 : 2.54)).toFixed(2))} ${unit} ${over}`;
}

/** Milliseconds with their ±. */
function inMs(seconds: number, u: number): string {
  const decimals = decimalsFor(1000 * u);
  return `${formatNumber(1000 * seconds, decimals)} ± ${formatNumber(1000 * u, decimals)} ms`;
}

/**
 * A value of a kind with its ±, in the unit it is said in.
 * @param kind - of what
 * @param value - value and U, in the kind’s own unit
 * @param system - units
 * @returns the text
 * @example circleValue("servo", { value: 0.0004, u: 0.0001 }, "metric") // '0.40 ± 0.10 ms'
 */
export function circleValue(
  kind: CircleLimited,
  { value, u }: { readonly value: number; readonly u: number },
  system: UnitSystem,
): string {
  if (kind === "mismatch" || kind === "square") return overLength(Math.abs(value), u, system);
  return kind === "servo" ? inMs(Math.abs(value), u) : formatWithU(Math.abs(value), u, { system });
}

/**
 * What a part of the circle is, in a few words.
 * @param finding - kind and letter
 * @param axes - letters of the plane
 * @returns the words
 * @example findingName({ kind: "lost", letter: "X" }, ["X", "Y"]) // 'X loses when it turns round'
 */
export function findingName(
  { kind, letter }: Pick<CircleFinding, "kind" | "letter">,
  [first, second]: readonly [string, string],
): string {
  const own: Record<CircleKind, string> = {
    lost: `${letter} loses when it turns round`,
    spike: `${letter} hangs before it turns round`,
    ripple: `${letter} goes wrong and right once a turn of its screw`,
    bow: `${letter} does not go straight`,
    across: `${letter} steps aside when it turns round`,
    mismatch: `${first} and ${second} measure unlike lengths`,
    square: `${first} and ${second} are out of square`,
    servo: `${first} and ${second} follow unlike`,
  };
  return own[kind];
}

/**
 * Which way it is out, in a sentence.
 * @param finding - the part
 * @param axes - letters of the plane
 * @param options - units and feed
 * @returns the sentence
 * @example
 * const square = { kind: "square", axis: null, letter: null, value: 1e-4, u: 1e-6, onCircleMm: 0.01, ends: null, parts: [], with: [], without: { gMm: [], gBothMm: null, hMm: null } };
 * findingSentence(square, ["X", "Y"], { system: "metric", feedMmMin: 1000 }) // 'The corner between +X and +Y is closed: 30.00 ± 0.30 µm over 300 mm.'
 */
export function findingSentence(
  finding: CircleFinding,
  [first, second]: readonly [string, string],
  { system, feedMmMin }: { readonly system: UnitSystem; readonly feedMmMin: number },
): string {
  const { kind, value, letter, ends } = finding;
  const size = circleValue(kind, finding, system);
  const unclear = Math.abs(value) <= finding.u;
  if (unclear) return `No more than what it is known to: ${size}.`;
  switch (kind) {
    case "lost":
      return ends?.differ
        ? `Loses ${formatWithU(ends.plusMm, finding.u, { system })} at its + end and ${formatWithU(ends.minusMm, finding.u, { system })} at its − end.`
        : value > 0
          ? // Where one end is all that was read nothing is said of the other.
            `Loses ${size} each time${ends ? ", alike at both ends" : ""}.`
          : `Gains ${size}: the entered compensation is larger than what is lost.`;
    case "spike":
      return `Stands still for a moment and then catches up: ${size}. Friction, not lost motion.`;
    case "ripple":
      return `${size} to either side of its mean over a turn of its screw. Look for a screw that runs out and a coupling that is not in line.`;
    case "bow":
      return `At the ends of the circle it stands ${size} aside.`;
    case "across":
      return `It moves ${size} sideways with the direction it goes in: its gib or carriages let it.`;
    case "mismatch":
      return `${value > 0 ? first : second} goes further for the same command: ${size}.`;
    case "square":
      return `The corner between +${first} and +${second} is ${value > 0 ? "closed" : "open"}: ${size}.`;
    case "servo":
      return `${value > 0 ? first : second} comes ${size} later than ${value > 0 ? second : first}. It shows more the faster it goes; this was ${feedText(feedMmMin, system)}.`;
  }
  return `${letter ?? ""} ${size}`.trim();
}

const feedText = (mmMin: number, system: UnitSystem): string => `${formatSize(mmMin, system)}/min`;

/**
 * Where it leads, in a sentence.
 * @param lead - what it is a matter for
 * @returns the sentence
 * @example leadText({ to: "level" }).includes("feet") // true
 */
export function leadText(lead: CircleLead): string {
  switch (lead.to) {
    case "wait":
      return `Fresh bearings, nut or screw on ${lead.letter}: spikes are normal while they run in. Leave them, and the control’s friction compensation at zero; take the circle again after some weeks of work. Some tune them away at once and have to do it again when it runs easier.`;
    case "table":
      return "A matter for the compensation table, once nothing is loose or worn.";
    case "level":
      return "A matter for levelling and alignment: the feet first, then what was moved or struck.";
    case "control":
      return "A matter for the control’s servo settings: for whoever is qualified to change them, by the machine’s manual.";
    case "case":
      return lead.because === "spike"
        ? `Friction of ${lead.letter}: its ways and wipers, its lubrication, its gib. Not to be tuned away before that is looked at.`
        : `A matter for ${lead.letter}: find the link that does it.`;
  }
}

/**
 * What was wrong with a pass, and what to do.
 * @param trouble - what was wrong
 * @returns the sentence
 * @example troubleText({ code: "no-end" }).includes("again") // true
 */
export function troubleText(trouble: PassTrouble): string {
  const deg = (value: number): string => `${formatNumber(value, 0)}°`;
  switch (trouble.code) {
    case "no-start":
      return "The bar never came in to the circle. Is it on both seats, and is the run in of the program the one that was set up? Take this way round again.";
    case "fell-off":
      return `The bar fell off after ${deg(trouble.afterDeg)} of the circle. Stop the machine, look why: seats dirty, centre not where it was set, or the machine went wrong there. Then take this way round again.`;
    case "no-end":
      return "The reading ended before the circle did. Take this way round again, and end it after the run out.";
    case "other-feed":
      return `It went round at ${formatNumber(100 * trouble.factor, 0)} % of the feed that was commanded. Set feed and rapid override to 100 % and take it again: servos lag by the feed.`;
    case "gap":
      return `Nothing was received over ${formatNumber(trouble.deg, 1)}° from ${deg(trouble.fromDeg)} of the way on. What is missing stays missing.`;
  }
}

/**
 * What the readings say against how they were said to be taken.
 * @param doubt - the doubt
 * @returns a question
 * @example doubtText({ code: "other-start", deg: 30 }).includes("30°") // true
 */
export function doubtText(doubt: CircleDoubt): string {
  return doubt.code === "other-start"
    ? `The axes turn round ${formatNumber(Math.abs(doubt.deg), 0)}° from where these readings say. Did the circle begin where it was set up to begin?`
    : `The two ways do not fit each other; with the ${doubt.trace === 0 ? "first" : "second"} taken for the other way round they do. Was the program begun twice from its top?`;
}

/**
 * A line of the tremble.
 * @param line - by an axis’ turns or by the clock
 * @param system - units
 * @returns the words
 * @example trembleText({ by: "hz", hz: 12.5, mm: 0.001 }, "metric") // '1.0 µm at 12.5 Hz, whichever axis moves'
 */
export function trembleText(line: TrembleLine, system: UnitSystem): string {
  const size = formatDeviation(line.mm, { system });
  return line.by === "hz"
    ? `${size} at ${formatNumber(line.hz, 1)} Hz, whichever axis moves`
    : `${size} along ${line.letter}, ${formatNumber(line.perTurn, 2)} times a turn of its screw`;
}

/**
 * Whether planes agree, in a sentence.
 * @param test - what was tested
 * @returns the sentence
 * @example agreementText({ kind: "lost", letter: "X", chiSquared: 20, dof: 1, p: 0.0001, agrees: false }).startsWith("The planes do not agree") // true
 */
export function agreementText({ kind, letter, agrees }: JointTest): string {
  const what = LIMITED_TEXT[kind].toLowerCase();
  if (letter === null)
    return agrees
      ? `The three planes close: ${what}.`
      : `The three planes do not close: ${what}. One of them was taken otherwise.`;
  return agrees
    ? `Both planes say the same of ${letter}: ${what}.`
    : `The planes do not agree on ${letter}: ${what}. It is not the same at both places, or one was taken otherwise.`;
}
