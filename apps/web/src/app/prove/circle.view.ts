import {
  agreementText,
  circleValue,
  conformityText,
  doubtText,
  findingName,
  findingSentence,
  formatSize,
  formatWithU,
  fromMm,
  judgeCircle,
  leadOf,
  leadText,
  LIMITED_TEXT,
  roundText,
  stateOfConformity,
  trembleText,
  troubleText,
  type AxisState,
  type CircleAnalysis,
  type CircleFinding,
  type CircleKind,
  type CircleLead,
  type CircleLimits,
  type CirclePart,
  type CircleQuantities,
  type Conformity,
  type UnitSystem,
} from "@iron/core";
import type { Axis, CirclePlane, CircleSession } from "@iron/contract";
import { momentText } from "../shared/times.text";

export interface FindingRow {
  readonly id: string;
  readonly name: string;
  readonly value: string;
  readonly sentence: string;
  readonly state: AxisState;
  readonly word: string;
  /** What would be left of the circle without it; empty where it hardly counts. */
  readonly left: string;
  readonly lead: CircleLead;
  readonly leadText: string;
  /** What these readings cannot tell from it. */
  readonly together: string;
  readonly parts: readonly CirclePart[];
  /** Its value is more than its ±. */
  readonly there: boolean;
}

export interface PlaneView {
  readonly letters: string;
  readonly headline: string;
  readonly state: AxisState;
  readonly word: string;
  readonly rows: readonly FindingRow[];
  /** Those that are within what can be left. */
  readonly quiet: readonly FindingRow[];
  readonly iso: readonly {
    readonly symbol: string;
    readonly name: string;
    readonly value: string;
    readonly word: string;
  }[];
  readonly isoNote: string;
  readonly tremble: readonly {
    readonly letter: string;
    /** More than can be left: it is asked what trembles. */
    readonly asks: boolean;
    readonly text: string;
    readonly state: AxisState;
    readonly word: string;
  }[];
  readonly lines: readonly string[];
  readonly most: string;
  readonly doubts: readonly string[];
}

/** Limits of a machine, the loss of an axis by the axis’ own. */
function limitsFor(limits: CircleLimits, letter: string | null, axes: readonly Axis[]): CircleLimits {
  const own = axes.find((a) => a.config.letter === letter)?.config.limits;
  return own ? { ...limits, lost: { leave: own.leaveMm, repair: own.repairMm } } : limits;
}

const SEVERITY: Readonly<Record<Conformity["code"], number>> = { act: 3, "cannot-tell": 2, watch: 1, sound: 0 };

interface Shown {
  readonly session: CircleSession;
  readonly plane: CirclePlane;
  readonly axes: readonly Axis[];
  readonly system: UnitSystem;
}

function rowOf(
  finding: CircleFinding,
  { session, plane, axes, system }: Shown,
): FindingRow & { readonly judged: Conformity } {
  const letters = plane.plan.letters as readonly [string, string];
  const { kind, letter } = finding;
  const judged = judgeCircle(kind, finding, limitsFor(session.limits.limits, letter, axes));
  const lead = leadOf(finding, session.fresh);
  const g = plane.analysis?.quantities.gBoth ?? null;
  const without = finding.without.gBothMm;
  const counts = g !== null && without !== null && g - without > 0.05 * g;
  return {
    id: letter === null ? kind : `${kind} ${letter}`,
    name: findingName(finding, letters),
    value: circleValue(kind, finding, system),
    sentence: findingSentence(finding, letters, { system, feedMmMin: plane.plan.feedMmMin }),
    judged,
    state: stateOfConformity(judged),
    word: conformityText(judged),
    left: counts
      ? `Without it G(b) would be ${left(without, finding.without.uMm, system)} instead of ${amount(g, system)}.`
      : "",
    lead,
    leadText: leadText(lead),
    together: finding.with.length
      ? `These readings cannot tell it from ${finding.with.map(partText).join(" and ")}: ${finding.with.includes("servo") ? "read the other way round too" : "read a full circle, or measure that by itself"}.`
      : "",
    parts: finding.parts,
    there: Math.abs(finding.value) > finding.u,
  };
}

const left = (mm: number, uMm: number | undefined, system: UnitSystem): string =>
  uMm === undefined ? amount(mm, system) : formatWithU(mm, uMm, { system });

const amount = (mm: number, system: UnitSystem): string => {
  const unit = system === "metric" ? "um" : "tenth";
  return `${fromMm(mm, unit).toFixed(1)} ${system === "metric" ? "µm" : "tenths"}`;
};

