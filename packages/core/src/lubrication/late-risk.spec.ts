import highsLoader from "highs";
import { dryChance, waitingCost, worthMost } from "./late-risk";

function drawn(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}

const at = (more: Partial<Parameters<typeof dryChance>[0]> = {}): number =>
  dryChance({ ageDays: 30, intervalDays: 30, neverSeen: false, found: [], ...more });

describe("what a late point risks", () => {
  it("grows with how late it is, and with how often it was found dry; right as often as dry is half", () => {
    const ages = [0, 15, 30, 60, 120, 400].map((ageDays) => at({ ageDays }));
    expect([...ages].sort((a, b) => a - b)).toEqual(ages);
    expect(ages[0]).toBe(0);
    expect(ages[5]).toBeGreaterThan(0.99);
    expect(at({ found: ["dry", "dry"] })).toBeGreaterThan(at({ found: ["dry", "right"] }));
    expect(at({ found: ["right", "right", "right"] })).toBeLessThan(at());
    // After many visits what was found is all that counts: the law of large numbers.
    const many = Array.from({ length: 4000 }, (_, i) => (i % 2 ? ("dry" as const) : ("right" as const)));
    expect(at({ found: many })).toBeCloseTo(0.5, 2);
  });

  it("nobody knows: as if it were two intervals ago", () => {
    expect(at({ ageDays: 0, neverSeen: true })).toBeCloseTo(at({ ageDays: 60 }), 12);
  });

  it("is money: none where nothing can be ruined, and never more than all of it", () => {
    const harm = { hour: 80, parts: 3000 };
    expect(waitingCost(3, { harm, dry: 0, days: 7 })).toBe(0);
    expect(waitingCost(3, { harm, dry: 1, days: 10_000 })).toBe(16 * 80 + 3000);
    expect(waitingCost(3, { harm, dry: 0.3, days: 7 })).toBeGreaterThan(waitingCost(1, { harm, dry: 0.3, days: 7 }));
  });
});

describe("what comes first when minutes do not suffice", () => {
  it("is worth as much as an independent solver’s choice (HiGHS)", async () => {
    const highs = await highsLoader();
    const u = drawn(5);
    for (let round = 0; round < 12; round += 1) {
      const all = Array.from({ length: 14 }, () => ({ minutes: 1 + Math.floor(24 * u()) / 2, worth: 100 * u() }));
      const minutes = 30;
      const chosen = worthMost(all, minutes);
      expect(chosen.reduce((s, i) => s + all[i].minutes, 0)).toBeLessThanOrEqual(minutes);
      const x = all.map((_, i) => `x${i}`);
      const sum = (of: (i: number) => number): string => x.map((name, i) => `${of(i)} ${name}`).join(" + ");
      const solved = highs.solve(
        `Maximize\n obj: ${sum((i) => all[i].worth)}\nSubject To\n c: ${sum((i) => all[i].minutes)} <= ${minutes}\nBinary\n ${x.join(" ")}\nEnd`,
      );
      expect(chosen.reduce((s, i) => s + all[i].worth, 0)).toBeCloseTo(solved.ObjectiveValue, 6);
    }
  });

  it("is nothing without minutes, and all of it with enough", () => {
    const all = [
      { minutes: 5, worth: 1 },
      { minutes: 7.5, worth: 2 },
    ];
    expect(worthMost(all, 0)).toEqual([]);
    expect(worthMost(all, 12.5)).toEqual([0, 1]);
  });
});
