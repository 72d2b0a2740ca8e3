import { addedBy, normalNoise } from "../../simulate";
import { evaluatePositioning, profileTargets } from "../../measure/reversal";
import {
  comparePrediction,
  correctionAt,
  ENTERED_AS,
  leadRipple,
  makeCorrection,
  mayCompensate,
  pointAt,
  predictCorrection,
  unevenPlaces,
  usualCorrectionRules,
  withCorrection,
  bareTargets,
  type Correction,
  type EnteredAs,
  type MadeCorrection,
} from ".";
import { basisOf, entered, leadAxis, readProfile } from "./profiles.testing";

const rules = usualCorrectionRules(500);
const made = { rules, perTurnMm: 10, travelMm: 500 };
const places = unevenPlaces([15, 485], 25, 10);
const codes = (m: MadeCorrection): readonly string[] => m.notes.map((n) => n.code);

describe("a table from a profile", () => {
  const axis = leadAxis();
  const basis = basisOf(readProfile(axis, places));
  const { table, points, notes, ripple } = makeCorrection(basis, made);

  it("does in a control that walks its points what was promised (the virtual axis, read again)", () => {
    const promised = predictCorrection(basis, table, made);
    const again = readProfile({ ...axis, correction: entered(table), seed: 77 }, places);
    const seen = evaluatePositioning(again);
    expect(promised.before.meanRange).toBeGreaterThan(0.035);
    expect(seen.meanRange).toBeLessThan(0.2 * promised.before.meanRange);
    expect(seen.meanRange).toBeGreaterThan(0.5 * promised.after.meanRange);
    expect(seen.meanRange).toBeLessThan(1.5 * (promised.unseenRangeMm as number));
    expect(comparePrediction(basis, table, basisOf(again))).toMatchObject({ as: "as-made", off: [] });
  });

  it("adds at every place what the simulated control adds, which was written apart", () => {
    for (let mm = -20; mm <= 540; mm += 3.7)
      for (const d of ["+", "-"] as const)
        expect(correctionAt(table, mm, d)).toBeCloseTo(addedBy(entered(table), mm, d === "+" ? 1 : -1), 12);
  });

  it("leaves the reversal as it is with one table, and says so; takes it along with two", () => {
    const before = evaluatePositioning(bareTargets(basis));
    const one = evaluatePositioning(withCorrection(bareTargets(basis), table));
    expect(one.meanReversalValue).toBeCloseTo(before.meanReversalValue, 9);
    expect(notes.find((n) => n.code === "one-way")).toMatchObject({
      reversalMm: expect.closeTo(-before.meanReversalValue, 9) as number,
    });
    const two = makeCorrection(basis, { ...made, rules: { ...rules, ways: "two" } });
    const both = evaluatePositioning(withCorrection(bareTargets(basis), two.table));
    expect(Math.abs(both.meanReversalValue)).toBeLessThan(0.001);
    expect(codes(two)).not.toContain("one-way");
  });

  it("is nothing at the reference point, and rounding does not add up", () => {
    expect(Math.abs(correctionAt(table, rules.referenceMm, "+"))).toBeLessThan(1e-9);
    const fine = makeCorrection(basis, { ...made, rules: { ...rules, incrementMm: 1e-5 } }).table;
    for (const p of points)
      expect(Math.abs(p.upMm - correctionAt(fine, p.atMm, "+"))).toBeLessThanOrEqual(rules.incrementMm / 2 + 1e-5);
  });

  it("takes what comes back each turn out before, and says what stays", () => {
    expect(ripple).toMatchObject({ code: "told" });
    const stays = notes.find((n) => n.code === "ripple-stays");
    expect(stays).toMatchObject({ amplitudeMm: expect.closeTo(0.0015, 3) as number });
    // Places on one part of the turn bake it into every value.
    const same = Array.from({ length: 19 }, (_, i) => 20 + 25 * Math.round(i) - (i % 2) * 5);
    const hidden = makeCorrection(basisOf(readProfile(axis, same)), made);
    expect(codes(hidden)).toContain("ripple-hidden");
    const slow = Array.from({ length: 19 }, (_, i) => 20 + 20.6 * i);
    expect(codes(makeCorrection(basisOf(readProfile(axis, slow)), made))).toContain("ripple-fakes");
  });

  it("the old table is taken out only where it was active while reading", () => {
    const again = readProfile({ ...axis, correction: entered(table), seed: 5 }, places);
    const active = makeCorrection(basisOf(again, { old: table }), made).table;
    active.up.forEach((v, i) => expect(Math.abs(v - table.up[i])).toBeLessThanOrEqual(3));
    const forgotten = makeCorrection(basisOf(again), made).table;
    expect(Math.max(...forgotten.up.map(Math.abs))).toBeLessThan(8);
  });

  it("says what the control would not take, what is beyond what was read, and where nothing is proven", () => {
    const tight = { ...rules, largestMm: 0.02, steepestMm: 0.002 };
    expect(codes(makeCorrection(basis, { ...made, rules: tight }))).toEqual(
      expect.arrayContaining(["too-large", "too-steep"]),
    );
    const short = basisOf(basis.targets.slice(4, 12));
    expect(codes(makeCorrection(short, made))).toEqual(expect.arrayContaining(["held", "far-reference"]));
    const straight = leadAxis({ pitchErrorMm: 0, slowError: undefined, leadError: { amplitudeMm: 0, perTurnMm: 10 } });
    expect(codes(makeCorrection(basisOf(readProfile(straight, places)), made))).toContain("nothing-proven");
  });

  it("notices an axis that grew while it was read", () => {
    const warm = readProfile(axis, places).map((t) => ({
      ...t,
      up: t.up.map((v, i) => v + i * 3e-6 * t.positionMm),
      down: t.down.map((v, i) => v + i * 3e-6 * t.positionMm),
    }));
    const grew = makeCorrection(basisOf(warm), made).notes.find((n) => n.code === "grew");
    // Five runs: four times 3 µm/m.
    expect(grew).toMatchObject({ perMMm: expect.closeTo(0.012, 2) as number });
    expect(codes(makeCorrection(basis, made))).not.toContain("grew");
  });
});