function partText(part: string): string {
  if (part === "radius") return "the radius";
  if (part === "servo") return "servos that follow unlike";
  if (part.startsWith("centre")) return "where the centre stands";
  return part.replace(/-(\d)$/, " of axis $1").replace("-", " ");
}

/** What the plane’s numbers say. */
export function planeView(shown: Shown): PlaneView | null {
  const { plane, session, system, axes } = shown;
  const { analysis } = plane;
  if (!analysis) return null;
  const rows = analysis.findings.map((f) => rowOf(f, shown));
  // What is not known to be there at all is no finding, however wide its ± reaches.
  const found = (row: { readonly judged: Conformity; readonly there: boolean }): boolean =>
    row.judged.code !== "sound" && row.there;
  const loud = rows.filter(found);
  loud.sort((a, b) => SEVERITY[b.judged.code] - SEVERITY[a.judged.code]);
  const tremble = ([0, 1] as const).map((i) => {
    const letter = plane.plan.letters[i];
    const value = { value: analysis.tremble.rmsMm[i], u: analysis.tremble.uMm[i] };
    const judged = judgeCircle("tremble", value, limitsFor(session.limits.limits, letter, axes));
    return {
      letter,
      judged,
      text:
        value.value <= Math.max(value.u, session.bar.uMm)
          ? `${letter} is steady: it trembles by no more than the bar itself.`
          : `${letter} trembles by ${formatWithU(value.value, value.u, { system })}, root mean square.`,
      asks: judged.code !== "sound",
      state: stateOfConformity(judged),
      word: conformityText(judged),
    };
  });
  const shaky = tremble.filter((t) => t.judged.code === "act" || t.judged.code === "watch");
  const whole = wholeOf(analysis, session.limits.limits);
  const worst = [...loud.map((r) => r.judged), ...tremble.map((t) => t.judged), ...whole].sort(
    (a, b) => SEVERITY[b.code] - SEVERITY[a.code],
  )[0] as Conformity | undefined;
  const { most } = analysis.tremble;
  return {
    letters: plane.plan.letters.join(""),
    headline: headlineOf(
      loud,
      shaky,
      whole.some((w) => w.code !== "sound"),
    ),
    state: worst ? stateOfConformity(worst) : "sound",
    word: worst ? conformityText(worst) : "sound",
    rows: loud,
    quiet: rows.filter((r) => !found(r)),
    ...isoOf(analysis.quantities, { u: analysis.quantitiesU, session, system }),
    tremble,
    lines: analysis.tremble.lines.map((l) => trembleText(l, system)),
    most:
      most && shaky.length
        ? `Most of it from ${most.fromDeg}° to ${most.fromDeg + 45}°, ${roundText(most.direction)}.`
        : "",
    doubts: analysis.doubts.map(doubtText),
  };
}

/** The circle as a whole, by what the standard names. */
function wholeOf({ quantities, quantitiesU: u }: CircleAnalysis, limits: CircleLimits): readonly Conformity[] {
  const { gBoth, h } = quantities;
  return [
    ...(gBoth === null ? [] : [judgeCircle("gBoth", { value: gBoth, u }, limits)]),
    ...(h === null ? [] : [judgeCircle("h", { value: h.mm, u }, limits)]),
  ];
}

function headlineOf(
  loud: readonly FindingRow[],
  shaky: readonly { readonly letter: string }[],
  wholeOver: boolean,
): string {
  const trembles = shaky.length
    ? `${shaky.map((s) => s.letter).join(" and ")} ${shaky.length === 1 ? "trembles" : "tremble"}`
    : "";
  if (loud.length === 0)
    return wholeOver
      ? `${trembles || "No part by itself is over its limit"}; the circle as a whole is over its own.`
      : trembles
        ? `${trembles}; all else is within its limits.`
        : "Everything is within its limits.";
  return `${[...loud.slice(0, 2).map((r) => r.name), ...(trembles ? [trembles] : [])].join("; ")}.`;
}

