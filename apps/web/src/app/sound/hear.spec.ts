import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { defaultAxis, virtualSound, type AxisConfig, type FindingId } from "@iron/core";
import { AXIS_PROVIDERS, CONFIG, openAxis, openCase, takeUpCase } from "../../testing/axis";
import { setUpBed, show } from "../../testing/place";
import { WhatHurts } from "../diagnosis/what-hurts";
import { levelled } from "./hear";
import { MAKE_SOUND, OPEN_LOUDSPEAKER, type Loudspeaker, type SoundAsked } from "./make-sound";
import { wordSound, type HeardWord } from "./word-sound";

const rail: AxisConfig = { ...CONFIG, guideway: "rail", nut: "single-clearance" };
const router: AxisConfig = { ...defaultAxis("router", "X"), transmission: "rack" };

const rms = (s: Float32Array): number => Math.sqrt(s.reduce((sum, v) => sum + v * v, 0) / s.length);
const peak = (s: Float32Array): number => s.reduce((most, v) => Math.max(most, Math.abs(v)), 0);

/** Of one axis as it sounds with a word, against nothing wrong: how much louder, and how much more it strikes. */
function against(config: AxisConfig, word: HeardWord): { louder: number; strikes: number } {
  const asked = wordSound(config, word);
  const well = wordSound(config, "well");
  if (!asked || !well) throw new Error(`${word} is not made here.`);
  const [one, other] = [virtualSound(config, asked).samples, virtualSound(config, { ...well, run: asked.run }).samples];
  return { louder: rms(one) / rms(other), strikes: peak(one) / rms(one) / (peak(other) / rms(other)) };
}

describe("what a word for a noise sounds like", () => {
  it.each([
    [CONFIG, ["rumble", "howl", "grit", "groan", "knock", "grind-still"]],
    [rail, ["rumble", "howl", "rattle", "grit", "carriage-click", "knock"]],
    [router, ["knock"]],
  ] as const)("is not what the axis sounds like with nothing wrong", (config, words) => {
    for (const word of words) {
      const { louder, strikes } = against(config, word);
      expect([word, Math.max(louder, 1 / louder) > 1.15 || strikes > 1.5]).toEqual([word, true]);
    }
  });

  it("is made of what the axis has: no balls howl in a rack, no carriage clicks on box ways", () => {
    for (const word of ["howl", "grit", "rattle"] as const) expect(wordSound(router, word)).toBeNull();
    expect(wordSound({ ...CONFIG, guideway: "box" }, "carriage-click")).toBeNull();
    expect(wordSound(CONFIG, "click-descent")).toBeNull();
  });

  it("never leaves the travel, and groaning is slower than rumbling", () => {
    for (const config of [CONFIG, rail, router, { ...CONFIG, travelMm: 60 }])
      for (const word of ["well", "rumble", "groan", "knock", "grind-still"] as const) {
        const run = wordSound(config, word)?.run;
        if (!run) continue;
        expect(run.fromMm).toBeGreaterThanOrEqual(0);
        expect(run.fromMm + run.strokeMm).toBeLessThanOrEqual(config.travelMm);
        expect(run.feedMmMin).toBeLessThanOrEqual(config.rapidMmMin);
      }
    const feed = (word: FindingId): number => wordSound(CONFIG, word)?.run.feedMmMin ?? NaN;
    expect(feed("groan")).toBeLessThan(feed("rumble") / 4);
  });

  it("is as loud as any other, and never cut off", () => {
    const [quiet, loud] = [0.001, 0.3].map((a) => Float32Array.from({ length: 4800 }, (_, i) => a * Math.sin(i / 9)));
    expect(rms(levelled(quiet))).toBeCloseTo(rms(levelled(loud)), 6);
    const struck = Float32Array.from({ length: 48_000 }, (_, i) => (i === 100 ? 0.5 : 0.0001));
    expect(peak(levelled(struck))).toBeLessThanOrEqual(0.951);
    expect(levelled(new Float32Array(10))).toEqual(new Float32Array(10));
  });
});

describe("hearing a word at Ask", () => {
  let http: HttpTestingController;
  let made: { asked: SoundAsked; then: (samples: Float32Array) => void; fail: (why: Error) => void }[];
  let opened: { closed: boolean }[];
  let played: { ended: () => void; at: { closed: boolean } }[];
  beforeEach(() => {
    [made, opened, played] = [[], [], []];
    http = setUpBed(
      ...AXIS_PROVIDERS,
      {
        provide: MAKE_SOUND,
        useValue: (asked: SoundAsked) => new Promise<Float32Array>((then, fail) => made.push({ asked, then, fail })),
      },
      {
        provide: OPEN_LOUDSPEAKER,
        useValue: (): Loudspeaker => {
          opened.push({ closed: false });
          const one = opened[opened.length - 1];
          return {
            play: (_, ended) => played.push({ ended, at: one }),
            close: () => (one.closed = true),
          };
        },
      },
    );
  });
  afterEach(() => {
    http.match((r) => r.url.includes("/assessment"));
    http.match("/api/axes/2/ledger");
    http.verify();
  });
  const open = () => {
    openAxis(http, { config: rail });
    takeUpCase(http, openCase());
    const page = show(WhatHurts);
    page.press("Noise");
    return page;
  };
  const done = async (): Promise<void> => {
    for (let i = 0; i < 5; i += 1) await Promise.resolve();
    TestBed.tick();
  };
  const samples = new Float32Array(100).fill(0.1);

  it("a word is made once for this axis, played, ends by itself, and is played again without being made", async () => {
    const page = open();
    page.press("Hear it: Rumble");
    // Opened in the press itself, before there is anything to play: later than that some browsers let nothing sound.
    expect(opened).toHaveLength(1);
    expect(made[0].asked.config).toEqual(rail);
    expect(made[0].asked.asked.parts.bearingPitting).toBeGreaterThan(0.5);
    made[0].then(samples);
    await done();
    expect(played).toHaveLength(1);
    played[0].ended();
    TestBed.tick();
    expect(played[0].at.closed).toBe(true);
    page.press("Hear it: Rumble");
    await done();
    expect([made.length, played.length]).toEqual([1, 2]);
    page.press("Stop: Rumble");
    expect(played[1].at.closed).toBe(true);
  });

  it("another word ends the first, also one that is still being made", async () => {
    const page = open();
    page.press("Hear it: Rumble");
    page.press("Hear it: Knock");
    made[1].then(samples);
    made[0].then(samples);
    await done();
    expect(played).toHaveLength(1);
    page.press("Hear it: Nothing wrong");
    expect(opened.map((o) => o.closed)).toEqual([true, true, false]);
  });

  it("where nothing can be played that is said, and the next press tries anew", async () => {
    const page = open();
    page.press("Hear it: Nothing wrong");
    made[0].fail(new Error("no worker here"));
    await done();
    expect(page.alerts()).toContain("It could not be played here");
    page.press("Hear it: Nothing wrong");
    expect(made).toHaveLength(2);
    expect(page.alerts()).not.toContain("could not");
  });
});
