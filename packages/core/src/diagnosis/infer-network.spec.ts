import { infer as networkInfer, type INetwork } from "bayesjs";
import { CAUSES } from "./causes";
import { FINDINGS, type FindingId } from "../measure/findings";
import { infer } from "./infer";
import { LEVELS, type Cause } from "./knowledge";
import { reportErrors, type Account } from "./reports";
import { axis, found, says } from "./evidence.testing";

describe("inference against a general Bayesian network library (bayesjs)", () => {
  const few = CAUSES.filter((c) =>
    ["retainer-loose", "end-bearing-worn", "nut-worn", "bracket-loose", "control-comp", "way-dry"].includes(c.id),
  );

  const levelOf = ({ shows }: Cause, id: FindingId): number => (shows[id] ? LEVELS[shows[id]].probability : 0);

  it("agrees with a general Bayesian network library (bayesjs) on a small network", () => {
    const three = few.slice(0, 3);
    const told = [says("rumble"), found("retainer-turns", false)];
    const p = infer({ axis, reports: told, magnitudes: [], causes: three });
    const states = p.hypotheses.map((_, i) => `s${i}`);
    const prior = infer({ axis, reports: [], magnitudes: [], causes: three });
    const present = (id: FindingId, h: (typeof p.hypotheses)[number]): number => {
      const leak = FINDINGS.find((f) => f.id === id)?.leak ?? 0;
      return 1 - h.members.reduce((q, m) => q * (1 - levelOf(p.causes[m], id) * (h.slight ? 0.35 : 1)), 1 - leak);
    };
    const network: INetwork = {
      fault: {
        id: "fault",
        states,
        parents: [],
        cpt: Object.fromEntries(prior.hypotheses.map((h, i) => [`s${i}`, h.probability])),
      },
    };
    for (const r of told) {
      const { missed, imagined } = reportErrors(r.finding, r.source);
      network[r.finding] = {
        id: r.finding,
        states: ["T", "F"],
        parents: ["fault"],
        cpt: p.hypotheses.map((h, i) => ({
          when: { fault: `s${i}` },
          then: { T: present(r.finding, h), F: 1 - present(r.finding, h) },
        })),
      };
      network[`told-${r.finding}`] = {
        id: `told-${r.finding}`,
        states: ["T", "F"],
        parents: [r.finding],
        cpt: [
          { when: { [r.finding]: "T" }, then: { T: 1 - missed, F: missed } },
          { when: { [r.finding]: "F" }, then: { T: imagined, F: 1 - imagined } },
        ],
      };
    }
    const given = Object.fromEntries(told.map((r) => [`told-${r.finding}`, r.present ? "T" : "F"]));
    p.hypotheses.forEach((h, i) => {
      expect(networkInfer(network, { fault: `s${i}` }, given)).toBeCloseTo(h.probability, 6);
    });
  });

  it("what is normal stands beside a fault, as a node of its own does in a general network (bayesjs)", () => {
    const two = CAUSES.filter((c) => ["retainer-loose", "normal-running-in"].includes(c.id));
    const told = [says("spikes"), says("rumble", false)];
    const p = infer({ axis, reports: told, magnitudes: [], causes: two });
    const normal = p.causes.findIndex((c) => c.normal);
    const prior = infer({ axis, reports: [], magnitudes: [], causes: two });
    const beside = p.normals[0].chance;
    const network: INetwork = {
      fault: {
        id: "fault",
        states: prior.hypotheses.map((_, i) => `s${i}`),
        parents: [],
        cpt: Object.fromEntries(prior.hypotheses.map((h, i) => [`s${i}`, h.probability])),
      },
      beside: { id: "beside", states: ["T", "F"], parents: [], cpt: { T: beside, F: 1 - beside } },
    };
    for (const { finding, present, source } of told) {
      const leak = FINDINGS.find((f) => f.id === finding)?.leak ?? 0;
      const chanceOfIt = ({ members, slight }: Account, besides: readonly number[]): number => {
        const quiet = members.reduce((q, m) => q * (1 - levelOf(p.causes[m], finding) * (slight ? 0.35 : 1)), 1 - leak);
        const more = besides.filter((m) => !members.includes(m));
        return 1 - more.reduce((q, m) => q * (1 - levelOf(p.causes[m], finding)), quiet);
      };
      const { missed, imagined } = reportErrors(finding, source);
      network[`told-${finding}`] = {
        id: `told-${finding}`,
        states: ["T", "F"],
        parents: ["fault", "beside"],
        cpt: p.hypotheses.flatMap((h, i) =>
          (["T", "F"] as const).map((there) => {
            const so = chanceOfIt(h, there === "T" ? [normal] : []);
            const yes = so * (1 - missed) + (1 - so) * imagined;
            return { when: { fault: `s${i}`, beside: there }, then: { T: yes, F: 1 - yes } };
          }),
        ),
      };
      expect(present).toBe(finding === "spikes");
    }
    const given = { "told-spikes": "T", "told-rumble": "F" };
    p.hypotheses.forEach((h, i) =>
      expect(networkInfer(network, { fault: `s${i}` }, given)).toBeCloseTo(h.probability, 6),
    );
    const own = networkInfer(
      network,
      { fault: `s${p.hypotheses.findIndex((h) => h.members.includes(normal))}` },
      given,
    );
    const both = networkInfer(network, { beside: "T" }, given);
    // There for itself, or beside what else there is: together no less than either.
    expect(p.marginals[normal]).toBeGreaterThan(Math.max(own, both) - 1e-9);
    expect(p.marginals[normal]).toBeLessThan(own + both);
  });
});