function isoOf(
  q: CircleQuantities,
  { u, session, system }: { readonly u: number; readonly session: CircleSession; readonly system: UnitSystem },
): Pick<PlaneView, "iso" | "isoNote"> {
  const { limits } = session.limits;
  const value = (mm: number): string => formatWithU(mm, u, { system });
  const judged = (what: "gBoth" | "h", mm: number): string =>
    conformityText(judgeCircle(what, { value: mm, u }, limits));
  const iso = [
    ...q.g.map((g) => ({
      symbol: `G ${g.direction === 1 ? "+" : "−"}`,
      name: `Circular deviation, ${roundText(g.direction)}`,
      value: value(g.mm),
      word: "",
    })),
    ...(q.gBoth === null
      ? []
      : [
          {
            symbol: "G(b)",
            name: LIMITED_TEXT.gBoth.replace(/, G\(b\)$/, ""),
            value: value(q.gBoth),
            word: judged("gBoth", q.gBoth),
          },
        ]),
    ...(q.h === null
      ? []
      : [
          {
            symbol: "H",
            name: `Circular hysteresis, at ${Math.round((q.h.at * 180) / Math.PI)}°`,
            value: value(q.h.mm),
            word: judged("h", q.h.mm),
          },
        ]),
    ...(q.f === null
      ? []
      : [
          { symbol: "F max", name: "Radial deviation, most", value: value(q.f.most), word: "" },
          { symbol: "F min", name: "Radial deviation, least", value: value(q.f.least), word: "" },
        ]),
    ...(q.d === null
      ? []
      : [{ symbol: "D", name: "Mean bidirectional radial deviation", value: value(q.d), word: "" }]),
  ];
  const isoNote =
    q.d === null
      ? session.bar.calibrated
        ? "Least-squares rings. No F and no D: they want full circles, D both ways round."
        : "Least-squares rings. No F and no D: the bar was not soaked to the room and set on its master."
      : "Least-squares rings.";
  return { iso, isoNote };
}

/** Parts that are worth comparing from plane to plane: ripple and bow hang on where the axis works. */
const COMPARED: readonly CircleKind[] = ["lost", "spike", "mismatch", "servo"];

/** What planes say together: where they do not agree by itself, all that agrees in one sentence. */
export function jointLines(session: CircleSession): readonly { readonly text: string; readonly agrees: boolean }[] {
  const tests = (session.joint?.tests ?? []).filter((t) => COMPARED.includes(t.kind));
  const apart = tests.filter((t) => !t.agrees).map((t) => ({ text: agreementText(t), agrees: false }));
  const letters = [...new Set(tests.flatMap((t) => (t.agrees && t.letter ? [t.letter] : [])))].sort();
  const CLOSES = { mismatch: "scales", servo: "servos" } as const;
  const closed = tests.flatMap((t) =>
    t.agrees && t.letter === null && (t.kind === "mismatch" || t.kind === "servo") ? [CLOSES[t.kind]] : [],
  );
  const same = letters.length ? `The planes say the same of ${letters.join(", ")}` : "";
  const agreed = [same, closed.length ? `${closed.join(" and ")} close over all three` : ""].filter(Boolean).join("; ");
  return agreed ? [...apart, { text: `${agreed}.`, agrees: true }] : apart;
}

/** A way round as a line: which, from where, and what was wrong with it. */
export function passRows({ passes }: CirclePlane): readonly {
  readonly id: number;
  readonly text: string;
  readonly troubles: readonly string[];
  readonly used: boolean;
}[] {
  const FROM = { bar: "read by the bar", import: "from a file", typed: "typed" } as const;
  return passes.map((p) => ({
    id: p.id,
    used: p.used,
    text: `${cap(roundText(p.direction))}, ${FROM[p.source]}, ${p.readings} readings; ${momentText(p.at)}, ${p.by}${p.used ? "" : `. Not used: ${p.reason}`}`,
    troubles: p.troubles.map(troubleText),
  }));
}

const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** What is to be seen to before the program is let run (common practice, no source). */
export function circleChecks({ plan }: Pick<CirclePlane, "plan">, system: UnitSystem): readonly string[] {
  const [a, b] = plan.letters;
  const size = (mm: number): string => formatSize(mm, system);
  const upright = a === "Z" || b === "Z";
  return [
    "Spindle stopped, oriented and locked so that it cannot be started; tool, coolant and air off.",
    `The centre seat stands fast at ${a} ${size(plan.centreMm[0])}, ${b} ${size(plan.centreMm[1])}; both seats and both balls are wiped clean.`,
    `Nothing stands within ${size(plan.radiusMm + plan.leadMm)} of that centre, the spindle nose and what it carries counted.${upright ? " Look at column, table and head too: this circle stands upright." : ""}`,
    "Feed and rapid override at 100 %, no mirror, no rotation, no scaling, no tool radius.",
    "First pass without the bar, slowly, a hand on the stop.",
    "The bar falls off by itself if the machine goes wrong: nobody holds it or reaches after it.",
    "It is set on and taken off only while the program waits at its stop, and everybody’s hands are out before it goes on.",
  ];
}
