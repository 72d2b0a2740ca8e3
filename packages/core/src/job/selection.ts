import { isGravityAxis } from "../machine/axis";
import {
  effectNeeds,
  hasBalance,
  hasFarEnd,
  jointAt,
  jointsOf,
  LOSES_HOME,
  openness,
  pathOf,
  owedIn,
  retestFor,
  retestsOf,
  screwTurns,
  WHOLE,
  type Effect,
  type JointId,
  type JointNeed,
  type JointState,
} from "../machine/mechanism";
import { JOB_KINDS } from "./job-kinds.table";
import { placeOf } from "./order";
import { stepKind } from "./step-kinds";
import { valueOf, type StepContext, type StepKind } from "./step-kind";
import { frontStep, type AxisWork } from "./axis-work";
import { MAKERS, OPENERS, RESTORING, SHOWN_BY_CIRCLE, UNPLACED } from "./step-doers";

/** One step as it is on this axis, whatever its state. */
interface Fitted {
  readonly kind: StepKind;
  readonly effects: readonly Effect[];
  readonly needs: readonly JointNeed[];
  readonly lowers: readonly [JointId, JointState][];
  readonly uses: readonly string[];
  /** The same whatever else is on the sheet. */
  readonly fixed: boolean;
}

/**
 * The steps that a job needs on one axis: the work, what opens the way to it, what closes what was
 * opened, what holds the member meanwhile, what proves it afterwards. Unordered.
 * @param work - an axis, and what is to be done on it
 * @returns ids of the steps
 * @throws Error for a kind that does not fit the axis
 * @example
 * selectSteps({ letter: "X", config: defaultAxis("vertical-centre", "X"), kinds: ["tighten"], loose: [], options: DEFAULT_OPTIONS, start: WHOLE, power: "on", done: new Set() }).has("try-all")
 * // true
 */
export function selectSteps(work: AxisWork): ReadonlySet<string> {
  return new Selection(work).run();
}

class Selection {
  private readonly chosen = new Map<string, Fitted>();
  /** What is chosen, by id; the steps’ own words look at it as it grows. */
  private readonly sheet = new Set<string>();
  /** What a step does to joints and notes, whatever the sheet: once for all rounds. */
  private readonly done = new Map<StepKind, readonly Effect[]>();
  private readonly context: StepContext;
  private readonly empty: StepContext;
  private readonly has: readonly JointId[];
  private readonly places = new Map<StepKind, number>();
  private readonly begun: boolean;
  /** Where and how far each joint is opened by what is chosen. */
  private readonly lowered = new Map<JointId, { readonly place: number; readonly to: JointState }[]>();
  /** Steps whose way is opened, and stays so: they ask the same whatever else comes on the sheet. */
  private readonly reached = new Set<Fitted>();

  constructor(private readonly work: AxisWork) {
    const { config } = work;
    this.has = jointsOf(config);
    this.begun = work.start !== WHOLE;
    this.context = {
      config,
      letter: work.letter,
      options: work.options,
      state: WHOLE,
      power: "isolated",
      kinds: new Set(work.kinds),
      sheet: this.sheet,
    };
    this.empty = { ...this.context, sheet: new Set<string>() };
  }

  private fits(kind: StepKind): boolean {
    return !kind.fits || kind.fits(this.work.config);
  }

  /** Nothing for a step that this axis does not have. */
  private does(kind: StepKind): readonly Effect[] {
    let effects = this.done.get(kind);
    if (!effects) {
      effects = this.fits(kind) ? valueOf(kind.effects ?? [], this.empty) : [];
      this.done.set(kind, effects);
    }
    return effects;
  }

  run(): ReadonlySet<string> {
    const { work } = this;
    const wanted = { kinds: new Set(work.kinds), loose: work.loose };
    for (const id of work.kinds) {
      const kind = JOB_KINDS.find((k) => k.id === id);
      if (!kind?.fits(work.config)) throw new Error(`“${kind?.name ?? id}” does not fit ${work.letter}`);
      for (const step of kind.steps(work.config, work.options, wanted))
        if (!work.done.has(step) && !this.isMoot(step)) this.add(step);
    }
    for (let size = -1; size !== this.chosen.size;) {
      size = this.chosen.size;
      this.refit();
      for (const fitted of [...this.chosen.values()])
        if (!this.reached.has(fitted)) {
          this.openFor(fitted);
          if (fitted.fixed) this.reached.add(fitted);
        }
      this.closeAgain();
      this.hold();
      this.align();
      this.prove();
    }
    // With its nut parted the screw tells nothing of it.
    if (this.chosen.has("nut-parted")) this.sheet.delete("back-drive");
    return this.sheet;
  }

