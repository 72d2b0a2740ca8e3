import { isGravityAxis, type AxisConfig } from "../machine/axis";
import {
  againstPower,
  canRetest,
  effectNeeds,
  fastenersOf,
  holdersOf,
  isHeld,
  JOINT_NAMES,
  jointAt,
  jointsOf,
  meets,
  openness,
  owedIn,
  pullOf,
  screwNeedsProp,
  screwNeedsSling,
  stateAfter,
  stateText,
  verbAllowed,
  waysToMove,
  type MechanismState,
  type Effect,
  type JointId,
  type MachineState,
  type MechanismSheet,
  type MechanismStep,
  type Power,
} from "../machine/mechanism";
import { auditEnd, auditKit } from "./audit-end";
import type { SheetAudit } from "./sheet-audit";

/** One thing that a sheet asks for and that cannot be, or hurts. `rule` as numbered in {@link auditSheet}. */
export interface AuditFault {
  readonly rule: number;
  readonly step: string;
  readonly message: string;
}

/**
 * Walks a sheet state by state and looks for what cannot be done, or what hurts:
 * 1 hands in without a tried holder, hands under without a block, an upright screw without a prop;
 * 2 a place asked for and no way to move there; 3 a verb that the state does not allow, or a joint
 * that cannot be reached; 4 a fastener tightened before what it locates is in, loosened untried, left
 * loose, a bearing nut not at preload and locked; 5 a part that does not go back, or goes back
 * unsaid; 6 something used that nobody made; 7 tools, people or parts that kit and axis do not have;
 * 8 an opened link without a retest that this axis can do; 9 words or state that are not the step’s;
 * 10 full travel before referencing, power changed without a hold, a block tried before the balance
 * was secured.
 * It knows the mechanism, and nothing of the planner or of its steps.
 * @param sheet - axes, steps with the state of each, and kit
 * @returns the faults in the order they are met; empty for a sheet that can be worked
 * @example auditSheet({ ...planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }), kit: kitOf(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS })) }).length // 0
 */
export function auditSheet(sheet: MechanismSheet): readonly AuditFault[] {
  const faults: AuditFault[] = [];
  const walk: SheetAudit = {
    sheet,
    say: (rule, step, message) => faults.push({ rule, step, message }),
  };
  let state = sheet.start;
  for (const step of sheet.steps) state = auditStep(walk, step, state);
  auditEnd(walk, state);
  auditKit(walk);
  return faults;
}

/**
 * What stands against doing one step now, rules 1 to 4, 6 and 10 of {@link auditSheet}; empty when
 * nothing does.
 * @param axes - the axes of the sheet
 * @param state - how the machine stands now
 * @param step - the step
 * @returns the faults
 * @example auditStepNow([{ letter: "X", config: defaultAxis("vertical-centre", "X") }], startState(["X"]), planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }).steps[0]).length // 0
 */
export function auditStepNow(
  axes: MechanismSheet["axes"],
  state: MachineState,
  step: MechanismStep,
): readonly AuditFault[] {
  const faults: AuditFault[] = [];
  const kit = { tools: step.tools, people: step.people, parts: [] };
  auditStep(
    {
      sheet: { axes, start: state, steps: [step], kit },
      say: (rule, id, message) => faults.push({ rule, step: id, message }),
    },
    step,
    state,
  );
  return faults.filter((f) => f.rule !== 9);
}

function auditStep(walk: SheetAudit, step: MechanismStep, before: MachineState): MachineState {
  const { sheet, say } = walk;
  const states = [before];
  for (const effect of step.effects) states.push(stateAfter(states[states.length - 1], step.axis, [effect]));
  const after = states[states.length - 1];
  if (!step.title.trim() || step.how.length === 0) say(9, step.id, "says nothing");
  auditPower(walk, { step, before, after });
  for (const { letter, config } of sheet.axes) {
    const own = step.axis === letter;
    if (step.hands !== "out" && before.power === "isolated")
      auditHands(walk, { step, axis: { letter, config }, before, after });
    if (own) auditAxisStep(walk, { step, config, states });
    if (own && step.state !== stateText(config, after.axes[letter], after.power))
      say(9, step.id, "shows a state that is not the one after it");
  }
  return after;
}

