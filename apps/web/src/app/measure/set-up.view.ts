import {
  BoundError,
  checkPlan,
  directionText,
  formatSize,
  fromMm,
  isSplitTest,
  widthWarning,
  TIP_ANGLE_WARNING_DEG,
  tipAngleFactor,
  toMm,
  travelPerTurnMm,
  usualPlan,
  type AxisConfig,
  type TestKind,
  type TestPlan,
  type UnitSystem,
} from "@iron/core";
import { parseDecimal, type IndicatorRecord } from "@iron/contract";

/** The set-up as typed: text in the user’s units, so that nothing typed is ever lost or rounded. */
export interface SetUpDraft {
  readonly places: string;
  readonly runs: string;
  readonly overTravel: string;
  readonly tick: string;
  readonly ticksOut: string;
  /** Coupling slip: where along the hub the tip reads. */
  readonly hubRadius: string;
}

/** Places typed in inches are off by no more than this, mm. */
const INCH_SLACK_MM = 0.01;

function unitOf(system: UnitSystem): "mm" | "in" {
  return system === "metric" ? "mm" : "in";
}

function typed(mm: number, system: UnitSystem): string {
  return String(Number(fromMm(mm, unitOf(system)).toFixed(system === "metric" ? 4 : 5)));
}

/** The axis’ smallest step, or in inches the next round one: 0.0001 or 0.001 in. */
function usualTick(tickMm: number, system: UnitSystem): number {
  if (system === "metric") return tickMm;
  const inches = [0.0001, 0.001, 0.01].find((s) => s * 25.4 >= tickMm * 0.99);
  return inches === undefined ? tickMm : inches * 25.4;
}

/** What is usual for a test on an axis. */
export function usualSetUp(
  kind: TestKind,
  {
    axis,
    system,
    atMm = null,
  }: {
    readonly axis: AxisConfig;
    readonly system: UnitSystem;
    readonly atMm?: number | null;
  },
): SetUpDraft {
  const tickMm = usualTick(axis.tickMm, system);
  const { targetsMm, runs, overTravelMm, ticksOut } = usualPlan(kind, {
    axis,
    tickMm,
    // What is shown is rounded: the places keep clear of it.
    clearMm: system === "inch" ? INCH_SLACK_MM : 0,
    atMm,
  });
  return {
    places: targetsMm.map((p) => typed(p, system)).join("; "),
    runs: String(runs),
    // Rounded down in inches, so that it still fits between the places and the ends.
    overTravel:
      system === "metric" ? typed(overTravelMm, system) : String(Math.floor(fromMm(overTravelMm, "in") * 100) / 100),
    tick: typed(tickMm, system),
    ticksOut: String(ticksOut),
    // Nobody can guess it: it is measured at the hub, or the slip comes out wrong.
    hubRadius: "",
  };
}

/** The same draft in the other units; what is no number stays as typed. */
export function inOtherUnits(draft: SetUpDraft, from: UnitSystem, to: UnitSystem): SetUpDraft {
  if (from === to) return draft;
  const length = (text: string): string => {
    const value = parseDecimal(text);
    return value === undefined ? text : typed(toMm(value, unitOf(from)), to);
  };
  return {
    ...draft,
    places: draft.places
      .split(";")
      .map((p) => length(p.trim()))
      .join("; "),
    overTravel: to === "inch" ? floored(length(draft.overTravel)) : length(draft.overTravel),
    tick: length(draft.tick),
    hubRadius: length(draft.hubRadius),
  };
}

/** Rounded down, so that it still fits between the places and the ends of the travel. */
function floored(inches: string): string {
  const down = Math.floor(Number(inches) * 100) / 100;
  return down > 0 ? String(down) : inches;
}

export interface SetUpCheck {
  readonly plan: TestPlan | null;
  readonly errors: ReadonlyMap<keyof SetUpDraft, string>;
  readonly warnings: readonly string[];
}

