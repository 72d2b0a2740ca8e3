import { infer as networkInfer, type INetwork } from "bayesjs";
import fc from "fast-check";
import { jStat } from "jstat";
import { defaultAxis, type AxisConfig } from "../machine/axis";
import { AFFINITIES, CAUSES } from "./causes";
import { PRIOR_RULES } from "./context";
import { FINDINGS, type FindingId } from "../measure/findings";
import { FAULT_COUNT_PRIOR, infer, latentOf, reportErrors, type Report } from "./infer";
import { causeFits, LEVELS, type Cause } from "./knowledge";
import { normalCdf } from "./normal";
import { baselineOf, seenBy, slacksOf } from "./slack";
import { shareNodes, type Magnitude } from "./components";
import { axis, says, found, chance, whole } from "./evidence.testing";

describe("the catalogue", () => {
  it("names only findings and causes that exist, each once, with provenance", () => {
    const ids = CAUSES.map((c) => c.id);
    expect(new Set(ids).size).toBe(ids.length);
    const findings = new Set<string>(FINDINGS.map((f) => f.id));
    for (const cause of CAUSES) {
      for (const id of Object.keys(cause.shows)) expect(findings.has(id)).toBe(true);
      expect(cause.provenance).not.toBe("");
      expect(cause.prior).toBeGreaterThan(0);
    }
    for (const [a, b] of AFFINITIES) for (const id of [a, b]) expect(ids).toContain(id);
    for (const rule of PRIOR_RULES) for (const id of rule.causes) expect(ids).toContain(id);
  });

  it("gives every asked finding a cause that shows as it, so that no answer is in vain", () => {
    const shown = new Set(CAUSES.flatMap((c) => Object.keys(c.shows)));
    for (const f of FINDINGS.filter((x) => x.asked))
      expect([f.id, shown.has(latentOf(f.id)) || f.id === "lost-motion" || f.id === "quadrant-step"]).toEqual([
        f.id,
        true,
      ]);
  });

  it("keeps a rack’s causes off a screw and a screw’s off a rack", () => {
    const router = defaultAxis("router", "X");
    const ids = (a: AxisConfig): string[] => CAUSES.filter((c) => causeFits(a, c)).map((c) => c.id);
    expect(ids(router)).toContain("pinion-loose");
    expect(ids(router)).not.toContain("end-bearing-worn");
    expect(ids(axis)).not.toContain("rack-spot");
  });
});

function together(a: string, b: string): number {
  return AFFINITIES.find((x) => x.includes(a) && x.includes(b))?.[2] ?? 1;
}

/** Everything written out again, slowly: every set, every node of every share, one big Gaussian. */
function byHand(
  config: AxisConfig,
  causes: readonly Cause[],
  reports: readonly Report[],
  magnitudes: readonly Magnitude[],
): Map<string, number> {
  const weights = causes.map((c) => c.prior);
  const sum = weights.reduce((a, b) => a + b, 0);
  const sets: { ids: number[]; prior: number }[] = [{ ids: [], prior: FAULT_COUNT_PRIOR[0] }];
  weights.forEach((w, i) => sets.push({ ids: [i], prior: (FAULT_COUNT_PRIOR[1] * w) / sum }));
  let pairs = 0;
  for (let i = 0; i < causes.length; i += 1)
    for (let j = i + 1; j < causes.length; j += 1)
      pairs += weights[i] * weights[j] * together(causes[i].id, causes[j].id);
  for (let i = 0; i < causes.length; i += 1)
    for (let j = i + 1; j < causes.length; j += 1)
      sets.push({
        ids: [i, j],
        prior: (FAULT_COUNT_PRIOR[2] * weights[i] * weights[j] * together(causes[i].id, causes[j].id)) / pairs,
      });
  const slacks = slacksOf(config);
  const likelihoods = sets.map(({ ids, prior }) => {
    let p = prior;
    const byFinding = new Map<FindingId, Report[]>();
    for (const r of reports) byFinding.set(r.finding, [...(byFinding.get(r.finding) ?? []), r]);
    for (const [id, group] of byFinding) {
      const leak = FINDINGS.find((f) => f.id === id)?.leak ?? 0;
      let not = 1 - leak;
      for (const i of ids) {
        const level = causes[i].shows[id];
        if (level) not *= 1 - LEVELS[level].probability;
      }
      const given = (present: boolean): number =>
        group.reduce((q, r) => {
          const { missed, imagined } = reportErrors(r.finding, r.source);
          return q * (present ? (r.present ? 1 - missed : missed) : r.present ? imagined : 1 - imagined);
        }, 1);
      p *= (1 - not) * given(true) + not * given(false);
    }
    let mixtures = [{ w: 1, add: new Map<string, { mm: number; v: number }[]>() }];
    for (const i of ids) {
      const { share } = causes[i];
      if (!share) continue;
      const nodes = shareNodes(causes[i], 8);
      mixtures = mixtures.flatMap((m) =>
        nodes.map((n) => {
          const add = new Map(m.add);
          add.set(share.slack, [...(add.get(share.slack) ?? []), { mm: n.mm, v: n.variance }]);
          return { w: m.w / nodes.length, add };
        }),
      );
    }
    let density = 0;
    for (const { w, add } of mixtures) {
      const mean = slacks.map((s) => baselineOf(config, s).meanMm + (add.get(s) ?? []).reduce((a, b) => a + b.mm, 0));
      const variance = slacks.map(
        (s) => baselineOf(config, s).sdMm ** 2 + (add.get(s) ?? []).reduce((a, b) => a + b.v, 0),
      );
      density += w * jointDensity(config, slacks, mean, variance, magnitudes);
    }
    return p * density;
  });
  const total = likelihoods.reduce((a, b) => a + b, 0);
  return new Map(sets.map((s, i) => [s.ids.map((k) => causes[k].id).join("+") || "none", likelihoods[i] / total]));
}

