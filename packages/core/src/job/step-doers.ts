import type { Effect, JointId } from "../machine/mechanism";
import { STEP_KINDS } from "./step-kinds";
import type { StepKind } from "./step-kind";

export const RESTORING = STEP_KINDS.filter((k) => k.restores);

const OPENING = STEP_KINDS.filter((k) => !k.restores && k.effects && !k.id.startsWith("light-"));

/** Steps that may do something to a joint or a note, in their order; what depends on the sheet may do it to any. */
class Doers<Key> {
  private readonly known = new Map<Key, readonly StepKind[]>();

  constructor(
    private readonly among: readonly StepKind[],
    private readonly has: (effect: Effect, key: Key) => boolean,
  ) {}

  of(key: Key): readonly StepKind[] {
    let doers = this.known.get(key);
    if (!doers) {
      doers = this.among.filter(({ effects = [] }) =>
        typeof effects === "function" ? true : effects.some((e) => this.has(e, key)),
      );
      this.known.set(key, doers);
    }
    return doers;
  }
}

export const OPENERS = new Doers<JointId>(OPENING, (e, joint) => e.kind === "joint" && e.joint === joint);

export const MAKERS = new Doers<string>(STEP_KINDS, (e, note) => e.kind === "note" && e.id === note);

/** Put in by the walk where they are wanted, or once for the machine. */
export const UNPLACED: ReadonlySet<string> = new Set([
  "gear-take",
  "block-away",
  "block-back",
  "isolate",
  "tools-out",
  "energise",
  "sign-off",
]);

/** Retests of what a circle shows too: what is lost, how it goes, how two axes stand to each other. */
export const SHOWN_BY_CIRCLE = /^retest-(chain|travel|pattern)/;
