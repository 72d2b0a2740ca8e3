import { defaultAxis, type AxisConfig } from "../machine/axis";
import { kitList } from "./kit";
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
    const rise = (config: AxisConfig, kind: JobKindId): string => step(plan(config, kind), "slow-jog").ifNot;
    expect(rise(x, "align-screw")).toMatch(/coupling or journal/);
    expect(rise({ ...x, transmission: "belt" }, "align-screw")).toMatch(/pulley or journal/);
    expect(rise(router, "carriages")).toMatch(/rack.*pinion/);
    expect(rise(rotating, "nut-bearing")).toMatch(/clamps.*turn of the nut/);
    const week = step(plan(rotating, "nut-bearing"), "sign-off").how.join(" ");
    expect(week).toContain("warmth of the nut housing");
  });

  it("fresh parts are spoken of only where something fresh went in", () => {
    const retest = (kind: JobKindId): string => step(plan(x, kind), "retest-chain").how.join(" ");
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
      expect(corner.torques).toEqual([expect.stringContaining("4 × screws of each carriage")]);
    }
    const order = ["release-load", "square-gantry", "mesh-set", "retest-pattern"];
    const places = order.map((kind) => kinds.indexOf(kind));
    expect(places).not.toContain(-1);
    expect([...places].sort((a, b) => a - b)).toEqual(places);
    const onScrew = plan(x, "carriages").steps.map((s) => s.kind);
    expect(onScrew).toContain("square-rails");
    const week = step(sheet, "sign-off").how.join(" ");
    expect(week).toContain("how it moves end to end");
  });

  it("drag of a bearing nut is judged against a window that is shown, and not by a figure nobody has", () => {
    const set = (bearings: AxisConfig["bearings"]): PlannedStep => {
      const config: AxisConfig = { ...x, bearings };
      const sheet = planJob({
        axes: [{ letter: "X", config }],
        items: [{ letter: "X", kind: "bearing-preload" }],
        options: { ...DEFAULT_OPTIONS, preload: "drag" },
      });
      return step(sheet, "set-preload");
    };
    const matched = set("angular-pair");
    expect(matched.how.join(" ")).toMatch(/0\.11 N·m.* to 0\.33 N·m.*25 mm bore/);
    expect(matched.reading?.label).toContain("after locking");
    expect(matched.reading?.from).toBeCloseTo(0.11, 2);
    expect(matched.reading?.to).toBeCloseTo(0.33, 2);
    const adjusted = set("deep-groove-pair");
    expect(adjusted.how.join(" ")).toContain("no usual figure");
    expect(adjusted.reading?.to).toBeUndefined();
  });

  it("the screw leaves by the end its nut’s flange faces, or the other where the flange does not pass", () => {
    const out = (flangeSide: "fixed" | "far", flangePasses: boolean): string =>
      step(plan({ ...x, mechanics: { ...x.mechanics, flangeSide, flangePasses } }, "screw"), "screw-out").title;
    expect(out("fixed", true)).toContain("fixed end");
    expect(out("far", true)).toContain("far end");
    expect(out("fixed", false)).toContain("far end");
    expect(out("far", false)).toContain("fixed end");
  });

  it("a head comes off its block by the way that is there: lifted, with the brake let go, or by a plain screw", () => {
    const z = defaultAxis("vertical-centre", "Z");
    const off = (over: Partial<AxisConfig>, lever = false): string => {
      const config: AxisConfig = {
        ...z,
        ...over,
        mechanics: { ...z.mechanics, fixedEnd: "unpinned", brakeLever: lever },
      };
      return step(plan(config, "align-screw"), "block-away").how.join(" ");
    };
    expect(off({ brake: false })).toMatch(/^Raise the head on the gear/);
    expect(off({ brake: true }, true)).toContain("let go by its lever");
    const plain = off({ brake: false, transmission: "plain-screw" });
    expect(plain).toMatch(/^Turn the lead screw by its hub/);
    expect(off({ brake: true })).not.toContain("lever");
  });

  it("a caution before the job names the step it belongs to, and stands there once", () => {
    const { cautions } = kitList(plan(x, "screw"));
    expect(cautions.length).toBeGreaterThan(4);
    const said = cautions.map((c) => c.split(": ").slice(1).join(": "));
    expect(new Set(said).size).toBe(said.length);
    for (const c of cautions) expect(c).toMatch(/^[A-Z][^:]+: \S/);
  });

  it("sheet-metal screws want no figure from a book", () => {
    expect(step(plan(x, "coupling"), "covers-on").torques.join(" ")).toContain("snug");
  });
});
