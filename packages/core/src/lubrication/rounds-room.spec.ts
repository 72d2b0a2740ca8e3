import { worthMost } from "./late-risk";
import { keptWithin, waitBeyond } from "./rounds-room";
import type { VisitNeed } from "./rounds-state";

const visit = (over: Partial<VisitNeed>): VisitNeed => ({
  id: "1",
  machine: 1,
  bay: "1",
  minutes: 10,
  weight: 2,
  dueDay: 0,
  intervalDays: 30,
  ...over,
});

describe("what waits beyond the plan for want of minutes", () => {
  let seed = 77;
  const draw = (n: number): number => {
    seed = (seed * 48_271) % 2_147_483_647;
    return seed % n;
  };

  it("is nothing while the minutes suffice, and nothing is called off where nobody is there", () => {
    const two = [visit({}), visit({})];
    expect(waitBeyond(two, { days: [{ minutes: 20 }], worth: [1, 1] })).toEqual([]);
    expect(waitBeyond(two, { days: [{ minutes: 0 }], worth: [1, 1] })).toEqual([]);
    expect(waitBeyond([], { days: [], worth: [] })).toEqual([]);
  });

  it("is worth no more than one visit above the least that can be left, against the exact choice", () => {
    for (let k = 0; k < 60; k += 1) {
      const visits = Array.from({ length: 40 }, () => visit({ minutes: 1 + draw(12) }));
      const worth = visits.map(() => draw(500));
      const minutes = 60 + draw(60);
      const out = waitBeyond(visits, {
        days: [{ minutes: minutes / 2 }, { minutes: 0 }, { minutes: minutes / 2 }],
        worth,
      });
      const inside = visits.map((_, i) => i).filter((i) => !out.includes(i));
      expect(inside.reduce((s, i) => s + visits[i].minutes, 0)).toBeLessThanOrEqual(minutes);
      const own = inside.reduce((s, i) => s + worth[i], 0);
      const best = worthMost(
        visits.map((v, i) => ({ minutes: v.minutes, worth: worth[i] })),
        minutes,
      ).reduce((s, i) => s + worth[i], 0);
      expect(own).toBeLessThanOrEqual(best);
      expect(own).toBeGreaterThan(best - Math.max(...worth));
    }
  });

  it("is never what must stand; a job takes the round out of one day and no more", () => {
    const job = visit({ minutes: 400 });
    const visits = [job, visit({ minutes: 50 }), visit({ minutes: 50 })];
    const worth = [Infinity, 5, 9];
    expect(waitBeyond(visits, { days: [{ minutes: 60 }, { minutes: 60 }], worth })).toEqual([1]);
    expect(waitBeyond(visits, { days: [{ minutes: 60 }, { minutes: 60 }, { minutes: 60 }], worth })).toEqual([]);
  });

  it("leaves what has a day on it for a small difference, and not for a large one", () => {
    const two = [visit({}), visit({})];
    const days = [{ minutes: 10 }];
    const stays = (i: number): boolean => i === 0;
    expect(waitBeyond(two, { days, worth: [10, 11], stays })).toEqual([1]);
    expect(waitBeyond(two, { days, worth: [10, 20], stays })).toEqual([0]);
  });

  it("a day keeps what it has minutes for, those first that risk most for their minutes; what is pinned always", () => {
    const visits = [visit({}), visit({}), visit({ minutes: 40 }), visit({})];
    const kept = (worth: number[], keep = [0, 0, 0, 1]) =>
      keptWithin(visits, { days: [{ minutes: 50 }, { minutes: 10 }], worth, keep });
    expect(kept([5, 9, 30, 1])).toEqual([-1, 0, 0, 1]);
    expect(kept([5, 9, Infinity, 1])).toEqual([-1, 0, 0, 1]);
    expect(kept([Infinity, 9, Infinity, 1])).toEqual([0, -1, 0, 1]);
    expect(kept([1, 1, 1, 1], [-1, -1, 0, -1])).toEqual([-1, -1, 0, -1]);
  });
});
