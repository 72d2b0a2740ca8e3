import { linearRegression } from "simple-statistics";
import { axis, causeOf, chance as chanceOfCause, says } from "./evidence.testing";
import { infer } from "./infer";
import { LEVELS } from "./knowledge";
import { NOTHING_WRONG } from "./context";
import { expectedOf, learnedCandour, learnedFactors, PRIOR_CASES, type ClosedCase } from "./learn";
import { silenceAt, USUAL_CANDOUR } from "./reports";
import { finding, type FindingId } from "../measure/findings";

const bearing = causeOf("end-bearing-worn");
const asked = (Object.keys(bearing.shows) as FindingId[]).filter((id) => finding(id).asked);
const chance = (id: FindingId): number => LEVELS[bearing.shows[id] ?? "±"].probability;

/** Cases of worn bearings in which so much of what shows is told, by a generator of its own. */
function cases(n: number, tells: number): ClosedCase[] {
  let state = 7;
  const u = (): number => (state = (state * 48271) % 2147483647) / 2147483647;
  return Array.from({ length: n }, () => ({
    found: ["end-bearing-worn"],
    expected: {},
    told: asked.filter((id) => u() < chance(id) * tells),
  }));
}

describe("how much of what shows is told", () => {
  it("is the usual where nothing is known, and where nobody was asked for all", () => {
    expect(learnedCandour([])).toBeCloseTo(USUAL_CANDOUR, 12);
    expect(learnedCandour([{ found: ["end-bearing-worn"], expected: {} }])).toBeCloseTo(USUAL_CANDOUR, 12);
    expect(learnedCandour([{ found: [], expected: {}, told: ["rumble"] }])).toBeCloseTo(USUAL_CANDOUR, 12);
  });

  it("comes to what it is in the long run, whatever it is", () => {
    const tells = [0.2, 0.5, 0.8];
    const { m, b } = linearRegression(tells.map((t) => [t, learnedCandour(cases(4000, t))]));
    expect(m).toBeCloseTo(1, 1);
    expect(b).toBeCloseTo(0, 1);
  });

  it("one case moves it little, a dozen by about half", () => {
    const none: ClosedCase = { found: ["end-bearing-worn"], expected: {}, told: [] };
    expect(learnedCandour([none])).toBeGreaterThan(USUAL_CANDOUR - 0.1);
    const dozen = learnedCandour(Array<ClosedCase>(PRIOR_CASES).fill(none));
    expect(dozen).toBeGreaterThan(0.15);
    expect(dozen).toBeLessThan(0.35);
  });

  it("silence, a no and a slight beginning are worth the more the more is told", () => {
    expect(silenceAt(USUAL_CANDOUR)).toEqual({ unsaid: 0.5, plain: 0.1, missed: 0.06, slight: 0.12 });
    const [less, more] = [silenceAt(0.2), silenceAt(0.9)];
    for (const key of ["unsaid", "plain", "missed", "slight"] as const) expect(more[key]).toBeLessThan(less[key]);
    expect(silenceAt(0).unsaid).toBeLessThan(1);
    expect(silenceAt(1).missed).toBeGreaterThan(0);
  });

  it("a no clears more where much is told", () => {
    const left = (candour: number): number => {
      const shop = { overrides: {}, learned: {}, candour };
      const known = infer({ axis, shop, reports: [says("rumble", false)], magnitudes: [], allTold: true });
      return chanceOfCause(known, "end-bearing-worn");
    };
    expect(left(0.85)).toBeLessThan(left(0.52));
    expect(left(0.52)).toBeLessThan(left(0.2));
  });
});

describe("what closed cases teach of how often a cause is met", () => {
  const start = expectedOf(infer({ axis, reports: [], magnitudes: [] }));

  it("is a gamma–Poisson rate ratio, of nothing wrong as of any cause", () => {
    const none = { found: [], expected: { [NOTHING_WRONG]: 0.25 } };
    const one = { found: ["nut-worn"], expected: { [NOTHING_WRONG]: 0.25, "nut-worn": 0.5 } };
    // Gamma with shape and rate of twelve, five counts against an exposure of two: mean 17/14.
    expect(learnedFactors([...Array<ClosedCase>(5).fill(none), one, one, one])[NOTHING_WRONG]).toBeCloseTo(17 / 14, 12);
    expect(learnedFactors([one])["nut-worn"]).toBeCloseTo(13 / 12.5, 12);
  });

  it("a case closed before nothing wrong was expected of it says nothing of that; what is normal is nothing wrong", () => {
    expect(learnedFactors([{ found: [], expected: { "nut-worn": 0.1 } }])).not.toHaveProperty(NOTHING_WRONG);
    const normal = { found: ["normal-running-in"], expected: { [NOTHING_WRONG]: 0.1 } };
    expect(learnedFactors([normal])[NOTHING_WRONG]).toBeCloseTo(13 / 12.1, 12);
    const brake = { found: ["brake-drags"], expected: { [NOTHING_WRONG]: 0.1 } };
    expect(learnedFactors([brake])[NOTHING_WRONG]).toBeCloseTo(12 / 12.1, 12);
  });

  it("what was learned of nothing wrong moves its odds by that, and no cause against another", () => {
    const learned = { [NOTHING_WRONG]: 2 };
    const more = infer({ axis, shop: { overrides: {}, learned }, reports: [], magnitudes: [] });
    const odds = (p: number): number => p / (1 - p);
    const alone = (from: typeof more): number => from.hypotheses[0].probability;
    const usual = infer({ axis, reports: [], magnitudes: [] });
    expect(odds(alone(more))).toBeCloseTo(2 * odds(alone(usual)), 12);
    const ratio = chanceOfCause(more, "nut-worn") / chanceOfCause(more, "end-bearing-worn");
    expect(ratio).toBeCloseTo(start["nut-worn"] / start["end-bearing-worn"], 12);
  });
});
