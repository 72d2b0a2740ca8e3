import * as fc from "fast-check";
import { Matrix, SVD } from "ml-matrix";
import { crestAlignment, crestCode, crestLimit, type Datum } from "./crest-alignment";
import { crestFit, type CrestReadings } from "./crest-fit";

const LEAD = 10;
const supports = { fixedMm: -50, farMm: 550, bracketMm: 250, leadMm: LEAD };
const places = [12, 74, 136, 191, 253, 318, 372, 433, 496];

/**
 * A screw in space as a tip meets it: its axis tilts and sags, and a bend in its own body goes round
 * with it. The tip stands above (0°) or beside (90°); the screw has turned once for every lead.
 */
function screw(parts: {
  readonly tilt?: readonly [up: number, side: number];
  readonly sag?: number;
  readonly bend?: number;
  readonly runOut?: number;
  readonly at?: readonly number[];
}): readonly CrestReadings[] {
  const { tilt = [0, 0], sag = 0, bend = 0, runOut = 0, at = places } = parts;
  const axis = (x: number): readonly [up: number, side: number] => {
    const turned = (2 * Math.PI * x) / LEAD + 0.4;
    const off = bend * Math.sin((Math.PI * (x - 12)) / 484) + runOut;
    const hang = sag * (1 - ((x - 254) / 242) ** 2);
    return [tilt[0] * x - hang + off * Math.cos(turned), tilt[1] * x + off * Math.sin(turned)];
  };
  return [0, 1].map((plane) => ({
    name: plane === 0 ? "0°" : "90°",
    points: at.map((x) => ({ x, y: 0.1 + axis(x)[plane] })),
  }));
}

const align = (planes: readonly CrestReadings[], datum: Datum = "fixed") =>
  crestAlignment(planes, { supports, datum, resolutionMm: 0 });

describe("taking crest readings apart", () => {
  it("tells a tilt, a sag that stands still and a bend that turns (geometry of a turning screw)", () => {
    const fit = crestFit(screw({ tilt: [2e-4, -1e-4], sag: 0.05, bend: 0.04 }), { leadMm: LEAD, resolutionMm: 0 });
    expect(fit.planes[0].slope.value).toBeCloseTo(2e-4, 5);
    expect(fit.planes[1].slope.value).toBeCloseTo(-1e-4, 5);
    expect(fit.planes[0].bow.value).toBeCloseTo(-0.05, 2);
    expect(fit.planes[1].bow.value).toBeCloseTo(0, 2);
    expect(fit.turning?.shape).toBe("bent");
    expect(fit.turning?.value).toBeCloseTo(0.04, 2);
  });

  it("calls a swing that is the same all along a run-out, and a sag alone no bend", () => {
    const out = crestFit(screw({ runOut: 0.03 }), {
      leadMm: LEAD,
      resolutionMm: 0,
    });
    expect(out.turning).toMatchObject({ shape: "even" });
    expect(out.turning?.value).toBeCloseTo(0.03, 6);
    const sagging = crestFit(screw({ sag: 0.06 }), {
      leadMm: LEAD,
      resolutionMm: 0,
    });
    expect(sagging.turning?.value).toBeCloseTo(0, 6);
    expect(align(screw({ sag: 0.06 })).turning?.code).toBe("within");
  });

  it("has the solution and the covariance of a general library’s least squares (ml-matrix)", () => {
    const noisy = screw({ tilt: [1e-4, 0], runOut: 0.02 }).map((p, k) => ({
      ...p,
      points: p.points.map((q, i) => ({
        ...q,
        y: q.y + 0.002 * Math.sin(7 * i + 3 * k),
      })),
    }));
    const fit = crestFit(noisy, { leadMm: LEAD, resolutionMm: 0 });
    const rows: number[][] = [];
    const values: number[][] = [];
    noisy.forEach(({ points }, k) => {
      for (const { x, y } of points) {
        const phase = (2 * Math.PI * x) / LEAD;
        // cos and sin as the plane beside sees them a quarter of a turn later.
        const turn = k === 0 ? [Math.cos(phase), Math.sin(phase)] : [Math.sin(phase), -Math.cos(phase)];
        const own = [1, x, x * x];
        rows.push([...(k === 0 ? own : [0, 0, 0]), ...(k === 1 ? own : [0, 0, 0]), ...turn]);
        values.push([y]);
      }
    });
    const a = new Matrix(rows);
    const solved = new SVD(a, { autoTranspose: true }).solve(new Matrix(values));
    expect(fit.turning?.shape).toBe("even");
    expect(fit.turning?.value).toBeCloseTo(Math.hypot(solved.get(6, 0), solved.get(7, 0)), 9);
    const middle = (12 + 496) / 2;
    expect(fit.planes[0].slope.value).toBeCloseTo(solved.get(1, 0) + 2 * middle * solved.get(2, 0), 9);
  });

  it("says when the places cannot show what turns", () => {
    const whole = screw({ runOut: 0.02, at: [0, 100, 200, 300, 400, 500] });
    expect(crestFit(whole, { leadMm: LEAD, resolutionMm: 0 }).turning).toBeNull();
    const five = crestFit(screw({ tilt: [2e-4, 0], at: places.slice(0, 5) }), {
      leadMm: LEAD,
      resolutionMm: 0,
    });
    expect(five.planes[0].slope.value).toBeCloseTo(2e-4, 6);
    expect(() => crestFit(screw({ at: [1, 2, 3] }), { leadMm: LEAD, resolutionMm: 0 })).toThrow(
      "places in a plane is 3",
    );
    expect(() =>
      crestFit(screw({ at: [5, 5, 5, 5, 5] }), {
        leadMm: LEAD,
        resolutionMm: 0,
      }),
    ).toThrow("spread of the places");
  });

  it("is never better known than the display", () => {
    const coarse = crestFit(screw({ tilt: [2e-4, 0] }), {
      leadMm: LEAD,
      resolutionMm: 0.01,
    });
    expect(coarse.planes[0].slope.expanded * 484).toBeGreaterThan(0.003);
    expect(
      crestFit(screw({ tilt: [2e-4, 0] }), { leadMm: LEAD, resolutionMm: 0 }).planes[0].slope.expanded,
    ).toBeLessThan(1e-9);
  });
});

