import type { AxisConfig, FindingId, LocateTest, Report } from "@iron/core";
import type { Tried } from "../diagnosis-case";
import { answerStanding, logStanding } from "../standing-axis";
import { lostUm, type Condition } from "./condition";
import { noticed, signal } from "./signals";

/**
 * How a test was done. Each has blind spots of its own: a coarse dial is known to be coarse and says so in its
 * uncertainty; the wrong place and the bad hand are known to nobody. Common practice, no source.
 */
export const DONE = [
  { how: "well", often: 0.72 },
  { how: "coarse", often: 0.13 },
  { how: "wrong-place", often: 0.1 },
  { how: "badly", often: 0.05 },
] as const;
export type How = (typeof DONE)[number]["how"];

/** Standard uncertainty that is stated, µm. */
const STATED_UM: Record<How, number> = { well: 0.9, "wrong-place": 0.9, badly: 0.9, coarse: 3.2 };
/** Scatter that is there, µm. */
const SCATTER_UM: Record<How, number> = { well: 0.9, "wrong-place": 1.5, badly: 18, coarse: 3.2 };
/** Seen at the wrong place: what sits at one spot, or at the far end, is all but missed. */
const ELSEWHERE: readonly FindingId[] = [
  "dry",
  "tight-spot",
  "far-play",
  "profile-middle",
  "flank-middle",
  "carriage-click",
  "rocks",
];

export interface Answer extends Tried {
  readonly how: How;
}

/** An override at zero or an interlock holds it: not one that was met in a program only. */
const stands = (c: Condition): boolean => c.interlock > 0 || c.override * (1 - c.inProgram) > 0;

/** Chance that the test says yes to one thing. */
export function says(id: FindingId, { strength, how }: { readonly strength: number; readonly how: How }): number {
  const there = how === "wrong-place" && ELSEWHERE.includes(id) ? 0.25 * strength : strength;
  const seen = noticed(how === "coarse" ? 0.8 * there : there, 6);
  // A bad test is as good as none three times in ten; a good one is written down wrong once in a hundred.
  const wrong = how === "badly" ? 0.3 : 0.01;
  return seen * (1 - wrong) + (1 - seen) * wrong;
}

/**
 * What a test on this axis would read if nothing disturbed it, µm. A lever that rides on the moving member sees the nut
 * move, and the bracket that holds it; on a casting it sees what is between. Null: it has no size.
 */
export function readsUm(
  kind: string | undefined,
  { axis, c, how }: { readonly axis: AxisConfig; readonly c: Condition; readonly how: How },
): number | null {
  const wear = how === "wrong-place" ? 0.1 * c.wearUm : 0.8 * c.wearUm;
  switch (kind) {
    case "whole-chain":
      return lostUm(axis, c) + wear;
    case "end-float":
      // A screw that stands still has no bearings to float in.
      return (axis.transmission === "rotating-nut" ? 0 : c.bearingUm) + c.housingUm;
    case "nut-flank":
      // Where the nut turns, its own bearings stand between screw and member.
      return c.nutUm + c.bracketUm + wear + (axis.transmission === "rotating-nut" ? c.bearingUm : 0);
    case "coupling-slip":
      return c.couplingUm + c.giveUm;
    case "housing-shift":
      return c.housingUm;
    case "bracket-shift":
      return c.bracketUm;
    default:
      return null;
  }
}

/** Does a test: how well, what it says, what it reads. */
export function tried(
  test: LocateTest,
  {
    axis,
    c,
    ids,
    luck,
  }: {
    readonly axis: AxisConfig;
    readonly c: Condition;
    readonly ids: readonly FindingId[];
    readonly luck: { uniform(): number; normal(): number };
  },
): Answer {
  const still = answerStanding(test, stands(c));
  if (still) return { ...still, how: "well" };
  let at = luck.uniform();
  const how = DONE.find((d) => (at -= d.often) < 0)?.how ?? "well";
  const reports = ids.map((id): Report => {
    const present = luck.uniform() < says(id, { strength: signal(id, c, axis), how });
    return { finding: id, present, source: "test" };
  });
  const reads = readsUm(test.magnitude, { axis, c, how });
  if (reads === null || !test.magnitude) return { test: test.id, how, reports, magnitude: null };
  const um = reads + SCATTER_UM[how] * luck.normal();
  const magnitude = { kind: test.magnitude, reversalValueMm: um / 1000, uMm: STATED_UM[how] / 1000 };
  return { test: test.id, how, reports, magnitude };
}

/** How wide an axis that stands for others stands, µm, and as a share of what it reads. */
const NEAR_UM = 1.2;
const NEAR_SHARE = 0.06;

/** Log likelihood of an answer for an axis in this condition, over the ways it can have been done. */
export function logAnswer(answer: Answer, axis: AxisConfig, c: Condition): number {
  const still = logStanding(answer, stands(c));
  if (still !== null) return still;
  let sum = 0;
  for (const { how, often } of DONE) {
    // A coarse dial is known by what it states.
    if (answer.magnitude && (how === "coarse") !== (answer.how === "coarse")) continue;
    let p = often;
    for (const { finding, present } of answer.reports) {
      const yes = says(finding, { strength: signal(finding, c, axis), how });
      p *= present ? yes : 1 - yes;
    }
    const reads = answer.magnitude && readsUm(answer.magnitude.kind, { axis, c, how });
    if (answer.magnitude && reads !== null) {
      // A few hundred axes stand for all there can be: each for those within a little of it.
      const width = Math.hypot(SCATTER_UM[how], NEAR_UM, NEAR_SHARE * reads);
      const off = (1000 * answer.magnitude.reversalValueMm - reads) / width;
      p *= Math.exp(-0.5 * off * off) / width;
    }
    sum += p;
  }
  return Math.log(sum + 1e-300);
}
