import { soundDue, wellBefore, type KeptSound } from ".";

const one = (id: number, over: Partial<KeptSound> = {}): KeptSound => ({
  id,
  at: `2026-0${id}-10T08:00:00.000Z`,
  feedMmMin: 5000,
  well: true,
  ...over,
});

describe("what a recording is held beside: the axis when it was well", () => {
  const now = one(9, { well: false });
  const found = (all: readonly KeptSound[], works: readonly string[] = []): number | undefined =>
    wellBefore(now, all, works)?.id;

  it("is the latest that was kept as such, before it and at its feed", () => {
    expect(found([one(3), one(5), one(1)])).toBe(5);
    expect(found([one(3), one(5, { well: false })])).toBe(3);
    expect(found([one(3), one(5, { feedMmMin: 5200 })])).toBe(3);
    expect(found([one(3), one(5, { feedMmMin: 5090 })])).toBe(5);
    expect(wellBefore(one(2, { well: false }), [one(3)], [])).toBeNull();
    expect(wellBefore(one(3), [one(3)], [])).toBeNull();
  });

  it("goes by when each was made: one that waited on a tablet arrives after those made later", () => {
    const late = one(8, { at: "2026-01-20T08:00:00.000Z" });
    expect(found([one(3), late])).toBe(3);
    expect(wellBefore({ ...late, id: 12, well: false }, [one(1), one(3)], [])?.id).toBe(1);
  });

  it("is none from before a repair: parts were changed; a repair after it is none of its", () => {
    expect(found([one(3), one(5)], ["2026-06-01T00:00:00.000Z", "2026-04-01T00:00:00.000Z"])).toBeUndefined();
    expect(found([one(3), one(5)], ["2026-04-01T00:00:00.000Z"])).toBe(5);
    expect(found([one(3)], ["2026-11-01T00:00:00.000Z"])).toBe(3);
  });
});

describe("a recording is asked for", () => {
  const now = new Date("2026-08-01T12:00:00Z");
  it.each([
    [null, null, false, null],
    [null, null, true, null],
    ["2026-02-01T12:00:00Z", null, true, null],
    ["2026-01-30T12:00:00Z", null, true, "half-year"],
    [null, "2026-07-20T12:00:00Z", false, "after-work"],
    [null, "2026-06-20T12:00:00Z", false, null],
    [null, "2026-01-20T12:00:00Z", true, "after-work"],
    ["2026-07-25T12:00:00Z", "2026-07-20T12:00:00Z", true, null],
  ])("last %s, worked on %s, ever %s: %s", (lastAt, workedAt, ever, due) => {
    expect(soundDue({ lastAt, workedAt, ever }, now)).toBe(due);
  });
});
