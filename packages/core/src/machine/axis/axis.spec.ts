import {
  AXIS_BOUNDS,
  boundMessage,
  chainOf,
  defaultAxis,
  isGravityAxis,
  MACHINE_KINDS,
  pricesOf,
  travelPerTurnMm,
  type AxisConfig,
} from ".";

const axis = (over: Partial<AxisConfig> = {}): AxisConfig => ({
  ...defaultAxis("vertical-centre", "X"),
  ...over,
});
const ids = (a: AxisConfig): string[] => chainOf(a).map((l) => l.id);

describe("chainOf", () => {
  it("runs from command to table on a direct drive", () => {
    expect(ids(axis())).toEqual(["motor", "coupling", "end-bearings", "screw", "nut", "bracket", "member", "way"]);
  });

  it("has only what the axis has", () => {
    expect(ids(axis({ transmission: "belt" }))).toEqual([
      "motor",
      "belt",
      "end-bearings",
      "screw",
      "nut",
      "bracket",
      "member",
      "way",
    ]);
    expect(ids(axis({ transmission: "rack" }))).toEqual(["motor", "pinion", "rack", "member", "way"]);
    expect(ids(axis({ transmission: "rotating-nut" }))).toEqual([
      "motor",
      "belt",
      "nut-bearings",
      "nut",
      "screw",
      "member",
      "way",
    ]);
    expect(chainOf(axis({ transmission: "plain-screw" }))[3].name).toBe("Lead screw");
  });

  it("draws a missing support, the ways and the load-holding as they are", () => {
    const free = axis({
      screw: { ...axis().screw, fixings: "fixed-free" },
      guideway: "v-wheel",
    });
    expect(chainOf(free)[3].drawing).toBe("screw-fixed-free");
    expect(chainOf(free).at(-1)?.drawing).toBe("way-v-wheel");
    const vertical = axis({
      orientation: "vertical",
      counterweight: true,
      brake: true,
    });
    expect(chainOf(vertical).find((l) => l.id === "member")?.note).toBe("held by brake, counterweight");
  });
});

describe("bounds in words", () => {
  it("says what is wrong, why and what is usual", () => {
    expect(boundMessage(AXIS_BOUNDS["screw.leadMm"], 0)).toBe(
      "Lead 0 mm cannot be: a screw moves the table by its lead each turn. Typical: 4 to 20 mm.",
    );
    expect(boundMessage(AXIS_BOUNDS["limits.repairMm"], 9)).toContain("Repair above 9000 µm cannot be");
    expect(boundMessage(AXIS_BOUNDS["limits.repairMm"], 9)).toContain("The most taken here is 5000 µm");
    expect(boundMessage(AXIS_BOUNDS.travelMm, NaN)).toBe("Travel must be a number. Typical: 200 to 2000 mm.");
    expect(boundMessage(AXIS_BOUNDS.travelMm, 500)).toBeUndefined();
  });
});

describe("defaults", () => {
  it("give every kind an axis inside its own bounds", () => {
    for (const kind of MACHINE_KINDS) {
      for (const letter of ["X", "Y", "Z"]) {
        const a = defaultAxis(kind, letter);
        expect(a.letter).toBe(letter);
        for (const [path, bound] of Object.entries(AXIS_BOUNDS)) {
          // A torque belongs to a fastener.
          if (path === "mechanics.torqueNm") continue;
          const value = path.split(".").reduce<unknown>((o, k) => (o as Record<string, unknown>)[k], a);
          // Weights and prices nobody noted are usual ones.
          if (value === null) continue;
          expect(boundMessage(bound, value as number)).toBeUndefined();
        }
        expect(a.screw.rootMm).toBeLessThan(a.screw.nominalMm);
        expect(a.limits.leaveMm).toBeLessThan(a.limits.repairMm);
      }
    }
  });

  it("keep to the trade’s default limits on machining centres: 0.010 and 0.025 mm (common practice, no source)", () => {
    expect(axis().limits).toMatchObject({ leaveMm: 0.01, repairMm: 0.025 });
  });

  it("know gravity and the travel of one turn", () => {
    expect(isGravityAxis(defaultAxis("vertical-centre", "Z"))).toBe(true);
    expect(isGravityAxis(defaultAxis("lathe", "Z"))).toBe(false);
    expect(travelPerTurnMm(axis())).toBe(10);
    expect(travelPerTurnMm(axis({ transmission: "rack", pinionDiameterMm: 40 }))).toBeCloseTo(125.664, 3);
  });
});

describe("usual prices", () => {
  it("follow size and kind: tens for an engraver’s lead screw, a tenth of a screw for its bearings (common practice, no source)", () => {
    const centre = pricesOf(defaultAxis("vertical-centre", "X"));
    expect(centre).toMatchObject({ screw: 3200, bearingSet: 350 });
    const engraver = pricesOf(defaultAxis("engraver", "X"));
    expect(engraver.screw).toBeGreaterThanOrEqual(10);
    expect(engraver.screw).toBeLessThan(100);
    expect(engraver.bearingSet).toBeLessThan(50);
    const bench = pricesOf(defaultAxis("bench-mill", "X"));
    expect(bench.screw).toBeLessThan(600);
    expect(bench.screw).toBeGreaterThan(engraver.screw);
    // Nothing is written down as noted: a longer screw changes what is usual, a noted price stands.
    const x = defaultAxis("vertical-centre", "X");
    expect(x.costs).toMatchObject({ screw: null, bearingSet: null });
    const long = { ...x, screw: { ...x.screw, freeLengthMm: 2600 } };
    expect(pricesOf(long).screw).toBeGreaterThan(5000);
    expect(pricesOf({ ...long, costs: { ...x.costs, screw: 4100 } })).toMatchObject({ screw: 4100, bearingSet: 350 });
  });
});
