import {
  crestReadings,
  decimalsFor,
  formatLimit,
  formatLoss,
  formatNumber,
  formatPosition,
  formatQuantity,
  signedQuantity,
  formatSize,
  formatWithU,
  SWING_LIMIT_MM,
  gibChoice,
  handTestAnswers,
  handTestGrades,
  handTestOpen,
  handTestQuantity,
  handTestSteps,
  travelPerTurnMm,
  type AxisConfig,
  type CrestAlignment,
  type FindingId,
  USUAL_GIB_THREAD,
  type GibThread,
  type HandTestPlan,
  type HandTestResult,
  type HandTestStep,
  type TestId,
  type TramSlope,
  type UnitSystem,
} from "@iron/core";
import type { ResultData, HandTest } from "@iron/contract";

/** The last reading of each step; null where there is none, or it was taken back. */
export function handTestValues(handTest: HandTest): readonly (number | null)[] {
  const values: (number | null)[] = handTestSteps(handTest.plan).map(() => null);
  for (const point of handTest.points) values[point.step] = point.value;
  return values;
}

/** The first step without a reading. */
export function nextHandTestStep(handTest: HandTest): HandTestStep | null {
  return handTestOpen(handTest.plan, handTestValues(handTest)).at(0) ?? null;
}

export interface HandTestRow {
  readonly step: number;
  readonly what: string;
  readonly value: string;
  /** Not to be read any more: other readings have made it needless. */
  readonly needless: boolean;
  readonly now: boolean;
}

function placeText(plan: HandTestPlan, step: HandTestStep, system: UnitSystem): string {
  switch (plan.kind) {
    case "crest-run":
      return `${step.group}, ${formatPosition(step.at, { system })}`;
    case "gib-curve":
      return `${step.group}, ${formatQuantity("turns", step.at, system)}`;
    case "tram":
      return step.group;
    case "home-repeat":
      return `homing ${step.at}`;
    case "rock":
    case "hand-push":
      return step.group === "ends" || step.group === "feel"
        ? step.group
        : `${step.group}, ${formatPosition(step.at, { system })}`;
    case "motor-alone":
      return step.group === "sound" ? `sound at ${step.at} %` : step.group;
    case "finger-feel":
      return `${step.group}, ${step.at}°`;
    case "wheel-turn":
    case "coast":
      return `${step.group} ${step.at}`;
  }
}

export function handTestRows(handTest: HandTest, system: UnitSystem): readonly HandTestRow[] {
  const values = handTestValues(handTest);
  const next = nextHandTestStep(handTest);
  const open = new Set(handTestOpen(handTest.plan, values).map((s) => s.index));
  return handTestSteps(handTest.plan).map((step) => ({
    step: step.index,
    what: placeText(handTest.plan, step, system),
    value: readText(handTest.plan, { step, value: values[step.index], system }),
    needless: values[step.index] === null && !open.has(step.index),
    now: step.index === next?.index,
  }));
}

function readText(
  plan: HandTestPlan,
  { step, value, system }: { readonly step: HandTestStep; readonly value: number | null; readonly system: UnitSystem },
): string {
  if (value === null) return "";
  const kind = handTestQuantity(plan, step.group);
  return kind === null
    ? (handTestGrades(plan, step.group)[value] ?? "?")
    : (kind === "deviation" && plan.kind !== "gib-curve" ? signedQuantity : formatQuantity)(kind, value, system);
}

/** What the readings say, in sentences; the first is the verdict. */
export function handTestSays(
  result: HandTestResult,
  {
    config,
    system,
    thread = USUAL_GIB_THREAD,
  }: { readonly config: AxisConfig; readonly system: UnitSystem; readonly thread?: GibThread },
): readonly string[] {
  const dev = (mm: number, signed = false): string =>
    (signed ? signedQuantity : formatQuantity)("deviation", mm, system);
  switch (result.kind) {
    case "crest-run":
      return crestText(result.alignment, system);
    case "gib-curve":
      return gibChoice(result.gib, { thread, system }).says;
    case "tram":
      return [TRAM_SAYS[result.tram.code], ...result.tram.slopes.map((s) => tramText(s, system))];
    case "home-repeat": {
      const { home } = result;
      const turn = formatSize(travelPerTurnMm(config), system);
      return [
        home.jumps > 0
          ? `Home jumps by ${home.jumps === 1 ? "a whole turn" : `${home.jumps} whole turns`} (${turn} each): the marker lies too near the switch. Shift the switch by about half a turn, isolated; home may then lie a turn away, so set the home offset anew and check a known place before work.`
          : "Home does not jump.",
        `It repeats within ${dev(home.rangeMm)} (four deviations ${dev(home.repeatMm)}).`,
      ];
    }
    default:
      return [result.hand.headline, ...result.hand.remarks];
  }
}

