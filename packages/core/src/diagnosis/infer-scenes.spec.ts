import { defaultAxis, type AxisConfig } from "../machine/axis";
import { UNKNOWN_CONTEXT } from "./context";
import { bestHypothesis } from "./best-hypothesis";
import { causeById } from "./causes";
import { infer, type Posterior } from "./infer";
import type { Cause } from "./knowledge";
import { mayCondemn } from "./proven";
import { seenBy } from "./slack";
import { axis, says, found, chance, magnitude, whole } from "./evidence.testing";

const best = (p: Posterior): string =>
  bestHypothesis(p)
    .causes.map((c) => c.id)
    .join("+") || "none";

describe("facts of the trade as scenes (common practice, no source)", () => {
  it("rumble in rapid with reversal loss on an encoder-only axis: the end bearings or their fasteners", () => {
    const p = infer({ axis, reports: [says("rumble"), says("lost-motion")], magnitudes: [whole(27)] });
    const atBearings = ["end-bearing-worn", "retainer-loose", "nut-preload-lost", "housing-loose"].reduce(
      (s, id) => s + chance(p, id),
      0,
    );
    expect(atBearings).toBeGreaterThan(0.75);
  });

  it("the same slack on a scale axis shows as hunting, not as lost position", () => {
    const scale: AxisConfig = { ...axis, feedback: "scale" };
    expect(seenBy(scale, "whole-chain")).toEqual([]);
    const p = infer({
      axis: scale,
      reports: [says("rumble"), says("hunting"), says("lost-motion", false)],
      magnitudes: [whole(0.4)],
    });
    expect(chance(p, "end-bearing-worn") + chance(p, "retainer-loose")).toBeGreaterThan(0.4);
    const encoder = infer({ axis, reports: [says("lost-motion", false)], magnitudes: [whole(0.4)] });
    expect(chance(encoder, "end-bearing-worn")).toBeLessThan(0.05);
  });

  it("an end float as large as the whole loss clears the nut", () => {
    const p = infer({
      axis,
      reports: [],
      magnitudes: [whole(27), { kind: "end-float", reversalValueMm: 0.025, uMm: 0.001 }],
    });
    expect(chance(p, "nut-worn")).toBeLessThan(0.02);
    expect(chance(p, "coupling-screw")).toBeLessThan(0.02);
  });

  it("a loose bracket does not condemn the nut: a lever on the member sees both move on the thread", () => {
    const evidence = { axis, reports: [], magnitudes: [whole(60), magnitude("nut-flank", 55)] };
    const p = infer(evidence);
    expect(chance(p, "bracket-loose")).toBeGreaterThan(0.2);
    expect(mayCondemn(p, causeById("nut-worn") as Cause)).toBe(false);
    const told = infer({ ...evidence, magnitudes: [...evidence.magnitudes, magnitude("bracket-shift", 52)] });
    expect(best(told)).toBe("bracket-loose");
    const still = infer({
      axis,
      reports: [found("profile-middle", false)],
      magnitudes: [...evidence.magnitudes, magnitude("bracket-shift", 0.4)],
    });
    expect(best(still)).toBe("nut-worn");
    expect(mayCondemn(still, causeById("nut-worn") as Cause)).toBe(true);
  });

  it("where the nut turns, the lever sees the float of its bearings as well", () => {
    const turning: AxisConfig = { ...axis, transmission: "rotating-nut" };
    expect(seenBy(turning, "nut-flank")).toEqual(["bearings", "nut", "wear"]);
    const p = infer({ axis: turning, reports: [], magnitudes: [whole(40), magnitude("nut-flank", 38)] });
    expect(mayCondemn(p, causeById("nut-worn") as Cause)).toBe(false);
  });

  it("a surging howl with a profile worst in the middle leads to the screw", () => {
    const p = infer({ axis, reports: [says("howl"), found("profile-middle")], magnitudes: [whole(22)] });
    expect(best(p)).toBe("screw-worn-middle");
    expect(chance(p, "screw-worn-middle")).toBeGreaterThan(0.9);
  });

  it("a click on the descent of a heavy axis is normal", () => {
    const z = defaultAxis("vertical-centre", "Z");
    const p = infer({
      axis: z,
      reports: [says("click-descent"), says("lost-motion", false), says("rumble", false)],
      magnitudes: [],
    });
    expect(best(p)).toBe("normal-regen");
  });

  it("drag one way on a gravity axis with a drag brake is the brake doing its job", () => {
    const z: AxisConfig = { ...defaultAxis("vertical-centre", "Z"), dragBrake: true };
    const p = infer({ axis: z, reports: [says("tight-one-way"), says("tight-all", false)], magnitudes: [] });
    expect(best(p)).toBe("normal-dragbrake");
  });

  it("travel that stops short while free is the cage", () => {
    const grinder = defaultAxis("surface-grinder", "X");
    const p = infer({ axis: grinder, reports: [says("short-travel"), says("tight-all", false)], magnitudes: [] });
    expect(best(p)).toBe("cage-crept");
  });

  it("no motion and no alarm is the control", () => {
    const p = infer({ axis, reports: [says("no-motion")], magnitudes: [] });
    expect(chance(p, "control-override") + chance(p, "control-interlock")).toBeGreaterThan(0.85);
  });

  it("loose causes rise for three months after work, worn ones with age", () => {
    const fresh = infer({
      axis,
      context: { ...UNKNOWN_CONTEXT, weeksSinceWork: 4 },
      reports: [],
      magnitudes: [whole(27)],
    });
    const old = infer({
      axis,
      context: { ...UNKNOWN_CONTEXT, ageYears: 14, weeksSinceWork: 200 },
      reports: [],
      magnitudes: [whole(27)],
    });
    expect(chance(fresh, "retainer-loose")).toBeGreaterThan(2 * chance(old, "retainer-loose"));
    expect(chance(old, "end-bearing-worn")).toBeGreaterThan(chance(fresh, "end-bearing-worn"));
  });
});
