import type { FindingId } from "../findings";
import { expandedUncertainty, rectangular } from "../../quantity";
import { pushResult } from "./push-result";
import { FEEL_TESTS, type FeelKind } from "./feel-tests";
import type { FeelRead, FeelResult, PullScale, HandTestPlan } from "./hand-types";

type Read = FeelRead;

/** Play across a guideway by hand above which it rocks, mm (common practice, no source). */
export const ROCK_LIMIT_MM = 0.02;

/**
 * Judges the readings of a test by hand.
 * @param kind - of the test
 * @param options - `plan`: the plan; `reads`: what was read; `pull`: what is usual on this axis
 * @returns findings and sentences; null while there are too few readings
 * @example
 * feelResult("hand-push", { plan: defaultHandTest(defaultAxis("vertical-centre", "X"), "hand-push"), reads: [], pull: { usualN: null } })
 * // null
 */
export function feelResult(
  kind: FeelKind,
  { plan, reads, pull }: { readonly plan: HandTestPlan; readonly reads: readonly Read[]; readonly pull: PullScale },
): FeelResult | null {
  switch (kind) {
    case "rock":
      return rock(plan, reads);
    case "hand-push":
      return pushResult(reads, pull);
    case "wheel-turn":
      return wheels(reads);
    case "motor-alone":
      return motor(plan, reads);
    case "finger-feel":
      return feel(reads);
    case "coast":
      return coast(reads);
  }
}

const of = (reads: readonly Read[], group: string, at?: number): Read | undefined =>
  reads.find((r) => r.group === group && (at === undefined || r.at === at));

/** Step of an indicator that nobody named, mm: counts in U of a rock (common practice, no source). */
const ROCK_STEP_MM = 0.002;

/**
 * Play across a way, from pushed, pulled and pushed again. U from how well it came back, pooled over
 * the places, and the display; without a second push nobody knows it, and nothing is decided.
 * At the limit “it rocks” is said in at most 5 % of cases, at twice the limit in above 90 % (coverage bench).
 */
function rock(plan: HandTestPlan, reads: readonly Read[]): FeelResult | null {
  const rows = plan.places.flatMap((at) => {
    const pushed = of(reads, "pushed", at);
    const pulled = of(reads, "pulled", at);
    if (!pushed || !pulled) return [];
    const again = of(reads, "pushed again", at);
    const home = again ? (pushed.value + again.value) / 2 : pushed.value;
    const play = Math.abs(pulled.value - home);
    return [{ at, play, back: again ? again.value - pushed.value : null }];
  });
  if (rows.length === 0) return null;
  const returns = rows.flatMap((r) => (r.back === null ? [] : [r.back]));
  const expanded = rockExpanded(returns, plan.resolutionMm ?? ROCK_STEP_MM);
  const worst = rows.reduce((a, b) => (b.play > a.play ? b : a));
  const over = expanded !== null && worst.play - expanded > ROCK_LIMIT_MM;
  const under = expanded !== null && worst.play + expanded <= ROCK_LIMIT_MM;
  const even = rows.every((r) => worst.play - r.play < 0.4 * worst.play);
  const remarks: string[] = [];
  if (over && rows.length > 1)
    remarks.push(
      even
        ? "About the same everywhere: the setting of gib, carriage or wheels."
        : "More in one place than elsewhere: the way itself is worn there. A gib set there binds where it is not worn.",
    );
  if (returns.some((d) => Math.abs(d) > 0.4 * ROCK_LIMIT_MM))
    remarks.push("It did not come back to where it was: the stand moved or the table bent. Take that place again.");
  return {
    answers: over ? { rocks: true } : under ? { rocks: false } : {},
    headline: over
      ? "It rocks: more than a sound way has."
      : under
        ? "It does not rock."
        : expanded === null
          ? "Push once more at each place: nobody knows yet how well it comes back."
          : "Too near the limit to say: take it again, three times at the worst place.",
    figures: rows.map((r) => ({
      name: "Play at",
      atMm: r.at,
      quantity: "deviation" as const,
      value: r.play,
      expanded,
    })),
    remarks,
  };
}

/** U of a play: a reading less the mean of two pushes; null without a second push. */
function rockExpanded(returns: readonly number[], stepMm: number): number | null {
  if (returns.length === 0) return null;
  // Half the squared difference of two pushes is a variance of one reading.
  const variance = returns.reduce((s, d) => s + (d * d) / 2, 0) / returns.length;
  return expandedUncertainty([
    { u: Math.sqrt(1.5 * variance), dof: returns.length },
    { u: rectangular(stepMm), dof: Infinity },
    { u: rectangular(stepMm) / Math.SQRT2, dof: Infinity },
  ]).expanded;
}

