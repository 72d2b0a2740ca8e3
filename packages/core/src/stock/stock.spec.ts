import { binomialDistribution, poissonDistribution } from "simple-statistics";
import { defaultAxis, MACHINE_KINDS } from "../machine/axis";
import { JOB_KINDS } from "../job";
import { holdCount, SPARES, spareAdvice, sparesOf, wantedChance, wantedCounts, type SparePlace } from "./index";

/** Cost that is expected of holding k, by the words of the problem itself. */
function expectedCost(counts: readonly number[], k: number, costs: { missing: number; idle: number }): number {
  return counts.reduce((sum, p, d) => sum + p * (d > k ? (d - k) * costs.missing : (k - d) * costs.idle), 0);
}

/** A small generator, so that the cases are many and the same every time. */
function drawn(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}

describe("how many are wanted", () => {
  it("is the binomial of simple-statistics where all places are alike, and nearly its Poisson where they are many and rare", () => {
    const binomial = binomialDistribution(12, 0.3) ?? [];
    wantedCounts(Array.from({ length: 12 }, () => 0.3)).forEach((p, k) => expect(p).toBeCloseTo(binomial[k] ?? 0, 3));
    const poisson = poissonDistribution(2) ?? [];
    const many = wantedCounts(Array.from({ length: 4000 }, () => 2 / 4000));
    for (let k = 0; k < 8; k += 1) expect(many[k]).toBeCloseTo(poisson[k], 3);
  });

  it("is what comes of going through every case", () => {
    const u = drawn(7);
    const chances = Array.from({ length: 9 }, u);
    const counts = new Array<number>(10).fill(0);
    for (let set = 0; set < 512; set += 1) {
      const there = chances.map((p, i) => ((set >> i) & 1 ? p : 1 - p));
      counts[chances.filter((_, i) => (set >> i) & 1).length] += there.reduce((a, b) => a * b, 1);
    }
    wantedCounts(chances).forEach((p, k) => expect(p).toBeCloseTo(counts[k], 12));
  });

  it("refuses a chance that is none", () => {
    expect(() => wantedCounts([1.2])).toThrow("from 0 to 1");
  });
});

describe("how many to hold", () => {
  it("costs least of all numbers, for drawn demands and costs", () => {
    const u = drawn(11);
    for (let i = 0; i < 200; i += 1) {
      const counts = wantedCounts(Array.from({ length: 1 + Math.floor(8 * u()) }, u));
      const costs = { missing: 100 * u(), idle: 0.5 + 20 * u() };
      const held = holdCount(counts, costs);
      const best = Math.min(...counts.map((_, k) => expectedCost(counts, k, costs)));
      expect(expectedCost(counts, held, costs)).toBeCloseTo(best, 9);
    }
  });

  // Newsvendor, closed form for a demand that is even from 0 to 100: ratio of the costs × 100 (textbook case, from memory).
  it("is the quantile of an even demand", () => {
    const even = Array.from({ length: 101 }, () => 1 / 101);
    expect(holdCount(even, { missing: 3, idle: 1 })).toBe(75);
    expect(holdCount(even, { missing: 1, idle: 3 })).toBe(25);
  });
});

describe("how long parts last", () => {
  // Published property of the Weibull with shape 1: it does not age (memoryless exponential).
  it("a part without age wants as often old as new", () => {
    const life = { medianHours: 5000, shape: 1 };
    const young = wantedChance(life, { ageHours: 0, windowHours: 200 });
    expect(wantedChance(life, { ageHours: 9000, windowHours: 200 })).toBeCloseTo(young, 12);
    // And where nobody knows its age it is the same, to first order.
    expect(wantedChance(life, { ageHours: null, windowHours: 200 })).toBeCloseTo(young, 3);
  });

  it("one that ages wants more often the older it is, and half are gone at their median", () => {
    const life = { medianHours: 8000, shape: 2 };
    expect(wantedChance(life, { ageHours: 0, windowHours: 8000 })).toBeCloseTo(0.5, 12);
    const at = [0, 4000, 8000, 16_000].map((ageHours) => wantedChance(life, { ageHours, windowHours: 100 }));
    expect([...at].sort((a, b) => a - b)).toEqual(at);
  });

  it("of unknown age it wants as often as a long row of renewals does", () => {
    const life = { medianHours: 6000, shape: 2 };
    const u = drawn(3);
    const scale = 6000 / Math.sqrt(Math.LN2);
    let hours = 0;
    const times = 20_000;
    for (let i = 0; i < times; i += 1) hours += scale * Math.sqrt(-Math.log(1 - u()));
    const chance = wantedChance(life, { ageHours: null, windowHours: 100 });
    expect(chance / ((100 * times) / hours)).toBeCloseTo(1, 1);
  });
});

describe("spare parts of a shop", () => {
  const place = (more: Partial<SparePlace> = {}): SparePlace => ({
    life: { medianHours: 8000, shape: 2 },
    count: 1,
    ageHours: null,
    hoursPerDay: 8,
    dayCost: 400,
    ...more,
  });
  const terms = { price: 20, leadDays: 7, waitDays: 2, least: 0 };

  it("a cheap one that stops a machine is held; more of them for more machines, and for older ones", () => {
    const of = (n: number, more: Partial<SparePlace> = {}): number =>
      spareAdvice(
        Array.from({ length: n }, () => place(more)),
        terms,
      ).hold;
    expect(of(1)).toBe(1);
    expect(of(40)).toBeGreaterThan(of(4));
    expect(of(20, { ageHours: 16_000 })).toBeGreaterThan(of(20, { ageHours: 0 }));
  });

  it("a dear one that hardly ever goes is not, but for the least that the shop wants", () => {
    const screw = { price: 3000, leadDays: 42, waitDays: 21, least: 0 };
    const life = { medianHours: 60_000, shape: 2.2 };
    const seldom = [place({ life, hoursPerDay: 4, dayCost: 150, ageHours: 1000 })];
    expect(spareAdvice(seldom, screw).hold).toBe(0);
    expect(spareAdvice(seldom, { ...screw, least: 1 }).hold).toBe(1);
  });

  it("is none where nothing takes it, or no machine runs", () => {
    expect(spareAdvice([], terms)).toMatchObject({ hold: 0, perYear: 0, shortChance: 0 });
    expect(spareAdvice([place({ hoursPerDay: 0 })], terms).hold).toBe(0);
  });

  it("axes have the parts that they are made of, and no others", () => {
    for (const kind of MACHINE_KINDS) {
      const axis = defaultAxis(kind, "X");
      const ids = sparesOf(axis).map((s) => s.kind.id);
      expect(ids.includes("carriage")).toBe(axis.guideway === "rail");
      expect(ids.includes("v-wheel")).toBe(axis.guideway === "v-wheel");
      expect(ids.includes("belt")).toBe(axis.transmission === "belt" || axis.transmission === "rotating-nut");
      expect(ids.includes("screw")).toBe(axis.transmission !== "rack");
      for (const { price, name } of sparesOf(axis)) {
        expect(price).toBeGreaterThan(0);
        expect(name).not.toMatch(/undefined|NaN/);
      }
    }
  });

  it("jobs that renew them are jobs that there are", () => {
    const ids = JOB_KINDS.map((k): string => k.id);
    for (const { jobs } of SPARES) for (const job of jobs) expect(ids).toContain(job);
  });
});
