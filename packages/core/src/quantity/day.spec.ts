import * as fc from "fast-check";
import { dayAfter, dayOf, noonOf } from "./day";

/** Reference: the platform’s own calendar (ECMA-402); the Canadian English date is year-month-day. */
const reference = new Intl.DateTimeFormat("en-CA", { year: "numeric", month: "2-digit", day: "2-digit" });
const moments = fc.date({
  min: new Date("1990-01-01T00:00:00Z"),
  max: new Date("2089-12-31T23:59:59Z"),
  noInvalidDate: true,
});

describe("days on the shop’s clock", () => {
  it("these checks run away from Greenwich, where day and UTC day differ", () => {
    expect(new Date("2026-03-03T12:00:00Z").getTimezoneOffset()).not.toBe(0);
  });

  it("are those of the platform’s calendar, whatever the moment is given as", () => {
    fc.assert(
      fc.property(moments, (at) => {
        expect(dayOf(at)).toBe(reference.format(at));
        expect([dayOf(at.getTime()), dayOf(at.toISOString())]).toEqual([dayOf(at), dayOf(at)]);
      }),
    );
  });

  it("noon lies in its day, and days add up across changed clocks and leap years", () => {
    fc.assert(
      fc.property(moments, fc.integer({ min: -800, max: 800 }), (at, n) => {
        const day = dayOf(at);
        expect(dayOf(noonOf(day))).toBe(day);
        const utc = new Date(Date.parse(day) + n * 86_400_000).toISOString();
        expect(dayAfter(day, n)).toBe(utc.slice(0, 10));
      }),
    );
  });
});