describe("crest alignment", () => {
  it("moves the other supports onto the datum’s height", () => {
    const { moves, predictedMm } = align(screw({ tilt: [-2e-4, 0] }));
    const far = moves.find((m) => m.support === "far" && m.plane === "0°");
    expect(far?.moveMm).toBeCloseTo(0.12, 6);
    expect(far?.way).toMatchObject({
      code: "raise",
      shims: { pieces: [0.1, 0.025] },
    });
    expect(predictedMm).toBeLessThanOrEqual(0.0125);
  });

  it("offers no shim under nothing: what would have to come down is said, and from where all rises", () => {
    // Nothing can be shimmed downwards (common practice, no source).
    const { moves, raiseFrom } = align(screw({ tilt: [2e-4, 0] }));
    expect(moves.find((m) => m.support === "far" && m.plane === "0°")?.way.code).toBe("lower");
    expect(raiseFrom).toBe("far");
    const risen = align(screw({ tilt: [2e-4, 0] }), "far");
    expect(risen.raiseFrom).toBeNull();
    for (const m of risen.moves) expect(m.way.code).not.toBe("lower");
  });

  it("shifts sideways what stands beside, and shims nothing there", () => {
    const { moves } = align(screw({ tilt: [0, 3e-4] }));
    const beside = moves.filter((m) => m.plane === "90°");
    expect(beside.map((m) => m.way.code)).toEqual(["shift", "shift"]);
  });

  it("whichever the datum, the screw ends parallel to the ways", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -4e-4, max: 4e-4, noNaN: true }),
        fc.constantFrom("fixed" as const, "far" as const, "bracket" as const),
        (slope, datum) => {
          const { moves } = align(screw({ tilt: [slope, 0] }), datum);
          const place = { fixed: -50, far: 550, bracket: 250 };
          const after = (["fixed", "far", "bracket"] as const).map(
            (s) => slope * place[s] + (moves.find((m) => m.support === s && m.plane === "0°")?.moveMm ?? 0),
          );
          for (const h of after) expect(h).toBeCloseTo(after[0], 8);
        },
      ),
    );
  });

  it("decides by the interval, and says when it cannot", () => {
    expect(crestCode({ value: -0.05, expanded: 0.01 }, 0.03)).toBe("over");
    expect(crestCode({ value: 0.025, expanded: 0.01 }, 0.03)).toBe("cannot-tell");
    expect(crestCode({ value: 0.01, expanded: 0.01 }, 0.03)).toBe("within");
    expect(crestLimit(600)).toBe(0.03);
  });
});