function wheels(reads: readonly Read[]): FeelResult | null {
  if (reads.length === 0) return null;
  const stuck = reads.filter((r) => r.value === 2).map((r) => r.at);
  const free = reads.filter((r) => r.value === 0).map((r) => r.at);
  return {
    answers: { "wheel-stuck": stuck.length > 0, "wheel-free": free.length > 0 },
    headline:
      [
        stuck.length ? `Wheel ${stuck.join(", ")} will not turn: too tight.` : "",
        free.length ? `Wheel ${free.join(", ")} does not touch: too loose.` : "",
      ]
        .filter(Boolean)
        .join(" ") || "Every wheel just turns: preload is right.",
    figures: [],
    remarks:
      stuck.length && free.length
        ? ["One tight, one loose on the same plate: it stands askew. Set the eccentric ones in turns, a little each."]
        : [],
  };
}

/**
 * A motor run alone. It is cleared only when it ran quietly at every speed of the plan; another noise
 * than the one complained of clears nothing.
 */
function motor(plan: HandTestPlan, reads: readonly Read[]): FeelResult | null {
  const sounds = reads.filter((r) => r.group === "sound");
  const hand = of(reads, "by hand");
  const brake = of(reads, "brake");
  if (!hand && !brake && sounds.length === 0) return null;
  const same = sounds.filter((r) => r.value === 2);
  const other = sounds.filter((r) => r.value === 1);
  const all = sounds.length >= plan.places.length;
  const answers: Partial<Record<FindingId, boolean>> = {};
  if (same.length) answers["motor-noise"] = true;
  else if (all && other.length === 0) answers["motor-noise"] = false;
  if (hand || brake) answers["motor-heavy"] = hand?.value === 1 || brake?.value === 1;
  const speeds = (list: readonly Read[]): string => `${list.map((r) => `${r.at} %`).join(", ")} of rapid`;
  const noise = same.length
    ? `The motor makes the same noise alone (at ${speeds(same)}): it is the motor.`
    : other.length
      ? `The motor makes another noise alone (at ${speeds(other)}): whether it has a part in the one complained of stays open.`
      : all
        ? "The motor is quiet alone, at every speed: the noise is in the mechanics."
        : sounds.length
          ? "Quiet so far: run it at the other speeds too before it is cleared."
          : "";
  const heavy = answers["motor-heavy"]
    ? brake?.value === 1
      ? "Its brake is hot: it drags."
      : "It turns heavily by hand."
    : "";
  return {
    answers,
    headline: [noise, heavy].filter(Boolean).join(" ") || "It turns easily.",
    figures: [],
    remarks: other.length
      ? ["Another noise than the one complained of: note it as a case of its own, or listen again with the cover off."]
      : [],
  };
}

function feel(reads: readonly Read[]): FeelResult | null {
  if (reads.length === 0) return null;
  const rough = reads.filter((r) => r.value === 2);
  const half = rough.length < reads.length / 2;
  return {
    answers: { "rough-finger": rough.length > 0 },
    headline: rough.length ? `Rough: any roughness condemns the bearing.` : "Smooth all round, both ways.",
    figures: [],
    remarks: rough.length
      ? [
          half
            ? `At ${[...new Set(rough.map((r) => `${r.at}° ${r.group}`))].join(", ")} only: dents at fixed places point to a blow or to long standing.`
            : "Nearly everywhere: dirt or fatigue.",
        ]
      : [],
  };
}

function coast(reads: readonly Read[]): FeelResult | null {
  if (reads.length < 2) return null;
  const count = (grade: number): number => reads.filter((r) => r.value === grade).length;
  const [stuck, right, free] = [count(0), count(1), count(2)];
  const most = Math.max(stuck, right, free);
  // Two thirds of the flicks must agree, and none may say the opposite.
  const agreed = most >= (2 * reads.length) / 3 && !(stuck > 0 && free > 0);
  const grades = FEEL_TESTS.coast.grades("");
  return {
    answers: agreed ? { "coasts-free": most === free, "coast-stuck": most === stuck } : {},
    headline: !agreed
      ? "The flicks disagree: is the nut dragging, or the screw bent? Free it and flick again."
      : most === right
        ? "Spins a little and comes to rest: bearing preload feels right."
        : most === free
          ? "Runs on by itself: preload is gone or the nut is loose."
          : "Will not turn: the bearings are too tight.",
    figures: [],
    remarks: [`${stuck} × ${grades[0]}, ${right} × ${grades[1]}, ${free} × ${grades[2]}.`],
  };
}
