import type { AxisConfig } from "../../machine/axis";
import type { FindingId } from "../findings";
import { coverageFactor, sampleDeviation } from "../../quantity";
import type { FeelFigure, FeelRead, FeelResult, PullScale } from "./hand-types";

/** How much more than usual counts as tight (common practice, no source). */
const TIGHT_RATIO = 1.6;
/** Above this many times the upper end of what is usual for its kind it is tight all the same. */
const KIND_RATIO = 1.5;

/** Pull of a member with its drive off, N, on a middling machine (common practice, no source). */
const PULL_BY_WAY: Record<AxisConfig["guideway"], readonly [number, number]> = {
  rail: [15, 120],
  box: [60, 320],
  dovetail: [20, 140],
  "v-wheel": [4, 40],
  "crossed-roller": [2, 40],
  "ball-cage": [2, 40],
};
/** Screw size of the middling machine, mm: heavier members have larger screws. */
const MIDDLING_MM = 32;

/**
 * Pull that is usual for such a member on such a way, N. The screw’s size stands for the member’s
 * weight, which nobody has noted; a screw that drives back adds its nut and bearings.
 * @param axis - configuration
 * @returns least and greatest, N
 * @example usualPullN(defaultAxis("vertical-centre", "X")) // [ 15, 120 ]
 */
export function usualPullN(axis: AxisConfig): readonly [number, number] {
  const [low, high] = PULL_BY_WAY[axis.guideway];
  const size =
    axis.transmission === "rack" ? 1 : Math.min(2.5, Math.max(0.4, axis.screw.nominalMm / MIDDLING_MM)) ** 1.5;
  return [low * size, high * size];
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}

interface Middle {
  readonly value: number;
  readonly spread: number;
  readonly expanded: number;
}

/**
 * Median of the pulls and its U: 1.253 s/√n for a median of normal readings, s from those that are no
 * spots, on Student’s t.
 */
function middleOf(values: readonly number[]): Middle {
  const value = median(values);
  const spread = 1.4826 * median(values.map((v) => Math.abs(v - value)));
  const calm = values.filter((v) => Math.abs(v - value) <= Math.max(4 * spread, 0.2 * value));
  const s = sampleDeviation(calm);
  const k = coverageFactor(Math.max(1, calm.length - 1));
  return {
    value,
    spread,
    expanded: (k * 1.2533 * s) / Math.sqrt(values.length),
  };
}

/** A place is tight when it is heavy on the way out and on the way back, or it was the hand. */
function spotsIn(
  pulls: readonly FeelRead[],
  { value, spread }: Middle,
): { readonly both: readonly number[]; readonly once: readonly number[] } {
  const heavy = (p: FeelRead): boolean => Math.abs(p.value) - value > Math.max(3.5 * spread, 0.3 * value);
  const places = [...new Set(pulls.filter(heavy).map((p) => p.at))];
  const everyWay = (at: number): boolean => {
    const there = pulls.filter((p) => p.at === at);
    return there.length > 1 && there.every(heavy);
  };
  return {
    both: places.filter(everyWay),
    once: places.filter((at) => !everyWay(at)),
  };
}

/** What the pull says of tightness everywhere: against its own past, or against its kind. */
function tightness(
  middle: Middle,
  { usualN, kindN }: PullScale,
): { readonly present: boolean | null; readonly say: string } {
  const [least, most] = [middle.value - middle.expanded, middle.value + middle.expanded];
  if (usualN !== null && usualN > 0) {
    if (least > TIGHT_RATIO * usualN) return { present: true, say: "" };
    if (most <= TIGHT_RATIO * usualN) return { present: false, say: "" };
    return {
      present: null,
      say: "Whether that is tighter than usual cannot be told from so few pulls: pull it again.",
    };
  }
  const usual = `${Math.round(kindN[0])} to ${Math.round(kindN[1])} N`;
  if (least > KIND_RATIO * kindN[1])
    return {
      present: true,
      say: `High for such a member: ${usual} are usual. Pull a sister axis to be sure.`,
    };
  return {
    present: null,
    say: `Nobody noted what is usual on this axis, so whether it is tight everywhere cannot be told (${usual} are usual for such a member). Pull a sister axis, or type the usual pull.`,
  };
}

/**
 * Pulls by hand along the travel, without the drive. It is put down to the drive only when it moves
 * evenly and no harder than is usual on this axis. “Tight near a place” is said of an even member in
 * at most 5 % of cases (coverage bench).
 * @param reads - places and pulls
 * @param pull - what is usual on this axis
 * @returns findings and sentences; null while there are too few
 * @example pushResult([], { usualN: null }) // null
 */
export function pushResult(reads: readonly FeelRead[], pull: PullScale): FeelResult | null {
  const pulls = reads.filter((r) => r.group === "out" || r.group === "back");
  const ends = reads.find((r) => r.group === "ends");
  const feeling = reads.find((r) => r.group === "feel");
  if (pulls.length < 4 && !ends) return null;
  const answers: Partial<Record<FindingId, boolean>> = {};
  const remarks: string[] = [];
  const figures: FeelFigure[] = [];
  if (ends) answers["short-travel"] = ends.value > 0;
  if (feeling) answers.grit = feeling.value > 0;
  let spots: readonly number[] = [];
  let asUsual = false;
  if (pulls.length >= 4) {
    const middle = middleOf(pulls.map((p) => Math.abs(p.value)));
    const { both, once } = spotsIn(pulls, middle);
    spots = both;
    answers["tight-spot"] = both.length > 0;
    figures.push({
      name: "Pull, middle of all",
      quantity: "force",
      value: middle.value,
      expanded: middle.expanded,
    });
    if (pull.usualN !== null && pull.usualN > 0)
      figures.push({
        name: "Usual on this axis",
        quantity: "force",
        value: pull.usualN,
        expanded: null,
      });
    const tight = tightness(middle, pull);
    if (tight.present !== null) answers["tight-all"] = tight.present;
    asUsual = tight.present === false;
    if (tight.say) remarks.push(tight.say);
    if (once.length) remarks.push(`Heavy once at ${once.join(", ")} mm, not both ways: taken as the hand.`);
  }
  return {
    answers,
    headline: headline(answers, spots, asUsual),
    figures,
    remarks,
  };
}

function headline(answers: Partial<Record<FindingId, boolean>>, spots: readonly number[], asUsual: boolean): string {
  const said = [
    answers["tight-all"] ? "tight over the whole travel" : "",
    spots.length ? `tight near ${spots.join(", ")} mm, both ways` : "",
    answers["short-travel"] ? "stops short of an end" : "",
    answers.grit ? "gritty" : "",
  ].filter(Boolean);
  if (said.length) return `The member is ${said.join("; ")}, without the drive: guideway or screw.`;
  return asUsual
    ? "It moves evenly by hand, and no harder than usual: what binds lies in motor or drive."
    : "It moves evenly along the travel.";
}
