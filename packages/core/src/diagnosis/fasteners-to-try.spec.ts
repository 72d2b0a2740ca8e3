import { defaultAxis, MACHINE_KINDS } from "../machine/axis";
import { isLooseFastener } from "../measure";
import { fastenersToTry } from "./fasteners-to-try";

describe("fasteners tried before any test", () => {
  it("are those an axis really has, from the motor on", () => {
    const x = defaultAxis("vertical-centre", "X");
    expect(fastenersToTry(x).map((f) => f.finding)).toEqual([
      null,
      "coupling-turns",
      "retainer-turns",
      "housing-turns",
      "bracket-turns",
    ]);
    expect(fastenersToTry(defaultAxis("router", "X")).map((f) => f.name)).toEqual([
      "Motor screws",
      "Pinion set screws",
      "Rack screws",
    ]);
  });

  it("find loose screws and nothing else, on every kind of machine", () => {
    for (const kind of MACHINE_KINDS)
      for (const { finding } of fastenersToTry(defaultAxis(kind, "X")))
        expect(finding === null || isLooseFastener(finding)).toBe(true);
  });
});
