import { newSign } from "../../testing/signed";
import { DEFAULT_OPTIONS, defaultAxis, jobProgress, planJob } from "@iron/core";
import type { Axis, Job, JobAct } from "@iron/contract";
import { pendingEvents } from "./job-queue";
import {
  aheadText,
  beforeAfter,
  beforeFigure,
  jobChoices,
  openLinks,
  remarks,
  sheetRows,
  standText,
  stepLinks,
  stepTime,
} from "./job.view";

const config = { ...defaultAxis("vertical-centre", "Z"), lockNut: "double-nut-tab" as const };
const axis: Axis = { id: 6, machineId: 2, version: 1, retiredAt: null, config } as unknown as Axis;
const plan = planJob({
  axes: [{ letter: "Z", config }],
  items: [{ letter: "Z", kind: "fixed-bearings" }],
  options: DEFAULT_OPTIONS,
});

function job(over: Partial<Job> = {}): Job {
  return {
    id: 1,
    machineId: 2,
    nickname: "Godwit",
    bay: "7",
    caseId: null,
    title: "Replace fixed-end bearings, Z",
    items: [{ letter: "Z", kind: "fixed-bearings" }],
    options: DEFAULT_OPTIONS,
    axes: [
      {
        axisId: 6,
        letter: "Z",
        leaveMm: 0.01,
        repairMm: 0.025,
        before: {
          reversalValueMm: 0.027,
          expandedMm: 0.001,
          runId: 3,
          at: "2026-03-03T07:40:00Z",
          kind: "two-sided",
          placeMm: 230,
        },
      },
    ],
    openedAt: "2026-03-03T08:00:00Z",
    by: "Ilse",
    finishedAt: null,
    checkOn: null,
    plan: plan as Job["plan"],
    events: [],
    photos: [],
    ...over,
  };
}
const sign = (step: string, more: object = {}) => ({
  kind: "sign" as const,
  ...newSign(plan.steps.find((s) => s.id === step) ?? plan.steps[0]),
  step,
  at: "2026-03-03T09:00:00Z",
  by: "Tomas",
  key: step,
  ...more,
});
const upTo = (id: string) =>
  plan.steps
    .slice(
      0,
      plan.steps.findIndex((s) => s.id === id),
    )
    .map((s) => sign(s.id));
const progressOf = (j: Job) => jobProgress(j.plan, j.events);

describe("what waits for the server", () => {
  const act: JobAct = { kind: "note", step: "Z:motor-off", words: "rust", key: "a" };

  it("is shown as done, once, and never as a sheet planned anew", () => {
    const waiting = [{ act, at: "2026-03-03T09:00:00Z", by: "Ama" }];
    expect(pendingEvents([], waiting)).toEqual([
      { kind: "note", step: "Z:motor-off", words: "rust", key: "a", at: "2026-03-03T09:00:00Z", by: "Ama" },
    ]);
    const known = pendingEvents([], waiting);
    expect(pendingEvents(known, waiting)).toEqual([]);
    expect(pendingEvents([], [{ act: { kind: "stop-here", letter: "Z", key: "b" }, at: "", by: "" }])).toEqual([]);
  });
});

