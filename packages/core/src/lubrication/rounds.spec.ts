import { simulateLearning } from "../coverage/learn-interval";
import * as fc from "fast-check";
import {
  basesMix,
  calibrateGun,
  centralAdvice,
  checkMeter,
  doseGrams,
  expandVisits,
  forecastUsage,
  lookingOrder,
  mixingAdvice,
  planChanges,
  planHorizon,
  planWhenDue,
  replanHorizon,
  stockForecast,
  strokesFor,
  THICKENERS,
  thickenersMix,
  weekSums,
  type HorizonPoint,
  type Lubricant,
  type PlannedPoint,
} from "./index";

const read = (at: string, hours: number, reset = false) => ({ at, hours, reset });

describe("usage from a meter", () => {
  it("is hours over days; a lone pair tells no scatter, more do", () => {
    const one = forecastUsage([read("2026-01-01", 100), read("2026-01-31", 340)], {
      hoursPerWeek: 40,
      today: "2026-02-01",
    });
    expect(one.hoursPerDay).toBeCloseTo(8, 9);
    expect(one.from).toBe("meter");
    const more = forecastUsage(
      [read("2026-01-01", 0), read("2026-01-11", 80), read("2026-01-21", 160), read("2026-01-31", 240)],
      { hoursPerWeek: 40, today: "2026-02-01" },
    );
    expect(more.hoursPerDay).toBeCloseTo(8, 9);
    expect(more.spread).toBeCloseTo(0, 9);
    expect(one.spread).toBeGreaterThan(more.spread);
  });

  it("counts afresh after a reset or a lower reading, leaves out the impossible, and says so", () => {
    const reset = forecastUsage([read("2026-01-01", 9000), read("2026-01-11", 5, true), read("2026-01-21", 105)], {
      hoursPerWeek: 40,
      today: "2026-02-01",
    });
    expect(reset.hoursPerDay).toBeCloseTo(10, 9);
    expect(reset.notes).toEqual([]);
    const lower = forecastUsage([read("2026-01-01", 9000), read("2026-01-11", 5), read("2026-01-21", 105)], {
      hoursPerWeek: 40,
      today: "2026-02-01",
    });
    expect(lower.hoursPerDay).toBeCloseTo(10, 9);
    expect(lower.notes[0]).toContain("lower than the one before");
    const wild = forecastUsage([read("2026-01-01", 0), read("2026-01-11", 400), read("2026-01-21", 480)], {
      hoursPerWeek: 40,
      today: "2026-02-01",
    });
    expect(wild.hoursPerDay).toBeCloseTo(8, 9);
    expect(wild.notes[0]).toContain("40 hours a day");
    const gap = forecastUsage([read("2025-01-01", 0), read("2026-01-01", 3650)], {
      hoursPerWeek: 40,
      today: "2026-02-01",
    });
    expect(gap.notes[0]).toContain("No reading for 365 days");
  });

  it("holidays are no days; without readings the working week stands in", () => {
    const closed = Array.from({ length: 10 }, (_, i) => `2026-01-${String(i + 11).padStart(2, "0")}`);
    expect(
      forecastUsage([read("2026-01-01", 0), read("2026-01-31", 160)], { hoursPerWeek: 40, today: "2026-02-01", closed })
        .hoursPerDay,
    ).toBeCloseTo(8, 9);
    expect(forecastUsage([], { hoursPerWeek: 70, today: "2026-02-01" })).toMatchObject({
      hoursPerDay: 10,
      spread: 3,
      from: "working week",
    });
  });

  it("refuses a reading that cannot be, by value and bound", () => {
    const before = read("2026-01-01", 500);
    expect(() => checkMeter(before, read("2026-01-02", 499))).toThrow(
      "hours is 499: it must be at least 500, as read before",
    );
    expect(() => checkMeter(before, read("2026-01-02", 549))).toThrow("at most 548");
    expect(() => checkMeter(before, read("2026-01-02", 3, true))).not.toThrow();
    expect(() => checkMeter(null, read("2026-01-02", -1))).toThrow("from 0 to 1000000");
  });
});

const grease = (over: Partial<Lubricant> = {}): Lubricant => ({
  name: "grease A",
  kind: "grease",
  thickener: "lithium complex",
  base: "mineral",
  nlgi: 2,
  viscosity: null,
  ...over,
});