describe("how often its ± holds", () => {
  it("values of tables lie within U of what would be right in 93 to 100 of 100 places (invented axes)", () => {
    let [held, all] = [0, 0];
    for (let n = 0; n < 60; n += 1) {
      const axis = leadAxis({
        pitchErrorMm: 0.03 * normalNoise(9, 3 * n),
        slowError: { amplitudeMm: 0.004 * normalNoise(9, 3 * n + 1), waveMm: 500 },
        seed: n,
      });
      const { points } = makeCorrection(basisOf(readProfile(axis, places)), made);
      const slow = (mm: number): number =>
        (axis.pitchErrorMm * mm) / 500 + (axis.slowError?.amplitudeMm ?? 0) * Math.sin((2 * Math.PI * mm) / 500);
      for (const p of points) {
        if (p.held) continue;
        all += 1;
        if (Math.abs(p.upMm + slow(p.atMm) - slow(0)) <= p.uMm) held += 1;
      }
    }
    expect(held / all).toBeGreaterThan(0.93);
  });
});

describe("what comes back with each turn", () => {
  const wave = (mm: number, size: number): number => size * Math.sin((2 * Math.PI * mm) / 10 + 1);

  it("is found with its size within U, over slow errors and noise, wherever it can be (invented profiles)", () => {
    let held = 0;
    for (let n = 0; n < 100; n += 1) {
      const read = unevenPlaces([20, 480], 20, 10).map((atMm, i) => ({
        atMm,
        valueMm: wave(atMm, 0.003) + 1e-4 * atMm + 0.004 * Math.sin(atMm / 130) + 0.0006 * normalNoise(n, i),
      }));
      const r = leadRipple(read, 10);
      if (r.code === "told" && Math.abs(r.amplitudeMm - 0.003) <= r.uMm) held += 1;
    }
    expect(held).toBeGreaterThanOrEqual(93);
  });

  it("proposed places show it for any lead and step; even places at a multiple of the lead never do", () => {
    for (const perTurn of [4, 5, 10, 16, 20, 25])
      for (const step of [20, 25, 50, 12.7, 100 / 3]) {
        const read = (at: readonly number[]): { atMm: number; valueMm: number }[] =>
          at.map((atMm) => ({ atMm, valueMm: 0 }));
        expect(leadRipple(read(unevenPlaces([30, 770], step, perTurn)), perTurn).code).toBe("told");
        const even = Array.from({ length: 15 }, (_, i) => 10 + i * perTurn * Math.max(1, Math.round(step / perTurn)));
        expect(leadRipple(read(even), perTurn).code).toBe("hidden");
      }
    expect(
      leadRipple(
        profileTargets(500, { count: 21, overTravelMm: 15, perTurnMm: 10 }).map((atMm) => ({ atMm, valueMm: 0 })),
        10,
      ).code,
    ).toBe("told");
  });
});

