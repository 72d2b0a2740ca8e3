import * as fc from "fast-check";
import { COUPLINGS, defaultAxis, FIXINGS, GUIDEWAYS, isGravityAxis, LOCK_NUTS, ORIENTATIONS, TRANSMISSIONS, type AxisConfig } from "../axis"; // prettier-ignore
import { AXIS_FACTS, bareName, factWords, openFact } from "./facts";
import { DEFAULT_OPTIONS, jobKind, jobsFor, JOB_KINDS, JOB_OF_CAUSE } from "./job-kinds"; // prettier-ignore
import { checkOrder, factsAfter, openedLinks } from "./order";
import { planJob, TEMPLATES, type JobPlan, type PlannedStep } from "./planner";
import { estimateJob, kitList } from "./estimate";
import { SCREW_TORQUES } from "./fasteners";
import { CAUSES } from "../diagnosis";
import type { JobKindId, JobOptions } from "./types";

const plan = (config: AxisConfig, kind: JobKindId, options: Partial<JobOptions> = {}): JobPlan =>
  planJob({ axes: [{ letter: config.letter, config }], items: [{ letter: config.letter, kind }], options: { ...DEFAULT_OPTIONS, ...options } }); // prettier-ignore
const vertical = defaultAxis("vertical-centre", "Z");
const horizontal = defaultAxis("vertical-centre", "X");

/** Every way an axis can be put together, as far as a sheet depends on it. */
function everyConfig(): AxisConfig[] {
  const all: AxisConfig[] = [];
  let turn = 0;
  for (const transmission of TRANSMISSIONS)
    for (const orientation of ORIENTATIONS)
      for (const lockNut of LOCK_NUTS)
        for (const fixings of FIXINGS)
          for (const coupling of [COUPLINGS[0], COUPLINGS[1]])
            for (const [counterweight, gasSpring] of [
              [false, false],
              [true, false],
              [false, true],
            ]) {
              turn += 1;
              all.push({
                ...vertical,
                transmission,
                orientation,
                lockNut,
                coupling,
                counterweight,
                gasSpring,
                screw: {
                  ...vertical.screw,
                  fixings,
                  make: turn % 2 ? "ground" : "rolled",
                },
                guideway: GUIDEWAYS[turn % GUIDEWAYS.length],
                nut:
                  transmission === "plain-screw" || turn % 5 === 0
                    ? "anti-backlash"
                    : "double",
                member: turn % 3 ? "head" : "table",
                brake: turn % 2 === 0,
              });
            }
  return all; // prettier-ignore
}

/** Walks a sheet by itself, knowing only what steps say of facts: the invariants, not the planner. */
function audit(sheet: readonly PlannedStep[], config: AxisConfig, start: readonly string[] = []): string[] {
  const holds = new Set(start);
  const wrong: string[] = [];
  const retested = new Map<string, number>();
  const closedAt = new Map<string, number>();
  sheet.forEach((s, i) => {
    const bare = s.opens ? bareName(s.opens) : "";
    if (isGravityAxis(config) && openFact(bare)?.carries) {
      if (!holds.has(`${s.axis}:blocked`)) wrong.push(`${s.id} frees the member with no block`);
      if (!holds.has(`${s.axis}:block-tried`)) wrong.push(`${s.id} frees the member on an untried block`);
      if ((config.counterweight || config.gasSpring) && !holds.has(`${s.axis}:balance-secured`)) wrong.push(`${s.id} frees the balance`);
    }
    if (s.phase === "work" && s.opens && !holds.has("isolated")) wrong.push(`${s.id} reaches in with no isolation`);
    if (s.id.endsWith("slow-jog") || s.retest === "chain")
      for (const f of holds)
        if (openFact(f)?.stopsDrive || f === "isolated") wrong.push(`${s.id} moves the drive while ${f}`);
    if (bareName(s.id) === "remove-block")
      for (const f of holds) if (openFact(f)?.carries) wrong.push(`the block goes while ${f}`);
    if (s.closes) {
      if (!holds.has(s.closes)) wrong.push(`${s.id} closes what is not open`);
      closedAt.set(s.closes, i);
      holds.delete(s.closes);
    }
    if (s.opens) holds.add(s.opens);
    if (s.does) {
      holds.add(s.does);
      if (bareName(s.does).startsWith("retested-")) retested.set(s.does, i);
    }
  });
  for (const f of holds) if (openFact(f)) wrong.push(`${f} at the end`);
  for (const { fact, retest } of openedLinks(sheet)) {
    if (!retest) continue;
    const at = retested.get(retest);
    if (at === undefined) wrong.push(`${fact} is never retested`);
    else if (bareName(fact) !== "tab-open" && at < (closedAt.get(fact) ?? Infinity)) wrong.push(`${fact} is retested before it is closed`);
  }
  for (const s of sheet) if (s.keep && s.opens && !closedAt.has(s.opens)) wrong.push(`${s.opens} never goes back`);
  for (const id of ["tab-fold", "covers-on"]) {
    const at = sheet.findIndex((s) => bareName(s.id) === id);
    for (const i of retested.values()) if (at >= 0 && i > at) wrong.push(`${id} before the retest`);
  }
  if (sheet.at(-1)?.id !== "sign-off") wrong.push("the sign-off is not last");
  return wrong;
} // prettier-ignore

