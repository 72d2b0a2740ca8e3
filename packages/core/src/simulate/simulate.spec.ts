import fc from "fast-check";
import {
  chainLostMotion,
  linksAt,
  moveChain,
  normalNoise,
  restingState,
  commandAxis,
  trueReversal,
  memberPosition,
  type ElasticLink,
  type VirtualAxis,
} from ".";

const link = (deadBandMm: number, stiffnessNPerMm: number, frictionN = 0, loadN = 0): ElasticLink => ({
  id: "link",
  deadBandMm,
  stiffnessNPerMm,
  frictionN,
  loadN,
});
const origin = (links: readonly ElasticLink[]): number[] => links.map(() => 0);
const travelTo = (links: readonly ElasticLink[], places: readonly number[], ...commands: number[]): number[] =>
  commands.reduce((at, c) => moveChain(links, at, c), [...places]);
const table = (places: readonly number[]): number => places[places.length - 1];
/** Lost motion as a test finds it: the same command from both sides. */
const measured = (links: readonly ElasticLink[]): number =>
  table(travelTo(links, origin(links), 20, 10)) - table(travelTo(links, origin(links), -20, 10));

describe("a chain of play, springs and friction, against theory", () => {
  const three = [link(0.004, 2e5), link(0.012, 1e5), link(0.003, 4e5, 300)];

  it("loses Σ dead bands + 2F/K with friction at the table only (series springs, Coulomb)", () => {
    const compliance = 1 / 2e5 + 1 / 1e5 + 1 / 4e5;
    const theory = 0.004 + 0.012 + 0.003 + 2 * 300 * compliance;
    expect(measured(three)).toBeCloseTo(theory, 12);
    expect(chainLostMotion(three)).toBeCloseTo(theory, 12);
  });

  it("lags by half of it either way", () => {
    const half = chainLostMotion(three) / 2;
    expect(table(travelTo(three, origin(three), 10))).toBeCloseTo(10 - half, 12);
    expect(table(travelTo(three, origin(three), -10))).toBeCloseTo(-10 + half, 12);
  });

  it("stands still for all of the lost motion after a reversal, then follows one to one", () => {
    const lost = chainLostMotion(three);
    const before = travelTo(three, origin(three), 10);
    expect(table(moveChain(three, before, 10 - 0.999 * lost))).toBe(table(before));
    expect(table(moveChain(three, before, 10 - lost - 0.5))).toBeCloseTo(table(before) - 0.5, 12);
  });

  it("comes back to the same place after a partial reversal (return-point memory)", () => {
    const before = travelTo(three, origin(three), 10);
    const partly = travelTo(three, before, 10 - 0.4 * chainLostMotion(three), 10);
    partly.forEach((p, i) => expect(p).toBeCloseTo(before[i], 12));
  });

  it("shares a single dead band out: half of it leaves the table where it was, all of it still does", () => {
    const one = [link(0.02, 1e6, 0)];
    const at = travelTo(one, [0], 1);
    expect(at[0]).toBeCloseTo(0.99, 12);
    expect(moveChain(one, at, 0.99)[0]).toBeCloseTo(0.99, 12);
    expect(moveChain(one, at, 0.97)[0]).toBeCloseTo(0.98, 12);
  });

  it("takes up slack link by link where each part has friction of its own", () => {
    const links = [link(0.01, 1e6, 5), link(0.02, 1e6, 50)];
    const before = travelTo(links, [0, 0], 1);
    const afterFirst = moveChain(links, before, 1 - 0.013);
    expect(afterFirst[0]).toBeLessThan(before[0]);
    expect(afterFirst[1]).toBe(before[1]);
    expect(measured(links)).toBeCloseTo(0.03 + (2 * 55) / 1e6 + (2 * 50) / 1e6, 12);
  });

  it("hides a dead band that gravity holds to one side, and leaves the wind-up", () => {
    const held = [link(0.02, 1e5, 100, 400)];
    expect(measured(held)).toBeCloseTo((2 * 100) / 1e5, 12);
    expect(chainLostMotion(held)).toBeCloseTo((2 * 100) / 1e5, 12);
    const balanced = [link(0.02, 1e5, 100, 60)];
    expect(measured(balanced)).toBeCloseTo(0.02 + (2 * 100) / 1e5, 12);
  });

  const anyLink = fc.record({
    deadBandMm: fc.double({ min: 0, max: 0.05, noNaN: true }),
    stiffnessNPerMm: fc.double({ min: 1e4, max: 1e6, noNaN: true }),
    frictionN: fc.double({ min: 1, max: 500, noNaN: true }),
    loadN: fc.double({ min: -300, max: 300, noNaN: true }),
  });
  const anyChain = fc.array(anyLink, { minLength: 1, maxLength: 6 }).map((ls) => ls.map((l) => ({ ...l, id: "l" })));

  it("measures what theory says for any chain, and a one-way move may be cut in pieces", () => {
    fc.assert(
      fc.property(anyChain, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (links, cut) => {
        expect(measured(links)).toBeCloseTo(chainLostMotion(links), 9);
        const start = travelTo(links, origin(links), 5);
        const whole = moveChain(links, start, 5 - 0.2);
        const pieces = travelTo(links, start, 5 - 0.2 * cut, 5 - 0.2);
        whole.forEach((p, i) => expect(pieces[i]).toBeCloseTo(p, 9));
      }),
    );
  });

  it("refuses what cannot be, by name", () => {
    expect(() => moveChain([link(0, 0)], [0], 1)).toThrow("stiffnessNPerMm is 0: it must be above zero");
    expect(() => moveChain([link(-1, 1)], [0], 1)).toThrow("deadBandMm is -1");
    expect(() => moveChain([link(0, 1)], [], 1)).toThrow("places is 0: it must be 1, one a link");
  });
});

