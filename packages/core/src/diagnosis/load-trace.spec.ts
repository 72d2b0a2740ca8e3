import type { LoadSample } from "../measure";
import { defaultAxis } from "../machine/axis";
import { axisFromParts, normalNoise, simulateCrestRun, simulateLoadTrace } from "../simulate";
import { crestRun } from "../measure/hand/crest-run";
import { analyseLoadTrace } from "./load-trace";

let drawn = 0;
const noise = (): number => normalNoise(5, (drawn += 1));

/** A trace made up from its parts, with ramps at the ends and noise. */
function made(parts: {
  friction?: number;
  gravity?: number;
  high?: number;
  turn?: number;
  spot?: number;
  sd?: number;
}): LoadSample[] {
  const { friction = 5, gravity = 0, high = 0, turn = 0, spot = 0, sd = 0.2 } = parts;
  return (["+", "-"] as const).flatMap((direction) =>
    Array.from({ length: 400 }, (_, i) => {
      const positionMm = direction === "+" ? i : 399 - i;
      const d = direction === "+" ? 1 : -1;
      const ramp = i < 6 ? 20 : i > 393 ? -20 : 0;
      const rise = high * Math.max(0, (positionMm / 399 - 0.75) / 0.25);
      const ripple = turn * Math.sin((2 * Math.PI * positionMm) / 10);
      const bump = spot * Math.exp(-(((positionMm - 130) / 8) ** 2));
      return { positionMm, direction, load: d * (friction + rise + ripple + bump + ramp) + gravity + sd * noise() };
    }),
  );
}

describe("a load trace", () => {
  it("is taken apart into what it was made of, whatever the ramps do", () => {
    const trace = analyseLoadTrace(made({ friction: 6, gravity: 2, high: 3, turn: 1.5 }), { perTurnMm: 10 });
    const near = (part: { value: number; u: number }, truth: number): void =>
      expect(Math.abs(part.value - truth)).toBeLessThan(4 * part.u + 0.06);
    near(trace.friction, 6);
    near(trace.gravity, 2);
    near(trace.highEnd, 3);
    near(trace.perTurn, 1.5);
    expect(trace.perTurn.real).toBe(true);
    expect(trace.lowEnd.real).toBe(false);
    expect(trace.spots).toEqual([]);
    expect(trace.cutOff).toBeGreaterThan(10);
  });

  it("finds a spot and where it is, without bending the rest", () => {
    const trace = analyseLoadTrace(made({ friction: 5, spot: 6 }), { perTurnMm: 10 });
    expect(trace.spots).toHaveLength(1);
    expect(trace.spots[0].peakMm).toBeGreaterThan(122);
    expect(trace.spots[0].peakMm).toBeLessThan(138);
    expect(trace.friction.value).toBeCloseTo(5, 0);
    expect(trace.highEnd.real).toBe(false);
  });

  it("calls nothing real on a quiet axis", () => {
    for (let i = 0; i < 10; i += 1) {
      const trace = analyseLoadTrace(made({}), { perTurnMm: 10 });
      expect([trace.lowEnd.real, trace.highEnd.real, trace.perTurn.real, trace.spots.length]).toEqual([
        false,
        false,
        false,
        0,
      ]);
    }
  });

  it("takes a meter that shows no sign for what it is", () => {
    // Most load meters show the size of the force alone (common practice, no source).
    const sizes = made({ friction: 6, high: 3 }).map((s) => ({
      ...s,
      load: Math.abs(s.load),
    }));
    const flat = analyseLoadTrace(sizes, { perTurnMm: 10 });
    expect(flat).toMatchObject({
      meter: "unsigned",
      askMeter: false,
      frictionOrGravity: false,
    });
    expect(flat.friction.value).toBeCloseTo(6, 0);
    expect(Math.abs(flat.gravity.value)).toBeLessThan(0.2);
    expect(flat.highEnd.real).toBe(true);
    // On an axis that can fall nobody can tell from the sizes: it is asked, and said.
    const heavy = made({ friction: 5, gravity: 2 }).map((s) => ({
      ...s,
      load: Math.abs(s.load),
    }));
    const upright = analyseLoadTrace(heavy, {
      perTurnMm: 10,
      gravityAxis: true,
    });
    expect(upright).toMatchObject({
      meter: "unsigned",
      askMeter: true,
      frictionOrGravity: true,
    });
    const told = analyseLoadTrace(made({ friction: 2, gravity: 5 }), {
      perTurnMm: 10,
      gravityAxis: true,
      meter: "signed",
    });
    expect(told.askMeter).toBe(false);
    expect(told.friction.value).toBeCloseTo(2, 0);
    expect(told.gravity.value).toBeCloseTo(5, 0);
  });

  it("tells a broad tight middle from a rise at an end, and says when both would do", () => {
    const stretch = (from: number, to: number, extra: number): LoadSample[] =>
      made({}).map((s) => {
        const inside = s.positionMm >= from && s.positionMm <= to;
        return {
          ...s,
          load: s.load + (inside ? (s.direction === "+" ? extra : -extra) : 0),
        };
      });
    const middle = analyseLoadTrace(stretch(150, 250, 3), { perTurnMm: 10 });
    expect([middle.lowEnd.real, middle.highEnd.real]).toEqual([false, false]);
    expect(middle.stretches).toHaveLength(1);
    expect(middle.stretches[0].fromMm).toBeGreaterThan(120);
    expect(middle.stretches[0].toMm).toBeLessThan(280);
    expect(middle.alike).toBe(false);
    expect(middle.friction.value).toBeCloseTo(5, 0);
    const end = analyseLoadTrace(made({ high: 3 }), { perTurnMm: 10 });
    expect(end.stretches).toEqual([]);
    expect(end.highEnd.real).toBe(true);
  });

  it("refuses what cannot be analysed, by name", () => {
    const all = made({});
    expect(() => analyseLoadTrace(all.slice(0, 20), { perTurnMm: 10 })).toThrow(
      "samples is 20: it must be at least 40",
    );
    expect(() =>
      analyseLoadTrace(
        all.filter((s) => s.direction === "+"),
        { perTurnMm: 10 },
      ),
    ).toThrow("one traverse each way");
  });

  it("of the virtual axis shows a misaligned screw at its end and a rack’s spot where it is", () => {
    const axis = defaultAxis("vertical-centre", "X");
    const misaligned = analyseLoadTrace(simulateLoadTrace(axisFromParts(axis, { misalignN: 260 }, 3), noise), {
      perTurnMm: 10,
    });
    expect(misaligned.highEnd.real).toBe(true);
    expect(misaligned.spots).toEqual([]);
    const rack = { ...defaultAxis("router", "X"), travelMm: 3000 };
    const spot = analyseLoadTrace(simulateLoadTrace(axisFromParts(rack, { rackSpotN: 210, spotAt: 0.37 }, 3), noise), {
      perTurnMm: 126,
    });
    expect(spot.spots.length).toBeGreaterThan(0);
    expect(Math.abs(spot.spots[0].peakMm - 1110)).toBeLessThan(60);
  });
});

