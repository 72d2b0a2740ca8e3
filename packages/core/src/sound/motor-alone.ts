import type { SoundComparison } from "./compare-sounds";

/** From here on it is another thing that is heard, dB: half the amplitude (common practice, no source). */
const FALLS_DB = 6;

/**
 * What a motor alone says of where a noise is, beside the axis that it drives at the same speed.
 * @param said - the motor alone beside the axis coupled
 * @returns `behind`: surely so much quieter that what is heard lies behind the coupling; `motor`: surely not; `unclear`
 *   between them; null where they cannot be compared
 * @example whereNoiseIs({ code: "own-gain" }) // null
 */
export function whereNoiseIs(said: SoundComparison): "behind" | "motor" | "unclear" | null {
  if (said.code !== "compared") return null;
  const { differenceDb, uDb } = said.whole;
  if (differenceDb + uDb < -FALLS_DB) return "behind";
  return differenceDb - uDb > -FALLS_DB ? "motor" : "unclear";
}