/** Density of the measurements by conditioning them one after the other (chain rule). */
function jointDensity(
  config: AxisConfig,
  slacks: readonly string[],
  mean: number[],
  variance: number[],
  magnitudes: readonly Magnitude[],
): number {
  const n = magnitudes.length;
  const rows = magnitudes.map((m) =>
    slacks.map((s) => ((seenBy(config, m.kind) as readonly string[]).includes(s) ? 1 : 0)),
  );
  const mu = rows.map((r) => r.reduce<number>((a, x, i) => a + x * mean[i], 0));
  const cov = rows.map((r, i) =>
    rows.map(
      (q, k) => r.reduce<number>((a, x, j) => a + x * q[j] * variance[j], 0) + (i === k ? magnitudes[i].uMm ** 2 : 0),
    ),
  );
  let density = 1;
  for (let i = 0; i < n; i += 1) {
    const spread = cov[i][i];
    density *= jStat.normal.pdf(magnitudes[i].reversalValueMm, mu[i], Math.sqrt(spread));
    for (let k = i + 1; k < n; k += 1) {
      const gain = cov[k][i] / spread;
      mu[k] += gain * (magnitudes[i].reversalValueMm - mu[i]);
      for (let m = i + 1; m < n; m += 1) cov[k][m] -= gain * cov[i][m];
    }
  }
  return density;
}

describe("exact inference", () => {
  const few = CAUSES.filter((c) =>
    ["retainer-loose", "end-bearing-worn", "nut-worn", "bracket-loose", "control-comp", "way-dry"].includes(c.id),
  );
  const reports = [says("rumble"), found("retainer-turns", false), found("rumble"), says("howl", false)];

  it("is what enumeration written out separately gives, with and without sizes", () => {
    const sizes: Magnitude[] = [
      whole(27),
      { kind: "end-float", reversalValueMm: 0.021, uMm: 0.001 },
      { kind: "nut-flank", reversalValueMm: 0.002, uMm: 0.0012 },
    ];
    for (const magnitudes of [[], sizes.slice(0, 1), sizes]) {
      const p = infer({ axis, reports, magnitudes, causes: few });
      const hand = byHand(axis, p.causes, reports, magnitudes);
      for (const h of p.hypotheses) {
        const key = h.members.map((m) => p.causes[m].id).join("+") || "none";
        expect(h.probability).toBeCloseTo(hand.get(key) ?? NaN, 9);
      }
    }
  });

  it("agrees with a general Bayesian network library (bayesjs) on a small network", () => {
    const three = few.slice(0, 3);
    const told = [says("rumble"), found("retainer-turns", false)];
    const p = infer({ axis, reports: told, magnitudes: [], causes: three });
    const states = p.hypotheses.map((_, i) => `s${i}`);
    const prior = infer({ axis, reports: [], magnitudes: [], causes: three });
    const present = (id: FindingId, h: (typeof p.hypotheses)[number]): number => {
      const leak = FINDINGS.find((f) => f.id === id)?.leak ?? 0;
      return (
        1 -
        h.members.reduce(
          (q, m) => q * (1 - LEVELS[p.causes[m].shows[id] ?? "±"].probability * (p.causes[m].shows[id] ? 1 : 0)),
          1 - leak,
        )
      );
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

  it("sums to one, whatever is told, and an unknown answer weighs nothing", () => {
    const some = fc.uniqueArray(
      fc.record({
        finding: fc.constantFrom(...FINDINGS.map((f) => f.id)),
        present: fc.boolean(),
        source: fc.constantFrom("symptom" as const, "test" as const),
      }),
      { maxLength: 8, selector: (r) => r.finding },
    );
    fc.assert(
      fc.property(some, (told) => {
        const p = infer({ axis, reports: told, magnitudes: [] });
        const sum = p.hypotheses.reduce((a, h) => a + h.probability, 0);
        expect(sum).toBeCloseTo(1, 9);
      }),
      { numRuns: 25 },
    );
    const nothing = infer({ axis, reports: [], magnitudes: [] });
    const prior = CAUSES.filter((c) => causeFits(axis, c));
    expect(nothing.causes.length).toBeLessThanOrEqual(prior.length);
    expect(nothing.noFault).toBeCloseTo(FAULT_COUNT_PRIOR[0], 9);
  });

  it("does not count one slack three times: a repeated test sharpens the size, not the cause", () => {
    const once = infer({ axis, reports: [], magnitudes: [whole(27)] });
    const thrice = infer({ axis, reports: [], magnitudes: [whole(27), whole(27), whole(27)] });
    for (const id of ["end-bearing-worn", "nut-worn", "coupling-screw"])
      expect(Math.abs(chance(thrice, id) - chance(once, id))).toBeLessThan(0.02);
    // A step at each quadrant is the lost motion again: with the size known it adds nothing.
    const seen = infer({ axis, reports: [says("quadrant-step")], magnitudes: [whole(27)] });
    expect(chance(seen, "nut-worn")).toBeCloseTo(chance(once, "nut-worn"), 9);
  });

  it("has the normal distribution of a statistics library (jstat)", () => {
    for (const z of [-4, -1.96, -0.3, 0, 1, 2.5]) expect(normalCdf(z)).toBeCloseTo(jStat.normal.cdf(z, 0, 1), 6);
  });
});
