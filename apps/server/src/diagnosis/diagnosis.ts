import {
  asksSisters,
  finding,
  mindChanger,
  nextQuestions,
  countsSince,
  latestOfEach,
  linkShares,
  magnitudeOf,
  middleOfProfile,
  DECISION_TERMS,
  caseVerdict,
  expectedOf,
  infer,
  isConfirmed,
  isSplitTest,
  letBe,
  locateTest,
  lossLedger,
  madeOften,
  nextTest,
  sistersToo,
  soundSaid,
  type JudgedValue,
  type Cause,
  type FindingId,
  type Ledger,
  type Magnitude,
  type LocateTest,
  type Report,
  type TestKind,
  type UnitSystem,
  pricesOf,
} from "@iron/core";
import { NOTHING_TOLD, type Diagnosis, type Axis, type Case, type Run } from "@iron/contract";
import { sql } from "kysely";
import type { Db } from "../store/database";
import type { Clock } from "../shop/clock";
import type { Cases } from "./cases";
import type { Knowledge } from "./knowledge";
import type { Machines } from "../machine/machines";
import { circleLoss, circleTremble } from "../prove/circle-losses";
import { mendingOf } from "../job/mending";
import { ledgerView, mindView, QUESTIONS, testsView, verdictView } from "./diagnosis-view";
import { resultOf } from "../measure/readings";
import { heardOf } from "../sound/heard";
import type { Runs } from "../measure/runs";

interface Measured {
  readonly magnitudes: readonly Magnitude[];
  readonly list: Diagnosis["measured"];
  /** Every test that was made, also those that a later one of its kind has replaced. */
  readonly made: readonly TestKind[];
  /** What a travel profile says besides its size. */
  readonly reports: readonly Report[];
  readonly since: string | null;
}

/** So long is a set-up taken to stand after its test (common practice, no source). */
const SET_UP_STANDS_MS = 3_600_000;

