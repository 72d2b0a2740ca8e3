import { defaultAxis } from "../machine/axis";
import type { PlaceResult, TestKind } from "../measure";
import { lossLedger } from "./ledger";
import { linkShares } from "./link-shares";
import { frictionHigh, loadFindings, type ReadTrace } from "./load-findings";
import { asksSisters, countsSince, latestOfEach, magnitudeOf, middleOfProfile, probable } from "./what-counts";

describe("what was measured and counts", () => {
  const worked = "2026-03-01T10:00:00.000Z";
  it.each([
    ["nothing was done, outside a case", null, null, null],
    ["somebody worked on it", worked, null, worked],
    ["a case, nothing done", null, "2026-06-30T00:00:00.000Z", "2026-05-31T00:00:00.000Z"],
    ["a case long after the work", worked, "2026-06-30T00:00:00.000Z", "2026-05-31T00:00:00.000Z"],
    ["a case soon after the work", worked, "2026-03-10T00:00:00.000Z", worked],
  ])("%s", (_, work, opened, since) => {
    expect(countsSince(work, opened)).toBe(since);
  });

  const test = (kind: TestKind, at: number) => ({ kind, at });
  it("a later test of the same part replaces an older one, each part has its own", () => {
    expect(latestOfEach([test("end-float", 1), test("two-sided", 2), test("end-float", 3)])).toEqual([
      test("end-float", 3),
      test("two-sided", 2),
    ]);
    expect(latestOfEach([test("out-and-back", 1), test("tick-count", 2)])).toEqual([test("tick-count", 2)]);
  });

  it("a profile and a test at one place see the same chain: the later counts", () => {
    expect(latestOfEach([test("travel-profile", 1), test("two-sided", 2)])).toEqual([test("two-sided", 2)]);
    expect(latestOfEach([test("two-sided", 1), test("travel-profile", 2)])).toEqual([test("travel-profile", 2)]);
    expect(latestOfEach([])).toEqual([]);
  });

  it("a split test sees its part, every other the whole chain", () => {
    expect(magnitudeOf("nut-flank")).toBe("nut-flank");
    expect(
      ["two-sided", "out-and-back", "tick-count", "travel-profile"].map((k) => magnitudeOf(k as TestKind)),
    ).toEqual(Array(4).fill("whole-chain"));
  });

  const profile = (values: readonly number[], u = 0.0003): PlaceResult[] =>
    values.map((reversalValueMm, i) => ({
      positionMm: 100 * i,
      reversalValueMm,
      uncertainty: { u, dof: 8, k: 2.3, expanded: 2.3 * u },
      uDisplayMm: u,
      uScatterMm: u,
      scatterDof: 8,
      up: [],
      down: [],
      runs: 5,
    }));
  it("a profile says of the screw’s middle only what it could have seen", () => {
    const limits = { leaveMm: 0.01 };
    const worn = [0.004, 0.005, 0.019, 0.021, 0.02, 0.005, 0.004];
    expect(middleOfProfile(profile(worn), limits)).toEqual({ "profile-middle": true });
    expect(middleOfProfile(profile(Array<number>(7).fill(0.005)), limits)).toEqual({ "profile-middle": false });
    // So rough that a loss past what can be left would have hidden in it.
    expect(middleOfProfile(profile(Array<number>(7).fill(0.005), 0.01), limits)).toBeNull();
    const atEnd = [0.03, 0.005, 0.004, 0.005, 0.004, 0.005, 0.004];
    expect(middleOfProfile(profile(atEnd), limits)).toEqual({ "profile-middle": false });
  });

  it("the next step is for a cause that is likelier than not", () => {
    const leading = [
      { probability: 0.62, id: "nut" },
      { probability: 0.3, id: "bearing" },
    ];
    expect(probable(leading)?.id).toBe("nut");
    expect(probable(leading.slice(1))).toBeUndefined();
    expect([0.49, 0.5].map(asksSisters)).toEqual([false, true]);
  });
});

