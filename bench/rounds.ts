import {
  expandVisits,
  planHorizon,
  planRounds,
  planWhenDue,
  replanHorizon,
  roundCost,
  type HorizonPoint,
  type PlanDay,
  type VisitNeed,
} from "@iron/core";
import highsLoader from "highs";
import { simulateLearning } from "../packages/core/src/coverage/learn-interval";
import { asProgramme } from "../packages/core/src/lubrication/rounds-programme.testing";

function draws(seed: number): () => number {
  let s = seed;
  return () => (s = (s * 48_271) % 2_147_483_647) / 2_147_483_647;
}

/** A made-up shop of visits; the same for every method. */
function visitsOf(
  machines: number,
  { points, days, seed }: { readonly points: number; readonly days: number; readonly seed: number },
): VisitNeed[] {
  const draw = draws(seed);
  return Array.from({ length: machines * points }, (_, i) => ({
    id: `v${i}`,
    machine: i % machines,
    bay: String((i % machines) % Math.max(2, Math.ceil(machines / 6))),
    minutes: 3 + Math.floor(6 * draw()),
    weight: 1 + Math.floor(3 * draw()),
    dueDay: -1 + (days + 2) * draw(),
    intervalDays: 7 + 60 * draw(),
  }));
}

const days = (count: number, minutes: number): PlanDay[] => Array.from({ length: count }, () => ({ minutes }));

async function timed<T>(work: () => T | Promise<T>): Promise<[T, number]> {
  const start = performance.now();
  const answer = await work();
  return [answer, performance.now() - start];
}

/** Rounds against an exact solver, its bound, and the plain method; half a year; learning. */
export async function benchRounds(): Promise<void> {
  const highs = await highsLoader();
  let [ours, exact, plain, oursMs, exactMs] = [0, 0, 0, 0, 0];
  const shops = 12;
  for (let seed = 1; seed <= shops; seed += 1) {
    const visits = visitsOf(4, { points: 5, days: 6, seed: 131 * seed });
    const week = days(6, 45);
    const [plan, ms] = await timed(() => planRounds(visits, week));
    const [solved, solverMs] = await timed(() => highs.solve(asProgramme(visits, week)));
    ours += plan.cost;
    exact += solved.ObjectiveValue;
    plain += planWhenDue(visits, week).cost;
    oursMs += ms;
    exactMs += solverMs;
  }
  console.log(
    `rounds, ${shops} shops of 4 machines × 5 points × 6 days: ours ${(ours / exact).toFixed(4)} of the exact optimum (HiGHS), plain ${(plain / exact).toFixed(3)}; time ratio to HiGHS ${(oursMs / exactMs).toFixed(2)}`,
  );

  for (const [machines, points, count] of [
    [12, 8, 10],
    [30, 10, 14],
  ] as const) {
    const visits = visitsOf(machines, { points, days: count, seed: 77 });
    const span = days(count, Math.ceil((visits.reduce((s, v) => s + v.minutes, 0) / count) * 1.2));
    const [plan, ms] = await timed(() => planRounds(visits, span));
    const [bound, boundMs] = await timed(() => highs.solve(asProgramme(visits, span, true)));
    const due = planWhenDue(visits, span).cost;
    console.log(
      `rounds, ${machines} machines × ${points} points × ${count} days: ours ${plan.cost.toFixed(1)}, LP bound ${bound.ObjectiveValue.toFixed(1)} (gap ${(100 * (plan.cost / bound.ObjectiveValue - 1)).toFixed(1)} %, the bound lets a stop be made in parts), plain ${due.toFixed(1)}; ratios to the bound ${(plan.cost / bound.ObjectiveValue).toFixed(2)} and ${(due / bound.ObjectiveValue).toFixed(2)}; time ratio to the LP ${(ms / boundMs).toFixed(2)}`,
    );
  }

  const draw = draws(7);
  const all: HorizonPoint[] = Array.from({ length: 200 * 40 }, (_, i) => {
    const intervalDays = [14, 30, 30, 92, 92, 182, 182][Math.floor(draw() * 7)];
    return {
      id: i,
      machine: Math.floor(i / 40),
      bay: String(Math.floor(i / 320)),
      minutes: 2 + Math.floor(draw() * 8),
      weight: 1 + Math.floor(draw() * 3),
      dueDay: Math.floor((draw() * 1.05 - 0.05) * intervalDays),
      intervalDays,
    };
  });
  const minutes = (expandVisits(all, 26).reduce((s, v) => s + v.minutes, 0) / 26) * 1.15;
  const weeks = days(26, Math.ceil(minutes));
  const [plan, ms] = await timed(() => planHorizon(all, weeks));
  const [simple, simpleMs] = await timed(() => planWhenDue(plan.visits, weeks));
  const changed = all.map((p) => (p.id === 5 ? { ...p, dueDay: 60 } : p));
  const [again, againMs] = await timed(() => replanHorizon(plan, { points: changed, changed: new Set([5]), weeks }));
  const kept = roundCost(again.visits, { days: weeks, dayOf: again.dayOf }).cost;
  console.log(
    `half a year, 200 machines × 40 points × 26 weeks, ${plan.visits.length} visits: ${(ms / 1000).toFixed(2)} s, cost ratio to doing each when due ${(plan.cost / simple.cost).toFixed(3)}, time ratio to it ${(ms / simpleMs).toFixed(0)}; after one change ${againMs.toFixed(0)} ms (ratio ${(againMs / ms).toFixed(2)} to planning all), cost ratio ${(kept / plan.cost).toFixed(4)}`,
  );

  console.log("learning, 1000 points whose need is lognormal about 90 days, 10 years, mean part of a point’s visits:");
  for (const f of simulateLearning(1000, 10, 5))
    console.log(
      `  ${f.name.padEnd(12)} dry ${(100 * f.dry).toFixed(1)} % (settled ${(100 * f.settledDry).toFixed(1)}), flooded ${(100 * f.flooded).toFixed(1)} % (settled ${(100 * f.settledFlooded).toFixed(1)}), ${f.visitsPerYear.toFixed(1)} visits a year, interval within 35 % of the need ${(100 * f.near).toFixed(0)} %`,
    );
}
