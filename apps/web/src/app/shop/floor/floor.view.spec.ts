import { MACHINE_KIND_TEXT } from "@iron/core";
import type { Floor, FloorAxis } from "@iron/contract";
import { floorChoices, floorView, type FloorFilter } from "./floor.view";

const NOW = new Date("2026-03-03T12:00:00Z");

const asked = (q = "", more: Partial<FloorFilter> = {}): FloorFilter => ({ q, bay: "", kind: "", state: "", ...more });

describe("floorView", () => {
  const axis = (letter: string, reversalValueMm: number | null): FloorAxis => ({
    id: letter.charCodeAt(0),
    letter,
    leaveMm: 0.01,
    repairMm: 0.025,
    feedback: "encoder",
    last:
      reversalValueMm === null
        ? null
        : {
            jobId: null,
            runId: 1,
            reversalValueMm,
            expandedMm: 0.001,
            at: "2026-02-10T12:00:00.000Z",
          },
    trend: null,
    openRunId: null,
    sound: null,
  });
  const machine = (id: number, nickname: string, axes: FloorAxis[]): Floor["machines"][number] => ({
    id,
    nickname,
    bay: String(id),
    kind: "lathe",
    hoursPerWeek: 40,
    note: "",
    version: 1,
    retiredAt: null,
    axes,
    openCases: [],
    jobs: [],
    lubrication: "",
  });
  const floor: Omit<Floor, "backup"> = {
    machines: [
      machine(1, "Curlew", [axis("X", 0.004)]),
      machine(2, "Knot", [axis("X", null)]),
      machine(3, "Bittern", [axis("X", 0.009), axis("Z", 0.027)]),
    ],
    retired: [],
  };

  it("puts first what needs attention and says it", () => {
    const view = floorView(floor, { kindText: MACHINE_KIND_TEXT, system: "metric", filter: asked(""), now: NOW });
    expect(view.heading).toBe("One machine wants you");
    expect(view.machines.map((m) => m.nickname)).toEqual(["Bittern", "Knot", "Curlew"]);
    expect(view.machines[0].says).toBe("Z loses 27.0 µm at reversal, over its limit.");
    expect(view.machines[0].axes.map((a) => a.state)).toEqual(["sound", "act"]);
    expect(view.machines[1].axes[0]).toMatchObject({
      state: "unknown",
      value: "?",
    });
    expect(view.machines[0].axes[1].age).toBe("3\u00a0w");
  });

  it("an open case goes before a loss over the limit, and leads to it", () => {
    const bittern = {
      ...floor.machines[2],
      openCases: [
        { id: 7, axisId: 90 },
        { id: 8, axisId: 88 },
      ],
    };
    const view = floorView(
      { machines: [...floor.machines, { ...bittern, id: 4, nickname: "Wren" }], retired: [] },
      { kindText: MACHINE_KIND_TEXT, system: "metric", filter: asked(""), now: NOW },
    );
    const [first] = view.machines;
    expect(first.nickname).toBe("Wren");
    expect(first.says).toBe("Z: case 7 is open, and 1 more.");
    expect(first.action).toEqual({ label: "Go on with the case", link: ["/machines", 4, "axes", 90, "locate"] });
  });

  it("a job at work goes first, a first check that is due is said", () => {
    const at = (checkOn: string | null) => ({
      ...floor.machines[0],
      jobs: [{ id: 3, title: "Set the gib, X", checkOn }],
    });
    const say = (checkOn: string | null) =>
      floorView(
        { machines: [at(checkOn)], retired: [] },
        { kindText: MACHINE_KIND_TEXT, system: "metric", filter: asked(""), now: NOW },
      ).machines[0];
    expect(say(null).says).toBe("Job 3 is at work: Set the gib, X.");
    expect(say(null).action).toEqual({ label: "Go on with the job", link: ["/jobs", 3] });
    expect(say("2026-03-02").says).toContain("First check after job 3 is due");
  });

  it("a forgotten point is said where nothing else is, and leads to the rounds", () => {
    const dry = { ...floor.machines[0], lubrication: "Y chain: lubrication 198 days late." };
    const [row] = floorView(
      { machines: [dry], retired: [] },
      { kindText: MACHINE_KIND_TEXT, system: "metric", filter: asked(""), now: NOW },
    ).machines;
    expect(row.says).toContain("198 days late");
    expect(row.action?.link).toEqual(["/rounds"]);
  });

  it("what sounds louder than when it was well is said, with where and its ±; what was not recorded for long can wait", () => {
    const times = { lastAt: "2026-02-01T12:00:00.000Z", workedAt: null, ever: true };
    const grown = { soundId: 4, midHz: 3162, louderDb: 14.2, uDb: 3.6, over: true };
    const row = (sound: FloorAxis["sound"]) =>
      floorView(
        { machines: [machine(1, "Wren", [{ ...axis("X", 0.002), sound }])], retired: [] },
        { kindText: MACHINE_KIND_TEXT, system: "metric", filter: asked(""), now: NOW },
      ).machines[0];
    const louder = row({ ...times, grown });
    expect(louder.says).toBe("X sounds 14 dB louder around 3.2 kHz than when it was well, ±\u00a04\u00a0dB.");
    expect([louder.then, louder.action?.label, louder.calm]).toEqual(["Find out why.", "Listen to X", false]);
    expect(louder.action?.link).toEqual(["/machines", 1, "axes", 88, "listen"]);
    expect(row({ ...times, grown: { ...grown, over: false } }).then).toBe("Record it again.");
    const old = row({ ...times, lastAt: "2025-06-01T12:00:00.000Z", grown: null });
    expect([old.says, old.calm]).toEqual(["X was recorded last in Jun 2025: record how it sounds.", true]);
    const worked = row({ ...times, lastAt: null, workedAt: "2026-03-01T12:00:00.000Z", grown: null });
    expect(worked.says).toContain("was worked on and not recorded since");
    expect(row({ ...times, grown: null }).says).toBe("");
  });

  it("finds by nickname, bay and kind, in either unit", () => {
    expect(
      floorView(floor, { kindText: MACHINE_KIND_TEXT, system: "inch", filter: asked("bay 3"), now: NOW }).machines,
    ).toHaveLength(1);
    expect(
      floorView(floor, { kindText: MACHINE_KIND_TEXT, system: "inch", filter: asked("zebra"), now: NOW }).heading,
    ).toBe("No machines found for “zebra”");
    expect(
      floorView(floor, { kindText: MACHINE_KIND_TEXT, system: "inch", filter: asked(""), now: NOW }).machines[0].says,
    ).toContain("10.63 tenths");
  });

  it("that nobody looked yet is not said to be well, nor is an empty shop", () => {
    const heading = (machines: Floor["machines"]): string =>
      floorView(
        { machines, retired: [] },
        { kindText: MACHINE_KIND_TEXT, system: "metric", filter: asked(""), now: NOW },
      ).heading;
    expect(heading([machine(1, "Wren", [axis("X", 0.002)])])).toBe("No machine wants you");
    expect(heading([machine(1, "Wren", [axis("X", 0.002)]), machine(2, "Teasel", [axis("X", null)])])).toBe(
      "No machine wants you; one has an axis never measured",
    );
    expect(heading([])).toBe("No machine yet");
  });

  it("is narrowed by bay, by kind and by what an axis is known to be; never measured is a state of its own", () => {
    const narrow = (more: Partial<FloorFilter>) =>
      floorView(floor, {
        kindText: MACHINE_KIND_TEXT,
        system: "metric",
        filter: asked("", more),
        now: NOW,
      }).machines.map((m) => m.nickname);
    expect(narrow({ bay: "3" })).toEqual(["Bittern"]);
    expect(narrow({ kind: "lathe" })).toHaveLength(3);
    expect(narrow({ kind: "router" })).toEqual([]);
    expect(narrow({ state: "never" })).toEqual(["Knot"]);
    expect(narrow({ state: "act" })).toEqual(["Bittern"]);
    expect(
      floorView(floor, {
        kindText: MACHINE_KIND_TEXT,
        system: "metric",
        filter: asked("", { state: "act" }),
        now: NOW,
      }).heading,
    ).toBe("One machine of 3");
  });

  it("bays are offered in the order of their numbers, each once", () => {
    const bays = ["10", "9", "9", "2b"].map((bay, i) => ({ ...machine(i, `m${i}`, []), bay }));
    expect(floorChoices({ machines: bays })).toEqual({ bays: ["2b", "9", "10"], kinds: ["lathe"] });
  });
});
