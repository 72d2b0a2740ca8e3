import { travelPerTurnMm, type AxisConfig } from "../machine/axis";
import type { Span } from "./decibels";
import { expectedLines } from "./expected-lines";
import { lineIn, type LineFound } from "./line-found";
import { orderSpectrum, type OrderSpectrum } from "./order-spectrum";
import { bandOf, framesBetween, shortFrames, type ShortFrames } from "./short-frames";
import { blowsIn, unlikeNoise, type SoundBlows, type SoundEnvelope } from "./sound-blows";
import { alongWay, placesOf, SOUND_PLACES, soundBands, type SoundAlong, type SoundBand } from "./sound-levels";
import { waysOf, type SoundPlan, type SoundTiming, type SoundWay } from "./sound-plan";
import { soundTiming } from "./sound-timing";
import { knockIn, ringIn, stillIn, toneIn, type SoundKnock, type SoundStill, type SoundTone } from "./sound-tones";

/** What is worked out of a recording before anything is said of it. */
export interface SoundFacts {
  readonly timing: SoundTiming;
  readonly ways: readonly SoundWay[];
  /** Third octaves from 125 Hz: level of moving and of standing, dB of full scale, and how far the ways scatter, dB. */
  readonly bands: readonly SoundBand[];
  /** The same of ways up alone, and of ways down alone. */
  readonly directions: readonly [up: readonly SoundBand[], down: readonly SoundBand[]];
  /** Orders of the envelope in the band that is most unlike noise; null where a way is shorter than four turns. */
  readonly orders: OrderSpectrum | null;
  readonly lines: readonly LineFound[];
  readonly envelope: SoundEnvelope;
  readonly blows: SoundBlows;
  readonly along: SoundAlong;
  readonly tone: SoundTone;
  /** How far the narrowest ring between 1 and 4 kHz stands out, dB. */
  readonly ringDb: number;
  readonly knock: SoundKnock;
  readonly still: SoundStill;
  /** Share of samples at full scale. */
  readonly clipped: number;
}

export interface Recording {
  readonly samples: Float32Array;
  /** Samples a second. */
  readonly rate: number;
}

/** Short pieces that follow blows, and longer ones that tell tones apart. */
interface Pieces {
  readonly quick: ShortFrames;
  readonly slow: ShortFrames;
}

/** From this on a blow is looked for, Hz. */
const HIGH_HZ = 1400;

const piecesOf = ({ samples, rate }: Recording): Pieces => ({
  quick: shortFrames(samples, { rate, size: 64, hop: 16, bins: 16 }),
  slow: shortFrames(samples, { rate, size: 1024, hop: 256, bins: 360 }),
});

/**
 * Works a recording of an axis that was run to and fro: where the motion lies in it, levels moving and standing, the
 * envelope in orders of the shaft and the lines in it, blows, how it goes along the way, tones, knocks where it turns.
 * @param config - configuration
 * @param recording - samples from −1 to 1
 * @param plan - how the axis was run
 * @returns the facts; null where the motion is too short, or cannot be found
 * @example soundFacts(defaultAxis("vertical-centre", "X"), { samples: new Float32Array(48000), rate: 48000 }, { stillS: 0.2, feedMmMin: 60000, fromMm: 0, strokeMm: 1, passes: 1, dwellS: 0.1 }) // null
 */
export function soundFacts(config: AxisConfig, recording: Recording, plan: SoundPlan): SoundFacts | null {
  const { quick, slow } = piecesOf(recording);
  const level = bandOf(slow, [Math.round(250 / slow.binHz), Math.round(9000 / slow.binHz)]);
  const timing = soundTiming(level, slow.rate, plan);
  const ways = waysOf(plan, timing);
  if (ways.length === 0 || !Number.isFinite(timing.contrastDb)) return null;
  const spansOf = (frames: ShortFrames): readonly Span[] => ways.map((w) => framesBetween(frames, [w.fromS, w.toS]));
  const [quickSpans, slowSpans] = [spansOf(quick), spansOf(slow)];
  const still = framesBetween(slow, [0.05, Math.max(0.2, timing.startS - 0.1)]);
  const turnsPerS = plan.feedMmMin / 60 / travelPerTurnMm(config);
  const { bins, ...envelope } = unlikeNoise(quick, quickSpans);
  const jumpy = bandOf(quick, bins);
  const most = Math.min(40, (0.45 * quick.rate) / turnsPerS);
  const orders = orderSpectrum(
    quickSpans.map(([from, to]) => jumpy.slice(from, to)),
    { rate: quick.rate, turnsPerS, most },
  );
  const lines = orders ? expectedLines(config).flatMap((line) => lineIn(orders, line) ?? []) : [];
  const high = bandOf(quick, [Math.round(HIGH_HZ / quick.binHz), quick.bins]);
  const lowSlow = bandOf(slow, [Math.round(150 / slow.binHz), Math.round(1200 / slow.binHz)]);
  const highSlow = bandOf(slow, [Math.round(HIGH_HZ / slow.binHz), slow.bins]);
  const laid = { ways, spans: slowSpans };
  const oneWay = (direction: 1 | -1): readonly SoundBand[] =>
    soundBands(slow, { ways: slowSpans.filter((_, k) => ways[k].direction === direction), still });
  let clipped = 0;
  for (const s of recording.samples) if (Math.abs(s) > 0.995) clipped += 1;
  return {
    timing,
    ways,
    bands: soundBands(slow, { ways: slowSpans, still }),
    directions: [oneWay(1), oneWay(-1)],
    orders,
    lines,
    envelope,
    blows: blowsIn(high, ways, { spans: quickSpans, rate: quick.rate, turnsPerS }),
    along: alongWay(placesOf(lowSlow, laid, SOUND_PLACES), placesOf(highSlow, laid, SOUND_PLACES)),
    tone: toneIn(slow, slowSpans, turnsPerS),
    ringDb: ringIn(slow, slowSpans),
    knock: knockIn(bandOf(slow, [2, Math.round(1000 / slow.binHz)]), {
      rate: slow.rate,
      timing,
      plan,
      spans: slowSpans,
    }),
    still: stillIn(slow, still),
    clipped: clipped / recording.samples.length,
  };
}
