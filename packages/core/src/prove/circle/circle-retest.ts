import { formatLimit, formatNumber, formatQuantity, type Conformity, type UnitSystem } from "../../quantity";
import type { CircleAnalysis } from "./circle-analysis";
import { AXIS_KINDS, CIRCLE_KINDS } from "./circle-findings";
import { judgeCircle, USUAL_CIRCLE_LIMITS, type CircleLimited } from "./circle-limits";
import { circleValue, findingName, overLength } from "./circle.text";

/** What a retest looks at: the parts, and how steadily each axis goes. */
export const RETESTED_KINDS = [...CIRCLE_KINDS, "tremble"] as const;
type RetestedKind = (typeof RETESTED_KINDS)[number];
const OWN_KINDS: readonly RetestedKind[] = [...AXIS_KINDS, "tremble"];

/** A part of a circle beside the limits it was judged by, all in its own unit. */
export interface CircleFound {
  readonly kind: RetestedKind;
  readonly letter: string | null;
  readonly value: number;
  /** Expanded uncertainty. */
  readonly u: number;
  readonly leave: number;
  readonly repair: number;
}

/** A circle taken as the retest of an axis, complete in itself: a record is read when its machine is long sold. */
export interface CircleFigure {
  readonly sessionId: number;
  /** When it was begun. */
  readonly at: string;
  readonly plane: readonly [string, string];
  readonly feedMmMin: number;
  readonly found: readonly CircleFound[];
  /** The last one like it before the job: the same plane, radius and feed; null where there was none. */
  readonly before: { readonly at: string; readonly found: readonly CircleFound[] } | null;
  /** Bearings, nut or screw of the axis were renewed: friction at its turns is not judged. */
  readonly fresh: boolean;
  /** The job decides how the axes stand to each other: square is judged too. */
  readonly square: boolean;
}

export interface CircleRetest {
  readonly passes: boolean;
  readonly code: Conformity["code"];
  readonly message: string;
}

const same = (a: CircleFound, b: CircleFound): boolean => a.kind === b.kind && a.letter === b.letter;

/**
 * What a plane says of its parts and of how steadily its axes go, with the limits these are judged by.
 * @param analysis - a plane worked out
 * @param letters - axes of the plane
 * @param limitOf - limits of a kind for an axis, in the kind’s own unit
 * @returns as they are kept on a job
 * @example
 * const quiet = { findings: [], tremble: { rmsMm: [0, 0], uMm: [0.0002, 0.0002] } };
 * circleFound(quiet, ["X", "Y"], () => ({ leave: 0.01, repair: 0.02 })).length // 2
 */
export function circleFound(
  { findings, tremble }: Pick<CircleAnalysis, "findings" | "tremble">,
  letters: readonly [string, string],
  limitOf: (kind: RetestedKind, letter: string | null) => { readonly leave: number; readonly repair: number },
): readonly CircleFound[] {
  const shaking = letters.map((letter, i) => ({
    kind: "tremble" as const,
    letter,
    value: tremble.rmsMm[i],
    u: tremble.uMm[i],
  }));
  // What these readings cannot tell from something else they do not tell.
  return [...findings.filter((f) => f.with.length === 0), ...shaking].map(({ kind, letter, value, u }) => {
    const { leave, repair } = limitOf(kind, letter);
    return { kind, letter, value, u, leave, repair };
  });
}

const judged = (found: CircleFound): Conformity =>
  judgeCircle(found.kind, found, { ...USUAL_CIRCLE_LIMITS, [found.kind]: found });

function limitText(kind: CircleLimited, value: number, system: UnitSystem): string {
  if (kind === "mismatch" || kind === "square") return overLength(value, null, system);
  return kind === "servo" ? `${formatNumber(1000 * value, 2)} ms` : formatLimit(value, system);
}