describe("mechanics come first", () => {
  const limits = { leaveMm: 0.01, repairMm: 0.025 };
  const loss = (valueMm: number, uMm = 0.002, atMm = 100): { atMm: number; valueMm: number; uMm: number } => ({
    atMm,
    valueMm,
    uMm,
  });
  const of = (reversals: ReturnType<typeof loss>[], over = {}): readonly string[] => {
    const { refused, doubts } = mayCompensate(reversals, { limits, endFloat: null, enteredMm: 0, ...over });
    return [...refused.map((r) => r.code), ...doubts.map((d) => `(${d.code})`)];
  };

  it("a table is refused on play, float, wear at a place, and play that is hidden by a value in the control", () => {
    expect(of([loss(0.005), loss(0.008)])).toEqual([]);
    expect(of([loss(0.04)])).toEqual(["reversal-over"]);
    expect(of([loss(0.024, 0.004)])).toEqual(["(reversal-cannot-tell)"]);
    expect(of([loss(0.004)], { endFloat: loss(0.03) })).toEqual(["end-float-over"]);
    expect(of([loss(0.002), loss(0.021, 0.001, 250), loss(0.003)])).toEqual(["worn-at-a-place"]);
    expect(of([loss(0.002), loss(0.0135, 0.001, 250), loss(0.003)])).toEqual(["(worn-at-a-place)"]);
    expect(of([loss(0.002)], { enteredMm: 0.04 })).toEqual(["entered-backlash"]);
    expect(of([loss(0.05)], { enteredMm: 0.04 })).toEqual(["reversal-over"]);
  });

  it("a screw worn in its middle is seen in its own profile", () => {
    const worn = leadAxis({ wear: { linkId: "nut", centreMm: 250, widthMm: 60, extraMm: 0.02 } });
    const read = readProfile(worn, places);
    const reversals = read.map((t) => ({
      atMm: t.positionMm,
      valueMm: t.down.reduce((a, b) => a + b, 0) / 5 - t.up.reduce((a, b) => a + b, 0) / 5,
      uMm: 0.0015,
    }));
    const { refused } = mayCompensate(reversals, { limits, endFloat: null, enteredMm: 0 });
    expect(refused.map((r) => r.code)).toContain("worn-at-a-place");
    expect(refused.find((r) => r.code === "worn-at-a-place")).toMatchObject({
      atMm: expect.closeTo(250, -2) as number,
    });
  });
});

describe("a table read again in the control", () => {
  const axis = leadAxis();
  const old = makeCorrection(basisOf(readProfile(leadAxis({ pitchErrorMm: -0.02 }), places)), made).table;
  const before = basisOf(readProfile({ ...axis, correction: entered(old) }, places), { old });
  const { table } = makeCorrection(before, made);
  const scaled = (t: Correction, by: number): Correction => ({ ...t, up: t.up.map((v) => v * by) });
  const moved = (t: Correction, by: number): Correction => ({
    ...t,
    rules: { ...t.rules, startMm: t.rules.startMm + by },
  });
  const AS: Readonly<Record<EnteredAs, Correction>> = {
    "as-made": table,
    "not-active": old,
    "wrong-sign": scaled(table, -1),
    "counted-from-other-end": { ...table, up: [...table.up].reverse() },
    "a-step-low": moved(table, -25),
    "a-step-high": moved(table, 25),
    "ten-times": scaled(table, 10),
    tenth: scaled(table, 0.1),
    "old-kept": { ...table, up: table.up.map((v, i) => v + old.up[i]) },
  };

  it.each(ENTERED_AS)("%s is told from the readings", (as) => {
    const again = readProfile({ ...axis, correction: entered(AS[as]), seed: 31 }, places);
    expect(comparePrediction(before, table, basisOf(again)).as).toBe(as);
  });

  it("points of a table stand where its rules say", () => {
    expect(table.up.map((_, i) => pointAt(rules, i)).at(-1)).toBe(500);
  });
});
