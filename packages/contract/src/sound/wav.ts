import { WaveFile } from "wavefile";

/** A recording as one channel, and what could not be used of a file. */
export type WavRead =
  | { readonly kind: "sound"; readonly samples: Float32Array; readonly rate: number }
  | { readonly kind: "refused"; readonly why: string };

/** Rates that microphones record at, samples a second. */
const RATES = [16_000, 96_000] as const;
const LEAST_S = 5;
const MOST_S = 65;

const refused = (why: string): WavRead => ({ kind: "refused", why });

/** Full scale of whole numbers of so many bits; numbers with a point go from −1 to 1. */
const FULL: Readonly<Record<string, number>> = { "8": 128, "16": 2 ** 15, "24": 2 ** 23, "32": 2 ** 31 };

/**
 * Reads a WAV file: PCM of 8 to 32 bits or floating point, any number of channels, made into one.
 * @param bytes - the file
 */
export function readWav(bytes: Uint8Array): WavRead {
  const wav = new WaveFile();
  try {
    wav.fromBuffer(bytes);
    if (["4", "8a", "8m"].includes(wav.bitDepth)) return refused("its samples are packed: save it as PCM");
    const { sampleRate: rate, numChannels: channels } = wav.fmt as { sampleRate: number; numChannels: number };
    if (rate < RATES[0] || rate > RATES[1])
      return refused(`it has ${rate} samples a second, not ${RATES[0]} to ${RATES[1]}`);
    const all = wav.getSamples(true) as ArrayLike<number>;
    const count = Math.floor(all.length / channels);
    if (count < LEAST_S * rate || count > MOST_S * rate)
      return refused(`it is ${(count / rate).toFixed(1)} s long, not ${LEAST_S} to ${MOST_S} s`);
    const full = FULL[wav.bitDepth] ?? 1;
    const middle = wav.bitDepth === "8" ? 128 : 0;
    const samples = new Float32Array(count);
    for (let i = 0; i < count; i += 1) {
      let sum = 0;
      for (let c = 0; c < channels; c += 1) sum += all[i * channels + c] - middle;
      samples[i] = sum / (channels * full);
    }
    return { kind: "sound", samples, rate };
  } catch {
    return refused("it is no WAV file, or not a whole one");
  }
}

/**
 * Writes one channel of 16 bits.
 * @param samples - from −1 to 1
 * @param rate - samples a second
 */
export function writeWav(samples: Float32Array, rate: number): Uint8Array {
  const whole = Int16Array.from(samples, (x) => Math.max(-32_768, Math.min(32_767, Math.round(32_767 * x))));
  const wav = new WaveFile();
  wav.fromScratch(1, rate, "16", whole);
  return wav.toBuffer();
}
