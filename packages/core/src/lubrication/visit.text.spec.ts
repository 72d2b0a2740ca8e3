import { defaultAxis, isGravityAxis, MACHINE_KINDS, type AxisConfig, type MachineKind } from "../machine/axis";
import { heldWhenOff, NUT_WAYS, usualSetUp, type LubricationSetUp } from "./set-up";
import { templatePoints } from "./templates";
import { LUBE_WAYS, type LubricationPoint } from "./types";
import { isBrought, visitText } from "./visit.text";

const nut = {
  way: "nipple",
  dose: 2,
  doseUnit: "strokes",
  link: "nut",
  machineOff: true,
  partsNut: false,
} as const;

const usual = (kind: MachineKind, letters: readonly string[] = [], setUp?: Partial<LubricationSetUp>) => {
  const axes = letters.map((letter) => defaultAxis(kind, letter));
  return templatePoints(axes, { kind, setUp: { ...usualSetUp(kind, axes), ...setUp } });
};
/** Every usual point of every kind of machine, by each way into a ball nut. */
const everyPoint = MACHINE_KINDS.flatMap((kind) => NUT_WAYS.flatMap((nuts) => usual(kind, ["X", "Z"], { nuts })));

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
      "Cloth and tools out, covers on.",
    ]);
    for (const way of LUBE_WAYS.filter((w) => w !== "central line"))
      expect(visitText({ ...nut, way, dose: 0 }, "greased for life").steps.join(" ")).not.toMatch(
        /Clean|travel|excess/,
      );
  });

  it("no hand or cloth is in what moves, at any usual point of any machine", () => {
    for (const point of everyPoint) {
      const { state, steps } = visitText(point, point.lubricant);
      for (const step of steps.filter((s) => /slow feed/.test(s))) expect(step).toMatch(/[hH]ands and cloth out/);
      if (point.way !== "central line" && !point.machineOff) expect(state).toMatch(/stands/);
      // Whatever was moved is off, or stopped, before a hand goes in again.
      steps.forEach((s, i) => {
        if (/slow feed/.test(s))
          expect(steps[i + 1]).toMatch(/^(Off and locked|Stopped|Low again|Down onto its block)/);
      });
    }
  });

  it("a bead is laid in two halves, the nut moved between, and run in", () => {
    const { steps } = visitText({ ...nut, way: "bead", dose: 4, doseUnit: "grams" }, "4 grams, grease");
    expect(steps).toHaveLength(6);
    expect(steps[0]).toMatch(/Half of 4 grams/);
    expect(steps[1]).toMatch(/hands and cloth out.*power back.*nut over/i);
    expect(steps[2]).toMatch(/Off and locked again.*other half/);
    expect(steps[3]).toMatch(/run it in/);
  });

  it("an air unit, a taper, a belt or a fan is never run to spread anything, nor oiled that is to be dry", () => {
    for (const point of everyPoint.filter((p) => p.letter === null || p.way === "look" || p.way === "clean")) {
      const text = visitText(point, point.lubricant).steps.join(" ");
      expect(text).not.toMatch(/travel|slow feed/);
    }
    const taper = usual("vertical-centre").find((p) => /taper/.test(p.place)) as LubricationPoint;
    expect(visitText(taper, "").steps.join(" ")).toMatch(/clean and dry.*no oil/);
  });

  it("a point that says so is off and locked, also one of a central system; a nut to be parted is a job", () => {
    expect(visitText({ ...nut, way: "central line" }, "3 strokes").state).toBe("Machine off and locked");
    const primed = (priming?: number) =>
      visitText({ ...nut, way: "central line", priming }, "3 strokes").steps.join(" ");
    expect(primed()).toContain("Air in it wants more: 4 strokes, or till the handle resists.");
    expect(primed(7)).toContain("7 strokes");
    const parted = visitText({ ...nut, partsNut: true }, "2 strokes, grease");
    expect(parted.state).toBe("This one is a job");
    expect(parted.steps.join(" ")).not.toMatch(/nipple|travel/);
  });

  it("what can fall is low or on its block, under power and with hands out, before anybody reaches in", () => {
    let seen = 0;
    for (const kind of MACHINE_KINDS) {
      const axis = defaultAxis(kind, "Z");
      if (!isGravityAxis(axis)) continue;
      for (const point of usual(kind, ["Z"]).filter((p) => p.letter === "Z" && p.machineOff && !p.partsNut)) {
        const { state, steps } = visitText(point, point.lubricant);
        if (point.way === "central line") continue;
        seen += 1;
        expect(state).toBe("Done with the machine off and locked");
        expect(steps[0]).toMatch(/^Under power, hands out: bring it (low|down onto a block)/);
      }
    }
    expect(seen).toBeGreaterThan(10);
  });

  it("what was set under a member is out before it is handed back, or the next one drives into it", () => {
    for (const point of everyPoint) {
      const steps = visitText(point, point.lubricant).steps;
      if (!/onto a block/.test(steps[0])) continue;
      expect(steps.at(-1)).toMatch(/up from its block under power, the block drawn out from beside\.$/);
    }
    const balanced = visitText({ ...nut, heldBy: "pinned" }, "2 strokes, grease").steps;
    expect(balanced[0]).toMatch(/balance pinned, so that it can neither sink nor lift/);
    expect(balanced[2]).toMatch(
      /^To spread it: its pin out, then hands and cloth out.*power back, up from its block, the block drawn out/,
    );
    expect(balanced.at(-1)).toMatch(
      /its pin out, hands out, power back, up from its block under power, the block drawn out/,
    );
  });

  it("a balance that can lift wants more than a block", () => {
    const z = { ...defaultAxis("vertical-centre", "Z"), brake: false, transmission: "direct" } as const;
    expect(heldWhenOff({ ...z, counterweight: true, gasSpring: false })).toBe("pinned");
    expect(heldWhenOff({ ...z, counterweight: false, gasSpring: true })).toBe("pinned");
    expect(heldWhenOff({ ...z, counterweight: false, gasSpring: false })).toBe("block");
  });

  it("what holds it when it is off is what the mechanism says: its brake, its thread once tried, or a block", () => {
    const z = defaultAxis("vertical-centre", "Z");
    expect(heldWhenOff({ ...z, brake: true })).toBe("brake");
    expect(heldWhenOff({ ...z, brake: false, counterweight: false, transmission: "direct" })).toBe("block");
    const thread: AxisConfig = {
      ...z,
      brake: false,
      transmission: "plain-screw",
      screw: { ...z.screw, nominalMm: 20, leadMm: 2 },
    };
    expect(heldWhenOff(thread)).toBe("screw");
    expect(heldWhenOff({ ...thread, screw: { ...thread.screw, leadMm: 10 } })).toBe("block");
    expect(heldWhenOff(defaultAxis("vertical-centre", "X"))).toBeNull();
    const block = visitText({ ...nut, heldBy: "block" }, "2 strokes, grease").steps;
    expect(block[2]).toMatch(/up from its block, the block drawn out from beside/);
    expect(block[3]).toMatch(/^Down onto its block again, off and locked/);
  });

  it("nothing under air pressure is opened: shut and vented, and what air holds is held otherwise first", () => {
    const [air] = usual("vertical-centre").filter((p) => p.place === "air unit");
    expect(air.access).toMatch(/what air holds.*shut.*vented/);
  });

  it("brought along is what is given, and what a bowl is topped up with", () => {
    const brought = usual("vertical-centre", ["Z"])
      .filter(isBrought)
      .map((p) => p.place);
    expect(brought).toEqual(expect.arrayContaining(["Z ball nut", "air unit"]));
    expect(brought.filter((p) => /taper|hoses|end bearings/.test(p))).toEqual([]);
  });

  it("tapers and collets are wiped clean and dry, never oiled", () => {
    const [taper] = usual("vertical-centre").filter((p) => /taper/.test(p.place));
    expect(taper).toMatchObject({ dose: 0, machineOff: true });
    expect(taper.lubricant).toMatch(/clean and dry/);
    expect(taper.lubricant).not.toMatch(/oil, ISO/);
  });

  it("what only a running machine tells is noticed before it is off: a fan that stands tells nothing", () => {
    for (const kind of MACHINE_KINDS)
      for (const point of usual(kind).filter((p) => p.machineOff && p.checks.some((c) => /loud|still|hot/.test(c))))
        expect([point.place, point.access]).toEqual([
          point.place,
          expect.stringMatching(/before it is switched off|soon after it has run/),
        ]);
  });
});
