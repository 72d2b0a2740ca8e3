import { defaultAxis } from "../machine/axis";
import { virtualSound } from "../simulate/sound";
import {
  compareSounds,
  laidBy,
  soundDrift,
  soundFacts,
  usualSoundPlan,
  type ComparedSound,
  type SoundBand,
  type SoundDrift,
} from ".";

const axis = defaultAxis("vertical-centre", "X");
const plan = { ...usualSoundPlan(axis), stillS: 2, passes: 4 };

function recorded(parts: object, seed: number): ComparedSound {
  const run = { ...plan, accelMmS2: 1800 };
  const { samples } = virtualSound(axis, { parts, run, roomDb: -20, machine: 5, seed, telephone: 9 });
  const facts = soundFacts(axis, { samples, rate: 48_000 }, plan);
  if (!facts) throw new Error("nothing was worked out");
  return { feedMmMin: plan.feedMmMin, ownGain: false, bands: facts.bands, ways: facts.ways.length };
}
const drift = (now: ComparedSound, well: ComparedSound): SoundDrift => {
  const said = soundDrift(compareSounds(now, well));
  if (!said) throw new Error("not compared");
  return said;
};
const flat = (movingDb: number, scatterDb: number, bands = 20): readonly SoundBand[] =>
  Array.from({ length: bands }, (_, i) => ({ midHz: 125 * (i + 1), movingDb, stillDb: -95, scatterDb }));
const made = (bands: readonly SoundBand[]): ComparedSound => ({ feedMmMin: 6000, ownGain: false, bands, ways: 8 });

describe("how a sound has grown since the axis was well", () => {
  it("is nothing where only the day has changed", () => {
    const days = [1, 2, 3, 4].map((i) => recorded({}, 300 + i));
    const pairs = days.flatMap((a, i) => days.slice(i + 1).map((b) => drift(a, b)));
    expect(pairs.filter((p) => p.grown || p.state === "act")).toEqual([]);
  });

  it("is told of a pitted bearing, in the band where it rings", () => {
    const said = drift(recorded({ bearingPitting: 1 }, 310), recorded({}, 311));
    expect(said.grown).toBe(true);
    expect(said.midHz).toBeGreaterThan(1000);
    expect(said.louderDb).toBeGreaterThan(said.uDb + 6);
  });

  // ISO 14253-1: over a limit only where the whole interval is over it.
  it.each([
    [0, "sound", false],
    [2.5, "sound", false],
    [5, "watch", false],
    [9, "unknown", false],
    [9.5, "unknown", true],
    [13, "unknown", true],
    [13.5, "act", true],
    [-12, "sound", false],
  ] as const)("%s dB with ± 3 dB and a little scatter is %s, told: %s", (louder, state, grown) => {
    // Placing: 1 dB each, √2 of them, and t of 14 degrees: 3.03 dB.
    const said = drift(made(flat(-40 + louder, 0.01)), made(flat(-40, 0.01)));
    expect(said.uDb).toBeCloseTo(3.03, 1);
    expect([said.state, said.grown]).toEqual([state, grown]);
  });

  // Quantiles of Student’s t, 14 degrees, two-sided (scipy.stats.t.ppf): 0.05 → 2.1448, 0.05/2 → 2.5096, 0.05/21 → 3.6992.
  it.each([
    [1, 2.5096],
    [20, 3.6992],
  ])("of %s bands the one that grew most is judged with the scatter of all of them", (bands, k) => {
    const well = flat(-40, 1, bands);
    const said = drift(made([{ ...well[0], movingDb: -34 }, ...well.slice(1)]), made(well));
    if (bands > 1) expect(said.midHz).toBe(125);
    expect(said.louderDb).toBeCloseTo(6, 3);
    expect(said.uDb).toBeCloseTo(Math.hypot(2.1448 * Math.SQRT2, k * Math.SQRT2), 2);
  });

  it("is not said of recordings that cannot be compared", () => {
    const one = made(flat(-40, 0.1));
    expect(soundDrift(compareSounds(one, { ...one, feedMmMin: 5000 }))).toBeNull();
    expect(soundDrift(compareSounds({ ...one, ownGain: true }, one))).toBeNull();
  });

  it("a place that is called otherwise is another place", () => {
    expect(laidBy("On the  column", " on the column")).toBe("again");
    expect(laidBy("", "")).toBe("again");
    expect(laidBy("on the column", "")).toBe("elsewhere");
  });
});
