import {
  canWait,
  floorCall,
  FLOOR_CALLS,
  wantsSomebody,
  type FloorCallAxis,
  type FloorCallMachine,
} from "./floor-call";

const NOW = new Date("2026-03-03T12:00:00Z");
const axis = (id: number, reversalValueMm: number | null, over: Partial<FloorCallAxis> = {}): FloorCallAxis => ({
  id,
  leaveMm: 0.01,
  repairMm: 0.025,
  feedback: "encoder",
  last: reversalValueMm === null ? null : { reversalValueMm, expandedMm: 0.001 },
  trend: null,
  openRunId: null,
  sound: null,
  ...over,
});
const machine = (over: Partial<FloorCallMachine<FloorCallAxis>>): FloorCallMachine<FloorCallAxis> => ({
  axes: [axis(1, 0.002)],
  jobs: [],
  openCases: [],
  lubrication: "",
  ...over,
});
const codeOf = (over: Partial<FloorCallMachine<FloorCallAxis>>): string => floorCall(machine(over), NOW).code;
const heard = (lastAt: string | null, grown: object | null = null) => ({
  sound: { lastAt, workedAt: null, ever: true, grown },
});
const grows = (reachesLimitAt: string, significant = true) => ({ trend: { significant, reachesLimitAt } });

describe("what a machine wants of whoever walks the floor", () => {
  // Common practice, no source: work under way first, then what was found, then what is not known.
  it.each([
    ["job-at-work", { jobs: [{ id: 7, checkOn: null }], axes: [axis(1, 0.03)] }],
    [
      "job-at-work",
      {
        jobs: [
          { id: 6, checkOn: "2026-03-01" },
          { id: 7, checkOn: null },
        ],
      },
    ],
    ["check-due", { jobs: [{ id: 6, checkOn: "2026-03-01" }] }],
    ["case-open", { openCases: [{ id: 2, axisId: 1 }] }],
    ["over-limit", { axes: [axis(1, 0.002), axis(2, 0.03)], lubrication: "late" }],
    ["cannot-tell", { axes: [axis(1, 0.025), axis(2, 0.012)] }],
    ["sounds-louder", { axes: [axis(1, 0.002, grows("2026-09-01T00:00:00Z")), axis(2, 0.002, heard(null, {}))] }],
    ["nears-limit", { axes: [axis(1, 0.002, grows("2026-09-01T00:00:00Z")), axis(2, 0.015)] }],
    ["past-leave", { axes: [axis(1, 0.015)] }],
    ["test-unfinished", { axes: [axis(1, 0.002, { openRunId: 9 }), axis(2, null)] }],
    ["lubrication", { lubrication: "late", axes: [axis(1, null)] }],
    ["never-measured", { axes: [axis(1, null)] }],
    ["never-measured", { axes: [axis(1, null), axis(2, 0.002, heard("2025-03-03T12:00:00Z"))] }],
    ["record-it", { axes: [axis(1, 0.002), axis(2, 0.002, heard("2025-03-03T12:00:00Z"))] }],
    ["nothing", { axes: [axis(1, 0.002, heard("2026-02-03T12:00:00Z"))] }],
    ["no-axes", { axes: [] }],
    ["scales", { axes: [axis(1, 0.001, { feedback: "scale" })] }],
    ["nothing", {}],
  ])("%s", (code, over) => expect(codeOf(over)).toBe(code));

  it("a limit is near within 540 days, and only where the growth is beyond chance, at whichever axis", () => {
    expect(codeOf({ axes: [axis(1, 0.002, grows("2027-08-24T00:00:00Z"))] })).toBe("nears-limit");
    expect(codeOf({ axes: [axis(1, 0.002, grows("2027-08-26T00:00:00Z"))] })).toBe("nothing");
    const unsure = axis(1, 0.002, grows("2026-09-01T00:00:00Z", false));
    expect(codeOf({ axes: [unsure] })).toBe("nothing");
    expect(floorCall(machine({ axes: [unsure, axis(2, 0.002, grows("2026-09-01T00:00:00Z"))] }), NOW).axis?.id).toBe(2);
  });

  it("past what can be left: the sure one is named before one that perhaps is", () => {
    const { axis: found, sure } = floorCall(machine({ axes: [axis(1, 0.0098), axis(2, 0.015)] }), NOW);
    expect([found?.id, sure]).toEqual([2, true]);
    expect(floorCall(machine({ axes: [axis(1, 0.0098)] }), NOW)).toMatchObject({ code: "past-leave", sure: false });
  });

  it("what wants somebody cannot wait; a machine that was never measured can, and is not hidden", () => {
    expect(FLOOR_CALLS.filter((c) => wantsSomebody(c) && canWait(c))).toEqual([]);
    expect(canWait("never-measured") && canWait("record-it")).toBe(true);
    expect(wantsSomebody("sounds-louder")).toBe(true);
    expect(wantsSomebody("test-unfinished") || canWait("test-unfinished")).toBe(false);
  });
});
