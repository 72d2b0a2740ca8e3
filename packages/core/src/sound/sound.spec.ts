import { defaultAxis } from "../machine/axis";
import { soundLuck, virtualSound } from "../simulate/sound";
import {
  bandPowers,
  bandOf,
  bearingOrders,
  expectedLines,
  lineIn,
  orderSpectrum,
  planSeconds,
  resample,
  shortFrames,
  soundFacts,
  soundTiming,
  thirdOctaves,
  usualSoundPlan,
  waysOf,
} from ".";

const RATE = 48_000;
const noise = (count: number, seed: number): Float64Array => {
  const { white } = soundLuck(seed, 0);
  return Float64Array.from({ length: count }, white);
};
const tone = (count: number, hz: number, level = 1): Float32Array =>
  Float32Array.from({ length: count }, (_, i) => level * Math.sin((2 * Math.PI * hz * i) / RATE + 0.3));

describe("orders of a bearing", () => {
  it("are those tabled with the Case Western Reserve University bearing data for the 6205", () => {
    // Drive end, SKF 6205-2RS JEM, multiples of running speed: inner 5.4152, outer 3.5848, cage 0.39828, ball 4.7135 (twice
    // its turns). Inches as tabled there; from memory.
    const o = bearingOrders({ balls: 9, ballMm: 0.3126 * 25.4, pitchMm: 1.537 * 25.4, contactDeg: 0 });
    expect(o.inner).toBeCloseTo(5.4152, 3);
    expect(o.outer).toBeCloseTo(3.5848, 3);
    expect(o.cage).toBeCloseTo(0.39828, 4);
    expect(2 * o.ball).toBeCloseTo(4.7135, 3);
  });

  it("names the bound where the balls do not fit", () => {
    expect(() => bearingOrders({ balls: 9, ballMm: 40, pitchMm: 39, contactDeg: 0 })).toThrow("below 39 mm");
    expect(() => bearingOrders({ balls: 2, ballMm: 8, pitchMm: 39, contactDeg: 0 })).toThrow("at least 3");
  });
});

describe("third octaves", () => {
  it("have the middles and edges of IEC 61260-1", () => {
    // Exact base-ten values of IEC 61260-1:2014, table E.1 (from memory).
    const bands = thirdOctaves(100, 10_000);
    expect(bands.map((b) => b.midHz.toPrecision(5))).toEqual([
      ..."100.00 125.89 158.49 199.53 251.19 316.23 398.11 501.19 630.96 794.33".split(" "),
      ..."1000.0 1258.9 1584.9 1995.3 2511.9 3162.3 3981.1 5011.9 6309.6 7943.3 10000"
        .split(" ")
        .map((x) => Number(x).toPrecision(5)),
    ]);
    const [one] = thirdOctaves(1000, 1000);
    expect(one.fromHz).toBeCloseTo(891.251, 2);
    expect(one.toHz).toBeCloseTo(1122.018, 2);
  });

  it("share a bin that lies across an edge, and lose nothing", () => {
    const power = Float64Array.from({ length: 400 }, (_, i) => 1 + (i % 7));
    const bands = thirdOctaves(125, 8000);
    const whole = [{ midHz: 1, fromHz: bands[0].fromHz, toHz: bands[bands.length - 1].toHz }];
    const sum = bandPowers(power, 40, bands).reduce((a, b) => a + b, 0);
    expect(sum).toBeCloseTo(bandPowers(power, 40, whole)[0], 6);
  });
});

