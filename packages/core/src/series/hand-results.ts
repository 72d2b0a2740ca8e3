import type { FindingId } from "../diagnosis/findings";
import { coverageFactor } from "../quantity";
import { HAND_TESTS, type HandKind } from "./hand-tests";
import type { SeriesPlan, SeriesStep } from "./series-types";

/** What a test by hand found; findings that it leaves open are not in it. */
export interface HandResult {
  readonly answers: Partial<Record<FindingId, boolean>>;
  /** The first sentence is the verdict; lengths and forces follow as figures. */
  readonly headline: string;
  readonly figures: readonly HandFigure[];
  /** What spoils or limits it. */
  readonly remarks: readonly string[];
}

export interface HandFigure {
  readonly name: string;
  /** Where it was read, mm. */
  readonly atMm?: number;
  readonly quantity: "deviation" | "force";
  readonly value: number;
  /** Expanded uncertainty, k about 2; null where it cannot be told. */
  readonly expanded: number | null;
}

type Read = SeriesStep & { readonly value: number };

/** Play across a guideway by hand above which it rocks, mm (common practice, no source). */
export const ROCK_LIMIT_MM = 0.02;

/** How much more than usual counts as tight (common practice, no source). */
const TIGHT_RATIO = 1.6;

/**
 * Judges the readings of a test by hand.
 * @param usualN pull that is usual on this axis, N; null where nobody noted it
 */
export function handResult(
  kind: HandKind,
  plan: SeriesPlan,
  reads: readonly Read[],
  usualN: number | null,
): HandResult | null {
  switch (kind) {
    case "rock":
      return rock(plan, reads);
    case "hand-push":
      return push(reads, usualN);
    case "wheel-turn":
      return wheels(reads);
    case "motor-alone":
      return motor(reads);
    case "finger-feel":
      return feel(reads);
    case "coast":
      return coast(reads);
  }
}

const of = (reads: readonly Read[], group: string, at?: number): Read | undefined =>
  reads.find((r) => r.group === group && (at === undefined || r.at === at)); // prettier-ignore

function rock(plan: SeriesPlan, reads: readonly Read[]): HandResult | null {
  const rows = plan.places.flatMap((at) => {
    const pushed = of(reads, "pushed", at);
    const pulled = of(reads, "pulled", at);
    if (!pushed || !pulled) return [];
    const again = of(reads, "pushed again", at);
    const home = again ? (pushed.value + again.value) / 2 : pushed.value;
    return [{ at, play: Math.abs(pulled.value - home), back: again ? again.value - pushed.value : null }]; // prettier-ignore
  });
  if (rows.length === 0) return null;
  const returns = rows.flatMap((r) => (r.back === null ? [] : [r.back]));
  // Two pushes at each place, pooled: half the squared difference is a variance of one reading.
  const deviation = returns.length ? Math.sqrt(returns.reduce((s, d) => s + d * d / 2, 0) / returns.length) : null; // prettier-ignore
  // Play is a reading less the mean of two.
  const expanded = deviation === null ? null : coverageFactor(returns.length) * Math.max(deviation, 0.0005) * Math.sqrt(1.5); // prettier-ignore
  const worst = rows.reduce((a, b) => (b.play > a.play ? b : a));
  const u = expanded ?? 0.25 * ROCK_LIMIT_MM;
  const clear = Math.abs(worst.play - ROCK_LIMIT_MM) > u;
  const rocks = worst.play > ROCK_LIMIT_MM;
  const even = rows.every((r) => worst.play - r.play < 0.4 * worst.play);
  const remarks: string[] = [];
  if (rocks && rows.length > 1)
    remarks.push(
      even
        ? "About the same everywhere: the setting of gib, carriage or wheels."
        : "More in one place than elsewhere: the way itself is worn there. A gib set there binds where it is not worn.",
    );
  if (returns.some((d) => Math.abs(d) > 0.4 * ROCK_LIMIT_MM))
    remarks.push("It did not come back to where it was: the stand moved or the table bent. Take that place again."); // prettier-ignore
  return {
    answers: clear ? { rocks } : {},
    headline: !clear
      ? "Too near the limit to say: take it again, three times at the worst place."
      : rocks
        ? "It rocks: more than a sound way has."
        : "It does not rock.",
    figures: rows.map((r) => ({ name: "Play at", atMm: r.at, quantity: "deviation" as const, value: r.play, expanded })), // prettier-ignore
    remarks,
  };
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2
    ? sorted[half]
    : (sorted[half - 1] + sorted[half]) / 2;
}

