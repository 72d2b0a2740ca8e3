import {
  circleValue,
  conformityText,
  findingName,
  formatWithU,
  judgeCircle,
  partTrend,
  stateOfConformity,
  type AxisState,
  type CircleFinding,
  type PartThen,
  type UnitSystem,
} from "@iron/core";
import type { Axis, Circles, CirclePlane, CircleSession } from "@iron/contract";
import { dayText } from "../shared/times.text";
import { planeView } from "./circle.view";
import { planeName } from "./plane-name";

export interface SessionRow {
  readonly id: number;
  readonly when: string;
  readonly by: string;
  readonly state: string;
  readonly planes: readonly {
    readonly letters: string;
    readonly headline: string;
    readonly mark: AxisState;
    readonly word: string;
    readonly gBoth: string;
  }[];
}

/** Parts over time: a row for each part, a column for each session. */
export interface PartHistory {
  readonly columns: readonly { readonly id: number; readonly when: string }[];
  readonly rows: readonly { readonly name: string; readonly values: readonly string[]; readonly trend: string }[];
}

type Listed = Circles["sessions"][number];

const asSession = (session: Listed, limits: Circles["limits"]): CircleSession => ({
  ...session,
  limits,
  fresh: [],
  connected: false,
  reading: null,
});

function planeRow(
  plane: CirclePlane,
  shown: { readonly session: CircleSession; readonly axes: readonly Axis[]; readonly system: UnitSystem },
) {
  const view = planeView({ ...shown, plane });
  const analysis = plane.analysis;
  const g = analysis?.quantities.gBoth ?? null;
  const judged =
    analysis && g !== null
      ? judgeCircle("gBoth", { value: g, u: analysis.quantitiesU }, shown.session.limits.limits)
      : null;
  return {
    letters: planeName(
      plane.plan,
      shown.session.planes.map((p) => p.plan.feedMmMin),
      shown.system,
    ),
    headline: view?.headline ?? (plane.passes.some((p) => p.used) ? plane.why : "Not read yet."),
    mark: judged ? stateOfConformity(judged) : ("unknown" as const),
    word: conformityText(judged),
    gBoth: analysis && g !== null ? `G(b) ${formatWithU(g, analysis.quantitiesU, { system: shown.system })}` : "",
  };
}

/** Sessions of a machine, the newest first. */
export function sessionRows(
  { sessions, limits }: Circles,
  axes: readonly Axis[],
  system: UnitSystem,
): readonly SessionRow[] {
  const STATE = { open: "not ended yet", finished: "", abandoned: "given up" } as const;
  return [...sessions].reverse().map((s) => ({
    id: s.id,
    when: dayText(s.startedAt),
    by: s.by,
    state: STATE[s.state],
    planes: s.planes.map((plane) => planeRow(plane, { session: asSession(s, limits), axes, system })),
  }));
}

/** Sessions shown beside each other at most. */
const COLUMNS = 5;

/** What each part has been: the newest sessions beside each other. */
export function partHistory({ sessions }: Circles, system: UnitSystem): PartHistory | null {
  const read = sessions.filter((s) => s.state !== "abandoned" && s.planes.some((p) => p.analysis)).slice(-COLUMNS);
  if (read.length < 2) return null;
  const feeds = read.flatMap((s) => s.planes.map((p) => p.plan.feedMmMin));
  const keyOf = (f: CircleFinding, plane: CirclePlane): string =>
    `${planeName(plane.plan, feeds, system)} ${f.kind} ${f.letter ?? ""}`;
  const rows = new Map<string, { name: string; kind: CircleFinding["kind"]; values: string[]; then: PartThen[] }>();
  read.forEach((session, column) => {
    for (const plane of session.planes)
      for (const finding of plane.analysis?.findings ?? []) {
        const key = keyOf(finding, plane);
        const letters = plane.plan.letters as readonly [string, string];
        const row = rows.get(key) ?? {
          name: `${planeName(plane.plan, feeds, system)}: ${findingName(finding, letters)}`,
          kind: finding.kind,
          values: read.map(() => "–"),
          then: [],
        };
        row.then.push({ atMs: Date.parse(session.startedAt), value: finding.value, u: finding.u });
        row.values[column] = circleValue(finding.kind, finding, system);
        rows.set(key, row);
      }
  });
  return {
    columns: read.map((s) => ({ id: s.id, when: dayText(s.startedAt) })),
    rows: [...rows.values()]
      .map(({ name, kind, values, then }) => ({ name, values, trend: trendOf(kind, then, system) }))
      .sort((a, b) => a.name.localeCompare(b.name)),
  };
}

/** How a part grows, where that is more than chance; empty where not. */
function trendOf(kind: CircleFinding["kind"], then: readonly PartThen[], system: UnitSystem): string {
  const trend = partTrend(then);
  if (!trend) return "";
  return `${trend.perMonth > 0 ? "grows" : "shrinks"} ${circleValue(kind, { value: trend.perMonth, u: trend.u }, system)} a month`;
}