/** Puts the evidence of an axis together and says what it means. */
export class Diagnose {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly runs: Runs;
      readonly cases: Cases;
      readonly knowledge: Knowledge;
      readonly clock: Clock;
    },
  ) {}

  async of(caseId: number, axisId: number | undefined, system: UnitSystem): Promise<Diagnosis> {
    const file = await this.needs.cases.get(caseId);
    const axis = await this.needs.machines.axis(axisId ?? file.axisIds[0]);
    const measured = await this.measured(axis, file.openedAt);
    const shop = await this.needs.knowledge.shopPriors(caseId);
    const heard = await heardOf(this.needs.db, axis.id, measured.since);
    const results = file.results.filter((r) => !r.withdrawn && r.axisId === axis.id);
    const told = file.told[axis.id] ?? NOTHING_TOLD;
    const reports: Report[] = [
      ...toldAsReports(told.answers),
      ...results.flatMap((r) => answersAsReports(r.answers, "test", `result ${r.id}`)),
      // What somebody says of the same thing comes before what an instrument makes of it.
      ...measured.reports.filter((r) => r.source === "test" || told.answers[r.finding] === undefined),
    ];
    const posterior = infer({
      axis: axis.config,
      context: file.context,
      reports,
      magnitudes: measured.magnitudes,
      shop,
      allTold: told.allTold,
      sister: await this.hasSister(axis),
      ...(heard ? { sound: heard } : {}),
    });
    const times = new Map<string, number>();
    const count = (id: string): unknown => times.set(id, (times.get(id) ?? 0) + 1);
    results.forEach((r) => count(r.test));
    measured.made.forEach((kind) => count(kind === "travel-profile" ? kind : magnitudeOf(kind)));
    if (heard) ["recording", "sound-comparison"].forEach(count);
    const done = new Set(times.keys());
    // A test done once may be worth repeating; done often enough it is not offered by itself.
    const worn = madeOften(times, reports);
    const mending = mendingOf(
      axis,
      posterior.causes.map((c) => c.id),
    );
    const terms = { ...DECISION_TERMS, mending };
    const verdict = caseVerdict(posterior, { done, system, terms });
    const step = nextTest(posterior, { terms, done: worn, once: done, standing: this.standing(results, measured) });
    const ledger = lossLedger(axis.config, measured.magnitudes, system);
    return {
      axisId: axis.id,
      headline: verdict.headline,
      sure: verdict.sure,
      fits: verdict.fits,
      normal: [...verdict.normal],
      noFault: letBe(posterior).probability,
      ...verdictView(verdict, mending),
      warnings: [...verdict.warnings, ...ledger.contradictions],
      ...testsView(posterior, step, times),
      mind: mindView(verdict.fits ? mindChanger(posterior, done) : null),
      questions: nextQuestions(posterior, QUESTIONS).map((q) => ({ ...q })),
      ledger: ledgerView(ledger),
      links: links(axis, ledger, measured),
      sisters: await this.sisters(file, { axis, causes: posterior.causes, marginals: posterior.marginals }),
      measured: measured.list,
      heard: heard ? { soundId: heard.id, said: soundSaid(heard), at: heard.at } : null,
      since: measured.since,
    };
  }

  /** The set-up of the last test, if that was within the hour: after that somebody has taken it down. */
  private standing(results: Case["results"], { list }: Measured): LocateTest["setup"] {
    const tests = results.map(({ test, at }) => ({ test: test as string, at }));
    const runs = list.flatMap((m) => (m.runId === null ? [] : [{ test: magnitudeOf(m.kind) as string, at: m.at }]));
    const last = [...tests, ...runs].sort((a, b) => a.at.localeCompare(b.at)).at(-1);
    const since = last ? this.needs.clock.now().getTime() - Date.parse(last.at) : Infinity;
    return since < SET_UP_STANDS_MS ? locateTest(last?.test ?? "")?.setup : undefined;
  }

  /** Is another axis of its kind in the shop, to hear the two against each other? */
  private async hasSister({ id, config }: Axis): Promise<boolean> {
    const other = await this.needs.db
      .selectFrom("axis")
      .innerJoin("machine", "machine.id", "axis.machine_id")
      .select("axis.id")
      .where("axis.id", "!=", id)
      .where("axis.retired_at", "is", null)
      .where("machine.retired_at", "is", null)
      .where(sql<string>`json_extract(axis.config, '$.transmission')`, "=", config.transmission)
      .executeTakeFirst();
    return other !== undefined;
  }

  async ledger(axisId: number): Promise<Pick<Diagnosis, "axisId" | "links" | "ledger" | "since">> {
    const axis = await this.needs.machines.axis(axisId);
    const measured = await this.measured(axis);
    const ledger = lossLedger(axis.config, measured.magnitudes);
    return { axisId, ledger: ledgerView(ledger), links: links(axis, ledger, measured), since: measured.since };
  }

  /** What the case was expected to come to when it was told, for learning from what it then was. */
  async expected(file: Case): Promise<Readonly<Record<string, number>>> {
    const axis = await this.needs.machines.axis(file.axisIds[0]);
    const told = file.told[axis.id] ?? NOTHING_TOLD;
    const { overrides, candour } = await this.needs.knowledge.shopPriors(file.id);
    return expectedOf(
      infer({
        axis: axis.config,
        context: file.context,
        reports: toldAsReports(told.answers),
        magnitudes: [],
        allTold: told.allTold,
        // Without what it has learned: that is held against the shipped priors, or it would be counted twice.
        shop: { overrides, learned: {}, candour },
      }),
    );
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
      list.push({ runId, jobId, circleId: null, kind, reversalValueMm, expandedMm, at });
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
    const circle = await circleLoss(this.needs.db, axis, since);
    if (circle) {
      const { circleId, mm: reversalValueMm, expandedMm, at } = circle;
      list.push({ runId: null, jobId: null, circleId, kind: "two-sided", reversalValueMm, expandedMm, at });
      // Both ways round and both ends of it are several readings of one thing.
      const uMm = Math.max(expandedMm / 2, 1e-5);
      magnitudes.push({ kind: "whole-chain", reversalValueMm, uMm, ref: `circle ${circleId}`, confirmed: true });
    }
    const trembles = await circleTremble(this.needs.db, axis, since);
    // What a bar sees of it is what stands on the part.
    if (trembles !== null) reports.push(...answersAsReports({ chatter: true }, "symptom", `circle ${trembles}`));
    return { magnitudes, list, made: rows.map((r) => r.kind), reports, since };
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

/** What was told: symptoms from memory, and parts that somebody holds in the hand. */
function toldAsReports(answers: Partial<Record<FindingId, boolean>>): Report[] {
  return answersAsReports(answers, "symptom", "symptoms").map((r) => ({
    ...r,
    source: finding(r.finding).asked ? "symptom" : "test",
  }));
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

function links(axis: Axis, ledger: Ledger, { list }: Measured): Diagnosis["links"] {
  const tests = list.map(({ kind, at }) => ({ kind: magnitudeOf(kind), at }));
  return linkShares(axis.config, ledger, tests).map((l) => ({ ...l, boundsMm: [...l.boundsMm] }));
}
