import type { SoundFacts } from "./sound-facts";

/** What spoils a recording, or makes less of it, with what was found. */
export type SoundTrouble =
  | { readonly code: "clipped"; readonly share: number }
  | { readonly code: "too-quiet"; readonly levelDb: number }
  | { readonly code: "motion-not-heard"; readonly contrastDb: number }
  | { readonly code: "few-turns"; readonly turns: number };

/** One sample in ten thousand at full scale spoils the blows (common practice, no source). */
const CLIPPED = 1e-4;
/** Under this a microphone of 16 bits hears more of itself than of the axis, dB of full scale. */
const QUIET_DB = -75;
/** Moving must stand out of standing by so much, or nobody knows what is heard, dB. */
const LEAST_CONTRAST_DB = 2;
/** Lines are told apart only over so many turns of the shaft. */
const LEAST_TURNS = 8;

/**
 * What spoils a recording.
 * @param facts - worked out of it
 * @returns its troubles, none where it is well
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * const plan = { ...usualSoundPlan(axis), stillS: 1, passes: 2 };
 * const { samples } = virtualSound(axis, { parts: {}, run: { ...plan, accelMmS2: 2000 }, roomDb: 12, machine: 1, seed: 1 });
 * soundTroubles(soundFacts(axis, { samples, rate: 48000 }, plan))[0].code // "motion-not-heard"
 */
export function soundTroubles(facts: SoundFacts): readonly SoundTrouble[] {
  const { clipped, bands, timing, orders } = facts;
  const troubles: SoundTrouble[] = [];
  const loudest = Math.max(...bands.map((b) => b.movingDb));
  const turns = orders ? 1 / orders.resolution : 0;
  if (clipped > CLIPPED) troubles.push({ code: "clipped", share: clipped });
  if (loudest < QUIET_DB) troubles.push({ code: "too-quiet", levelDb: loudest });
  if (timing.contrastDb < LEAST_CONTRAST_DB) troubles.push({ code: "motion-not-heard", contrastDb: timing.contrastDb });
  if (turns < LEAST_TURNS) troubles.push({ code: "few-turns", turns });
  return troubles;
}
