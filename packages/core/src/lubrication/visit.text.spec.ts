import { defaultAxis, isGravityAxis, MACHINE_KINDS } from "../machine/axis";
import { templatePoints } from "./templates";
import { LUBE_WAYS } from "./types";
import { isBrought, visitText } from "./visit.text";

const nut = {
  way: "nipple",
  dose: 2,
  doseUnit: "strokes",
  link: "nut",
  machineOff: true,
  partsNut: false,
} as const;

describe("what is done at a point, in words", () => {
  it("a machine that is off moves nothing: it is powered to spread, hands out, and off again before the cloth", () => {
    const { state, steps } = visitText(nut, "2 strokes, grease");
    expect(state).toBe("Machine off and locked");
    const text = steps.join(" ");
    const order = ["by nipple", "hands and cloth out", "power back", "Off and locked again", "wipe off"].map((w) =>
      text.indexOf(w),
    );
    expect(order).toEqual([...order].sort((a, b) => a - b));
    expect(order[0]).toBeGreaterThan(0);
  });

  it("what is carried along by nothing is not run to spread; what is only looked at gets nothing", () => {
    expect(visitText({ ...nut, link: null }, "").steps.join(" ")).not.toMatch(/travel/);
    expect(visitText({ ...nut, link: "member", way: "wipe", doseUnit: "wipe" }, "wipe with chain oil").steps).toEqual([
      "Clean first, then wipe with chain oil.",
      "Wipe off the excess.",
    ]);
    for (const way of LUBE_WAYS.filter((w) => w !== "central line"))
      expect(visitText({ ...nut, way, dose: 0 }, "greased for life").steps.join(" ")).not.toMatch(
        /Clean|travel|excess/,
      );
  });

  it("no hand or cloth is in what moves, at any usual point of any machine", () => {
    for (const kind of MACHINE_KINDS)
      for (const point of templatePoints(["X", "Z"].map((letter) => defaultAxis(kind, letter)))) {
        const { state, steps } = visitText(point, point.lubricant);
        const moves = steps.findIndex((s) => /travel/.test(s));
        if (moves >= 0) expect(steps[moves]).toMatch(/hands and cloth out/);
        if (point.way !== "central line" && !point.machineOff) expect(state).toMatch(/stands/);
      }
  });

  it("a point that says so is off and locked, also one of a central system; a nut to be parted is a job", () => {
    expect(visitText({ ...nut, way: "central line" }, "3 strokes").state).toBe("Machine off and locked");
    const parted = visitText({ ...nut, partsNut: true }, "2 strokes, grease");
    expect(parted.state).toBe("This one is a job");
    expect(parted.steps.join(" ")).not.toMatch(/nipple|travel/);
  });

  it("what can fall is parked low or blocked before anybody reaches to it, at any usual point of any machine", () => {
    for (const kind of MACHINE_KINDS) {
      const axis = defaultAxis(kind, "Z");
      if (!isGravityAxis(axis)) continue;
      for (const point of templatePoints([axis]).filter((p) => p.letter === "Z" && p.machineOff))
        expect(point.access).toMatch(/park.* low or block/);
    }
  });

  it("nothing under air pressure is opened: shut and vented, and what air holds is held otherwise first", () => {
    const [air] = templatePoints([]).filter((p) => p.place === "air unit");
    expect(air.access).toMatch(/what air holds.*shut.*vented/);
  });

  it("brought along is what is given, and what a bowl is topped up with", () => {
    const brought = templatePoints([defaultAxis("vertical-centre", "Z")])
      .filter(isBrought)
      .map((p) => p.place);
    expect(brought).toEqual(expect.arrayContaining(["Z ball nut", "air unit"]));
    expect(brought.filter((p) => /taper|hoses|end bearings/.test(p))).toEqual([]);
  });

  it("tapers and collets are wiped clean and dry, never oiled", () => {
    const [taper] = templatePoints([]).filter((p) => /taper/.test(p.place));
    expect(taper).toMatchObject({ dose: 0, machineOff: true });
    expect(taper.lubricant + taper.access).toMatch(/clean and dry/);
    expect(taper.lubricant).not.toMatch(/oil, ISO/);
  });
});