describe("a crest run", () => {
  const screw = { leadMm: 10, freeLengthMm: 500, travelMm: 400 };

  it("fits a slope by hand-worked figures, and leaves open what its places cannot show", () => {
    const line = [0, 100, 200, 300, 400].map((positionMm) => ({
      positionMm,
      readingMm: 0.01 + 0.0001 * positionMm,
    }));
    const { alignment, outOfLine, bent } = crestRun([line], screw);
    // 0.1 mm per metre over 500 mm is 0.05 mm, above the 0.02 mm that is fine.
    expect(alignment.planes[0].slopeMmPerM).toBeCloseTo(0.1, 9);
    expect(alignment.planes[0].overLength.value).toBeCloseTo(0.05, 9);
    // Whole leads apart: what turns is never seen.
    expect([outOfLine, bent]).toEqual([true, null]);
    expect(() => crestRun([line.slice(0, 3)], screw)).toThrow("places in a plane is 3");
  });

  it("tells a bent screw from one out of line on the virtual axis", () => {
    const axis = defaultAxis("vertical-centre", "X");
    const of = (parts: object) =>
      crestRun(simulateCrestRun(axisFromParts(axis, parts, 1), noise), {
        leadMm: axis.screw.leadMm,
        freeLengthMm: axis.screw.freeLengthMm,
        travelMm: axis.travelMm,
      });
    expect(of({ misalignN: 200 })).toMatchObject({ outOfLine: true, bent: false });
    expect(of({ bendN: 120 }).bent).toBe(true);
    expect(of({})).toMatchObject({ outOfLine: false, bent: false });
  });
});