function push(
  reads: readonly Read[],
  usualN: number | null,
): HandResult | null {
  // prettier-ignore
  const pulls = reads.filter((r) => r.group === "out" || r.group === "back");
  const ends = of(reads, "ends");
  const feeling = of(reads, "feel");
  if (pulls.length < 4 && !ends) return null;
  const answers: Partial<Record<FindingId, boolean>> = {};
  const remarks: string[] = [];
  const figures: HandFigure[] = [];
  if (ends) answers["short-travel"] = ends.value > 0;
  if (feeling) answers.grit = feeling.value > 0;
  const spots: number[] = [];
  if (pulls.length >= 4) {
    const values = pulls.map((p) => Math.abs(p.value));
    const middle = median(values);
    const spread = 1.4826 * median(values.map((v) => Math.abs(v - middle)));
    // A spot shows on the way out and on the way back, or it was the hand.
    const high = pulls.filter((p) => Math.abs(p.value) - middle > Math.max(3 * spread, 0.3 * middle)); // prettier-ignore
    for (const place of new Set(high.map((p) => p.at)))
      if (high.filter((p) => p.at === place).length === pulls.filter((p) => p.at === place).length) spots.push(place); // prettier-ignore
    answers["tight-spot"] = spots.length > 0;
    figures.push({ name: "Pull, middle of all", quantity: "force", value: middle, expanded: (2 * 1.25 * spread) / Math.sqrt(values.length) }); // prettier-ignore
    if (usualN !== null && usualN > 0) {
      figures.push({ name: "Usual on this axis", quantity: "force", value: usualN, expanded: null }); // prettier-ignore
      answers["tight-all"] = middle > TIGHT_RATIO * usualN;
    } else remarks.push("Nobody noted what is usual on this axis: whether it is tight everywhere stays open. Pull a sister axis, or type the usual pull."); // prettier-ignore
    const once = high.filter((p) => !spots.includes(p.at));
    if (once.length) remarks.push(`Heavy once at ${[...new Set(once.map((p) => p.at))].join(", ")} mm, not both ways: taken as the hand.`); // prettier-ignore
  }
  const said = [
    answers["tight-all"] ? "tight over the whole travel" : "",
    spots.length ? `tight near ${spots.join(", ")} mm, both ways` : "",
    answers["short-travel"] ? "stops short of an end" : "",
    answers.grit ? "gritty" : "",
  ].filter(Boolean);
  return {
    answers,
    headline: said.length ? `The member is ${said.join("; ")}, without the drive: guideway or screw.` : "It moves evenly by hand: what binds lies in motor or drive.", // prettier-ignore
    figures,
    remarks,
  };
}

function wheels(reads: readonly Read[]): HandResult | null {
  if (reads.length === 0) return null;
  const stuck = reads.filter((r) => r.value === 2).map((r) => r.at);
  const free = reads.filter((r) => r.value === 0).map((r) => r.at);
  return {
    answers: { "wheel-stuck": stuck.length > 0, "wheel-free": free.length > 0 },
    headline:
      [
        stuck.length ? `Wheel ${stuck.join(", ")} will not turn: too tight.` : "", // prettier-ignore
        free.length ? `Wheel ${free.join(", ")} does not touch: too loose.` : "", // prettier-ignore
      ]
        .filter(Boolean)
        .join(" ") || "Every wheel just turns: preload is right.",
    figures: [],
    remarks:
      stuck.length && free.length
        ? ["One tight, one loose on the same plate: it stands askew. Set the eccentric ones in turns, a little each."] // prettier-ignore
        : [],
  };
}

function motor(reads: readonly Read[]): HandResult | null {
  const sounds = reads.filter((r) => r.group === "sound");
  const hand = of(reads, "by hand");
  const brake = of(reads, "brake");
  if (!hand && !brake && sounds.length === 0) return null;
  const same = sounds.filter((r) => r.value === 2);
  const answers: Partial<Record<FindingId, boolean>> = {};
  // A quiet motor is told only after it ran at the highest speed of the plan.
  if (same.length || sounds.length > 0) answers["motor-noise"] = same.length > 0; // prettier-ignore
  if (hand || brake) answers["motor-heavy"] = hand?.value === 1 || brake?.value === 1; // prettier-ignore
  const said = [
    answers["motor-noise"] ? `The motor makes the same noise alone (at ${same.map((r) => `${r.at} %`).join(", ")} of rapid): it is the motor.` : answers["motor-noise"] === false ? "The motor is quiet alone: the noise is in the mechanics." : "", // prettier-ignore
    answers["motor-heavy"] ? (brake?.value === 1 ? "Its brake is hot: it drags." : "It turns heavily by hand.") : "", // prettier-ignore
  ].filter(Boolean);
  return {
    answers,
    headline: said.join(" ") || "It turns easily.",
    figures: [],
    remarks: sounds.some((r) => r.value === 1) ? ["Another noise than the one complained of: note it; it is not this case’s."] : [], // prettier-ignore
  };
}

function feel(reads: readonly Read[]): HandResult | null {
  if (reads.length === 0) return null;
  const rough = reads.filter((r) => r.value === 2);
  const half = rough.length < reads.length / 2;
  return {
    answers: { "rough-finger": rough.length > 0 },
    headline: rough.length
      ? `Rough: any roughness condemns the bearing.`
      : "Smooth all round, both ways.",
    figures: [],
    remarks: rough.length
      ? [
          half
            ? `At ${[...new Set(rough.map((r) => `${r.at}° ${r.group}`))].join(", ")} only: dents at fixed places point to a blow or to long standing.` // prettier-ignore
            : "Nearly everywhere: dirt or fatigue.",
        ]
      : [],
  };
}

function coast(reads: readonly Read[]): HandResult | null {
  if (reads.length < 2) return null;
  const count = (grade: number): number => reads.filter((r) => r.value === grade).length; // prettier-ignore
  const [stuck, right, free] = [count(0), count(1), count(2)];
  const most = Math.max(stuck, right, free);
  // Two thirds of the flicks must agree, and none may say the opposite.
  const agreed = most >= (2 * reads.length) / 3 && !(stuck > 0 && free > 0);
  const words = HAND_TESTS.coast.grades("");
  return {
    answers: agreed
      ? { "coasts-free": most === free, "coast-stuck": most === stuck }
      : {},
    headline: !agreed
      ? "The flicks disagree: is the nut dragging, or the screw bent? Free it and flick again."
      : most === right
        ? "Spins a little and comes to rest: bearing preload feels right."
        : most === free
          ? "Runs on by itself: preload is gone or the nut is loose."
          : "Will not turn: the bearings are too tight.",
    figures: [],
    remarks: [
      `${stuck} × ${words[0]}, ${right} × ${words[1]}, ${free} × ${words[2]}.`,
    ],
  };
}
