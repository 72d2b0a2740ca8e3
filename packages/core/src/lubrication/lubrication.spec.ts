import * as fc from "fast-check";
import highsLoader from "highs";
import {
  chainOf,
  defaultAxis,
  GUIDEWAYS,
  MACHINE_KINDS,
  TRANSMISSIONS,
  type LinkId,
  type MachineKind,
} from "../machine/axis";
import { FACTORS, intervalDays, isOverGreased, learnInterval } from "./interval";
import { expandVisits, planHorizon, type HorizonPoint } from "./horizon";
import { planRounds, planWhenDue } from "./rounds";
import { roundCost, type PlanDay, type VisitNeed } from "./rounds-state";
import { asProgramme, shop, week } from "./rounds-programme.testing";
import { parseCheck } from "./checks";
import { firstDueDays } from "./first-due";
import { CARRIAGE_WAYS, CENTRALS, NUT_WAYS, usualSetUp, type LubricationSetUp } from "./set-up";
import { axisPoints, templatePoints } from "./templates";
import { FACTOR_IDS, type LubricationPoint } from "./types";

const rule = { days: 182, hours: 1500, km: 100, leastDays: 60, mostDays: 365 };
const idle = { hoursPerDay: 0, kmPerDay: 0 };

describe("interval", () => {
  it("whichever of calendar, hours and distance comes first, inside the maker’s bounds", () => {
    expect(intervalDays(rule, idle)).toEqual({ days: 182, by: "calendar", held: false });
    expect(intervalDays(rule, { hoursPerDay: 15, kmPerDay: 0 })).toEqual({ days: 100, by: "hours", held: false });
    expect(intervalDays(rule, { hoursPerDay: 15, kmPerDay: 4 })).toEqual({ days: 60, by: "distance", held: true });
    expect(
      intervalDays(rule, { hoursPerDay: 15, kmPerDay: 0 }, { factors: [], learnt: 1, method: "calendar" }).by,
    ).toBe("calendar");
    expect(intervalDays({ ...rule, days: null }, idle).days).toBe(365);
    expect(() => intervalDays(rule, idle, { factors: [], learnt: 0 })).toThrow("learnt factor is 0");
  });

  it("covers stretch monthly to quarterly", () => {
    // Common practice, no source.
    const monthly = { ...rule, days: 30, hours: null, km: null, leastDays: 7 };
    expect(intervalDays(monthly, idle, { factors: ["covers"] }).days).toBe(90);
    for (const id of FACTOR_IDS) expect(FACTORS[id].source.length).toBeGreaterThan(10);
  });

  it("shortens when found dry, more for twice running; flooded stretches; right and blocked leave it", () => {
    expect(learnInterval([]).factor).toBe(1);
    expect(learnInterval(["right", "right"]).factor).toBe(1);
    expect(learnInterval(["blocked"]).factor).toBe(1);
    expect(learnInterval(["dry"]).factor).toBe(0.85);
    const twice = learnInterval(["dry", "dry"]);
    expect(twice.factor).toBeCloseTo(0.85 * 0.7, 12);
    expect(twice.message).toBe("found dry twice");
    expect(learnInterval(["flooded"]).factor).toBeGreaterThan(1);
    const took = (taken: number | null) => learnInterval([{ found: "right", taken }]);
    expect(took(1).factor).toBe(1);
    expect(took(null).message).toBe("");
    expect(took(2)).toMatchObject({ factor: 0.9, message: "took much more than its dose once" });
    expect(took(0.5)).toMatchObject({ factor: 1.1, message: "took half its dose or less once" });
    expect(learnInterval([{ found: "dry", taken: 2 }]).factor).toBe(0.85);
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom("dry", "right", "flooded", "dirty", "blocked"), { maxLength: 40 }),
        (found) => {
          const { factor } = learnInterval(found as ("dry" | "right")[]);
          expect(factor).toBeGreaterThanOrEqual(0.25);
          expect(factor).toBeLessThanOrEqual(3);
        },
      ),
    );
  });
});