  /** Measured too late, or to tighten what is off and goes back by its own line. */
  private isMoot(id: string): boolean {
    if (!this.begun) return false;
    if (id === "measure-before" || id === "trace-before") return true;
    const [, joint] = id.split(":");
    return joint !== undefined && joint in this.work.start.joints;
  }

  /** It would open what stands open since before this sheet began. */
  private isOpenAlready(kind: StepKind): boolean {
    if (kind.restores) return false;
    const lowers = this.does(kind).flatMap((e) => (e.kind === "joint" && e.to !== "tight" ? [e] : []));
    return lowers.length > 0 && lowers.every((e) => openness(jointAt(this.work.start, e.joint)) >= openness(e.to));
  }

  private add(id: string): void {
    if (this.chosen.has(id)) return;
    const kind = stepKind(id);
    if (!this.fits(kind)) return;
    if (this.begun && this.isOpenAlready(kind)) return;
    const fitted = this.onAxis(kind);
    this.chosen.set(id, fitted);
    this.sheet.add(id);
    this.noteLowers(fitted);
  }

  /** What a step does can depend on what else is on the sheet. */
  private refit(): void {
    this.lowered.clear();
    for (const [id, was] of this.chosen) {
      const fitted = was.fixed ? was : this.onAxis(was.kind);
      if (fitted !== was) this.chosen.set(id, fitted);
      this.noteLowers(fitted);
    }
  }

  private noteLowers({ kind, lowers }: Fitted): void {
    if (lowers.length === 0) return;
    const place = this.place(kind);
    for (const [joint, to] of lowers) {
      const all = this.lowered.get(joint);
      if (all) all.push({ place, to });
      else this.lowered.set(joint, [{ place, to }]);
    }
  }

  private onAxis(kind: StepKind): Fitted {
    const c = this.context;
    const effects = valueOf(kind.effects ?? [], c);
    const lowers = kind.restores
      ? []
      : effects.flatMap((e): [JointId, JointState][] =>
          e.kind === "joint" && e.to !== "tight" ? [[e.joint, e.to]] : [],
        );
    const needs = [...effectNeeds(this.work.config, effects), ...valueOf(kind.needs ?? [], c)];
    const fixed = [kind.effects, kind.needs, kind.uses].every((of) => typeof of !== "function");
    const uses = valueOf(kind.uses ?? [], c);
    return { kind, effects, needs, lowers, uses, fixed };
  }

  private place(kind: StepKind): number {
    let at = this.places.get(kind);
    if (at === undefined) {
      at = UNPLACED.has(kind.id) ? 0 : placeOf(this.work.config, kind);
      this.places.set(kind, at);
    }
    return at;
  }

  /** How far a joint is opened on this sheet before a place in its order, or was when it began. */
  private opened(joint: JointId, before = Infinity): JointState {
    let most = jointAt(this.work.start, joint);
    for (const { place, to } of this.lowered.get(joint) ?? [])
      if (place < before && openness(to) > openness(most)) most = to;
    return most;
  }

  private openFor({ kind, needs, uses }: Fitted): void {
    const place = this.place(kind);
    for (const need of needs) {
      if (need.side !== "open" || !this.has.includes(need.joint)) continue;
      if (openness(this.opened(need.joint, place)) >= openness(need.at)) continue;
      const opener = this.opener(need.joint, need.at, place);
      if (opener) this.add(opener.id);
    }
    for (const note of uses) {
      if (this.work.start.notes[note]) continue;
      const maker = MAKERS.of(note).find((k) => this.does(k).some((e) => e.kind === "note" && e.id === note));
      if (maker) this.add(maker.id);
    }
  }

  /** The least that opens a joint far enough. */
  private opener(joint: JointId, at: JointState, before: number): StepKind | undefined {
    let best: { readonly kind: StepKind; readonly to: number } | undefined;
    for (const kind of OPENERS.of(joint)) {
      if (this.place(kind) >= before) continue;
      for (const e of this.does(kind)) {
        if (e.kind !== "joint" || e.joint !== joint) continue;
        const to = openness(e.to);
        if (to >= openness(at) && (!best || to < best.to)) best = { kind, to };
      }
    }
    return best?.kind;
  }

  /** Every joint that was opened is brought back, step by step. */
  private closeAgain(): void {
    const opened = (joint: JointId): JointState => this.opened(joint);
    for (const kind of RESTORING) {
      if (this.chosen.has(kind.id)) continue;
      if (kind.wanted && !kind.wanted(opened)) continue;
      const puts = this.does(kind).some(
        (e) => e.kind === "joint" && this.has.includes(e.joint) && openness(opened(e.joint)) > openness(e.to),
      );
      const method = kind.id === "set-gib" || kind.id === "set-gib-rock";
      if (puts && !(method && this.otherGib(kind.id))) this.add(kind.id);
    }
  }

  private otherGib(id: string): boolean {
    return this.chosen.has(id === "set-gib" ? "set-gib-rock" : "set-gib");
  }