/** What a part says against its limits, beside what it was; empty where it can be left and was so before. */
function said(
  found: CircleFound,
  { plane, before }: Pick<CircleFigure, "plane" | "before">,
  system: UnitSystem,
): { readonly code: Conformity["code"]; readonly text: string; readonly worse: boolean } {
  const was = before?.found.find((f) => same(f, found)) ?? null;
  const { code } = judged(found);
  const value = circleValue(found.kind, found, system);
  const then = was ? `, ${circleValue(was.kind, was, system)} before` : "";
  const { kind, letter } = found;
  const what = kind === "tremble" ? `${letter} trembles` : findingName({ kind, letter }, plane);
  const name = `${what}: ${value}${then}`;
  const worse = was !== null && Math.abs(found.value) - Math.abs(was.value) > Math.hypot(found.u, was.u);
  if (code === "sound")
    return { code, worse: false, text: was && judged(was).code !== "sound" ? `${name}: it can be left.` : "" };
  const repair = limitText(found.kind, found.repair, system);
  if (code === "act") return { code, worse, text: `${name}: above ${repair}, the limit for repair.` };
  if (code === "cannot-tell")
    return { code, worse, text: `${name}: ${repair}, the limit for repair, lies inside that.` };
  const more = worse ? ", and worse than before by more than both ± together" : ": look again in a week";
  return { code, worse, text: `${name}: above ${limitText(found.kind, found.leave, system)}${more}.` };
}

/**
 * Does a circle pass as the retest of an axis? What is of the axis itself, its trembling included, is judged by the one
 * decision rule ({@link judgeCircle}): over the limit for repair does not pass, nor what cannot tell, nor what is above what
 * can be left and worse than before, nor a circle that does not tell what the axis loses. Scales, servos, and square where
 * the job does not touch it, belong to other work.
 * @param figure - the circle, and the one before the job
 * @param letter - the axis
 * @param system - units
 * @returns whether it passes, and why
 * @example
 * const found = [{ kind: "lost", letter: "X", value: 0.03, u: 0.001, leave: 0.01, repair: 0.025 }];
 * const figure = { sessionId: 1, at: "2026-03-02T08:00:00Z", plane: ["X", "Y"], feedMmMin: 1000, found, before: null, fresh: false, square: false };
 * judgeCircleRetest(figure, "X", "metric").passes // false
 */
export function judgeCircleRetest(figure: CircleFigure, letter: string, system: UnitSystem): CircleRetest {
  const { plane, feedMmMin, found, before, fresh, square } = figure;
  const own = found.filter((f) => OWN_KINDS.includes(f.kind) && f.letter === letter);
  const settles = (f: CircleFound): boolean => fresh && f.kind === "spike";
  const counted = [...own.filter((f) => !settles(f)), ...(square ? found.filter((f) => f.kind === "square") : [])];
  const all = counted.map((f) => said(f, figure, system));
  const untold = [
    ...(own.some((f) => f.kind === "lost") ? [] : [`It does not tell what ${letter} loses.`]),
    ...(square && !found.some((f) => f.kind === "square") ? ["It does not tell square: a full circle does."] : []),
  ];
  const worst = (["act", "cannot-tell", "watch"] as const).find((c) => all.some((s) => s.code === c)) ?? "sound";
  const code = untold.length > 0 && worst !== "act" ? "cannot-tell" : worst;
  const passes = code === "sound" || (code === "watch" && !all.some((s) => s.worse));
  const begin = `Circle ${plane.join("")} at ${formatQuantity("feed", feedMmMin, system)}.`;
  const rest = [
    ...all.map((s) => s.text).filter(Boolean),
    ...untold,
    ...(code === "sound" ? [`Nothing of ${letter}${square ? " and its square" : ""} is over what can be left.`] : []),
    ...(code === "cannot-tell" && untold.length === 0
      ? ["Read again, on a calmer machine or with a better bar, it may."]
      : []),
    ...(own.some((f) => settles(f) && judged(f).code !== "sound")
      ? ["Friction where it turns round is normal on fresh parts and settles: it is not judged."]
      : []),
    ...(before ? [] : ["No circle like it was taken before the job."]),
  ];
  return { passes, code, message: [begin, ...rest].join(" ") };
}
