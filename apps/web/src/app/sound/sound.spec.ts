import { defaultAxis, SOUND_KIND_ROWS, type SoundComparison } from "@iron/core";
import type { Sound } from "@iron/contract";
import { bandName } from "./sound-chart";
import { besideSaid, kindsSaid, linesSaid, soundLine, troubleText, usualRun } from "./sound.view";

const line = (chance: number) => ({ family: "end-bearing" as const, order: 7.314, overDb: 18.2, chance });

describe("what is said of a recording", () => {
  it("is what it is like, the likeliest first, and that it is not clear where nothing is", () => {
    expect(kindsSaid({ chances: { sound: 0.02, grit: 0.93, rattle: 0.05 }, troubles: [] })).toEqual([
      "Much like dirt in the nut: it crackles all along.",
    ]);
    expect(kindsSaid({ chances: { sound: 0.4, grit: 0.35, knock: 0.25 }, troubles: [] })).toEqual([
      "Not clear what it is.",
      "A little like an axis with nothing wrong.",
      "A little like dirt in the nut: it crackles all along.",
      "A little like something loose: it knocks where it turns round.",
    ]);
  });

  it("is nothing of the axis where its motion was not heard, but what goes on while it stands", () => {
    const troubles = [{ code: "motion-not-heard", contrastDb: 0.4 } as const];
    expect(kindsSaid({ chances: { grit: 0.9, still: 0.1 }, troubles })).toEqual([]);
    expect(kindsSaid({ chances: { grit: 0.05, still: 0.95 }, troubles })[0]).toContain("not this axis");
    expect(troubleText(troubles[0])).toContain("hardly louder than standing");
  });

  it("has words for every kind", () => {
    for (const { id } of SOUND_KIND_ROWS)
      expect(kindsSaid({ chances: { [id]: 1 }, troubles: [] })[0]).toMatch(/^Much like .+: .+\.$/);
  });

  it("tells a line only where noise seldom shows as much", () => {
    const chances = { sound: 1 };
    expect(linesSaid({ lines: [line(0.02)], chances })).toEqual([]);
    const [said] = linesSaid({ lines: [line(0.001)], chances });
    expect(said).toMatch(/^7\.3 times a turn, 18 dB over .+ angular screw bearing/);
    const both = linesSaid({ lines: [line(0.001), { ...line(0.002), family: "nut-balls" }], chances });
    expect(both).toEqual([said.replace(/\.$/, "; or with the balls of the nut.")]);
    const turn = { ...line(0), family: "turn" as const, order: 1 };
    expect(linesSaid({ lines: [turn], chances })).toEqual([]);
    expect(linesSaid({ lines: [turn], chances: { bent: 0.6 } })).toHaveLength(1);
  });
});

describe("two recordings beside each other", () => {
  const band = { midHz: 1995, differenceDb: 6.2, uDb: 2.1, waysDb: 0.4, differs: true };
  const compared = (over: object): SoundComparison =>
    ({ code: "compared", freedom: 6, bands: [band], whole: { ...band }, most: band, ...over }) as SoundComparison;

  it("differ by so much with its ±, or not beyond it", () => {
    expect(besideSaid(compared({}), "metric")).toEqual([
      "In all 6.2 dB louder than the other, ±\u00a02.1\u00a0dB.",
      "Most at 2.0 kHz: 6.2 dB louder, ±\u00a02.1\u00a0dB. 1 of 1 bands differ beyond their ±.",
    ]);
    const alike = { ...band, differenceDb: -0.4, differs: false };
    expect(besideSaid(compared({ bands: [alike], whole: alike, most: null }), "metric")).toEqual([
      "In all as loud as the other within ±\u00a02.1\u00a0dB.",
      "No band differs beyond its ±.",
    ]);
  });

  it("are not compared at two feeds, which are said in the units of the reader", () => {
    const said = besideSaid({ code: "feed-differs", feeds: [5080, 2540] }, "inch");
    expect(said[0]).toContain("one ran at 200.0 in/min, the other at 100.0 in/min");
    expect(besideSaid({ code: "own-gain" }, "metric")[0]).toContain("turns itself up and down");
  });
});

describe("names", () => {
  it("of bands are preferred numbers (ISO 266, from memory)", () => {
    expect([125.89, 158.49, 316.23, 501.19, 794.33, 1258.9, 7943.3, 15_849].map(bandName)).toEqual(
      "125 160 315 500 800 1.25k 8k 16k".split(" "),
    );
  });

  it("and runs are round figures in either system, within the travel", () => {
    const config = defaultAxis("vertical-centre", "X");
    const run = usualRun(config, "inch");
    for (const mm of [run.feedMmMin, run.strokeMm, run.fromMm])
      expect((mm / 25.4) * 4).toBeCloseTo(Math.round((mm / 25.4) * 4), 9);
    expect(run.fromMm + run.strokeMm).toBeLessThanOrEqual(config.travelMm);
    expect(usualRun(config, "metric").feedMmMin % 50).toBe(0);
  });

  it("of recordings say when, who, how, at which feed and where it lay", () => {
    const sound = {
      id: 12,
      at: "2026-03-03T07:40:00Z",
      by: "Ada",
      source: "file",
      plan: { feedMmMin: 8000 },
      place: "column",
    };
    expect(soundLine(sound as Sound, "metric")).toMatch(/^12: .+, Ada, from a file, 8000 mm\/min, column$/);
  });
});