/** A slope with its uncertainty, in the reader’s units. */
export function slopeText(mmPerM: number, expanded: number, system: UnitSystem): string {
  return system === "metric"
    ? `${slopeFigures(mmPerM, expanded)} mm per metre`
    : `${slopeFigures(mmPerM * 0.012, expanded * 0.012)} in per foot`;
}

/** Both to two digits of U, so that ± is never zero. */
function slopeFigures(value: number, expanded: number): string {
  const decimals = decimalsFor(expanded);
  return `${formatNumber(value, decimals)} ± ${formatNumber(expanded, decimals)}`;
}

const TRAM_SAYS: Record<TramSlope["code"], string> = {
  square: "Square within 0.050 mm over 300 mm (0.001 in over 6 in).",
  out: "Out of square: more than 0.050 mm over 300 mm (0.001 in over 6 in).",
  "cannot-tell":
    "Cannot tell: 0.050 mm over 300 mm (0.001 in over 6 in) lies inside the ±. A longer sweep or a finer indicator would tell.",
};

/** One slope over the span that was swept, and over the length that shops speak of. */
function tramText(s: TramSlope, system: UnitSystem): string {
  const over = system === "metric" ? 300 : 152.4;
  const size = formatLoss(Math.abs(s.slope) * over, system, s.expandedSlope * over);
  const U = formatLoss(s.expandedSlope * over, system, s.expandedSlope * over);
  const per = `${size} ± ${U} over ${system === "metric" ? "300 mm" : "6 in"}`;
  return s.nearer === "neither"
    ? `${s.direction}: ${per}.`
    : `${s.direction}: the ${s.nearer} side stands nearer, ${per}.`;
}

/** What a crest run says, in sentences; the first is the verdict. */
export function crestText(alignment: CrestAlignment, system: UnitSystem): readonly string[] {
  const { planes, limitMm, turning } = alignment;
  const withU = (v: { value: number; expanded: number }): string =>
    Number.isFinite(v.expanded) ? formatWithU(v.value, v.expanded, { system }) : "cannot be told from so few places";
  const limit = formatLimit(limitMm, system);
  const over = planes.filter((p) => p.code === "over");
  const line = over.length
    ? `Out of line: ${over.map((p) => `${withU(p.overLength)} at ${p.name}`).join(", ")} over the screw; up to ${limit} is fine.`
    : planes.every((p) => p.code === "within")
      ? `In line within ${limit} over the screw.`
      : `Cannot tell whether it is in line: ${limit} over the screw lies inside the ±. More places, or a finer indicator, would tell.`;
  return [
    line,
    ...planes.map(
      (p) =>
        `${p.name}: ${slopeText(p.slopeMmPerM, p.expandedMmPerM, system)}; a bow that stands still ${withU(p.bow)}.`,
    ),
    turning === null
      ? "What turns with the screw cannot be told from these places: choose places that are not whole turns apart."
      : turnText(turning, system),
  ];
}

function turnText(turning: NonNullable<CrestAlignment["turning"]>, system: UnitSystem): string {
  const swing = formatWithU(turning.value, turning.expanded, { system });
  const limit = formatLimit(SWING_LIMIT_MM, system);
  if (turning.code === "within") return `Turning with the screw: ${swing}, no more than the ${limit} that is fine.`;
  if (turning.code === "cannot-tell")
    return `Turning with the screw: ${swing}; whether that is more than the ${limit} that is fine cannot be told.`;
  return turning.shape === "bent"
    ? `It swings with the screw by ${swing} to each side, most in the middle: the screw is bent.`
    : `It swings with the screw by ${swing} to each side, the same all along: its journal or coupling runs out.`;
}

/** A hand test as the result of a test at Locate; null for what is no test. */
export function handTestAsResult(
  handTest: HandTest,
  result: HandTestResult,
): {
  readonly test: TestId;
  readonly answers: Partial<Record<FindingId, boolean>>;
  readonly data: ResultData;
} | null {
  const said = handTestAnswers(result);
  if (!said) return null;
  if (result.kind !== "crest-run") return { ...said, data: { kind: "series", seriesId: handTest.id } };
  const planes = crestReadings(handTest.plan, handTestValues(handTest))
    .filter((p) => p.points.length >= 5)
    .map((p) => p.points.map(({ x, y }) => ({ positionMm: x, readingMm: y })));
  return { ...said, data: { kind: "crest-run", planes } };
}

/** Shims under one support, each in the reader’s unit. */
export function shimStack(pieces: readonly number[], system: UnitSystem): string {
  return pieces.map((p) => formatQuantity("length", p, system)).join(" + ") || "none";
}
