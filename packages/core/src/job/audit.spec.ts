import { defaultAxis, type AxisConfig } from "../machine/axis";
import { stateAfter, stateText, type Effect, type MechanismSheet } from "../machine/mechanism";
import { auditSheet, auditStepNow } from "./audit";
import { planJob } from "./planner";
import { sheetOf } from "./sheets.testing";
import { DEFAULT_OPTIONS, type JobKindId, type PlannedStep } from "./step-kind";

const z = defaultAxis("vertical-centre", "Z");
/** The head of the sheet as it should read: box ways, counterweight, brake without lever, tab washer. */
const head: AxisConfig = {
  ...z,
  guideway: "box",
  counterweight: true,
  lockNut: "double-nut-tab",
  screw: { ...z.screw, nominalMm: 40, rootMm: 36 },
};
const stepper: AxisConfig = { ...defaultAxis("bench-mill", "X") };

function sheetFor(
  config: AxisConfig,
  kind: JobKindId,
): Omit<MechanismSheet, "steps"> & { readonly steps: readonly PlannedStep[] } {
  const axes = [{ letter: config.letter, config }];
  const plan = planJob({
    axes,
    items: [{ letter: config.letter, kind }],
    options: DEFAULT_OPTIONS,
  });
  return { ...sheetOf(axes, plan.start, plan.steps), steps: plan.steps };
}

/** The sheet with its steps changed by hand, each state line worked out anew so that only the break is wrong. */
function broken(
  config: AxisConfig,
  kind: JobKindId,
  change: (steps: PlannedStep[]) => readonly PlannedStep[],
  kit: Partial<MechanismSheet["kit"]> = {},
): readonly { readonly rule: number; readonly message: string }[] {
  const whole = sheetFor(config, kind);
  expect(auditSheet(whole)).toEqual([]);
  let state = whole.start;
  const steps = change([...whole.steps]).map((s): PlannedStep => {
    state = stateAfter(state, s.axis, s.effects);
    return {
      ...s,
      state: stateText(config, state.axes[config.letter], state.power),
    };
  });
  return auditSheet({ ...whole, steps, kit: { ...whole.kit, ...kit } });
}
const without =
  (...kinds: string[]) =>
  (steps: PlannedStep[]): readonly PlannedStep[] =>
    steps.filter((s) => !kinds.includes(s.kind));
const over =
  (kind: string, more: Partial<PlannedStep>) =>
  (steps: PlannedStep[]): readonly PlannedStep[] =>
    steps.map((s) => (s.kind === kind ? { ...s, ...more } : s));
const movedBefore =
  (kind: string, other: string) =>
  (steps: PlannedStep[]): readonly PlannedStep[] => {
    const step = steps.find((s) => s.kind === kind) as PlannedStep;
    const rest = steps.filter((s) => s !== step);
    rest.splice(
      rest.findIndex((s) => s.kind === other),
      0,
      step,
    );
    return rest;
  };
const rules = (faults: readonly { readonly rule: number }[]): readonly number[] =>
  [...new Set(faults.map((f) => f.rule))].sort((a, b) => a - b);
const said = (faults: readonly { readonly message: string }[]): string => faults.map((f) => f.message).join(" | ");
const joint = (id: string, to: "tight" | "off"): Effect => ({ kind: "joint", joint: id, to }) as Effect;

describe("faults that were driven into the browser, in the new form", () => {
  it("a vertical member with motor and brake off is sent to the far end, off its block, no gear in the kit", () => {
    const unpinned: AxisConfig = {
      ...z,
      mechanics: { ...z.mechanics, fixedEnd: "unpinned" },
    };
    const faults = broken(unpinned, "fixed-bearings", without("gear-take", "block-away", "block-back"));
    expect(rules(faults)).toContain(2);
    const unkitted = broken(unpinned, "fixed-bearings", (s) => s, {
      tools: sheetFor(unpinned, "fixed-bearings").kit.tools.filter((t) => t !== "lifting gear"),
    });
    expect(said(unkitted)).toContain("needs lifting gear, which the kit does not hold");
  });

  it("“by the screw by hand” while the nut is parted from its bracket", () => {
    const x = { ...defaultAxis("vertical-centre", "X") };
    const faults = broken(x, "grease-nut", movedBefore("move-near-fixed", "nut-joined"));
    expect(said(faults)).toContain("cannot move X there by screw-by-hand");
  });

  it("the screw turned against an engaged brake", () => {
    const x: AxisConfig = {
      ...defaultAxis("vertical-centre", "X"),
      brake: true,
    };
    const faults = broken(x, "grease-nut", without("hub-ease", "coupling-shut"));
    expect(said(faults)).toContain("cannot move X there by screw-by-hand");
  });

  it("cut short after the ring came off: hand-tight, no preload, and the head energised on it", () => {
    const faults = broken(head, "fixed-bearings", without("set-preload"));
    expect(said(faults)).toContain("switches on while Z has its bearing-nut open");
    expect(rules(faults)).toContain(4);
  });
});

