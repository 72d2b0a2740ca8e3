import type { AxisConfig } from "../axis";
import { proofsOf, type Proof } from "./proofs";
import { jointsOf, openness, type JointId, type JointState } from "./joints";

/** Where the member stands, as far as a job asks. */
export const PLACES = ["anywhere", "opening", "near-fixed", "near-far", "middle"] as const;
export type Place = (typeof PLACES)[number];

export const WAYS = ["jog", "screw-by-hand", "push", "gear", "nut-by-hand"] as const;
/** How a member is moved. */
export type Way = (typeof WAYS)[number];

export type Power = "on" | "isolated";

type Notes = Readonly<Record<string, true>>;

/** One axis in one state of a job. What is not in `joints` is tight. */
export interface MechanismState {
  readonly joints: Readonly<Partial<Record<JointId, JointState>>>;
  readonly member: Place;
  readonly block: "none" | "set" | "tried";
  /** Tied down to its block: it cannot rise either. */
  readonly tied: boolean;
  readonly gear: "none" | "taut";
  readonly balance: "acts" | "secured";
  /** A prop stands under the screw. */
  readonly prop: boolean;
  /** The screw hangs in a sling from above. */
  readonly sling: boolean;
  /** The brake is let go by its lever. */
  readonly brakeLet: boolean;
  readonly referenced: boolean;
  /** What was measured, marked, tried and proven so far, and what is owed. */
  readonly notes: Notes;
}

export interface MachineState {
  readonly power: Power;
  readonly axes: Readonly<Record<string, MechanismState>>;
}

/** What a step does to the mechanism; several in their order. */
export type Effect =
  | {
      readonly kind: "joint";
      readonly joint: JointId;
      readonly to: JointState;
    }
  | { readonly kind: "member"; readonly to: Place; readonly by: Way }
  | { readonly kind: "block"; readonly to: MechanismState["block"] }
  | { readonly kind: "tie"; readonly to: boolean }
  | { readonly kind: "gear"; readonly to: MechanismState["gear"] }
  | { readonly kind: "balance"; readonly to: MechanismState["balance"] }
  | { readonly kind: "prop"; readonly to: boolean }
  | { readonly kind: "sling"; readonly to: boolean }
  | { readonly kind: "brake-let"; readonly to: boolean }
  | { readonly kind: "referenced" }
  | { readonly kind: "note"; readonly id: string }
  | { readonly kind: "power"; readonly to: Power };

/** An axis at the start of a job: whole, held as it is every night. */
export const WHOLE: MechanismState = {
  joints: {},
  member: "anywhere",
  block: "none",
  tied: false,
  gear: "none",
  balance: "acts",
  prop: false,
  sling: false,
  brakeLet: false,
  referenced: true,
  notes: {},
};

/**
 * A machine at the start of a job: whole, with its power on.
 * @param letters - letters of the axes
 * @returns the state
 * @example startState(["X"]).power // 'on'
 */
export function startState(letters: readonly string[]): MachineState {
  return {
    power: "on",
    axes: Object.fromEntries(letters.map((l) => [l, WHOLE])),
  };
}

/**
 * State of a joint; tight where nothing was done to it.
 * @param state - how the axis stands now
 * @param joint - the joint
 * @returns its state
 * @example jointAt(WHOLE, "housing") // 'tight'
 */
export function jointAt(state: MechanismState, joint: JointId): JointState {
  return state.joints[joint] ?? "tight";
}

/** With these undone the drive no longer knows where the member is. */
export const LOSES_HOME: readonly JointId[] = [
  "hub-motor",
  "hub-screw",
  "belt",
  "mesh",
  "pinion",
  "home-switch",
  "nut-flange",
];

type Writable<T> = { -readonly [K in keyof T]: T[K] };

/** An axis while the effects of one step are done to it: copied once, however many they are. */
class Draft {
  private readonly now: Writable<MechanismState>;
  private joints: Partial<Record<JointId, JointState>> | null = null;
  private notes: Record<string, true> | null = null;

  constructor(private readonly from: MechanismState) {
    this.now = { ...from };
  }

  end(): MechanismState {
    if (this.joints) this.now.joints = this.joints;
    if (this.notes) this.now.notes = this.notes;
    return this.now;
  }

