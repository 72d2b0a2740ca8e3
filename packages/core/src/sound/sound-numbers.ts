import { levelDb } from "./decibels";
import { LINE_FAMILIES } from "./expected-lines";
import type { SoundFacts } from "./sound-facts";

/**
 * The facts as plain numbers that mean much the same on any axis: levels against each other, never of themselves, since
 * nobody knows how deaf a telephone is.
 * @param facts - of a recording
 * @returns named numbers
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * const plan = { ...usualSoundPlan(axis), stillS: 1, passes: 2 };
 * const { samples } = virtualSound(axis, { parts: {}, run: { ...plan, accelMmS2: 2000 }, roomDb: -20, machine: 1, seed: 1 });
 * soundNumbers(soundFacts(axis, { samples, rate: 48000 }, plan)).contrast > 1.5 // true
 */
export function soundNumbers(facts: SoundFacts): Readonly<Record<string, number>> {
  const { bands, lines, envelope, blows, along, tone, knock, ringDb, still, timing } = facts;
  // Power of the axis alone in each octave: what stands before it moves is taken off.
  const octave = [0, 3, 6, 9, 12, 15, 18].map((from) => {
    const of = bands.slice(from, from + 3);
    const [loud, quiet] = [
      of.reduce((s, b) => s + 10 ** (b.movingDb / 10), 0),
      of.reduce((s, b) => s + 10 ** (b.stillDb / 10), 0),
    ];
    return levelDb(Math.max(loud - quiet, 0.05 * loud));
  });
  const centre = octave.reduce((a, b) => a + b, 0) / octave.length;
  const shape = Object.fromEntries(octave.slice(0, 6).map((level, i) => [`octave${i}`, (level - centre) / 10]));
  const stands = Object.fromEntries(
    LINE_FAMILIES.flatMap((family) => {
      const line = lines.find((l) => l.family === family);
      return [
        [`line-${family}`, line ? Math.min(20, -Math.log10(line.chance + 1e-20)) / 5 : 0],
        [`over-${family}`, line ? line.overDb / 10 : 0],
      ];
    }),
  );
  return {
    ...shape,
    ...stands,
    contrast: timing.contrastDb / 10,
    kurtosis: Math.log(1 + Math.max(0, envelope.kurtosis)),
    envelopeHz: Math.log2((envelope.fromHz + envelope.toHz) / 4000),
    blows: Math.log(0.01 + blows.perTurn),
    blowHeight: blows.heightDb / 10,
    oneSpot: Math.log(blows.oneSpot * 10 + 0.01),
    lowSlope: along.lowSlope / 5,
    lowMiddle: along.lowMiddle / 5,
    highSlope: along.highSlope / 5,
    highMiddle: along.highMiddle / 5,
    spot: along.spotDb / 5,
    spotLow: along.spotLowDb / 5,
    // A weak patch must not drown in the spread of strong ones.
    patch: Math.log(0.05 + along.patchDb / 5),
    patchLow: Math.log(0.05 + along.patchLowDb / 5),
    tone: tone.overDb / 10,
    toneDepth: tone.depth,
    tonePerTurn: tone.perTurn,
    ring: ringDb / 5,
    knock: knock.firstDb / 10,
    knockOverWay: knock.wayDb / 10,
    unrest: still.unrestDb / 3,
    stillMid: still.midDb / 5,
  };
}
