import { defaultAxis } from "./axis";
import { areSisters } from "./sister";

describe("sisters", () => {
  const x = defaultAxis("vertical-centre", "X");

  it("are driven alike, go as far a turn, on like ways, whatever else differs", () => {
    expect(areSisters(x, { ...x, letter: "Y", travelMm: 200, orientation: "vertical" })).toBe(true);
    expect(areSisters(x, { ...x, screw: { ...x.screw, leadMm: x.screw.leadMm / 2 } })).toBe(false);
    expect(areSisters(x, { ...x, guideway: x.guideway === "rail" ? "box" : "rail" })).toBe(false);
    expect(areSisters(x, { ...x, motor: x.motor === "servo" ? "stepper" : "servo" })).toBe(false);
    expect(areSisters(x, { ...x, transmission: "rotating-nut" })).toBe(false);
  });
});
