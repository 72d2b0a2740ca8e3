import { isGravityAxis } from "../machine/axis";
import {
  againstPower,
  holdersOf,
  isHeld,
  isSelfLocking,
  pullOf,
  stateAfter,
  stateText,
  waysToMove,
  type MechanismState,
  type MachineState,
  type Place,
  type Verb,
  type Way,
} from "../machine/mechanism";
import { placeOf } from "./order";
import { torqueOf } from "./said";
import type { AxisWork } from "./axis-work";
import { selectSteps } from "./selection";
import { stepKind } from "./step-kinds";
import { BLOCK_AWAY, BLOCK_BACK, GEAR_TAKE, moveStep } from "./steps-move";
import { valueOf, type JobKindId, type PlannedStep, type StepContext, type StepKind } from "./step-kind";

/** There is no way to go on like this, in words; nothing is planned. */
export class NoWay extends Error {
  override readonly name = "NoWay";
}

/** Worked axis by axis; the other phases step by step over all axes. */
const BY_AXIS = new Set(["work", "prove"]);

const JOGS: readonly Verb[] = ["jog", "creep", "reverse", "home", "full-travel"];

interface OnAxis {
  readonly work: AxisWork;
  readonly sheet: ReadonlySet<string>;
  readonly kinds: ReadonlySet<JobKindId>;
}

export class Walk {
  private state: MachineState;
  private readonly steps: PlannedStep[] = [];
  private readonly times = new Map<string, number>();
  private readonly on: readonly OnAxis[];

  constructor(start: MachineState, works: readonly AxisWork[]) {
    this.state = start;
    this.on = works.map((work) => ({
      work,
      sheet: selectSteps(work),
      kinds: new Set(work.kinds),
    }));
  }

  run(): readonly PlannedStep[] {
    const list = this.on.flatMap((on, axis) =>
      [...on.sheet].map((id) => {
        const kind = stepKind(id);
        const place = placeOf(on.work.config, kind);
        const phase = 1000 * Math.floor(place / 1000);
        const key = BY_AXIS.has(kind.phase) ? [phase, axis, place] : [phase, place, axis];
        return { on, kind, key };
      }),
    );
    list.sort((a, b) => {
      const at = a.key.findIndex((k, i) => k !== b.key[i]);
      return at < 0 ? 0 : a.key[at] - b.key[at];
    });
    // Nothing is left hanging on gear.
    for (const on of this.on) if (this.axis(on).gear === "taut") this.emit(BLOCK_BACK, on);
    for (const { on, kind } of list) this.perform(kind, on);
    this.endPowered();
    this.emit(stepKind("sign-off"), null);
    return this.steps;
  }

  private axis(on: OnAxis): MechanismState {
    return this.state.axes[on.work.letter];
  }

  private context(on: OnAxis): StepContext {
    const { config, letter, options } = on.work;
    return {
      config,
      letter,
      options,
      state: this.axis(on),
      power: this.state.power,
      kinds: on.kinds,
      sheet: on.sheet,
    };
  }

  /** Makes true what a step needs, then does it. */
  private perform(kind: StepKind, on: OnAxis): void {
    if (kind.id === "remove-block" || kind.id === "untie") return;
    // What came about by itself is not done twice.
    if (kind.id === "set-block" && this.axis(on).block !== "none") return;
    const place = valueOf(kind.at ?? null, this.context(on));
    if (place && this.axis(on).member !== place) this.move(on, place, kind.prefers);
    if (kind.power) this.toPower(kind.power, kind, on);
    const verbs = valueOf(kind.verbs ?? [], this.context(on));
    if (verbs.some((v) => JOGS.includes(v))) this.clearBlocks(on);
    if (kind.hands !== "out") this.holdFor(kind, on);
    this.emit(kind, on);
  }