  /** Effects on power belong to the machine and change nothing here. */
  do(effect: Effect): void {
    const { now } = this;
    switch (effect.kind) {
      case "joint":
        this.bring(effect.joint, effect.to);
        break;
      case "member":
        now.member = effect.to;
        // Moved without its drive, the control no longer knows where it stands.
        now.referenced &&= effect.by === "jog";
        break;
      case "block":
        now.block = effect.to;
        break;
      case "tie":
        now.tied = effect.to;
        break;
      case "gear":
        now.gear = effect.to;
        break;
      case "balance":
        now.balance = effect.to;
        // A block that was tried with the balance acting was tried under another load.
        if (now.block === "tried") now.block = "set";
        break;
      case "prop":
        now.prop = effect.to;
        break;
      case "sling":
        now.sling = effect.to;
        break;
      case "brake-let":
        now.brakeLet = effect.to;
        break;
      case "referenced":
        now.referenced = true;
        break;
      case "note":
        this.note(effect.id);
        break;
      case "power":
        break;
    }
  }

  private bring(joint: JointId, to: JointState): void {
    const from = (this.joints ?? this.from.joints)[joint] ?? "tight";
    if (from === to) return;
    this.joints =
      to === "tight"
        ? without(this.joints ?? this.from.joints, joint)
        : { ...(this.joints ?? this.from.joints), [joint]: to };
    if (openness(to) <= openness(from)) return;
    // With its hub off, the screw turns by itself: where the clamp screw faces is lost.
    if (joint === "hub-screw" && to === "off" && this.now.member === "opening") this.now.member = "anywhere";
    if (LOSES_HOME.includes(joint)) this.now.referenced = false;
    this.owe(proofsOf(joint));
  }

  /** What was proven before a joint was opened is owed again. */
  private owe(proofs: readonly Proof[]): void {
    if (proofs.length === 0) return;
    const settled = proofs.map((proof) => `retested:${proof}`);
    const notes = without(this.notes ?? this.from.notes, ...settled);
    for (const proof of proofs) notes[`owes:${proof}`] = true;
    this.notes = notes;
  }

  /** A note is kept; a retest settles what it proves. */
  private note(id: string): void {
    const has = this.notes ?? this.from.notes;
    if (id.startsWith("retested:")) this.notes = without(has, id.replace("retested", "owes"));
    else if (has[id]) return;
    this.notes ??= { ...has };
    this.notes[id] = true;
  }
}

/** A copy without some keys. Built, not deleted from: an object that loses keys is slow from then on. */
function without<T>(record: Readonly<Record<string, T>>, ...keys: readonly string[]): Record<string, T> {
  if (!keys.some((key) => key in record)) return { ...record };
  const rest: Record<string, T> = {};
  for (const key in record) if (!keys.includes(key)) rest[key] = record[key];
  return rest;
}

/**
 * The machine after a step’s effects; `letter` null for what concerns the machine alone.
 * @param state - the machine before
 * @param letter - letter of the axis, or null
 * @param effects - effects of the step, in their order
 * @returns the machine after
 * @example stateAfter(startState(["X"]), null, []).power // 'on'
 */
export function stateAfter(state: MachineState, letter: string | null, effects: readonly Effect[]): MachineState {
  if (effects.length === 0) return state;
  let { power } = state;
  let draft: Draft | null = null;
  for (const effect of effects) {
    if (effect.kind === "power") power = effect.to;
    else if (letter !== null && state.axes[letter]) (draft ??= new Draft(state.axes[letter])).do(effect);
  }
  const axes = letter !== null && draft ? { ...state.axes, [letter]: draft.end() } : state.axes;
  return { power, axes };
}

/**
 * Joints that are not tight, in the order of the chain.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns the joints
 * @example openJoints(defaultAxis("vertical-centre", "X"), WHOLE).length // 0
 */
export function openJoints(config: AxisConfig, state: MechanismState): readonly JointId[] {
  const undone = Object.keys(state.joints);
  if (undone.length === 0) return [];
  return jointsOf(config).filter((j) => undone.includes(j) && jointAt(state, j) !== "tight");
}
