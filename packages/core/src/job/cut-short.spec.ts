import { defaultAxis, type AxisConfig } from "../machine/axis";
import { jobKind } from "./job-kinds.table";
import { planJob, type JobItem } from "./planner";
import { anyJob, numbers, pickFrom, stateAt } from "./sheets.testing";
import { DEFAULT_OPTIONS } from "./step-kind";

const z = defaultAxis("bench-mill", "Z");
const upright: AxisConfig = {
  ...z,
  orientation: "vertical",
  brake: false,
  counterweight: true,
  gasSpring: false,
};

/** Every rest of a sheet, cut after each of its steps: planned and audited, or NoWay is thrown. */
function cutEverywhere(config: AxisConfig, kinds: readonly JobItem["kind"][]) {
  const { letter } = config;
  const job = { axes: [{ letter, config }], options: DEFAULT_OPTIONS };
  const whole = planJob({
    ...job,
    items: kinds.map((kind) => ({ letter, kind })),
  });
  return whole.steps.map((step, i) => ({
    after: step.kind,
    steps: planJob({
      ...job,
      items: [],
      start: stateAt(whole, i + 1),
    }).steps.map((s) => s.kind),
  }));
}

describe("cut short after every step", () => {
  it("a fixed end left snug under a table that hides the nut is closed without home ever noted", () => {
    const config: AxisConfig = {
      ...upright,
      transmission: "direct",
      nut: "single-clearance",
      screw: { ...upright.screw, leadMm: 5, fixings: "fixed-free" },
      mechanics: {
        ...upright.mechanics,
        fixedEnd: "pillow-block",
        tableOverNut: true,
        bumper: true,
      },
    };
    const rests = cutEverywhere(config, ["align-screw", "grease-nut"]);
    const [rest] = rests.filter((r) => r.after === "nut-tight");
    expect(rest.steps).toContain("housing-tight");
    expect(rest.steps).not.toContain("note-home");
    expect(rest.steps).toContain("reference");
  });

  it("a balanced member whose strap has just come off is tied again before the power goes", () => {
    const config: AxisConfig = {
      ...upright,
      transmission: "plain-screw",
      screw: { ...upright.screw, nominalMm: 32, rootMm: 27.8, leadMm: 5 },
    };
    const rests = cutEverywhere(config, ["tighten"]);
    const [rest] = rests.filter((r) => r.after === "untie");
    expect(rest.steps.indexOf("park")).toBeGreaterThanOrEqual(0);
    expect(rest.steps.indexOf("park")).toBeLessThan(rest.steps.indexOf("isolate"));
    expect(rest.steps).toContain("try-block");
  });

  it("any job on one axis, at each of its stops", () => {
    const next = numbers(77);
    let stops = 0;
    while (stops < 2_000) {
      const job = anyJob(next);
      const [{ letter, config }] = job.axes;
      const items = job.items.filter((i) => i.letter === letter);
      const odd: AxisConfig = {
        ...config,
        orientation: pickFrom(["vertical", "slanted"], next),
        brake: next() < 0.3,
        counterweight: next() < 0.6,
        mechanics: {
          ...config.mechanics,
          tableOverNut: next() < 0.5,
          fixedEnd: pickFrom(["pinned", "pillow-block"], next),
        },
      };
      const kinds = items.map((i) => i.kind).filter((kind) => jobKind(kind).fits(odd));
      if (kinds.length === 0) continue;
      stops += cutEverywhere(odd, kinds).length;
    }
    expect(stops).toBeGreaterThanOrEqual(2_000);
  });
});