describe("lubricants", () => {
  it("thickeners as published tables have them (from memory)", () => {
    expect(thickenersMix("lithium", "polyurea")).toBe("incompatible");
    expect(thickenersMix("lithium", "lithium complex")).toBe("compatible");
    expect(thickenersMix("lithium complex", "calcium complex")).toBe("compatible");
    expect(thickenersMix("calcium", "lithium 12-hydroxystearate")).toBe("borderline");
    expect(thickenersMix("clay", "lithium")).toBe("incompatible");
    expect(thickenersMix("polyurea", "calcium complex")).toBe("compatible");
    for (const a of THICKENERS) {
      expect(thickenersMix(a, a)).toBe("same");
      for (const b of THICKENERS) expect(thickenersMix(a, b)).toBe(thickenersMix(b, a));
    }
    expect(basesMix("mineral", "ester")).toBe("compatible");
    expect(basesMix("mineral", "PAG")).toBe("incompatible");
  });

  it("warns before a wrong one, and says what a changeover needs", () => {
    const bad = mixingAdvice(grease(), grease({ name: "B", thickener: "polyurea" }));
    expect(bad.mixing).toBe("incompatible");
    expect(bad.changeover[0]).toContain("Purge");
    const fine = mixingAdvice(grease(), grease({ name: "C", thickener: "lithium", nlgi: 0 }));
    expect(fine.mixing).toBe("compatible");
    expect(fine.says).toContain("NLGI 2 against 0");
    expect(fine.changeover).toEqual([]);
    expect(mixingAdvice(grease(), grease({ name: "D", thickener: null })).mixing).toBe("unknown");
    const oil = grease({ name: "oil", kind: "oil", thickener: null, viscosity: 68 });
    expect(mixingAdvice(grease(), oil).says).toContain("is an oil; this place has a grease");
    expect(mixingAdvice(oil, { ...oil, name: "thin", viscosity: 32 }).says).toContain("ISO VG 68 against 32");
    expect(mixingAdvice(grease(), grease()).mixing).toBe("same");
  });

  it("calibrates a gun by weighing and turns grams into strokes", () => {
    // Ten strokes weigh 8.1, 7.9 and 8.0 g: 0.80 g a stroke, s = 0.01, u = 0.01/√3; by hand.
    const gun = calibrateGun([8.1, 7.9, 8].map((grams) => ({ strokes: 10, grams })));
    expect(gun.gramsPerStroke).toBeCloseTo(0.8, 9);
    // k for two degrees of freedom is 4.53 at 95.45 % (JCGM 100, table G.2); then the scale’s tenth of a gram.
    expect(gun.expandedGrams).toBeCloseTo(Math.hypot((4.53 * 0.01) / Math.sqrt(3), 0.0033), 3);
    expect(
      calibrateGun([
        { strokes: 10, grams: 8 },
        { strokes: 10, grams: 8 },
      ]).expandedGrams,
    ).toBeGreaterThan(0.003);
    expect(strokesFor(2, gun)).toBe(3);
    expect(strokesFor(2.4, gun)).toBe(3);
    // Bearing of 80 mm outside diameter, 20 mm wide: G = 0.005·D·B = 8 g, ten strokes.
    expect(strokesFor(0.005 * 80 * 20, gun)).toBe(10);
    expect(doseGrams(3, "strokes", gun.gramsPerStroke)).toBeCloseTo(2.4, 9);
    expect(doseGrams(5, "grams", 1)).toBe(5);
    expect(() => calibrateGun([{ strokes: 0, grams: 1 }])).toThrow("strokes is 0");
    expect(() => calibrateGun([{ strokes: 10, grams: 900 }])).toThrow("grams is 900");
  });

  it("forecasts when stock runs out and when to order", () => {
    // 4 g each 20 days and 6 g each 60 days: 0.3 g a day; 30 g last 100 days; order at (30 − 6)/0.3 − 14.
    const f = stockForecast({
      stockG: 30,
      uses: [
        { grams: 4, intervalDays: 20 },
        { grams: 6, intervalDays: 60 },
      ],
      leadDays: 14,
      reserveG: 6,
    });
    expect(f.daysLeft).toBeCloseTo(100, 9);
    expect(f.orderInDays).toBeCloseTo(66, 9);
    expect(stockForecast({ stockG: 30, uses: [], leadDays: 14, reserveG: 6 }).daysLeft).toBeNull();
    expect(
      stockForecast({ stockG: 0, uses: [{ grams: 1, intervalDays: 1 }], leadDays: 14, reserveG: 6 }).orderInDays,
    ).toBeLessThan(0);
  });
});

