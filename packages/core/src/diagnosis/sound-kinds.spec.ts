import { defaultAxis, type AxisConfig } from "../machine/axis";
import { virtualSound } from "../simulate/sound";
import { soundFacts, soundNumbers, usualSoundPlan, type SoundFacts } from "../sound";
import { CAUSES, SOUND_KIND_ROWS, soundChances, soundKindsOn } from ".";
import { SOUND_LEARNED } from "./sound-learned.table";

const axis = defaultAxis("vertical-centre", "X");

function heard(config: AxisConfig, parts: object, seed: number): SoundFacts {
  const plan = { ...usualSoundPlan(config), stillS: 2, passes: 4 };
  const run = { ...plan, accelMmS2: 1500 };
  const { samples } = virtualSound(config, { parts, run, roomDb: -20, machine: 900 + seed, seed });
  const facts = soundFacts(config, { samples, rate: 48_000 }, plan);
  if (!facts) throw new Error("nothing was worked out");
  return facts;
}
const chances = (parts: object, seed: number) => soundChances(axis, soundNumbers(heard(axis, parts, seed)));
const likeliest = (of: Readonly<Record<string, number>>): string =>
  Object.entries(of).reduce((a, b) => (b[1] > a[1] ? b : a))[0];

describe("kinds of sound", () => {
  it("name causes that there are, none twice", () => {
    const named = SOUND_KIND_ROWS.flatMap((r) => [...r.causes] as string[]);
    expect(named.filter((id) => !CAUSES.some((c) => c.id === id))).toEqual([]);
    expect(new Set(named).size).toBe(named.length);
  });

  it("are those that the axis has parts for", () => {
    expect(soundKindsOn(axis)).not.toContain("teeth");
    expect(soundKindsOn({ ...defaultAxis("router", "X"), transmission: "rack" })).toContain("teeth-spot");
    expect(soundKindsOn({ ...axis, guideway: "box" })).not.toContain("carriage");
  });

  it("have a learned weight for every number that a recording gives, and no other", () => {
    const names = Object.keys(soundNumbers(heard(axis, {}, 1))).sort();
    expect(SOUND_LEARNED.numbers.map(([name]) => name).sort()).toEqual(names);
    for (const id of ["sound", ...SOUND_KIND_ROWS.map((r) => r.id)])
      expect(SOUND_LEARNED.weights[id]).toHaveLength(names.length + 1);
    expect(SOUND_LEARNED.provenance).toMatch(/^\d{3,} recordings of virtual axes/);
  });

  it("share one chance among them, half of it for nothing wrong where nothing is known", () => {
    const all = soundChances(axis, {});
    expect(Object.values(all).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
    const flat = { provenance: "", numbers: [], weights: {}, temper: 1 };
    expect(soundChances(axis, {}, flat)["sound"]).toBeCloseTo(0.5, 9);
  });

  // Recordings of machines that none of the lessons were of.
  it.each([
    ["end-bearing", { bearingPitting: 0.8 }],
    ["grit", { nutDirt: 0.8 }],
    ["scrape", { dryness: 0.9 }],
    ["scrape-spot", { chipsN: 180, spotAt: 0.4 }],
    ["howl", { nutGapMm: 0.05 }],
    ["knock", { bracketSlipMm: 0.25 }],
  ] as const)("%s is heard for what it is", (kind, parts) => {
    expect(likeliest(chances(parts, 5))).toBe(kind);
  });

  it("are not heard on sound axes, or seldom", () => {
    const said = [1, 2, 3, 4, 5, 6].map((seed) => likeliest(chances({}, seed)));
    expect(said.filter((kind) => kind === "sound").length).toBeGreaterThan(4);
  });
});