describe("the ledger by links of the chain", () => {
  const axis = defaultAxis("vertical-centre", "X");
  const at = "2026-03-01T10:00:00.000Z";
  it("each link once, with its last look; what nobody measured has bounds alone", () => {
    const ledger = lossLedger(axis, [
      { kind: "whole-chain", reversalValueMm: 0.02, uMm: 0.0005 },
      { kind: "end-float", reversalValueMm: 0.012, uMm: 0.0005 },
    ]);
    const links = linkShares(axis, ledger, [
      { kind: "end-float", at },
      { kind: "end-float", at: "2026-01-01T10:00:00.000Z" },
    ]);
    expect(new Set(links.map((l) => l.link)).size).toBe(links.length);
    const bearings = links.find((l) => l.link === "end-bearings");
    expect(bearings?.shareMm).toBeCloseTo(0.012, 3);
    expect(bearings?.lookedAt).toBe(at);
    expect(links.filter((l) => l.link !== "end-bearings").every((l) => l.lookedAt === null)).toBe(true);
    expect(links.every((l) => l.boundsMm[1] === null || Number.isFinite(l.boundsMm[1]))).toBe(true);
  });

  it("a share of nut and bracket together is told of neither: each may have all of it", () => {
    const ledger = lossLedger(axis, [{ kind: "nut-flank", reversalValueMm: 0.055, uMm: 0.001 }]);
    const links = linkShares(axis, ledger, [{ kind: "nut-flank", at }]);
    for (const link of ["nut", "bracket"]) {
      const one = links.find((l) => l.link === link);
      expect(one).toMatchObject({ shareMm: null, expandedMm: null, lookedAt: at });
      expect(one?.boundsMm[0]).toBe(0);
      expect(one?.boundsMm[1]).toBeCloseTo(0.057, 12);
    }
  });

  it("two lines of one link add up, their uncertainties as independent ones do (JCGM 100, 5.1.2)", () => {
    const line = { name: "", from: [], boundsMm: [0, Infinity], computed: false } as const;
    const ledger = {
      ...lossLedger(axis, []),
      lines: [
        { ...line, slacks: ["bearings"], shareMm: 0.006, expandedMm: 0.003 },
        { ...line, slacks: ["housing"], shareMm: 0.002, expandedMm: 0.004 },
        { ...line, slacks: ["windup"], shareMm: 0.001, expandedMm: 0.001, computed: true },
      ],
    } as ReturnType<typeof lossLedger>;
    expect(linkShares(axis, ledger, [])).toEqual([
      expect.objectContaining({ link: "end-bearings", expandedMm: 0.005, boundsMm: [0, null] }),
    ]);
    expect(linkShares(axis, ledger, [])[0].shareMm).toBeCloseTo(0.008, 12);
    const bounded = {
      ...ledger,
      lines: ledger.lines.map((l, i) => ({ ...l, boundsMm: [0.001, 0.03 + 0.02 * i] as const })),
    };
    expect(linkShares(axis, bounded, [])[0].boundsMm[0]).toBeCloseTo(0.002, 12);
    expect(linkShares(axis, bounded, [])[0].boundsMm[1]).toBeCloseTo(0.08, 12);
    const half = { ...ledger, lines: [{ ...ledger.lines[0], shareMm: null, expandedMm: null }, ledger.lines[1]] };
    expect(linkShares(axis, half, [])[0]).toMatchObject({ shareMm: 0.002, expandedMm: 0.004 });
  });
});

describe("what a trace of drive load says by itself", () => {
  const part = (value: number, u = 0.1, real = true) => ({ value, u, real });
  const trace = (over: Partial<ReadTrace["analysis"]> = {}, unit: ReadTrace["unit"] = "%"): ReadTrace => ({
    unit,
    analysis: {
      friction: part(4),
      gravity: part(0.2),
      lowEnd: part(0, 0.1, false),
      highEnd: part(0, 0.1, false),
      perTurn: part(0, 0.1, false),
      spots: [],
      stretches: [],
      alike: false,
      frictionOrGravity: false,
      ...over,
    },
  });

  it("friction is judged by its whole interval", () => {
    expect(frictionHigh(trace({ friction: part(9) }))).toBe(true);
    expect(frictionHigh(trace({ friction: part(-9) }))).toBe(true);
    expect(frictionHigh(trace({ friction: part(4) }))).toBe(false);
    expect(frictionHigh(trace({ friction: part(7, 0.5) }))).toBeNull();
    expect(frictionHigh(trace({ friction: part(9) }, "A"))).toBeNull();
    expect(frictionHigh(trace({ friction: part(9), frictionOrGravity: true }))).toBeNull();
  });

  it("a rise at an end counts when it is real and large beside the friction", () => {
    expect(loadFindings(trace({ highEnd: part(2) }))["tight-end"]).toBe(true);
    expect(loadFindings(trace({ lowEnd: part(1) }))["tight-end"]).toBe(false);
    expect(loadFindings(trace({ highEnd: part(2, 0.1, false) }))["tight-end"]).toBe(false);
  });

  it("what two shapes account for alike is left open, a spot is not", () => {
    const open = loadFindings(trace({ alike: true, highEnd: part(2) }));
    expect(open).not.toHaveProperty("tight-end");
    expect(open).not.toHaveProperty("tight-spot");
    const spot = { fromMm: 10, toMm: 30, peakMm: 20, extra: 3 };
    expect(loadFindings(trace({ alike: true, spots: [spot] }))["tight-spot"]).toBe(true);
    expect(loadFindings(trace({ stretches: [{ fromMm: 0, toMm: 90, extra: part(2) }] }))["tight-spot"]).toBe(true);
  });

  it("gravity out of balance and a drive that is harder one way are two things", () => {
    expect(loadFindings(trace({ gravity: part(3) }))).toMatchObject({ "tight-one-way": false, "gravity-off": true });
    expect(loadFindings(trace({ gravity: part(3.5) }))).toMatchObject({ "tight-one-way": true, "gravity-off": true });
    expect(loadFindings(trace({ gravity: part(3.5) }, "A"))).toMatchObject({ "gravity-off": false });
    const meter = loadFindings(trace({ gravity: part(3.5), frictionOrGravity: true }));
    expect(meter).not.toHaveProperty("tight-one-way");
    expect(meter).not.toHaveProperty("gravity-off");
  });
});