describe("central systems", () => {
  const outlets = (wet: readonly (boolean | null)[]) => wet.map((w, i) => ({ name: `outlet ${i + 1}`, wet: w }));
  it("says where to look", () => {
    expect(lookingOrder(outlets([null, null, null]))[0]).toBe("outlet 3");
    expect(centralAdvice(outlets([true, true, true])).repair).toBe(false);
    expect(centralAdvice(outlets([true, true, null])).says).toContain("farthest outlet is not looked at");
    expect(centralAdvice(outlets([false, false, false])).says).toContain("pump side");
    const line = centralAdvice(outlets([true, true, false, false]));
    expect(line.says).toContain("Wet as far as outlet 2, dry from outlet 3 on");
    expect(line.look[0]).toContain("line between outlet 2 and outlet 3");
    const far = centralAdvice(outlets([true, true, true, false]));
    expect(far.look).toEqual(["doser of outlet 4: failed or blocked; then its own short line"]);
    expect(centralAdvice(outlets([true, false, true])).says).toContain("Dry only at outlet 2");
    expect(centralAdvice(outlets([null, null])).look).toEqual([]);
  });
});

const points = (machines: number, each: number): HorizonPoint[] =>
  Array.from({ length: machines * each }, (_, i) => {
    const intervalDays = [14, 30, 92, 182][i % 4];
    return {
      id: i + 1,
      machine: i % machines,
      bay: String((i % machines) % 4),
      minutes: 3 + (i % 5),
      weight: 1 + (i % 3),
      dueDay: (((i * 37) % 100) / 100) * intervalDays - 2,
      intervalDays,
    };
  });
const weeks = (n: number, minutes = 400) => Array.from({ length: n }, () => ({ minutes }));

describe("half a year by week", () => {
  it("has every visit that falls into it", () => {
    const one = { ...points(1, 1)[0], dueDay: 3, intervalDays: 14 };
    expect(expandVisits([one], 26).map((v) => Math.round(v.dueDay * 7))).toEqual(
      Array.from({ length: 13 }, (_, i) => 3 + 14 * i),
    );
    expect(expandVisits([{ ...one, dueDay: -40 }], 4).map((v) => Math.round(v.dueDay * 7))).toEqual([-40, 14]);
    expect(expandVisits([{ ...one, dueDay: 999 }], 26)).toEqual([]);
  });

  it("is no dearer than doing each when due, adds up, and heeds shut weeks; progress rises, cancelling ends it", () => {
    const all = points(12, 8);
    const some = weeks(26).map((w, i) => (i === 5 ? { minutes: 0 } : i === 2 ? { ...w, shut: new Set([3]) } : w));
    const told: number[] = [];
    const plan = planHorizon(all, some, { progress: (p) => told.push(p) });
    expect(plan.cost).toBeLessThanOrEqual(planWhenDue(plan.visits, some).cost);
    plan.visits.forEach((v, i) => {
      expect(plan.dayOf[i]).not.toBe(5);
      if (v.machine === 3) expect(plan.dayOf[i]).not.toBe(2);
    });
    const sums = weekSums(plan, some);
    expect(sums.reduce((s, w) => s + w.visits, 0)).toBe(plan.visits.length);
    expect(sums[5]).toMatchObject({ minutes: 0, visits: 0, available: 0 });
    expect(told.length).toBeGreaterThan(5);
    expect([...told].sort((a, b) => a - b)).toEqual(told);
    let calls = 0;
    const cut = planHorizon(all, some, { cancelled: () => (calls += 1) > 1 });
    expect(cut.dayOf.every((d) => d >= 0)).toBe(true);
    expect(calls).toBeLessThan(6);
  });

  it("after one change every other visit keeps its week", () => {
    const all = points(10, 8);
    const before = planHorizon(all, weeks(26));
    const changed = all.map((p) => (p.id === 7 ? { ...p, dueDay: 80 } : p));
    const after = replanHorizon(before, { points: changed, changed: new Set([7]), weeks: weeks(26) });
    const was = new Map(before.visits.map((v, i) => [v.id, before.dayOf[i]]));
    after.visits.forEach((v, i) => {
      if (v.point !== 7) expect(after.dayOf[i]).toBe(was.get(v.id));
    });
    const first = after.visits.findIndex((v) => v.point === 7);
    expect(after.dayOf[first]).toBeGreaterThan(8);
    const fresh = planHorizon(changed, weeks(26));
    expect(after.cost).toBeLessThan(1.1 * fresh.cost);
  });
});

