import { infer as networkInfer, type INetwork } from "bayesjs";
import { defaultAxis } from "../machine/axis";
import { CAUSES } from "./causes";
import { axis, chance, says } from "./evidence.testing";
import type { SoundHeard } from "./evidence";
import { infer } from "./infer";
import { meaningsOf, mindChanger } from "./meanings";
import { isSure, nextTest } from "./next-test";
import { pointless } from "./pointless";
import { MOST_A_SOUND_SAYS, soundFactor, soundKindOf, soundOutcomes, soundSaid } from "./sound-evidence";
import { soundKindsOn } from "./sound-kinds";
import { SOUND_LEARNED } from "./sound-learned.table";
import { locateTest, LOCATE_TESTS } from "./tests";
import { caseVerdict } from "./verdict";

/** A recording that is so likely of one kind, and of all others alike. */
function like(kind: string, p: number, on = axis): SoundHeard {
  const kinds = ["sound", ...soundKindsOn(on)];
  return { chances: Object.fromEntries(kinds.map((k) => [k, k === kind ? p : (1 - p) / (kinds.length - 1)])) };
}
const nothingKnown = { axis, reports: [], magnitudes: [] };

describe("what a recording says of the causes", () => {
  it("is nothing where it is as unclear as before", () => {
    const kinds = soundKindsOn(axis);
    const chances = { ...Object.fromEntries(kinds.map((k) => [k, 0.5 / kinds.length])), sound: 0.5 };
    const [before, after] = [infer(nothingKnown), infer({ ...nothingKnown, sound: { chances } })];
    after.marginals.forEach((p, i) => expect(p).toBeCloseTo(before.marginals[i], 12));
  });

  it("raises what it is like and nothing else, and clears the audible where nothing is wrong", () => {
    const before = infer(nothingKnown);
    const bearing = infer({ ...nothingKnown, sound: like("end-bearing", 0.9) });
    expect(chance(bearing, "end-bearing-worn")).toBeGreaterThan(3 * chance(before, "end-bearing-worn"));
    expect(chance(bearing, "nut-worn")).toBeLessThan(chance(before, "nut-worn"));
    const well = infer({ ...nothingKnown, sound: like("sound", 0.95) });
    expect(chance(well, "end-bearing-worn")).toBeLessThan(chance(before, "end-bearing-worn") / 2);
    // A wrong compensation makes no sound: it stays as likely against nothing wrong as it was.
    const odds = (p: typeof before): number => chance(p, "control-comp") / p.noFault;
    expect(odds(well)).toBeCloseTo(odds(before), 1);
  });

  it("is no proof: however clear, by a factor at most, never sure, nothing proven", () => {
    const clear = { ...nothingKnown, sound: like("end-bearing", 1 - 1e-9), reports: [says("rumble")], allTold: true };
    const odds = (p: ReturnType<typeof infer>): number =>
      p.hypotheses.reduce(
        (sum, h) =>
          sum +
          (h.members.length === 1 && !h.slight && p.causes[h.members[0]].id === "end-bearing-worn" ? h.probability : 0),
        0,
      ) / p.hypotheses[0].probability;
    expect(odds(infer(clear)) / odds(infer({ ...clear, sound: undefined }))).toBeCloseTo(MOST_A_SOUND_SAYS ** 2, 6);
    expect(isSure(infer(clear))).toBe(false);
    const verdict = caseVerdict(infer(clear), { done: new Set() });
    expect(verdict.proven).toEqual([]);
    expect(verdict.leading[0].speaksFor.map((i) => i.message)).toContain(
      "recorded, it sounds like worn bearings of the screw",
    );
  });

  it("agrees with a general Bayesian network (bayesjs) that has a node for the recording", () => {
    const sound = like("grit", 0.6);
    const posterior = infer({ ...nothingKnown, sound });
    const before = infer(nothingKnown);
    const states = before.hypotheses.map((_, i) => `s${i}`);
    const kinds = Object.keys(sound.chances).length - 1;
    // By hand: what the chances were before is taken out of them, then the power that was learned.
    const worth = (kind: string): number => {
      const ratio = sound.chances[kind] / (kind === "sound" ? 0.5 : 0.5 / kinds);
      return Math.min(4, Math.max(1 / 4, ratio ** SOUND_LEARNED.temper));
    };
    const likelihood = before.hypotheses.map(({ members, slight }) => {
      const heard = members.flatMap((m) => {
        const kind = soundKindOf(before.causes[m].id);
        return kind !== undefined && kind in sound.chances ? [worth(kind)] : [];
      });
      const nothing = worth("sound");
      const mean = heard.length ? heard.reduce((a, b) => a + b, 0) / heard.length : nothing;
      return slight ? 0.35 * mean + 0.65 * nothing : mean;
    });
    const network: INetwork = {
      account: {
        id: "account",
        states,
        parents: [],
        cpt: Object.fromEntries(states.map((s, i) => [s, before.hypotheses[i].probability])),
      },
      recording: {
        id: "recording",
        states: ["this", "another"],
        parents: ["account"],
        cpt: states.map((s, i) => ({
          when: { account: s },
          then: { this: likelihood[i] / 100, another: 1 - likelihood[i] / 100 },
        })),
      },
    };
    for (const i of [0, 1, 5, 20, 60])
      expect(networkInfer(network, { account: `s${i}` }, { recording: "this" })).toBeCloseTo(
        posterior.hypotheses[i].probability,
        9,
      );
  });

  it("of two that sound has the mean, of what has only begun a third, of a silent one beside it nothing", () => {
    const { causes } = infer(nothingKnown);
    const factor = soundFactor({ sound: like("end-bearing", 0.9) }, causes);
    const at = (id: string): number => causes.findIndex((c) => c.id === id);
    const [bearing, nut, silent] = ["end-bearing-worn", "nut-worn", "control-comp"].map(at);
    const one = (m: number): number => factor({ members: [m], slight: false });
    expect(factor({ members: [bearing, nut], slight: false })).toBeCloseTo((one(bearing) + one(nut)) / 2, 12);
    expect(factor({ members: [bearing, silent], slight: false })).toBe(one(bearing));
    expect(factor({ members: [bearing], slight: true })).toBeCloseTo(0.35 * one(bearing) + 0.65 * one(silent), 12);
    expect(one(silent)).toBe(factor({ members: [], slight: false }));
  });

  it("is said in words, and not where it is not clear", () => {
    expect(soundSaid(like("sound", 0.9))).toBe("recorded, it sounds like an axis with nothing wrong");
    expect(soundSaid(like("howl", 0.4))).toBe("recorded, it is not clear what it sounds like");
    const rack = defaultAxis("router", "X");
    expect(soundKindsOn(rack)).not.toContain("howl");
    expect(infer({ axis: rack, reports: [], magnitudes: [], sound: like("teeth", 0.9, rack) }).noFault).toBeLessThan(
      infer({ axis: rack, reports: [], magnitudes: [] }).noFault,
    );
  });
});