describe("short pieces", () => {
  it("hold the power of the signal (Parseval)", () => {
    const signal = Float32Array.from(noise(4800, 3));
    const frames = shortFrames(signal, { rate: RATE, size: 256, hop: 64, bins: 129 });
    const all = bandOf(frames, [0, 129]);
    const mean = all.reduce((a, b) => a + b, 0) / all.length;
    const square = signal.reduce((a, x) => a + x * x, 0) / signal.length;
    expect(Math.abs(mean / square - 1)).toBeLessThan(0.05);
  });

  it("are a plain sum over sines, as the transform is defined", () => {
    const signal = Float32Array.from(noise(64, 5));
    const { power } = shortFrames(signal, { rate: RATE, size: 64, hop: 64, bins: 33 });
    const window = signal.map((_, i) => Math.sin((Math.PI * i) / 64) ** 2);
    const weight = window.reduce((a, w) => a + w * w, 0);
    for (const bin of [0, 1, 9, 31, 32]) {
      let [re, im] = [0, 0];
      for (let i = 0; i < 64; i += 1) {
        re += signal[i] * window[i] * Math.cos((2 * Math.PI * bin * i) / 64);
        im -= signal[i] * window[i] * Math.sin((2 * Math.PI * bin * i) / 64);
      }
      const sides = bin === 0 || bin === 32 ? 1 : 2;
      expect(power[bin]).toBeCloseTo((sides * (re * re + im * im)) / (64 * weight), 6);
    }
  });

  it("give a sine half the square of its height", () => {
    const frames = shortFrames(tone(2048, 3000, 0.5), { rate: RATE, size: 512, hop: 512, bins: 257 });
    expect(bandOf(frames, [0, 257])[1]).toBeCloseTo(0.125, 3);
  });
});

describe("resampling", () => {
  const at = (every: number, count: number): Float64Array =>
    Float64Array.from({ length: count }, (_, i) => 200 + i * every);
  const sine = (cycles: number): Float64Array =>
    Float64Array.from({ length: 4000 }, (_, i) => Math.sin(2 * Math.PI * cycles * i));
  const inside = (x: Float64Array): Float64Array => x.slice(40, -40);

  it.each([0.61, 0.7, 0.85, 0.97])(
    "folds nothing over: %d of the way to twice the new limit stays 60 dB under",
    (part) => {
      // Every third value is kept; what is above a sixth would come back as something slow.
      const folded = inside(resample(sine(part / 3), at(3, 1000)));
      expect(Math.max(...folded.map(Math.abs))).toBeLessThan(1e-3);
    },
  );

  it("keeps what is slow, between the samples too", () => {
    for (const every of [0.37, 1, 2.9]) {
      const positions = at(every, 900);
      const kept = resample(sine(0.04), positions);
      const off = kept.map((y, i) => Math.abs(y - Math.sin(2 * Math.PI * 0.04 * positions[i])));
      expect(Math.max(...inside(off))).toBeLessThan(2e-3);
    }
  });
});

describe("the motion in a recording", () => {
  const plan = { stillS: 3, feedMmMin: 6000, fromMm: 50, strokeMm: 250, passes: 5, dwellS: 0.5 };

  it("is found wherever somebody pressed the button", () => {
    for (const late of [-1.4, 0, 2.2]) {
      const eachS = 2.5 + 0.11 + 0.5;
      const level = Float64Array.from({ length: Math.round((3 + late + 5 * eachS + 1) * 100) }, (_, i) => {
        const t = i / 100 - 3 - late;
        return t >= 0 && t < 5 * eachS && t % eachS < 2.61 ? 1 : 0.02;
      });
      const timing = soundTiming(level, 100, plan);
      expect(timing.startS).toBeCloseTo(3 + late, 1);
      expect(timing.eachS).toBeCloseTo(eachS, 1);
      expect(timing.contrastDb).toBeGreaterThan(15);
      const ways = waysOf(plan, timing);
      expect(ways.map((w) => w.direction)).toEqual([1, -1, 1, -1, 1]);
    }
  });

  it("has next to no contrast where nothing moves", () => {
    const level = Float64Array.from(noise(1800, 7), (x) => 1 + 0.1 * x);
    expect(soundTiming(level, 100, plan).contrastDb).toBeLessThan(0.5);
  });

  it("takes as long as its plan says", () => {
    expect(planSeconds(plan)).toBe(18);
    expect(() => planSeconds({ ...plan, feedMmMin: 0 })).toThrow("above 0 mm/min");
  });
});