describe("what a plan changed, and why", () => {
  const at = (id: number, date: string | null, over: Partial<PlannedPoint> = {}): PlannedPoint => ({
    id,
    place: `P${id}`,
    nickname: "Knot",
    date,
    dueOn: "2026-03-09",
    intervalDays: 30,
    visits: 2,
    held: "",
    ...over,
  });
  it("what lost its day for want of minutes says so, and what has one again too", () => {
    const point = {
      id: 4,
      place: "wipers",
      nickname: "Wren",
      dueOn: "2026-03-02",
      intervalDays: 30,
      visits: 1,
      held: "",
    };
    const [on, off] = [
      { ...point, date: "2026-03-03" },
      { ...point, date: null },
    ];
    const said = { today: "2026-03-02", dayText: (d: string) => d.slice(8) };
    const without = new Map([[4, "not minutes enough"]]);
    expect(planChanges([on], [off], { ...said, without })).toEqual([
      { id: 4, what: "Wren, wipers: 03 to later", why: "not minutes enough" },
    ]);
    expect(planChanges([off], [on], said)).toEqual([
      { id: 4, what: "Wren, wipers: not planned to 03", why: "there is room for it again" },
    ]);
  });

  it("says each with its own reason", () => {
    const before = [
      at(1, "2026-03-03"),
      at(2, "2026-03-03"),
      at(3, "2026-03-01"),
      at(4, "2026-03-04"),
      at(5, "2026-03-04"),
      at(6, "2026-03-05"),
      at(8, "2026-03-04"),
    ];
    const after = [
      at(1, "2026-03-03"),
      at(2, "2026-03-05", { held: "put there by Ama" }),
      at(3, "2026-03-02"),
      at(4, null, { visits: 3 }),
      at(5, "2026-03-06", { intervalDays: 21 }),
      at(6, "2026-03-04"),
      at(7, "2026-03-04"),
    ];
    const changes = planChanges(before, after, { today: "2026-03-02", dayText: (d) => d.slice(8) });
    expect(changes.map((c) => `${c.id} ${c.why}`)).toEqual([
      "2 put there by Ama",
      "3 not done on its day",
      "4 visited",
      "5 interval 30 to 21 days",
      "6 to make one stop of it, or to even out the days",
      "7 due 09",
      "8 the point is kept no more",
    ]);
    expect(changes[0].what).toBe("Knot, P2: 03 to 05");
  });
  it("nothing changed, nothing said", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 28 }), { maxLength: 12 }), (days) => {
        const list = days.map((d, i) => at(i, `2026-03-${String(d).padStart(2, "0")}`));
        expect(planChanges(list, list, { today: "2026-03-01", dayText: (d) => d })).toEqual([]);
      }),
    );
  });
});

describe("learning on points whose need nobody knows", () => {
  it("converges, and once settled is found both dry and flooded more rarely than any fixed interval", () => {
    const [rule, monthly, quarterly, half] = simulateLearning(1000, 10, 11);
    expect(rule.near).toBeGreaterThan(0.9);
    for (const fixed of [monthly, quarterly, half]) {
      expect(rule.settledDry).toBeLessThan(fixed.settledDry);
      expect(rule.settledFlooded).toBeLessThan(fixed.settledFlooded);
      // Its first visits, while it learns, counted in.
      expect(rule.dry + rule.flooded).toBeLessThan(0.5 * (fixed.dry + fixed.flooded));
    }
    expect(rule.dry).toBeLessThan(quarterly.dry);
    expect(rule.dry).toBeLessThan(half.dry);
    expect(rule.dry).toBeLessThan(0.1);
  });
});
