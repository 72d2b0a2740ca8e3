import { defaultAxis } from "../machine/axis";
import { virtualSound, type VirtualSoundAsked } from "../simulate/sound";
import { compareSounds, soundFacts, usualSoundPlan, whereNoiseIs, type ComparedSound } from ".";

const axis = defaultAxis("vertical-centre", "X");
const plan = { ...usualSoundPlan(axis), stillS: 2, passes: 4 };

function recorded(parts: VirtualSoundAsked["parts"], motorAlone: boolean, seed: number): ComparedSound {
  const run = { ...plan, accelMmS2: 1800, motorAlone };
  const { samples } = virtualSound(axis, { parts, run, roomDb: -20, machine: 5, seed, telephone: 9 });
  const facts = soundFacts(axis, { samples, rate: 48_000 }, plan);
  if (!facts) throw new Error("nothing was worked out");
  return { feedMmMin: plan.feedMmMin, ownGain: false, bands: facts.bands, ways: facts.ways.length };
}
const where = (parts: VirtualSoundAsked["parts"]) =>
  whereNoiseIs(compareSounds(recorded(parts, true, 41), recorded(parts, false, 42)));

describe("a motor that runs alone", () => {
  // Common practice, no source: what stays when the motor is uncoupled is the motor’s own.
  it("says that worn screw bearings or dry ways are not in it, and that a pitted motor bearing is", () => {
    expect(where({ bearingPitting: 1 })).toBe("behind");
    expect(where({ dryness: 1 })).toBe("behind");
    expect(where({ motorPitting: 1 })).toBe("motor");
  });

  it.each([
    [-12, 3, "behind"],
    [-8, 3, "unclear"],
    [-4, 3, "unclear"],
    [-2, 3, "motor"],
    [1, 3, "motor"],
  ] as const)("%s dB beside the axis coupled, ± %s dB: %s", (differenceDb, uDb, said) => {
    const whole = { differenceDb, uDb, waysDb: 0.2, differs: false };
    expect(whereNoiseIs({ code: "compared", freedom: 6, bands: [], whole, most: null })).toBe(said);
  });

  it("is not held beside another feed", () => {
    expect(whereNoiseIs({ code: "feed-differs", feeds: [5000, 8000] })).toBeNull();
  });
});
