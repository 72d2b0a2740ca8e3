import { CAUSES } from "../diagnosis";
import { defaultAxis, type AxisConfig } from "../machine/axis";
import { auditSheet } from "./audit";
import { JOB_KINDS, JOB_OF_CAUSE, jobKind, LOOSE_OF_CAUSE } from "./job-kinds.table";
import { STEP_ORDER } from "./order.table";
import { planJob, type JobPlan } from "./planner";
import { NoWay } from "./walk";
import { anyJob, anyOptions, numbers, sheetOf, stateAt } from "./sheets.testing";
import { STEP_KINDS } from "./step-kinds";
import { DEFAULT_OPTIONS, type JobKindId, type JobOptions } from "./step-kind";

const z = defaultAxis("vertical-centre", "Z");
const x = defaultAxis("vertical-centre", "X");
const head: AxisConfig = {
  ...z,
  guideway: "box",
  counterweight: true,
  lockNut: "double-nut-tab",
  screw: { ...z.screw, nominalMm: 40, rootMm: 36 },
};
const plan = (config: AxisConfig, kind: JobKindId, options: Partial<JobOptions> = {}): JobPlan =>
  planJob({
    axes: [{ letter: config.letter, config }],
    items: [{ letter: config.letter, kind }],
    options: { ...DEFAULT_OPTIONS, ...options },
  });
const kindsOf = (p: JobPlan): readonly string[] => p.steps.map((s) => s.kind);

describe("sheets of any axis", () => {
  it("6,000 of them, whole and cut short anywhere, pass the audit in every state", () => {
    const next = numbers(20261126);
    const met = new Set<string>();
    let sheets = 0;
    while (sheets < 6_000) {
      const job = anyJob(next);
      const whole = planJob(job);
      for (const item of job.items) met.add(item.kind);
      const at = 1 + Math.floor(next() * (whole.steps.length - 1));
      const start = stateAt(whole, at);
      const rest = planJob({ ...job, items: [], start });
      for (const [from, sheet] of [
        [whole.start, whole],
        [start, rest],
      ] as const) {
        sheets += 1;
        // Each was audited before it was handed out, or there were none; some once more, as handed out.
        if (sheets % 8 > 0) continue;
        const [fault] = auditSheet(sheetOf(job.axes, from, sheet.steps));
        if (fault)
          throw new Error(
            `rule ${fault.rule}, ${fault.step} ${fault.message}: ${JSON.stringify(job.items)} cut after ${whole.steps[at - 1].id}`,
          );
      }
    }
    expect([...met].sort()).toEqual(JOB_KINDS.map((k) => k.id).sort());
  });

  it("work added in the middle is planned from there, or refused in words", () => {
    const next = numbers(5);
    let [added, refused] = [0, 0];
    for (let i = 0; i < 400; i += 1) {
      const job = anyJob(next);
      const whole = planJob(job);
      const at = Math.floor(next() * whole.steps.length);
      const start = stateAt(whole, at);
      const more = anyJob(next).items[0].kind;
      const { letter, config } = job.axes[0];
      if (!jobKind(more).fits(config)) continue;
      try {
        const sheet = planJob({
          ...job,
          items: [{ letter, kind: more }],
          options: anyOptions(next),
          start,
        });
        const faults = auditSheet(sheetOf(job.axes, start, sheet.steps));
        expect([more, faults.map((f) => f.message)]).toEqual([more, []]);
        added += 1;
      } catch (error) {
        if (!(error instanceof NoWay)) throw error;
        expect(error.message.length).toBeGreaterThan(20);
        refused += 1;
      }
    }
    expect(added).toBeGreaterThan(100);
    expect(refused).toBeGreaterThanOrEqual(0);
  });

  it("a kind that does not fit is an error, every step has its place, every cause its job", () => {
    expect(() => plan(x, "rack-spot")).toThrow("does not fit X");
    const placed = new Set(STEP_ORDER);
    const put = ["gear-take", "block-away", "block-back", "isolate", "tools-out", "energise", "sign-off"];
    for (const { id } of STEP_KINDS) expect([id, placed.has(id) || put.includes(id)]).toEqual([id, true]);
    for (const cause of [...Object.keys(JOB_OF_CAUSE), ...Object.keys(LOOSE_OF_CAUSE)])
      expect(CAUSES.map((c) => c.id)).toContain(cause);
  });
});