describe("one break of each rule is red", () => {
  it("1: hands in over an untried block, under a member without one, under an upright screw without its prop", () => {
    const lever: AxisConfig = {
      ...head,
      mechanics: { ...head.mechanics, brakeLever: true },
    };
    expect(rules(broken(lever, "fixed-bearings", without("try-block")))).toContain(1);
    expect(rules(broken(head, "fixed-bearings", without("set-block", "remove-block")))).toContain(1);
    expect(said(broken(head, "fixed-bearings", without("prop-in", "prop-out")))).toContain("hang on its nut alone");
    expect(said(broken(head, "coupling", over("motor-off", { hands: "under" })))).not.toContain("without a block");
    expect(said(broken({ ...z, brake: true }, "home-switch", over("covers-off", { hands: "under" })))).toContain(
      "puts somebody under Z without a block",
    );
  });

  it("1: an upright screw with its nut parted and its end open hangs in a sling, or it drops", () => {
    const faults = broken(z, "screw", without("sling-on", "sling-off"));
    expect(rules(faults)).toContain(1);
    expect(said(faults)).toContain("hang on nothing");
    expect(said(broken(z, "screw", without("sling-off")))).toContain("switches on while Z has its sling open");
  });

  it("2: a place asked for and nobody who goes there", () => {
    const faults = broken(stepper, "align-screw", without("move-near-far"));
    expect(said(faults)).toContain("wants the member near-far");
  });

  it("3: a verb or a reach that the state does not allow", () => {
    expect(said(broken(stepper, "align-screw", over("slow-jog", { verbs: ["read-load"] })))).toContain(
      "cannot read-load in this state",
    );
    expect(said(broken(head, "fixed-bearings", without("hub-off", "hub-on")))).toContain(
      "cannot reach past the coupling hub",
    );
  });

  it("4: loosened untried, tightened over nothing, left below its torque", () => {
    const untried = broken(head, "fixed-bearings", (steps) =>
      steps.map((s) => (s.kind === "hub-ease" ? { ...s, effects: s.effects.filter((e) => e.kind !== "note") } : s)),
    );
    expect(said(untried)).toContain("loosens the coupling hub on the screw untried");
    expect(said(broken(head, "fixed-bearings", movedBefore("retainer-on", "bearing-in")))).toContain(
      "closes before the bearing set is in",
    );
    const loose = broken(stepper, "align-screw", without("far-shut"));
    expect(rules(loose)).toContain(4);
  });

  it("5: a part that does not go back, or goes back unsaid", () => {
    expect(rules(broken(head, "fixed-bearings", without("bumper-on")))).toContain(5);
    expect(said(broken(head, "fixed-bearings", over("shims-in", { keeps: null })))).toContain(
      "puts the housing shims back without saying how",
    );
    expect(rules(broken(head, "fixed-bearings", without("release-balance")))).toContain(5);
  });

  it("6: a mark is used that nobody made", () => {
    const faults = broken(head, "fixed-bearings", without("note-home"));
    expect(said(faults)).toContain("uses “home-noted”, which nobody made");
  });

  it("7: a tool, a second person or a part that is not there", () => {
    expect(said(broken(head, "fixed-bearings", (s) => s, { people: 1 }))).toContain("needs two people");
    expect(said(broken(head, "fixed-bearings", (s) => s, { parts: [] }))).toContain(
      "puts in end-bearing set, which the kit does not hold",
    );
    const rack = defaultAxis("router", "X");
    const part = {
      name: "end-bearing set",
      count: 1,
      of: "bearings",
      order: true,
      cost: "bearing-set",
    } as const;
    expect(
      said(
        broken(rack, "pinion", over("pinion-set", { parts: [part] }), {
          parts: ["end-bearing set"],
        }),
      ),
    ).toContain("which X does not have");
  });

  it("8: an opened link that nothing proves, a proof that this axis cannot give, covers closed before it", () => {
    expect(said(broken(head, "fixed-bearings", without("retest-chain", "review-compensation")))).toContain(
      "never proves Z again: chain",
    );
    const bench = { ...stepper, guideway: "dovetail" as const };
    expect(said(broken(bench, "gib", over("retest-travel-steps", { retest: "travel-load" })))).toContain("cannot do");
    expect(said(broken(head, "fixed-bearings", movedBefore("retest-chain", "covers-on")))).not.toContain(
      "before the retest",
    );
    const late = broken(stepper, "align-screw", (steps) => {
      const on = steps.find((s) => s.kind === "covers-on") as PlannedStep;
      const rest = steps.filter((s) => s !== on);
      rest.splice(
        rest.findIndex((s) => s.kind === "energise"),
        0,
        on,
      );
      return rest;
    });
    expect(said(late)).toContain("closes the covers before the retest has passed");
  });

  it("9: words or a state that are not the step’s", () => {
    const whole = sheetFor(head, "coupling");
    const steps = whole.steps.map((s) =>
      s.kind === "motor-off" ? { ...s, state: "power on · head: drive · nothing open" } : s,
    );
    expect(rules(auditSheet({ ...whole, steps }))).toEqual([9]);
    expect(rules(broken(head, "coupling", over("motor-on", { how: [] })))).toEqual([9]);
  });

  it("10: full travel before the reference, power changed without a hold, a block tried before the balance was secured", () => {
    expect(rules(broken(head, "coupling", without("reference")))).toContain(10);
    expect(said(broken(head, "coupling", over("isolate", { hold: "" })))).toContain("changes the power without a hold");
    const lever: AxisConfig = {
      ...head,
      mechanics: { ...head.mechanics, brakeLever: true },
    };
    const early = broken(lever, "coupling", movedBefore("try-block", "secure-balance"));
    expect(rules(early)).toContain(1);
    const uncompensated = broken(head, "coupling", without("measure-before"));
    expect(said(uncompensated)).toContain("retests under a compensation that nobody noted");
  });
});

describe("a single step, now", () => {
  it("is refused in words by the state it finds, and by nothing else", () => {
    const { axes, start, steps } = sheetFor(head, "coupling");
    const motor = steps.find((s) => s.kind === "motor-off") as PlannedStep;
    expect(said(auditStepNow(axes, start, motor))).toContain("has hands in with the power on");
    expect(auditStepNow(axes, start, steps[0])).toEqual([]);
    const foreign = { ...motor, effects: [joint("gantry", "off")] };
    expect(said(auditStepNow(axes, start, foreign))).toContain("undoes what Z does not have");
  });
});
