import { defaultAxis, type AxisConfig } from "../machine/axis";
import { axis, causeOf as cause, chance, found, says, whole } from "./evidence.testing";
import { infer } from "./infer";
import type { Evidence } from "./evidence";
import { letBe, mayBeLet } from "./let-be";
import { isSure, madeOften, nextTest } from "./next-test";
import { minutesStanding } from "./decide";
import { LOCATE_TESTS } from "./tests";
import { caseVerdict } from "./verdict";

const scale: AxisConfig = { ...axis, feedback: "scale" };
const small: Evidence = { axis, reports: [], magnitudes: [whole(4)] };

const QUIET = [
  says("rumble", false),
  says("howl", false),
  says("grit", false),
  says("tight-all", false),
  says("home-varies", false),
  says("stops-in-program", false),
  says("no-motion", false),
  found("tight-all", false),
  found("tight-spot", false),
  found("tight-end", false),
  found("rumble", false),
  found("groan", false),
  found("carriage-click", false),
  found("comp-differs", false),
  found("rocks", false),
  found("dry", false),
  found("hot-end", false),
  found("home-varies", false),
];
/** Its single nut has clearance from new: it may lose 35 µm. */
const roomy = defaultAxis("bench-mill", "X");

describe("what may be let be (common practice, no source)", () => {
  it("a link that loses less than the whole may lose is not looked for", () => {
    expect(axis.limits.leaveMm).toBe(0.01);
    expect(mayBeLet(small, cause("coupling-insert"))).toBe(true);
    expect(mayBeLet({ ...small, magnitudes: [] }, cause("coupling-insert"))).toBe(false);
  });

  it("not where the whole may be over its limit by its U, and by the last reading of it", () => {
    expect(mayBeLet({ ...small, magnitudes: [whole(8.5)] }, cause("coupling-insert"))).toBe(false);
    expect(mayBeLet({ ...small, magnitudes: [whole(14), whole(4)] }, cause("coupling-insert"))).toBe(true);
    expect(mayBeLet({ ...small, magnitudes: [whole(4), whole(14)] }, cause("coupling-insert"))).toBe(false);
    expect(mayBeLet({ ...small, magnitudes: [whole(-14)] }, cause("coupling-insert"))).toBe(false);
  });

  it("not a loose fastener, not the table, not what shows as something else or does not lose at all", () => {
    for (const id of ["coupling-screw", "retainer-loose", "housing-loose", "control-comp", "chips-in-way"])
      expect([id, mayBeLet(small, cause(id))]).toEqual([id, false]);
    expect(mayBeLet({ ...small, reports: [says("rumble")] }, cause("end-bearing-worn"))).toBe(false);
    expect(mayBeLet({ ...small, reports: [says("rumble", false)] }, cause("end-bearing-worn"))).toBe(true);
  });

  it("where a scale closes the loop the control’s own page says it", () => {
    const told = (so: boolean): Evidence => ({ axis: scale, reports: [found("scale-gap", so)], magnitudes: [] });
    expect(mayBeLet(told(false), cause("coupling-insert"))).toBe(true);
    expect(mayBeLet(told(true), cause("coupling-insert"))).toBe(false);
  });

  it("a sound axis is let go once its loss, friction and noise were looked at, and it is said why", () => {
    const tried = (["retainer", "housing", "bracket", "coupling"] as const).map((f) => found(`${f}-turns`, false));
    const known = infer({ axis: roomy, reports: [...QUIET, ...tried], magnitudes: [whole(16)], allTold: true });
    expect(letBe(known).probability).toBeGreaterThan(known.noFault + 0.02);
    expect(isSure(known)).toBe(true);
    expect(caseVerdict(known, { done: new Set(), system: "metric" }).headline).toMatch(
      /^No fault found\. That nothing has to be mended: .*\. What it loses may be left, whichever link it comes of; a large entry in the control’s compensation would hide more\.$/,
    );
    const lost = infer({ axis: roomy, reports: [...QUIET, ...tried], magnitudes: [whole(45)], allTold: true });
    expect(isSure(lost)).toBe(false);
  });
});

