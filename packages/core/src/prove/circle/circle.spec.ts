import highsLoader, { type Highs } from "highs";
import { Matrix, solve } from "ml-matrix";
import { chainLostMotion } from "../../simulate";
import { fitCircle } from "./circle-fit";
import { CircleModel, type CirclePart } from "./circle-model";
import { circleQuantities, hysteresisOf, ringOf } from "./circle-quantities";
import { aroundOf, isFullCircle, turned, type CircleTrace } from "./circle-trace";
import { bothWays, evenAxis, evenPlane, SETUP } from "./circle-virtual.testing";

const around = (count: number, deviation: (angle: number) => number, direction: 1 | -1 = 1): CircleTrace => {
  const angles = Float64Array.from({ length: count }, (_, i) => (2 * Math.PI * i) / count);
  return { direction, angles, deviations: angles.map(deviation) };
};
/** Both ways round an even machine; made once. */
let even: readonly CircleTrace[] | null = null;
const evenTraces = (): readonly CircleTrace[] => (even ??= bothWays(evenPlane()));

/** Smallest ring about deviations, its centre anywhere: a linear programme, solved by HiGHS. */
function leastZone(highs: Highs, { angles, deviations }: CircleTrace): number {
  const rows = Array.from(angles, (a, i) => {
    const [c, s, r] = [Math.cos(a), Math.sin(a), 1000 * deviations[i]].map((v) => v.toFixed(9));
    const plus = (v: string): string => (v.startsWith("-") ? `- ${v.slice(1)}` : `+ ${v}`);
    return ` u${i}: most ${plus(c)} x ${plus(s)} y >= ${r}\n l${i}: least ${plus(c)} x ${plus(s)} y <= ${r}`;
  });
  const text = `Minimize\n obj: most - least\nSubject To\n${rows.join("\n")}\nBounds\n most free\n least free\n x free\n y free\nEnd`;
  return highs.solve(text).ObjectiveValue / 1000;
}

describe("quantities of ISO 230-4:2005, from memory", () => {
  it("a circle off its centre and of another radius deviates by nothing, and its radius is said only of a known bar", () => {
    const off = around(720, (a) => Math.hypot(150.01 * Math.cos(a) - 0.02, 150.01 * Math.sin(a) + 0.01) - 150);
    const back = { ...off, direction: -1 as const };
    const q = circleQuantities([off, back], { calibrated: true });
    expect(q.g[0].mm).toBeLessThan(5e-6);
    expect(q.gBoth).toBeLessThan(5e-6);
    expect(q.h?.mm).toBe(0);
    expect(q.d).toBeCloseTo(0.01, 5);
    expect(q.f?.most).toBeCloseTo(0.01, 5);
    expect(ringOf([off])).toMatchObject({ x: expect.closeTo(-0.02, 5), y: expect.closeTo(0.01, 5) });
    const unknown = circleQuantities([off, back], { calibrated: false });
    expect([unknown.d, unknown.f]).toEqual([null, null]);
  });

  it("least-squares rings are never smaller than the smallest ring, and not much larger, against a linear programme", async () => {
    const highs = await highsLoader();
    for (const shape of [
      (a: number) => 0.004 * Math.cos(2 * a) + 0.002 * Math.cos(5 * a),
      (a: number) => 0.01 * Math.max(0, Math.cos(a)) ** 8,
      (a: number) => (a < 1 ? 0.006 : 0),
    ]) {
      const trace = around(72, (a) => shape(a) + 0.01 * Math.cos(a));
      const [{ mm }] = circleQuantities([trace], { calibrated: false }).g;
      const least = leastZone(highs, trace);
      expect(mm).toBeGreaterThanOrEqual(least - 1e-8);
      expect(mm).toBeLessThan(1.5 * least);
    }
  });

  it("hysteresis is the largest difference at one angle, wherever the readings stand and whatever they share", () => {
    const forth = around(720, (a) => 0.05 * Math.cos(a) + 0.003 * Math.cos(a) ** 2);
    const back = around(500, (a) => 0.05 * Math.cos(a), -1);
    const h = hysteresisOf(forth, back);
    expect(h?.mm).toBeCloseTo(0.003, 5);
    expect(Math.abs(Math.cos(h?.at ?? 0))).toBeCloseTo(1, 3);
    const half = {
      ...back,
      angles: back.angles.filter((a) => a > 4),
      deviations: back.deviations.filter((_, i) => back.angles[i] > 4),
    };
    expect(
      hysteresisOf({ ...forth, angles: forth.angles.slice(0, 300), deviations: forth.deviations.slice(0, 300) }, half),
    ).toBeNull();
  });

  it("readings are put in order by angle as sorting would, whichever way round and wherever they begin", () => {
    const round = (count: number, from: number, to: number) =>
      Float64Array.from({ length: count }, (_, i) => from + ((to - from) * i) / count);
    const turn = 2 * Math.PI;
    const mixed = Float64Array.from({ length: 50 }, (_, i) => (i * 17) % 50);
    for (const angles of [
      round(360, 0, turn),
      round(360, 1, 1 + turn),
      round(360, turn, 0),
      round(360, 2, 2 - turn),
      round(200, -1.5, 1.5),
      round(200, 1.5, -1.5),
      // Further round than once, and as a gauge gives them.
      round(500, 0, 1.4 * turn),
      round(500, 0.3, 0.3 - 1.4 * turn),
      mixed,
      Float64Array.of(4),
    ]) {
      const { at, order } = aroundOf({ angles });
      expect(Array.from(at)).toEqual(Array.from(angles, turned).sort((a, b) => a - b));
      expect([...order].sort((a, b) => a - b)).toEqual(Array.from(angles, (_, i) => i));
    }
  });

  it("an arc has no radius of its own and no radial deviation; readings of one place are refused", () => {
    const arc = { ...around(720, () => 0), angles: Float64Array.from({ length: 720 }, (_, i) => (i / 720) * Math.PI) };
    expect(isFullCircle(arc)).toBe(false);
    const q = circleQuantities([arc, { ...arc, direction: -1 }], { calibrated: true });
    expect([q.d, q.f]).toEqual([null, null]);
    expect(() => ringOf([{ ...arc, angles: arc.angles.map(() => 1) }])).toThrow("more than one place on the circle");
  });
});

