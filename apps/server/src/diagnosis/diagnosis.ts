import {
  asksSisters,
  countsSince,
  latestOfEach,
  linkShares,
  magnitudeOf,
  middleOfProfile,
  DECISION_TERMS,
  type Mending,
  availability,
  caseVerdict,
  causeById,
  infer,
  isConfirmed,
  isSplitTest,
  LOCATE_TESTS,
  lossLedger,
  minuteCost,
  nextTest,
  METHODS,
  sistersToo,
  type AxisConfig,
  type JudgedValue,
  type Cause,
  type FindingId,
  type Ledger,
  type Magnitude,
  type Report,
  type UnitSystem,
  pricesOf,
} from "@iron/core";
import type { Diagnosis, Axis, Case, Run } from "@iron/contract";
import type { Db } from "../store/database";
import type { Cases } from "./cases";
import type { Knowledge } from "./knowledge";
import type { Machines } from "../machine/machines";
import { mendingOf } from "../job/mending";
import { resultOf } from "../measure/readings";
import type { Runs } from "../measure/runs";

interface Measured {
  readonly magnitudes: readonly Magnitude[];
  readonly list: Diagnosis["measured"];
  /** What a travel profile says besides its size. */
  readonly reports: readonly Report[];
  readonly since: string | null;
}

