import { auditSheet, DEFAULT_OPTIONS, JOB_KINDS, kitOf, NoWay, planJob, stateAfter } from "@iron/core";
import { anyAxis, anyJob, numbers, stateAt } from "../packages/core/src/job/sheets.testing";

const LETTERS = ["X", "Y", "Z", "A", "B"];

/** Everything that fits, on every axis of machines of five: the largest sheets there are. */
function benchLargest(machines: number): string {
  const next = numbers(5);
  let [most, worstMs, worstWalkMs] = [0, 0, 0];
  for (let i = 0; i < machines; i += 1) {
    const axes = LETTERS.map((letter) => ({
      letter,
      config: anyAxis(letter, next),
    }));
    const items = axes.flatMap(({ letter, config }) =>
      JOB_KINDS.filter((k) => k.fits(config)).map((k) => ({
        letter,
        kind: k.id,
      })),
    );
    let at = performance.now();
    const plan = planJob({ axes, items, options: DEFAULT_OPTIONS });
    const tookMs = performance.now() - at;
    at = performance.now();
    plan.steps.reduce((s, x) => stateAfter(s, x.axis, x.effects), plan.start);
    if (tookMs > worstMs) [worstMs, worstWalkMs] = [tookMs, performance.now() - at];
    most = Math.max(most, plan.steps.length);
  }
  return `largest combinations: ${machines} machines of ${LETTERS.length} axes, every kind that fits on each, up to ${most} steps: at worst ${worstMs.toFixed(1)} ms, ${(worstMs / worstWalkMs).toFixed(1)} times walking that sheet`;
}

/**
 * Job sheets of any axis, whole and cut short anywhere, through their audit: faults by rule, and what a
 * sheet costs against walking it once. Exits non-zero with any fault.
 */
export function benchSheets(count: number): boolean {
  const next = numbers(12);
  const faults = new Map<string, number>();
  let [sheets, steps, planMs, auditMs, walkMs, refused] = [0, 0, 0, 0, 0, 0];
  const add = (what: string): void => {
    faults.set(what, (faults.get(what) ?? 0) + 1);
  };
  let [singles, singleMs, singleWalkMs] = [0, 0, 0];
  const one = (request: Parameters<typeof planJob>[0]) => {
    const single = request.axes.length === 1 && request.items.length === 1;
    let at = performance.now();
    const plan = planJob(request);
    const tookMs = performance.now() - at;
    planMs += tookMs;
    at = performance.now();
    for (const f of auditSheet({ ...plan, kit: kitOf(plan) })) add(`rule ${f.rule}: ${f.step} ${f.message}`);
    auditMs += performance.now() - at;
    at = performance.now();
    plan.steps.reduce((s, x) => stateAfter(s, x.axis, x.effects), plan.start);
    const walkedMs = performance.now() - at;
    walkMs += walkedMs;
    if (single) {
      singles += 1;
      singleMs += tookMs;
      singleWalkMs += walkedMs;
    }
    sheets += 1;
    steps += plan.steps.length;
    return plan;
  };
  while (sheets < count)
    try {
      const job = anyJob(next);
      const whole = one(job);
      const at = 1 + Math.floor(next() * (whole.steps.length - 1));
      one({ ...job, items: [], start: stateAt(whole, at) });
    } catch (error) {
      if (!(error instanceof NoWay)) throw error;
      refused += 1;
      add(`no sheet: ${error.message}`);
    }
  for (const [what, times] of faults) console.log(`${times} × ${what}`);
  const each = (ms: number): string => `${((1000 * ms) / sheets).toFixed(0)} µs`;
  console.log(
    `${sheets} sheets of ${(steps / sheets).toFixed(0)} steps on average, half of them cut short: ${faults.size} kinds of fault, ${refused} without a sheet`,
  );
  console.log(
    `plan with its own audit ${each(planMs)}, audit ${each(auditMs)}, walking the finished sheet ${each(walkMs)}: ratios ${(planMs / walkMs).toFixed(1)} and ${(auditMs / walkMs).toFixed(1)}`,
  );
  console.log(
    `single jobs (one axis, one kind): ${singles}, plan with its audit ${((1000 * singleMs) / singles).toFixed(0)} µs, ${(singleMs / singleWalkMs).toFixed(1)} times walking the sheet`,
  );
  console.log(benchLargest(200));
  return faults.size === 0;
}