describe("a circle taken apart", () => {
  const part = (fit: ReturnType<typeof fitCircle>, id: CirclePart) => {
    const found = fit.parts.find((p) => p.id === id);
    if (!found) throw new Error(`no ${id}`);
    return found;
  };

  it("finds in a virtual machine, which knows nothing of the model, what was put into it", () => {
    const x = evenAxis("X", { leadError: { amplitudeMm: 0.002, perTurnMm: 10 } });
    const plane = evenPlane({
      axes: [x, evenAxis("Y")],
      gains: [30, 33],
      scale: [20e-6, -10e-6],
      square: 30e-6,
      bowMm: [0.003, 0],
      asideMm: [0.002, 0],
      stick: [
        { mm: 0.004, tauS: 0.1 },
        { mm: 0.002, tauS: 0.1 },
      ],
    });
    const fit = fitCircle(bothWays(plane, { samples: 4800 }), SETUP);
    const truth: Partial<Record<CirclePart, number>> = {
      "centre-1": -0.01,
      "centre-2": 0.02,
      mismatch: 30e-6,
      square: 30e-6,
      servo: 1 / 30 - 1 / 33,
      // What the chain loses when it turns round, worked out from its links.
      "lost-1": chainLostMotion(x.links),
      "lost-2": chainLostMotion(x.links),
      "ripple-sin-1": 0.002,
      "ripple-sin-2": 0,
      "bow-1": 0.003,
      "bow-2": 0,
      "across-1": 0.002,
      "across-2": 0,
    };
    for (const [id, value] of Object.entries(truth) as [CirclePart, number][]) {
      const { value: found, u } = part(fit, id);
      // Twice its U, which holds for one part in twenty; no U is so wide that it says nothing.
      expect([id, Math.abs(found - value) < 2 * u + 0.00003]).toEqual([id, true]);
    }
    expect(part(fit, "spike-1").value).toBeCloseTo(0.004, 3);
    expect(part(fit, "spike-2").value).toBeCloseTo(0.002, 3);
    expect(part(fit, "square").u).toBeLessThan(1e-6);
    // What is left is the bar’s own noise.
    expect(fit.restRms).toBeLessThan(0.0003);
  });

  it("an even machine has no part beyond its loss", () => {
    const fit = fitCircle(evenTraces(), SETUP);
    for (const id of ["square", "mismatch"] as const) expect(Math.abs(part(fit, id).value)).toBeLessThan(1e-6);
    for (const id of ["bow-1", "across-2", "ripple-cos-1"] as const)
      expect(Math.abs(part(fit, id).value)).toBeLessThan(0.0002);
    // Its springs round the turn a little: a tenth of what a spike is when it matters.
    expect(Math.abs(part(fit, "spike-1").value)).toBeLessThan(0.001);
    expect(part(fit, "lost-1").value).toBeCloseTo(chainLostMotion(evenAxis("X").links), 4);
  });

  it("says what would be left: without square and loss the circle is rounder, as the mended machine’s own circle is", () => {
    const plane = evenPlane({ square: 80e-6 });
    const fit = fitCircle(bothWays(plane), SETUP);
    const mended = circleQuantities(bothWays(evenPlane(), { seed: 9 }), { calibrated: false });
    const told = fit.without(["square"]);
    expect(told.gBoth).toBeCloseTo(mended.gBoth ?? NaN, 3);
    expect(circleQuantities(bothWays(plane), { calibrated: false }).gBoth).toBeGreaterThan(2 * (told.gBoth ?? NaN));
    // Loss is what both ways differ by.
    expect(fit.without(["lost-1", "lost-2"]).h?.mm).toBeLessThan(0.4 * (told.h?.mm ?? NaN));
  });

  it("is the least-squares answer that an orthogonal decomposition gives", () => {
    const traces = bothWays(evenPlane({ square: 20e-6, scale: [15e-6, 0] }), { samples: 600 });
    const fit = fitCircle(traces, SETUP);
    const model = new CircleModel(SETUP, fit.shape);
    const rows = traces.flatMap((t) =>
      Array.from(t.angles, (angle) => {
        const row = new Float64Array(model.parts.length);
        model.fill(row, angle, t.direction);
        return Array.from(row);
      }),
    );
    const readings = traces.flatMap((t) => Array.from(t.deviations));
    const values = solve(new Matrix(rows), Matrix.columnVector(readings), true).to1DArray();
    model.parts.forEach((id, i) => {
      if (id === "radius" || id === "mismatch") return;
      expect([id, part(fit, id).value]).toEqual([id, expect.closeTo(values[i], 7)]);
    });
  });

  it("one way round tells no servo, an arc no bow; what an arc cannot tell apart is said together", () => {
    const one = fitCircle(evenTraces().slice(0, 1), SETUP);
    expect(one.parts.map((p) => p.id)).not.toContain("servo");
    expect(one.together).toContainEqual({ a: "square", b: "servo", correlation: 1 });
    const noLead = { ...SETUP, axes: [{ letter: "X", perTurnMm: null }, SETUP.axes[1]] as const };
    expect(fitCircle(evenTraces(), noLead).parts.map((p) => p.id)).not.toContain("ripple-sin-1");
    const half = fitCircle(bothWays(evenPlane(), { spanRad: Math.PI, fromRad: 0 }), SETUP);
    expect(half.parts.map((p) => p.id)).not.toContain("bow-1");
    const pairs = half.together.map((t) => [t.a, t.b].sort().join("+"));
    expect(pairs).toContain("mismatch+radius");
    const full = fitCircle(evenTraces(), SETUP);
    expect(full.together).toEqual([]);
  });

  it("on half a circle radius, centre, scale and square hang together as trigonometry says", () => {
    // Correlations of the least-squares answer for 1, cos, sin, cos 2θ, sin 2θ over half a turn, integrated by hand.
    const model = new CircleModel(SETUP, { lossMm: [0, 0], spikeMm: [0, 0], decayMm: [1, 1], lagMm: 0 });
    const ids: CirclePart[] = ["radius", "centre-1", "centre-2", "mismatch", "square"];
    const at = ids.map((id) => model.parts.indexOf(id));
    const rows = Array.from({ length: 2000 }, (_, i) => {
      const row = new Float64Array(model.parts.length);
      model.fill(row, ((i + 0.5) / 2000) * Math.PI, 1);
      return at.map((k) => row[k]);
    });
    const design = new Matrix(rows);
    const inverse = solve(design.transpose().mmul(design), Matrix.eye(5));
    const correlation = (a: number, b: number): number =>
      Math.abs(inverse.get(a, b)) / Math.sqrt(inverse.get(a, a) * inverse.get(b, b));
    expect(correlation(4, 1)).toBeCloseTo(0.85, 2);
    expect(correlation(3, 0)).toBeCloseTo(0.97, 2);
    expect(correlation(3, 2)).toBeCloseTo(0.98, 2);
  });

  it("an indicator read every ten degrees tells what goes slowly, and nothing that comes and goes between", () => {
    const dial = bothWays(evenPlane({ square: 90e-6, asideMm: [0.006, 0] }), { samples: 36 });
    const fit = fitCircle(dial, SETUP);
    expect(part(fit, "square").value).toBeCloseTo(90e-6, 5);
    expect(part(fit, "across-1").value).toBeCloseTo(0.006, 3);
    expect(fit.parts.some((p) => p.id.startsWith("ripple") || p.id.startsWith("spike"))).toBe(false);
    expect(isFullCircle(dial[0])).toBe(true);
  });

  it("too few readings, and readings of a corner only, are refused by name", () => {
    expect(() => fitCircle([around(20, () => 0)], SETUP)).toThrow("number of readings is 20: it must be at least 24");
    const corner = bothWays(evenPlane(), { spanRad: 0.3, fromRad: 0.2 });
    expect(() => fitCircle(corner, SETUP)).toThrow("read more of it, both ways round");
  });
});
