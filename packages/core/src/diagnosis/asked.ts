import type { AxisConfig } from "../machine/axis";
import { finding, FINDINGS, type FindingId } from "../measure/findings";
import type { Posterior } from "./infer";
import { chanceOf, latentOf, reportErrors } from "./reports";
import { findingsOf, locateTest } from "./tests";

/** What hurts, as somebody says it who stands before the machine. */
export const HURTS = ["noise", "tight", "position", "part", "stands", "home", "heat", "hand"] as const;
export type Hurt = (typeof HURTS)[number];

const OF_HURT: Record<Exclude<Hurt, "hand">, readonly FindingId[]> = {
  noise: ["rumble", "howl", "rattle", "grit", "groan", "knock", "carriage-click", "grind-still", "click-descent"],
  tight: ["tight-all", "tight-end", "tight-turn", "tight-spot", "tight-one-way", "stalls", "end-walks", "short-travel"],
  position: ["lost-motion", "wanders", "lost-steps", "travel-wrong", "hunting", "spikes", "short-travel"],
  part: ["quadrant-step", "ripple-pair", "chatter", "recut", "lost-motion"],
  stands: ["no-motion", "stops-in-program", "display-dead", "stalls"],
  home: ["home-varies", "home-turn", "racks-out"],
  heat: ["hot-end", "stalls", "tight-all"],
};

/**
 * The symptoms that can be noticed on this axis.
 * @param axis - configuration
 * @returns ids of findings that are asked for
 * @example symptomsOf(defaultAxis("vertical-centre", "X")).includes("click-descent") // false
 */
export function symptomsOf(axis: AxisConfig): readonly FindingId[] {
  const gravity = axis.orientation !== "horizontal";
  return FINDINGS.filter(({ id, asked }) => {
    if (!asked) return false;
    if (id === "click-descent" || id === "tight-one-way") return gravity;
    if (id === "carriage-click") return axis.guideway === "rail";
    if (id === "recut") return axis.member === "head" || axis.member === "quill";
    if (id === "lost-steps") return axis.feedback === "open-loop";
    if (id === "hunting") return axis.motor === "servo";
    if (id === "home-turn") return axis.motor === "servo";
    if (id === "spikes") return axis.motor === "servo";
    if (id === "end-walks")
      return !["rack", "rotating-nut"].includes(axis.transmission) && axis.screw.fixings !== "fixed-fixed";
    if (id === "hot-end") return axis.transmission !== "rack";
    if (id === "howl") return axis.transmission !== "rack";
    if (id === "racks-out") return axis.transmission === "rack" && axis.member === "gantry";
    if (id === "short-travel") return axis.guideway === "ball-cage" || axis.guideway === "crossed-roller";
    return true;
  }).map((f) => f.id);
}

/**
 * The symptoms of one thing that hurts, on this axis; what may be held in the hand where that is it.
 * @param axis - configuration
 * @param hurt - what hurts
 * @returns ids of findings
 * @example symptomsFor(defaultAxis("vertical-centre", "X"), "home") // [ "home-varies", "home-turn" ]
 */
export function symptomsFor(axis: AxisConfig, hurt: Hurt): readonly FindingId[] {
  if (hurt === "hand") {
    const inHand = locateTest("in-hand");
    return inHand ? findingsOf(axis, inHand) : [];
  }
  const there = symptomsOf(axis);
  return OF_HURT[hurt].filter((id) => there.includes(id));
}

/** A question that is still open, and how much its answer is expected to tell, bits. */
export interface Question {
  readonly finding: FindingId;
  readonly bits: number;
}

const entropy = (p: number): number => (p <= 0 || p >= 1 ? 0 : -(p * Math.log2(p) + (1 - p) * Math.log2(1 - p)));

/**
 * The questions whose answers split best what is left: by mutual information between the answer and the account.
 * Source: Shannon 1948; as in 20 questions, a question that half of the accounts would answer otherwise tells a bit.
 * @param posterior - what is known so far
 * @param most - how many
 * @returns those that were not answered, the best first
 * @example
 * nextQuestions(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] }), 3).length // 3
 */
export function nextQuestions(posterior: Posterior, most: number): readonly Question[] {
  const { hypotheses, latents, evidence } = posterior;
  const answered = new Set(evidence.reports.filter((r) => r.source === "symptom").map((r) => latentOf(r.finding)));
  return symptomsOf(evidence.axis)
    .filter((id) => id === latentOf(id) && !answered.has(id))
    .map((id): Question => {
      const { missed, imagined } = reportErrors(id, "symptom");
      const [present, not] = latents.said.get(id) ?? [1, 1];
      let yes = 0;
      let each = 0;
      for (const { members, slight, probability } of hypotheses) {
        const p = chanceOf(latents, { id, members, lossChance: 0, axis: evidence.axis, slight });
        const there = (p * present) / (p * present + (1 - p) * not);
        const says = there * (1 - missed) + (1 - there) * imagined;
        yes += probability * says;
        each += probability * entropy(says);
      }
      return { finding: id, bits: entropy(yes) - each };
    })
    .sort((a, b) => b.bits - a.bits || finding(a.finding).text.localeCompare(finding(b.finding).text))
    .slice(0, most);
}