describe("learning at its bounds", () => {
  it("comes back at once, however long it stood there", () => {
    const dry = Array.from({ length: 30 }, () => "dry" as const);
    expect(learnInterval(dry).factor).toBe(0.25);
    expect(learnInterval([...dry, "flooded"]).factor).toBeCloseTo(0.275, 12);
    // By hand: 1.1·1.25ⁿ from a quarter is past 0.35 with the third finding.
    expect(learnInterval([...dry, "flooded", "flooded"]).factor).toBeGreaterThan(0.34);
  });

  it("advises less from what was counted, not from how it was worded", () => {
    const { counts } = learnInterval(["dry", "dry", "dry", "flooded"]);
    expect(counts).toEqual({ dry: 3, flooded: 1 });
    expect(isOverGreased(counts, "flooded")).toBe(false);
    expect(isOverGreased(learnInterval(["flooded", "flooded"]).counts, "flooded")).toBe(true);
    expect(isOverGreased(learnInterval(["flooded", "flooded", "right"]).counts, "right")).toBe(false);
  });
});

describe("templates", () => {
  it("give every axis its way, its drive and its bearings, with common doses", () => {
    for (const kind of MACHINE_KINDS)
      for (const guideway of GUIDEWAYS)
        for (const transmission of TRANSMISSIONS) {
          const axis = { ...defaultAxis(kind, "X"), guideway, transmission };
          const setUp = usualSetUp(kind, [axis]);
          for (const central of CENTRALS)
            for (const carriages of CARRIAGE_WAYS) {
              const points = axisPoints(axis, { kind, setUp: { ...setUp, central, carriages } });
              const oiled = points.filter((p) => p.link === "way" && p.dose > 0);
              expect(oiled.length).toBeGreaterThan(0);
              // Nothing is greased twice: what a central system feeds has no nipple besides.
              if (central !== "none") expect(oiled.filter((p) => p.way === "nipple")).toEqual([]);
            }
        }
    // Common practice, no source: carriages 3–5 strokes each half year, ball nut 1–2.
    const points = templatePoints([defaultAxis("vertical-centre", "X")], { kind: "vertical-centre" });
    const named = (place: string): LubricationPoint => points.find((p) => p.place === place) as LubricationPoint;
    expect(named("X rail carriages, 1 stroke each")).toMatchObject({ dose: 4, rule: { days: 182 } });
    expect(named("X ball nut").dose).toBe(2);
    expect(templatePoints([defaultAxis("lathe", "X")], { kind: "lathe" }).map((p) => p.place)).toContain("air unit");
  });

  it("no point sits on a link that its axis does not have", () => {
    for (const kind of MACHINE_KINDS)
      for (const letter of ["X", "Z"])
        for (const guideway of GUIDEWAYS)
          for (const transmission of TRANSMISSIONS) {
            const axis = { ...defaultAxis(kind, letter), guideway, transmission };
            const links = chainOf(axis).map((l) => l.id);
            for (const point of axisPoints(axis, { kind, setUp: usualSetUp(kind, [axis]) }))
              expect([point.place, links.includes(point.link as LinkId)]).toEqual([point.place, true]);
          }
  });

  it("ball nuts by each way in: one point for each, and none where the central system feeds them", () => {
    const axis = defaultAxis("vertical-centre", "X");
    const of = (over: Partial<LubricationSetUp>): readonly LubricationPoint[] =>
      axisPoints(axis, {
        kind: "vertical-centre",
        setUp: { ...usualSetUp("vertical-centre", [axis]), ...over },
      }).filter((p) => p.link === "nut");
    for (const nuts of NUT_WAYS) expect(of({ nuts })).toHaveLength(1);
    expect(of({ nuts: "parted" })[0].partsNut).toBe(true);
    expect(of({ nuts: "bead" })[0].way).toBe("bead");
    expect(of({ central: "ways-and-nuts" })).toEqual([]);
  });

  it("a machine has what its kind has: no air unit on an engraver, no brushes on a lathe", () => {
    const places = (kind: MachineKind): string =>
      templatePoints([defaultAxis(kind, "X")], { kind })
        .map((p) => p.place)
        .join("; ");
    expect(places("engraver")).not.toContain("air unit");
    expect(places("engraver")).toContain("spindle brushes");
    expect(places("lathe")).not.toMatch(/brushes|taper|collets/);
    expect(places("lathe")).toContain("chuck");
    expect(places("router")).toMatch(/collets.*brushes.*vacuum table gasket/);
  });

  it("what surrounds a machine scales the points of its axes; oil is kept from a board that it swells", () => {
    const axis = defaultAxis("router", "X");
    const points = templatePoints([axis], { kind: "router", factors: ["dirt"] });
    expect(points.filter((p) => p.letter === "X").every((p) => p.factors.includes("dirt"))).toBe(true);
    expect(points.filter((p) => p.letter === null).every((p) => p.factors.length === 0)).toBe(true);
    const wet = points.filter((p) => p.letter === "X" && /oil/.test(p.lubricant) && p.dose > 0);
    expect(wet.length).toBeGreaterThan(0);
    for (const p of wet) expect(p.access).toContain("board covered");
  });

  it("every check of a template is read as it is meant, and can be answered in words", () => {
    const all = MACHINE_KINDS.flatMap((kind) => templatePoints([defaultAxis(kind, "X")], { kind }));
    const checks = all.flatMap((p) => p.checks).map(parseCheck);
    expect(checks.length).toBeGreaterThan(30);
    for (const c of checks) {
      expect(c.name).not.toMatch(/[:[\]]/);
      expect(c.act).not.toBe("");
    }
    expect(checks.find((c) => c.name === "brush length")).toMatchObject({ unit: "mm" });
  });

  it("what nobody is known to have seen to is due within the first weeks, what does most harm now", () => {
    expect([3, 2, 1].map((w) => firstDueDays(w as 1 | 2 | 3, 182))).toEqual([0, 7, 14]);
    expect(firstDueDays(1, 3)).toBe(3);
  });
});

