import { defaultAxis } from "../machine/axis";
import { virtualSound } from "../simulate/sound";
import { compareSounds, soundFacts, soundTroubles, usualSoundPlan, type ComparedSound, type SoundFacts } from ".";

const axis = defaultAxis("vertical-centre", "X");
const plan = { ...usualSoundPlan(axis), stillS: 2, passes: 4 };

function heard(parts: object, seed: number, roomDb = -20): SoundFacts {
  const run = { ...plan, accelMmS2: 1800 };
  const { samples } = virtualSound(axis, { parts, run, roomDb, machine: 5, seed, telephone: 9 });
  const facts = soundFacts(axis, { samples, rate: 48_000 }, plan);
  if (!facts) throw new Error("nothing was worked out");
  return facts;
}
const side = (facts: SoundFacts, more: Partial<ComparedSound> = {}): ComparedSound => ({
  feedMmMin: plan.feedMmMin,
  ownGain: false,
  bands: facts.bands,
  ways: facts.ways.length,
  ...more,
});

describe("two recordings beside each other", () => {
  const well = Array.from({ length: 6 }, (_, i) => heard({}, 100 + i));

  it("differ by no more than their U where nothing has changed but the day", () => {
    let [within, all] = [0, 0];
    for (const [i, a] of well.entries())
      for (const b of well.slice(i + 1)) {
        const said = compareSounds(side(a), side(b));
        if (said.code !== "compared") throw new Error(said.code);
        for (const band of said.bands) {
          all += 1;
          within += Number(!band.differs);
        }
      }
    expect(all).toBeGreaterThan(300);
    expect(within / all).toBeGreaterThan(0.93);
  });

  it("say which band has grown louder, and by how much with its ±", () => {
    const said = compareSounds(side(heard({ bearingPitting: 1 }, 200)), side(well[0]));
    if (said.code !== "compared") throw new Error(said.code);
    expect(said.whole.differs).toBe(true);
    expect(said.whole.differenceDb).toBeGreaterThan(4);
    expect(said.most?.midHz).toBeGreaterThan(250);
  });

  it("are the ratio of their powers: four times the power is 6 dB", () => {
    const band = { midHz: 1000, movingDb: -40, stillDb: -90, scatterDb: 0.1 };
    const louder = { ...band, movingDb: -40 + 10 * Math.log10(4) };
    const quiet = side(well[0], { bands: [band] });
    const said = compareSounds({ ...quiet, bands: [louder] }, quiet);
    expect(said.code === "compared" && said.whole.differenceDb).toBeCloseTo(6.02, 2);
  });

  it("are not compared at another feed, nor where the telephone turned itself up", () => {
    const one = side(well[0]);
    expect(compareSounds(one, { ...one, feedMmMin: 1.05 * one.feedMmMin }).code).toBe("feed-differs");
    expect(compareSounds(one, { ...one, ownGain: true }).code).toBe("own-gain");
  });
});

describe("what spoils a recording", () => {
  const codes = (facts: SoundFacts): string[] => soundTroubles(facts).map((t) => t.code);

  it("is nothing where it is well", () => {
    expect(codes(heard({}, 1))).toEqual([]);
  });

  it("is a room louder than the axis", () => {
    expect(codes(heard({}, 2, 25))).toContain("motion-not-heard");
  });

  it("is what was too loud or too quiet for the microphone", () => {
    const facts = heard({}, 3);
    expect(codes({ ...facts, clipped: 0.01 })).toEqual(["clipped"]);
    const far = facts.bands.map((b) => ({ ...b, movingDb: b.movingDb - 60 }));
    expect(codes({ ...facts, bands: far })).toEqual(["too-quiet"]);
  });

  it("a sister on another machine must differ by more than the same axis laid down again, and both by more than untouched", () => {
    const band = { midHz: 1000, movingDb: -30, stillDb: -80, scatterDb: 0.1 };
    const one = { feedMmMin: 6000, ownGain: false, bands: [band], ways: 40 };
    const u = (laid: "untouched" | "again" | "elsewhere"): number => {
      const said = compareSounds(one, one, laid);
      return said.code === "compared" ? said.whole.uDb : NaN;
    };
    expect(u("untouched")).toBeLessThan(u("again"));
    // Two decibels each, √2 of them, and t of 95 % with many ways.
    expect(u("elsewhere")).toBeCloseTo(1.99 * Math.SQRT2 * 2, 1);
  });
});