/** An envelope of noise squared, with blows so many times a turn on it. */
function envelope(seed: number, order: number, height: number): Float64Array {
  const [rate, turnsPerS] = [3000, 13];
  const power = noise(9000, seed).map((x) => x * x);
  const other = noise(9000, seed + 500).map((x) => x * x);
  return power.map((p, i) => {
    const phase = (order * turnsPerS * i) / rate + seed * 0.37;
    return p + other[i] + (phase % 1 < (order * turnsPerS) / rate ? height : 0);
  });
}
const FAST = { rate: 3000, turnsPerS: 13, most: 40 };
const LINE = { family: "end-bearing", from: 5.7, to: 13.2 } as const;

describe("lines", () => {
  it("are found where blows come so many times a turn", () => {
    const spectrum = orderSpectrum(
      [1, 2, 3, 4, 5, 6].map((s) => envelope(s, 7.31, 6)),
      FAST,
    );
    const line = spectrum && lineIn(spectrum, LINE);
    expect(line?.order).toBeCloseTo(7.31, 1);
    expect(line?.chance).toBeLessThan(1e-4);
  });

  it("are found in noise no oftener than their chance says", () => {
    const chances = Array.from({ length: 150 }, (_, k) => {
      const ways = [1, 2, 3, 4, 5, 6].map((s) => envelope(1000 + 10 * k + s, 7, 0));
      const spectrum = orderSpectrum(ways, FAST);
      return (spectrum && lineIn(spectrum, LINE))?.chance ?? 0;
    });
    // Of 150, three times the square root of what is expected beside it.
    expect(chances.filter((p) => p < 0.05).length).toBeLessThan(150 * 0.05 + 3 * Math.sqrt(7.5));
    expect(chances.filter((p) => p < 0.5).length).toBeGreaterThan(20);
  });

  it("are not sought where every multiple of a turn stands", () => {
    const spectrum = orderSpectrum(
      [1, 2, 3, 4, 5, 6].map((s) => envelope(s, 1, 12)),
      FAST,
    );
    expect((spectrum && lineIn(spectrum, LINE))?.chance).toBeGreaterThan(0.01);
    expect((spectrum && lineIn(spectrum, { family: "turn", from: 0.97, to: 1.03 }))?.chance).toBeLessThan(1e-4);
  });

  it("lie where the axis’ parts may draw them", () => {
    const rack = { ...defaultAxis("router", "X"), transmission: "rack" as const };
    expect(expectedLines(rack).map((l) => l.family)).not.toContain("nut-balls");
    const geared = expectedLines({ ...defaultAxis("vertical-centre", "X"), ratio: 2 });
    expect(geared.find((l) => l.family === "deep-groove")?.from).toBeCloseTo(4.9);
  });
});

describe("facts of a recording", () => {
  const axis = defaultAxis("vertical-centre", "X");
  const plan = usualSoundPlan(axis);
  const facts = (parts: object, seed = 4) => {
    const run = { ...plan, accelMmS2: 1800 };
    const { samples } = virtualSound(axis, { parts, run, roomDb: -20, machine: 11, seed });
    return soundFacts(axis, { samples, rate: RATE }, plan);
  };

  it("show a pitted bearing as a line, and none on a sound axis", () => {
    const bearing = (f: ReturnType<typeof facts>) => f?.lines.find((l) => l.family === "end-bearing");
    expect(bearing(facts({ bearingPitting: 0.7 }))?.chance).toBeLessThan(1e-6);
    expect(bearing(facts({}))?.chance).toBeGreaterThan(0.01);
  });

  it("find tones, spots and knocks where they are", () => {
    const sound = facts({});
    expect(facts({ screwWearMm: 0.04 })?.tone.overDb).toBeGreaterThan((sound?.tone.overDb ?? 0) + 3);
    expect(facts({ chipsN: 200, spotAt: 0.3 })?.along.spotDb).toBeGreaterThan((sound?.along.spotDb ?? 0) + 6);
    expect(facts({ bracketSlipMm: 0.1 })?.knock.firstDb).toBeGreaterThan((sound?.knock.firstDb ?? 0) + 4);
  });

  it("are nothing where the recording is too short to move in", () => {
    expect(soundFacts(axis, { samples: new Float32Array(RATE), rate: RATE }, plan)).toBeNull();
  });
});
