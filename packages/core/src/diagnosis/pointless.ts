import { finding, type FindingGroup, type FindingId } from "../measure/findings";
import type { Evidence, Report } from "./evidence";
import type { TestId } from "./tests";

/** What only a test under power can have found. */
const MOVED: readonly FindingId[] = [
  "spikes",
  "tight-one-way",
  "rumble",
  "home-varies",
  "lost-steps",
  "crest-slope",
  "travel-wrong",
  "end-walks",
  "scale-gap",
];

/** Tests that drive the axis. */
const NEEDS_MOTION: readonly TestId[] = [
  "whole-chain",
  "travel-profile",
  "whole-twice",
  "motor-against-scale",
  "end-float",
  "housing-shift",
  "nut-flank",
  "flank-twice",
  "bracket-shift",
  "coupling-slip",
  "load-trace",
  "end-watch",
  "crest-run",
  "sound-comparison",
  "recording",
  "home-again",
  "run-and-return",
  "travel-check",
  "gantry-square",
];

/** Tests in which the axis may move, or a spindle turns, though they look at something else. */
const RUNS_BESIDES: readonly TestId[] = ["control-check", "listen-still"];

/**
 * Is something of the machine under way in a test?
 * @param test - which test
 * @returns whether the axis or the spindle runs in it
 * @example runsIn("load-trace") // true
 */
export function runsIn(test: string): boolean {
  return [...NEEDS_MOTION, ...RUNS_BESIDES].some((id) => id === test);
}

/**
 * Does a test need the axis to run on command?
 * @param test - which test
 * @returns whether an axis that stands still has no answer to it
 * @example needsMotion("whole-chain") // true
 */
export function needsMotion(test: string): boolean {
  return NEEDS_MOTION.some((id) => id === test);
}

/**
 * Was the axis last said not to move?
 * @param evidence - of the case
 * @returns whether it was
 * @example standsStill({ reports: [{ finding: "no-motion", present: true, source: "symptom" }] }) // true
 */
export function standsStill({ reports }: Pick<Evidence, "reports">): boolean {
  return reports.findLast((r) => r.finding === "no-motion")?.present === true;
}

/** What an axis does or has only while it runs. */
const RUNNING: readonly FindingGroup[] = ["noise", "binding", "position", "surface"];
const WITHOUT_MOTION: readonly FindingId[] = ["grind-still", "hunting"];

/** The axis has moved on command: it was heard or felt to run, or a test was made that needs it. */
function hasMoved({ reports, magnitudes }: Pick<Evidence, "reports" | "magnitudes">): boolean {
  return (
    magnitudes.length > 0 ||
    reports.some((r) => {
      if (r.finding === "no-motion") return !r.present;
      if (r.source === "test") return MOVED.includes(r.finding);
      return r.present && RUNNING.includes(finding(r.finding).group) && !WITHOUT_MOTION.includes(r.finding);
    })
  );
}

/** The axis moves, and nobody says that it stops in a program: nothing at the control holds it. */
function isHeldByNothing(evidence: Evidence): boolean {
  const stops = evidence.reports.findLast((r) => r.finding === "stops-in-program")?.present;
  return hasMoved(evidence) && !standsStill(evidence) && stops !== true;
}

/**
 * What follows of itself: an axis that a test has moved moves, and an override that stops it cannot stand at zero.
 * @param evidence - of the case
 * @returns reports that nobody had to make
 * @example impliedBy({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] }) // []
 */
export function impliedBy(evidence: Evidence): readonly Report[] {
  const no = (finding: FindingId): Report => ({ finding, present: false, source: "test" });
  if (!hasMoved(evidence) || standsStill(evidence)) return [];
  const looked = evidence.reports.some((r) => r.finding === "override-zero");
  return [no("no-motion"), ...(isHeldByNothing(evidence) && !looked ? [no("override-zero")] : [])];
}

/**
 * Why a test can say nothing in this case, as far as is known: an override that stops an axis cannot stand at zero when
 * the axis has just moved. Source: common practice, no source.
 * @param evidence - of the case
 * @param test - which test
 * @returns a sentence; null where it may say something
 * @example
 * pointless({ axis: defaultAxis("vertical-centre", "X"), reports: [{ finding: "no-motion", present: false, source: "symptom" }], magnitudes: [] }, "control-check")
 * // "The axis moves on command, and nobody told of a stop in a program: nothing at the control holds it."
 */
export function pointless(evidence: Evidence, test: TestId): string | null {
  if (test === "control-check" && isHeldByNothing(evidence))
    return "The axis moves on command, and nobody told of a stop in a program: nothing at the control holds it.";
  if (needsMotion(test) && standsStill(evidence)) return "The axis does not move, and this needs it moving.";
  if (test === "recording" && evidence.sound) return "It was recorded, and what it sounds like is weighed.";
  if (test === "sound-comparison" && evidence.sister === false)
    return "No other axis of its kind is here to compare it with.";
  return null;
}
