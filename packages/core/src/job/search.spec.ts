import { defaultAxis, type AxisConfig } from "../machine/axis";
import { stateAfter } from "../machine/mechanism";
import { auditSheet, auditStepNow } from "./audit";
import { jobKind } from "./job-kinds.table";
import { planJob, type JobPlan } from "./planner";
import { sheetOf } from "./sheets.testing";
import { DEFAULT_OPTIONS, type JobKindId } from "./step-kind";

const plan = (config: AxisConfig, kind: JobKindId): JobPlan =>
  planJob({
    axes: [{ letter: config.letter, config }],
    items: [{ letter: config.letter, kind }],
    options: DEFAULT_OPTIONS,
  });

describe("against an independent search", () => {
  /**
   * Looks for any order of the same steps that the audit takes, knowing nothing of the planner’s: depth
   * first, a step is tried when nothing stands against it now, and what was seen once is not tried again.
   */
  function findOrder(p: JobPlan, leaveOut: number): boolean {
    const steps = p.steps.filter((_, i) => i !== leaveOut);
    const seen = new Set<string>();
    const order: number[] = [];
    const go = (state: JobPlan["start"], done: ReadonlySet<number>): boolean => {
      if (done.size === steps.length) {
        const now = order.map((i) => steps[i]);
        const { kit } = sheetOf(p.axes, p.start, now);
        return auditSheet({
          axes: p.axes,
          start: p.start,
          steps: now,
          kit,
        }).every((f) => f.rule === 9);
      }
      const key = `${[...done].sort((a, b) => a - b).join()} ${JSON.stringify(state)}`;
      if (seen.has(key)) return false;
      seen.add(key);
      const ready = steps.flatMap((s, i) => (!done.has(i) && auditStepNow(p.axes, state, s).length === 0 ? [i] : []));
      // What only notes something hurts nobody and is done at once, but for a proof: too early it proves nothing.
      const free = ready.find(
        (i) =>
          steps[i].retest === null && steps[i].id !== "sign-off" && steps[i].effects.every((e) => e.kind === "note"),
      );
      for (const i of free === undefined ? ready : [free]) {
        order.push(i);
        if (go(stateAfter(state, steps[i].axis, steps[i].effects), new Set([...done, i]))) return true;
        order.pop();
      }
      return false;
    };
    return go(p.start, new Set());
  }

  const engraver: AxisConfig = {
    ...defaultAxis("engraver", "X"),
    mechanics: { ...defaultAxis("engraver", "X").mechanics, bumper: false },
  };
  const router = defaultAxis("router", "X");
  it.each([
    ["anti-backlash nut of an engraver", engraver, "antibacklash"],
    ["V-wheels of an engraver", engraver, "v-wheels"],
    ["home switch of an engraver", engraver, "home-switch"],
    ["pinion of a router", router, "pinion"],
    ["belt of a router", { ...router, transmission: "belt" }, "belt"],
  ] as const)(
    "%s: finds an order of the sheet’s own steps, and none once a step that changes the mechanism is left out",
    (_, config, kind) => {
      const small = plan(config, kind);
      expect(findOrder(small, -1)).toBe(true);
      // What the job is for is wanted by somebody, not by the mechanism.
      const own = jobKind(kind).steps(config, DEFAULT_OPTIONS, {
        kinds: new Set([kind]),
        loose: [],
      });
      const changes = small.steps.flatMap((s, n) =>
        s.effects.some((e) => e.kind !== "note") && !own.includes(s.kind) ? [n] : [],
      );
      expect(changes.length).toBeGreaterThan(1);
      for (const i of changes) expect([small.steps[i].id, findOrder(small, i)]).toEqual([small.steps[i].id, false]);
    },
  );
});
