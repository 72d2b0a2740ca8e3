import { firstChecksAsked, firstCheckOn } from "./first-check";

describe("the first check after a job (common practice, no source)", () => {
  const noon = (day: string): number => Date.parse(`${day}T12:00`);

  it("is a week on, over the end of a month and the change of the clocks", () => {
    expect(firstCheckOn(noon("2026-11-19"))).toBe("2026-11-26");
    expect(firstCheckOn(noon("2026-02-26"))).toBe("2026-03-05");
    expect(firstCheckOn(noon("2026-10-28"))).toBe("2026-11-04");
  });

  it("is asked for from its day on, for a fortnight", () => {
    const asked = (day: string): boolean => {
      const { after, upTo } = firstChecksAsked(noon(day));
      const on = firstCheckOn(noon("2026-05-01"));
      return on > after && on <= upTo;
    };
    expect(["2026-05-07", "2026-05-08", "2026-05-21", "2026-05-22"].map(asked)).toEqual([false, true, true, false]);
  });
});
