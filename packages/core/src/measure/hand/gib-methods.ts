import { gibKnee, gibTurns, type GibKnee, type GibPoint } from "../../sums/preload/gib-knee";
import { formatQuantity, type UnitSystem } from "../../quantity";
import type { GibMode, HandTestPlan, HandTestStep } from "./hand-types";

/** Each method’s name and what it takes for good (common practice, no source). */
export const GIB_MODE_TEXT: Readonly<Record<GibMode, { readonly name: string; readonly tells: string }>> = {
  "friction-rock": {
    name: "Friction, with rock beside it",
    tells: "Two curves over the same turns: where the rock is gone, and where drag begins.",
  },
  friction: { name: "Friction alone", tells: "Drive load or pull against turns; the knee." },
  rock: { name: "Rock by hand", tells: "Rock against turns, until it is gone." },
  "lost-motion": {
    name: "Lost motion while tightening",
    tells: "Reversal read at each setting, until it falls no further.",
  },
  seize: {
    name: "Tighten until it seizes, then back off",
    tells: "The knee sampled by hand: back off until the whole travel is free.",
  },
};

export const SEIZE_GRADES = ["free over the whole travel", "drags somewhere", "seizes"] as const;

type Row = Omit<HandTestStep, "index">;

/**
 * The readings of a gib setting by its method, in order.
 * @param plan - of a gib setting
 * @returns the rows
 * @example gibSteps(defaultHandTest(defaultAxis("manual-mill", "X"), "gib-curve")).length > 5 // true
 */
export function gibSteps(plan: HandTestPlan): readonly Row[] {
  const groups: Record<GibMode, readonly string[]> = {
    "friction-rock": ["friction", "rock"],
    friction: ["friction"],
    rock: ["rock"],
    "lost-motion": ["lost motion"],
    seize: [],
  };
  const method = plan.gib ?? "friction";
  if (method === "seize")
    return [
      ...plan.places.map((at) => ({ group: "turning in", at })),
      ...[...plan.places].reverse().map((at) => ({ group: "backing off", at })),
    ];
  return plan.places.flatMap((at) => groups[method].map((group) => ({ group, at })));
}

type Read = HandTestStep & { readonly value: number };

/**
 * Steps that are no longer needed: past a plain climb nothing more is gained by tightening; after it
 * seized nothing tighter is tried, and after it came free nothing looser.
 * @param plan - of a gib setting
 * @param steps - its readings in order
 * @param reads - what was read so far
 * @returns index of the steps
 * @example gibNeedless(defaultHandTest(defaultAxis("manual-mill", "X"), "gib-curve"), [], []).size // 0
 */
export function gibNeedless(
  plan: HandTestPlan,
  steps: readonly HandTestStep[],
  reads: readonly Read[],
): ReadonlySet<number> {
  if (plan.gib === "seize") {
    const seized = reads.find((r) => r.group === "turning in" && r.value === 2);
    const freed = reads.find((r) => r.group === "backing off" && r.value === 0);
    const at = seized?.at ?? Infinity;
    return new Set(
      steps
        .filter((s) => (s.group === "turning in" ? s.at > at : s.at >= at || (freed !== undefined && s.at < freed.at)))
        .map((s) => s.index),
    );
  }
  const points = pointsOf(reads, "friction");
  if (points.length < 6) return new Set();
  const knee = gibKnee(points);
  const past = points.filter((p) => p.turns > knee.kneeTurns);
  if (!knee.reached || past.length < 3) return new Set();
  const last = points[points.length - 1].turns;
  return new Set(steps.filter((s) => s.at > last).map((s) => s.index));
}

export interface SeizeResult {
  readonly seizedTurns: number | null;
  /** Tightest setting, coming back, at which the whole travel was free. */
  readonly freeTurns: number | null;
}

