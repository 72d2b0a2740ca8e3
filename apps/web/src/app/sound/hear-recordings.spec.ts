import { TestBed } from "@angular/core/testing";
import type { SoundComparison } from "@iron/core";
import type { Sound, SoundResult } from "@iron/contract";
import { setUpBed, show } from "../../testing/place";
import { DRAW_WAVE, type WaveAsked } from "./draw-wave";
import { HearRecordings } from "./hear-recordings";
import { motionIn, playedAs, type Played } from "./hear-recordings.view";
import { MAKE_CHAIN } from "./sound-chain";

const band = (midHz: number, movingDb: number) => ({ midHz, movingDb, stillDb: -80, movingSdDb: 0.2, stillSdDb: 0.2 });
const result = (levels: readonly number[]): SoundResult =>
  ({
    bands: levels.map((db, i) => band([500, 1000, 2000][i], db)),
    timing: { startS: 4, eachS: 5, contrastDb: 20 },
  }) as unknown as SoundResult;
const plan = { stillS: 4, feedMmMin: 8000, fromMm: 0, strokeMm: 600, passes: 3, dwellS: 0.5 };
const sound = (id: number, levels: readonly number[]): Sound =>
  ({ id, plan, result: result(levels), state: "kept" }) as unknown as Sound;
const compared: SoundComparison = {
  code: "compared",
  freedom: 6,
  bands: [],
  whole: { differenceDb: 6, uDb: 1, waysDb: 0.1, differs: true },
  most: { midHz: 2000, differenceDb: 12, uDb: 2, waysDb: 0.1, differs: true },
};

describe("two recordings one after the other", () => {
  const [loud, quiet] = [result([-30, -30, -30]), result([-40, -40, -40])];

  it("equally loud: the louder is turned down by what it is louder, the other stays", () => {
    const [one, other] = playedAs([loud, quiet], { equally: true, bandHz: null });
    expect(one.gainDb).toBeCloseTo(-10, 9);
    expect(other.gainDb).toBeCloseTo(0, 9);
    for (const { gainDb } of playedAs([loud, quiet], { equally: false, bandHz: null })) expect(gainDb).toBe(0);
    // One alone, or one of which nothing was worked out, is as it is.
    expect(playedAs([loud, null], { equally: false, bandHz: null })).toEqual([
      { gainDb: 0, bandHz: null },
      { gainDb: 0, bandHz: null },
    ]);
  });

  it("a band alone is brought up to what all was, and keeps how far the two differ unless they are made alike", () => {
    const other = result([-30, -30, -42]);
    const [a, b] = playedAs([loud, other], { equally: false, bandHz: 2000 });
    // Three bands of −30 dB are −25.2 dB together: 10 lg 3 over one of them.
    expect(a.gainDb).toBeCloseTo(10 * Math.log10(3), 6);
    expect(b.gainDb).toBeCloseTo(a.gainDb, 9);
    const [c, d] = playedAs([loud, other], { equally: true, bandHz: 2000 });
    expect(c.gainDb - 30).toBeCloseTo(d.gainDb - 42, 9);
    expect(playedAs([result([-20, -20, -80]), null], { equally: false, bandHz: 2000 })[0].gainDb).toBe(24);
  });

  it("its motion lies where it was found, up and down in turn", () => {
    expect(motionIn(sound(1, [-30]))).toEqual([
      { fromS: 4, toS: 8.5, label: "up" },
      { fromS: 9, toS: 13.5, label: "down" },
      { fromS: 14, toS: 18.5, label: "up" },
    ]);
    expect(motionIn({ ...sound(1, [-30]), result: null })).toEqual([]);
  });
});

describe("hearing and seeing them", () => {
  let drawn: { asked: WaveAsked; gone: boolean; then: () => void; fail: (e: Error) => void }[];
  let chains: { audio: HTMLAudioElement; set: Played[]; closed: boolean }[];
  beforeEach(() => {
    [drawn, chains] = [[], []];
    setUpBed(
      {
        provide: DRAW_WAVE,
        useValue: (asked: WaveAsked) =>
          new Promise((made, fail) => {
            const one = { asked, gone: false, fail, then: () => made(() => (one.gone = true)) };
            drawn.push(one);
          }),
      },
      {
        provide: MAKE_CHAIN,
        useValue: (audio: HTMLAudioElement) => {
          const one = { audio, set: [] as Played[], closed: false };
          chains.push(one);
          return { set: (p: Played) => one.set.push(p), close: () => (one.closed = true) };
        },
      },
    );
  });
  const open = (under: Sound | null = sound(2, [-40, -40, -40])) =>
    show(HearRecordings, { sound: sound(1, [-30, -30, -30]), under, compared: under && compared });
  const audio = (place: ReturnType<typeof open>, name = "The recording"): HTMLAudioElement =>
    place.page.getByLabelText<HTMLAudioElement>(name);
  const tick = (place: ReturnType<typeof open>, words: RegExp): void => {
    place.page.getByRole("checkbox", { name: words }).click();
    TestBed.tick();
  };
  const done = async (): Promise<void> => {
    for (let i = 0; i < 5; i += 1) await Promise.resolve();
    TestBed.tick();
  };

  it("one alone is played as it is, through nothing; half speed is lower too", () => {
    const place = open(null);
    const it = audio(place);
    it.dispatchEvent(new Event("play"));
    expect(chains).toEqual([]);
    tick(place, /Half speed/);
    expect([it.playbackRate, it.preservesPitch]).toEqual([0.5, false]);
    expect(place.page.queryByRole("checkbox", { name: /equally loud/ })).toBeNull();
  });

  it("beside another the louder is turned down as it is played, and a band heard alone", () => {
    const place = open();
    audio(place).dispatchEvent(new Event("play"));
    expect(chains[0].set.at(-1)?.gainDb).toBeCloseTo(-10, 9);
    tick(place, /Only about 2\.0 kHz/);
    expect(chains[0].set.at(-1)?.bandHz).toBe(2000);
    tick(place, /equally loud/);
    tick(place, /Only about/);
    expect(chains[0].set.at(-1)).toEqual({ gainDb: 0, bandHz: null });
    TestBed.resetTestingModule();
    expect(chains[0].closed).toBe(true);
  });

  it("is drawn once it is unfolded, said while it is fetched, taken away when it is folded, and tried anew", async () => {
    const place = open(null);
    expect(drawn).toEqual([]);
    const details = place.page.getByText(/^See it/).closest("details") as HTMLDetailsElement;
    const fold = (isOpen: boolean): void => {
      details.open = isOpen;
      details.dispatchEvent(new Event("toggle"));
      TestBed.tick();
    };
    fold(true);
    expect(place.text()).toContain("Fetching and drawing it…");
    expect(drawn[0].asked.motion).toHaveLength(3);
    drawn[0].then();
    await done();
    expect(place.text()).not.toContain("Fetching");
    fold(false);
    expect(drawn[0].gone).toBe(true);
    fold(true);
    drawn[1].fail(new Error("cut"));
    await done();
    expect(place.text()).toContain("could not be fetched and drawn");
    // Folded before it came: what comes late is not kept.
    fold(false);
    fold(true);
    fold(false);
    drawn[2].then();
    await done();
    expect(drawn[2].gone).toBe(true);
  });
});
