import type { FindingId } from "../measure";
import type { LoadTrace } from "./load-trace";

/** What the rules read of a trace: how its shape came out, and in which unit it was told. */
export interface ReadTrace {
  readonly unit: "%" | "A";
  readonly analysis: Pick<
    LoadTrace,
    "friction" | "gravity" | "lowEnd" | "highEnd" | "perTurn" | "spots" | "stretches" | "alike" | "frictionOrGravity"
  >;
}

/** Friction that a sound axis is taken to have, % of full load (common practice, no source). */
const SOUND_FRICTION_PERCENT = 4;
/** More than this many times a sound axis’ friction is high (common practice, no source). */
const HIGH = 1.75;
/** A rise at an end is a finding above this part of the friction (common practice, no source). */
const END_OF_FRICTION = 0.35;
/** Harder one way than the other, where gravity is more than this part of the friction (common practice, no source). */
const ONE_WAY_OF_FRICTION = 0.8;
/** Out of balance above this part of a sound axis’ friction (common practice, no source). */
const GRAVITY_OF_SOUND = 0.5;

/**
 * Is the friction of a trace higher than usual? Judged by the whole interval, value ± 2u.
 *
 * @param trace - the trace and its unit; amperes say nothing without the motor’s full load
 * @returns yes or no; null where the unit, the meter or the ± does not tell
 * @example
 * const part = { value: 2, u: 0.2, real: true };
 * const shape = { friction: part, gravity: part, lowEnd: part, highEnd: part, perTurn: part };
 * frictionHigh({ unit: "%", analysis: { ...shape, spots: [], stretches: [], alike: false, frictionOrGravity: false } }) // false
 */
export function frictionHigh({ unit, analysis }: ReadTrace): boolean | null {
  if (unit !== "%" || analysis.frictionOrGravity) return null;
  const size = Math.abs(analysis.friction.value);
  const limit = HIGH * SOUND_FRICTION_PERCENT;
  if (size - 2 * analysis.friction.u > limit) return true;
  return size + 2 * analysis.friction.u <= limit ? false : null;
}

/** Heavy ways hide nothing: a rise is held against the friction of a sound axis where that is less. */
function ofFriction(unit: ReadTrace["unit"], size: number): number {
  return unit === "%" ? Math.min(size, SOUND_FRICTION_PERCENT) : size;
}

/**
 * What a trace of drive load says by itself; what it cannot tell is left out.
 *
 * @param trace - the trace and its unit
 * @returns findings, present or not
 * @example
 * const part = { value: 9, u: 0.2, real: true };
 * const shape = { friction: part, gravity: part, lowEnd: part, highEnd: part, perTurn: part };
 * loadFindings({ unit: "%", analysis: { ...shape, spots: [], stretches: [], alike: false, frictionOrGravity: true } })["tight-all"]
 * // undefined
 */
export function loadFindings(trace: ReadTrace): Partial<Record<FindingId, boolean>> {
  const { friction, gravity, lowEnd, highEnd, perTurn, spots, stretches, alike, frictionOrGravity } = trace.analysis;
  const size = Math.abs(friction.value);
  const pull = Math.abs(gravity.value);
  const tight = frictionHigh(trace);
  return {
    ...(tight === null ? {} : { "tight-all": tight }),
    // A rise at an end and a stretch inside account for it alike: neither is taken for granted.
    ...(alike
      ? {}
      : {
          "tight-end": [lowEnd, highEnd].some(
            (e) => e.real && e.value > END_OF_FRICTION * ofFriction(trace.unit, size),
          ),
        }),
    "tight-turn": perTurn.real,
    ...(alike && spots.length === 0 ? {} : { "tight-spot": spots.length > 0 || stretches.length > 0 }),
    ...(frictionOrGravity
      ? {}
      : {
          "tight-one-way": pull > ONE_WAY_OF_FRICTION * size,
          "gravity-off": trace.unit === "%" && pull > GRAVITY_OF_SOUND * SOUND_FRICTION_PERCENT,
        }),
  };
}
