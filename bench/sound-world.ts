import {
  causeFits,
  CAUSES,
  soundFacts,
  soundParts,
  usualSoundPlan,
  virtualSound,
  withFaults,
  type AxisConfig,
  type SoundFacts,
  type SoundPlan,
} from "@iron/core";
import { CONFIGS } from "./diagnosis-world";
import { luckFrom } from "./luck";

/** Faults that make a sound of their own; what is loose knocks alike wherever it is. */
export const AUDIBLE = {
  "motor-bearing": "motor-bearing",
  "end-bearing-worn": "end-bearing",
  "support-bearing": "far-bearing",
  "screw-bent": "bent",
  "coupling-eccentric": "off-centre",
  "screw-worn-middle": "howl-middle",
  "nut-worn": "howl",
  "nut-dirty": "grit",
  "nut-returns": "rattle",
  "chips-in-way": "scrape-spot",
  "way-dry": "scrape",
  "carriage-failed": "carriage",
  "rack-spot": "teeth-spot",
  "pinion-worn": "teeth",
  "refer-spindle-sensor": "still",
  "retainer-loose": "knock",
  "housing-loose": "knock",
  "bracket-loose": "knock",
  "coupling-screw": "knock",
} as const satisfies Record<string, string>;

export interface SoundCase {
  readonly seed: number;
  readonly config: AxisConfig;
  /** Null: sound. */
  readonly fault: string | null;
  readonly plan: SoundPlan;
  readonly facts: SoundFacts | null;
}

const RATE = 48_000;
/** Longest way at the usual feed, s. */
const WAY_S = 5;
const pick = <T>(from: readonly T[], u: () => number): T => from[Math.floor(u() * from.length)];

/**
 * One recording of a virtual axis: a fault of its kind from just worn to failed, or none; its feed, its room. Severities
 * are those of `faults.ts`, fixed before there was an analysis.
 */
export function soundCase(seed: number, roomDb: number): SoundCase {
  const luck = luckFrom(seed * 7 + 3);
  const u = (): number => luck.uniform();
  const kinds = [...new Set(Object.values(AUDIBLE))];
  // One in six has nothing wrong; of the rest each kind of sound is met as often as any.
  const kind = u() < 1 / 6 ? null : pick(kinds, u);
  const made = Object.entries(AUDIBLE).flatMap(([id, k]) => (k === kind ? [id] : []));
  const fault = kind === null ? null : pick(made, u);
  const cause = CAUSES.find((c) => c.id === fault);
  const config = pick(cause ? CONFIGS.filter((c) => causeFits(c, cause)) : CONFIGS, u);
  const parts = withFaults(soundParts(u, config), { faults: fault ? [fault] : [], u, axis: config });
  const usual = usualSoundPlan(config);
  // As short as a recording may be: what is heard in it is heard in a longer one.
  const strokeMm = Math.min(usual.strokeMm, Math.round((usual.feedMmMin / 60) * WAY_S));
  const fromMm = Math.round((config.travelMm - strokeMm) / 2);
  const feedMmMin = usual.feedMmMin * (0.6 + 0.4 * u());
  const plan = { ...usual, stillS: 2, passes: 4, fromMm, strokeMm, feedMmMin };
  const run = { ...plan, accelMmS2: 900 + 2500 * u() };
  const { samples } = virtualSound(config, { parts, run, roomDb, machine: Math.floor(u() * 1e6), seed });
  return { seed, config, fault, plan, facts: soundFacts(config, { samples, rate: RATE }, plan) };
}
