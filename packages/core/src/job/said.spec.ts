import { defaultAxis, type AxisConfig } from "../axis";
import { planJob, type JobPlan } from "./planner";
import { DEFAULT_OPTIONS, type JobKindId, type PlannedStep } from "./step-kind";

const x = defaultAxis("vertical-centre", "X");
const router = defaultAxis("router", "X");
const engraver = defaultAxis("engraver", "X");
const rotating: AxisConfig = { ...x, transmission: "rotating-nut" };

const plan = (config: AxisConfig, kind: JobKindId): JobPlan =>
  planJob({
    axes: [{ letter: config.letter, config }],
    items: [{ letter: config.letter, kind }],
    options: DEFAULT_OPTIONS,
  });
const step = (sheet: JobPlan, kind: string): PlannedStep => {
  const found = sheet.steps.find((s) => s.kind === kind);
  if (!found) throw new Error(`no ${kind}`);
  return found;
};

/** Common practice, no source: what a mechanic would say at this machine and no other. */
describe("the words of a step fit the axis", () => {
  it("a stepper has no marker: it homes twice alike, and its switch job measures no distance", () => {
    const home = step(plan(engraver, "align-screw"), "reference");
    expect(home.how.join(" ")).toContain("twice");
    expect(home.how.join(" ") + home.ifNot).not.toMatch(/marker/);
    expect(step(plan(x, "align-screw"), "reference").ifNot).toMatch(/marker/);
    const kinds = plan(engraver, "home-switch").steps.map((s) => s.kind);
    expect(kinds).not.toContain("marker");
    expect(kinds).toContain("retest-home");
  });

  it("a rise of the load is read by what drives the axis", () => {
    const rise = (config: AxisConfig, kind: JobKindId): string =>
      step(plan(config, kind), "slow-jog").ifNot;
    expect(rise(x, "align-screw")).toMatch(/coupling or journal/);
    expect(rise({ ...x, transmission: "belt" }, "align-screw")).toMatch(
      /pulley or journal/,
    );
    expect(rise(router, "carriages")).toMatch(/rack.*pinion/);
    expect(rise(rotating, "nut-bearing")).toMatch(/clamps.*turn of the nut/);
    const week = step(plan(rotating, "nut-bearing"), "sign-off").how.join(" ");
    expect(week).toContain("warmth of the nut housing");
  });

  it("fresh parts are spoken of only where something fresh went in", () => {
    const retest = (kind: JobKindId): string =>
      step(plan(x, kind), "retest-chain").how.join(" ");
    expect(retest("align-screw")).not.toContain("fresh");
    expect(retest("fixed-bearings")).toContain("fresh bearings");
  });

  it("carriages: the jack follows to each corner, each has its own screws; then squared, then the pattern", () => {
    const sheet = plan(router, "carriages");
    const kinds = sheet.steps.map((s) => s.kind);
    expect(step(sheet, "carriage-1").how.join(" ")).not.toContain("jack over");
    for (const n of [2, 3, 4]) {
      const corner = step(sheet, `carriage-${n}`);
      expect(corner.how[0]).toContain("jack over to this corner");
      expect(corner.tools).toContain("jack");
      expect(corner.torques).toEqual([
        expect.stringContaining("4 × screws of each carriage"),
      ]);
    }
    const order = ["release-load", "square-gantry", "mesh-set", "retest-pattern"]; // prettier-ignore
    const places = order.map((kind) => kinds.indexOf(kind));
    expect(places).not.toContain(-1);
    expect([...places].sort((a, b) => a - b)).toEqual(places);
    const onScrew = plan(x, "carriages").steps.map((s) => s.kind);
    expect(onScrew).toContain("square-rails");
    const week = step(sheet, "sign-off").how.join(" ");
    expect(week).toContain("how it moves end to end");
  });

  it("sheet-metal screws want no figure from a book", () => {
    expect(step(plan(x, "coupling"), "covers-on").torques.join(" ")).toContain(
      "snug",
    );
  });
});