  private toPower(power: "on" | "isolated", kind: StepKind | null, on: OnAxis | null): void {
    if (this.state.power === power) return;
    if (power === "on") {
      for (const { work } of this.on)
        if (againstPower(work.config, this.state.axes[work.letter]).length > 0)
          throw new NoWay(
            `${kind && on ? `“${valueOf(kind.text, this.context(on)).title}” needs` : "This needs"} the power, and ${work.letter} is open: finish and close this job first.`,
          );
      this.emit(stepKind("tools-out"), null);
      this.emit(stepKind("energise"), null);
      return;
    }
    for (const each of this.on) {
      const { config } = each.work;
      const state = this.axis(each);
      if (!isGravityAxis(config)) continue;
      // On a block a thread that holds by itself cannot be tried: block and strap are to do it.
      const held = holdersOf(config, state, "isolated").filter(
        (h) => state.block === "none" || h.id !== "self-locking screw",
      );
      const pull = pullOf(config, state);
      const falls = (["down", "up"] as const).some((w) => pull[w] && !held.some((h) => h[w]));
      const closing = kind?.phase === "close" && each === on && kind.hands !== "out";
      if (falls || (closing && state.block === "none"))
        this.emit(stepKind(closing || kind?.phase === "close" ? "park" : "set-block"), each);
    }
    this.emit(stepKind("isolate"), null);
  }

  /** Nothing is jogged off its block: drive on, strap off, raised, block out. */
  private clearBlocks(on: OnAxis): void {
    const state = this.axis(on);
    if (state.tied) this.emit(stepKind("untie"), on);
    if (this.axis(on).block !== "none") this.emit(stepKind("remove-block"), on);
  }

  private endPowered(): void {
    this.toPower("on", null, null);
    for (const on of this.on) this.clearBlocks(on);
  }

  /** Before hands go in: whatever will hold through the step has been tried. */
  private holdFor(kind: StepKind, on: OnAxis): void {
    for (const each of this.on) {
      const { config } = each.work;
      if (!isGravityAxis(config)) continue;
      const state = this.axis(each);
      const own = each === on;
      const effects = own ? valueOf(kind.effects ?? [], this.context(on)) : [];
      const after = own ? stateAfter(this.state, each.work.letter, effects) : this.state;
      const now = holdersOf(config, state, this.state.power);
      const then = holdersOf(config, after.axes[each.work.letter], after.power);
      const stays = now.filter((h) => then.some((x) => x.id === h.id));
      if (isHeld(config, state, stays)) continue;
      const parts = isHeld(config, state, now);
      const lever = config.brake && config.mechanics.brakeLever;
      // A brake without lever: the step that eases the path is the try of the block.
      if (state.block === "set" && (!parts || lever || !config.brake)) this.emit(stepKind("try-block"), each);
      else if (state.block === "none" && isSelfLocking(config) && !parts && !state.notes["self-lock-tried"])
        this.emit(stepKind("try-self-lock"), each);
    }
  }

  /** Brings the member to a place in a way that exists now, or can be made to. */
  private move(on: OnAxis, place: Place, prefers?: Way): void {
    const { config } = on.work;
    const direct = this.wayNow(on, { state: this.axis(on), place, prefers });
    if (direct) {
      this.doMove(on, place, direct);
      return;
    }
    const state = this.axis(on);
    if (this.state.power === "isolated" && isGravityAxis(config) && state.gear === "none") {
      const onGear: MechanismState = {
        ...state,
        gear: "taut",
        block: "none",
        tied: false,
      };
      const way = this.wayNow(on, { state: onGear, place });
      if (way) {
        this.holdFor(GEAR_TAKE, on);
        this.emit(GEAR_TAKE, on);
        if (this.axis(on).block !== "none") this.emit(BLOCK_AWAY, on);
        this.doMove(on, place, way);
        this.emit(BLOCK_BACK, on);
        return;
      }
    }
    if (this.state.power === "isolated") {
      const powered: MechanismState = { ...state, block: "none", tied: false };
      if (!waysToMove(config, { state: powered, power: "on", to: place }).includes("jog"))
        throw new NoWay(`${on.work.letter} cannot be brought ${place} as it stands.`);
      this.toPower("on", null, on);
    }
    this.clearBlocks(on);
    const jog = this.wayNow(on, { state: this.axis(on), place });
    if (!jog) throw new NoWay(`${on.work.letter} cannot be brought ${place} as it stands.`);
    this.doMove(on, place, jog);
  }