describe("every configuration and job kind", () => {
  const configs = everyConfig();

  it("no sheet breaks a precondition, forgets a part or leaves a link unproven", () => {
    const met = new Set<string>();
    for (const config of configs)
      for (const kind of jobsFor(config)) {
        met.add(kind.id);
        const { steps } = plan(config, kind.id);
        const wrong = [...audit(steps, config), ...checkOrder(steps, []).map((b) => b.words)]; // prettier-ignore
        if (wrong.length) throw new Error(`${kind.id} ${config.transmission} ${config.orientation} ${config.lockNut} ${config.screw.fixings}: ${wrong.join("; ")}`); // prettier-ignore
      }
    expect(met.size).toBe(JOB_KINDS.length);
  });

  it("whatever order passes the check passes the audit too; others are told why", () => {
    let accepted = 0;
    let refused = 0;
    fc.assert(fc.property(fc.nat(configs.length - 1), fc.nat(99), fc.nat(99), fc.nat(99), (c, k, from, to) => {
      const config = configs[c];
      const kinds = jobsFor(config);
      const { steps } = plan(config, kinds[k % kinds.length].id);
      const moved = [...steps];
      const [step] = moved.splice(from % steps.length, 1);
      moved.splice(to % steps.length, 0, step);
      const breaches = checkOrder(moved, []);
      if (breaches.length === 0) {
        accepted += 1;
        expect(audit(moved, config)).toEqual([]);
      } else {
        refused += 1;
        for (const b of breaches) expect(b.words.length).toBeGreaterThan(20);
      }
    }), { numRuns: 1500 }); // prettier-ignore
    expect(accepted).toBeGreaterThan(50);
    expect(refused).toBeGreaterThan(200);
  });

  it("can be planned anew from any place of a job: loose found, tighten and close", () => {
    for (const config of configs.filter((_, i) => i % 7 === 0))
      for (const kind of jobsFor(config)) {
        const { steps } = plan(config, kind.id);
        const signed = steps.findIndex((s) => s.phase === "power");
        for (let n = 1; n < signed; n += 3) {
          const start = factsAfter(steps.slice(0, n), []);
          const anew = planJob({ axes: [{ letter: "Z", config }], items: [{ letter: "Z", kind: "tighten" }], options: DEFAULT_OPTIONS, start }); // prettier-ignore
          const wrong = [...audit(anew.steps, config, start), ...checkOrder(anew.steps, start).map((b) => b.words)]; // prettier-ignore
          if (wrong.length) throw new Error(`${kind.id} after ${n}: ${wrong.join("; ")}`); // prettier-ignore
        }
      }
  });
});

describe("what a sheet says", () => {
  it("the fixed-bearing job keeps the order of the trade on a vertical axis with a tab", () => {
    const { steps } = plan({ ...vertical, lockNut: "double-nut-tab", counterweight: true }, "fixed-bearings"); // prettier-ignore
    const at = (id: string): number => steps.findIndex((s) => s.id === `Z:${id}` || s.id === id); // prettier-ignore
    // Common practice, no source (the order is the knowledge).
    const order = ["note-home", "set-block", "isolate", "try-block", "covers-off", "coupling-open", "motor-off", "tab-open", "nut-off", "housing-off", "bearing-out", "finger-feel", "clean-seat", "bearing-in", "spacer-in", "housing-on", "pins-in", "shims-in", "set-preload", "housing-tight", "float-bracket", "motor-on", "coupling-shut", "energise", "remove-block", "slow-jog", "reference", "retest-chain", "tab-fold", "covers-on", "sign-off"]; // prettier-ignore
    for (const id of order) expect([id, at(id)]).not.toEqual([id, -1]);
    for (let i = 1; i < order.length; i += 1)
      expect([order[i - 1], order[i], at(order[i - 1]) < at(order[i])]).toEqual([order[i - 1], order[i], true]); // prettier-ignore
  });

  it("on a vertical axis it warns that the top nut must not lift the screw; the block is never under the nose", () => {
    const { steps } = plan(vertical, "fixed-bearings");
    const preload = steps.find((s) => s.id === "Z:set-preload");
    expect(preload?.how.join(" ")).toContain("must not lift the screw");
    expect(steps.find((s) => s.id === "Z:set-block")?.how.join(" ")).toContain("Never under the spindle nose"); // prettier-ignore
    expect(plan(horizontal, "fixed-bearings").steps.some((s) => bareName(s.id) === "set-block")).toBe(false); // prettier-ignore
  });

  it("three axes in one stop share isolation, power and sign-off once", () => {
    const axes = ["X", "Y", "Z"].map((letter) => ({ letter, config: defaultAxis("vertical-centre", letter) })); // prettier-ignore
    const one = axes.map((a) => plan(a.config, "fixed-bearings"));
    const all = planJob({ axes, items: axes.map((a) => ({ letter: a.letter, kind: "fixed-bearings" as const })), options: DEFAULT_OPTIONS }); // prettier-ignore
    for (const id of [
      "isolate",
      "energise",
      "tools-out",
      "isolate-again",
      "sign-off",
    ])
      expect(all.steps.filter((s) => s.id === id)).toHaveLength(1);
    expect(all.steps.length).toBeLessThan(one.reduce((n, p) => n + p.steps.length, 0)); // prettier-ignore
    expect(checkOrder(all.steps, [])).toEqual([]);
    const minutes = (p: JobPlan): number => estimateJob(p, axes).minutes;
    expect(minutes(all)).toBeLessThan(one.reduce((s, p) => s + minutes(p), 0));
  });

  it("finds that stop the job are on the steps that try fasteners", () => {
    const stops = plan(horizontal, "screw").steps.filter((s) => s.finds.some((f) => f.offersStop)); // prettier-ignore
    expect(stops.map((s) => bareName(s.id))).toEqual(expect.arrayContaining(["coupling-open", "housing-loose", "bracket-loose"])); // prettier-ignore
  });

  it("says in words what a bad order breaks", () => {
    const { steps } = plan(vertical, "coupling");
    const motor = steps.findIndex((s) => s.id === "Z:motor-off");
    const first = [steps[motor], ...steps.filter((_, i) => i !== motor)];
    const words = checkOrder(first, []).map((b) => b.words);
    expect(words).toContain("“Z: Motor with its brake off, as one piece” comes too early: it needs that Z: the block has been tried with the drive off."); // prettier-ignore
  });

  it("a school changes the words, a screw’s class changes who rebuilds its nut", () => {
    const words = (o: Partial<JobOptions>, make: "ground" | "rolled" = "rolled"): string =>
      plan({ ...horizontal, screw: { ...horizontal.screw, make } }, "ball-nut", o).steps.map((s) => s.title + s.how.join()).join(); // prettier-ignore
    expect(words({ preload: "feel" })).toContain("flick of the screw end");
    expect(words({ preload: "drag" })).toContain("cord pull");
    expect(words({ nutService: "rebuild" })).toContain("ball by ball");
    expect(words({ nutService: "rebuild" }, "ground")).toContain("screw shop");
  });
});