const model = (over: Partial<VirtualAxis> = {}): VirtualAxis => ({
  links: [
    { ...link(0.005, 2e5), id: "screw" },
    { ...link(0.01, 2e5, 200), id: "nut" },
  ],
  travelMm: 500,
  feedback: "encoder",
  repeatabilityMm: 0,
  drift: { totalMm: 0, tauS: 600 },
  leadError: { amplitudeMm: 0, perTurnMm: 10 },
  pitchErrorMm: 0,
  seed: 7,
  ...over,
});

describe("a virtual axis", () => {
  const goTo = (m: VirtualAxis, ...commands: number[]): number =>
    memberPosition(
      m,
      commands.reduce((s, c) => commandAxis(m, s, c), restingState(m)),
    );

  it("shows its lost motion on an encoder-only axis and none on a scale axis (common practice, no source)", () => {
    const m = model();
    expect(goTo(m, 300, 250) - goTo(m, 200, 250)).toBeCloseTo(trueReversal(m, 250), 10);
    const scale = model({ feedback: "scale" });
    expect(goTo(scale, 300, 250) - goTo(scale, 200, 250)).toBeCloseTo(0, 6);
    expect(trueReversal(scale, 250)).toBe(0);
  });

  it("loses more where the screw is worn", () => {
    const worn = model({
      wear: { linkId: "nut", centreMm: 250, widthMm: 80, extraMm: 0.02 },
    });
    expect(linksAt(worn, 250)[1].deadBandMm).toBeCloseTo(0.03, 12);
    const loss = (at: number): number => goTo(worn, at + 40, at) - goTo(worn, at - 40, at);
    expect(loss(250)).toBeCloseTo(trueReversal(worn, 250), 3);
    expect(loss(250) - loss(60)).toBeGreaterThan(0.018);
  });

  it("has noise that is normal and the same for the same seed", () => {
    const values = Array.from({ length: 4000 }, (_, i) => normalNoise(3, i));
    const average = values.reduce((a, b) => a + b) / values.length;
    const spread = Math.sqrt(values.reduce((a, b) => a + (b - average) ** 2, 0) / values.length);
    expect(Math.abs(average)).toBeLessThan(0.06);
    expect(spread).toBeGreaterThan(0.95);
    expect(spread).toBeLessThan(1.05);
    expect(normalNoise(3, 17)).toBe(normalNoise(3, 17));
    expect(normalNoise(4, 17)).not.toBe(normalNoise(3, 17));
  });
});
