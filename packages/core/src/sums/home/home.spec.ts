import * as fc from "fast-check";
import { sampleStandardDeviation } from "simple-statistics";
import { homeRepeat, markerPlace } from "./home-marker";

describe("home marker", () => {
  it("half a turn is best, a fifth from either end is too near", () => {
    // Common practice, no source.
    expect(markerPlace(5, 10)).toEqual({ fraction: 0.5, safe: true, laterMm: 0 });
    expect(markerPlace(31, 10)).toMatchObject({ safe: false });
    expect(markerPlace(31, 10).laterMm).toBeCloseTo(-4, 9);
    expect(markerPlace(9.5, 10)).toMatchObject({ safe: false });
    expect(() => markerPlace(1, 0)).toThrow("travel for a turn is 0");
  });

  it("a switch shifted as it says searches the same marker half a turn away", () => {
    // Brute force: an axis with a marker every turn that runs from the trip on until it meets one.
    const search = (tripMm: number, perTurnMm: number): number => (Math.floor(tripMm / perTurnMm) + 1) * perTurnMm;
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        fc.constantFrom(2.5, 5, 10, 25.4),
        (part, turn) => {
          const trip = (7 + part) * turn;
          const home = search(trip, turn);
          const shifted = trip + markerPlace(home - trip, turn).laterMm;
          expect(search(shifted, turn)).toBeCloseTo(home, 9);
          expect((home - shifted) / turn).toBeCloseTo(0.5, 9);
        },
      ),
    );
  });

  it("tells scatter from whole-turn jumps", () => {
    const readings = [0.001, -0.002, 10.001, 0.003, -0.001];
    const home = homeRepeat(readings, 10);
    expect(home.jumps).toBe(1);
    expect(home.rangeMm).toBeCloseTo(0.005, 9);
    expect(home.deviationMm).toBeCloseTo(sampleStandardDeviation([0.001, -0.002, 0.001, 0.003, -0.001]), 9);
    expect(home.repeatMm).toBeCloseTo(4 * home.deviationMm, 12);
    expect(() => homeRepeat([0, 0], 10)).toThrow("number of homings is 2");
  });
});
