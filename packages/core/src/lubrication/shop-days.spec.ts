import * as fc from "fast-check";
import { dayAfter } from "../quantity";
import { dueDayOf, minutesOn, needOf, refusePin, shutOn, weekdayOf, weeksOf, type ShopDays } from "./shop-days";

const shop: ShopDays = {
  minutesByWeekday: [90, 80, 70, 60, 50, 0, 0],
  holidays: [{ date: "2026-12-24" }],
  windows: [
    { machineId: 7, days: [true, false, false, false, false, true, true] },
    { machineId: 8, days: [true, true, true, true, true, true, true] },
  ],
};

describe("the days of a shop", () => {
  // Week numbers and weekdays as ISO 8601 gives them in its own examples (from memory): 2008-12-29 and 2005-01-03 are
  // Mondays, 2009-12-31 a Thursday, 2010-01-03 a Sunday.
  it.each([
    ["2008-12-29", 0],
    ["2005-01-03", 0],
    ["2009-12-31", 3],
    ["2010-01-03", 6],
  ])("weekday of %s is %i, Monday first", (date, weekday) => {
    expect(weekdayOf(date)).toBe(weekday);
  });

  it("weekdays follow each other, over leap days and years", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 40_000 }), (n) => {
        const day = dayAfter("1999-12-27", n);
        expect(weekdayOf(dayAfter(day, 1))).toBe((weekdayOf(day) + 1) % 7);
      }),
      { numRuns: 200 },
    );
  });

  it("a holiday has nobody, whatever weekday it is; a weekday without minutes neither", () => {
    expect(minutesOn(shop, "2026-12-23")).toBe(70);
    expect(minutesOn(shop, "2026-12-24")).toBe(0);
    expect(minutesOn({ ...shop, minutesByWeekday: [] }, "2026-12-23")).toBe(0);
  });

  it("a machine that is not named may be stopped on each day", () => {
    expect(shutOn(shop, "2026-12-21")).toEqual(new Set());
    expect(shutOn(shop, "2026-12-22")).toEqual(new Set([7]));
  });

  it("what a person set counts before the day it is due", () => {
    const point = { id: 3, machineId: 7, minutes: 6, weight: 2, intervalDays: 30, dueOn: "2026-03-01" };
    expect(dueDayOf({ ...point, hold: null }, "2026-03-03")).toBe(-2);
    expect(dueDayOf({ ...point, hold: { date: "2026-03-09" } }, "2026-03-03")).toBe(6);
    // Over the night in which clocks go forward a day is a day.
    expect(dueDayOf({ dueOn: "2026-03-30", hold: null }, "2026-03-27")).toBe(3);
    expect(needOf({ ...point, hold: null }, "2026-03-03", "4")).toEqual({
      id: "3",
      machine: 7,
      bay: "4",
      minutes: 6,
      weight: 2,
      dueDay: -2,
      intervalDays: 30,
    });
  });

  it.each([
    ["2026-12-21", 7, null],
    ["2026-12-22", 7, "machine-runs"],
    ["2026-12-22", 8, null],
    ["2026-12-24", 8, "nobody-there"],
    ["2026-12-26", 8, "nobody-there"],
    ["2027-01-04", 8, "not-in-plan"],
    ["", 8, "not-in-plan"],
  ])("put on %s, a point of machine %i is refused for %s", (date, machineId, why) => {
    const dates = Array.from({ length: 10 }, (_, i) => dayAfter("2026-12-20", i));
    expect(refusePin(shop, { machineId, date, dates })).toBe(why);
  });

  it("a week has the minutes of its days; a machine is shut where people and leave never meet", () => {
    const dates = Array.from({ length: 16 }, (_, i) => dayAfter("2026-12-21", i));
    expect(weeksOf(shop, dates)).toEqual([
      { from: "2026-12-21", minutes: 90 + 80 + 70 + 50, shut: [] },
      { from: "2026-12-28", minutes: 350, shut: [] },
      { from: "2027-01-04", minutes: 170, shut: [] },
    ]);
    const mondayOff = { ...shop, holidays: [...shop.holidays, { date: "2026-12-21" }] };
    expect(weeksOf(mondayOff, dates)[0]).toEqual({ from: "2026-12-21", minutes: 200, shut: [7] });
    expect(weeksOf(shop, [])).toEqual([]);
  });
});
