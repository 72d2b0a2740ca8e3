import { analyseCircle } from "./circle-analysis";
import { USUAL_CIRCLE_LIMITS } from "./circle-limits";
import { circleFound, judgeCircleRetest, type CircleFigure, type CircleFound } from "./circle-retest";
import { bothWays, evenAxis, evenPlane, SETUP } from "./circle-virtual.testing";

const found = (kind: CircleFound["kind"], letter: string | null, value: number, u: number): CircleFound => ({
  kind,
  letter,
  value,
  u,
  ...USUAL_CIRCLE_LIMITS[kind],
});
const figure = (parts: readonly CircleFound[], over: Partial<CircleFigure> = {}): CircleFigure => ({
  sessionId: 7,
  at: "2026-03-04T08:00:00Z",
  plane: ["X", "Y"],
  feedMmMin: 1000,
  found: parts,
  before: null,
  fresh: false,
  square: false,
  ...over,
});
const before = (parts: readonly CircleFound[]): CircleFigure["before"] => ({
  at: "2026-02-20T08:00:00Z",
  found: parts,
});
const say = (f: CircleFigure, letter = "X") => judgeCircleRetest(f, letter, "metric");

describe("a circle as the retest of an axis", () => {
  it("over the limit for repair does not pass, nor what cannot tell, whatever it was before", () => {
    const over = say(figure([found("lost", "X", 0.03, 0.001)], { before: before([found("lost", "X", 0.05, 0.001)]) }));
    expect([over.passes, over.code]).toEqual([false, "act"]);
    expect(over.message).toBe(
      "Circle XY at 1000 mm/min. X loses when it turns round: 30.0 ± 1.0 µm, 50.0 ± 1.0 µm before: above 25 µm, the limit for repair.",
    );
    const open = say(figure([found("lost", "X", 0.0245, 0.001)]));
    expect([open.passes, open.code]).toEqual([false, "cannot-tell"]);
    expect(open.message).toContain("25 µm, the limit for repair, lies inside that.");
  });

  it("between the limits it passes, unless it has become worse by more than both ±", () => {
    const lost = found("lost", "X", 0.004, 0.0005);
    const now = [lost, found("ripple", "X", 0.005, 0.0002)];
    expect(say(figure(now))).toMatchObject({ passes: true, code: "watch" });
    expect(say(figure(now, { before: before([lost, found("ripple", "X", 0.0049, 0.0002)]) })).passes).toBe(true);
    const worse = say(figure(now, { before: before([lost, found("ripple", "X", 0.004, 0.0002)]) }));
    expect(worse.passes).toBe(false);
    expect(worse.message).toContain("worse than before by more than both ± together");
  });

  it("what is of another axis, of the scales or the servos is no matter of this job; square is where it was touched", () => {
    const parts = [
      found("lost", "X", 0.004, 0.0005),
      found("lost", "Y", 0.06, 0.001),
      found("mismatch", null, 90e-6, 2e-6),
      found("servo", null, 0.002, 0.0001),
      found("square", null, 150e-6, 3e-6),
    ];
    const own = say(figure(parts));
    expect([own.passes, own.code]).toEqual([true, "sound"]);
    expect(own.message).toContain("Nothing of X is over what can be left.");
    expect(say(figure(parts), "Y").passes).toBe(false);
    const squared = say(figure(parts, { square: true }));
    expect(squared.passes).toBe(false);
    expect(squared.message).toContain(
      "X and Y are out of square: 45.00 ± 0.90 µm over 300 mm: above 24 µm over 300 mm",
    );
  });

  it("a circle that does not tell what the axis loses, or a square that is asked for, proves nothing", () => {
    const none = say(figure([found("lost", "Y", 0.004, 0.0005)]));
    expect([none.passes, none.code]).toEqual([false, "cannot-tell"]);
    expect(none.message).toContain("It does not tell what X loses.");
    const half = say(figure([found("lost", "X", 0.004, 0.0005)], { square: true }));
    expect([half.passes, half.message]).toEqual([false, expect.stringContaining("a full circle does") as string]);
    expect(say(figure([found("lost", "X", 0.004, 0.0005)])).passes).toBe(true);
    // On half a circle square hangs together with where the centre stands: it is not kept as told.
    const plane = evenPlane({ square: 90e-6 });
    const analysis = analyseCircle(bothWays(plane, { spanRad: Math.PI, fromRad: 0 }), SETUP, {
      calibrated: false,
      barU: 0.0005,
    });
    const kept = circleFound(analysis, ["X", "Y"], (kind) => USUAL_CIRCLE_LIMITS[kind]).map((f) => f.kind);
    expect(kept).not.toContain("square");
    expect(kept).toContain("lost");
  });

  it("friction at the turns of fresh parts is said to be normal and not judged; on old ones it is", () => {
    const parts = [found("lost", "X", 0.003, 0.0005), found("spike", "X", 0.02, 0.001)];
    const fresh = say(figure(parts, { fresh: true }));
    expect(fresh.passes).toBe(true);
    expect(fresh.message).toContain("normal on fresh parts and settles");
    expect(say(figure(parts)).passes).toBe(false);
  });

  it("an axis that trembles does not pass, its neighbour’s trembling is no matter", () => {
    const lost = [found("lost", "X", 0.004, 0.0005), found("lost", "Y", 0.004, 0.0005)];
    const parts = [...lost, found("tremble", "X", 0.0002, 0.0002), found("tremble", "Y", 0.004, 0.0004)];
    expect(say(figure(parts)).passes).toBe(true);
    expect(say(figure(parts), "Y")).toMatchObject({ passes: false, code: "act" });
    expect(say(figure(parts), "Y").message).toContain(
      "Y trembles: 4.00 ± 0.40 µm: above 2.5 µm, the limit for repair.",
    );
  });

  it("readings that reach over the limit prove nothing, however small the value; inches are said in inches", () => {
    const wide = say(figure([found("lost", "X", 0.004, 0.03)]));
    expect([wide.passes, wide.code]).toEqual([false, "cannot-tell"]);
    expect(judgeCircleRetest(figure([found("lost", "X", 0.03, 0.001)]), "X", "inch").message).toContain("in/min");
  });

  it("a virtual machine whose nut was worn passes once it is renewed, and not before", () => {
    const worn = (deadBandMm: number) => {
      const x = evenAxis("X");
      const links = x.links.map((l) => (l.id === "nut" ? { ...l, deadBandMm } : l));
      const plane = evenPlane({ axes: [{ ...x, links }, evenAxis("Y")] });
      const analysis = analyseCircle(bothWays(plane), SETUP, { calibrated: false, barU: 0.0005 });
      return circleFound(analysis, ["X", "Y"], (kind) => USUAL_CIRCLE_LIMITS[kind]);
    };
    const [old, renewed] = [worn(0.03), worn(0.0005)];
    expect(say(figure(old)).passes).toBe(false);
    const after = say(figure(renewed, { before: before(old) }));
    expect(after.passes).toBe(true);
    expect(after.message).toContain("before: it can be left.");
  });
});
