import {
  availability,
  causeById,
  LOCATE_TESTS,
  meaningsOf,
  METHODS,
  minuteCost,
  pointless,
  type Cause,
  type CaseVerdict,
  type Ledger,
  type Meaning,
  type Mending,
  type MindChanger,
  type NextStep,
  type Posterior,
} from "@iron/core";
import type { Diagnosis } from "@iron/contract";

/** A verdict as it goes over the wire. */
export function verdictView(verdict: CaseVerdict, mending: Mending) {
  return {
    leading: verdict.leading.map((l) => ({
      ...l,
      cause: brief(l.cause, mending),
      speaksFor: [...l.speaksFor],
      speaksAgainst: [...l.speaksAgainst],
    })),
    proven: [...verdict.proven],
    onlyLikely: [...verdict.onlyLikely],
    ruledOut: [...verdict.ruledOut],
    notLookedAt: [...verdict.notLookedAt],
    options: verdict.options.map(({ message, cost, chanceRight, expectedCost, unless }) => ({
      message,
      cost,
      chanceRight,
      expectedCost,
      unless,
    })),
  };
}

/** Questions that are sent along: more than one screen shows at once. */
export const QUESTIONS = 8;
/** Outcomes of a test that are told. */
const OUTCOMES = 4;

/** Tests by what they are worth, and those that cannot be done on this axis, or tell nothing now. */
export function testsView(posterior: Posterior, step: NextStep, times: ReadonlyMap<string, number>) {
  const { evidence } = posterior;
  const config = evidence.axis;
  return {
    stop: step.stop,
    tests: step.ranked.map((r) => ({
      id: r.test.id,
      name: r.test.name,
      isolates: r.test.isolates,
      minutes: r.minutes,
      cost: minuteCost(config, r.minutes),
      value: r.value,
      stands: r.stands,
      next: step.next?.test.id === r.test.id,
      done: times.get(r.test.id) ?? 0,
      say: r.say,
      splits: [...r.splits],
      guided: r.test.guided ?? false,
      opens: r.test.opens ?? false,
    })),
    impossible: LOCATE_TESTS.filter((t) => t.id !== "in-hand")
      .map((t) => ({ t, there: availability(config, t), why: pointless(evidence, t.id) }))
      .filter(({ there, why }) => !there.possible || why)
      .map(({ t, there, why }) => ({ id: t.id, name: t.name, why: there.possible ? (why ?? "") : there.say })),
    meanings: step.next ? meaningsOf(posterior, step.next.test).slice(0, OUTCOMES).map(meaningView) : [],
    together: step.together && {
      id: step.together.test.id,
      name: step.together.test.name,
      minutes: step.together.minutes,
      guided: step.together.test.guided ?? false,
    },
  };
}

function meaningView({ when, chance, causes, probability }: Meaning): Diagnosis["meanings"][number] {
  return { when, chance, names: causes.map((c) => c.name), probability };
}

export function mindView(mind: MindChanger | null): Diagnosis["mind"] {
  return mind && { ...meaningView(mind), test: mind.test.id, name: mind.test.name };
}

function brief(cause: Cause, mending: Mending): Diagnosis["leading"][number]["cause"] {
  const { id, name, link, remedy } = causeById(cause.id) ?? cause;
  return {
    id,
    name,
    link,
    remedy: remedy.text,
    minutes: Math.round(mending[id]?.minutes ?? remedy.minutes),
    method: METHODS[id] ?? "",
  };
}

function bounded(bounds: readonly [number, number]): [number, number | null] {
  return [bounds[0], Number.isFinite(bounds[1]) ? bounds[1] : null];
}

export function ledgerView(ledger: Ledger): Diagnosis["ledger"] {
  return {
    ...ledger,
    lines: ledger.lines.map((l) => ({ ...l, slacks: [...l.slacks], from: [...l.from], boundsMm: bounded(l.boundsMm) })),
    contradictions: [...ledger.contradictions],
  };
}
