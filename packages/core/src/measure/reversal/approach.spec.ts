import {
  followTrack,
  judgeApproach,
  startTrack,
  stillForMs,
  watchStill,
  type ApproachTrack,
  type StillWatch,
  type WantedApproach,
} from ".";

const walk = (...positions: number[]): ApproachTrack =>
  positions.slice(1).reduce((t, p) => followTrack(t, p), startTrack(positions[0]));
const fromBelow: WantedApproach = {
  targetMm: 180,
  direction: "+",
  minRunUpMm: 15,
  toleranceMm: 0.0006,
};
const fromAbove: WantedApproach = { ...fromBelow, direction: "-" };

describe("judgeApproach", () => {
  it("accepts a stroke that ends on the target from the wanted side", () => {
    expect(judgeApproach(walk(180, 150, 165, 179.9, 180), fromBelow)).toEqual({
      kind: "good",
    });
    expect(judgeApproach(walk(180, 210, 180), fromAbove)).toEqual({
      kind: "good",
    });
  });

  it("finds a target that was passed, whether the axis stands beyond it or came back", () => {
    expect(judgeApproach(walk(180, 150, 180.006), fromBelow)).toMatchObject({
      kind: "overshot",
    });
    const back = judgeApproach(walk(180, 150, 180.006, 180), fromBelow);
    expect(back).toMatchObject({ kind: "overshot" });
    expect(back.kind === "overshot" && back.byMm).toBeCloseTo(0.006, 9);
    expect(judgeApproach(walk(180, 210, 179.994, 180), fromAbove)).toMatchObject({ kind: "overshot" });
  });

  it("is content again after a fresh run-up", () => {
    expect(judgeApproach(walk(180, 150, 180.006, 150, 180), fromBelow)).toEqual({ kind: "good" });
  });

  it("tells the wrong side, a short run-up and a wrong place apart", () => {
    expect(judgeApproach(walk(180, 210, 180), fromBelow)).toEqual({
      kind: "wrong-side",
    });
    expect(judgeApproach(walk(180, 179, 180), fromBelow)).toEqual({
      kind: "short-run-up",
      runUpMm: 1,
    });
    expect(judgeApproach(walk(100, 120), fromBelow)).toEqual({
      kind: "not-at-target",
      missingMm: 60,
    });
    expect(judgeApproach(walk(180, 150, 210), fromBelow)).toEqual({
      kind: "not-at-target",
      missingMm: -30,
    });
    expect(judgeApproach(startTrack(180), fromBelow)).toEqual({
      kind: "wrong-side",
    });
  });
});

describe("watchStill", () => {
  const run = (samples: [number, number | null][], resolution = 0.001): StillWatch | null =>
    samples.reduce<StillWatch | null>(
      (w, [at, v]) => watchStill(w, { value: v, atMs: at, resolutionMm: resolution }),
      null,
    );

  it("counts the time within one display step", () => {
    expect(
      stillForMs(
        run([
          [0, 0.01],
          [400, 0.011],
          [900, 0.01],
        ]),
        1000,
      ),
    ).toBe(1000);
  });

  it("starts anew on a larger change and on lost contact", () => {
    expect(
      stillForMs(
        run([
          [0, 0.01],
          [400, 0.012],
          [900, 0.012],
        ]),
        1000,
      ),
    ).toBe(600);
    expect(
      stillForMs(
        run([
          [0, 0.01],
          [400, 0.011],
          [500, 0.012],
          [900, 0.012],
        ]),
        1000,
      ),
    ).toBe(500);
    expect(
      stillForMs(
        run([
          [0, 0.01],
          [900, null],
        ]),
        1000,
      ),
    ).toBe(0);
  });
});
