import { defaultAxis, type AxisConfig } from "../machine/axis";
import { causeById } from "./causes";
import { axis, found, magnitude, whole } from "./evidence.testing";
import type { Report } from "./evidence";
import { infer } from "./infer";
import type { Cause } from "./knowledge";
import { isSure } from "./next-test";
import { isProven, mayCondemn, provenOnlyBy } from "./proven";
import { caseVerdict } from "./verdict";

const cause = (id: string): Cause => causeById(id) as Cause;

describe("what proves the dear part (common practice, no source)", () => {
  it("is said as it can be done on the axis", () => {
    expect(provenOnlyBy(axis, cause("screw-bent"))).toBe("a crest run");
    const scale: AxisConfig = { ...axis, feedback: "scale" };
    expect(provenOnlyBy(axis, cause("screw-worn-middle"))).toContain("a travel profile");
    expect(provenOnlyBy(scale, cause("screw-worn-middle"))).not.toContain("profile");
    expect(provenOnlyBy(scale, cause("screw-worn-middle"))).toContain("the flank at two places");
  });

  it("a nut built with clearance winds down when it is sound: that proves nothing", () => {
    const upright: AxisConfig = { ...axis, orientation: "vertical", nut: "double" };
    const clearance: AxisConfig = { ...upright, nut: "single-clearance" };
    expect(provenOnlyBy(upright, cause("nut-worn"))).toContain("back-drive");
    expect(provenOnlyBy(clearance, cause("nut-worn"))).not.toContain("back-drive");
    const given = { reports: [found("back-drives"), found("bracket-turns", false)], magnitudes: [whole(40)] };
    const few = [cause("nut-worn"), cause("tram-out")];
    expect(mayCondemn(infer({ axis: upright, causes: few, ...given }), few[0])).toBe(true);
    expect(mayCondemn(infer({ axis: clearance, causes: few, ...given }), few[0])).toBe(false);
  });

  it("a howl proves nothing that was only told, nor where there are no balls", () => {
    const few = [cause("screw-worn-middle"), cause("tram-out")];
    const weigh = (on: AxisConfig, report: Report): boolean =>
      mayCondemn(infer({ axis: on, causes: few, reports: [report], magnitudes: [whole(90)] }), few[0]);
    expect(weigh(axis, found("howl"))).toBe(true);
    expect(weigh(axis, { ...found("howl"), source: "symptom" })).toBe(false);
    expect(weigh({ ...axis, transmission: "plain-screw", nut: "anti-backlash" }, found("howl"))).toBe(false);
  });

  it("play that a nut has from new is no wear", () => {
    const plain: AxisConfig = { ...defaultAxis("engraver", "X"), nut: "anti-backlash" };
    const flank = (um: number): boolean => {
      const magnitudes = [whole(um), magnitude("nut-flank", um), magnitude("bracket-shift", 0.2)];
      const few = [cause("screw-worn-middle"), cause("tram-out")];
      return mayCondemn(
        infer({ axis: plain, causes: few, reports: [found("profile-middle", false)], magnitudes }),
        few[0],
      );
    };
    expect(flank(38)).toBe(false);
    expect(flank(160)).toBe(true);
  });

  it("is never sure of a part that no test has looked at, though none is left that could", () => {
    const few = [cause("nut-worn"), cause("tram-out")];
    const p = infer({
      axis: { ...axis, member: "table" },
      causes: few,
      reports: [found("howl")],
      magnitudes: [whole(40), magnitude("coupling-slip", 0.3)],
    });
    expect(isSure(p)).toBe(false);
    expect(caseVerdict(p, { done: new Set() }).headline).not.toContain("nearly certain");
  });

  it("what was shown but may be another part is not called unshown: it says what else it may be", () => {
    const clearance: AxisConfig = { ...axis, nut: "single-clearance" };
    const sizes = [whole(26), magnitude("nut-flank", 22), magnitude("bracket-shift", 0)];
    const known = infer({ axis: clearance, reports: [], magnitudes: sizes });
    expect(isProven(known, cause("nut-worn"))).toBe(true);
    const [warning] = caseVerdict(known, { done: new Set() }).warnings;
    expect(warning).toMatch(
      /^Nut worn is the dear part\. A test speaks for it, but \d+ % is too little to order it on:/,
    );
    expect(warning).toMatch(/: Screw worn where it works most, \d+ %, is not ruled out\. Test on\.$/);
    const without = infer({ axis: clearance, reports: [], magnitudes: sizes.slice(0, 2) });
    expect(caseVerdict(without, { done: new Set() }).warnings[0]).toContain("What proves it here: the nut flank");
  });
});
