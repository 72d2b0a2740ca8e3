import {
  compareMeasurements,
  formatDeviation,
  fromMm,
  isSplitTest,
  deviationUnit,
  lossTrend,
  TEST_TEXT,
  type AxisConfig,
  type TestKind,
  type UnitSystem,
} from "@iron/core";
import type { AxisEvent, History, RunSummary, TypedLoss } from "@iron/contract";
import { momentText, monthText } from "../../shared/times.text";

/** A judged value of the axis: from a test, or a retest typed in a job. */
export interface Measured {
  readonly key: string;
  readonly kind: TestKind;
  readonly at: string;
  readonly reversalValueMm: number;
  readonly expandedMm: number;
  readonly placeMm: number | null;
}

export interface HistoryRow {
  readonly key: string;
  /** Where it is opened: its test, or the job it was typed in. */
  readonly runId: number | null;
  readonly jobId: number | null;
  readonly when: string;
  readonly kind: string;
  readonly value: string;
  readonly by: string;
  readonly state: string;
}

type MeasuredRun = RunSummary & { reversalValueMm: number; expandedMm: number };

function isMeasured(run: RunSummary): run is MeasuredRun {
  return run.state === "finished" && run.reversalValueMm !== null && run.expandedMm !== null;
}

const byTime = (a: { at: string }, b: { at: string }): number => a.at.localeCompare(b.at);
const typedKey = (one: TypedLoss): string => `job ${one.jobId} ${one.at}`;

export function measuredOf(history: History, kind: TestKind | "all"): readonly Measured[] {
  return [
    ...history.runs.filter(isMeasured).map((r) => ({ ...r, key: `run ${r.id}` })),
    ...history.typed.map((t) => ({ ...t, key: typedKey(t) })),
  ]
    .filter((r) => (kind === "all" ? !isSplitTest(r.kind) : r.kind === kind))
    .sort(byTime);
}

const lossText = (mm: number, U: number, system: UnitSystem): string =>
  `${formatDeviation(mm, { system, expandedMm: U, bare: true })} ± ${formatDeviation(U, { system, expandedMm: U })}`;

export function historyRows(history: History, kind: TestKind | "all", system: UnitSystem): readonly HistoryRow[] {
  const wanted = (r: { kind: TestKind }): boolean => kind === "all" || r.kind === kind;
  const typed = history.typed.filter(wanted).map((t) => ({
    key: typedKey(t),
    runId: null,
    jobId: t.jobId,
    at: t.at,
    when: momentText(t.at),
    kind: `${TEST_TEXT[t.kind].name}, typed in job ${t.jobId}`,
    value: lossText(t.reversalValueMm, t.expandedMm, system),
    by: t.by,
    state: "finished",
  }));
  const tests = history.runs.filter(wanted).map((r) => ({
    key: `run ${r.id}`,
    runId: r.id,
    jobId: null,
    at: r.at,
    when: momentText(r.at),
    kind: TEST_TEXT[r.kind].name + (r.imported ? ", imported" : ""),
    value: isMeasured(r)
      ? lossText(r.reversalValueMm, r.expandedMm, system)
      : r.state === "running"
        ? "not finished"
        : `given up${r.reason ? `: ${r.reason}` : ""}`,
    by: r.by,
    state: r.state,
  }));
  return [...tests, ...typed].sort(byTime).reverse();
}

/** The trend since the last repair or adjustment, said in a sentence. */
export function trendSentence(
  history: History,
  {
    kind,
    config,
    system,
  }: { readonly kind: TestKind | "all"; readonly config: AxisConfig; readonly system: UnitSystem },
): string {
  const repaired = history.events.filter((e) => e.kind === "repair" || e.kind === "adjustment").at(-1)?.at ?? "";
  const points = measuredOf(history, kind).filter((r) => r.at > repaired);
  if (points.length < 3) return "A trend needs three measurements of the same kind since the last repair.";
  const trend = lossTrend(
    points.map((p) => ({
      atMs: Date.parse(p.at),
      reversalValueMm: p.reversalValueMm,
      expandedMm: p.expandedMm,
    })),
    config.limits.repairMm,
  );
  if (!trend) return "The measurements lie too close together for a trend.";
  const U = trend.expandedPerMonthMm;
  const slope = `${formatDeviation(trend.perMonthMm, { system, expandedMm: U, signed: true })} ± ${formatDeviation(U, { system, expandedMm: U })} a month`;
  if (!trend.significant) return `No trend: ${slope} is within its uncertainty.`;
  if (trend.reachesLimitAtMs === null) return `It changes by ${slope}.`;
  return `It grows by ${slope}; the limit is reached about ${monthText(new Date(trend.reachesLimitAtMs).toISOString())} if it goes on like this.`;
}

/** Is the change between two measurements larger than its uncertainty? */
export function comparisonSentence(
  history: History,
  {
    firstKey,
    secondKey,
    system,
  }: { readonly firstKey: string; readonly secondKey: string; readonly system: UnitSystem },
): string {
  const pair = measuredOf(history, "all").filter((r) => r.key === firstKey || r.key === secondKey);
  if (pair.length < 2) return "Choose two different measurements.";
  const [earlier, later] = pair.map((r) => ({
    atMs: Date.parse(r.at),
    reversalValueMm: r.reversalValueMm,
    expandedMm: r.expandedMm,
  }));
  const c = compareMeasurements(earlier, later);
  const change = `${formatDeviation(c.changeMm, { system, expandedMm: c.expandedMm, signed: true })} ± ${formatDeviation(c.expandedMm, { system, expandedMm: c.expandedMm })}`;
  const mixed =
    pair[0].kind !== pair[1].kind || pair[0].placeMm !== pair[1].placeMm
      ? " They were not the same test at the same place: weigh that."
      : "";
  return (
    (c.significant
      ? `It changed by ${change}: more than the uncertainty, so it is real.`
      : `The difference of ${change} is within the uncertainty: nothing has changed that these tests can see.`) + mixed
  );
}

export interface HistoryChartData {
  readonly points: readonly {
    x: number;
    y: number;
    yMin: number;
    yMax: number;
  }[];
  readonly leave: number;
  readonly repair: number;
  readonly events: readonly { x: number; text: string }[];
}

export function historyChartData(
  history: History,
  {
    kind,
    config,
    system,
  }: { readonly kind: TestKind | "all"; readonly config: AxisConfig; readonly system: UnitSystem },
): HistoryChartData {
  const small = (mm: number): number => fromMm(mm, deviationUnit(system));
  const points = measuredOf(history, kind).map((r) => ({
    x: Date.parse(r.at),
    y: small(r.reversalValueMm),
    yMin: small(r.reversalValueMm - r.expandedMm),
    yMax: small(r.reversalValueMm + r.expandedMm),
  }));
  const events = history.events.map((e: AxisEvent) => ({
    x: Date.parse(e.at),
    text: e.kind,
  }));
  return {
    points,
    leave: small(config.limits.leaveMm),
    repair: small(config.limits.repairMm),
    events,
  };
}
