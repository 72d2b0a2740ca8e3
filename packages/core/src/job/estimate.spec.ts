import { defaultAxis, pricesOf, type AxisConfig } from "../machine/axis";
import { dependencies, estimateJob, scheduleForTwo, type Edge } from "./estimate";
import { kitList } from "./kit";
import { planJob, type JobPlan } from "./planner";
import { numbers } from "./sheets.testing";
import { DEFAULT_OPTIONS, type JobKindId } from "./step-kind";

const x = defaultAxis("vertical-centre", "X");
const plan = (config: AxisConfig, kind: JobKindId): JobPlan =>
  planJob({
    axes: [{ letter: config.letter, config }],
    items: [{ letter: config.letter, kind }],
    options: { ...DEFAULT_OPTIONS, nutService: "send-out" },
  });

/** The best two people can do, by trying every order in which steps are begun. */
function bestOfAll(
  steps: readonly { readonly minutes: number; readonly people: 1 | 2 }[],
  edges: readonly Edge[],
): number {
  const before = steps.map((_, i) => edges.filter(([, b]) => b === i).map(([a]) => a));
  let best = Infinity;
  const go = (ends: readonly (number | null)[], free: readonly [number, number]): void => {
    if (Math.max(...free) >= best) return;
    const left = steps.map((_, i) => i).filter((i) => ends[i] === null);
    if (left.length === 0) best = Math.min(best, Math.max(...free));
    for (const i of left) {
      if (before[i].some((b) => ends[b] === null)) continue;
      const from = Math.max(0, ...before[i].map((b) => ends[b] ?? 0));
      for (const who of steps[i].people === 2 ? [0] : [0, 1]) {
        const at = Math.max(from, steps[i].people === 2 ? Math.max(...free) : free[who]);
        const end = at + steps[i].minutes;
        const next: [number, number] = steps[i].people === 2 ? [end, end] : who === 0 ? [end, free[1]] : [free[0], end];
        go(
          ends.map((e, j) => (j === i ? end : e)),
          next,
        );
      }
    }
  };
  go(
    steps.map(() => null),
    [0, 0],
  );
  return best;
}

describe("what a job takes", () => {
  it("list scheduling never beats the best of all orders, and stays within Graham’s bound of it", () => {
    // Graham (1966): at most 2 − 1/m of the best, here 1.5 for two people; steps for both at once allow a little more.
    const next = numbers(66);
    for (let round = 0; round < 60; round += 1) {
      const steps = Array.from({ length: 6 }, (_, i) => ({
        id: `${i}`,
        minutes: 1 + Math.floor(9 * next()),
        people: next() < 0.2 ? (2 as const) : (1 as const),
      }));
      const edges = steps.flatMap((_, b) =>
        steps.slice(0, b).flatMap((__, a): Edge[] => (next() < 0.25 ? [[a, b]] : [])),
      );
      const ours = scheduleForTwo(steps, edges).minutes;
      const best = bestOfAll(steps, edges);
      expect(ours).toBeGreaterThanOrEqual(best - 1e-9);
      expect(ours).toBeLessThanOrEqual(2 * best);
    }
  });

  it("two people are faster, never below the longest chain; the range holds the estimate", () => {
    const sheet = plan(x, "screw");
    const e = estimateJob(sheet);
    const longest = e.criticalPath.reduce((s, id) => s + (sheet.steps.find((q) => q.id === id)?.minutes ?? 0), 0);
    expect(e.twoPeopleMinutes).toBeLessThanOrEqual(e.minutes);
    expect(e.twoPeopleMinutes).toBeGreaterThanOrEqual(longest - 1e-9);
    expect(e.between[0]).toBeLessThan(e.minutes);
    expect(e.between[1]).toBeGreaterThan(e.minutes);
    expect(e.partsCost).toBeGreaterThan(pricesOf(x).screw);
    const done = new Set(sheet.steps.slice(0, 20).map((s) => s.id));
    expect(estimateJob(sheet, done).minutes).toBeLessThan(e.minutes);
  });

  it("days at a screw shop count, in days and in standing", () => {
    const e = estimateJob(plan(x, "ball-nut"));
    expect(e.waitDays).toBe(10);
    expect(e.downtimeCost).toBeCloseTo((e.minutes / 60 + 80) * x.costs.downtimePerHour, 6);
    expect(estimateJob(plan(x, "coupling")).waitDays).toBe(0);
  });

  it("nothing waits for what comes after it", () => {
    const sheet = plan(x, "fixed-bearings");
    for (const [a, b] of dependencies(sheet.steps, sheet.axes)) expect(a).toBeLessThan(b);
  });

  it("the kit holds every tool once, special ones with what does instead, parts with their number", () => {
    const sheet = plan(x, "fixed-bearings");
    const kit = kitList(sheet);
    const all = [...kit.tools, ...kit.special.map((s) => s.tool)];
    expect(new Set(all).size).toBe(all.length);
    for (const tool of sheet.steps.flatMap((s) => s.tools)) expect(all).toContain(tool);
    expect(kit.special.map((s) => s.tool)).toContain("bearing puller");
    expect(kit.parts.find((p) => p.name === "end-bearing set")).toMatchObject({
      count: 1,
      order: true,
      axes: "X",
    });
    expect(
      kitList(plan(defaultAxis("router", "X"), "carriages")).parts.find((p) => p.name === "rail carriage")?.count,
    ).toBe(4);
  });
});