describe("a recording that is not made yet", () => {
  const told = (finding: "grit" | "lost-motion") =>
    infer({ axis, reports: [says(finding)], magnitudes: [], allTold: true });
  const once = new Set(["fastener-check", "look-over"]);

  it("may come out as every kind that the axis can sound like, in each account with chances that add up to one", () => {
    const { causes, hypotheses } = told("grit");
    const outcomes = soundOutcomes(axis, causes, hypotheses);
    expect(outcomes.map((o) => o.kind)).toEqual(["sound", ...soundKindsOn(axis)]);
    hypotheses.forEach((_, n) => expect(outcomes.reduce((sum, o) => sum + o.likelihood[n], 0)).toBeCloseTo(1, 12));
  });

  it("is expected to tell as much as it is let say: what is there comes out so many times as likely as what is not", () => {
    const causes = CAUSES.filter((c) => ["end-bearing-worn", "nut-dirty", "control-comp"].includes(c.id));
    const at = (id: string): number => causes.findIndex((c) => c.id === id);
    const one = (id: string) => ({ members: [at(id)], slight: false });
    const both = { members: [at("end-bearing-worn"), at("nut-dirty")], slight: false };
    const accounts = [one("end-bearing-worn"), one("nut-dirty"), one("control-comp"), both];
    const outcomes = soundOutcomes(axis, causes, accounts);
    const [bearing] = outcomes.filter((o) => o.kind === "end-bearing").map((o) => o.likelihood);
    expect(bearing[0] / bearing[1]).toBeCloseTo(MOST_A_SOUND_SAYS ** 2, 9);
    // A wrong compensation sounds as nothing wrong; two that sound are told as one or the other.
    expect(bearing[2]).toBeCloseTo(bearing[1], 12);
    expect(bearing[3]).toBeCloseTo((bearing[0] + bearing[1]) / 2, 12);
    expect(outcomes[0].likelihood[2]).toBeCloseTo(bearing[0], 12);
  });

  it("comes next where somebody hears something, after the fasteners; where nobody does, nobody is sent to record it", () => {
    expect(nextTest(told("grit"), { once }).next?.test.id).toBe("recording");
    const rumbles = infer({ axis, reports: [says("rumble")], magnitudes: [], allTold: true });
    expect(nextTest(rumbles).next?.test.id).toBe("fastener-check");
    const quiet = told("lost-motion");
    const done = new Set(LOCATE_TESTS.filter((t) => !t.hears).map((t) => t.id as string));
    expect(nextTest(quiet, { done }).next).toBeNull();
    expect(nextTest(rumbles, { done }).next?.test.id).toBe("recording");
    expect(nextTest(quiet).ranked.some((r) => r.test.id === "recording")).toBe(true);
  });

  it("once it is made is not asked for again, nor where the axis does not move, and overturns nothing alone", () => {
    const made = infer({ axis, reports: [says("grit")], magnitudes: [], sound: like("grit", 0.9) });
    expect(pointless(made.evidence, "recording")).toContain("It was recorded");
    expect(nextTest(made).ranked.some((r) => r.test.id === "recording")).toBe(false);
    const still = infer({ axis, reports: [says("no-motion")], magnitudes: [] });
    expect(pointless(still.evidence, "recording")).toContain("does not move");
    expect(mindChanger(told("grit"), new Set())?.test.id).not.toBe("recording");
  });

  it("its outcomes are said by what it would sound like", () => {
    const test = locateTest("recording");
    const said = test ? meaningsOf(told("grit"), test) : [];
    expect(said.length).toBeGreaterThan(5);
    const dirt = said.find((m) => m.when === "it sounds like dirt in the nut");
    expect(dirt?.causes[0]?.id).toBe("nut-dirty");
    expect(said.some((m) => m.when === "it sounds like an axis with nothing wrong")).toBe(true);
  });
});
