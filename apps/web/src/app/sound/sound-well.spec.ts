import type { Sound } from "@iron/contract";
import type { SoundDrift } from "@iron/core";
import { setUpBed, show } from "../../testing/place";
import { SoundWell } from "./sound-well";

const sound = (over: Partial<Sound> = {}, troubles: readonly object[] = [], chances = { sound: 0.9 }): Sound =>
  ({ id: 7, ownGain: false, well: false, drift: null, result: { troubles, chances }, ...over }) as unknown as Sound;
const drift = (louderDb: number, over: Partial<SoundDrift> = {}): Sound["drift"] => ({
  ...{ midHz: 3162, louderDb, uDb: 3.6, state: "unknown", grown: false, wellId: 4 },
  ...over,
});

describe("a recording beside the axis when it was well", () => {
  beforeEach(() => setUpBed());
  const open = (one: Sound) => show(SoundWell, { sound: one, letter: "Z" });

  it.each([
    [drift(1, { state: "sound" }), "Beside recording 4, when it was well: no louder, ± 4 dB."],
    [drift(5, { state: "watch" }), "5 dB louder around 3.2 kHz, ± 4 dB.Perhaps it has grown: record it again"],
    [drift(11, { grown: true }), "11 dB louder around 3.2 kHz, ± 4 dB.It has grown, more than twice in amplitude."],
    [drift(17, { grown: true, state: "act", midHz: null }), "17 dB louder in all, ± 4 dB.That is about twice as loud"],
  ])("says how far it has grown and what to do: %#", (said, text) => {
    expect(open(sound({ drift: said })).text()).toContain(text);
  });

  it("is kept as such with one press, and taken back with another", () => {
    const page = open(sound());
    expect(page.text()).toContain("No recording at this feed since the last work on it is kept as how Z sounds");
    const kept: boolean[] = [];
    page.component.kept.subscribe((well) => kept.push(well));
    page.press("Keep it as how Z sounds when it is well");
    page.give({ sound: sound({ well: true }) });
    expect(page.text()).toContain("Later recordings at this feed are held beside it.");
    page.press("It was not well: no longer");
    expect(kept).toEqual([true, false]);
  });

  it("cannot be one whose level is its microphone’s, or on which the axis was not heard", () => {
    for (const [one, why] of [
      [sound({ ownGain: null }), "the microphone may have turned itself up or down"],
      [sound({ ownGain: true }), "the microphone may have turned itself up or down"],
      [sound({}, [{ code: "motion-not-heard", contrastDb: 0.4 }]), "nothing can be said of it"],
    ] as const) {
      const page = open(one);
      expect(page.text()).toContain(why);
      expect(page.page.queryByRole("button")).toBeNull();
    }
    expect(open(sound({}, [{ code: "few-turns", turns: 5 }])).page.queryByRole("button")).not.toBeNull();
  });

  it("that does not sound well is kept only with a word of doubt", () => {
    expect(open(sound({}, [], { sound: 0.2 })).text()).toContain("keep it only if its tests found nothing");
    expect(open(sound()).text()).not.toContain("keep it only if");
    const grown = open(sound({ drift: drift(17, { grown: true, state: "act" }) }, [], { sound: 0.1 }));
    expect(grown.text()).toContain("keep it only if its tests found nothing");
    expect(grown.page.getByRole("link", { name: /^Open a case/ }).getAttribute("href")).toContain("ask");
    expect(open(sound({ drift: drift(1, { state: "sound" }) })).page.queryByRole("link")).toBeNull();
  });
});