describe("what comes next where nothing is named", () => {
  it("covers the chain first, then what brings it on most for its minutes", () => {
    const start = infer({ axis, reports: [says("rumble", false)], magnitudes: [], allTold: true });
    const cover = ["whole-chain", "load-trace", "sound-comparison"];
    expect(cover).toContain(nextTest(start).next?.test.id);
    const loud = ["rocks", "dry", "hot-end", "comp-differs", "home-varies"];
    const heard = QUIET.filter((r) => r.source === "symptom" || !loud.includes(r.finding));
    const covered = infer({ axis, reports: heard, magnitudes: [whole(4)] });
    const step = nextTest(covered, { once: new Set(cover) });
    expect(cover).not.toContain(step.next?.test.id);
    const worth = (id: string): number => {
      const r = step.ranked.find((one) => one.test.id === id);
      return r ? (r.clears - letBe(covered).probability) / r.minutes : NaN;
    };
    // Nobody records what nobody hears.
    const others = step.ranked.filter((r) => !r.test.opens && !r.test.hears && !cover.includes(r.test.id));
    for (const r of others) expect(worth(step.next?.test.id ?? "")).toBeGreaterThanOrEqual(worth(r.test.id));
  });

  it("a test of the set-up that stands costs two fifths, of another what it always costs", () => {
    const flank = LOCATE_TESTS.filter((t) => t.id === "nut-flank");
    expect(flank.map((t) => minutesStanding(t, { minutes: 20, standing: "on-member" }))).toEqual([8]);
    expect(flank.map((t) => minutesStanding(t, { minutes: 20, standing: "bearing-end" }))).toEqual([20]);
    const loses = infer({ axis, reports: [], magnitudes: [whole(30)] });
    const minutes = (standing?: "on-member"): number | undefined =>
      nextTest(loses, { standing }).ranked.find((r) => r.test.id === "nut-flank")?.minutes;
    expect([minutes(), minutes("on-member")]).toEqual([20, 8]);
  });

  it("no cover comes off before the machine was looked at: listening to the spindle is no look at it", () => {
    const gantry: AxisConfig = { ...defaultAxis("router", "X"), guideway: "rail" };
    const heard = (["rumble", "howl", "rattle", "groan", "knock", "grit", "carriage-click"] as const).map((f) =>
      found(f, false),
    );
    const pulled = (["tight-all", "tight-end", "tight-turn", "tight-spot", "spikes", "short-travel"] as const).map(
      (f) => found(f, false),
    );
    const known = infer({
      axis: gantry,
      reports: [says("carriage-click"), says("grind-still"), ...heard, found("grind-still"), ...pulled],
      magnitudes: [whole(45)],
      allTold: true,
    });
    const made = ["sound-comparison", "listen-still", "load-trace", "whole-chain"];
    const after = (...more: readonly string[]) => nextTest(known, { once: new Set([...made, ...more]) }).next?.test;
    expect(after()?.opens ?? false).toBe(false);
    expect(["comp-look", "look-over", "fastener-check"]).toContain(after()?.id);
    // Once that was made, it may be opened.
    expect(after(after()?.id ?? "")?.id).toBe("carriages-unloaded");
  });

  it("two looks that disagree are settled by a third, and by no fourth", () => {
    const rocks = [found("rocks"), found("rocks", false)];
    const times = (n: number): ReadonlyMap<string, number> => new Map([["rock", n]]);
    expect([...madeOften(times(2), [])]).toEqual(["rock"]);
    expect([...madeOften(times(2), rocks)]).toEqual([]);
    expect([...madeOften(times(3), rocks)]).toEqual(["rock"]);
  });
});

describe("motor against scale (common practice, no source)", () => {
  const gap = infer({ axis: scale, reports: [found("scale-gap")], magnitudes: [] });

  it("a gap speaks for what loses between motor and table, and for nothing beyond", () => {
    const before = infer({ axis: scale, reports: [], magnitudes: [] });
    expect(chance(gap, "nut-worn")).toBeGreaterThan(1.5 * chance(before, "nut-worn"));
    expect(chance(gap, "scale-head")).toBeLessThan(chance(before, "scale-head"));
    expect(gap.noFault).toBeLessThan(before.noFault / 3);
  });

  it("is offered where a scale is, and only there", () => {
    expect(nextTest(infer({ axis, reports: [], magnitudes: [] })).ranked.map((r) => r.test.id)).not.toContain(
      "motor-against-scale",
    );
    expect(nextTest(infer({ axis: scale, reports: [], magnitudes: [] })).ranked.map((r) => r.test.id)).toContain(
      "motor-against-scale",
    );
  });
});
