import highsLoader from "highs";
import { planRounds } from "./rounds";
import { asProgramme } from "./rounds-programme.testing";
import type { PlanDay, VisitNeed } from "./rounds-state";
import { needOf } from "./shop-days";

function shop(machines: number, points: number, seed = 1): VisitNeed[] {
  let s = seed;
  const draw = (): number => (s = (s * 48271) % 2147483647) / 2147483647;
  return Array.from({ length: machines * points }, (_, i) => ({
    id: `v${i}`,
    machine: i % machines,
    bay: String((i % machines) % 3),
    minutes: 3 + Math.floor(6 * draw()),
    weight: 1 + Math.floor(3 * draw()),
    dueDay: -1 + 8 * draw(),
    intervalDays: 7 + 40 * draw(),
  }));
}
const week = (n: number, minutes = 60): PlanDay[] => Array.from({ length: n }, () => ({ minutes }));

describe("rounds with jobs", () => {
  it("come within 2 % of the best there is (HiGHS), and no round is walked on the day of a job", async () => {
    const highs = await highsLoader();
    let ours = 0;
    let exact = 0;
    for (let seed = 1; seed <= 4; seed += 1) {
      const job = needOf(
        {
          id: 99,
          machineId: 1,
          minutes: 5,
          job: { minutes: 150, people: 2 },
          weight: 3,
          intervalDays: 180,
          dueOn: "2026-03-05",
          hold: null,
        },
        "2026-03-03",
        "1",
      );
      expect(job.minutes).toBe(300);
      const visits = [...shop(4, 3, seed * 131), job];
      const days = week(6, 45);
      const solved = highs.solve(asProgramme(visits, days));
      expect(solved.Status).toBe("Optimal");
      const plan = planRounds(visits, days);
      ours += plan.cost;
      exact += solved.ObjectiveValue;
      const jobDay = plan.dayOf[visits.length - 1];
      expect(plan.dayOf.filter((d) => d === jobDay)).toHaveLength(1);
    }
    expect(ours / exact).toBeLessThan(1.02);
  });
});