const FIELD_OF: Record<string, keyof SetUpDraft> = {
  place: "places",
  "number of places": "places",
  runs: "runs",
  "over-travel": "overTravel",
  "jog step": "tick",
  "steps out": "ticksOut",
  "hub radius": "hubRadius",
};

/** Reads a draft: a plan when everything is right, else what is wrong at each field. */
export function checkSetUp(
  draft: SetUpDraft,
  {
    kind,
    axis,
    indicator,
    tipAngleDeg,
    system,
    markedTurns = false,
    lastMm = null,
  }: {
    readonly kind: TestKind;
    readonly axis: AxisConfig;
    readonly indicator: IndicatorRecord | null;
    readonly tipAngleDeg: number;
    readonly system: UnitSystem;
    /** End float without a ball: whole turns to a mark. */
    readonly markedTurns?: boolean;
    /** Where the axis stood last, mm: which limit is the nearer one. */
    readonly lastMm?: number | null;
  },
): SetUpCheck {
  const errors = new Map<keyof SetUpDraft, string>();
  const read = readerOf(draft, system, errors);
  const targetsMm = read.places();
  const travelling =
    indicator !== null &&
    targetsMm.length > 1 &&
    indicator.rangeMm / 2 >= targetsMm[targetsMm.length - 1] - targetsMm[0];
  const overTravel = read.length("overTravel");
  const plan: TestPlan = {
    kind,
    targetsMm,
    runs: read.number("runs"),
    overTravelMm: markedTurns ? wholeTurns(overTravel, travelPerTurnMm(axis)) : overTravel,
    tickMm: kind === "tick-count" || kind === "out-and-back" ? read.length("tick") : axis.tickMm,
    ticksOut: kind === "out-and-back" ? read.number("ticksOut") : 50,
    keepsZero: travelling,
    ...(markedTurns ? { markedTurns } : {}),
    ...(kind === "tick-count" ? { countsStill: true } : {}),
    ...(kind === "coupling-slip"
      ? { circumference: { radiusMm: read.length("hubRadius"), perTurnMm: travelPerTurnMm(axis) } }
      : {}),
  };
  if (targetsMm.length === 0) errors.set("places", "Name the place, or places with semicolons between.");
  if (errors.size === 0) tryPlan(plan, { axis, system, errors });
  const valid = errors.size === 0;
  const warned = { system, lastMm, valid };
  return {
    plan: valid ? plan : null,
    errors,
    warnings: Number.isNaN(plan.tickMm * plan.runs) ? [] : warningsFor(plan, { tipAngleDeg, axis, indicator, warned }),
  };
}

/** Reads the typed fields; what cannot be read is NaN, and said at its field. */
function readerOf(draft: SetUpDraft, system: UnitSystem, errors: Map<keyof SetUpDraft, string>) {
  const number = (field: keyof SetUpDraft): number => {
    const text = draft[field].trim();
    const value = parseDecimal(text);
    if (value === undefined)
      errors.set(field, text === "" ? "A number is missing here." : `“${text}” is not a number.`);
    return value ?? NaN;
  };
  const length = (field: keyof SetUpDraft): number => {
    const value = number(field);
    return Number.isNaN(value) ? NaN : round(toMm(value, unitOf(system)));
  };
  const places = (): number[] =>
    draft.places
      .trim()
      .split(/[;\s]+/)
      .filter(Boolean)
      .map((text) => {
        const value = parseDecimal(text);
        if (value === undefined) errors.set("places", `“${text}” is not a number. Put a semicolon between places.`);
        return value === undefined ? NaN : round(toMm(value, unitOf(system)));
      });
  return { number, length, places };
}