  /** A way that exists in a state, the gentlest first; with its brake let go by the lever if that is what it takes. */
  private wayNow(
    on: OnAxis,
    { state, place, prefers }: { readonly state: MechanismState; readonly place: Place; readonly prefers?: Way },
  ): { way: Way; lever: boolean } | null {
    const { config } = on.work;
    const ways = waysToMove(config, { state, power: this.state.power, to: place });
    if (ways.length > 0)
      return {
        way: prefers && ways.includes(prefers) ? prefers : ways[0],
        lever: false,
      };
    const levered = config.mechanics.brakeLever || config.mechanics.brakeAt === "screw";
    if (!config.brake || !levered || this.state.power === "on") return null;
    const let_ = waysToMove(config, { state: { ...state, brakeLet: true }, power: "isolated", to: place }).at(0);
    return let_ ? { way: let_, lever: true } : null;
  }

  private doMove(on: OnAxis, place: Place, { way, lever }: { way: Way; lever: boolean }): void {
    const kind = moveStep(place, way, lever);
    if (kind.hands !== "out") this.holdFor(kind, on);
    this.emit(kind, on);
  }

  private emit(kind: StepKind, on: OnAxis | null): void {
    const c = on ? this.context(on) : this.context(this.on[0]);
    const effects = valueOf(kind.effects ?? [], c);
    const letter = kind.scope === "machine" ? null : (on?.work.letter ?? null);
    const after = stateAfter(this.state, letter, effects);
    this.steps.push(
      stepOn(kind, c, {
        letter,
        effects,
        id: this.idOf(kind, letter),
        state: this.line(letter, after),
      }),
    );
    this.state = after;
  }

  private idOf(kind: StepKind, letter: string | null): string {
    const base = letter ? `${letter}:${kind.id}` : kind.id;
    const times = (this.times.get(base) ?? 0) + 1;
    this.times.set(base, times);
    return times === 1 ? base : `${base}#${times}`;
  }

  private line(letter: string | null, after: MachineState): string {
    const shown = this.on.filter((o) => letter === null || o.work.letter === letter);
    return shown
      .map((o) => {
        const line = stateText(o.work.config, after.axes[o.work.letter], after.power);
        return this.on.length > 1 && letter === null ? `${o.work.letter}: ${line}` : line;
      })
      .join("; ");
  }
}

function stepOn(
  kind: StepKind,
  c: StepContext,
  own: {
    readonly letter: string | null;
    readonly effects: PlannedStep["effects"];
    readonly id: string;
    readonly state: string;
  },
): PlannedStep {
  const text = valueOf(kind.text, c);
  return {
    id: own.id,
    axis: own.letter,
    kind: kind.id,
    phase: kind.phase,
    hands: kind.hands,
    verbs: valueOf(kind.verbs ?? [], c),
    at: valueOf(kind.at ?? null, c),
    uses: valueOf(kind.uses ?? [], c),
    effects: own.effects,
    tools: valueOf(kind.tools ?? [], c),
    people: valueOf(kind.people ?? 1, c),
    parts: valueOf(kind.parts ?? [], c),
    hold: kind.hold ?? "",
    retest: kind.retest ?? null,
    keeps: kind.keeps ?? null,
    title: text.title,
    why: text.why,
    how: text.how,
    caution: text.caution ?? "",
    good: text.good ?? "",
    ifNot: text.ifNot ?? "",
    state: own.state,
    minutes: valueOf(kind.minutes, c),
    consumables: kind.consumables ?? [],
    photo: kind.photo ?? "",
    finds: valueOf(kind.finds ?? [], c),
    reading: valueOf(kind.reading ?? null, c),
    torques: valueOf(kind.torques ?? [], c).map((j) => torqueOf(c.config, j)),
  };
}