/** Power: never changed unsaid, never on with hands in, never off under a member that nothing else holds. */
function auditPower(
  { sheet, say }: SheetAudit,
  {
    step,
    before,
    after,
  }: { readonly step: MechanismStep; readonly before: MachineState; readonly after: MachineState },
): void {
  if (step.hands !== "out" && before.power === "on") say(1, step.id, "has hands in with the power on");
  if (before.power === after.power) return;
  if (!step.hold) say(10, step.id, "changes the power without a hold");
  if (after.power === "isolated") {
    for (const { letter, config } of sheet.axes) {
      const state = after.axes[letter];
      const held = holdersOf(config, state, "isolated");
      const pull = pullOf(config, state);
      for (const way of ["down", "up"] as const)
        if (pull[way] && !held.some((h) => h[way]))
          say(1, step.id, `leaves ${letter} to go ${way} when the power goes`);
    }
    return;
  }
  for (const { letter, config } of sheet.axes) {
    const state = before.axes[letter];
    for (const what of againstPower(config, state)) say(3, step.id, `switches on while ${letter} has its ${what} open`);
  }
}

/** Rule 1: whatever holds through the step must have been tried; the step that tries it stands clear. */
function auditHands(
  { say }: SheetAudit,
  {
    step,
    axis,
    before,
    after,
  }: {
    readonly step: MechanismStep;
    readonly axis: { readonly letter: string; readonly config: AxisConfig };
    readonly before: MachineState;
    readonly after: MachineState;
  },
): void {
  const { letter, config } = axis;
  const [was, is] = [before.axes[letter], after.axes[letter]];
  const tries =
    step.axis === letter && step.hands === "in" && step.effects.some((e) => e.kind === "block" && e.to === "tried");
  const trying = (s: MechanismState): MechanismState => (tries && s.block === "set" ? { ...s, block: "tried" } : s);
  const holds = (s: MechanismState, power: Power) => holdersOf(config, trying(s), power);
  // While the balance is secured or let act, what was tried before it holds; then it is tried anew.
  const rebalances = step.axis === letter && step.effects.some((e) => e.kind === "balance");
  const stays = holds(was, before.power).filter((h) =>
    holds(is, after.power).some((x) => x.id === h.id && (x.tried || rebalances)),
  );
  // What acts through the whole step: the balance may begin or cease to pull in it.
  const pulls = [was, is].map(trying);
  if (!pulls.every((s) => isHeld(config, s, stays)))
    say(1, step.id, `puts hands in while nothing tried holds ${letter}`);
  if (step.hands === "under" && isGravityAxis(config) && !stays.some((h) => h.id === "block"))
    say(1, step.id, `puts somebody under ${letter} without a block`);
  if (screwNeedsSling(config, is) && !is.sling) say(1, step.id, `lets the upright screw of ${letter} hang on nothing`);
  if (screwNeedsProp(config, is) && !is.prop)
    say(1, step.id, `lets the upright screw of ${letter} hang on its nut alone`);
}

function auditAxisStep(
  walk: SheetAudit,
  {
    step,
    config,
    states,
  }: { readonly step: MechanismStep; readonly config: AxisConfig; readonly states: readonly MachineState[] },
): void {
  const { say } = walk;
  const letter = step.axis ?? "";
  const [before] = states;
  const axis = before.axes[letter];
  if (step.at && axis.member !== step.at) say(2, step.id, `wants the member ${step.at}, and it stands ${axis.member}`);
  for (const note of step.uses) if (!axis.notes[note]) say(6, step.id, `uses “${note}”, which nobody made`);
  for (const verb of step.verbs)
    if (!verbAllowed(config, { state: axis, power: before.power, verb }))
      say(verb === "full-travel" && !axis.referenced ? 10 : 3, step.id, `cannot ${verb} in this state`);
  auditReach(walk, { step, config, state: axis });
  step.effects.forEach((effect, i) => {
    auditEffect(walk, { step, axis: { letter, config }, machine: states[i], effect });
  });
  if (step.retest) {
    if (!canRetest(config, step.retest)) say(8, step.id, "asks for a retest that this axis cannot do");
    if (step.retest === "chain" && !states[states.length - 1].axes[letter].notes["compensation-noted"])
      say(10, step.id, "retests under a compensation that nobody noted");
  }
  const has = jointsOf(config);
  for (const part of step.parts)
    if (part.of && !has.includes(part.of)) say(7, step.id, `puts in ${part.name}, which ${letter} does not have`);
}