describe("estimate and kit", () => {
  it("two people are faster, never below the longest chain; the range holds the estimate", () => {
    const sheet = plan(vertical, "screw");
    const e = estimateJob(sheet, [{ letter: "Z", config: vertical }]);
    expect(e.twoPeopleMinutes).toBeLessThanOrEqual(e.minutes);
    const longest = e.criticalPath.reduce((s, id) => s + (sheet.steps.find((x) => x.id === id)?.minutes ?? 0), 0); // prettier-ignore
    expect(e.twoPeopleMinutes).toBeGreaterThanOrEqual(longest - 1e-9);
    expect(e.between[0]).toBeLessThan(e.minutes);
    expect(e.between[1]).toBeGreaterThan(e.minutes);
    expect(e.partsCost).toBeGreaterThan(vertical.costs.screw);
  });

  it("lists parts once with their number, tools once, stand-ins for special ones", () => {
    const kit = kitList(plan(horizontal, "fixed-bearings"));
    expect(kit.parts.find((p) => p.name === "end-bearing set")).toMatchObject({ count: 1, order: true }); // prettier-ignore
    expect(new Set(kit.tools).size).toBe(kit.tools.length);
    expect(kit.standIns.map((s) => s.tool)).toContain("bearing puller");
    expect(plan(horizontal, "bearing-preload").steps.flatMap((s) => s.parts).some((p) => p.name === "end-bearing set")).toBe(false); // prettier-ignore
  });
});

describe("the step tables", () => {
  it("every fact has one step that makes it and one that undoes it, and words", () => {
    for (const fact of AXIS_FACTS) {
      expect([fact.id, TEMPLATES.filter((t) => t.opens === fact.id).length]).toEqual([fact.id, 1]); // prettier-ignore
      expect([fact.id, TEMPLATES.filter((t) => t.closes === fact.id).length]).toEqual([fact.id, 1]); // prettier-ignore
      expect(factWords(`Z:${fact.id}`)).toContain("Z: ");
    }
    expect(new Set(TEMPLATES.map((t) => t.id)).size).toBe(TEMPLATES.length);
  });

  it("every job of a cause is a job, and every cause that is mended by opening has one", () => {
    for (const [cause, kind] of Object.entries(JOB_OF_CAUSE)) {
      expect(CAUSES.map((c) => c.id)).toContain(cause);
      expect(jobKind(kind).name).not.toBe("");
    }
  });

  it("carries four bolts crosswise and the torques of the bolt tables", () => {
    // Common practice, no source: four carriage bolts crosswise. Bolt tables after VDI 2230, from memory.
    const on = plan(horizontal, "carriages").steps.find((s) => s.id === "X:carriage-on"); // prettier-ignore
    expect(on?.how.join(" ")).toContain("Four bolts crosswise");
    expect(SCREW_TORQUES["M8"]).toBe(23);
    expect(on?.torque).toContain("23.0 N·m (17.0 lbf·ft)");
  });
});
