import { defaultAxis, MACHINE_KINDS } from "../machine/axis";
import { finding, FINDINGS } from "../measure/findings";
import { HURTS, nextQuestions, symptomsFor, symptomsOf } from "./asked";
import { axis, says } from "./evidence.testing";
import { infer } from "./infer";
import { latentOf } from "./reports";
import { SAID_AS } from "./words.table";

describe("what is asked", () => {
  it("every symptom of every axis is reached by what hurts, and has words of its own", () => {
    for (const kind of MACHINE_KINDS)
      for (const letter of ["X", "Z"]) {
        const config = defaultAxis(kind, letter);
        const reached = new Set(HURTS.flatMap((hurt) => symptomsFor(config, hurt)));
        expect([kind, letter, symptomsOf(config).filter((id) => !reached.has(id))]).toEqual([kind, letter, []]);
      }
    expect(FINDINGS.filter((f) => f.asked && !SAID_AS[f.id]).map((f) => f.id)).toEqual([]);
  });

  it("asks nothing that the axis cannot have", () => {
    const router = symptomsOf(defaultAxis("router", "X"));
    for (const id of ["hot-end", "howl", "click-descent", "recut"] as const) expect(router).not.toContain(id);
    expect(symptomsOf(axis)).not.toContain("lost-steps");
    expect(symptomsFor(axis, "hand")).toContain("nut-gritty");
    expect(symptomsFor(axis, "hand")).not.toContain("belt-frayed");
  });

  it("every answer moves some figure of every axis", () => {
    for (const kind of MACHINE_KINDS)
      for (const letter of ["X", "Z"]) {
        const config = defaultAxis(kind, letter);
        const before = infer({ axis: config, reports: [], magnitudes: [] });
        const idle = symptomsOf(config).filter((id) => {
          const { marginals } = infer({ axis: config, reports: [says(id)], magnitudes: [] });
          return !marginals.some((p, i) => Math.abs(p - before.marginals[i]) > 0.02);
        });
        expect([kind, letter, idle]).toEqual([kind, letter, []]);
      }
  });

  it("asks first what splits best, and nothing twice", () => {
    const p = infer({ axis, reports: [says("rumble")], magnitudes: [] });
    const asked = nextQuestions(p, 40);
    expect(asked.map((q) => q.finding)).not.toContain("rumble");
    expect(asked.every((q) => q.finding === latentOf(q.finding))).toBe(true);
    for (const [i, q] of asked.entries()) if (i > 0) expect(q.bits).toBeLessThanOrEqual(asked[i - 1].bits);
    // Rumble alone leaves bearings, retainer and motor: knock and loss split them, a dark display does not.
    const place = (id: string): number => asked.findIndex((q) => q.finding === id);
    expect(place("knock")).toBeLessThan(place("display-dead"));
    expect(finding(asked[0].finding).asked).toBe(true);
  });

  it("a bit is what a fair coin tells: mutual information by its definition, summed over answers and accounts", () => {
    const p = infer({ axis, reports: [says("knock")], magnitudes: [] });
    const [best] = nextQuestions(p, 1);
    const of = (present: boolean) =>
      infer({ ...p.evidence, reports: [...p.evidence.reports, says(best.finding, present)] });
    // Expected fall of entropy, from whole inferences after either answer.
    const h = (q: typeof p): number =>
      q.hypotheses.reduce((s, { probability: x }) => s - (x > 0 ? x * Math.log2(x) : 0), 0);
    const [yes, no] = [of(true), of(false)];
    const sum = Math.exp(yes.logEvidence) + Math.exp(no.logEvidence);
    const fall = h(p) - (Math.exp(yes.logEvidence) / sum) * h(yes) - (Math.exp(no.logEvidence) / sum) * h(no);
    expect(best.bits).toBeCloseTo(fall, 2);
  });
});
