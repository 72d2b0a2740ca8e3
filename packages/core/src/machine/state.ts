import type { AxisConfig } from "../axis";
import { proofsOf, type Proof } from "./proofs";
import { jointsOf, openness, type JointId, type JointState } from "./joints";

/** Where the member stands, as far as a job asks. */
export const PLACES = [
  "anywhere",
  "opening",
  "near-fixed",
  "near-far",
  "middle",
] as const;
export type Place = (typeof PLACES)[number];

export const WAYS = [
  "jog",
  "screw-by-hand",
  "push",
  "gear",
  "nut-by-hand",
] as const;
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

export function startState(letters: readonly string[]): MachineState {
  return {
    power: "on",
    axes: Object.fromEntries(letters.map((l) => [l, WHOLE])),
  };
}

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

/** A record without one of its keys; the record itself where it has it not. */
function without<T>(
  record: Readonly<Record<string, T>>,
  key: string,
): Readonly<Record<string, T>> {
  if (!(key in record)) return record;
  const { [key]: _, ...rest } = record;
  return rest;
}

/** What was proven before a joint was opened is owed again. */
function owing(notes: Notes, proofs: readonly Proof[]): Notes {
  return proofs.reduce<Notes>(
    (now, proof) => ({
      ...without(now, `retested:${proof}`),
      [`owes:${proof}`]: true,
    }),
    notes,
  );
}

/** A note is kept; a retest settles what it proves. */
function noting(notes: Notes, id: string): Notes {
  const now: Notes = { ...notes, [id]: true };
  return id.startsWith("retested:")
    ? without(now, id.replace("retested", "owes"))
    : now;
}

function withJoint(
  state: MechanismState,
  joint: JointId,
  to: JointState,
): MechanismState {
  const lower = openness(to) > openness(jointAt(state, joint));
  const joints: MechanismState["joints"] =
    to === "tight"
      ? without(state.joints, joint)
      : { ...state.joints, [joint]: to };
  const notes = lower ? owing(state.notes, proofsOf(joint)) : state.notes;
  return {
    ...state,
    // With its hub off, the screw turns by itself: where the clamp screw faces is lost.
    member:
      joint === "hub-screw" && to === "off" && state.member === "opening"
        ? "anywhere"
        : state.member,
    joints,
    notes,
    referenced: state.referenced && !(lower && LOSES_HOME.includes(joint)),
  };
}

/** One axis after an effect; effects on power belong to the machine and change nothing here. */
function axisAfter(state: MechanismState, effect: Effect): MechanismState {
  switch (effect.kind) {
    case "joint":
      return withJoint(state, effect.joint, effect.to);
    case "member":
      // Moved without its drive, the control no longer knows where it stands.
      return {
        ...state,
        member: effect.to,
        referenced: state.referenced && effect.by === "jog",
      };
    case "block":
      return { ...state, block: effect.to };
    case "tie":
      return { ...state, tied: effect.to };
    case "gear":
      return { ...state, gear: effect.to };
    case "balance":
      // A block that was tried with the balance acting was tried under another load.
      return {
        ...state,
        balance: effect.to,
        block: state.block === "tried" ? "set" : state.block,
      };
    case "prop":
      return { ...state, prop: effect.to };
    case "sling":
      return { ...state, sling: effect.to };
    case "brake-let":
      return { ...state, brakeLet: effect.to };
    case "referenced":
      return { ...state, referenced: true };
    case "note":
      return { ...state, notes: noting(state.notes, effect.id) };
    case "power":
      return state;
  }
}

/** The machine after a step’s effects; `letter` null for what concerns the machine alone. */
export function stateAfter(
  state: MachineState,
  letter: string | null,
  effects: readonly Effect[],
): MachineState {
  let { power } = state;
  let axis = letter === null ? undefined : state.axes[letter];
  for (const effect of effects) {
    if (effect.kind === "power") power = effect.to;
    else if (axis) axis = axisAfter(axis, effect);
  }
  const axes =
    letter !== null && axis ? { ...state.axes, [letter]: axis } : state.axes;
  return { power, axes };
}

/** Joints that are not tight, in the order of the chain. */
export function openJoints(
  config: AxisConfig,
  state: MechanismState,
): readonly JointId[] {
  return jointsOf(config).filter((j) => jointAt(state, j) !== "tight");
}