  private isOpened(joint: JointId): boolean {
    return this.opened(joint) !== "tight";
  }

  /** What holds member and screw while their path is parted. */
  private hold(): void {
    const { config, start } = this.work;
    if (!isGravityAxis(config)) return;
    const freed = pathOf(config).some((j) => this.isOpened(j)) || this.chosen.has("unhook-balance");
    const eased = this.isOpened("head") || this.isOpened("column");
    const handsIn = [...this.chosen.values()].some((f) => f.kind.hands !== "out");
    // What stands on its block already is left there by the walk.
    if (freed || eased || (handsIn && !config.brake)) this.add("set-block");
    if (hasBalance(config) && (freed || start.balance === "secured")) {
      if (start.balance === "acts") this.add("secure-balance");
      this.add("release-balance");
    }
    if (!screwTurns(config)) return;
    const ends: readonly JointId[] = ["bearing-nut", "bearings", "retainer", "housing"];
    const lets = ends.some((j) => openness(this.opened(j)) >= openness("loose"));
    if (lets && !start.prop) this.add("prop-in");
    if (lets || start.prop) this.add("prop-out");
    const parted = this.opened("nut-bracket") === "off" || this.opened("bracket-member") === "off";
    if (lets && parted && !start.sling) this.add("sling-on");
    if ((lets && parted) || start.sling) this.add("sling-off");
    if (this.opened("bearing-nut") === "off") this.add("wind-up");
  }

  /** What was parted or shifted is aligned by the carriage: the rest is snug together. */
  private align(): void {
    const { config, start } = this.work;
    const nut = this.isOpened("nut-bracket") || this.isOpened("bracket-member");
    const shifted = config.mechanics.fixedEnd !== "pinned" && this.isOpened("housing");
    if ((nut || shifted) && hasFarEnd(config)) this.add("far-ease");
    if (!this.movesByHand()) return;
    if (config.brake && config.mechanics.brakeAt === "motor" && !config.mechanics.brakeLever)
      if (!this.supportOnly()) this.add(frontStep(config));
    if (hasBalance(config) && isGravityAxis(config) && !this.supportOnly()) {
      if (start.joints["balance-link"] === undefined) this.add("unhook-balance");
      this.add("hook-balance");
    }
  }

  /** Something is tightened with the member brought there, the drive off. */
  private movesByHand(): boolean {
    const { start } = this.work;
    return [...this.chosen.values()].some((f) => {
      const at = valueOf(f.kind.at ?? null, this.context);
      return (
        at !== start.member &&
        f.kind.phase === "work" &&
        (at === "near-fixed" || at === "near-far") &&
        f.kind.id !== "far-open"
      );
    });
  }

  /** Only the far end is open: the member was jogged there and stays. */
  private supportOnly(): boolean {
    const others: readonly JointId[] = ["hub-screw", "belt", "nut-bracket", "bracket-member", "bearing-nut", "housing"];
    // On a sheet begun elsewhere nothing could be jogged there first.
    if (this.begun && this.work.start.member !== "near-far") return false;
    return this.opened("far-support") === "off" && !others.some((j) => this.isOpened(j));
  }

  /** What is lost is noted before, what was opened is proven after. */
  private prove(): void {
    const { config, start, power } = this.work;
    const open = this.has.filter((j) => this.isOpened(j));
    const note = (id: string, made: string): void => {
      if (!start.notes[made] && !this.begun) this.add(id);
    };
    // Once isolated with parts off nobody can go to a mark and write its number down.
    const stillKnown = power === "on" && start.referenced;
    if (open.some((j) => LOSES_HOME.includes(j)) || this.movesByHand() || !start.referenced) {
      if (stillKnown && !start.notes["home-noted"]) this.add("note-home");
      this.add("creep");
      this.add("reference");
    }
    for (const joint of open) for (const retest of retestsOf(config, joint)) this.add(`retest-${retest}`);
    for (const proof of owedIn(start.notes)) this.add(`retest-${retestFor(config, proof)}`);
    const proves = [...this.chosen.keys()].some((id) => SHOWN_BY_CIRCLE.test(id));
    if (this.work.options.circle && proves) this.add("retest-circle");
    if (this.chosen.has("retest-chain")) {
      note("measure-before", "before-known");
      this.add("review-compensation");
    }
    if ([...this.chosen.keys()].some((id) => id.startsWith("retest-"))) {
      this.add("creep");
      this.add("slow-jog");
    }
    const opensFront = this.chosen.has("hub-ease") && config.mechanics.couplingHidden;
    const parks = this.chosen.has("set-block") || this.chosen.has("far-open");
    if ((opensFront || parks) && !this.begun) {
      this.add("go-opening");
      if (opensFront) this.add("panel-off");
    }
    if (this.isOpened("covers")) this.add("last-stroke");
  }
}