describe("rounds", () => {
  it("comes within 2 % of the best there is on small shops (HiGHS), and below doing it when due", async () => {
    const highs = await highsLoader();
    let ours = 0;
    let exact = 0;
    let plain = 0;
    for (let seed = 1; seed <= 6; seed += 1) {
      const visits = shop(4, 4, seed * 77);
      const days = week(6, 45).map((d, i) => (i === 2 ? { ...d, shut: new Set([1]) } : i === 4 ? { minutes: 0 } : d));
      const solved = highs.solve(asProgramme(visits, days));
      expect(solved.Status).toBe("Optimal");
      const plan = planRounds(visits, days);
      expect(plan.cost).toBeGreaterThanOrEqual(solved.ObjectiveValue - 1e-6);
      ours += plan.cost;
      exact += solved.ObjectiveValue;
      plain += planWhenDue(visits, days).cost;
    }
    expect(ours / exact).toBeLessThan(1.02);
    expect(ours).toBeLessThan(plain);
  });

  it("never loses a visit, never stops a machine that may not stop, keeps what was put by hand", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const visits = shop(5, 4, seed);
        const days = week(8, 40).map((d, i) => (i === 3 ? { minutes: 0 } : i === 1 ? { ...d, shut: new Set([0]) } : d));
        const pinned = new Map([[visits[3].id, 6]]);
        const { dayOf, cost } = planRounds(visits, days, { pinned, tries: 150 });
        expect(dayOf[3]).toBe(6);
        dayOf.forEach((d, i) => {
          expect(d).toBeGreaterThanOrEqual(0);
          expect(d).not.toBe(3);
          if (visits[i].machine === 0 && i !== 3) expect(d).not.toBe(1);
        });
        expect(roundCost(visits, { days, dayOf }).cost).toBeCloseTo(cost, 6);
      }),
      { numRuns: 60 },
    );
  });

  it("what is late comes first; nobody greases far too early", () => {
    const late: VisitNeed = { id: "late", machine: 1, bay: "1", minutes: 5, weight: 3, dueDay: -20, intervalDays: 30 };
    const far: VisitNeed = { ...late, id: "far", machine: 2, dueDay: 9, intervalDays: 20 };
    const { dayOf } = planRounds([late, far], week(10));
    expect(dayOf[0]).toBe(0);
    expect(dayOf[1]).toBeGreaterThanOrEqual(6);
    expect(() => planRounds([late], [])).toThrow("number of days is 0");
    expect(() => planRounds([late], week(3), { pinned: new Map([["late", 7]]) })).toThrow("day of late is 7");
  });

  it("gives every visit a day or a reason, whatever days are closed", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.array(fc.boolean(), { minLength: 14, maxLength: 14 }),
        fc.array(fc.integer({ min: 0, max: 13 }), { maxLength: 10 }),
        (seed, open, stopped) => {
          const days = open.map((is, d): PlanDay => ({
            minutes: is ? 30 : 0,
            shut: new Set(stopped.includes(d) ? [0, 1] : [0].filter(() => seed % 5 === 0)),
          }));
          const visits = shop(4, 4, seed).map((v, i) => ({
            ...v,
            dueDay: v.dueDay + (i % 3) * 4,
          }));
          const { dayOf, leftOut } = planRounds(visits, days, { tries: 120 });
          dayOf.forEach((d, i) => {
            const there = days.some((day) => day.minutes > 0 && !day.shut?.has(visits[i].machine));
            expect(d >= 0).toBe(there);
            expect(leftOut.some((l) => l.visit === i)).toBe(!there);
            if (d >= 0) expect(days[d].minutes > 0 && !days[d].shut?.has(visits[i].machine)).toBe(true);
          });
        },
      ),
      { numRuns: 150 },
    );
  });

  it("leaving out costs more than any lateness", () => {
    const late: VisitNeed = {
      id: "late",
      machine: 1,
      bay: "1",
      minutes: 5,
      weight: 3,
      dueDay: 0,
      intervalDays: 1,
    };
    const days = week(14).map((d, i) => (i < 13 ? { minutes: 0 } : d));
    expect(roundCost([late], { days, dayOf: [-1] }).cost).toBeGreaterThan(
      roundCost([late], { days, dayOf: [13] }).cost,
    );
    expect(planRounds([late], days).dayOf).toEqual([13]);
  });

  it("never puts two visits to one point into one week of the half year", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e5 }), (seed) => {
        let s = seed;
        const draw = (): number => (s = (s * 48271) % 2147483647) / 2147483647;
        const points: HorizonPoint[] = Array.from({ length: 24 }, (_, i) => ({
          id: i,
          machine: i % 6,
          bay: String(i % 2),
          minutes: 4,
          weight: 1 + (i % 3),
          dueDay: 30 * draw() - 3,
          intervalDays: [7, 14, 30, 34, 92][Math.floor(5 * draw())],
        }));
        const weeks = Array.from({ length: 26 }, (_, w) => ({
          minutes: w % 7 === 3 ? 0 : 60,
        }));
        const plan = planHorizon(points, weeks, { tries: 600 });
        expect(plan.visits).toHaveLength(expandVisits(points, 26).length);
        const seen = new Set<string>();
        plan.visits.forEach((v, i) => {
          // A weekly point has no other week to go to when one is closed.
          if (v.intervalDays < 2) return;
          const key = `${v.point} ${plan.dayOf[i]}`;
          expect(seen.has(key)).toBe(false);
          seen.add(key);
        });
      }),
      { numRuns: 12 },
    );
  });
});