describe("the order of the trade (common practice, no source)", () => {
  it("fixed-end bearings on a head with counterweight read as they should", () => {
    // The order of the sheet as it should read, by its step ids.
    const order = [
      "measure-before",
      "note-home",
      "panel-off",
      "go-opening",
      "set-block",
      "secure-balance",
      "covers-off",
      "bumper-off",
      "hub-ease",
      "motor-off",
      "hub-off",
      "try-end",
      "prop-in",
      "lock-open",
      "nut-back",
      "retainer-off",
      "nut-off",
      "spacer-out",
      "housing-ease",
      "pins-out",
      "shims-out",
      "housing-off",
      "bearing-out",
      "finger-feel",
      "back-drive",
      "clean-seat",
      "bearing-in",
      "retainer-on",
      "housing-on",
      "pins-in",
      "shims-in",
      "housing-pinned",
      "wind-up",
      "spacer-in",
      "nut-on",
      "set-preload",
      "prop-out",
      "hub-on",
      "gear-take",
      "block-away",
      "move-opening",
      "block-back",
      "motor-on",
      "coupling-shut",
      "bumper-on",
      "release-balance",
      "tools-out",
      "energise",
      "remove-block",
      "creep",
      "reference",
      "slow-jog",
      "retest-chain",
      "review-compensation",
      "park",
      "tab-fold",
      "covers-on",
      "panel-on",
      "last-stroke",
      "sign-off",
    ];
    const kinds = kindsOf(plan(head, "fixed-bearings"));
    let from = -1;
    for (const id of order) {
      const at = kinds.indexOf(id, from + 1);
      expect([id, at > from]).toEqual([id, true]);
      from = at;
    }
    // Pinned, it comes back where it was: nothing is aligned, no bracket is touched.
    for (const none of ["bracket-loose", "nut-ease", "move-near-fixed"]) expect(kinds).not.toContain(none);
  });

  it("a brake with a lever is let go to try the block; without one the easing is the try", () => {
    const lever = plan({ ...head, mechanics: { ...head.mechanics, brakeLever: true } }, "coupling");
    expect(kindsOf(lever)).toContain("try-block");
    const easing = plan(head, "coupling").steps.find((s) => s.kind === "hub-ease");
    expect(easing?.how.join(" ")).toContain("This is the try of the block");
    expect(kindsOf(plan(head, "coupling"))).not.toContain("try-block");
  });

  it("no brake and a balance: it is tied down before the power goes, and tried again once the balance is pinned", () => {
    const kinds = kindsOf(plan({ ...head, brake: false }, "fixed-bearings"));
    const at = (id: string, from = 0): number => kinds.indexOf(id, from);
    expect(at("try-block")).toBeLessThan(at("secure-balance"));
    expect(at("try-block", at("secure-balance"))).toBeGreaterThan(0);
    expect(kinds.filter((k) => k === "untie").length).toBeGreaterThan(1);
  });

  it("a light lead-screw machine is aligned with its motor on; the screw finds its place by hand", () => {
    const sheet = plan(defaultAxis("engraver", "X"), "align-screw");
    const kinds = kindsOf(sheet);
    for (const none of ["motor-off", "hub-ease", "hub-off"]) expect(kinds).not.toContain(none);
    expect(kinds).toEqual(
      expect.arrayContaining(["light-snug", "move-near-fixed", "light-tight", "move-near-far", "far-shut"]),
    );
    expect(sheet.steps.find((s) => s.kind === "move-near-fixed")?.title).toContain("by the lead screw by hand");
  });

  it("a rotating nut’s bearing: belt, flange, clamps; nothing of a turning screw", () => {
    const rot: AxisConfig = {
      ...defaultAxis("router", "X"),
      transmission: "rotating-nut",
      ratio: 2,
    };
    const sheet = plan(rot, "nut-bearing");
    expect(kindsOf(sheet)).toEqual(
      expect.arrayContaining(["belt-off", "nut-flange-off", "bearing-in", "nut-flange-on", "belt-on"]),
    );
    const parts = sheet.steps.flatMap((s) => s.parts.map((p) => p.name));
    expect(parts).toContain("nut bearing set");
    expect(parts).not.toContain("end-bearing set");
    expect(JOB_KINDS.filter((k) => k.fits(rot)).map((k) => k.id)).not.toContain("bearing-preload");
  });

  it("a ground or preloaded nut is never opened; its days at the shop are said; flushing takes nothing apart", () => {
    const rebuilt = (over: Partial<AxisConfig>): readonly string[] =>
      kindsOf(plan({ ...x, ...over }, "ball-nut", { nutService: "rebuild" }));
    const cheap = {
      screw: { ...x.screw, make: "rolled" as const },
      nut: "single-clearance" as const,
    };
    expect(rebuilt(cheap)).toContain("nut-from-screw");
    for (const not of [
      { ...cheap, screw: x.screw },
      { ...cheap, nut: "double" as const },
    ]) {
      expect(rebuilt(not)).toContain("send-screw");
      expect(rebuilt(not)).not.toContain("nut-from-screw");
    }
    const balls = plan({ ...x, ...cheap }, "ball-nut", {
      nutService: "rebuild",
    }).steps.flatMap((s) => s.parts.map((p) => p.name));
    expect(balls).toContain("balls, one size, one set");
    expect(kindsOf(plan(x, "ball-nut", { nutService: "flush" }))).not.toContain("motor-off");
  });

  it("carriages one by one, unloaded and felt, drive clear, and a proof this axis can give", () => {
    const sheet = plan(defaultAxis("router", "X"), "carriages");
    const kinds = kindsOf(sheet);
    expect(kinds.filter((k) => /^carriage-\d$/.test(k))).toHaveLength(4);
    expect(kinds.indexOf("mesh-clear")).toBeLessThan(kinds.indexOf("carriage-1"));
    expect(kinds).toContain("retest-pattern");
    const stepper = kindsOf(plan({ ...defaultAxis("router", "X"), motor: "stepper" }, "carriages"));
    expect(stepper).toContain("retest-travel-steps");
    expect(stepper).not.toContain("retest-travel-load");
  });

  it("what needs the axis to move is done powered, hands out; what needs hands is done isolated", () => {
    const gib = plan(head, "gib").steps.find((s) => s.kind === "set-gib");
    expect(gib).toMatchObject({ hands: "out", verbs: ["jog"] });
    const rock = plan(head, "gib", { gib: "rock" }).steps.find((s) => s.kind === "set-gib-rock");
    expect(rock).toMatchObject({ hands: "in", verbs: ["rock"] });
    const home = kindsOf(plan(x, "home-switch"));
    expect(home.indexOf("energise")).toBeLessThan(home.indexOf("marker"));
  });

  it("X, Y and Z of one machine differ where they differ", () => {
    const out = (config: AxisConfig): string =>
      plan(config, "screw").steps.find((s) => s.kind === "screw-out")?.title ?? "";
    expect(out(x)).toContain("the side its nut’s flange faces");
    const barred = { ...x, mechanics: { ...x.mechanics, flangePasses: false } };
    expect(out(barred)).toContain("by the far end");
    expect(kindsOf(plan(barred, "screw"))).toContain("bracket-off");
    expect(kindsOf(plan(x, "screw"))).not.toContain("set-block");
    expect(kindsOf(plan(z, "screw"))).toContain("set-block");
  });

  it("the sheet “tighten” names the fasteners that its case found, and opens only what hides them", () => {
    const loose = planJob({
      axes: [{ letter: "X", config: x }],
      items: [{ letter: "X", kind: "tighten", loose: ["hub-screw"] }],
      options: DEFAULT_OPTIONS,
    });
    expect(kindsOf(loose)).toContain("tighten:hub-screw");
    expect(kindsOf(loose)).not.toContain("motor-off");
    expect(loose.steps.find((s) => s.kind === "tighten:hub-screw")?.title).toContain(
      "Coupling clamp screw on the screw",
    );
    expect(kindsOf(plan(x, "tighten"))).toContain("try-all");
  });

  it("a drag brake nobody looked for is looked for with the covers off; covers of a small machine take less", () => {
    const covers = (config: AxisConfig) => plan(config, "home-switch").steps.find((q) => q.kind === "covers-off");
    expect(covers(z)?.how.join(" ")).toContain("drag brake");
    const known = {
      ...z,
      mechanics: { ...z.mechanics, dragBrakeKnown: true },
    };
    expect(covers(known)?.how.join(" ")).not.toContain("drag brake");
    expect(covers(x)?.how.join(" ")).not.toContain("drag brake");
    expect(covers(defaultAxis("engraver", "X"))?.minutes).toBeLessThan(covers(x)?.minutes ?? 0);
  });

  it("people and gear follow weight: an engraver’s screw wants no sling", () => {
    const light = plan(defaultAxis("engraver", "X"), "screw");
    expect(light.steps.every((s) => s.people === 1)).toBe(true);
    expect(light.steps.flatMap((s) => s.tools)).not.toContain("sling");
    const long = plan(
      {
        ...x,
        screw: { ...x.screw, nominalMm: 63, rootMm: 57, freeLengthMm: 2400 },
      },
      "screw",
    );
    expect(long.steps.find((s) => s.kind === "screw-out")).toMatchObject({
      people: 2,
    });
  });
});
