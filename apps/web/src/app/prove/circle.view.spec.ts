import { findingSentence, USUAL_CIRCLE_LIMITS } from "@iron/core";
import { AXES, circlePlane, circleSession, drawnOf, leaning, pass, PLAN } from "../../testing/circle";
import { drawnTraces, quarters } from "./circle-drawn.view";
import { createOf, fieldOf, usualDraft, usualPlanes } from "./circle-setup.view";
import { withBatch } from "./circle-store";
import { circleChecks, jointLines, passRows, planeView } from "./circle.view";
import { partHistory, sessionRows } from "./circles.view";

const both = (lean: number, step = 0) => [leaning(1, lean, step), leaning(-1, lean, step)];
const tilted = circlePlane(both(0.006));
const shown = (plane = tilted, over: object = {}) => ({
  session: circleSession([plane], over),
  plane,
  axes: AXES,
  system: "metric" as const,
});

describe("what a circle’s numbers say", () => {
  it("leads with what is over its limit, and says what would be left without it", () => {
    const view = planeView(shown());
    expect(view?.headline).toBe("X and Y are out of square.");
    expect(view?.word).toBe("act");
    const [row] = view?.rows ?? [];
    // 0.006 mm · sin 2θ is half of the lean times the radius: 0.12 mm/m, 36 µm over 300 mm.
    expect(row.sentence).toMatch(/^The corner between \+X and \+Y is closed: 36\.0 ± [\d.]+ µm over 300 mm\.$/);
    expect(row.left).toMatch(/^Without it G\(b\) would be 0\.\d+ ± 0\.\d+ µm instead of 12\.0 µm\.$/);
    expect(row.lead).toEqual({ to: "level" });
    expect(planeView({ ...shown(), system: "inch" })?.rows[0].sentence).toContain("tenths over 12 in");
  });

  it("what is not known to be there is no finding, however wide its ±", () => {
    const view = planeView(shown(circlePlane(both(0))));
    expect(view?.headline).toBe("Everything is within its limits.");
    expect(view?.rows).toEqual([]);
    expect(view?.quiet.length).toBeGreaterThan(10);
  });

  it("nothing is called within its limits while the circle as a whole is over its own", () => {
    const limits = { ...USUAL_CIRCLE_LIMITS, gBoth: { leave: 0.001, repair: 0.002 } };
    const slight = circlePlane(both(0.001));
    const strict = { limits: { limits, why: "gauges", by: "Ama", at: null } };
    const view = planeView(shown(slight, strict));
    expect(view?.headline).toBe("No part by itself is over its limit; the circle as a whole is over its own.");
    expect(view?.word).not.toBe("sound");
  });

  it("the standard’s quantities stand under their names; no D without a bar that was set on its master", () => {
    const view = planeView(shown());
    expect(view?.iso.map((i) => i.symbol)).toEqual(["G +", "G −", "G(b)", "H"]);
    expect(view?.isoNote).toContain("set on its master");
  });

  it("spikes after a job that renewed bearings are normal, before it they are friction", () => {
    const spiky = tilted.analysis?.findings.find((f) => f.kind === "spike" && f.letter === "Y");
    if (!tilted.analysis || !spiky) throw new Error("no spike");
    const findings = [{ ...spiky, value: 0.02, u: 0.001 }];
    const plane = { ...tilted, analysis: { ...tilted.analysis, findings } };
    expect(planeView(shown(plane))?.rows[0].leadText).toContain("Not to be tuned away");
    const fresh = planeView(shown(plane, { fresh: ["Y"] }))?.rows[0].leadText;
    expect(fresh).toContain("normal while they run in");
    expect(fresh).toContain("at zero");
    expect(fresh).toContain("Some tune them away");
  });

  it("the loss of an axis is judged by that axis’ own limits", () => {
    const plane = circlePlane(both(0, 0.012));
    const strict = AXES.map((a) => ({
      ...a,
      config: { ...a.config, limits: { ...a.config.limits, leaveMm: 0.002, repairMm: 0.005 } },
    }));
    const word = (axes: typeof AXES) => {
      const rows = planeView({ ...shown(plane), axes });
      return [...(rows?.rows ?? []), ...(rows?.quiet ?? [])].find((r) => r.id === "lost X")?.word;
    };
    const lost = plane.analysis?.findings.find((f) => f.kind === "lost" && f.letter === "X");
    if (!lost) throw new Error("no loss");
    const said = (ends: typeof lost.ends) =>
      findingSentence({ ...lost, value: 0.012, u: 0.001, ends }, ["X", "Y"], { system: "metric", feedMmMin: 1000 });
    expect(said({ plusMm: 0.012, minusMm: 0.012, differ: false })).toContain("alike at both ends");
    // Half a circle sees one end of it.
    expect(said(null)).not.toContain("both ends");
    expect(word(AXES)).not.toBe("act");
    expect(word(strict)).toBe("act");
  });

  it("draws readings by angle without centre and radius, what is taken out gone, and no line over a hole", () => {
    const traces = both(0.006);
    const [forth] = drawnTraces(drawnOf(traces), tilted, { off: [], system: "metric" });
    const most = Math.max(...forth.points.map((p) => p.y ?? 0));
    expect(most).toBeCloseTo(6, 1);
    const [mended] = drawnTraces(drawnOf(traces), tilted, { off: ["square"], system: "metric" });
    expect(Math.max(...mended.points.map((p) => Math.abs(p.y ?? 0)))).toBeLessThan(0.3);
    const holed = drawnOf(traces);
    const cut = {
      traces: [
        {
          ...holed.traces[0],
          angles: holed.traces[0].angles.filter((a) => a < 90 || a > 110),
          deviations: holed.traces[0].deviations.filter(
            (_, i) => holed.traces[0].angles[i] < 90 || holed.traces[0].angles[i] > 110,
          ),
        },
      ],
    };
    expect(drawnTraces(cut, tilted, { off: [], system: "metric" })[0].points.filter((p) => p.y === null)).toHaveLength(
      1,
    );
    expect(quarters(["Z", "X"]).map((q) => q.name)).toEqual(["Z turns", "X turns", "Z turns", "X turns"]);
  });

  it("a number that does not follow is a hole; who comes late has lost nothing", () => {
    const batch = (from: number, over: object = {}) => ({
      planeId: 11,
      direction: 1 as const,
      rateHz: 200,
      from,
      values: [1, 2],
      of: 100,
      ended: false,
      ...over,
    });
    const late = withBatch(null, batch(40));
    expect([late.got, late.holes]).toEqual([42, []]);
    const holed = withBatch(late, batch(50, { values: [null, 3] }));
    expect(holed.holes).toEqual([{ from: 42, count: 8 }]);
    expect(holed.points.filter((p) => p.um === null).map((p) => p.at)).toEqual([42, 50]);
    expect(holed.last).toBe(3);
    expect(withBatch(holed, batch(0, { direction: -1 })).holes).toEqual([]);
  });

  it("a way round is told with what was wrong with it", () => {
    const plane = {
      ...tilted,
      passes: [
        pass(1, 1, { used: false, reason: "spoilt", readings: 0, troubles: [{ code: "fell-off", afterDeg: 123.4 }] }),
        pass(2, -1),
      ],
    };
    const [first, second] = passRows(plane);
    expect(first.text).toContain("Not used: spoilt");
    expect(first.troubles[0]).toMatch(/^The bar fell off after 123° of the circle\./);
    expect(second.troubles).toEqual([]);
  });

  it("before it is let run it names the centre, the radius and, upright, what stands in the way", () => {
    expect(circleChecks({ plan: { ...PLAN } }, "metric").join(" ")).toContain("X 300 mm, Y 200 mm");
    expect(circleChecks({ plan: { ...PLAN } }, "inch").join(" ")).toContain("within 3.9961 in of that centre");
    expect(circleChecks({ plan: { ...PLAN, letters: ["Z", "X"] } }, "metric").join(" ")).toContain("stands upright");
  });

  it("planes that agree are one sentence, one that does not stands by itself", () => {
    const test = (letter: string | null, kind: "lost" | "servo", agrees: boolean) => ({
      kind,
      letter,
      chiSquared: 1,
      dof: 1,
      p: 0.5,
      agrees,
    });
    const lines = jointLines(
      circleSession([], {
        joint: { findings: [], tests: [test("X", "lost", true), test("Y", "lost", false), test(null, "servo", true)] },
      }),
    );
    expect(lines.map((l) => l.text)).toEqual([
      "The planes do not agree on Y: lost when an axis turns round. It is not the same at both places, or one was taken otherwise.",
      "The planes say the same of X; servos close over all three.",
    ]);
  });

  it("lists sessions, and parts over time once there are two", () => {
    const limits = { limits: USUAL_CIRCLE_LIMITS, why: "", by: "", at: null };
    const sessions = [circleSession([tilted]), circleSession([circlePlane(both(0.002))], { id: 6, state: "finished" })];
    const rows = sessionRows({ sessions, limits }, AXES, "metric");
    expect(rows.map((r) => r.id)).toEqual([6, 5]);
    expect(rows[1].planes[0].headline).toBe("X and Y are out of square.");
    expect(rows[1].state).toBe("not ended yet");
    const history = partHistory({ sessions, limits }, "metric");
    const square = history?.rows.find((r) => r.name.includes("square"));
    expect(square?.values.map((v) => v.split(" ")[0])).toEqual(["36.0", "12.0"]);
    expect(partHistory({ sessions: sessions.slice(0, 1), limits }, "metric")).toBeNull();
  });
});

describe("what circles are to be taken", () => {
  it("begins with the planes that the axes have, and sends what is ticked", () => {
    const plans = usualPlanes(AXES, "metric");
    expect(plans.map((p) => p.letters.join(""))).toEqual(["XY"]);
    const draft = usualDraft(plans, "metric");
    const sent = createOf({ ...draft, radiusMm: 60, planes: [{ ...draft.planes[0], shape: "lower" }] }, plans);
    expect(sent.plans[0]).toMatchObject({ radiusMm: 60, startDeg: 180, spanDeg: 180, overrunDeg: 20 });
    expect(createOf({ ...draft, planes: [{ ...draft.planes[0], on: false }] }, plans).plans).toEqual([]);
    expect(["plans.2.radiusMm", "bar.uMm", "bar.name", "bar.resolutionMm", "note"].map(fieldOf)).toEqual([
      "radiusMm",
      "barU",
      "barName",
      "resolutionMm",
      "note",
    ]);
  });
});