export interface GibSetResult {
  readonly method: GibMode;
  /** Knee of friction; null where friction was not read. */
  readonly knee: GibKnee | null;
  /** Turns at which rock or lost motion falls no further; null where it was not read. */
  readonly firm: GibKnee | null;
  readonly seize: SeizeResult | null;
}

const pointsOf = (reads: readonly Read[], group: string): GibPoint[] =>
  reads.filter((r) => r.group === group).map((r) => ({ turns: r.at, friction: r.value }));

/**
 * A fall to a floor is a climb from a floor, seen from the other side: `steady` with a rise above
 * zero is still falling at the last setting.
 * @param points - turns of the adjuster and what was read
 * @returns the knee, with U
 * @example
 * firmKnee([0, 1, 2, 3, 4, 5, 6].map((turns) => ({ turns, friction: Math.max(0, 3 - turns) }))).kneeTurns // 3
 */
export function firmKnee(points: readonly GibPoint[]): GibKnee {
  const mirrored = gibKnee(points.map((p) => ({ ...p, turns: -p.turns })));
  const [from, to] = mirrored.betweenTurns;
  return { ...mirrored, kneeTurns: -mirrored.kneeTurns, betweenTurns: [-to, -from] };
}

/**
 * What the readings of a gib setting say by its method.
 * @param plan - of a gib setting
 * @param reads - what was read so far
 * @returns the knees that were found; null while there are too few readings
 * @example gibSetResult(defaultHandTest(defaultAxis("manual-mill", "X"), "gib-curve"), []) // null
 */
export function gibSetResult(plan: HandTestPlan, reads: readonly Read[]): GibSetResult | null {
  const method = plan.gib ?? "friction";
  if (method === "seize") {
    if (reads.length === 0) return null;
    const seized = reads.find((r) => r.group === "turning in" && r.value === 2);
    const freed = reads.find((r) => r.group === "backing off" && r.value === 0);
    return { method, knee: null, firm: null, seize: { seizedTurns: seized?.at ?? null, freeTurns: freed?.at ?? null } };
  }
  const friction = pointsOf(reads, "friction");
  const firm = pointsOf(reads, method === "lost-motion" ? "lost motion" : "rock");
  if (friction.length < 5 && firm.length < 5) return null;
  return {
    method,
    knee: friction.length >= 5 ? gibKnee(friction) : null,
    firm: firm.length >= 5 ? firmKnee(firm) : null,
    seize: null,
  };
}

export interface GibThread {
  readonly pitchMm: number;
  /** Taper of the gib, as a ratio. */
  readonly taper: number;
}

/** A usual adjuster: pitch 1.5 mm, taper 1 in 60 (common practice, no source). */
export const USUAL_GIB_THREAD: GibThread = { pitchMm: 1.5, taper: 1 / 60 };

function frictionText(knee: GibKnee, turns: (t: number) => string, between: string): string {
  switch (knee.shape) {
    case "knee":
      return `Friction begins to climb at ${turns(knee.kneeTurns)} in ${between}.`;
    case "flat":
      return "No knee of friction yet: it is still flat. Turn the gib further in and go on.";
    case "steady":
      return knee.risePerTurn > 0
        ? "Friction climbs from the first setting to the last, with no floor before it: the curve has to begin looser. Back the gib off two turns and begin again; if it was loose, the axis was still warming up."
        : "Friction falls while the gib is turned in: the axis was still warming up. Run it warm and begin again.";
  }
}

export interface GibChoice {
  /** Set the adjuster here, turns from where it began; null while it cannot be said. */
  readonly setTurns: number | null;
  /** Does a setting exist that is both free and firm? Null where only one was looked at. */
  readonly both: boolean | null;
  readonly says: readonly string[];
}

