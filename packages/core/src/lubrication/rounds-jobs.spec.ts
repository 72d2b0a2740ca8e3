import highsLoader from "highs";
import { planRounds } from "./rounds";
import { asProgramme, shop, week } from "./rounds-programme.testing";
import { needOf } from "./shop-days";

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