/** What the axis will not have of a plan is said at the field it comes from. */
function tryPlan(
  plan: TestPlan,
  {
    axis,
    system,
    errors,
  }: { readonly axis: AxisConfig; readonly system: UnitSystem; readonly errors: Map<keyof SetUpDraft, string> },
): void {
  try {
    checkPlan(plan, axis.travelMm);
  } catch (error) {
    if (!(error instanceof BoundError)) throw error;
    const inUnits = system === "inch" ? ` (${formatSize(error.value, "inch")})` : "";
    errors.set(
      FIELD_OF[error.argument] ?? "places",
      `${capital(error.argument)} ${error.value}${inUnits} cannot be: it must be ${error.bound}.`,
    );
  }
}

interface Warned {
  readonly system: UnitSystem;
  readonly lastMm: number | null;
  /** Nothing is wrong or missing: only then is it known how well it will be known. */
  readonly valid: boolean;
}

function warningsFor(
  plan: TestPlan,
  {
    tipAngleDeg,
    axis,
    indicator,
    warned: { system, lastMm, valid },
  }: {
    readonly tipAngleDeg: number;
    readonly axis: AxisConfig;
    readonly indicator: IndicatorRecord | null;
    readonly warned: Warned;
  },
): string[] {
  const warnings: string[] = [];
  if (indicator && valid) {
    const { resolutionMm } = indicator;
    const tip = tipAngleDeg >= 0 && tipAngleDeg < 80 ? tipAngleDeg : 0;
    const own = {
      ...(indicator.hysteresisMm ? { hysteresisMm: indicator.hysteresisMm } : {}),
      ...(indicator.calibrationMm ? { calibrationMm: indicator.calibrationMm } : {}),
    };
    const coarse = widthWarning(plan, {
      setup: { resolutionMm, tipAngleDeg: tip, sense: 1, ...own },
      axis,
      options: { system, lastMm },
    });
    if (coarse) warnings.push(coarse);
  }
  if (tipAngleDeg > TIP_ANGLE_WARNING_DEG && tipAngleDeg < 80) {
    const off = (tipAngleFactor(tipAngleDeg) - tipAngleFactor(Math.min(79, tipAngleDeg + 3))) * 100;
    warnings.push(
      `A tip at ${tipAngleDeg}° is steep: misjudging it by 3° is ${off.toFixed(1)} % of the reading. Bring it below ${TIP_ANGLE_WARNING_DEG}° if you can.`,
    );
  }
  if (plan.kind === "out-and-back" && plan.tickMm * plan.ticksOut < 2 * axis.limits.repairMm) {
    warnings.push(
      `${plan.ticksOut} steps out are ${formatSize(plan.tickMm * plan.ticksOut, system)}: go out at least ${formatSize(2 * axis.limits.repairMm, system)}, or a large loss swallows the whole way.`,
    );
  }
  if (plan.kind === "out-and-back" && indicator && plan.tickMm * plan.ticksOut > indicator.rangeMm / 2) {
    const out = formatSize(plan.tickMm * plan.ticksOut, system);
    warnings.push(
      `${plan.ticksOut} steps out are ${out}, more than the ${formatSize(indicator.rangeMm / 2, system)} this indicator follows either way. Put it where going ${directionText(axis, "+").jog} takes the block off the tip: the other way it is driven into it.`,
    );
  }
  if (plan.kind === "travel-profile" && !plan.keepsZero) {
    warnings.push(
      "This indicator does not reach over all places: it is set up and zeroed anew at each. The reversal value is as good; the standard’s E, M and A need one reference along the travel.",
    );
  }
  if (plan.runs < 3) warnings.push("With fewer than three runs nobody knows how well it repeats. Five are usual.");
  if (axis.feedback === "scale" && !isSplitTest(plan.kind))
    warnings.push("A scale reads the table here: slack shows as hunting at the reversal, not as lost position.");
  return warnings;
}

/** The stroke that ends at the mark again: at least one whole turn. */
function wholeTurns(mm: number, perTurnMm: number): number {
  return Math.max(1, Math.round(mm / perTurnMm)) * perTurnMm;
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function round(mm: number): number {
  return Math.round(mm * 1e6) / 1e6;
}