function auditReach(
  { say }: SheetAudit,
  {
    step,
    config,
    state,
  }: { readonly step: MechanismStep; readonly config: AxisConfig; readonly state: MechanismState },
): void {
  for (const need of effectNeeds(config, step.effects)) {
    if (meets(state, need)) continue;
    const name = JOINT_NAMES[need.joint].name;
    say(
      need.side === "open" ? 3 : 4,
      step.id,
      need.side === "open" ? `cannot reach past the ${name}` : `closes before the ${name} is in`,
    );
  }
}

function auditEffect(
  { say }: SheetAudit,
  {
    step,
    axis,
    machine,
    effect,
  }: {
    readonly step: MechanismStep;
    readonly axis: { readonly letter: string; readonly config: AxisConfig };
    readonly machine: MachineState;
    readonly effect: Effect;
  },
): void {
  const { letter, config } = axis;
  const state = machine.axes[letter];
  switch (effect.kind) {
    case "joint": {
      if (!jointsOf(config).includes(effect.joint)) {
        say(7, step.id, `undoes what ${letter} does not have: ${effect.joint}`);
        return;
      }
      const from = jointAt(state, effect.joint);
      const lower = openness(effect.to) > openness(from);
      if (effect.to === from && !state.notes[`tried:${effect.joint}`])
        say(3, step.id, `brings the ${JOINT_NAMES[effect.joint].name} to where it is already`);
      if (lower && from === "tight" && hasScrews(config, effect.joint) && !state.notes[`tried:${effect.joint}`])
        say(4, step.id, `loosens the ${JOINT_NAMES[effect.joint].name} untried`);
      if (!lower && HIDING.includes(effect.joint) && owedIn(state.notes).length > 0)
        say(8, step.id, `closes the ${JOINT_NAMES[effect.joint].name} before the retest has passed`);
      if (effect.joint === "balance-link" && lower && state.balance !== "secured")
        say(1, step.id, `unhooks the balance of ${letter} before it is secured`);
      if (step.hands === "out" && !OUTSIDE.includes(effect.joint))
        say(3, step.id, `works on the ${JOINT_NAMES[effect.joint].name} with no hand in`);
      if (!lower && PUT_BACK.includes(effect.joint) && effect.to === "tight" && step.keeps !== effect.joint)
        say(5, step.id, `puts the ${JOINT_NAMES[effect.joint].name} back without saying how`);
      return;
    }
    case "member":
      if (!waysToMove(config, { state, power: machine.power, to: effect.to }).includes(effect.by))
        say(2, step.id, `cannot move ${letter} there by ${effect.by}`);
      return;
    case "gear":
      if (effect.to === "none" && !othersHold(config, { ...state, gear: "none" }, machine.power))
        say(1, step.id, `lets the gear go with nothing else to hold ${letter}`);
      return;
    case "block":
      if (effect.to === "tried" && state.block === "none")
        say(10, step.id, `tries a block that ${letter} does not have`);
      if (effect.to === "none" && !othersHold(config, { ...state, block: "none", tied: false }, machine.power))
        say(1, step.id, `takes the block from under ${letter} with nothing else to hold it`);
      return;
    case "brake-let":
      if (effect.to && !othersHold(config, { ...state, brakeLet: true }, machine.power))
        say(1, step.id, `lets the brake of ${letter} go over nothing`);
      return;
    default:
      return;
  }
}

/** Something else holds against every pull, tried or about to be. */
function othersHold(config: AxisConfig, state: MechanismState, power: Power): boolean {
  const pull = pullOf(config, state);
  const holders = holdersOf(config, state, power);
  return (["down", "up"] as const).every((way) => !pull[way] || holders.some((h) => h[way]));
}

/** What hides the work again: not before it is proven. */
const HIDING: readonly JointId[] = ["covers", "panel"];
/** Worked from outside, with the axis powered and stopped. */
const OUTSIDE: readonly JointId[] = ["gib", "antibacklash"];
/** What goes back exactly as it was, or its change is recorded. */
const PUT_BACK: readonly JointId[] = ["shims", "pins", "spacer"];

/** Screws that imitate worn parts when loose: tried before they are loosened. */
const TRIED: readonly JointId[] = [
  "hub-screw",
  "hub-motor",
  "motor",
  "retainer",
  "housing",
  "far-support",
  "nut-bracket",
  "bracket-member",
  "nut-flange",
  "screw-clamps",
  "pinion",
  "rack",
  "belt",
];

function hasScrews(config: AxisConfig, joint: JointId): boolean {
  return TRIED.includes(joint) && fastenersOf(config).some((f) => f.joint === joint);
}
