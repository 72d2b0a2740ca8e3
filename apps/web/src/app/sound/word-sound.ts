import {
  CAUSES,
  causeFits,
  soundParts,
  usualSoundPlan,
  withFaults,
  type AxisConfig,
  type FindingId,
  type VirtualSoundAsked,
} from "@iron/core";

/** A word for a noise, or how the axis sounds with nothing wrong. */
export type HeardWord = FindingId | "well";

/** What makes such a noise, the usual first; the first that an axis can have is heard. Common practice, no source. */
const MADE_BY: Partial<Record<FindingId, readonly string[]>> = {
  rumble: ["end-bearing-worn", "motor-bearing"],
  howl: ["nut-worn", "screw-worn-middle"],
  rattle: ["nut-returns"],
  grit: ["nut-dirty"],
  "carriage-click": ["carriage-failed"],
  groan: ["way-dry"],
  knock: ["bracket-loose", "coupling-screw", "pinion-loose", "flange-loose"],
  "grind-still": ["refer-spindle-sensor"],
};

/** Words short enough for a row of buttons. */
export const SHORT_WORDS: Partial<Record<HeardWord, string>> = {
  well: "Nothing wrong",
  rumble: "Rumble",
  howl: "Howl",
  rattle: "Rattle",
  grit: "Grit",
  "carriage-click": "Carriage click, unloaded",
  groan: "Groan",
  knock: "Knock",
  "grind-still": "Grinding, axis still",
};

/** It is heard at its plainest: four fifths of the way from just worn to failed. */
const PLAIN = (): number => 0.8;
/** A way lasts so long at most, s. */
const WAY_S = 1.6;
/** Groaning is a matter of slow feed: a fifth of the usual. */
const SLOW = 0.2;
/** Under the member a broken carriage is hardly heard: it is played as one that carries nothing, so much plainer. */
const UNLOADED = 3;

/**
 * What to make for a word: the axis with that fault, run to and fro for a few seconds.
 *
 * @param config - configuration of the axis
 * @param word - what is to be heard
 * @returns for {@link virtualSound}; null where this axis does not make that noise
 * @example wordSound(defaultAxis("router", "X"), "click-descent") // null
 */
export function wordSound(config: AxisConfig, word: HeardWord): VirtualSoundAsked | null {
  const cause = word === "well" ? undefined : (MADE_BY[word] ?? []).find((id) => isOn(config, id));
  if (word !== "well" && cause === undefined) return null;
  const parts = soundParts(PLAIN, config);
  const worn = cause === undefined ? parts : withFaults(parts, { faults: [cause], u: PLAIN, axis: config });
  const { carriageBroken } = worn;
  const plain = word === "carriage-click" && carriageBroken ? { carriageBroken: UNLOADED * carriageBroken } : {};
  return { parts: { ...worn, ...plain }, run: runFor(config, word), roomDb: -25, machine: 7, seed: 7 };
}

function isOn(config: AxisConfig, id: string): boolean {
  return CAUSES.some((cause) => cause.id === id && causeFits(config, cause));
}

/** To and fro in the middle of the travel; what knocks turns round often, what grinds stands long. */
function runFor(config: AxisConfig, word: HeardWord): VirtualSoundAsked["run"] {
  const usual = usualSoundPlan(config);
  const feedMmMin = usual.feedMmMin * (word === "groan" ? SLOW : 1);
  const strokeMm = Math.min(usual.strokeMm, ((word === "knock" ? 0.4 : 1) * WAY_S * feedMmMin) / 60);
  return {
    ...{ feedMmMin, strokeMm, fromMm: (config.travelMm - strokeMm) / 2, accelMmS2: 1800, dwellS: 0.4 },
    ...{ stillS: word === "grind-still" ? 3 : 0.4, passes: word === "knock" ? 6 : 2 },
  };
}
