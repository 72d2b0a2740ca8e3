import { decode, encode } from "node-wav";
import { readWav, writeWav } from "..";

const RATE = 48_000;
const tone = (seconds: number, level = 0.5): Float32Array =>
  Float32Array.from({ length: seconds * RATE }, (_, i) => level * Math.sin((2 * Math.PI * 440 * i) / RATE));
const soundOf = (bytes: Uint8Array) => {
  const read = readWav(bytes);
  if (read.kind === "refused") throw new Error(read.why);
  return read;
};

describe("recordings as WAV files", () => {
  it("are what an independent reader makes of them (node-wav)", () => {
    const samples = tone(6);
    const other = decode(Buffer.from(writeWav(samples, RATE)));
    expect(other.sampleRate).toBe(RATE);
    expect(other.channelData).toHaveLength(1);
    const off = samples.map((x, i) => Math.abs(x - other.channelData[0][i]));
    expect(Math.max(...off.subarray(0, 50_000))).toBeLessThan(1 / 30_000);
  });

  it.each([
    { float: false, bitDepth: 16, least: 3e-5 },
    { float: true, bitDepth: 32, least: 1e-6 },
  ])("of an independent writer are read ($bitDepth bits, float $float), two channels as their middle", (how) => {
    const [left, right] = [tone(6, 0.6), tone(6, 0.2)];
    const bytes = encode([left, right], { sampleRate: 44_100, float: how.float, bitDepth: how.bitDepth });
    const { samples, rate } = soundOf(bytes);
    expect(rate).toBe(44_100);
    expect(samples).toHaveLength(left.length);
    for (const i of [0, 100, 12_345, left.length - 1])
      expect(Math.abs(samples[i] - (left[i] + right[i]) / 2)).toBeLessThan(how.least);
  });

  it("come back as they went", () => {
    const samples = tone(5, 0.9);
    const { samples: back } = soundOf(writeWav(samples, RATE));
    for (let i = 0; i < samples.length; i += 997) expect(back[i]).toBeCloseTo(samples[i], 4);
  });

  it("that are too short, too long, slow or none are refused with why", () => {
    const why = (bytes: Uint8Array): string => {
      const read = readWav(bytes);
      return read.kind === "refused" ? read.why : "";
    };
    expect(why(writeWav(tone(4), RATE))).toBe("it is 4.0 s long, not 5 to 65 s");
    expect(why(writeWav(tone(66), RATE))).toContain("66.0 s");
    expect(why(writeWav(tone(6), 8000))).toContain("8000 samples a second");
    expect(why(Buffer.from("only words, and not so many of them"))).toBe("it is no WAV file, or not a whole one");
    expect(why(writeWav(tone(6), RATE).subarray(0, 30))).toBe("it is no WAV file, or not a whole one");
  });
});
