import fc from "fast-check";
import { jStat } from "jstat";
import { determinant, inverse, Matrix } from "ml-matrix";
import { defaultAxis, type AxisConfig } from "../machine/axis";
import { AFFINITIES, CAUSES } from "./causes";
import { PRIOR_RULES } from "./context";
import { FINDINGS, type FindingId } from "../measure/findings";
import { FAULT_COUNT_PRIOR, infer } from "./infer";
import { latentOf, reportErrors } from "./reports";
import type { Report } from "./evidence";
import { causeFits, LEVELS, type Cause } from "./knowledge";
import { normalCdf } from "./normal";
import { baselineOf, seenParts, slacksOf } from "./slack";
import { shareNodes, slackModel, type Magnitude } from "./components";
import { fitOf, MISREAD, ShareMixture } from "./share-mixture";
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
      expect([f.id, shown.has(latentOf(f.id)) || latentOf(f.id) === "lost-motion"]).toEqual([f.id, true]);
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
  const sets: { ids: number[]; begun?: boolean; prior: number }[] = [{ ids: [], prior: FAULT_COUNT_PRIOR[0] }];
  // One part in five that is at fault has only begun to be; a setting of the control is so or not.
  weights.forEach((w, i) => {
    const begun = causes[i].link === "none" ? 0 : 0.12;
    sets.push({ ids: [i], prior: ((1 - begun) * FAULT_COUNT_PRIOR[1] * w) / sum });
    sets.push({ ids: [i], begun: true, prior: (begun * FAULT_COUNT_PRIOR[1] * w) / sum });
  });
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
  const likelihoods = sets.map(({ ids, begun = false, prior }) => {
    let p = prior;
    const byFinding = new Map<FindingId, Report[]>();
    for (const r of reports) byFinding.set(r.finding, [...(byFinding.get(r.finding) ?? []), r]);
    for (const [id, group] of byFinding) {
      // What a test has found is much less often there of itself.
      const itself = group.some((r) => r.source === "test" && r.present) ? 0.15 : 1;
      const leak = itself * (FINDINGS.find((f) => f.id === id)?.leak ?? 0);
      let not = 1 - leak;
      for (const i of ids) {
        const level = causes[i].shows[id];
        if (level) not *= 1 - (begun ? 0.35 : 1) * LEVELS[level].probability;
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
      const [least, most] = share.um;
      const um = [least, begun ? Math.sqrt(least * most) : most] as const;
      const nodes = shareNodes({ ...causes[i], share: { ...share, um } }, 6);
      mixtures = mixtures.flatMap((m) =>
        nodes.map((n) => {
          const add = new Map(m.add);
          add.set(share.slack, [...(add.get(share.slack) ?? []), { mm: n.mm, v: n.variance }]);
          return { w: m.w / nodes.length, add };
        }),
      );
    }
    // All sizes are right, or one of them was misread and may be anything.
    const meant = [
      { sizes: magnitudes, w: 1 - MISREAD * magnitudes.length },
      ...magnitudes.map((m) => ({ sizes: magnitudes.filter((o) => o !== m), w: MISREAD / 0.15 })),
    ];
    let density = 0;
    for (const { w, add } of mixtures) {
      const mean = slacks.map((s) => baselineOf(config, s).meanMm + (add.get(s) ?? []).reduce((a, b) => a + b.mm, 0));
      const variance = slacks.map(
        (s) => baselineOf(config, s).sdMm ** 2 + (add.get(s) ?? []).reduce((a, b) => a + b.v, 0),
      );
      for (const one of meant) density += w * one.w * jointDensity(config, mean, variance, one.sizes);
    }
    return p * density;
  });
  const total = likelihoods.reduce((a, b) => a + b, 0);
  return new Map(
    sets.map((s, i) => [
      `${s.ids.map((k) => causes[k].id).join("+") || "none"}${s.begun ? ", begun" : ""}`,
      likelihoods[i] / total,
    ]),
  );
}

/** Density of the measurements by conditioning them one after the other (chain rule). */
function jointDensity(
  config: AxisConfig,
  mean: number[],
  variance: number[],
  magnitudes: readonly Magnitude[],
): number {
  const n = magnitudes.length;
  const rows = magnitudes.map((m) => seenParts(config, m.kind));
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
        const key = `${h.members.map((m) => p.causes[m].id).join("+") || "none"}${h.slight ? ", begun" : ""}`;
        expect(h.probability).toBeCloseTo(hand.get(key) ?? NaN, 9);
      }
    }
  });

  it("three shares together are the sum over all their sizes, each a Gaussian by ml-matrix", () => {
    const three = ["retainer-loose", "coupling-screw", "bracket-loose"].map(
      (id) => CAUSES.find((c) => c.id === id) as Cause,
    );
    const model = slackModel(axis);
    const sizes: Magnitude[] = [
      whole(75),
      { kind: "end-float", reversalValueMm: 0.025, uMm: 0.001 },
      { kind: "coupling-slip", reversalValueMm: 0.024, uMm: 0.001 },
    ];
    const rows = new Matrix(sizes.map((m) => [...model.rowOf(m.kind)]));
    let sum = 0;
    const nodes = three.map((c) => shareNodes(c, 4));
    for (const a of nodes[0])
      for (const b of nodes[1])
        for (const c of nodes[2]) {
          const mean = [...model.baseMean];
          const variance = [...model.baseVariance];
          [a, b, c].forEach((n, i) => {
            const at = model.slacks.indexOf(three[i].share?.slack ?? "windup");
            mean[at] += n.mm;
            variance[at] += n.variance;
          });
          const cov = rows.mmul(Matrix.diag(variance)).mmul(rows.transpose());
          sizes.forEach((m, i) => cov.set(i, i, cov.get(i, i) + m.uMm ** 2));
          const off = Matrix.sub(
            Matrix.columnVector(sizes.map((m) => m.reversalValueMm)),
            rows.mmul(Matrix.columnVector(mean)),
          );
          const squares = off.transpose().mmul(inverse(cov)).mmul(off).get(0, 0);
          sum += Math.exp(-0.5 * squares) / Math.sqrt((2 * Math.PI) ** 3 * determinant(cov)) / 64;
        }
    const ours = new ShareMixture([{ fit: fitOf(model, sizes), log: 0 }], three, 4).log;
    expect(ours).toBeCloseTo(Math.log(sum), 6);
    const other = new ShareMixture([{ fit: fitOf(model, [whole(20), ...sizes.slice(1)]), log: 0 }], three, 4).log;
    expect(Math.abs(other - ours)).toBeGreaterThan(1);
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
    // Nothing at all, and what is normal.
    const all = nothing.priors.reduce((a, b) => a + b, 0);
    const normal = nothing.priors.reduce((a, w, i) => a + (nothing.causes[i].normal ? w : 0), 0);
    expect(nothing.noFault).toBeCloseTo(FAULT_COUNT_PRIOR[0] + (FAULT_COUNT_PRIOR[1] * normal) / all, 9);
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
