import { defaultAxis, type AxisConfig } from "../machine/axis";
import { CAUSES, causeFits } from "../diagnosis";
import { FINDINGS } from "../measure";
import { axisFromParts, frictionOf } from "./condition";
import { SOUND_FRICTION_N } from "./sound-friction";
import { FAULTS, soundParts, withFaults } from "./faults";
import { normalNoise } from "./noise";
import { notices } from "./observe";
import {
  commandAxis,
  driveForce,
  extraFriction,
  restingState,
  stationPosition,
  trueReversal,
  type Station,
  type VirtualAxis,
} from "./virtual-axis";

const axis = defaultAxis("vertical-centre", "X");

/** What an indicator at a station reads across a full reversal, mm. */
function across(model: VirtualAxis, station: Station, at = 250): number {
  const go = (over: number): number => {
    const away = commandAxis(model, commandAxis(model, restingState(model, at), at + over), at + 2 * over);
    return stationPosition(model, commandAxis(model, away, at), station);
  };
  return go(10) - go(-10);
}

describe("an indicator anywhere on the chain", () => {
  const model = axisFromParts(
    axis,
    { retainerGapMm: 0.02, nutGapMm: 0.005, couplingSlipMm: 0.003, housingSlipMm: 0.004, bracketSlipMm: 0.006 },
    1,
  );

  it("reads the dead band of the links it sits across, and their small wind-up", () => {
    const near = (station: Station, mm: number): void => {
      expect(across(model, station)).toBeGreaterThanOrEqual(mm);
      expect(across(model, station)).toBeLessThan(mm + 0.0015);
    };
    near("end-float", 0.024);
    near("housing-shift", 0.004);
    // The lever rides on the member: nut and bracket both move past it.
    near("nut-flank", 0.011);
    near("coupling-slip", 0.003);
    near("bracket-shift", 0.006);
  });

  it("a lever on the member sees the nut’s own bearings too where the nut turns (geometry of the chain)", () => {
    const turning = axisFromParts(
      { ...axis, transmission: "rotating-nut" },
      { retainerGapMm: 0.02, nutGapMm: 0.005 },
      1,
    );
    expect(across(turning, "nut-flank")).toBeGreaterThanOrEqual(0.025);
    expect(across(turning, "nut-flank")).toBeLessThan(0.028);
  });

  it("and the links add up to what the member loses", () => {
    const links = (["coupling-slip", "end-float", "nut-flank"] as const).reduce((s, k) => s + across(model, k), 0);
    const screw = 0.0012;
    expect(across(model, "member")).toBeCloseTo(trueReversal(model, 250), 3);
    expect(Math.abs(across(model, "member") - links)).toBeLessThan(screw);
  });
});

describe("the drive load of a virtual axis", () => {
  it("is friction both ways, with gravity on top of it", () => {
    const at = (model: VirtualAxis, to: number): number =>
      driveForce(model, commandAxis(model, restingState(model, 250), to));
    const flat = axisFromParts(axis, {}, 1);
    expect(at(flat, 300) + at(flat, 200)).toBeCloseTo(0, 6);
    const z = axisFromParts(defaultAxis("vertical-centre", "Z"), { counterOffN: 100 }, 1);
    expect((at(z, 300) + at(z, 200)) / 2).toBeCloseTo(120, 3);
  });

  it("rises at an end, at a spot and once per turn, where the parts say so", () => {
    const model = axisFromParts(axis, { misalignN: 200, chipsN: 150, bendN: 80, spotAt: 0.3 }, 1);
    expect(extraFriction(model, 500)).toBeGreaterThan(190);
    expect(extraFriction(model, 150)).toBeGreaterThan(140);
    const turn = Array.from({ length: 20 }, (_, i) => extraFriction(model, 60 + i / 2));
    expect(Math.max(...turn) - Math.min(...turn)).toBeGreaterThan(70);
    expect(frictionOf({ dryness: 1 })).toBeCloseTo(1.9 * SOUND_FRICTION_N, 9);
  });
});

describe("entered compensation", () => {
  it("is taken off the loss, and gains where nothing is lost", () => {
    const lost = axisFromParts(axis, { nutGapMm: 0.02 }, 1);
    const compensated = axisFromParts(axis, { nutGapMm: 0.02, compensationMm: 0.02 }, 1);
    expect(across(lost, "member") - across(compensated, "member")).toBeCloseTo(0.02, 4);
    expect(trueReversal(axisFromParts(axis, { compensationMm: 0.03 }, 1), 250)).toBeLessThan(-0.02);
  });
});

describe("faults in the parts", () => {
  const steady = (): number => 0;

  it("exist for every cause of the catalogue", () => {
    for (const cause of CAUSES) expect(FAULTS[cause.id]).toBeDefined();
  });

  it("are noticed at their middling size by what the trade says of them (common practice, no source)", () => {
    const half = (): number => 0.5;
    const seen = (config: AxisConfig, fault: string): string[] => {
      const parts = withFaults({ ...soundParts(half, config), dryness: 0 }, { faults: [fault], u: half, axis: config });
      const model = axisFromParts(config, parts, 1);
      return FINDINGS.filter((f) => notices(config, { axis: model, id: f.id, normal: steady })).map((f) => f.id);
    };
    expect(seen(axis, "retainer-loose")).toEqual(
      expect.arrayContaining(["lost-motion", "retainer-turns", "coasts-free"]),
    );
    expect(seen(axis, "retainer-loose")).not.toContain("rough-finger");
    expect(seen(axis, "end-bearing-worn")).toEqual(expect.arrayContaining(["rumble", "rough-finger"]));
    expect(seen(axis, "screw-misaligned")).toEqual(expect.arrayContaining(["tight-end", "crest-slope"]));
    expect(seen(axis, "control-override")).toEqual(expect.arrayContaining(["no-motion", "override-zero"]));
    const scale: AxisConfig = { ...axis, feedback: "scale" };
    expect(seen(scale, "retainer-loose")).toContain("hunting");
    expect(seen(scale, "retainer-loose")).not.toContain("lost-motion");
  });

  it("leave a sound axis quiet on nearly every occasion", () => {
    let n = 0;
    const draw = (): number => normalNoise(9, (n += 1));
    const occasions = 200;
    const noticed = new Map<string, number>();
    for (let i = 0; i < occasions; i += 1) {
      const model = axisFromParts(
        axis,
        soundParts(() => i / occasions, axis),
        i,
      );
      for (const { id } of FINDINGS)
        if (notices(axis, { axis: model, id, normal: draw })) noticed.set(id, (noticed.get(id) ?? 0) + 1);
    }
    // Each for itself: how many there are to look for must not matter.
    expect([...noticed].filter(([, times]) => times / occasions > 0.07)).toEqual([]);
  });

  it("never make an axis of parts it has not", () => {
    const rack = defaultAxis("router", "X");
    expect(CAUSES.filter((c) => causeFits(rack, c)).map((c) => c.id)).not.toContain("nut-worn");
    expect(axisFromParts(rack, { nutGapMm: 0.05 }, 1).links.every((l) => l.id !== "nut" || l.deadBandMm === 0)).toBe(
      true,
    );
  });
});
