import { kmPerHour, programTravel } from "./program-travel";

describe("travel of a part program", () => {
  it("adds up straight moves by hand: there and back at feed, and a rapid", () => {
    // 100 mm at 500 mm/min: 12 s; back in rapid at 10 m/min: 0.6 s; Z 5 mm at 100: 3 s.
    const t = programTravel("G21 G90\nG1 X100 F500 (out)\nG0 X0 ; back\nG1 Z-5 F100", 10_000);
    expect(t.travelMm).toEqual({ X: 200, Z: 5 });
    expect(t.minutes * 60).toBeCloseTo(15.6, 9);
    expect(t.notes).toEqual([]);
    expect(kmPerHour(t)["X"]).toBeCloseTo((200 / 1e6) * (3600 / 15.6), 12);
  });

  it("goes on from where it is in G91, and reads inches", () => {
    const t = programTravel("G20 G91 G1 X1 F10\nX1\nX-2", 1000);
    expect(t.travelMm["X"]).toBeCloseTo(4 * 25.4, 9);
    expect(t.minutes).toBeCloseTo(0.4, 9);
  });

  it("a full circle moves each axis by four radii, over 2πr, by centre or by radius, either way round", () => {
    for (const code of ["G2", "G3"]) {
      const t = programTravel(`G1 X10 Y0 F600\n${code} X10 Y0 I-10 J0`, 1000);
      expect(t.travelMm["X"]).toBeCloseTo(10 + 40, 1);
      expect(t.travelMm["Y"]).toBeCloseTo(40, 1);
      expect(t.minutes).toBeCloseTo((10 + 20 * Math.PI) / 600, 3);
    }
    // A quarter by radius: each axis goes one radius; with −R the other three quarters.
    const quarter = programTravel("G1 X10 Y0 F600\nG3 X0 Y10 R10", 1000);
    expect(quarter.travelMm["X"]).toBeCloseTo(20, 6);
    const rest = programTravel("G1 X10 Y0 F600\nG3 X0 Y10 R-10", 1000);
    expect(rest.minutes).toBeCloseTo((10 + 15 * Math.PI) / 600, 3);
    const helix = programTravel("G1 X10 Y0 F600\nG2 X10 Y0 Z-3 I-10", 1000);
    expect(helix.travelMm["Z"]).toBeCloseTo(3, 9);
    const turned = programTravel("G18 G1 X0 Z10 F600\nG2 X10 Z0 R10", 1000);
    expect(turned.travelMm["X"]).toBeCloseTo(10, 6);
  });

  it("counts feed per minute, per turn and as inverse time alike", () => {
    // The same 60 mm in 6 s three ways: 600 mm/min; 0.5 mm a turn at 1200 min⁻¹; F10 is a tenth of a minute.
    for (const head of ["G94 F600", "G95 F0.5 S1200", "G93 F10"])
      expect([head, programTravel(`G21 G90 G1 X60 ${head}`, 1000).minutes]).toEqual([head, expect.closeTo(0.1, 9)]);
    // The F may stand before its G, and inches do not scale inverse time.
    expect(programTravel("G20 F10 G1 X2 G93", 1000).minutes).toBeCloseTo(0.1, 9);
    // 2 in at 0.02 in a turn and 200 min⁻¹ is half a minute.
    expect(programTravel("G20 G95 S200 G1 X2 F0.02", 1000).minutes).toBeCloseTo(0.5, 9);
    // A whole arc takes its one inverse time.
    expect(programTravel("G93 G1 X10 Y0 F10\nG3 X0 Y10 R10 F5", 1000).minutes).toBeCloseTo(0.3, 9);
  });

  it("says which moves it could not time", () => {
    expect(programTravel("G95 G1 X10 F0.1", 1000).notes.join()).toContain("without a spindle speed");
    expect(programTravel("G96 S180 G95 G1 X10 F0.1", 1000).notes.join()).toContain("G96");
    expect(programTravel("G93 G1 X10 F5\nX20", 1000).notes.join()).toContain("without its own F");
  });

  it("passes over what it cannot follow, and says so", () => {
    const t = programTravel("G1 X5 F100\nG81 X10 Z-3\nM98 P1000\n#100=5\nG28 X0\nG4 X9", 1000);
    expect(t.notes).toEqual([
      "Fixed cycles are not followed.",
      "Subprograms are not followed.",
      "Variables are not followed.",
    ]);
    expect(t.travelMm["X"]).toBe(10);
    expect(() => programTravel("M30", 1000)).toThrow("nothing in this program moves an axis");
    expect(() => kmPerHour(programTravel("G1 X5", 1000))).toThrow("gives no feed");
  });
});

describe("a program from outside", () => {
  it("leaves out comments in brackets and behind semicolons, whatever stands in them", () => {
    const travel = (text: string) => programTravel(`G21 G90\n${text}`, 10_000).travelMm;
    const plain = travel("G1 X100 F500");
    for (const line of [
      "G1 (X900) X100 F500",
      "G1 X100 F500 ; X900 (Y3)",
      "G1 (a (b) X100 (;) F500",
      "G1 X100 (X1) (X2) F500 (",
    ])
      expect(travel(line)).toEqual(plain);
  });

  it("takes time as it is long: half a million brackets that nobody shuts", () => {
    const text = `G21 G90\nG1 X100 F500 ${"(".repeat(500_000)}`;
    expect(programTravel(text, 10_000).travelMm).toEqual({ X: 100 });
  });
});