/** Turned in till it seizes, and back till it is free over the whole travel. */
function seizeChoice(
  { freeTurns, seizedTurns }: NonNullable<GibSetResult["seize"]>,
  turns: (t: number) => string,
): GibChoice {
  if (freeTurns !== null)
    return {
      setTurns: freeTurns,
      both: null,
      says: [
        `Free over the whole travel at ${turns(freeTurns)}${seizedTurns === null ? "" : `, after it seized at ${turns(seizedTurns)}`}: leave it there.`,
        "Rock the member by hand as the check; a worn way can be free and rock all the same.",
      ],
    };
  return {
    setTurns: null,
    both: null,
    says: [
      seizedTurns === null
        ? "Not seized yet: turn further in."
        : `It seized at ${turns(seizedTurns)}. Back off a setting and run the whole travel.`,
    ],
  };
}

/**
 * Where to set the adjuster. A clearance of 0.005 mm back from the knee of friction is usual, but
 * never so far that the rock comes back (common practice, no source).
 * @param result - of {@link gibSetResult}
 * @param options - `thread`: pitch, mm, and taper of the gib; `system`: units; `setBackMm`: clearance back from the
 *   knee
 * @returns turns, whether both are met, and sentences
 * @example
 * gibChoice({ method: "friction", knee: null, firm: null, seize: null }, { thread: USUAL_GIB_THREAD, system: "metric" }).setTurns
 * // null
 */
export function gibChoice(
  result: GibSetResult,
  {
    thread,
    system,
    setBackMm = 0.005,
  }: { readonly thread: GibThread; readonly system: UnitSystem; readonly setBackMm?: number },
): GibChoice {
  const turns = (t: number): string => formatQuantity("turns", t, system);
  const { knee, firm, seize } = result;
  if (seize) return seizeChoice(seize, turns);
  const back = gibTurns(setBackMm, thread.pitchMm, thread.taper);
  const says: string[] = [];
  const between = ({ betweenTurns: [from, to] }: GibKnee): string =>
    `(between ${from.toFixed(2)} and ${to.toFixed(2)})`;
  if (knee) says.push(frictionText(knee, turns, between(knee)));
  if (firm) {
    const what = result.method === "lost-motion" ? "Lost motion" : "Rock";
    const left = formatQuantity("deviation", firm.floor, system);
    says.push(
      firm.shape === "knee"
        ? `${what} falls no further from ${turns(firm.kneeTurns)} in ${between(firm)}; ${left} is left.`
        : firm.shape === "steady" && firm.risePerTurn > 0
          ? `${what} still falls at the last setting: the curve has to be longer. Turn the gib further in and go on.`
          : `${what} does not change with the gib: it comes from elsewhere, or the gib is not loose at its beginning.`,
    );
  }
  if (!knee) {
    const set = firm?.reached ? firm.betweenTurns[1] : null;
    if (set !== null) says.push(`Set it at ${turns(set)}, then pull it over the whole travel: it must not drag.`);
    return { setTurns: set, both: null, says };
  }
  if (!knee.reached) return { setTurns: null, both: null, says };
  // Still falling at the last setting: no setting is known to be firm.
  if (firm?.shape === "steady") return { setTurns: null, both: null, says };
  if (!firm?.reached) {
    says.push(
      "Beyond the knee there is hardly any stiffness to gain, and wear climbs. Set back from it, then rock the member by hand as the check.",
    );
    return { setTurns: Math.max(0, knee.kneeTurns - back), both: null, says };
  }
  // They overlap when even the ends of both intervals leave nothing between them.
  const both = firm.betweenTurns[0] <= knee.betweenTurns[1];
  if (!both) {
    says.push(
      "It drags before the rock is gone: no setting is both free and firm. The gib does not bear along its length, or the way is worn in one place: blue it, scrape or shim; till then set at the knee and note the rock.",
    );
    return { setTurns: knee.kneeTurns, both, says };
  }
  const set = Math.min(Math.max(knee.kneeTurns - back, firm.kneeTurns), Math.max(knee.kneeTurns, firm.kneeTurns));
  says.push("Free and firm between the two: set back from the drag, but not so far that it rocks again.");
  return { setTurns: set, both, says };
}