/** A verdict as it goes over the wire. */
function verdictView(verdict: ReturnType<typeof caseVerdict>, mending: Parameters<typeof brief>[1]) {
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

/** Tests by what they are worth, and those that cannot be done on this axis. */
function testsView(config: AxisConfig, step: ReturnType<typeof nextTest>, times: ReadonlyMap<string, number>) {
  return {
    stop: step.stop,
    tests: step.ranked.map((r) => ({
      id: r.test.id,
      name: r.test.name,
      isolates: r.test.isolates,
      minutes: r.minutes,
      cost: minuteCost(config, r.minutes),
      value: r.value,
      next: step.next?.test.id === r.test.id,
      done: times.get(r.test.id) ?? 0,
      say: r.say,
      splits: [...r.splits],
      guided: r.test.guided ?? false,
    })),
    impossible: LOCATE_TESTS.map((t) => ({ t, there: availability(config, t) }))
      .filter(({ there }) => !there.possible)
      .map(({ t, there }) => ({ id: t.id, name: t.name, why: there.say })),
  };
}

/** Puts the evidence of an axis together and says what it means. */
export class Diagnose {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly runs: Runs;
      readonly cases: Cases;
      readonly knowledge: Knowledge;
    },
  ) {}

  async of(caseId: number, axisId: number | undefined, system: UnitSystem): Promise<Diagnosis> {
    const file = await this.needs.cases.get(caseId);
    const axis = await this.needs.machines.axis(axisId ?? file.axisIds[0]);
    const measured = await this.measured(axis, file.openedAt);
    const shop = await this.needs.knowledge.shopPriors(caseId);
    const results = file.results.filter((r) => !r.withdrawn && r.axisId === axis.id);
    const reports: Report[] = [
      ...answersAsReports(file.symptoms, "symptom", "symptoms"),
      ...results.flatMap((r) => answersAsReports(r.answers, "test", `result ${r.id}`)),
      ...measured.reports,
    ];
    const posterior = infer({
      axis: axis.config,
      context: file.context,
      reports,
      magnitudes: measured.magnitudes,
      shop,
    });
    const times = new Map<string, number>();
    const count = (id: string): unknown => times.set(id, (times.get(id) ?? 0) + 1);
    results.forEach((r) => count(r.test));
    measured.list.forEach((m) => count(m.kind === "travel-profile" ? "travel-profile" : magnitudeOf(m.kind)));
    const done = new Set(times.keys());
    // A test done once may be worth repeating; done twice it is not offered by itself.
    const worn = new Set([...times].filter(([, n]) => n >= 2).map(([id]) => id));
    const mending = mendingOf(
      axis,
      posterior.causes.map((c) => c.id),
    );
    const terms = { ...DECISION_TERMS, mending };
    const verdict = caseVerdict(posterior, { done, system, terms });
    const step = nextTest(posterior, { terms, done: worn, once: done });
    const ledger = lossLedger(axis.config, measured.magnitudes, system);
    return {
      axisId: axis.id,
      headline: verdict.headline,
      sure: verdict.sure,
      fits: verdict.fits,
      noFault: posterior.noFault,
      ...verdictView(verdict, mending),
      warnings: [...verdict.warnings, ...ledger.contradictions],
      ...testsView(axis.config, step, times),
      ledger: ledgerView(ledger),
      links: links(axis, ledger, measured),
      sisters: await this.sisters(file, { axis, causes: posterior.causes, marginals: posterior.marginals }),
      measured: measured.list,
      since: measured.since,
    };
  }

  async ledger(axisId: number): Promise<Pick<Diagnosis, "axisId" | "links" | "ledger" | "since">> {
    const axis = await this.needs.machines.axis(axisId);
    const measured = await this.measured(axis);
    const ledger = lossLedger(axis.config, measured.magnitudes);
    return { axisId, ledger: ledgerView(ledger), links: links(axis, ledger, measured), since: measured.since };
  }

  /** Probability of each cause from symptoms alone, for learning from what it then was. */
  async expected(file: Case): Promise<Record<string, number>> {
    const axis = await this.needs.machines.axis(file.axisIds[0]);
    const { causes, marginals } = infer({ axis: axis.config, context: file.context, reports: [], magnitudes: [] });
    return Object.fromEntries(causes.map((c, i) => [c.id, marginals[i]]));
  }

  /** Everything measured on the axis since somebody last worked on it. */
  private async measured(axis: Axis, caseOpenedAt?: string): Promise<Measured> {
    const repair = await this.needs.db
      .selectFrom("axis_event")
      .select((eb) => eb.fn.max("at").as("at"))
      .where("axis_id", "=", axis.id)
      .where("kind", "in", ["repair", "adjustment"])
      .executeTakeFirst();
    const since = countsSince(repair?.at ?? null, caseOpenedAt ?? null);
    const rows = await this.needs.db
      .selectFrom("loss")
      .select(["run_id", "job_id", "kind", "lost_mm", "expanded_mm", "at"])
      .where("axis_id", "=", axis.id)
      .where("at", ">", since ?? "")
      .orderBy("at")
      .execute();
    const recent = latestOfEach(rows);
    const list: Diagnosis["measured"] = [];
    const magnitudes: Magnitude[] = [];
    const reports: Report[] = [];
    const tests = rows.map(({ kind, lost_mm: lostMm, expanded_mm: expandedMm }) => ({ kind, lostMm, expandedMm }));
    for (const row of recent) {
      const test = tests[rows.indexOf(row)];
      const { kind, at, run_id: runId, job_id: jobId } = row;
      const { lost_mm: reversalValueMm, expanded_mm: expandedMm } = row;
      list.push({ runId, jobId, kind, reversalValueMm, expandedMm, at });
      const ref = runId === null ? `job ${jobId}` : `run ${runId}`;
      const confirmed = isConfirmed(tests, test);
      magnitudes.push({
        kind: magnitudeOf(kind),
        reversalValueMm,
        uMm: Math.max(expandedMm / 2, 1e-5),
        ref,
        confirmed,
      });
      if (kind === "travel-profile" && runId !== null)
        reports.push(...profileReports(axis, await this.needs.runs.run(runId)));
    }
    return { magnitudes, list, reports, since };
  }

  private async sisters(
    file: Case,
    {
      axis,
      causes,
      marginals,
    }: { readonly axis: Axis; readonly causes: readonly Cause[]; readonly marginals: readonly number[] },
  ): Promise<Diagnosis["sisters"]> {
    const bearings = causes.findIndex((c) => c.id === "end-bearing-worn");
    if (bearings < 0 || !asksSisters(marginals[bearings])) return [];
    const { axes } = await this.needs.machines.withAxes(file.machineId);
    const others = axes.filter((a) => a.id !== axis.id && !a.retiredAt && a.config.transmission !== "rack");
    const lost = await this.lastLosses(others.map((a) => a.id));
    return sistersToo(
      others.map((a) => ({
        letter: a.config.letter,
        ageYears: file.context.ageYears,
        loss: lost.get(a.id) ?? null,
        limits: a.config.limits,
        bearingSet: pricesOf(a.config).bearingSet,
        downtimePerHour: a.config.costs.downtimePerHour,
      })),
    ).map((s) => ({ ...s, assumes: [...s.assumes] }));
  }

  /** Last whole-chain loss of each axis with its U, mm. */
  private async lastLosses(axisIds: readonly number[]): Promise<Map<number, JudgedValue>> {
    if (axisIds.length === 0) return new Map();
    const rows = await this.needs.db
      .selectFrom("loss")
      .select(["axis_id", "kind", "lost_mm", "expanded_mm"])
      .where("axis_id", "in", axisIds)
      .orderBy("at")
      .execute();
    const last = new Map<number, JudgedValue>();
    for (const row of rows)
      if (!isSplitTest(row.kind))
        last.set(row.axis_id, {
          reversalValueMm: row.lost_mm,
          expandedMm: row.expanded_mm,
        });
    return last;
  }
}

function profileReports(axis: Axis, run: Run): Report[] {
  const found = middleOfProfile(resultOf(run)?.places ?? [], axis.config.limits);
  return found ? answersAsReports(found, "test", `run ${run.id}`) : [];
}

function answersAsReports(
  answers: Partial<Record<FindingId, boolean>>,
  source: Report["source"],
  ref: string,
): Report[] {
  return Object.entries(answers).map(([id, present]) => ({
    finding: id as FindingId,
    present: present === true,
    source,
    ref,
  }));
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

function ledgerView(ledger: Ledger): Diagnosis["ledger"] {
  return {
    ...ledger,
    lines: ledger.lines.map((l) => ({ ...l, slacks: [...l.slacks], from: [...l.from], boundsMm: bounded(l.boundsMm) })),
    contradictions: [...ledger.contradictions],
  };
}

function links(axis: Axis, ledger: Ledger, { list }: Measured): Diagnosis["links"] {
  const tests = list.map(({ kind, at }) => ({ kind: magnitudeOf(kind), at }));
  return linkShares(axis.config, ledger, tests).map((l) => ({ ...l, boundsMm: [...l.boundsMm] }));
}
