import {
  changedPoints,
  planHorizon,
  replanHorizon,
  weekSums,
  type HorizonPlan,
  type HorizonPoint,
  type HorizonWeek,
} from "@iron/core";
import type { HorizonAnswer, HorizonQuestion } from "./horizon-plan";

/** The plan made last, so that a few changed points are planned anew and the rest keeps its week. */
let last: { points: readonly HorizonPoint[]; weeks: string; plan: HorizonPlan } | null = null;

addEventListener("message", ({ data }: MessageEvent<HorizonQuestion>) => {
  const answer = (said: HorizonAnswer): void => postMessage(said);
  const weeks: HorizonWeek[] = data.weeks.map((w) => ({ minutes: w.minutes, shut: new Set(w.shut) }));
  const key = JSON.stringify(data.weeks);
  const changed = last?.weeks === key ? changedPoints(last.points, data.points) : null;
  const few = changed !== null && changed.size < data.points.length / 5;
  const plan =
    few && last
      ? replanHorizon(last.plan, { points: data.points, changed, weeks })
      : planHorizon(data.points, weeks, {
          progress: (part) => answer({ progress: part }),
        });
  last = { points: data.points, weeks: key, plan };
  answer({ sums: weekSums(plan, weeks), visits: plan.visits.length, replanned: few ? changed.size : null });
});
