/** A session of one full circle in X and Y, as it is sent. */
export const circleBody = (centreMm: readonly [number, number], radiusMm: number): object => ({
  plans: [
    {
      letters: ["X", "Y"],
      centreMm,
      radiusMm,
      feedMmMin: 1000,
      startDeg: 0,
      spanDeg: 360,
      overrunDeg: 45,
      leadMm: 1.5,
      first: 1,
      dwellS: 3,
    },
  ],
  bar: { name: "Ring and indicator", resolutionMm: 0.001, uMm: 0.001, calibrated: false },
  temperatureC: 20,
  note: "",
});