describe("a job as it is shown", () => {
  it("says how far it is, who carries the head and what is open", () => {
    const j = job({ events: upTo("Z:try-end") });
    const p = progressOf(j);
    expect(aheadText(p)).toMatch(/^1[0-9] of \d\d steps signed, about \d h/);
    expect(standText(p)).toEqual([
      "power off · head: block · motor off, hub off the screw, panel off, covers off, bumper off",
    ]);
    expect(openLinks(p, "Z")).toEqual(["motor", "coupling"]);
    expect(openLinks(p, "X")).toEqual([]);
    const rows = sheetRows(j, p);
    expect(rows.filter((r) => r.now).map((r) => r.id)).toEqual(["Z:try-end"]);
    expect(rows[0].done).toContain("Tomas");
    expect(rows[0].state).toBe("power on · head: drive · nothing open");
  });

  it("a row says what its step changed, and no more", () => {
    const j = job({ events: upTo("Z:try-end") });
    const states = sheetRows(j, progressOf(j)).map((r) => r.state);
    expect(states).toContain("+ covers off");
    // The line as a whole stands once, at the axis’ first step.
    expect(states.filter((s) => s.includes("nothing open"))).toHaveLength(1);
    expect(states.filter((s) => s === "").length).toBeGreaterThan(2);
  });

  it("keeps what was signed on a sheet gone by, as it was said there", () => {
    const before = upTo("Z:lock-open");
    const start = progressOf(job({ events: before })).state;
    const anew = planJob({ axes: plan.axes, items: [], options: DEFAULT_OPTIONS, start });
    const why = "fasteners were loose";
    const j = job({
      events: [
        ...before,
        { kind: "plan", why, plan: anew as Job["plan"], at: "2026-03-03T10:00:00Z", by: "Tomas", key: "p" },
      ],
    });
    const rows = sheetRows(j, progressOf(j));
    expect(rows.slice(0, before.length).map((r) => r.done !== "")).toEqual(before.map(() => true));
    expect(rows.map((r) => r.name)).toContain("Z · Motor with its brake off, as one piece");
    expect(rows.filter((r) => r.now)).toHaveLength(1);
    expect(aheadText(progressOf(j))).toContain(`${before.length} of ${rows.length} steps signed`);
  });

  it("puts before and after side by side with the verdict", () => {
    const j = job();
    expect(beforeAfter(j, progressOf(j), "metric")[0]).toEqual({
      letter: "Z",
      message: "27.0 ± 1.0 µm before.",
      passes: null,
    });
    const done = job({
      events: [
        ...upTo("Z:retest-chain"),
        sign("Z:retest-chain", { figure: { reversalValueMm: 0.006, expandedMm: 0.001, runId: 9 } }),
      ],
    });
    const [after] = beforeAfter(done, progressOf(done), "metric");
    expect(after.passes).toBe(true);
    expect(after.message).toContain("27.0 ± 1.0 µm before, 6.0 ± 1.0 µm after");
    const typed = job({
      events: [sign("Z:measure-before", { reading: 0.03 })],
    });
    expect(beforeFigure(typed, progressOf(typed), "Z")?.reversalValueMm).toBe(0.03);
    expect(beforeFigure(job(), progressOf(job()), "Q")).toBeNull();
  });

  it("collects what was found, changed and accepted; what was as it should be stays quiet", () => {
    const j = job({
      events: [
        sign("Z:hub-ease", { found: "tight" }),
        sign("Z:try-end", { found: "rusty", words: "left side" }),
        sign("Z:shims-in", { kept: "changed", change: "0.10 for 0.15" }),
        sign("Z:retest-chain", { reason: "screw on order", holdBy: "Ama" }),
      ],
    });
    expect(remarks(progressOf(j))).toEqual([
      "Z · Try every retainer and housing screw at torque, before any is loosened: rust or fretting dust; left side",
      "Z · Then the shims, each in its place: changed: 0.10 for 0.15",
      "Z · Retest: same test, same place, same indicator: accepted: screw on order (Ama)",
    ]);
  });

  it("says how long step and job have been going", () => {
    const j = job({ events: [sign("Z:measure-before")] });
    expect(stepTime(j, Date.parse("2026-03-03T09:12:00Z"))).toBe(
      "This step has been going for 12 min, the job for 1 h 12 min.",
    );
  });

  it("leads from a step to the sums and measurements it needs", () => {
    const step = (id: string) => plan.steps.find((s) => s.id === id) ?? plan.steps[0];
    expect(stepLinks(job(), step("Z:set-preload"))[0]).toEqual({
      label: "Bearing nut: torque and clamp force",
      link: ["/sums", "bearing-nut"],
      axis: 6,
    });
    const float = { ...step("Z:set-preload"), kind: "float-bracket" };
    expect(stepLinks(job(), float).at(-1)?.link).toEqual(["/machines", 2, "axes", 6, "set"]);
    expect(stepLinks(job(), step("isolate"))).toEqual([]);
  });

  it("offers the jobs of the axis, the wanted one first", () => {
    const all = jobChoices(axis, "coupling");
    expect(all[0].id).toBe("coupling");
    expect(all.map((j) => j.id)).not.toContain("rack-spot");
  });
});
